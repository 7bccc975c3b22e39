import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { joinTraces, type JoinPart } from './join.js';
import type { Samples } from './samples.js';

const N = 400;
const whole: Samples = {
  t: Float64Array.from({ length: N }, (_, i) => 1000 + i / 4),
  p: Float64Array.from({ length: N }, (_, i) => 3e5 + 1e4 * Math.sin(i / 17)),
  states: { contact: Float64Array.from({ length: N }, (_, i) => Number(i % 40 < 20)) },
};
const part = (from: number, to: number, over: Partial<Samples> = {}): Samples => ({
  t: whole.t.slice(from, to),
  p: whole.p.slice(from, to),
  states: { contact: whole.states['contact']?.slice(from, to) ?? new Float64Array() },
  ...over,
});
const named = (...parts: readonly Samples[]): readonly JoinPart[] =>
  parts.map((samples, i) => ({ name: `f${i}`, samples }));
const code = (parts: readonly JoinPart[]): string => {
  const joined = joinTraces(parts);
  return joined.ok ? 'joined' : joined.refusal.code;
};

describe('several files of one trace', () => {
  it('are the trace that they were cut from, however they overlap and whatever order they come in', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 1, max: N - 1 }), { minLength: 1, maxLength: 6 }),
        fc.integer({ min: 0, max: 30 }),
        fc.infiniteStream(fc.nat()),
        (cuts, overlap, order) => {
          const at = [0, ...cuts.sort((a, b) => a - b), N];
          const parts = at
            .slice(1)
            .map((to, i) => part(Math.max(at[i - 1] ?? 0, (at[i] ?? 0) - (i === 0 ? 0 : overlap)), to));
          const twice = parts.reduce((n, p) => n + p.t.length, 0) - N;
          const mixed = named(...parts)
            .map((p) => [order.next().value, p] as const)
            .sort((a, b) => a[0] - b[0])
            .map(([, p]) => p);
          const joined = joinTraces(mixed);
          if (!joined.ok) throw new Error(joined.refusal.message);
          expect(joined.value.samples).toEqual(whole);
          expect(joined.value.twice).toBe(twice);
          expect(joined.value.order).toEqual(parts.map((_, i) => `f${i}`));
        },
      ),
    );
  });

  it('that say different things of one time are none', () => {
    const other = part(90, 200, { p: whole.p.slice(90, 200).map((p) => p + 1) });
    expect(code(named(part(0, 100), other))).toBe('times-overlap');
    // Between the times of the other: another logger, or another clock.
    expect(code(named(part(0, 100), part(50, 150, { t: whole.t.slice(50, 150).map((t) => t + 0.1) })))).toBe(
      'times-overlap',
    );
    const again = joinTraces(named(part(0, 100), part(0, 100)));
    expect(again.ok && [again.value.samples.t.length, again.value.twice]).toEqual([100, 100]);
    // One within the other, and not the same beyond it.
    expect(code(named(part(0, 300), part(100, 200)))).toBe('joined');
  });

  it('stand within a month, and hold something', () => {
    const later = part(0, 50, { t: whole.t.slice(0, 50).map((t) => t + 40 * 86_400) });
    expect(code(named(part(0, 50), later))).toBe('times-apart');
    const nothing = part(0, 0);
    expect(code(named(nothing, nothing))).toBe('trace-empty');
    expect(code([])).toBe('trace-empty');
    expect(code(named(nothing, part(0, 9)))).toBe('joined');
  });

  it('keep the channels that only some of them have; where there was none nothing is said', () => {
    const joined = joinTraces(named(part(0, 100), part(100, 200, { states: {} })));
    if (!joined.ok) throw new Error(joined.refusal.message);
    const contact = joined.value.samples.states['contact'] ?? new Float64Array();
    expect(contact[30]).toBe(0);
    expect(contact.slice(100).every(Number.isNaN)).toBe(true);
  });
});

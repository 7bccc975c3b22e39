import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { apart, domainOf, makeScale, ticksOf } from './scale.js';

describe('the shared scale', () => {
  it('maps there and back, high pressure at the top', () => {
    const s = makeScale(20, 80, 10, 410);
    expect(s.y(80)).toBe(10);
    expect(s.y(20)).toBe(410);
    expect(s.value(s.y(47.5))).toBeCloseTo(47.5, 9);
  });

  it('numbers round values only', () => {
    const ticks = ticksOf(makeScale(12, 88, 0, 400), 1);
    expect(ticks.filter((t) => t.major).map((t) => t.text)).toEqual([
      '20',
      '30',
      '40',
      '50',
      '60',
      '70',
      '80',
    ]);
    expect(ticks.length).toBeGreaterThan(20);
  });

  it('holds everything that stands on it', () => {
    const d = domainOf([{ part: 'zone', lower: 80, upper: Infinity, title: 'Relief' }], [36], 1);
    expect(d.lower).toBeLessThan(36);
    expect(d.upper).toBeGreaterThan(80);
  });

  it('reaches to the nearest of what is forbidden above, and not to what lies behind it', () => {
    const zone = (lower: number) => ({ part: 'zone', lower, upper: Infinity, title: '' }) as const;
    const d = domainOf([zone(125), zone(70)], [47], 1);
    expect(d.upper).toBeGreaterThan(70);
    expect(d.upper).toBeLessThan(125);
  });
});

describe('labels', () => {
  it('stay where they are when nothing is in the way, and share what room there is', () => {
    expect(apart([100, 200], 16, 0, 400)).toEqual([100, 200]);
    expect(apart([100, 100], 16, 0, 400)).toEqual([92, 108]);
    expect(apart([395, 399], 16, 0, 400)).toEqual([384, 400]);
  });

  it('keep the order of what they label, whatever places they want', () => {
    // The upper line wants its label below it and the lower one above it.
    expect(apart([115, 105], 16, 0, 400, [100, 110])).toEqual([102, 118]);
  });

  it('never cover each other and keep their order where there is room', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 20, max: 380 }), { minLength: 1, maxLength: 8 }), (wanted) => {
        const at = apart(wanted, 16, 0, 400);
        const sorted = wanted.map((y, i) => ({ y, at: at[i] ?? 0 })).sort((a, b) => a.y - b.y || a.at - b.at);
        for (let i = 1; i < sorted.length; i++)
          expect((sorted[i]?.at ?? 0) - (sorted[i - 1]?.at ?? 0)).toBeGreaterThanOrEqual(16 - 1e-9);
      }),
    );
  });
});

// How often what is said of an event holds the truth, on signals whose truth is known and that share nothing with the product: with
// draws that come and go, quantised, with spoiled samples, behind a slow gauge. A 95 % interval that held less would be a false promise.
import { describe, expect, it } from '@jest/globals';
import { toCanonical } from '../quantity/index.js';
import { seeded } from '../rig/index.js';
import { analyse, LONGEST_LAG_S } from './index.js';
import { withoutLag } from './lag.js';
import type { Samples } from './samples.js';
import { scoreOf } from './scoring.js';
import { SIGNALS, type Signal } from './testing.js';

const psi = (n: number): number => toCanonical(n, 'psi');
const SETS = [
  { rate_hz: 20, noise: psi(0.05), step: 0 },
  { rate_hz: 20, noise: psi(0.05), step: psi(0.1) },
  { rate_hz: 5, noise: psi(0.1), step: psi(0.1) },
  { rate_hz: 1, noise: psi(0.2), step: psi(0.5) },
  { rate_hz: 0.2, noise: psi(0.1), step: psi(0.1) },
] as const;
const SEEDS = 10;

interface Spoil {
  (signal: Signal, seed: number): Samples;
}
const as: Spoil = ({ samples }) => samples;
/** One sample in a hundred is something else. */
const spikes: Spoil = ({ samples }, seed) => {
  const random = seeded(seed * 77);
  const p = samples.p.map((x) =>
    random.next() < 0.01 ? x + (random.next() < 0.5 ? -1 : 1) * psi(5 + 20 * random.next()) : x,
  );
  return { ...samples, p };
};
/** As a gauge of that time constant shows it. */
const slow =
  (lag_s: number): Spoil =>
  ({ samples }) => {
    const { t } = samples;
    let q = samples.p[0] ?? 0;
    const p = samples.p.map((x, i) => {
      if (i > 0) q += (x - q) * (1 - Math.exp(((t[i - 1] ?? 0) - (t[i] ?? 0)) / lag_s));
      return q;
    });
    return { ...samples, p };
  };

function scores(kind: string, spoil: Spoil, sets: readonly (typeof SETS)[number][], lag_s = 0) {
  let [truth, found, matched, covered] = [0, 0, 0, 0];
  const errors: number[] = [];
  for (const set of sets)
    for (let seed = 1; seed <= SEEDS; seed++) {
      const scale = kind === 'unloader' ? 20 : 1;
      const own = { ...set, noise: set.noise * scale, step: set.step * scale };
      const signal = SIGNALS[kind]?.({
        ...own,
        seed,
        hammer: seed % 3 === 0,
        gaps: seed % 4 === 0 ? 0.05 : 0,
      });
      if (!signal) throw new Error(kind);
      const a = analyse(spoil(signal, seed), signal.kind, 101325, undefined, lag_s);
      if (!a.ok) throw new Error(a.refusal.message);
      const s = scoreOf(signal, a.value.events);
      [truth, found, matched, covered] = [
        truth + s.truth,
        found + s.found,
        matched + s.matched,
        covered + s.covered,
      ];
      errors.push(...s.errors);
    }
  const rms = Math.sqrt(errors.reduce((sum, e) => sum + e * e, 0) / errors.length);
  return { recall: matched / truth, precision: matched / found, held: covered / matched, rms };
}

describe('what is said of an event', () => {
  it.each(['cycles', 'levels', 'unloader', 'dips', 'relief'])('holds the truth of %s', (kind) => {
    const s = scores(kind, as, SETS);
    expect(s.held).toBeGreaterThan(0.93);
    expect(s.recall).toBeGreaterThan(0.94);
    expect(s.precision).toBeGreaterThan(0.94);
  });

  it.each(['cycles', 'levels', 'unloader'])(
    'holds it where one sample in a hundred of %s is spoiled',
    (kind) => {
      const s = scores(kind, spikes, SETS);
      expect(s.held).toBeGreaterThan(0.93);
      expect(s.recall).toBeGreaterThan(0.92);
    },
  );
});

describe('a slow gauge', () => {
  const fast = SETS.slice(0, 3);
  it('is seen through where its lag is said, and was far beside the truth before', () => {
    const blind = scores('cycles', slow(2), fast);
    const told = scores('cycles', slow(2), fast, 2);
    expect(told.held).toBeGreaterThan(0.93);
    expect(told.recall).toBeGreaterThan(0.95);
    expect(told.rms).toBeLessThan(psi(0.06));
    expect(blind.recall).toBeLessThan(0.5);
  });

  it('leaves a trace without lag as it was, and says where its events stood in it', () => {
    const signal = SIGNALS['cycles']?.({ ...SETS[0], seed: 5 });
    if (!signal) throw new Error('No signal.');
    const [plain, told] = [0, 1].map((lag) => {
      const samples = lag > 0 ? slow(lag)(signal, 5) : signal.samples;
      const a = analyse(samples, 'cycles', 101325, undefined, lag);
      if (!a.ok) throw new Error(a.refusal.message);
      return a.value;
    });
    expect(told?.samples).toBe(plain?.samples);
    expect(told?.events.length).toBe(plain?.events.length);
    told?.events.forEach((e, i) => {
      expect(e.t).toBeCloseTo(plain?.events[i]?.t ?? NaN, 0);
      expect(Math.abs((signal.samples.t[e.to] ?? NaN) - e.t)).toBeLessThan(60);
    });
  });

  it('is seen through as well after days of standing as at the start', () => {
    const signal = SIGNALS['cycles']?.({ ...SETS[0], seed: 5 });
    if (!signal) throw new Error('No signal.');
    const { t, p, states } = slow(2)(signal, 5);
    const freed = withoutLag({ t, p, states }, 2).samples.p;
    // One more sample, long before: whatever is summed over the whole trace loses the digits that a slope is made of.
    const later = {
      t: Float64Array.of(0, ...t.map((x) => x + 2 ** 24)),
      p: Float64Array.of(0, ...p),
      states,
    };
    const then = withoutLag(later, 2).samples.p;
    expect(then.length).toBe(freed.length + 1);
    // Rounding of the times moves a sample at the end of a window in or out of it. The first of the short trace has no sample before it, so its slope is another.
    const apart = Array.from(freed, (x, i) => Math.abs((then[i + 1] ?? NaN) - x)).slice(1);
    expect(Math.max(...apart)).toBeLessThan(psi(0.05));
  });

  it('longer than the trace can show is refused as that, with a bound that is taken', () => {
    const p = Float64Array.from({ length: 200 }, (_, i) => psi(40 + 10 * Math.sin(i / 9)));
    const samples = { t: Float64Array.from(p, (_, i) => i / 10), p, states: {} };
    const long = analyse(samples, 'cycles', 101325, undefined, LONGEST_LAG_S);
    expect(long).toMatchObject({
      ok: false,
      refusal: { code: 'lag-long', where: 'lag', bound: '0 to 2.5 s' },
    });
    expect(analyse(samples, 'cycles', 101325, undefined, 2.4).ok).toBe(true);
  });

  it.each([-1, NaN, LONGEST_LAG_S + 1])('of %s s is refused with its bound', (lag) => {
    const signal = SIGNALS['cycles']?.({ ...SETS[3], seed: 1 });
    if (!signal) throw new Error('No signal.');
    const a = analyse(signal.samples, 'cycles', 101325, undefined, lag);
    expect(a).toMatchObject({ ok: false, refusal: { code: 'lag', bound: '0 to 60 s' } });
  });
});

// What is no event must not become one: standing noise, a ramp, a spoiled sample, a figure that is no number.
import { describe, expect, it } from '@jest/globals';
import { expectOk } from '../result.js';
import { seeded } from '../rig/random.js';
import { analyse, type Analysis, type TraceKind } from './index.js';
import { SIGNALS } from './testing.js';

const PSI = 6894.757293168361;
const trace = (n: number, dt: number, at: (i: number) => number) => ({
  t: Float64Array.from({ length: n }, (_, i) => i * dt),
  p: Float64Array.from({ length: n }, (_, i) => at(i)),
  states: {},
});
const of = (samples: Parameters<typeof analyse>[0], kind: TraceKind): Analysis =>
  expectOk(analyse(samples, kind));
const figures = (a: Analysis): string[] => Object.keys(a.figures);

describe('a pressure that only stands there', () => {
  it.each([
    [72_000, 12, 0],
    [72_000, 6, 0.5],
    [300_000, 3, 0],
    [1_000_000, 1, 0],
  ])('%i noisy samples, %i times, read in steps of %f psi: no event, no figure', (n, times, step) => {
    for (let seed = 1; seed <= times; seed++) {
      const random = seeded(seed * 31);
      const noise = step > 0 ? 0.35 : 0.25;
      const shown = (x: number): number => (step > 0 ? Math.round(x / step) * step : x) * PSI;
      const samples = trace(n, 0.1, () => shown(50 + noise * random.normal()));
      for (const kind of ['cycles', 'levels', 'unloader'] as const) {
        const a = of(samples, kind);
        expect({ seed, kind, events: a.events.length, figures: figures(a) }).toEqual({
          seed,
          kind,
          events: 0,
          figures: [],
        });
      }
    }
  });
});

describe('a ramp', () => {
  it.each([0.002, 0.01, 0.1])('of %f psi a second has no cut-out, no levels and no droop', (rate) => {
    for (const noise of [0, 0.1]) {
      const random = seeded(5);
      const up = trace(6000, 0.1, (i) => (20 + rate * i * 0.1 + noise * random.normal()) * PSI);
      expect(figures(of(up, 'cycles'))).toEqual([]);
      expect(figures(of(up, 'levels'))).toEqual([]);
    }
  });

  it('that ends and stands was cut out where it ends', () => {
    const random = seeded(6);
    // Up from 30 to 60 psi in a minute, then it stands.
    const samples = trace(1400, 0.1, (i) => (Math.min(60, 30 + i * 0.05) + 0.1 * random.normal()) * PSI);
    const out = of(samples, 'cycles').figures['cutOut'];
    expect(Math.abs((out?.value ?? NaN) / PSI - 60)).toBeLessThan(0.3);
  });
});

describe('a gauge that was vented and is connected', () => {
  it('was cut out nowhere then; the rise after it was', () => {
    const random = seeded(9);
    // Vented for half a minute, connected at 45 psi, drawn down to 37, pumped up to 57, where it stands.
    const at = (s: number): number =>
      s < 30 ? 0 : s < 110 ? 45 - (8 * (s - 30)) / 80 : s < 230 ? 37 + (20 * (s - 110)) / 120 : 57;
    for (const end of [240, 260, 340]) {
      const samples = trace(end * 20, 0.05, (i) => (at(i / 20) + 0.05 * random.normal()) * PSI);
      const { events } = of(samples, 'cycles');
      const turns = events.map((e) => `${e.kind} ${(e.p / PSI).toFixed(0)}`);
      expect({ end, turns }).toEqual({ end, turns: ['cutIn 37', 'cutOut 57'] });
    }
  });
});

describe('spoiled samples', () => {
  it.each(['cycles', 'levels', 'unloader'] as const)('one in a hundred changes nothing of %s', (kind) => {
    const { samples } = SIGNALS[kind]?.({ seed: 4, rate_hz: 10, noise: 0.2 * PSI, step: 0 }) ?? {
      samples: trace(0, 1, () => 0),
    };
    const random = seeded(8);
    let spoiled = 0;
    const p = samples.p.map((x, i) => {
      // Apart from one another, so that each stands alone.
      if (i % 10 !== 5 || random.next() > 0.1) return x;
      spoiled++;
      return x + (random.next() < 0.5 ? -1 : 1) * 40 * PSI;
    });
    expect(spoiled).toBeGreaterThan(20);
    const [was, is] = [of(samples, kind), of({ ...samples, p }, kind)];
    const turns = (a: Analysis): number => a.events.filter((e) => e.kind !== 'spike').length;
    // One on a corner may hide it.
    expect(Math.abs(turns(is) - turns(was))).toBeLessThanOrEqual(Math.ceil(0.02 * turns(was)));
    for (const [id, f] of Object.entries(was.figures))
      if (f.unit === 'Pa') expect(Math.abs((is.figures[id]?.value ?? NaN) - f.value) / PSI).toBeLessThan(0.1);
    expect(is.events.filter((e) => e.kind === 'spike').length).toBeGreaterThan(0.8 * spoiled);
  });

  it('that are no numbers are left out', () => {
    const { samples } = SIGNALS['cycles']?.({ seed: 4, rate_hz: 10, noise: 0.2 * PSI, step: 0 }) ?? {
      samples: trace(0, 1, () => 0),
    };
    const p = samples.p.map((x, i) => (i % 97 === 3 ? NaN : i % 501 === 7 ? Infinity : x));
    const [was, is] = [of(samples, 'cycles'), of({ ...samples, p }, 'cycles')];
    for (const [id, f] of Object.entries(was.figures))
      expect(Math.abs((is.figures[id]?.value ?? NaN) - f.value)).toBeLessThan(
        Math.max(2 * f.u, 0.02 * f.value),
      );
  });
});

// What was made quicker says the same as the plain way of saying it, wherever it is asked.
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { analyse } from './analyse.js';
import { withoutLone } from './lone.js';
import { grainOf } from './noise.js';
import { expectOk } from '../result.js';
import { buildPyramid, growPyramid } from './pyramid.js';
import { indexAt } from './samples.js';
import { holeAt, holeFrom, Swings } from './swings.js';

describe('the place of a time', () => {
  it('is the same from near by, from far off and from nowhere', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 5 }), { minLength: 0, maxLength: 300 }),
        fc.integer({ min: -10, max: 800 }),
        fc.integer({ min: -5, max: 310 }),
        (steps, twice, near) => {
          // Times that stand still now and then, and gaps.
          let at = 0;
          const t = Float64Array.from(steps.map((d) => (at += d)));
          const time = twice / 2;
          const plain = t.findIndex((x) => x >= time);
          const first = plain < 0 ? t.length : plain;
          expect([indexAt(t, time), indexAt(t, time, near)]).toEqual([first, first]);
        },
      ),
    );
  });
});

/** A pressure that falls a little, with some noise. */
const standing = (n: number): { t: Float64Array; p: Float64Array } => {
  let noise = 7;
  const next = (): number => (noise = (noise * 16807) % 2147483647) / 2147483647 - 0.5;
  return {
    t: Float64Array.from({ length: n }, (_, i) => i / 10),
    p: Float64Array.from({ length: n }, (_, i) => 400_000 - 10 * i + 300 * next()),
  };
};

describe('a sample that stands alone', () => {
  it.each([40, 41, 42, 43])(
    'is found at every place of %d but the two at either end, and nothing else is',
    (n) => {
      const { t, p } = standing(n);
      const grain = grainOf(t, p);
      expect(withoutLone(t, p, grain).lone).toEqual([]);
      for (const by of [60_000, -60_000])
        for (let at = 0; at < n; at++) {
          const spoiled = Float64Array.from(p);
          spoiled[at] = (p[at] ?? 0) + by;
          const { lone, p: freed } = withoutLone(t, spoiled, grain);
          const inside = at >= 2 && at < n - 2;
          expect([at, lone.map((e) => e.from)]).toEqual([at, inside ? [at] : []]);
          if (inside) expect(Math.abs((freed[at] ?? 0) - (p[at] ?? 0))).toBeLessThan(1000);
          // What was read is untouched.
          expect(spoiled[at]).toBe((p[at] ?? 0) + by);
        }
    },
  );

  it('is no step, and no two together', () => {
    const { t, p } = standing(60);
    const grain = grainOf(t, p);
    for (let at = 4; at < 50; at++) {
      const step = Float64Array.from(p, (x, i) => (i >= at ? x + 60_000 : x));
      const two = Float64Array.from(p, (x, i) => (i === at || i === at + 1 ? x + 60_000 : x));
      for (const list of [step, two]) expect(withoutLone(t, list, grain).lone).toEqual([]);
    }
  });
});

describe('what is no number', () => {
  it('is left out wherever it stands, in times and in pressures', () => {
    for (const n of [40, 41, 42, 43])
      for (const at of [0, 1, 2, 3, 17, n - 4, n - 3, n - 2, n - 1])
        for (const which of ['t', 'p'] as const)
          for (const none of [NaN, Infinity, -Infinity]) {
            const samples = { ...standing(n), states: {} };
            samples[which][at] = none;
            const found = analyse(samples, 'levels');
            expect([n, at, which, found.ok && found.value.samples]).toEqual([n, at, which, n - 1]);
          }
  });
});

describe('turns', () => {
  it('are the same of samples pushed one by one and of stretches of any length', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -20, max: 20 }), { minLength: 1, maxLength: 400 }),
        fc.integer({ min: 0, max: 12 }),
        fc.array(fc.integer({ min: 1, max: 90 }), { minLength: 1, maxLength: 6 }),
        (levels, depth, lengths) => {
          const p = Float64Array.from(levels);
          const turnsOf = (walk: (swings: Swings) => void): unknown[] => {
            const turns: unknown[] = [];
            const swings = new Swings(depth, (e) => turns.push(e));
            walk(swings);
            swings.finish();
            return turns;
          };
          const stretches = turnsOf((swings) => {
            for (let i = 0, k = 0; i < p.length; k++) {
              const end = Math.min(p.length, i + (lengths[k % lengths.length] ?? 1));
              swings.pushAll(p, i, end);
              i = end;
            }
          });
          expect(stretches).toEqual(turnsOf((swings) => p.forEach((x, i) => swings.push(i, x))));
        },
      ),
    );
  });

  it('are found in whole numbers, however many: a valve that opens seventy thousand times', () => {
    const rise = [0, 1, 2, 3, 2, 1];
    const n = rise.length * 70_000;
    const t = Float64Array.from({ length: n }, (_, i) => i);
    const p = Float64Array.from(t, (i) => 3e5 + 2e4 * (rise[i % rise.length] ?? 0) + ((i * 7919) % 101));
    const { events, figures } = expectOk(analyse({ t, p, states: {} }, 'relief'));
    expect(events.filter((e) => e.kind === 'opening')).toHaveLength(69_999);
    expect(Math.abs((figures['opening']?.value ?? 0) - 360_050)).toBeLessThan(100);
    expect(figures['opening']?.n).toBe(69_999);
  });
});

describe('the hole that a sample falls into', () => {
  it('is the one that looking through all of them finds', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 9 }), fc.integer({ min: 0, max: 9 })), { maxLength: 40 }),
        fc.integer({ min: -3, max: 500 }),
        (steps, i) => {
          let at = 0;
          const holes = steps.map(([apart, long]) => {
            const from = at + apart;
            at = from + long;
            return [from, at] as const;
          });
          expect(holeFrom(holes, i)).toEqual(holes.find(([, b]) => b >= i));
          expect(holeAt(holes, i)).toEqual(holes.find(([a, b]) => a <= i && i <= b));
        },
      ),
    );
  });
});

describe('what the times of a trace are made of', () => {
  it('is every gap between them, wherever it falls, and whatever is no number is left out', () => {
    fc.assert(
      fc.property(
        fc.array(fc.boolean(), { minLength: 40, maxLength: 200 }),
        fc.array(fc.nat({ max: 199 }), { maxLength: 3 }),
        (wide, spoiled) => {
          let at = 0;
          const t = Float64Array.from(wide, (w, i) => (at += w && i % 7 === 0 ? 9 : 0.5));
          const p = Float64Array.from(t, (_, i) => 2e5 + (i % 5) * 90);
          const gapsOf = (times: readonly number[]) =>
            times.flatMap((b, i) =>
              i > 0 && b - (times[i - 1] ?? b) > 3 ? [{ from: times[i - 1], to: b }] : [],
            );
          expect(expectOk(analyse({ t, p, states: {} }, 'cycles')).gaps).toEqual(gapsOf([...t]));
          const holed = t.map((x, i) => (spoiled.includes(i) ? NaN : x));
          const kept = [...holed].filter((x) => !Number.isNaN(x));
          const { samples, gaps } = expectOk(analyse({ t: holed, p, states: {} }, 'cycles'));
          expect([samples, gaps]).toEqual([kept.length, gapsOf(kept)]);
        },
      ),
    );
  });
});

describe('whether all samples are numbers', () => {
  it('is known of a pyramid however it grew', () => {
    const sample = fc.oneof(fc.integer({ min: -9, max: 9 }), fc.constantFrom(NaN, Infinity));
    fc.assert(
      fc.property(
        fc.array(sample, { maxLength: 100 }),
        fc.array(fc.integer({ min: 0, max: 90 }), { maxLength: 3 }),
        (all, cuts) => {
          let grown = buildPyramid(new Float64Array());
          for (const end of [...cuts.sort((a, b) => a - b), all.length])
            grown = growPyramid(grown, Float64Array.from(all.slice(0, Math.max(end, grown.length))));
          const whole = buildPyramid(Float64Array.from(all));
          expect(whole.numbers).toBe(all.every(Number.isFinite));
          expect(grown).toEqual(whole);
        },
      ),
    );
  });
});

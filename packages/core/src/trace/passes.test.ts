// What was made quicker says the same as the plain way of saying it, wherever it is asked.
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { analyse } from './analyse.js';
import { withoutLone } from './lone.js';
import { grainOf } from './noise.js';
import { indexAt } from './samples.js';

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

import { describe, expect, it } from '@jest/globals';
import * as fc from 'fast-check';
import { daysAfter, foundOn, leaving, settingDrift, surely, type LifePoint } from './index.js';

const year = (n: number): string => daysAfter('2026-05-01', Math.round(n * 365.25));
/** Visits a year apart, each found where the one before left it and what a year did; every one set back to `to`. */
const visits = (did: readonly number[], to = 100, device = 'a'): readonly LifePoint[] =>
  [0, ...did].map((d, i) => ({ day: year(i), device, found: to + d, left: to }));

describe('how a setting wanders', () => {
  it('is what each visit found less what the one before had left, by the years between', () => {
    const d = settingDrift(visits([2, 2, 2]));
    expect(d?.n).toBe(3);
    expect(d?.perYear).toBeCloseTo(2, 2);
    expect(d?.sd).toBeLessThan(0.02);
    expect(d?.from).toEqual({ day: year(3), value: 100 });
    // Two years between visits do twice as much.
    const long: readonly LifePoint[] = [
      { day: year(0), left: 50 },
      { day: year(2), found: 46, left: 50 },
      { day: year(3), found: 48, left: 50 },
    ];
    expect(settingDrift(long)?.perYear).toBeCloseTo(-2, 2);
  });

  it('goes on from what was found where nothing was moved', () => {
    const d = settingDrift([
      { day: year(0), found: 10 },
      { day: year(1), found: 11 },
      { day: year(2), found: 12 },
      { day: year(3), found: 13 },
    ]);
    expect(d?.perYear).toBeCloseTo(1, 3);
    expect(d?.from.value).toBe(13);
  });

  it('begins again with another device, and says nothing of what came before it', () => {
    const old = visits([5, 5, 5], 100, 'old');
    expect(settingDrift([...old, { day: year(4), device: 'new', found: 80, left: 100 }])).toBeUndefined();
    const d = settingDrift([
      ...old,
      { day: year(4), device: 'new', found: 80, left: 100 },
      { day: year(5), device: 'new', found: 99, left: 100 },
    ]);
    expect(d).toMatchObject({ n: 1 });
    expect(d?.perYear).toBeCloseTo(-1, 2);
  });

  it('is not told by two looks of one week, by one visit, or by none', () => {
    expect(settingDrift([])).toBeUndefined();
    expect(settingDrift([{ day: year(0), left: 1 }])).toBeUndefined();
    expect(
      settingDrift([
        { day: year(0), left: 1 },
        { day: daysAfter(year(0), 6), found: 9 },
      ]),
    ).toBeUndefined();
    expect(settingDrift([{ day: year(0) }, { day: year(1), found: 9 }])).toBeUndefined();
  });

  it('with one or two times between visits is a rate, and no promise', () => {
    for (const did of [[2], [2, 2.1]]) {
      const d = settingDrift(visits(did));
      expect(d && surely(d)).toBeUndefined();
      expect(d && foundOn(d, year(9)).half).toBeUndefined();
      expect(d && leaving(d, { lower: 90, upper: 101 })).toEqual({ sure: false });
    }
  });

  it('does not hang on the order in which visits come, nor on the unit', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: 3, maxLength: 8 }),
        fc.double({ min: 0.01, max: 1e4, noNaN: true }),
        (did, scale) => {
          const points = visits(did);
          const d = settingDrift(points);
          const turned = settingDrift([...points].reverse());
          expect(turned).toEqual(d);
          const scaled = settingDrift(
            points.map((p) => ({ ...p, found: (p.found ?? 0) * scale, left: (p.left ?? 0) * scale })),
          );
          expect(scaled?.perYear).toBeCloseTo((d?.perYear ?? 0) * scale, 3);
        },
      ),
    );
  });
});

describe('when it leaves its limits', () => {
  it('is where the line meets the limit that it goes towards, where the drift is sure', () => {
    const d = settingDrift(visits([1, 1.05, 0.95, 1]));
    const up = d && leaving(d, { lower: 97, upper: 103 });
    expect(up?.sure).toBe(true);
    expect(up?.day?.slice(0, 4)).toBe(year(7).slice(0, 4));
    expect((up?.notBefore ?? '') < (up?.day ?? '')).toBe(true);
    // Down is the other limit.
    const down = settingDrift(visits([-1, -1.05, -0.95, -1]));
    expect(down && leaving(down, { lower: 97, upper: 101 }).day?.slice(0, 4)).toBe(year(7).slice(0, 4));
    // An open side is never left.
    expect(down && leaving(down, { upper: 101 })).toEqual({ sure: true });
  });

  it('is nothing that scatter alone makes', () => {
    const d = settingDrift(visits([1, -1, 1.2, -0.9, 0.8, -1.1]));
    const said = d && leaving(d, { lower: 90, upper: 110 });
    expect(said?.sure).toBe(false);
    expect(said?.day).toBeUndefined();
  });

  it('is at once where it was left outside, and not within ten years where it hardly moves', () => {
    const out = settingDrift(visits([1, 1.1, 0.9], 100));
    expect(out && leaving(out, { lower: 80, upper: 99 }).notBefore).toBe(out?.from.day);
    const slow = settingDrift(visits([0.01, 0.011, 0.009]));
    expect(slow && leaving(slow, { lower: 90, upper: 110 })).toEqual({ sure: true });
  });

  it('agrees with where it will be found: inside until the day it is not before', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -2, max: 2, noNaN: true }), { minLength: 3, maxLength: 8 }),
        fc.double({ min: 1, max: 30, noNaN: true }),
        (did, width) => {
          const d = settingDrift(visits(did));
          if (!d) return;
          const { notBefore } = leaving(d, { lower: 100 - width, upper: 100 + width });
          if (notBefore === undefined || notBefore === d.from.day) return;
          const { value, half = 0 } = foundOn(d, daysAfter(notBefore, -3));
          expect(value + half).toBeLessThan(100 + width + 1e-6);
          expect(value - half).toBeGreaterThan(100 - width - 1e-6);
        },
      ),
    );
  });
});

import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { fromCanonical, toCanonical } from '../quantity/index.js';
import {
  columnOf,
  hysteresisOf,
  readingBudget,
  spanError,
  spanOf,
  spanPoints,
  suits,
  whatToBorrow,
  type Gauge,
  type Need,
} from './index.js';

const psi = (n: number): number => toCanonical(n, 'psi');
const GAUGE: Gauge = {
  id: 'g',
  label: 'T-1',
  kind: 'bourdon',
  unit: 'psi',
  lower: 0,
  upper: 100,
  division: 1,
  readable: 0.5,
  accuracy: { standard: 'B40.100', grade: 'B' },
};
const CHECKED: Gauge = {
  ...GAUGE,
  check: {
    day: '2030-02-03',
    points: [
      { at: psi(20), error: psi(0.4), u: psi(0.1) },
      { at: psi(60), error: psi(1.2), u: psi(0.2) },
      { at: psi(100), error: psi(1), u: psi(0.1) },
    ],
  },
};
const sure = { sd: 0, dof: 1000 } as const;
const zero = { offset: 0, then: 0, drift: 0, doubt: 0, fit: true, because: '' } as const;

describe('span correction', () => {
  it('is interpolated between its points and given no further', () => {
    expect((spanError(CHECKED, psi(40))?.error ?? 0) / psi(1)).toBeCloseTo(0.8, 9);
    expect(spanError(CHECKED, psi(20))?.error).toBeCloseTo(psi(0.4), 6);
    expect(spanError(CHECKED, psi(100))?.error).toBeCloseTo(psi(1), 6);
    expect(spanError(CHECKED, psi(19))).toBeUndefined();
    expect(spanError(CHECKED, psi(101))).toBeUndefined();
    expect(spanError(GAUGE, psi(40))).toBeUndefined();
  });

  it('of one point speaks for its neighbourhood only', () => {
    const one = {
      ...GAUGE,
      check: { day: '2030-02-03', points: [{ at: psi(70), error: psi(2), u: psi(1) }] },
    };
    expect(spanError(one, psi(79))?.error).toBe(psi(2));
    expect(spanError(one, psi(81))).toBeUndefined();
  });

  it('takes the place of the class limit in the budget, and is smaller', () => {
    const budget = (gauge: Gauge) => readingBudget({ gauge, zero, readings: [psi(40)], repeatability: sure });
    expect(budget(GAUGE).lines[0]?.name).toBe('accuracy');
    expect(budget(CHECKED).lines[0]?.name).toBe('span');
    expect(budget(CHECKED).U).toBeLessThan(budget(GAUGE).U / 2);
  });

  it('is surest at its points, and ages', () => {
    const u = (at: number, day?: string): number => (spanError(CHECKED, psi(at), day)?.u ?? NaN) / psi(1);
    expect(u(20)).toBeCloseTo(0.1, 9);
    expect(u(60)).toBeCloseTo(0.2, 9);
    // A quarter of the class limit of 2 psi times 0.8 of a gap, or what the points bend by: (1.2 − 0.4)/40 less (1 − 0.4)/80, over 40, times 20².
    const bends = Math.max(0.25 * 2 * 0.8, (Math.abs(0.6 / 80 - 0.8 / 40) / 40) * 400);
    expect(u(40)).toBeCloseTo(Math.hypot(0.15, bends / Math.sqrt(3)), 9);
    expect(u(60, '2030-02-03')).toBeCloseTo(0.2, 9);
    expect(u(60, '2032-02-03')).toBeCloseTo(Math.hypot(0.2, 0.4 / Math.sqrt(3)), 3);
  });

  it('lies between the errors of its neighbours everywhere', () => {
    fc.assert(
      fc.property(fc.double({ min: 20, max: 100, noNaN: true }), (p) => {
        const e = spanError(CHECKED, psi(p))?.error ?? NaN;
        return e >= psi(0.4) - 1e-6 && e <= psi(1.2) + 1e-6;
      }),
    );
  });
});

describe('points of a span check', () => {
  const found = [
    { at: psi(40), error: psi(0.2), U: psi(0.4), way: 'up' as const },
    { at: psi(80), error: psi(0.5), U: psi(0.4), way: 'up' as const },
    { at: psi(40), error: psi(0.8), U: psi(0.4), way: 'down' as const },
  ];
  it('means rising and falling, and counts half their gap as doubt', () => {
    const [low, high] = spanPoints(found);
    expect((low?.error ?? 0) / psi(1)).toBeCloseTo(0.5, 9);
    expect((low?.u ?? 0) / psi(1)).toBeCloseTo(Math.hypot(0.2, 0.3 / Math.sqrt(3)), 9);
    expect(high).toMatchObject({ at: psi(80), error: psi(0.5), u: psi(0.2) });
  });
  it('knows the hysteresis only where a point was read both ways', () => {
    expect((hysteresisOf(found) ?? 0) / psi(1)).toBeCloseTo(0.6, 9);
    expect(hysteresisOf(found.slice(0, 2))).toBeUndefined();
  });
});

describe('column and thermometer', () => {
  it('weighs a column at its declared temperature, and a conventional one as it is', () => {
    const tube: Gauge = { ...GAUGE, kind: 'u-tube', unit: 'inH2O', upper: 24, division: 0.1 };
    expect(columnOf(tube)).toBe(1);
    // ½ psi is 13.86 in on the 20 °C column and 13.84 on the conventional one.
    const at20 = columnOf({ ...tube, column_C: 20 });
    expect(fromCanonical(psi(0.5), 'inH2O') / at20).toBeCloseTo(13.86, 2);
    expect(fromCanonical(psi(0.5), 'inH2O')).toBeCloseTo(13.84, 2);
  });
  it('counts a thermometer’s steps as intervals, whatever its offset, and gives it no zero', () => {
    const t: Gauge = {
      ...GAUGE,
      kind: 'thermometer',
      unit: 'degF',
      lower: -40,
      upper: 220,
      division: 0.2,
      readable: 1,
    };
    expect(spanOf(t).readableStep).toBeCloseTo(0.2 / 1.8, 9);
    expect(spanOf(t).span).toBeCloseTo(260 / 1.8, 9);
    const b = readingBudget({ gauge: t, zero: undefined, readings: [295], repeatability: sure });
    expect(b.lines.map((l) => l.name)).not.toContain('zero');
    // Grade B: 2 % of 260 °F in the middle half.
    expect((b.lines[0]?.u ?? 0) * Math.sqrt(3)).toBeCloseTo((0.02 * 260) / 1.8, 6);
  });
});

describe('what to borrow', () => {
  const need = (target: number, half: number, worst: number, unit: string): Need => ({
    target: toCanonical(target, unit),
    lower: toCanonical(target - half, unit),
    upper: toCanonical(target + half, unit),
    worst: toCanonical(worst, unit),
    repeatability: sure,
  });
  it.each([
    [44, 1.5, 82, 'psi'],
    [3.4, 0.15, 14, 'inH2O'],
    [2.1, 0.1, 3, 'bar'],
    [1450, 50, 2200, 'psi'],
    [9.4, 0.5, 15, 'psi'],
  ])('can tell %d ± %d, worst %d %s', (target, half, worst, unit) => {
    const n = need(target, half, worst, unit);
    const b = whatToBorrow(n, unit);
    expect(b).toBeDefined();
    if (!b) return;
    // It is judged by the same rule as any gauge, and survives the worst.
    const judged = suits(b.gauge, n);
    expect(['good', 'usable']).toContain(judged.fitness);
    expect(b.gauge.upper).toBeGreaterThanOrEqual(worst);
    expect(b.text).toContain(unit);
  });
  it('takes the coarsest class that is good', () => {
    const wide = whatToBorrow(need(50, 12, 80, 'psi'), 'psi');
    const narrow = whatToBorrow(need(50, 0.8, 80, 'psi'), 'psi');
    expect(wide?.gauge.accuracy).toEqual({ standard: 'B40.100', grade: 'B' });
    expect(narrow?.gauge.accuracy).not.toEqual(wide?.gauge.accuracy);
  });
  it('says nothing where even the finest cannot tell', () => {
    expect(whatToBorrow(need(50, 0.001, 80, 'psi'), 'psi')).toBeUndefined();
  });
  it('never proposes a gauge that failed its check', () => {
    const failed: Gauge = { ...GAUGE, standing: { state: 'failed', day: '2030-01-01', because: 'sprung' } };
    expect(suits(failed, need(50, 10, 80, 'psi'))).toMatchObject({ fitness: 'cannot-tell' });
  });
});

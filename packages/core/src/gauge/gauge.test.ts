import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { toCanonical } from '../quantity/index.js';
import {
  combine,
  coverageFactor,
  errorLimit,
  parseAccuracyClass,
  pooledRepeatability,
  rank,
  readingBudget,
  suits,
  zeroState,
  type Gauge,
  type Need,
} from './index.js';

const psi = (n: number): number => toCanonical(n, 'psi');
const gaugeOf = (over: Partial<Gauge> = {}): Gauge => ({
  id: 'g',
  label: 'T-1',
  kind: 'bourdon',
  unit: 'psi',
  lower: 0,
  upper: 100,
  division: 1,
  readable: 0.5,
  accuracy: { standard: 'B40.100', grade: '2A' },
  ...over,
});

describe('accuracy classes', () => {
  it('follows B40.100: grade B is 2 % in the middle half and 3 % outside', () => {
    const b = { standard: 'B40.100', grade: 'B' } as const;
    expect([10, 50, 90].map((at) => errorLimit(b, at, 0, 100))).toEqual([3, 2, 3]);
  });

  it('reads the class as it stands on a dial', () => {
    expect(parseAccuracyClass('grade 2a')).toMatchObject({ value: { grade: '2A' } });
    expect(parseAccuracyClass('Kl. 1,6')).toMatchObject({ value: { class: 1.6 } });
    expect(parseAccuracyClass('7')).toMatchObject({ ok: false, refusal: { code: 'class-unknown' } });
  });
});

describe('zero', () => {
  const check = (before: number, after = before) => ({
    before: psi(before),
    after: psi(after),
    handling: before === after ? ('carried' as const) : ('adjusted' as const),
  });

  it('carries an offset and accepts it up to two divisions', () => {
    expect(zeroState(gaugeOf(), [check(-0.5)])).toMatchObject({ fit: true, offset: psi(-0.5) });
    expect(zeroState(gaugeOf(), [check(2.5)])).toMatchObject({ fit: false });
    expect(zeroState(gaugeOf(), [check(2.5, 0)])).toMatchObject({ fit: true, offset: 0 });
  });

  it('notices a zero that moved between checks', () => {
    const z = zeroState(gaugeOf(), [check(0), check(1.5)]);
    expect(z?.drift).toBeCloseTo(psi(1.5), 6);
    expect(zeroState(gaugeOf(), [check(0), check(3)])?.fit).toBe(false);
  });

  it('knows nothing before a check', () => {
    expect(zeroState(gaugeOf(), [])).toBeUndefined();
  });
});

describe('uncertainty budget', () => {
  it('adds the lines in squares and covers about 95 %', () => {
    const b = readingBudget({
      gauge: gaugeOf(),
      zero: { offset: 0, then: 0, drift: 0, doubt: 0, fit: true, because: '' },
      // Two that scatter as is usual: a variance of 0.09.
      readings: [psi(50 + 0.3 / Math.SQRT2), psi(50 - 0.3 / Math.SQRT2)],
      repeatability: { sd: psi(0.3), dof: 1000 },
    });
    // Worked by hand: accuracy 0.5/√3, resolution 0.25/√3, zero 0.25/√3, repeatability 0.3/√2 on 5 + 1 degrees of freedom.
    const u = Math.sqrt((0.25 + 0.0625 + 0.0625) / 3 + 0.09 / 2);
    expect(b.u / psi(1)).toBeCloseTo(u, 9);
    // Welch–Satterthwaite by hand: u⁴ over (0.045² / 6).
    expect(b.dof).toBeCloseTo(u ** 4 / (0.045 ** 2 / 6), 6);
    expect(b.lines.map((l) => l.name)).toEqual(['accuracy', 'resolution', 'zero', 'repeatability']);
  });

  it('does not believe two readings that agree by chance', () => {
    const pooled = pooledRepeatability([10, 10], { sd: 1, dof: 10 });
    expect(pooled.sd).toBeGreaterThan(0.9);
    expect(pooled.dof).toBe(6);
  });

  it('believes readings that scatter more than chance allows, and not what is usual', () => {
    // SD 2.83 over 1: F(1, 5) at 5 % is 6.61, and 8 is beyond it.
    const pooled = pooledRepeatability([8, 12], { sd: 1, dof: 20 });
    expect(pooled).toMatchObject({ contradicts: true, dof: 2 });
    expect(pooled.sd).toBeCloseTo(Math.sqrt((1 + 8) / 2), 9);
    // 6.125 is not.
    expect(pooledRepeatability([8.25, 11.75], { sd: 1, dof: 20 })).toMatchObject({
      contradicts: false,
      dof: 6,
    });
  });

  it('is in no limits with two readings at either end of them', () => {
    const b = readingBudget({
      gauge: gaugeOf(),
      zero: { offset: 0, then: 0, drift: 0, doubt: 0, fit: true, because: '' },
      readings: [psi(58.5), psi(61.5)],
      repeatability: { sd: psi(0.35), dof: 20 },
    });
    expect(b.U).toBeGreaterThan(psi(1.5));
  });

  it('takes the zero of a reading from the line between the checks before and after it', () => {
    const checks = [
      { before: 0, after: 0, handling: 'carried', at: 1000 },
      { before: 1.2, after: 1.2, handling: 'carried', at: 2000 },
    ] as const;
    const at = (after: number, t: number) =>
      zeroState(
        gaugeOf(),
        checks.map((c) => ({ ...c, before: psi(c.before), after: psi(c.after) })),
        { after, at: t },
      );
    expect((at(1, 1250)?.offset ?? 0) / psi(1)).toBeCloseTo(0.3, 9);
    expect(at(1, 1000)).toMatchObject({ offset: 0, doubt: 0 });
    expect((at(1, 1500)?.doubt ?? 0) / psi(1)).toBeCloseTo(0.6, 9);
    // After the last, and before the first, half of all that it moved.
    expect((at(2, 2500)?.offset ?? 0) / psi(1)).toBeCloseTo(1.2, 9);
    expect((at(0, 500)?.doubt ?? 0) / psi(1)).toBeCloseTo(0.6, 9);
    // A clock that was set back leaves the middle, never more than the ends.
    expect((at(1, 9000)?.offset ?? 0) / psi(1)).toBeCloseTo(1.2, 9);
    expect((at(1, NaN)?.offset ?? 0) / psi(1)).toBeCloseTo(0.6, 9);
  });

  it('widens when the zero moved during the job', () => {
    const base = { gauge: gaugeOf(), readings: [psi(50)], repeatability: { sd: psi(0.3), dof: 20 } };
    const still = readingBudget({
      ...base,
      zero: { offset: 0, then: 0, drift: 0, doubt: 0, fit: true, because: '' },
    });
    const moved = readingBudget({
      ...base,
      zero: { offset: 0, then: 0, drift: psi(1.5), doubt: psi(1.5), fit: true, because: '' },
    });
    const unchecked = readingBudget({ ...base, zero: undefined });
    expect(moved.U).toBeGreaterThan(still.U * 1.5);
    expect(unchecked.U).toBeGreaterThan(moved.U);
  });

  it('takes its coverage from t: two readings alone would need a factor of 13.97', () => {
    expect(coverageFactor(Infinity)).toBe(2);
    expect(coverageFactor(1)).toBeCloseTo(13.97, 2);
    expect(combine([{ name: 'accuracy', because: '', u: 1, dof: 10 }]).k).toBeCloseTo(2.28, 2);
  });

  it('never shrinks when a line grows', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 10, noNaN: true }),
        fc.double({ min: 0, max: 5, noNaN: true }),
        (u, more) => {
          const one = combine([{ name: 'accuracy', because: '', u, dof: Infinity }]);
          const two = combine([{ name: 'accuracy', because: '', u: u + more, dof: Infinity }]);
          expect(two.U).toBeGreaterThanOrEqual(one.U);
        },
      ),
    );
  });
});

describe('which gauge can tell', () => {
  const need: Need = {
    target: psi(43),
    lower: psi(41.5),
    upper: psi(44.5),
    worst: psi(90),
    repeatability: { sd: psi(0.35), dof: 20 },
    medium: 'water',
    cycles: 2,
  };

  it('says a coarse gauge cannot tell, and a short one would be over-ranged', () => {
    expect(suits(gaugeOf({ accuracy: { standard: 'B40.100', grade: 'C' } }), need).fitness).toBe(
      'cannot-tell',
    );
    expect(suits(gaugeOf({ upper: 60 }), need)).toMatchObject({ fitness: 'unsafe' });
    expect(suits(gaugeOf({ medium: 'air' }), need).fitness).toBe('cannot-tell');
  });

  it('ranks the better gauge first', () => {
    const fine = gaugeOf({ id: 'fine', accuracy: { standard: 'B40.100', grade: '4A' }, division: 0.2 });
    const ranked = rank(
      [gaugeOf({ id: 'coarse', accuracy: { standard: 'B40.100', grade: 'B' } }), fine],
      need,
    );
    expect(ranked.map((r) => r.gauge.id)).toEqual(['fine', 'coarse']);
  });
});

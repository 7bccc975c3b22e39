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
      zero: { offset: 0, drift: 0, fit: true, because: '' },
      readings: [psi(50), psi(50)],
      repeatability: { sd: psi(0.3), dof: 1000 },
    });
    // Worked by hand: accuracy 0.5/√3, resolution 0.25/√3, zero 0.25/√3, repeatability 0.3/√2 (less the agreement of the two).
    const u = Math.sqrt((0.25 + 0.0625 + 0.0625) / 3 + 0.09 / 2);
    expect(b.u / psi(1)).toBeCloseTo(u, 2);
    expect(b.k).toBeCloseTo(2, 2);
    expect(b.lines.map((l) => l.name)).toEqual(['accuracy', 'resolution', 'zero', 'repeatability']);
  });

  it('does not believe two readings that agree by chance', () => {
    const pooled = pooledRepeatability([10, 10], { sd: 1, dof: 10 });
    expect(pooled.sd).toBeGreaterThan(0.9);
    expect(pooled.dof).toBe(11);
  });

  it('widens when the zero moved during the job', () => {
    const base = { gauge: gaugeOf(), readings: [psi(50)], repeatability: { sd: psi(0.3), dof: 20 } };
    const still = readingBudget({ ...base, zero: { offset: 0, drift: 0, fit: true, because: '' } });
    const moved = readingBudget({ ...base, zero: { offset: 0, drift: psi(1.5), fit: true, because: '' } });
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

import { describe, expect, it } from '@jest/globals';
import { toCanonical } from '../quantity/index.js';
import { saturationPressure, saturationSlope } from '../reckon/index.js';
import { seeded } from '../rig/random.js';
import { expectOk } from '../result.js';
import { decide } from '../verdict/index.js';
import { upperTail } from '../advisor/index.js';
import { combine, linesOf, readingBudget, type Gauge } from './index.js';

const psi = (n: number): number => toCanonical(n, 'psi');
const DRAWS = 100_000;
const GAUGE: Gauge = {
  id: 'g',
  label: 'T-1',
  kind: 'bourdon',
  unit: 'psi',
  lower: 0,
  upper: 100,
  division: 2,
  readable: 0.5,
  accuracy: { standard: 'EN 837-1', class: 1.6 },
};

/** Mean and SD of a measurement simulated 10⁵ times (JCGM 101: propagation of distributions by Monte Carlo). */
function simulate(draw: (rectangular: (half: number) => number, normal: () => number) => number) {
  const random = seeded(20300102);
  const values = Float64Array.from({ length: DRAWS }, () =>
    draw(
      (half) => (2 * random.next() - 1) * half,
      () => random.normal(),
    ),
  );
  const mean = values.reduce((a, b) => a + b, 0) / DRAWS;
  return { mean, sd: Math.sqrt(values.reduce((a, b) => a + (b - mean) ** 2, 0) / (DRAWS - 1)) };
}

describe('propagation of uncertainty, against 10⁵ draws (JCGM 101)', () => {
  it('of a mean of three readings agrees within 1 %', () => {
    const sd = psi(0.4);
    const budget = readingBudget({
      gauge: GAUGE,
      zero: { offset: 0, then: 0, drift: psi(0.8), doubt: psi(0.8), fit: true, because: '' },
      readings: [psi(50), psi(50), psi(50)],
      repeatability: { sd, dof: 1e9 },
      caught: psi(0.2),
    });
    const simulated = simulate((rectangular, normal) => {
      const repeated = (normal() + normal() + normal()) / 3;
      const caught = (normal() + normal() + normal()) / 3;
      return (
        rectangular(psi(1.6)) +
        rectangular(psi(0.5)) +
        rectangular(psi(0.5)) +
        rectangular(psi(0.8)) +
        sd * repeated +
        psi(0.2) * caught
      );
    });
    expect(Math.abs(budget.u / simulated.sd - 1)).toBeLessThan(0.01);
  });

  it('of a difference of two readings with one gauge agrees within 1 %: its class and its zero fall out', () => {
    const one = readingBudget({
      gauge: GAUGE,
      zero: undefined,
      readings: [psi(50)],
      repeatability: { sd: psi(0.3), dof: 1e9 },
    });
    const budget = combine([...one.lines, ...linesOf(one, -1)]);
    const simulated = simulate((rectangular, normal) => {
      const [gauge, off] = [rectangular(psi(1.6)), rectangular(psi(4))];
      const reading = (): number => gauge + off + rectangular(psi(0.5)) + psi(0.3) * normal();
      return reading() - reading();
    });
    expect(Math.abs(budget.u / simulated.sd - 1)).toBeLessThan(0.01);
  });

  it('of a saturation pressure from a doubtful temperature agrees within 1 %, though it is not linear', () => {
    const T = 294.5;
    const half = 1.1;
    const u = (expectOk(saturationSlope('R410A', T)) * half) / Math.sqrt(3);
    const simulated = simulate(
      (rectangular) => expectOk(saturationPressure('R410A', T + rectangular(half))).bubble,
    );
    expect(Math.abs(u / simulated.sd - 1)).toBeLessThan(0.01);
    const centre = expectOk(saturationPressure('R410A', T)).bubble;
    expect(Math.abs(simulated.mean - centre) / centre).toBeLessThan(1e-3);
  });

  it('covers the truth 95 % of the time within one point', () => {
    const budget = readingBudget({
      gauge: GAUGE,
      zero: { offset: 0, then: 0, drift: 0, doubt: 0, fit: true, because: '' },
      readings: [psi(50)],
      repeatability: { sd: psi(0.9), dof: 1e9 },
    });
    let inside = 0;
    const random = seeded(7);
    const rectangular = (half: number): number => (2 * random.next() - 1) * half;
    for (let i = 0; i < DRAWS; i++) {
      const error =
        rectangular(psi(1.6)) + rectangular(psi(0.5)) + rectangular(psi(0.5)) + psi(0.9) * random.normal();
      if (Math.abs(error) <= budget.U) inside++;
    }
    expect(inside / DRAWS).toBeGreaterThan(0.945);
    expect(inside / DRAWS).toBeLessThan(0.975);
  });
});

describe('guard band', () => {
  // JCGM 106:2012, the Zener diode example of clause 7.3 (from memory): upper limit −5.40 V, measured −5.47 V, u = 0.05 V;
  // the probability of conformity is Φ(1.40) ≈ 0.92, too little for a guard band of one U.
  it('does not accept the diode of JCGM 106 that conforms with 92 %', () => {
    const [limit, y, u] = [-5.4, -5.47, 0.05];
    expect(1 - upperTail((limit - y) / u)).toBeCloseTo(0.92, 2);
    const say = (v: number): string => `${v.toFixed(2)} V`;
    expect(decide(y, 2 * u, { upper: limit }, 'guarded', say).word).toBe('near');
    expect(decide(y, 2 * u, { upper: limit }, 'simple', say)).toMatchObject({ word: 'in', cannotTell: true });
    // At the acceptance limit itself the probability is Φ(2).
    expect(decide(limit - 2 * u, 2 * u, { upper: limit }, 'guarded', say).word).toBe('in');
    expect(1 - upperTail(2)).toBeCloseTo(0.977, 3);
  });
});

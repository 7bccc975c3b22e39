import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { ambientAt, toCanonical } from '../quantity/index.js';
import { expectOk, type Result } from '../result.js';
import {
  columnFactor,
  darcyLoss,
  fluids,
  hazenWilliamsLoss,
  nozzleFlow,
  nozzleNumber,
  nozzlePressure,
  saturationPressure,
  saturationSlope,
  saturationTemperature,
  saturationTemperatureAt,
  waterHead,
  waterSaturationPressure,
} from './index.js';

const code = (r: Result<unknown>): string => (r.ok ? 'ok' : r.refusal.code);
const F = (f: number): number => toCanonical(f, 'degF');
const psig = (pa: number): number => (pa - 101325) / toCanonical(1, 'psi');

describe('saturation lines', () => {
  // Published property tables, °C and MPa absolute, from memory.
  it.each([
    ['R32', -51.65, 0.101325],
    ['R32', -20, 0.40575],
    ['R32', 0, 0.8131],
    ['R32', 20, 1.4746],
    ['R32', 40, 2.4783],
    ['R32', 60, 3.9332],
    ['R290', -42.11, 0.101325],
    ['R290', -20, 0.24452],
    ['R290', 0, 0.47446],
    ['R290', 20, 0.83646],
    ['R290', 40, 1.3694],
    ['R290', 60, 2.1168],
    ['R744', -56.558, 0.51795],
    ['R744', -40, 1.0045],
    ['R744', -20, 1.9696],
    ['R744', 0, 3.4851],
    ['R744', 20, 5.7291],
    ['R744', 30, 7.2137],
  ])('%s at %d °C is %d MPa', (fluid, t, mpa) => {
    const p = expectOk(saturationPressure(fluid, t + 273.15)).bubble / 1e6;
    expect(Math.abs(p / mpa - 1)).toBeLessThan(3e-4);
  });

  it('asks what kind a pressure is of: gauge, absolute, but never a difference', () => {
    const ambient = expectOk(ambientAt(0));
    const at = (p: number, kind: 'gauge' | 'absolute' | 'difference') =>
      saturationTemperatureAt('R134a', p, kind, ambient);
    expect(expectOk(at(200000, 'gauge'))).toBeCloseTo(expectOk(at(301325, 'absolute')), 6);
    expect(code(at(200000, 'difference'))).toBe('wrong-kind');
    expect(code(at(-150000, 'gauge'))).toBe('below-vacuum');
  });

  // Printed P–T charts, psig, from memory; a chart rounds to a tenth.
  it.each([
    ['R410A', 0, 48.4, 0.1],
    ['R410A', 40, 118.8, 0.1],
    ['R410A', 70, 201.7, 0.1],
    ['R410A', 80, 236.5, 0.1],
    ['R410A', 100, 318.5, 0.1],
    ['R134a', 0, 6.5, 0.1],
    ['R134a', 32, 27.8, 0.1],
    ['R134a', 70, 71.1, 0.1],
    ['R134a', 100, 124.1, 0.1],
    ['R22', 40, 68.5, 0.1],
    ['R22', 70, 121.4, 0.1],
    ['R22', 100, 195.9, 0.1],
  ])('%s at %d °F is %d psig', (fluid, f, chart, within) => {
    expect(Math.abs(psig(expectOk(saturationPressure(fluid, F(f))).bubble) - chart)).toBeLessThanOrEqual(
      within,
    );
  });

  it('boils R-134a at −26.07 °C under one atmosphere', () => {
    expect(expectOk(saturationTemperature('R-134a', 101325)) - 273.15).toBeCloseTo(-26.07, 2);
  });

  it('comes back from pressure to temperature', () => {
    for (const fluid of fluids())
      fc.assert(
        fc.property(fc.double({ min: 0.01, max: 0.99, noNaN: true }), (part) => {
          const T = fluid.lower_K + part * (fluid.upper_K - fluid.lower_K);
          const p = expectOk(saturationPressure(fluid.id, T)).bubble;
          expect(expectOk(saturationTemperature(fluid.id, p))).toBeCloseTo(T, 4);
        }),
        { numRuns: 30 },
      );
  });

  it('refuses what it was not checked for', () => {
    expect(code(saturationPressure('R22', F(-70)))).toBe('temperature-outside');
    expect(code(saturationPressure('R410A', 350))).toBe('above-critical');
    expect(code(saturationPressure('R999', 300))).toBe('fluid-unknown');
    expect(code(saturationTemperature('R410A', -5))).toBe('below-vacuum');
    expect(code(saturationTemperature('R410A', 9e6))).toBe('pressure-outside');
    expect(code(waterSaturationPressure(200))).toBe('saturation-outside');
  });
});

describe('water', () => {
  it('gives the columns of the trade: 248.84 Pa at 60 °F, 248.64 Pa at 20 °C', () => {
    expect(expectOk(columnFactor(15.5556)) * 249.08891).toBeCloseTo(248.84, 2);
    expect(expectOk(columnFactor(20)) * 249.08891).toBeCloseTo(248.64, 2);
    expect(code(columnFactor(120))).toBe('temperature-outside');
  });

  it('weighs 0.433 psi a foot', () => {
    expect(expectOk(waterHead(0.3048)) / toCanonical(1, 'psi')).toBeCloseTo(0.4327, 3);
  });
});

describe('slope of a saturation line', () => {
  it('says what a thermometer is worth: near 83 °F, 3.8 psi for each °F of R-410A', () => {
    expect(expectOk(saturationSlope('R410A', F(83))) / toCanonical(1, 'psi') / 1.8).toBeCloseTo(3.8, 1);
  });
});

describe('nozzles', () => {
  it('follows Q = N √(p / 4000 psi) in every direction', () => {
    const p = toCanonical(2500, 'psi');
    const q = expectOk(nozzleFlow(4, p));
    // Published nozzle charts, from memory: a number 4 passes 3.16 gpm at 2 500 psi.
    expect(q / toCanonical(1, 'gpm')).toBeCloseTo(3.16, 2);
    expect(expectOk(nozzleNumber(q, p))).toBeCloseTo(4, 9);
    expect(expectOk(nozzlePressure(4, q))).toBeCloseTo(p, 3);
    expect(code(nozzleFlow(0, p))).toBe('not-positive');
    expect(code(nozzlePressure(4, -1))).toBe('not-positive');
  });
});

describe('what is lost on the way', () => {
  const inches = (n: number): number => n * 0.0254;
  const gpm = (n: number): number => toCanonical(n, 'gpm');
  const FOOT = 0.3048;

  it('by Hazen and Williams as NFPA 13 has it in inches: 4.52 Q^1.85 / (C^1.85 d^4.87) psi a foot, from memory', () => {
    for (const [q, c, d] of [
      [100, 120, 3.068],
      [500, 120, 6.065],
      [250, 150, 4.026],
    ] as const) {
      const theirs = (4.52 * q ** 1.85) / (c ** 1.85 * d ** 4.87);
      const ours = expectOk(hazenWilliamsLoss({ flow: gpm(q), bore: inches(d), length: FOOT }, c));
      expect(Math.abs(toCanonical(theirs, 'psi') / ours - 1)).toBeLessThan(0.015);
    }
  });

  it('by Hazen and Williams and by Darcy within a tenth of each other, in a smooth pipe at usual speeds', () => {
    for (const [q, d] of [
      [120, 3.068],
      [300, 4.026],
    ] as const) {
      const run = { flow: gpm(q), bore: inches(d), length: 100 };
      const ratio = expectOk(hazenWilliamsLoss(run, 150)) / expectOk(darcyLoss(run));
      expect(Math.abs(ratio - 1)).toBeLessThan(0.1);
    }
  });

  it('in a washer’s hose stands beside the rule of 1 psi a foot [common practice, no source]', () => {
    const foot = (d: number): number =>
      expectOk(darcyLoss({ flow: gpm(4), bore: inches(d), length: FOOT })) / toCanonical(1, 'psi');
    // The rule holds between the two usual bores.
    expect(foot(3 / 8)).toBeLessThan(1);
    expect(foot(1 / 4)).toBeGreaterThan(1);
  });

  it('is refused without a flow, or with a C that is no pipe’s', () => {
    expect(code(darcyLoss({ flow: 0, bore: 0.01, length: 1 }))).toBe('not-positive');
    expect(code(hazenWilliamsLoss({ flow: 1e-3, bore: 0.05, length: 1 }, 15))).toBe('roughness');
  });

  it('grows with the square of the flow in a rough pipe and with the flow in a laminar one', () => {
    const at = (flow: number, rough: number): number =>
      expectOk(darcyLoss({ flow, bore: 0.05, length: 10 }, rough));
    expect(at(2e-2, 2e-3) / at(1e-2, 2e-3)).toBeCloseTo(4, 2);
    expect(at(2e-5, 0) / at(1e-5, 0)).toBeCloseTo(2, 9);
  });
});

import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { toCanonical } from '../quantity/index.js';
import { expectOk, type Result } from '../result.js';
import {
  columnFactor,
  fluids,
  nozzleFlow,
  nozzleNumber,
  nozzlePressure,
  saturationPressure,
  saturationSlope,
  saturationTemperature,
  spanCheck,
  waterHead,
  waterSaturationPressure,
  type SpanCheckInput,
} from './index.js';

const code = (r: Result<unknown>): string => (r.ok ? 'ok' : r.refusal.code);
const F = (f: number): number => toCanonical(f, 'degF');
const psig = (pa: number): number => (pa - 101325) / toCanonical(1, 'psi');

describe('saturation lines', () => {
  // Printed P–T charts, psig, from memory; a chart rounds to a tenth.
  it.each([
    ['R410A', 0, 48.4, 0.1],
    ['R410A', 40, 118.8, 0.1],
    ['R410A', 70, 201.7, 0.1],
    ['R410A', 100, 318.5, 0.1],
    ['R134a', 0, 6.5, 0.1],
    ['R134a', 32, 27.8, 0.1],
    ['R134a', 70, 71.1, 0.1],
    ['R134a', 100, 124.1, 0.1],
    ['R22', 40, 68.5, 0.7],
    ['R22', 70, 121.4, 1.2],
    ['R22', 100, 195.9, 2],
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
    expect(code(saturationPressure('R22', F(10)))).toBe('temperature-outside');
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

describe('span against a refrigerant', () => {
  const base: SpanCheckInput = {
    fluid: 'R410A',
    surface_C: [28.3, 28.4],
    air_C: 28.5,
    thermometer_C: 1.1,
    ambient: 101325,
    shown: toCanonical(250, 'psi'),
    U: toCanonical(2, 'psi'),
  };

  it('agrees within the thermometer’s doubt times the slope, and never says correct', () => {
    const s = expectOk(spanCheck(base));
    // Near 83 °F the slope is 3.8 psi/°F: a ± 2 °F thermometer is ± 7.6 psi.
    expect(expectOk(saturationSlope('R410A', F(83))) / toCanonical(1, 'psi') / 1.8).toBeCloseTo(3.8, 1);
    expect(s.U / toCanonical(1, 'psi')).toBeCloseTo(7.6, 0);
    expect(s.agrees).toBe(true);
    expect(s.because).toContain('agrees within');
  });

  it('finds a sprung gauge, doubts a cylinder in other air, and refuses one that is not at rest', () => {
    expect(expectOk(spanCheck({ ...base, shown: toCanonical(285, 'psi') })).agrees).toBe(false);
    const sun = expectOk(spanCheck({ ...base, air_C: 31 }));
    expect(sun.warnings).toHaveLength(1);
    expect(sun.U).toBeGreaterThan(expectOk(spanCheck(base)).U);
    expect(code(spanCheck({ ...base, surface_C: [28, 29] }))).toBe('not-settled');
    expect(code(spanCheck({ ...base, surface_C: [28] }))).toBe('not-settled');
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

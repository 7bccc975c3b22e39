import { describe, expect, it } from '@jest/globals';
import { SUMS } from './sums.ts';

/** A sum worked with its starting values, some of them typed over. */
function work(id: string, typed: Readonly<Record<string, string>> = {}) {
  const sum = SUMS.find((s) => s.id === id);
  if (!sum) throw new Error(id);
  const inputs = { ...Object.fromEntries(sum.fields.map((f) => [f.id, f.start])), ...typed };
  const answer = sum.answer(inputs);
  return answer.ok
    ? { lines: Object.fromEntries(answer.value.map((l) => [l.label, l.value])), refused: undefined }
    : { lines: {} as Record<string, string>, refused: answer.refusal.code };
}

describe('the Reckoner', () => {
  it('starts every sum with values that it can answer', () => {
    for (const s of SUMS) expect(work(s.id).refused).toBeUndefined();
  });

  it('says a pressure in every unit, the ones most asked for first', () => {
    const { lines } = work('units', { p: '1 psi' });
    expect(Object.keys(lines).slice(0, 3)).toEqual(['kPa', 'bar', 'inH2O']);
    expect(lines).toMatchObject({ kPa: '6.8948', 'ozf/in2': '16', inH2O: '27.68' });
    expect(work('units', { p: '3 furlongs' }).refused).toBe('unknown-unit');
    expect(work('units', { p: '' }).refused).toBe('empty');
  });

  it('goes between gauge and absolute at an altitude, or by a barometer', () => {
    expect(work('kinds', { p: '40 psi', altitude: '0 m' }).lines['absolute']).toBe('54.7 psi, 377.1 kPa');
    expect(work('kinds', { p: '54.7 psia', altitude: '0 m' }).lines['gauge']).toMatch(/^40\.0 psi/);
    expect(work('kinds', { p: '0 psi', altitude: '5280 ft' }).lines['absolute']).toBe('12.1 psi, 83.4 kPa');
    expect(work('kinds', { p: '0 psi', barometer: '1000 mbar' }).lines['absolute']).toBe(
      '14.5 psi, 100.0 kPa',
    );
    expect(work('kinds', { p: '-20 psi' }).refused).toBe('below-vacuum');
    expect(work('kinds', { altitude: '40 km' }).refused).toBe('unknown-unit');
    expect(work('kinds', { altitude: '40000 m' }).refused).toBe('altitude-outside');
  });

  it('looks saturation up both ways, with what the thermometer’s doubt is worth', () => {
    expect(work('saturation', { at: '83 degF', doubt: '2 degF' }).lines['gauge']).toBe(
      '247.7 psi, 1708.0 kPa ± 7.6 psi',
    );
    expect(work('saturation', { at: '28.33 degC', doubt: '1.11 degC' }).lines['gauge']).toMatch(
      /^247\.\d psi.*± 7\.6 psi$/,
    );
    expect(work('saturation', { at: '247.7 psi' }).lines['temperature']).toMatch(/^83\.0 °F/);
    expect(work('saturation', { fluid: 'water', at: '15 psi' }).lines['temperature']).toMatch(/^249\.\d °F/);
    expect(work('saturation', { fluid: 'R22', at: '-70 degF' }).refused).toBe('temperature-outside');
    expect(work('saturation', { at: '170 degF' }).refused).toBe('above-critical');
  });

  it('weighs a head of water, either way', () => {
    expect(work('head', { height: '10 ft' }).lines['the gauge reads high by']).toBe('4.33 psi, 29.84 kPa');
    expect(work('head', { height: '-10 ft' }).lines['the gauge reads low by']).toBe('4.33 psi, 29.84 kPa');
    expect(work('head', { water: '140 degC' }).refused).toBe('temperature-outside');
  });

  it('works out a tank from its pair', () => {
    const { lines } = work('tank', { pair: '30/50', volume: '100 gal', flow: '10 gpm', altitude: '0 m' });
    expect(lines['precharge']).toMatch(/^28\.0 psi/);
    expect(lines['differential']).toMatch(/^20\.0 psi/);
    expect(lines['drawdown']).toMatch(/^29\.5 gal,/);
    expect(lines['run time']).toBe('177 s');
    expect(work('tank', { volume: '20 gal' }).lines['run time']).toContain('under the 60 s');
    expect(work('tank', { pair: '50/30' }).refused).toBe('cut-out-not-above-cut-in');
    expect(work('tank', { pair: 'forty' }).refused).toBe('not-a-pair');
  });

  it('finds the third of nozzle number, pressure and flow', () => {
    expect(work('nozzle', { number: '4', pressure: '4000 psi', flow: '' }).lines['flow']).toMatch(
      /^4\.00 gpm/,
    );
    expect(work('nozzle', { number: '4', pressure: '', flow: '4 gpm' }).lines['pressure']).toMatch(
      /^4000 psi/,
    );
    expect(work('nozzle', { number: '', pressure: '1000 psi', flow: '2 gpm' }).lines['number']).toBe('4.00');
    expect(work('nozzle', { number: '', pressure: '1000 psi', flow: '' }).refused).toBe('two-of-three');
    expect(work('nozzle', { number: '0' }).refused).toBe('not-positive');
  });
});

describe('what a hose loses', () => {
  it('stands beside the rule of a psi a foot for a washer’s hose, and beside Hazen and Williams for a pipe', () => {
    const hose = work('loss', { flow: '4 gpm', bore: '3/8 in', length: '50 ft', wall: 'smooth' });
    expect(hose.lines['lost']).toMatch(/^3\d\.\d psi/);
    expect(hose.lines['at a psi a foot']).toMatch(/^50 psi/);
    const pipe = work('loss', { flow: '300 gpm', bore: '4 in', length: '100 ft', wall: 'steel' });
    expect(pipe.lines['Hazen and Williams, C 120']).toMatch(/psi/);
    expect(work('loss', { flow: '0 gpm' }).refused).toBe('not-positive');
    expect(work('loss', { bore: 'wide' }).refused).toBeDefined();
  });
});

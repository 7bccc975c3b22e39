import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { expectOk, type Result } from '../result.js';
import {
  absolute,
  ambientAt,
  between,
  convert,
  decimalsFor,
  figure,
  findUnit,
  gauge,
  overAirUnit,
  parseGaugePressure,
  parseNumber,
  parsePair,
  parseQuantity,
  raise,
  showTurns,
  showWithUnit,
  toAbsolute,
  toCanonical,
  toGauge,
  unitsOf,
} from './index.js';

const code = (r: Result<unknown>): string => (r.ok ? 'ok' : r.refusal.code);

describe('units', () => {
  it('carries the exact definitions', () => {
    // 1 psi = 0.45359237 kg × 9.80665 m/s² ÷ (0.0254 m)²; ISO 80000-4.
    expect(toCanonical(1, 'psi')).toBeCloseTo(6894.757293168, 9);
    expect(toCanonical(1, 'inH2O')).toBeCloseTo(249.08891, 5);
    expect(toCanonical(16, 'ozf/in2')).toBeCloseTo(toCanonical(1, 'psi'), 9);
  });

  it('converts there and back', () => {
    const ids = unitsOf('pressure').map((u) => u.id);
    fc.assert(
      fc.property(
        fc.constantFrom(...ids),
        fc.constantFrom(...ids),
        fc.double({ min: -1e4, max: 1e4, noNaN: true }),
        (a, b, x) => {
          const kinds = new Set([findUnit(a)?.kind, findUnit(b)?.kind].filter(Boolean));
          if (kinds.size > 1) return;
          expect(convert(convert(x, a, b), b, a)).toBeCloseTo(x, 6);
        },
      ),
    );
  });

  it('refuses to cross gauge and absolute, or dimensions', () => {
    expect(() => convert(1, 'psig', 'psia')).toThrow(/ambient/);
    expect(() => convert(1, 'psi', 'L')).toThrow(/volume/);
  });

  it('tells MPa from mPa, which it does not know', () => {
    expect(findUnit('MPa')?.factor).toBe(1e6);
    expect(findUnit('mPa')).toBeUndefined();
    expect(findUnit('PSI')?.id).toBe('psi');
  });
});

describe('kinds of pressure', () => {
  it('goes from gauge to absolute and back at a site', () => {
    const ambient = expectOk(ambientAt(1120));
    const p = gauge(300000);
    expect(toGauge(expectOk(toAbsolute(p, ambient)), ambient)).toBeCloseTo(300000, 6);
    expect(raise(p, between(gauge(10), gauge(4)))).toBe(300006);
  });

  it('refuses what lies below vacuum', () => {
    expect(code(absolute(-1))).toBe('below-vacuum');
    expect(code(toAbsolute(gauge(-200000), expectOk(ambientAt(0))))).toBe('below-vacuum');
  });
});

describe('what people type', () => {
  it.each([
    ['14,5', 14.5],
    ['1 1/2', 1.5],
    ['½', 0.5],
    ['2¼', 2.25],
    ['-5', -5],
    ['−5', -5],
    ['.5', 0.5],
    ['3/4', 0.75],
    ['7/8', 0.875],
  ])('reads %s as %d', (text, value) => {
    expect(expectOk(parseNumber(text))).toBeCloseTo(value, 12);
  });

  it.each([
    ['1,234', 'ambiguous'],
    ['11/2', 'ambiguous'],
    ['4/0', 'divided-by-zero'],
    ['abc', 'not-a-number'],
    ['', 'empty'],
    ['1.2.3', 'not-a-number'],
  ])('asks about %s', (text, expected) => {
    expect(code(parseNumber(text))).toBe(expected);
  });

  it('keeps the text beside the canonical value', () => {
    const t = expectOk(parseQuantity('8oz', 'pressure', 'psi'));
    expect(t).toMatchObject({ text: '8oz', number: 8, unit: 'ozf/in2' });
    expect(t.value).toBeCloseTo(toCanonical(0.5, 'psi'), 9);
    expect(expectOk(parseGaugePressure('-5 inHg', 'psi')).value).toBeCloseTo(-16931.94, 1);
    expect(expectOk(parseGaugePressure('62', 'psi')).unit).toBe('psi');
  });

  it('names the unit that does not fit', () => {
    expect(code(parseGaugePressure('20 psia', 'psi'))).toBe('wrong-kind');
    expect(code(parseQuantity('20 L', 'pressure', 'psi'))).toBe('wrong-dimension');
    expect(code(parseQuantity('20 blips', 'pressure', 'psi'))).toBe('unknown-unit');
  });

  it('reads a pair in one breath', () => {
    const [low, high] = expectOk(parsePair('40/60', 'psi'));
    expect([low.number, high.number]).toEqual([40, 60]);
    expect(code(parsePair('40', 'psi'))).toBe('not-a-pair');
  });

  it('reads back whatever it shows', () => {
    fc.assert(
      fc.property(fc.integer({ min: -4000, max: 4000 }), (n) => {
        const shown = showWithUnit(toCanonical(n / 10, 'psi'), { unit: 'psi', step: 0.1 });
        expect(expectOk(parseGaugePressure(shown, 'psi')).number).toBeCloseTo(n / 10, 9);
      }),
    );
  });
});

describe('showing', () => {
  it('shows the decimals of a step and a true minus', () => {
    expect([1, 0.5, 0.25, 0.2, 0.05].map(decimalsFor)).toEqual([0, 1, 2, 1, 2]);
    expect(figure(-0.04, 1)).toBe('0.0');
    expect(figure(-3.25, 2)).toBe('−3.25');
  });

  it('says turns as a mechanic does', () => {
    expect(showTurns(0.5)).toBe('½ turn');
    expect(showTurns(1.25)).toBe('1¼ turns');
    expect(showTurns(-1.0625)).toBe('1 1/16 turns');
    expect(showTurns(1)).toBe('1 turn');
    // A nut goes by half flats: no sixteenth stands for those.
    expect(showTurns(5 / 12)).toBe('5/12 turn');
    expect(showTurns(-13 / 12)).toBe('1 1/12 turns');
    expect(showTurns(1 / 3)).toBe('⅓ turn');
    expect(showTurns(0.26)).toBe('¼ turn');
  });
});

describe('standard atmosphere', () => {
  it('gives the published values', () => {
    // U.S. Standard Atmosphere, 1976.
    expect(expectOk(ambientAt(0))).toBeCloseTo(101325, 0);
    expect(expectOk(ambientAt(1609))).toBeCloseTo(83435, -1);
    expect(code(ambientAt(20000))).toBe('altitude-outside');
  });
});

it('an absolute pressure is said over the air in the sister of its unit', () => {
  expect(overAirUnit('psia')).toBe('psi');
  expect(overAirUnit('bara')).toBe('bar');
  expect(overAirUnit('micron')).toBe('kPa');
  expect(overAirUnit('psig')).toBe('psig');
  expect(overAirUnit('inHg')).toBe('inHg');
});

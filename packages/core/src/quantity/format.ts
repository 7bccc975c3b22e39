import { findUnit, fromCanonical, intervalFromCanonical, symbolOf } from './units.js';

/** Decimals that show a step without inventing digits: 1 → 0, 0.5 → 1, 0.25 → 2, 0.2 → 1. */
export function decimalsFor(step: number): number {
  if (!(step > 0)) return 1;
  for (let d = 0; d < 6; d++) {
    const scaled = step * 10 ** d;
    if (Math.abs(scaled - Math.round(scaled)) < 1e-6 * scaled) return d;
  }
  return Math.max(0, Math.ceil(-Math.log10(step)));
}

/** A number with fixed decimals and a true minus sign; −0 prints as 0. */
export function figure(value: number, decimals: number): string {
  const text = value.toFixed(decimals);
  return (Number(text) === 0 ? text.replace('-', '') : text).replace('-', '−');
}

export interface Shown {
  /** Unit to show in. */
  readonly unit: string;
  /** Smallest step worth showing, in that unit; default 0.1. */
  readonly step?: number;
}

/** A canonical value as a figure in the wanted unit, without the unit. */
export const show = (value: number, { unit, step = 0.1 }: Shown): string =>
  figure(fromCanonical(value, unit), decimalsFor(step));

/** A figure as short as it can be said: two decimals below 10, one from there on, and no zeros at its end. */
export const short = (value: number): string => String(Number(value.toFixed(Math.abs(value) < 10 ? 2 : 1)));

/** A canonical value with its unit: `44.0 psi`. */
export const showWithUnit = (value: number, shown: Shown): string => named(show(value, shown), shown.unit);

/** A figure with its unit; what is counted stands in the plural but for one. */
const named = (text: string, unit: string): string => {
  const symbol = symbolOf(unit);
  // The title says what it is: a page is a number.
  if (symbol === '') return text;
  return `${text} ${symbol}${findUnit(unit)?.dimension === 'count' && text !== '1' ? 's' : ''}`;
};

/** A difference of canonical values (an uncertainty, a change) with its unit: a temperature's offset does not count. */
export const showInterval = (value: number, { unit, step = 0.1 }: Shown): string =>
  named(figure(intervalFromCanonical(value, unit), decimalsFor(step)), unit);

/** A change as a figure that carries its sign. */
export const showSigned = (value: number, shown: Shown): string => {
  const text = show(value, shown);
  return value > 0 && !/^0(\.0*)?$/.test(text) ? `+${text}` : text;
};

const SIXTEENTHS = [
  '',
  '1/16',
  '⅛',
  '3/16',
  '¼',
  '5/16',
  '⅜',
  '7/16',
  '½',
  '9/16',
  '⅝',
  '11/16',
  '¾',
  '13/16',
  '⅞',
  '15/16',
];

const TWELFTHS = ['', '1/12', '⅙', '¼', '⅓', '5/12', '½', '7/12', '⅔', '¾', '⅚', '11/12'];

/** An unsigned number of turns as a mechanic says it: `½ turn`, `1¼ turns`; by sixteenths, or by the half flats of a nut where it is those. */
export function showTurns(turns: number, noun = 'turn'): string {
  const size = Math.abs(turns);
  const off = (parts: number): number => Math.abs(size * parts - Math.round(size * parts)) / parts;
  const parts = off(12) < 1e-6 && off(16) > 1e-6 ? 12 : 16;
  const n = Math.round(size * parts);
  const whole = Math.floor(n / parts);
  const part = (parts === 12 ? TWELFTHS : SIXTEENTHS)[n % parts] ?? '';
  const gap = whole > 0 && part.length > 1 ? ' ' : '';
  const text = n === 0 ? '0' : `${whole > 0 ? whole : ''}${gap}${part}`;
  return `${text} ${noun}${n > parts || n === 0 ? 's' : ''}`;
}

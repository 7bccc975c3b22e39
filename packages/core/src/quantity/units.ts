import type { PressureKind } from './pressure.js';

export type Dimension =
  | 'count'
  | 'pressure'
  | 'volume'
  | 'flow'
  | 'length'
  | 'time'
  | 'frequency'
  | 'voltage'
  | 'temperature'
  | 'power'
  | 'heating-value'
  | 'ratio';

/** A unit: what one of it is in the canonical unit of its dimension (Pa, m³, m³/s, m, s, Hz, V, K, W, J/m³, 1). */
export interface Unit {
  readonly id: string;
  readonly dimension: Dimension;
  readonly factor: number;
  /** Added after the factor; only temperatures have one. */
  readonly offset?: number;
  /** How it is printed where that is not its id. */
  readonly symbol?: string;
  /** Pressure units that say their own kind, such as psia. */
  readonly kind?: PressureKind;
  /** Other spellings that people type, lower case, without spaces. */
  readonly also?: readonly string[];
}

const LB = 0.45359237;
const G0 = 9.80665;
const IN = 0.0254;
/** Exact: pound-force over square inch, from the international pound and inch. ISO 80000-4; NIST SP 811. */
const PSI = (LB * G0) / (IN * IN);
/** Conventional inch of water: 1000 kg/m³ at standard gravity. ISO 80000-4. */
const INH2O = 1000 * G0 * IN;
/** Conventional millimetre of mercury: 13 595.1 kg/m³ at standard gravity. NIST SP 811. */
const MMHG = 13.5951 * G0;
const GAL_US = 231 * IN ** 3;
const FT3 = (12 * IN) ** 3;
/** International-table British thermal unit, J: exact by the pound and the Fahrenheit degree. ISO 80000-5. */
const BTU = LB * 4186.8 * (5 / 9);

const p = (id: string, factor: number, also: readonly string[] = [], kind?: PressureKind): Unit => ({
  id,
  dimension: 'pressure',
  factor,
  also,
  ...(kind ? { kind } : {}),
});

const ALL: readonly Unit[] = [
  p('Pa', 1, ['pascal']),
  p('hPa', 100),
  p('kPa', 1e3),
  p('MPa', 1e6),
  p('mbar', 100, ['millibar']),
  p('bar', 1e5),
  p('barg', 1e5, ['bar(g)'], 'gauge'),
  p('bara', 1e5, ['bar(a)'], 'absolute'),
  p('psi', PSI, ['lb/in2', 'lbf/in2', 'pounds', '#']),
  p('psig', PSI, ['psi(g)'], 'gauge'),
  p('psia', PSI, ['psi(a)'], 'absolute'),
  p('psid', PSI, ['psi(d)'], 'difference'),
  p('ozf/in2', PSI / 16, ['oz', 'ozf', 'oz/in2', 'osi']),
  p('inH2O', INH2O, ['inwc', 'inwg', 'inw', '"wc', '"h2o', 'iwc']),
  p('mmH2O', INH2O / 25.4, ['mmwc']),
  p('cmH2O', INH2O / 2.54, ['cmwc']),
  p('ftH2O', INH2O * 12, ['ftwc', 'feetofwater']),
  p('inHg', MMHG * 25.4, ['"hg']),
  p('mmHg', MMHG, ['torr']),
  p('micron', MMHG / 1000, ['microns', 'mtorr', 'µmhg'], 'absolute'),
  p('kgf/cm2', G0 * 1e4, ['kg/cm2', 'kgf/cm²', 'kg/cm²', 'at']),
  p('atm', 101325),
  { id: 'm3', dimension: 'volume', factor: 1, also: ['m³'] },
  { id: 'L', dimension: 'volume', factor: 1e-3, also: ['l', 'litre', 'liter', 'litres', 'liters'] },
  {
    id: 'galUS',
    symbol: 'gal',
    dimension: 'volume',
    factor: GAL_US,
    also: ['gal', 'usgal', 'gallon', 'gallons'],
  },
  {
    id: 'ft3',
    symbol: 'ft³',
    dimension: 'volume',
    factor: FT3,
    also: ['ft³', 'cuft', 'cubicfoot', 'cubicfeet'],
  },
  { id: 'm3/s', dimension: 'flow', factor: 1 },
  { id: 'L/min', dimension: 'flow', factor: 1e-3 / 60, also: ['lpm', 'l/min'] },
  { id: 'm3/h', dimension: 'flow', factor: 1 / 3600, also: ['m³/h'] },
  { id: 'cfm', dimension: 'flow', factor: FT3 / 60, also: ['ft3/min', 'scfm'] },
  { id: 'gpm', dimension: 'flow', factor: GAL_US / 60, also: ['galus/min', 'usgpm'] },
  { id: 'm', dimension: 'length', factor: 1 },
  { id: 'mm', dimension: 'length', factor: 1e-3 },
  { id: 'in', dimension: 'length', factor: IN, also: ['inch', 'inches'] },
  { id: 'ft', dimension: 'length', factor: 12 * IN, also: ['foot', 'feet'] },
  { id: 's', dimension: 'time', factor: 1, also: ['sec', 'seconds'] },
  { id: 'min', dimension: 'time', factor: 60, also: ['minutes'] },
  { id: 'h', dimension: 'time', factor: 3600, also: ['hours'] },
  { id: 'Hz', dimension: 'frequency', factor: 1, also: ['hertz'] },
  { id: 'rpm', dimension: 'frequency', factor: 1 / 60, also: ['r/min', 'rev/min'] },
  { id: 'click', dimension: 'count', factor: 1, also: ['clicks'] },
  { id: '1/h', dimension: 'count', factor: 1, symbol: 'an hour', also: ['/h', 'anhour'] },
  { id: 'turn', dimension: 'count', factor: 1, also: ['turns'] },
  { id: 'V', dimension: 'voltage', factor: 1, also: ['volt', 'volts'] },
  { id: 'K', dimension: 'temperature', factor: 1 },
  { id: 'degC', dimension: 'temperature', factor: 1, offset: 273.15, symbol: '°C', also: ['°c', 'c'] },
  { id: 'W', dimension: 'power', factor: 1 },
  { id: 'kW', dimension: 'power', factor: 1e3 },
  { id: 'Btu/h', dimension: 'power', factor: BTU / 3600, also: ['btuh', 'btu/hr'] },
  { id: 'MJ/m3', dimension: 'heating-value', factor: 1e6, also: ['mj/m³'] },
  {
    id: 'Btu/ft3',
    symbol: 'Btu/ft³',
    dimension: 'heating-value',
    factor: BTU / FT3,
    also: ['btu/ft³', 'btu/cuft'],
  },
  { id: 'page', symbol: '', dimension: 'count', factor: 1, also: ['p', 'p.'] },
  { id: '%', dimension: 'ratio', factor: 0.01, also: ['percent'] },
  {
    id: 'degF',
    dimension: 'temperature',
    factor: 5 / 9,
    offset: 459.67 * (5 / 9),
    symbol: '°F',
    also: ['°f', 'f'],
  },
];

const squash = (text: string): string => text.trim().replace(/\s+/g, '');

const byExactName = new Map<string, Unit>();
const byLooseName = new Map<string, Unit>();
for (const unit of ALL) {
  for (const name of [unit.id, ...(unit.also ?? [])]) {
    byExactName.set(name, unit);
    const loose = name.toLowerCase();
    // "mPa" must never be taken for MPa: where two units differ by case only, case decides.
    if (loose !== 'mpa' && !byLooseName.has(loose)) byLooseName.set(loose, unit);
  }
}

/** The unit that a person means by this spelling, or undefined. */
export function findUnit(text: string): Unit | undefined {
  const name = squash(text);
  return byExactName.get(name) ?? byLooseName.get(name.toLowerCase());
}

/** The unit of this exact id; throws for an id that is not in the table (a mistake in code or stored data). */
export function unit(id: string): Unit {
  const found = byExactName.get(id);
  if (!found) throw new Error(`No unit is called "${id}".`);
  return found;
}

/** How a unit is printed: `°F` for `degF`. */
export const symbolOf = (unitId: string): string => unit(unitId).symbol ?? unitId;

/** Every unit of a dimension, in the order people list them. */
export const unitsOf = (dimension: Dimension): readonly Unit[] =>
  ALL.filter((u) => u.dimension === dimension);

/**
 * A value in a unit to the canonical unit of its dimension.
 * @example toCanonical(1, 'psi') // 6894.757293168361
 */
export const toCanonical = (value: number, unitId: string): number => {
  const u = unit(unitId);
  return value * u.factor + (u.offset ?? 0);
};

/** A canonical value (Pa, m³, m³/s, m, s, V, K) in the given unit. */
export const fromCanonical = (value: number, unitId: string): number => {
  const u = unit(unitId);
  return (value - (u.offset ?? 0)) / u.factor;
};

/** A difference of two values of a unit to the canonical unit: a temperature's offset does not count. */
export const intervalToCanonical = (value: number, unitId: string): number => value * unit(unitId).factor;

/** A canonical difference (an uncertainty, a step, a change) in the given unit. */
export const intervalFromCanonical = (value: number, unitId: string): number => value / unit(unitId).factor;

/**
 * A value from one unit to another of the same dimension.
 * Does not cross gauge and absolute; use `toAbsolute` and `toGauge` with an ambient for that.
 */
export function convert(value: number, from: string, to: string): number {
  const a = unit(from);
  const b = unit(to);
  if (a.dimension !== b.dimension) throw new Error(`${from} is a ${a.dimension} and ${to} a ${b.dimension}.`);
  if (a.kind && b.kind && a.kind !== b.kind)
    throw new Error(`${from} and ${to} differ in kind; an ambient pressure is needed.`);
  return fromCanonical(toCanonical(value, from), to);
}

/**
 * The unit in which a pressure of some unit is said over the air outside: psi of psia. What has no such sister is said in kPa.
 * @param id of a unit of pressure
 */
export function overAirUnit(id: string): string {
  const own = unit(id);
  if (own.kind !== 'absolute') return own.id;
  return (
    unitsOf('pressure').find(
      (u) => u.kind === undefined && u.factor === own.factor && own.id.startsWith(u.id),
    )?.id ?? 'kPa'
  );
}

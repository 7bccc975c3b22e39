import {
  figure,
  fromCanonical,
  intervalFromCanonical,
  overAirUnit,
  symbolOf,
} from '@firm-needle/core/quantity';
import type { TraceFigure } from '@firm-needle/core/trace';

/** What figures and events are called; those that core names. */
const TITLES: Readonly<Record<string, string>> = {
  cutIn: 'Cut-in',
  cutOut: 'Cut-out',
  differential: 'Differential',
  onTime: 'Time on',
  offTime: 'Time off',
  cyclesPerHour: 'Cycles an hour',
  precharge: 'Precharge',
  drawdown: 'Drawdown',
  flowing: 'Flowing',
  lockUp: 'Lock-up',
  droop: 'Droop',
  creepRate: 'Creep',
  huntAmplitude: 'Hunting, amplitude',
  huntPeriod: 'Hunting, period',
  working: 'Working',
  trapped: 'Trapped',
  spike: 'Trapped over working',
  purgeDip: 'Dip when purged',
  cracking: 'Cracking effort',
  opening: 'Opening',
  reseat: 'Reseat',
  blowdown: 'Blowdown',
  recoveryRate: 'Recovery',
  sustained: 'Sustained',
  ripple: 'Ripple',
  flowStart: 'Flow begins',
  flowStop: 'Flow ends',
  pulled: 'Trigger pulled',
  released: 'Trigger released',
  purge: 'Purge',
};
const DIFFERENCES = new Set([
  'differential',
  'droop',
  'huntAmplitude',
  'spike',
  'purgeDip',
  'blowdown',
  'ripple',
]);

/** A figure and its doubt (k = 2) in the unit of the file. */
export function shownFigure(name: string, f: TraceFigure, unit: string): string {
  const U = 2 * f.u;
  const digits = (x: number): number =>
    Math.max(0, Math.min(4, 1 - Math.floor(Math.log10(Math.max(x, 1e-9)))));
  if (f.unit === 'Pa' || f.unit === 'Pa/s') {
    const value =
      DIFFERENCES.has(name) || f.unit === 'Pa/s'
        ? intervalFromCanonical(f.value, unit)
        : fromCanonical(f.value, unit);
    const u = intervalFromCanonical(U, unit);
    return `${figure(value, digits(u))} ± ${figure(u, digits(u))} ${symbolOf(unit)}${f.unit === 'Pa/s' ? '/s' : ''}`;
  }
  return `${figure(f.value, digits(U))} ± ${figure(U, digits(U))} ${f.unit === '1/h' ? 'an hour' : f.unit}`;
}

/** Title of a figure, or of the event that it is the mean of. */
export const titleOf = (name: string): string => TITLES[name] ?? name;

/** Bare pascals are told in thousands of them; what was absolute in the file is told over the air outside. */
export const readableUnit = (unit: string | undefined): string =>
  unit === undefined || unit === 'Pa' ? 'kPa' : overAirUnit(unit);

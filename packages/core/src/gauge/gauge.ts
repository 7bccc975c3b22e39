import {
  decimalsFor,
  fromCanonical,
  intervalToCanonical,
  symbolOf,
  toCanonical,
  unit,
  type Dimension,
} from '../quantity/index.js';
import type { AccuracyClass } from './accuracy.js';

export type GaugeKind = 'bourdon' | 'digital' | 'u-tube' | 'diaphragm' | 'bench' | 'thermometer';

export type Medium = 'water' | 'air' | 'refrigerant' | 'any';

/** What a span check found at one pressure: the gauge showed `error` too much there. Pa. */
export interface SpanPoint {
  readonly at: number;
  readonly error: number;
  /** Standard uncertainty of that error, half the hysteresis included. */
  readonly u: number;
}

/** A span check that stands: between its points the error is known, and taken off in place of the class limit. */
export interface SpanCorrection {
  readonly day: string;
  /** In rising order of `at`. */
  readonly points: readonly SpanPoint[];
}

/** What the newest signed check of a gauge came to. */
export interface Standing {
  readonly state: 'fit' | 'restricted' | 'failed';
  readonly day: string;
  readonly because: string;
}

/** A test gauge as its plate and certificate describe it. */
export interface Gauge {
  readonly id: string;
  /** What the technician calls it: the label on its back. */
  readonly label: string;
  readonly kind: GaugeKind;
  readonly unit: string;
  /** Ends of the scale, in `unit`. */
  readonly lower: number;
  readonly upper: number;
  /** Smallest division (analogue) or last digit (digital), in `unit`. */
  readonly division: number;
  /** The part of a division that can be read: 1, 1/2, 1/4 or 1/5; 1 for a digital gauge. */
  readonly readable: number;
  readonly accuracy: AccuracyClass;
  /** Which way its zero screw raised the needle, once seen. */
  readonly raises?: 'clockwise' | 'counter-clockwise';
  /** What it is connected to or good for: water, air. */
  readonly medium?: Medium;
  readonly serial?: string;
  /** Number of its calibration certificate. */
  readonly certificate?: string;
  /** ISO date by which it must be checked again. */
  readonly due?: string;
  /** Water temperature of a column, °C; without it the conventional column is meant. */
  readonly column_C?: number;
  readonly check?: SpanCorrection;
  readonly standing?: Standing;
}

/** What a gauge tells: pressures, or a thermometer temperatures. */
export const dimensionOf = (g: Gauge): Dimension => unit(g.unit).dimension;

/** Ends of the scale and steps of a gauge in Pa (a thermometer's in K). */
export interface GaugeSpan {
  readonly lower: number;
  readonly upper: number;
  readonly span: number;
  readonly division: number;
  readonly readableStep: number;
}

/** The gauge's scale in canonical units (Pa). */
export function spanOf(g: Gauge): GaugeSpan {
  const lower = toCanonical(g.lower, g.unit);
  const upper = toCanonical(g.upper, g.unit);
  const division = intervalToCanonical(g.division, g.unit);
  return { lower, upper, span: upper - lower, division, readableStep: division * g.readable };
}

/** The range in the gauge's own unit: `0–100 psi`. */
export const rangeText = (g: Gauge): string =>
  `${g.lower < 0 ? `−${-g.lower} to ` : `${g.lower}–`}${g.upper} ${symbolOf(g.unit)}`;

/** What one readable step shows as, in the gauge's unit. */
export const shownStep = (g: Gauge): number => g.division * g.readable;

/** A pressure in Pa rounded to what the gauge can show, in its unit. */
export function asRead(g: Gauge, pa: number): number {
  const step = shownStep(g);
  return Math.round(fromCanonical(pa, g.unit) / step) * step;
}

/** A pressure in Pa as this gauge shows it, as if it had been typed: text, unit and the value that the text says. */
export function shownAs(g: Gauge, pa: number): { text: string; unit: string; value: number } {
  const text = asRead(g, pa).toFixed(decimalsFor(shownStep(g)));
  return { text, unit: g.unit, value: toCanonical(Number(text), g.unit) };
}

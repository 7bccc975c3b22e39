import { fromCanonical, toCanonical } from '../quantity/index.js';
import type { AccuracyClass } from './accuracy.js';

export type GaugeKind = 'bourdon' | 'digital' | 'u-tube' | 'diaphragm' | 'bench';

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
  /** What it is connected to or good for: water, air. */
  readonly medium?: 'water' | 'air' | 'any';
  readonly serial?: string;
  /** ISO date by which it must be checked again. */
  readonly due?: string;
}

/** Ends of the scale and steps of a gauge in Pa. */
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
  const division = toCanonical(g.division, g.unit);
  return { lower, upper, span: upper - lower, division, readableStep: division * g.readable };
}

/** The range in the gauge's own unit: `0–100 psi`. */
export const rangeText = (g: Gauge): string => `${g.lower}–${g.upper} ${g.unit}`;

/** What one readable step shows as, in the gauge's unit. */
export const shownStep = (g: Gauge): number => g.division * g.readable;

/** A pressure in Pa rounded to what the gauge can show, in its unit. */
export function asRead(g: Gauge, pa: number): number {
  const step = shownStep(g);
  return Math.round(fromCanonical(pa, g.unit) / step) * step;
}

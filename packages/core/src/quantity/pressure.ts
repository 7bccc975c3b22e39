import { refuse, type Result, accept } from '../result.js';

declare const pressureKind: unique symbol;

/** How a pressure is referred: to ambient, to vacuum, or to another pressure. */
export type PressureKind = 'gauge' | 'absolute' | 'difference';

/** A pressure in Pa, branded with its kind so that mixing kinds does not compile. */
export type Pressure<K extends PressureKind> = number & { readonly [pressureKind]: K };
export type GaugePressure = Pressure<'gauge'>;
export type AbsolutePressure = Pressure<'absolute'>;
export type PressureDifference = Pressure<'difference'>;

/** Pa above ambient. */
export const gauge = (pa: number): GaugePressure => pa as GaugePressure;
/** Pa between two pressures of the same kind. */
export const difference = (pa: number): PressureDifference => pa as PressureDifference;
/** Pa above vacuum; refuses below zero, which does not exist. */
export function absolute(pa: number): Result<AbsolutePressure> {
  if (pa < 0)
    return refuse('below-vacuum', `An absolute pressure of ${pa} Pa is below vacuum.`, {
      bound: '0 Pa absolute',
      remedy: 'Check whether the value was meant as gauge pressure.',
    });
  return accept(pa as AbsolutePressure);
}

/** Gauge to absolute at the given ambient, both Pa; refuses a result below vacuum. */
export const toAbsolute = (p: GaugePressure, ambient: AbsolutePressure): Result<AbsolutePressure> =>
  absolute(p + ambient);

/** Absolute to gauge at the given ambient, both Pa. */
export const toGauge = (p: AbsolutePressure, ambient: AbsolutePressure): GaugePressure =>
  (p - ambient) as GaugePressure;

/** The difference a − b of two gauge pressures, Pa. */
export const between = (a: GaugePressure, b: GaugePressure): PressureDifference =>
  (a - b) as PressureDifference;

/** A gauge pressure raised by a difference, Pa. */
export const raise = (p: GaugePressure, by: PressureDifference): GaugePressure => (p + by) as GaugePressure;

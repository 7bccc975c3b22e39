import { accept, refuse, type Result } from '../result.js';
import type { AbsolutePressure } from './pressure.js';

const P0 = 101325;
const T0 = 288.15;
const LAPSE = 0.0065;
const G0 = 9.80665;
const R_AIR = 8314.32 / 28.9644;
const EARTH = 6356766;

/**
 * Ambient pressure at an altitude by the U.S. Standard Atmosphere, 1976 (troposphere).
 * @param altitude_m geometric height above sea level, −500 to 11 000 m
 * @returns Pa absolute; refuses a height outside the layer
 * @example expectOk(ambientAt(0)) // 101325
 */
export function ambientAt(altitude_m: number): Result<AbsolutePressure> {
  if (!Number.isFinite(altitude_m) || altitude_m < -500 || altitude_m > 11000)
    return refuse('altitude-outside', `An altitude of ${altitude_m} m is outside the table.`, {
      bound: '−500 to 11 000 m',
      remedy: 'Check the site altitude, or enter a barometer reading.',
    });
  const h = (EARTH * altitude_m) / (EARTH + altitude_m);
  return accept((P0 * (1 - (LAPSE * h) / T0) ** (G0 / (R_AIR * LAPSE))) as AbsolutePressure);
}

/**
 * Drawdown of a bladder tank between two switch points (Boyle, absolute pressures).
 * @param volume tank volume, m³
 * @param precharge,cutIn,cutOut gauge Pa
 * @param ambient Pa absolute
 * @returns m³ of water given between cut-out and cut-in; water below the precharge cannot be given
 * @example drawdown(1, 206843, 206843, 344738, 101325) // 0.309: 30/50 with precharge = cut-in
 */
export function drawdown(
  volume: number,
  precharge: number,
  cutIn: number,
  cutOut: number,
  ambient: number,
): number {
  const lowest = Math.max(cutIn, precharge);
  if (cutOut <= lowest) return 0;
  return volume * (precharge + ambient) * (1 / (lowest + ambient) - 1 / (cutOut + ambient));
}

/** Water below an empty bladder, held by the pipes alone, m³. */
const PIPES = 2e-4;

/** A bladder tank: its volume (m³), its air charge when empty (gauge Pa) and the ambient pressure (Pa absolute). */
export interface BladderTank {
  readonly volume: number;
  readonly precharge: number;
  readonly ambient: number;
}

/** Least and most water that such a tank can hold, m³; below none the pipes are drained. */
export const tankReach = ({ volume }: BladderTank): readonly [number, number] => [-PIPES, volume * 0.985];

/** Gauge pressure (Pa) of a tank with this much water (m³) in it; below its charge the pipes alone hold it. [Boyle] */
export function tankPressure({ volume, precharge, ambient }: BladderTank, water: number): number {
  if (water <= 0) return Math.max(0, precharge * (1 + water / PIPES));
  return ((precharge + ambient) * volume) / (volume - water) - ambient;
}

/** Water (m³) in a tank at a gauge pressure (Pa). [Boyle] */
export const tankWater = ({ volume, precharge, ambient }: BladderTank, pressure: number): number =>
  Math.max(0, volume * (1 - (precharge + ambient) / (pressure + ambient)));

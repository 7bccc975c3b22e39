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

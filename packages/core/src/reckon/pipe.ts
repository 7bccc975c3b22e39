import { accept, refuse, type Result } from '../result.js';

const WATER = 998.2;

/**
 * Pressure rise when a flow in a pipe is stopped at once, Pa: ρ·a·Δv. [Joukowsky]
 * @param wave speed of a pressure wave in the filled pipe, m/s
 * @param stopped change of the water's speed, m/s
 */
export const surgePressure = (wave: number, stopped: number, density = WATER): number =>
  density * wave * Math.abs(stopped);

/** Time for a wave to run to the far end of a pipe and back, s: a valve that shuts faster is as bad as one that slams. [2L/a] */
export const criticalTime = (length: number, wave: number): number => (2 * length) / wave;

/** Mean speed of a flow (m³/s) in a round bore (m), m/s. */
export const speedIn = (flow: number, bore: number): number => flow / ((Math.PI / 4) * bore * bore);

/**
 * How far a valve's outlet is from boiling, over what it takes away: (P2 − Pv)/(P1 − P2), pressures absolute.
 * @param inlet Pa gauge, @param outlet Pa gauge, @param ambient Pa absolute, @param vapour Pa absolute
 * @returns a refusal where the outlet is not below the inlet
 */
export function cavitationIndex(
  inlet: number,
  outlet: number,
  ambient: number,
  vapour = 2339,
): Result<number> {
  if (!(inlet > outlet))
    return refuse('no-drop', 'A reducing valve’s outlet is below its inlet.', {
      where: 'inlet',
      bound: 'inlet above outlet',
      remedy: 'Check the two gauges and which is which.',
    });
  return accept((outlet + ambient - vapour) / (inlet - outlet));
}

import { accept, refuse, type Result } from '../result.js';
import { frictionFactor, type Run } from './losses.js';

/** Gas constant of air, J/(kg·K), and its viscosity at 20 °C, Pa·s [textbook]. */
const R_AIR = 287.05;
const AIR_VISCOSITY = 1.81e-5;
const ROOM_K = 293.15;
/** Roughness of the bore of a rubber air hose, m [assumed]. */
const RUBBER = 1e-5;

/**
 * Pressure that a hose takes from air that flows through it at 20 °C, Pa. [isothermal flow of an ideal gas; friction by Colebrook and White]
 * @param run flow as free air at `ambient` and 20 °C, m³/s; bore and length, m
 * @param inlet gauge pressure where it goes in, Pa
 * @param ambient Pa absolute
 * @returns refused where the hose cannot pass so much
 */
export function airHoseLoss(run: Run, inlet: number, ambient: number, roughness = RUBBER): Result<number> {
  const { flow, bore, length } = run;
  if (!(flow > 0 && bore > 0 && length >= 0 && inlet > 0 && ambient > 0))
    return refuse(
      'not-positive',
      'Flow, bore and pressure must be above zero, and the length not below it.',
      {
        bound: '> 0',
        remedy: 'Type them again.',
      },
    );
  const mass = (flow * ambient) / (R_AIR * ROOM_K);
  const area = (Math.PI * bore * bore) / 4;
  const f = frictionFactor((mass * bore) / (area * AIR_VISCOSITY), roughness / bore);
  const drive = (mass / area) ** 2 * R_AIR * ROOM_K;
  const p1 = inlet + ambient;
  let p2 = p1;
  for (let i = 0; i < 60; i++) {
    const square = p1 * p1 - drive * ((f * length) / bore + 2 * Math.log(p1 / p2));
    // Slower than sound at its end: what is under that does not pass.
    if (!(square > drive)) return cannotPass(inlet);
    const next = Math.sqrt(square);
    if (Math.abs(next - p2) < 1e-9 * p1) return accept(p1 - next);
    p2 = next;
  }
  return cannotPass(inlet);
}

const cannotPass = (inlet: number): Result<number> =>
  refuse('cannot-pass', `The hose cannot pass so much air from ${Math.round(inlet / 6894.757)} psi.`, {
    remedy: 'Take a wider or a shorter hose, or less air.',
  });

/**
 * Free air that a receiver takes or gives while its pressure changes, m³/s at the ambient pressure and its own temperature.
 * [the receiver equation of textbooks: V·ΔP / (Pa·t)]
 * @param volume m³
 * @param change of its pressure, Pa
 * @param ambient Pa absolute
 */
export const freeAir = (volume: number, change: number, seconds: number, ambient: number): number =>
  (volume * change) / (ambient * seconds);

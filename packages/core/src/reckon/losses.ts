import { accept, refuse, type Result } from '../result.js';
import { speedIn } from './pipe.js';

const WATER_DENSITY = 998.2;
/** Viscosity of water at 20 °C, Pa·s [IAPWS, from memory]. */
const WATER_VISCOSITY = 1.002e-3;
/** Below this the flow is laminar [textbook]. */
const LAMINAR = 2040;
const GRAVITY = 9.80665;

/** A run of pipe or hose: SI throughout. */
export interface Run {
  /** Flow, m³/s. */
  readonly flow: number;
  /** Bore, m. */
  readonly bore: number;
  /** Length, m. */
  readonly length: number;
}

/**
 * Friction factor of Darcy by Colebrook and White, solved by Newton's rule on 1/√f; laminar below a Reynolds number of 2 040.
 * @param reynolds above zero
 * @param relative roughness over bore, 0 for a smooth pipe
 */
export function frictionFactor(reynolds: number, relative: number): number {
  if (reynolds < LAMINAR) return 64 / reynolds;
  // Haaland's explicit form to begin at: within 2 %.
  let x = -1.8 * Math.log10((relative / 3.7) ** 1.11 + 6.9 / reynolds);
  for (let i = 0; i < 20; i++) {
    const inner = relative / 3.7 + (2.51 * x) / reynolds;
    const off = x + 2 * Math.log10(inner);
    const slope = 1 + (2 * 2.51) / (Math.LN10 * reynolds * inner);
    const next = x - off / slope;
    if (Math.abs(next - x) < 1e-14 * Math.abs(x)) return 1 / (next * next);
    x = next;
  }
  return 1 / (x * x);
}

const sound = ({ flow, bore, length }: Run): Result<Run> =>
  flow > 0 && bore > 0 && length >= 0
    ? accept({ flow, bore, length })
    : refuse('not-positive', 'Flow and bore must be above zero, and the length not below it.', {
        bound: '> 0',
        remedy: 'Type them again.',
      });

/**
 * Pressure lost in a run of pipe or hose with water at 20 °C, Pa. [Darcy and Weisbach; friction by Colebrook and White]
 * @param roughness of the wall, m; 0 for rubber and plastic
 */
export function darcyLoss(run: Run, roughness = 0): Result<number> {
  const ok = sound(run);
  if (!ok.ok) return ok;
  const { flow, bore, length } = ok.value;
  const speed = speedIn(flow, bore);
  const f = frictionFactor((WATER_DENSITY * speed * bore) / WATER_VISCOSITY, roughness / bore);
  return accept((f * length * WATER_DENSITY * speed * speed) / (2 * bore));
}

/**
 * Pressure lost in a run of water pipe by the rule of Hazen and Williams, Pa: h = 10.67 L Q^1.852 / (C^1.852 d^4.8704) in metres.
 * Good for water near 16 °C in pipes of two inches and more; it knows no viscosity. [handbooks; NFPA 13 has it in inches and gpm]
 * @param c 150 for plastic, 120 for new steel, 100 for old iron
 */
export function hazenWilliamsLoss(run: Run, c: number): Result<number> {
  const ok = sound(run);
  if (!ok.ok) return ok;
  if (!(c >= 40 && c <= 160))
    return refuse('roughness', `A C of ${c} is no pipe’s.`, {
      where: 'c',
      bound: '40 to 160',
      remedy: '150 for plastic, 120 for new steel, 100 for old iron.',
    });
  const { flow, bore, length } = ok.value;
  const head = (10.67 * length * flow ** 1.852) / (c ** 1.852 * bore ** 4.8704);
  return accept(WATER_DENSITY * GRAVITY * head);
}

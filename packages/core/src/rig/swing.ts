import type { Random } from './random.js';

/** A swing that is no pure one, as part of a rig's state: its phase, and how strongly it swings just now. */
export interface Swinging {
  phase: number;
  swing: number;
}

/** Before anything swings. */
export const STILL: Swinging = { phase: 0, swing: 1 };

const HURRIES = 0.4;
const GROWS = 0.5;
const LEAST = 0.4;

/** On by a step: it hurries and lags, grows and dies away, and comes back to its usual height in `settles_s`. */
export function swingOn(s: Swinging, dt: number, hz: number, settles_s: number, noise: Random): void {
  s.phase += 2 * Math.PI * hz * dt * (1 + HURRIES * noise.normal());
  s.swing += ((1 - s.swing) * dt) / settles_s + GROWS * Math.sqrt(dt) * noise.normal();
}

/** Where it stands, of its usual height. */
export const swungTo = ({ phase, swing }: Swinging): number =>
  Math.max(LEAST, Math.abs(swing)) * Math.sin(phase);

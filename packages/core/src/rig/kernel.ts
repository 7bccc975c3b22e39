import type { Rig } from './contract.js';

/** Fixed step of every rig, s. */
export const RIG_STEP_S = 0.01;

/**
 * Run a rig for some simulated seconds, sampling one gauge at a fixed interval.
 * @param every_s sampling interval, a multiple of the step; Infinity to sample nothing
 * @param take called with time (s) and shown pressure (Pa); returning true stops the run
 * @returns simulated seconds that passed
 */
export function runRig(
  rig: Rig,
  seconds: number,
  slot: string,
  every_s = Infinity,
  take: (t: number, p: number) => boolean | void = () => undefined,
): number {
  const steps = Math.round(seconds / RIG_STEP_S);
  const stride = Number.isFinite(every_s) ? Math.max(1, Math.round(every_s / RIG_STEP_S)) : 0;
  for (let i = 1; i <= steps; i++) {
    rig.step(RIG_STEP_S);
    if (stride > 0 && i % stride === 0 && take(rig.time, rig.gauge(slot)) === true) return i * RIG_STEP_S;
  }
  return steps * RIG_STEP_S;
}

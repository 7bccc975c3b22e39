// What the meter says of what is burnt.
import type { JobView, Plan } from '@firm-needle/core/procedure';
import { ambientAt } from '@firm-needle/core/quantity';

/**
 * Heat that goes to a burner while everything else is off: what passes the meter by what it holds, W.
 * @param volume one turn of the meter’s dial, m³ at the meter
 * @param heat J/m³ as metered
 * @param seconds that the turn took
 * @example inputOf(0.0283168, 38.4e6, 40) // 27 kW, or 92 700 Btu/h
 */
export const inputOf = (volume: number, heat: number, seconds: number): number => (volume * heat) / seconds;

/** Input as clocked last at this step, W; undefined where it was not, or its plate does not say what the gas holds. */
export function clocked(job: JobView, step: string): number | undefined {
  const { heat, meterTurn } = plated(job.plan);
  const seconds = job.state.observations.findLast((o) => o.body.at.key === step && o.body.answer === 'timed')
    ?.body.seconds;
  return heat === undefined || meterTurn === undefined || !seconds
    ? undefined
    : inputOf(meterTurn, heat, seconds);
}
const plated = (plan: Pick<Plan, 'plate'>) => ({
  heat: plan.plate['heat']?.value,
  meterTurn: plan.plate['meterTurn']?.value,
});
/** Whether there is anything to clock by. */
export const canClock = (job: JobView): boolean => {
  const { heat, meterTurn } = plated(job.plan);
  return heat !== undefined && meterTurn !== undefined;
};

/** From this height on a burner is derated, and by so much for each thousand feet of all of it [NFPA 54, from memory]. */
const FROM_M = 2000 * 0.3048;
const EACH_M = 1000 * 0.3048;
const DERATES = 0.04;
/** Part of its input that a burner has at a height: by its orifice and the book, and never by the manifold. */
export const derated = (altitude_m: number): number =>
  altitude_m <= FROM_M ? 1 : Math.max(0, 1 - (DERATES * altitude_m) / EACH_M);

/** The height at which the air stands at this pressure, m: the site's own, got back from its ambient pressure. */
export function heightOf(ambient: number): number {
  let [low, high] = [-400, 9000];
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    const at = ambientAt(middle);
    if (at.ok && at.value > ambient) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

// Which turns teach how a screw acts, and from which on.
import type { JobView } from '@firm-needle/core/procedure';
import { MOST_RISE, psi } from './parts.js';
import { wallScrew } from './state.js';
import { ceiling, everFollowed } from './losses.js';

/** The wall’s own gauge errs by so much [assumed: grade B]. */
const ITS_GAUGE = psi(4);

/** Above what the tank holds the wall follows the tank and not its knob: what was turned there teaches nothing. */
export function learnsFrom(job: JobView, adjuster: string): number {
  if (adjuster !== 'wall' && adjuster !== 'wallAlone') return 0;
  return (
    job.state.turns.findLast(
      (t) => t.body.adjuster === adjuster && (wideOpen(job, t.order) || silent(job, t.order, t.body.amount)),
    )?.order ?? 0
  );
}

/** It followed the tank, was turned down, and the wall hardly moved: it stood wide open all the while. */
function silent(job: JobView, order: number, amount: number): boolean {
  const all = job.readings('wallFlow');
  const before = all.findLast((r) => r.kept.order < order);
  const after = all.find((r) => r.kept.order > order);
  if (!everFollowed(job) || amount >= 0 || !before || !after) return false;
  const { perTurn } = job.adjuster(wallScrew(job)).prior;
  return before.value - after.value < HARDLY * Math.abs(amount) * perTurn;
}
/** Less than this part of what such a turn usually does. */
const HARDLY = 0.2;

/** At that moment the regulator stood wide open: over what the tank held, or far under what stands behind it when nothing flows. */
function wideOpen(job: JobView, order: number): boolean {
  const newestBefore = (setting: string) => job.readings(setting).findLast((r) => r.kept.order < order);
  const flows = newestBefore('wallFlow');
  if (!flows) return false;
  const top = ceiling(job);
  if (top !== undefined && flows.value > top - ITS_GAUGE) return true;
  const stands = newestBefore('wallLock');
  if (!stands) return false;
  const screw = wallScrew(job);
  const turnedSince = job.state.turns
    .filter((t) => t.body.adjuster === screw && t.order > stands.kept.order && t.order < order)
    .reduce((sum, t) => sum + t.body.amount, 0);
  return flows.value < stands.value + turnedSince * job.adjuster(screw).prior.perTurn - MOST_RISE;
}

import { waterAtValve } from '../shared/tank.js';
import type { JobView } from '@firm-needle/core/procedure';
import { DISPLAY_OFF } from './parts.js';

export { waterAtValve };

/** The newest answer to a question that is asked as found, or else once it runs. */
export const seen = (job: JobView, name: string): string | undefined => seenAt(job, name)?.body.answer;
const seenAt = (job: JobView, name: string) =>
  job.state.observations.findLast((o) => o.body.at.key.endsWith(`-${name}`));

const lastOf = (job: JobView, answer: string): number =>
  job.state.observations.filter((o) => o.body.answer === answer).at(-1)?.order ?? 0;
const lastRead = (job: JobView): number =>
  Math.max(0, ...['setPoint', 'fullDraw'].map((s) => job.readings(s).at(-1)?.kept.order ?? 0));

/** The needle swung at the last try to read it. */
export const hunts = (job: JobView): boolean => lastOf(job, 'hunts') > lastRead(job);

/** It never came up to the set point at a trickle. */
export const short = (job: JobView): boolean => lastOf(job, 'short') > lastRead(job);

/** A cause of the hunting was looked for, and none found; or one was found and mended, and it hunts still. */
export function unexplained(job: JobView): boolean {
  const why = job.state.observations.findLast((o) => o.body.at.key === 'why-hunts');
  return why !== undefined && hunts(job) && (why.body.answer === 'none' || lastOf(job, 'hunts') > why.order);
}

/** What the drive shows over what the gauge reads, Pa; undefined until both are known. */
export function displayOver(job: JobView): number | undefined {
  const shown = seenAt(job, 'display');
  const value = shown?.body.value?.value;
  if (!shown || value === undefined) return undefined;
  // Of what was read before, and after it until something was moved, the nearest: one of another gauge condemns no sensor.
  const moves = job.state.turns.map((t) => t.order).filter((order) => order > shown.order);
  const since = job.state.turns.findLast((t) => t.order < shown.order)?.order ?? 0;
  const apart = job
    .readings('setPoint')
    .filter((r) => r.kept.order > since && r.kept.order < Math.min(Infinity, ...moves))
    .map((r) => value - r.value);
  return apart.reduce<number | undefined>(
    (least, d) => (least === undefined || Math.abs(d) < Math.abs(least) ? d : least),
    undefined,
  );
}

/** The drive's own sensor tells it something else than the gauge. */
export const sensorOff = (job: JobView): boolean => Math.abs(displayOver(job) ?? 0) > DISPLAY_OFF;

/** What is programmed over what the gauge read, at the last reading before it was looked up, Pa. */
export function programmedOver(job: JobView): number | undefined {
  const looked = job.state.observations.findLast((o) => o.body.at.key === 'dry-run');
  const read = job.readings('setPoint').findLast((r) => r.kept.order < (looked?.order ?? 0));
  return looked?.body.value && read ? looked.body.value.value - read.value : undefined;
}

/** At full draw it stands lower than it should, with the pump at its most. */
export const outrun = (job: JobView): boolean => seen(job, 'at-most') === 'yes';

export const leaks = (job: JobView): boolean => seen(job, 'sleep') === 'runs';
/** It never sleeps, and nobody found why. */
export const runsOn = (job: JobView): boolean =>
  leaks(job) && !['leak', 'valve'].includes(seen(job, 'why-runs') ?? '');

/** Water moves in and the pressure is read, as often as it must be. */
export const held = (job: JobView): boolean => job.landed('setPoint') && job.proved('setPoint');
export const full = (job: JobView): boolean =>
  outrun(job) || (job.landed('fullDraw') && job.proved('fullDraw'));

/** Nothing that can be adjusted here will make it right. */
export const hopeless = (job: JobView): boolean =>
  waterAtValve(job) || unexplained(job) || sensorOff(job) || short(job) || stuck(job);

/** The drive's keys were tried, and the advisor says that more of it is useless. */
export function stuck(job: JobView): boolean {
  if (job.due('setPoint') || job.landed('setPoint') || !job.figure('setPoint', 'left')) return false;
  const { stop } = job.advice('keys');
  return stop !== null && stop !== 'not-read';
}

/** Where it wakes was not caught since the set point or the charge was changed. */
export function wakeDue(job: JobView): boolean {
  const moved = Math.max(job.lastMove('wake'), job.lastMove('precharge'));
  const last = Math.max(job.readings('wake').at(-1)?.kept.order ?? -1, lastOf(job, 'no-wake') || -1);
  return last < moved;
}

/** It sleeps, and where it wakes is still to be caught. */
export const wakeOwed = (job: JobView): boolean => seen(job, 'sleep') === 'sleeps' && wakeDue(job);

/** The tank was drained since the pump was last let come up. */
export function refillDue(job: JobView): boolean {
  const drained = Math.max(0, ...job.made('drain', 'open'));
  return drained > Math.max(lastRead(job), lastOf(job, 'hunts'), lastOf(job, 'short'));
}

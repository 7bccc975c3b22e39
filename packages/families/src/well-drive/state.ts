import { waterAtValve } from '../shared/soap.js';
import type { JobView } from '@firm-needle/core/procedure';
import { DISPLAY_OFF } from './parts.js';

export { waterAtValve };

type Noted = JobView['state']['observations'][number];

/** The newest answer to a question that is asked as found, or else once it runs. */
export const seen = (job: JobView, name: string): string | undefined => seenAt(job, name)?.body.answer;
const seenAt = (job: JobView, name: string): Noted | undefined =>
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

/** The newest look at the drive that says what it is told: in the one look at it, or by itself. */
const programme = (job: JobView) =>
  job.state.observations.findLast((o) => ['found-own', 'dry-run'].includes(o.body.at.key) && told(o));
const told = ({ body }: Noted): boolean => body.answer !== 'differs';

/** Nobody looked what it is told yet, or what was seen was another pressure on its display. */
export const programmeOwed = (job: JobView): boolean => programme(job) === undefined;

/** Its dry-run protection was seen to be off. */
export const unguarded = (job: JobView): boolean => programme(job)?.body.answer === 'off';

/** A figure of the drive's over what the gauge reads, Pa; undefined until both are known. */
function overGauge(job: JobView, looked: Noted | undefined): number | undefined {
  const value = looked?.body.value?.value;
  if (!looked || value === undefined) return undefined;
  // Of what was read before, and after it until something was moved, the nearest: one of another gauge condemns no sensor.
  const moves = job.state.turns.map((t) => t.order).filter((order) => order > looked.order);
  const since = job.state.turns.findLast((t) => t.order < looked.order)?.order ?? 0;
  const apart = job
    .readings('setPoint')
    .filter((r) => r.kept.order > since && r.kept.order < Math.min(Infinity, ...moves))
    .map((r) => value - r.value);
  return apart.reduce<number | undefined>(
    (least, d) => (least === undefined || Math.abs(d) < Math.abs(least) ? d : least),
    undefined,
  );
}

/** What the drive shows over what the gauge reads, Pa; undefined until both are known. */
export const displayOver = (job: JobView): number | undefined => overGauge(job, seenAt(job, 'display'));

/** What is programmed over what the gauge reads, Pa. */
export const programmedOver = (job: JobView): number | undefined => overGauge(job, programme(job));

/** The display was not looked at by itself, and the one look at the drive does not tell that it agrees with the gauge. */
export function displayOwed(job: JobView): boolean {
  if (seen(job, 'display') !== undefined) return false;
  const own = seenAt(job, 'own');
  return own?.body.answer !== 'on' || Math.abs(overGauge(job, own) ?? Infinity) > DISPLAY_OFF;
}

/** The drive's own sensor tells it something else than the gauge. */
export const sensorOff = (job: JobView): boolean => Math.abs(displayOver(job) ?? 0) > DISPLAY_OFF;

/** At full draw it stands lower than it should, with the pump at its most. */
export const outrun = (job: JobView): boolean => seen(job, 'at-most') === 'yes';

export const leaks = (job: JobView): boolean => seen(job, 'sleep') === 'runs';
/** What it stands lower at full draw than at a trickle, Pa; undefined where both are not known, or it holds. */
export function fallsBy(job: JobView): number | undefined {
  const [held, drawn] = [job.figure('setPoint', 'left'), job.figure('fullDraw', 'left')];
  if (!held || !drawn || job.landed('fullDraw') || drawn.value >= held.value) return undefined;
  return held.value - drawn.value;
}
/** It holds at a trickle and falls at full draw, read again, though it has speed to spare. */
export const droops = (job: JobView): boolean =>
  seen(job, 'at-most') === 'no' &&
  fallsBy(job) !== undefined &&
  job.landed('setPoint') &&
  job.landed('precharge') &&
  job.proved('fullDraw');
/** It never sleeps, and nobody found why. */
export const runsOn = (job: JobView): boolean =>
  leaks(job) && !['leak', 'valve'].includes(seen(job, 'why-runs') ?? '');

/** Water moves in and the pressure is read, as often as it must be. */
export const held = (job: JobView): boolean => job.landed('setPoint') && job.proved('setPoint');
export const full = (job: JobView): boolean =>
  outrun(job) || (job.landed('fullDraw') && job.proved('fullDraw'));

/** Nothing that can be adjusted here will make it right. */
export const hopeless = (job: JobView): boolean =>
  waterAtValve(job) || unexplained(job) || sensorOff(job) || short(job) || droops(job) || stuck(job);

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

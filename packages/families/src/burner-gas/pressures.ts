// The pressures: supply before appliance, each at rest or as it burns, and its cap back on.
import type { JobView } from '@firm-needle/core/procedure';
import { takenAt } from '../shared/seen.js';
import { DOUBT, hasLockUp, hasManifold } from './parts.js';
import {
  last,
  DIALS,
  noLight,
  over,
  had,
  starved,
  movesOf,
  lastTurn,
  since,
  range,
  MOST_TRIPS,
} from './seen.js';
import { covered, dialsDue } from './dials.js';

/** A cap or cover back on is the lock: what proves comes after it. */
export const capped = (job: JobView, id: 'supply' | 'appliance'): boolean =>
  takenAt(job, `cap-${id}`) > lastTurn(job, id);

const ownRests = (job: JobView, setting: string): boolean => had(job, setting) && job.rests(setting);

/** It was not seen to burn since it would not light. */
export const cannotFire = (job: JobView): boolean => {
  const said = noLight(job)?.order ?? 0;
  return said > 0 && !job.readings('supplyFlow').some((r) => r.kept.order > said);
};

/** It may be fired: it never failed to light, or what stood in its way was moved since, and stands where it should. */
export const mayFire = (job: JobView): boolean => {
  const said = noLight(job)?.order ?? 0;
  return (
    !cannotFire(job) ||
    (covered(job) &&
      Math.max(0, ...Object.values(DIALS).map((d) => lastTurn(job, d))) > said &&
      dialsDue(job).length === 0) ||
    (lastTurn(job, 'supply') > said && !job.unread('static') && job.rests('static'))
  );
};
/** The supply is set with nothing burning: it is not fired as it stands, or does not light and is out at rest. */
export const setAtRest = (job: JobView): boolean =>
  over(job) ||
  (cannotFire(job) && !mayFire(job) && had(job, 'static') && !job.unread('static') && !job.rests('static'));

/**
 * A pressure that is out is read once more before a screw is moved for it, and so is one that a turn brought away from where it is
 * wanted; on until two are of one mind.
 */
export const inDoubt = (job: JobView, setting: 'static' | 'manifold'): boolean => {
  const id = setting === 'static' ? 'supply' : 'appliance';
  const wanted = job.plan.values[setting];
  if (wanted === undefined || !had(job, setting) || job.unread(setting) || job.rests(setting)) return false;
  const all = job.readings(setting);
  const here = all
    .filter((r) => r.kept.order > lastTurn(job, id) && r.kept.body.state !== 'early')
    .map((r) => r.value);
  const [newest] = here.slice(-1);
  if (newest === undefined) return true;
  if (here.length >= MOST_TRIPS) return false;
  if (job.advice(id).stop === 'not-read') return true;
  if (here.length > 1) return range(here.slice(-2)) > DOUBT;
  const before = all.findLast((r) => r.kept.order < lastTurn(job, id))?.value;
  return before === undefined || Math.abs(newest - wanted) > Math.abs(before - wanted);
};

/** Supply: where it should be, capped, and read since, at rest and at full fire. */
export const fireUnread = (job: JobView): boolean => job.unread('supplyFlow') || !had(job, 'supplyFlow');

export const staticUnread = (job: JobView): boolean =>
  job.unread('static') || (!over(job) && inDoubt(job, 'static'));

export const supplyUnread = (job: JobView): boolean => staticUnread(job) || (!over(job) && fireUnread(job));

export const supplyWants = (job: JobView): boolean => !over(job) && !ownRests(job, 'static');

export const supplyDone = (job: JobView): boolean =>
  !over(job) &&
  !supplyUnread(job) &&
  ownRests(job, 'static') &&
  (movesOf(job, 'supply') === 0 ||
    (capped(job, 'supply') &&
      since(job, 'static', takenAt(job, 'cap-supply')) > 0 &&
      since(job, 'supplyFlow', takenAt(job, 'cap-supply')) > 0));

export const manifoldUnread = (job: JobView): boolean =>
  hasManifold(job.plan) &&
  (job.unread('manifold') ||
    !had(job, 'manifold') ||
    (!starved(job) && inDoubt(job, 'manifold')) ||
    sinceSupply(job, 'manifold'));

/** The supply was moved since: what follows it is read anew. */
const sinceSupply = (job: JobView, setting: string): boolean =>
  movesOf(job, 'supply') > 0 && since(job, setting, lastTurn(job, 'supply')) === 0;

export const lockUpDue = (job: JobView): boolean =>
  hasLockUp(job.plan) &&
  (since(job, 'lockUp', lastTurn(job, 'appliance')) === 0 || sinceSupply(job, 'lockUp'));

export const manifoldDone = (job: JobView): boolean =>
  !hasManifold(job.plan) ||
  starved(job) ||
  (!manifoldUnread(job) &&
    ownRests(job, 'manifold') &&
    !lockUpDue(job) &&
    (movesOf(job, 'appliance') === 0 ||
      (capped(job, 'appliance') && since(job, 'manifold', takenAt(job, 'cap-appliance')) > 0)));

/** How far the supply is moved at rest, turns, by its usual rate: nothing else can be asked of it. Over what the valve bears only down. */
export const byRate = (job: JobView): number => {
  const { prior, quantum, largest } = job.adjuster('supply');
  const [rest, wanted] = [last(job, 'static') ?? 0, job.plan.values['static'] ?? 0];
  const way = rest > wanted || over(job) ? -1 : 1;
  const steps = Math.max(1, Math.round(Math.abs(rest - wanted) / prior.perTurn / quantum));
  return way * Math.min(largest, steps * quantum);
};

/** Gas and fire are as they should be, or cannot be had until a dial is moved: the dials come next. */
export const pressuresDone = (job: JobView): boolean =>
  cannotFire(job) && !mayFire(job)
    ? !over(job) && !job.unread('static')
    : supplyDone(job) && manifoldDone(job);

/** A cap is due where its screw rests, and was turned and not capped since. */
export const capDue = (job: JobView, id: 'supply' | 'appliance'): boolean =>
  movesOf(job, id) > 0 &&
  !capped(job, id) &&
  (id === 'supply'
    ? !over(job) && !supplyUnread(job) && ownRests(job, 'static')
    : supplyDone(job) && !manifoldUnread(job) && ownRests(job, 'manifold'));

export const capOff = (job: JobView): boolean =>
  (['supply', 'appliance'] as const).some((id) => movesOf(job, id) > 0 && !capped(job, id));

/** The manifold stands where it should, its cap on. */
export const manifoldSet = (job: JobView): boolean =>
  !manifoldUnread(job) &&
  ownRests(job, 'manifold') &&
  (movesOf(job, 'appliance') === 0 || capped(job, 'appliance'));

import { ambientOf } from '@firm-needle/core/family';
import type { JobView } from '@firm-needle/core/procedure';
import { wasHad } from '../shared/found.js';
import { lastSeen, firstSaid } from '../shared/seen.js';
import { byWall, MORE_THAN_HOSE, parts, psi, read } from './parts.js';
import { leastAcross, overGun } from './plan.js';
import { hoseLoss } from './reckoned.js';

const { last } = parts;

/** The highest wall setting that the tank holds, Pa: under cut-in and under what is held at the trigger. */
export function ceiling(job: JobView): number | undefined {
  const held = [last(job, 'cutIn'), last(job, 'sustained')].flatMap((x) => (x === undefined ? [] : [x]));
  return held.length === 0 ? undefined : Math.min(...held) - leastAcross(job.plan);
}
/** The least that must stand at the wall: what the gun needs, its control, and what is lost on the way, as measured where it was. */
export function least(job: JobView): number {
  const planned = job.limits('wallFlow', 'left').lower ?? 0;
  const seen = lost(job);
  const { gunFlow } = job.plan.values;
  return seen === undefined || gunFlow === undefined
    ? planned
    : Math.max(planned, gunFlow + seen.atNeed + overGun(job.plan));
}
/** Lost between wall and gun with the gun’s control wide open, and what the hose takes of that, Pa; more flows then. */
export function lost(
  job: JobView,
): { readonly measured: number; readonly hose: number | undefined; readonly atNeed: number } | undefined {
  const [gun, wall] = [last(job, 'gunOpen'), last(job, 'wallOpen')];
  const ambient = ambientOf(job.started.site);
  const { need } = read(job.plan).plate;
  if (gun === undefined || wall === undefined || !ambient.ok || need === undefined) return undefined;
  if (!wasHad(job, 'gunOpen') || !wasHad(job, 'wallOpen')) return undefined;
  const part = (gun + ambient.value) / (need + ambient.value);
  // It goes by the square of what flows, and inversely by the pressure.
  const scale = (wall + gun + 2 * ambient.value) / (2 * part * part * (need + ambient.value) + 1);
  return {
    measured: wall - gun,
    hose: hoseLoss(job.plan, wall, ambient.value, part),
    atNeed: Math.max(0, (wall - gun) * Math.min(scale, 2)),
  };
}
/** Couplers or a kink take more than the hose is reckoned to. */
export function lossBig(job: JobView): boolean {
  const seen = lost(job);
  return seen?.hose !== undefined && seen.measured > 1.3 * seen.hose + MORE_THAN_HOSE;
}
/** The gun swung as the tank swung; not seen anew since the wall was turned. */
export const swung = (job: JobView): 'followed' | 'against' | 'stood' | undefined => {
  const seen = lastSeen(job, 'swing');
  return seen && seen.order > job.lastMove('wallFlow') ? (seen.body.answer as 'stood') : undefined;
};
export const everFollowed = (job: JobView) => firstSaid(job, 'swing', 'followed');
export const against = (job: JobView) => firstSaid(job, 'swing', 'against');
/** What the tank holds at the wall is less than what the gun needs there. */
export const windowEmpty = (job: JobView): boolean => {
  const top = ceiling(job);
  return top !== undefined && !byWall(job.plan) && top < least(job) - psi(3);
};

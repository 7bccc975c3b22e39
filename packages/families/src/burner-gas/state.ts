// Where the job stands: what is judged, what is decided, and when it is at its end.
import type { JobView } from '@firm-needle/core/procedure';
import { insidePlain } from '@firm-needle/core/verdict';
import { answerAt } from '../shared/seen.js';
import { hasManifold, MOST_MOVES, read, switchesOf, untripped } from './parts.js';
import { DIALS, last, bookDiffers, stopped, over, had, starved, movesOf } from './seen.js';
import {
  notMade,
  standsOpen,
  dialsDue,
  loose,
  tripDue,
  switchesDone,
  stuckDial,
  dialAdviceStops,
} from './dials.js';
import {
  cannotFire,
  manifoldDone,
  manifoldUnread,
  mayFire,
  setAtRest,
  supplyDone,
  supplyUnread,
} from './pressures.js';

export { answerAt, firstSaid, lastSeen } from '../shared/seen.js';
export * from './seen.js';
export * from './dials.js';
export * from './pressures.js';

/** What is planned and judged. */
export const judged = (job: JobView): readonly string[] => [
  'static',
  ...(hasManifold(job.plan) && !starved(job) ? ['manifold'] : []),
  ...switchesOf(job.plan).filter((x) => !untripped(job.plan, x)),
];

/** Nothing is out, and nothing could be brought more surely inside. */
export const allInside = (job: JobView): boolean =>
  !over(job) &&
  judged(job).every((x) =>
    job.finds
      ? had(job, x) && (job.verdict(x, 'found')?.word === 'in' || (plainly(job, x) && job.rests(x)))
      : job.landed(x),
  ) &&
  plainly(job, 'lockUp') &&
  !dialsDue(job).some((x) => untripped(job.plan, x));

/** Inside as it was found, or never had. */
const plainly = (job: JobView, setting: string): boolean => {
  const f = job.figure(setting, 'found');
  return f === undefined || insidePlain(f.value, job.limits(setting, 'found'));
};

export const decision = (job: JobView): 'adjust' | 'leave' | 'replace' | undefined => {
  const said = answerAt(job, 'decide');
  if (said !== undefined) return said as 'adjust';
  if (stopped(job) || !foundDone(job)) return undefined;
  return allInside(job) ? (job.finds ? 'leave' : 'adjust') : undefined;
};

/** Everything was read that could be, as it stands. */
export const foundDone = (job: JobView): boolean =>
  over(job) ||
  stopped(job) ||
  (judged(job).every((x) => had(job, x) || notMade(job, x) || (x === 'manifold' && cannotFire(job))) &&
    !switchesOf(job.plan).some((x) => tripDue(job, x)));

export const adjusting = (job: JobView): boolean => decision(job) === 'adjust';

/** Turning on is useless or unsafe: why. */
export function stuck(job: JobView): { readonly code: string; readonly because: string } | undefined {
  if (!adjusting(job)) return undefined;
  for (const x of switchesOf(job.plan)) {
    if (tripDue(job, x)) continue;
    const dial = stuckDial(job, x);
    if (dial) return dial;
    if (loose(job, x))
      return {
        code: 'dial-loose',
        because: `${job.adjuster(DIALS[x]).title}: what was not touched trips elsewhere each time.`,
      };
  }
  for (const [id, setting, unread] of [
    ['supply', 'static', supplyUnread(job)],
    ['appliance', 'manifold', manifoldUnread(job)],
  ] as const) {
    if (unread || over(job) || !judged(job).includes(setting) || job.rests(setting)) continue;
    if (movesOf(job, id) >= MOST_MOVES && !job.landed(setting))
      return {
        code: 'moves',
        because: `${job.adjuster(id).title}: moved ${MOST_MOVES} times, and it does not land.`,
      };
    const advice = job.advice(id);
    if (advice.stop !== null && !job.landed(setting)) return { code: advice.stop, because: advice.because };
  }
  if (over(job) && movesOf(job, 'supply') >= MOST_MOVES)
    return {
      code: 'moves',
      because: `Supply screw: moved ${MOST_MOVES} times, and it still stands over what the valve bears.`,
    };
  return dialAdviceStops(job);
}

export const proved = (job: JobView): boolean =>
  !cannotFire(job) && supplyDone(job) && manifoldDone(job) && switchesDone(job);

/** It would not light, and there is no dial left to move for that. */
export const neverLit = (job: JobView): boolean =>
  cannotFire(job) &&
  dialsDue(job).length === 0 &&
  !mayFire(job) &&
  !setAtRest(job) &&
  !switchesOf(job.plan).some((x) => tripDue(job, x));

export const hopeless = (job: JobView): boolean =>
  stopped(job) || stuck(job) !== undefined || bookDiffers(job) || neverLit(job);

export function settled(job: JobView): boolean {
  const decided = decision(job);
  if (decided === undefined) return stopped(job);
  return decided !== 'adjust' || hopeless(job) || proved(job);
}

/** Air is proved where the book says there is too little to burn: gas without air explodes. */
export const provesTooLittle = (job: JobView): boolean => {
  const [trips, least] = [last(job, 'airTrip'), read(job.plan).plate.airLeast];
  return trips !== undefined && least !== undefined && trips < least;
};

/** It stays shut at the end: what was found must not burn, or was moved and not read since. */
export const leftShut = (job: JobView): boolean =>
  stopped(job) ||
  cannotFire(job) ||
  standsOpen(job) !== undefined ||
  over(job) ||
  provesTooLittle(job) ||
  job.unread('static') ||
  job.unread('manifold') ||
  switchesOf(job.plan).some(
    (x) => loose(job, x) || (movesOf(job, DIALS[x]) > 0 && job.unread(x) && !untripped(job.plan, x)),
  );

// Where the job stands: what was seen, what is judged, and when turning is at its end.
import type { JobView } from '@firm-needle/core/procedure';
import { wasHad } from '../shared/found.js';
import { answerAt, lastSeen, stepAt, takenAt } from '../shared/seen.js';
import { adjusterOf, CREEP, isIndustrial, isPiston, judgedOf, MOST_SHIMS, psi, REPEATS } from './parts.js';
import { effectMost, stopOf } from './plan.js';
import { bestPack } from './shims.js';

export { answerAt };

/** Where it is brought up under pressure, and watched: the first time and once more. */
const UPS = ['low-up', 'low-up-again', 'full-up', 'full-up-again', 'rise-up', 'rise-up-again'] as const;
/** Turned, locked and proved at most so often. */
const MOST_ROUNDS = 3;
const MOST_MOVES = 6;
/** So many readings at low supply where the first two differ. */
export const MOST_REPEATS = 5;

const upSaid = (job: JobView): string | undefined => answerAt(job, ...UPS);
/** It ran past where it was to be stopped, seen on the way up or read there. */
export const ran = (job: JobView): boolean =>
  upSaid(job) === 'ran' ||
  (['ipFull', 'ipLow', 'stood'] as const).some((x) =>
    job.readings(x).some((r) => r.kept.order > job.lastMove(x) && r.value > stopOf(job.plan)),
  );
/** The relief opens though another was fitted. */
export const hissesStill = (job: JobView): boolean =>
  upSaid(job) === 'hisses' && lastSeen(job, ...UPS)?.body.at.key.endsWith('-again') === true;
/** A relief opened early in this job. */
export const hissed = (job: JobView): boolean =>
  job.state.observations.some((o) => o.body.answer === 'hisses');

export const wet = (job: JobView): boolean => answerAt(job, 'look') === 'wet';
export const soiled = (job: JobView): boolean => answerAt(job, 'look') === 'soiled';
export const soaped = (job: JobView): string | undefined => answerAt(job, 'soap', 'soap-again');
/** A joint was made again, and is loose still. */
export const leaksOut = (job: JobView): boolean =>
  soaped(job) === 'joint' && lastSeen(job, 'soap', 'soap-again')?.body.at.key.endsWith('-again') === true;
export const starved = (job: JobView): boolean => {
  const [dip, most] = [lastDip(job), job.limits('dip', 'left').upper ?? Infinity];
  return dip !== undefined && dip > most;
};
const last = (job: JobView, setting: string): number | undefined => job.readings(setting).at(-1)?.value;
/** The newest dip: what it stood at before it was purged is read after, so its own reading or the one before. */
function lastDip(job: JobView): number | undefined {
  const [full, purged] = [last(job, 'ipFull'), last(job, 'purging')];
  return full === undefined || purged === undefined ? undefined : full - purged;
}
/** It dips too far though its supply holds; known once it was watched: what rises on was read too high before it was purged. */
export const filter = (job: JobView): boolean =>
  answerAt(job, 'sag') === 'holds' &&
  starved(job) &&
  !rises(job) &&
  job.readings('stood').some((r) => r.kept.order > (lastSeen(job, 'sag')?.order ?? Infinity)) &&
  (crept(job) ?? 0) <= CREEP.used + psi(1);
/** It rises on: seen while it was watched, or while it was to be read. */
export const rises = (job: JobView): boolean =>
  answerAt(job, 'rises') === 'rises' ||
  job.state.observations.some((o) => o.body.answer === 'rises' && !stepAt(o.body.at.key, 'rises'));
/** How far it crept while it was watched, by the newest readings. */
export const crept = (job: JobView): number | undefined => {
  const [full, stood] = [last(job, 'ipFull'), last(job, 'stood')];
  return full === undefined || stood === undefined ? undefined : stood - full;
};

/** Readings at low supply since anything was last moved, that were waited for. */
const atLow = (job: JobView): readonly number[] =>
  job
    .readings('ipLow')
    .filter((r) => r.kept.order > job.lastMove('ipLow') && r.kept.body.state !== 'early')
    .map((r) => r.value);
const range = (x: readonly number[]): number => (x.length < 2 ? 0 : Math.max(...x) - Math.min(...x));
/** The first two differ: read until it is known whether it ever comes twice. */
export const differs = (job: JobView): boolean => {
  const x = atLow(job);
  return x.length > 1 && x.length < MOST_REPEATS && range(x) > REPEATS;
};
/** Read often, one that may have been a slip left out, and never twice the same. */
export function sticks(job: JobView): boolean {
  // Purged, it did not come up again: that is no slip of a hand either.
  if (job.state.observations.some((o) => ['never', 'stays'].includes(o.body.answer))) return true;
  const x = atLow(job);
  if (x.length < MOST_REPEATS) return false;
  const sorted = [...x].sort((a, b) => a - b);
  const middle = sorted[sorted.length >> 1] ?? 0;
  const near = [...sorted].sort((a, b) => Math.abs(a - middle) - Math.abs(b - middle)).slice(0, -1);
  return range(near) > REPEATS;
}

/** Full and low supply lie farther apart than parts that are in order let them. */
export function effectOut(job: JobView): boolean {
  const lows = atLow(job);
  const fulls = job
    .readings('ipFull')
    .filter((r) => r.kept.order > job.lastMove('ipFull') && r.kept.body.state !== 'early')
    .map((r) => r.value);
  if (lows.length < 2 || fulls.length === 0 || differs(job)) return false;
  // By the two that lie nearest: what sticks lies now here, now there.
  const apart = Math.min(...lows.flatMap((low) => fulls.map((full) => Math.abs(full - low))));
  const u = Math.max(...(['found', 'left'] as const).map((w) => job.figure('effect', w)?.budget.U ?? 0));
  return apart > effectMost(job.plan) + u;
}

/** What ends the work before anything is turned: it is no matter of a screw. */
export const stopped = (job: JobView): boolean =>
  wet(job) ||
  soiled(job) ||
  ran(job) ||
  hissesStill(job) ||
  soaped(job) === 'holes' ||
  leaksOut(job) ||
  filter(job) ||
  rises(job) ||
  sticks(job) ||
  effectOut(job) ||
  answerAt(job, 'open') === 'climbs' ||
  (isIndustrial(job.plan) && hissed(job)) ||
  answerAt(job, 'stands') === 'rises';

const DONE = ['ipFull', 'ipLow'] as const;
export const turned = (job: JobView): boolean => job.state.turns.length > 0;
const moves = (job: JobView): number => job.state.turns.length;
/** No pack of the shims at hand comes nearer. */
export const noPack = (job: JobView): boolean => isPiston(job.plan) && bestPack(job) === undefined;

/** It need not be turned further as far as is known; low supply is foreseen until it is read. */
export const landed = (job: JobView): boolean =>
  !job.due('ipFull') &&
  DONE.every((x) => (x === 'ipLow' && job.due(x)) || job.rests(x) || (job.landed(x) && noPack(job)));

/** Turning on is of no use, or not safe: why. */
export function stuck(job: JobView): { readonly code: string; readonly because: string } | undefined {
  if (decided(job) !== 'adjust' || landed(job) || job.due('ipFull')) return undefined;
  const { stop, because } = { because: '', ...job.advice(adjusterOf(job.plan)) };
  // What does not fit is read once more before anything ends on it.
  if (stop !== null && stop !== 'not-read') return { code: stop, because };
  if (noPack(job))
    return {
      code: 'no-pack',
      because: `No pack of at most ${MOST_SHIMS} of the shims at hand comes nearer.`,
    };
  if (moves(job) >= MOST_MOVES)
    return { code: 'moves', because: `Moved ${MOST_MOVES} times, and it does not land.` };
  return rounds(job) >= MOST_ROUNDS
    ? { code: 'rounds', because: `Locked and proved ${MOST_ROUNDS} times, and it does not stay.` }
    : undefined;
}
const rounds = (job: JobView): number =>
  [...(job.state.taken.get('cap-tight')?.values() ?? [])].flat().length;

export const toTurn = (job: JobView): boolean =>
  !hopeless(job) && !landed(job) && !job.due('ipFull') && job.advice(adjusterOf(job.plan)).stop === null;

export const hopeless = (job: JobView): boolean => stopped(job) || stuck(job) !== undefined;

/** Everything was read once. */
const had = (job: JobView): boolean => judgedOf(job.plan).every((x) => wasHad(job, x)) && !differs(job);

/** All stands where it should as it was found, and nothing would bring it more surely there. */
export const allInside = (job: JobView): boolean =>
  had(job) &&
  !stopped(job) &&
  (['creep', 'dip', 'stood', ...DONE] as const).every((x) => job.verdict(x, 'found')?.word !== 'out') &&
  DONE.every((x) => job.verdict(x, 'found')?.word === 'in' || job.rests(x) || noPack(job));

export const decided = (job: JobView): 'adjust' | 'leave' | 'replace' | undefined => {
  const said = answerAt(job, 'decide');
  if (said !== undefined) return said as 'adjust';
  if (isIndustrial(job.plan) || stopped(job) || !had(job)) return undefined;
  return job.finds ? (allInside(job) ? 'leave' : undefined) : 'adjust';
};

/** Read after everything was done, each inside, watched, tight. */
export const proved = (job: JobView): boolean =>
  takenAt(job, 'cap-tight') > 0 &&
  (['ipFull', 'ipLow', 'stood'] as const).every(
    (x) => readSince(job, x) && job.proved(x) && job.verdict(x, 'left')?.word !== 'out',
  ) &&
  (crept(job) ?? Infinity) <= (job.limits('creep', 'left').upper ?? Infinity) + psi(0.5) &&
  landed(job);
/** Read, as left, since its cap was on for the last time. */
const readSince = (job: JobView, setting: string): boolean =>
  job
    .readings(setting)
    .some((r) => r.kept.order > takenAt(job, 'cap-tight') && r.kept.body.at.phase === 'left');

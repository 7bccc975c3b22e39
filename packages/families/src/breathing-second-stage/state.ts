// Where the job stands: what was seen, how the draws agree, what is still to be turned.
import type { JobView } from '@firm-needle/core/procedure';
import { answerAt, lastSeen, stepAt, takenAt } from '../shared/seen.js';
import { DRAWS, inches, isFixed, LEVER_AFTER, read, SPREAD_MOST } from './parts.js';

export { answerAt };

const MOST_MOVES = 6;
const MOST_ROUNDS = 3;
const orders = (job: JobView, screw: string): readonly number[] =>
  job.state.turns.filter((t) => t.body.adjuster === screw).map((t) => t.order);
const lastOf = (x: readonly number[]): number => Math.max(0, ...x);

/** When anything was last changed that the effort hangs on: orifice, nut, cover. */
export const changedAt = (job: JobView): number =>
  Math.max(lastOf(orders(job, 'orifice')), lastOf(orders(job, 'nut')), takenAt(job, 'closed-up'));
export const turned = (job: JobView): boolean => job.state.turns.length > 0;

/** Draws since anything was changed, those taken early left out. */
export const draws = (job: JobView): readonly number[] =>
  job
    .readings('effort')
    .filter((r) => r.kept.order > changedAt(job) && r.kept.body.state !== 'early')
    .map((r) => r.value);
export const range = (x: readonly number[]): number => (x.length < 2 ? 0 : Math.max(...x) - Math.min(...x));
const spreadMost = (job: JobView): number => read(job.plan).plate.spreadMost ?? SPREAD_MOST;
/** The draws differ by more than they may; more are taken until it is known. */
export const differs = (job: JobView): boolean =>
  draws(job).length >= DRAWS.found && draws(job).length < DRAWS.doubt && range(draws(job)) > spreadMost(job);
/** So many draws, the farthest left out, and they differ still. */
export function scatters(job: JobView): boolean {
  const x = [...draws(job)].sort((a, b) => a - b);
  if (x.length < DRAWS.doubt) return false;
  const middle = x[x.length >> 1] ?? 0;
  return (
    range(x.toSorted((a, b) => Math.abs(a - middle) - Math.abs(b - middle)).slice(0, -1)) > spreadMost(job)
  );
}

export const cracked = (job: JobView): boolean => answerAt(job, 'look') === 'cracked';
export const caseLeaks = (job: JobView): boolean =>
  answerAt(job, 'case-which', 'case-which-again') === 'none' ||
  (answerAt(job, 'case-again') === 'sinks' && answerAt(job, 'case') === 'sinks');
/** Something of the case was seen to, and it holds. */
export const caseMended = (job: JobView): string | undefined => {
  const which = answerAt(job, 'case-which');
  return which === undefined || which === 'none' ? undefined : which;
};

/** What its line stands at by the newest reading, outside what it wants; or it climbs. */
export const firstOut = (job: JobView): boolean => {
  const ip = job.readings('ip').at(-1);
  if (answerAt(job, 'ip-risen') === 'risen' || answerAt(job, 'back-up') === 'other') return true;
  if (job.state.observations.some((o) => o.body.answer === 'climbs')) return true;
  if (!ip) return false;
  const { lower = -Infinity, upper = Infinity } = job.limits('ip', 'left');
  return ip.value < lower || ip.value > upper;
};

/** How the job on its first stage ended last, where that proved nothing: nobody breathes from what hangs on it. */
export const firstUnproved = (job: JobView): string | undefined => {
  const first = job.started.links?.['first'];
  const signed = first?.signed;
  if (
    !first ||
    !signed ||
    (signed.proved && (signed.outcome === 'set' || signed.outcome === 'left-as-found'))
  )
    return undefined;
  return `${first.name} ${signed.outcome === 'replace' ? 'is to be rebuilt' : 'was left unfinished, or not proved'}.`;
};

/** It was never silent, wherever the orifice stood. */
export const seatCut = (job: JobView): boolean =>
  job.state.turns.some(
    ({ body }) =>
      body.reached === false && (body.adjuster === 'orifice' || stepAt(body.at.key, 'nut-silence')),
  );
/** It leaks gas at rest. */
export const hissing = (job: JobView): boolean => {
  const last = lastSeen(job, 'listen', 'silent', 'strong');
  const sought = lastOf(
    job.state.turns
      .filter((t) => t.body.adjuster === 'orifice' && t.body.reached === true)
      .map((t) => t.order),
  );
  return last?.body.answer === 'hisses' && sought < last.order;
};
export const hissed = (job: JobView): boolean =>
  job.state.observations.some((o) => o.body.answer === 'hisses');
export const weak = (job: JobView): boolean => {
  const last = lastSeen(job, 'listen', 'strong');
  return last?.body.answer === 'weak';
};
/** Its lever never comes to the hiss. */
export const bent = (job: JobView): boolean =>
  job.state.turns.some((t) => stepAt(t.body.at.key, 'nut-hiss') && t.body.reached === false);

export const stopped = (job: JobView): boolean =>
  cracked(job) ||
  caseLeaks(job) ||
  firstOut(job) ||
  seatCut(job) ||
  bent(job) ||
  scatters(job) ||
  leverStays(job) ||
  parts(job);
const leverStays = (job: JobView): boolean =>
  job.state.observations.filter((o) => stepAt(o.body.at.key, 'strong') && o.body.answer !== 'yes').length > 2;
/** Out, and nothing on it that adjusts it. */
export const parts = (job: JobView): boolean =>
  isFixed(job.plan) &&
  draws(job).length >= DRAWS.found &&
  !differs(job) &&
  !scatters(job) &&
  !weak(job) &&
  !hissing(job) &&
  !job.landed('effort');

export const effortDue = (job: JobView): boolean => draws(job).length === 0;
/** It stands inside, or no move would bring it more surely there. */
export const landed = (job: JobView): boolean =>
  !effortDue(job) && !hissing(job) && (job.rests('effort') || (isFixed(job.plan) && job.landed('effort')));

/** The lever is due: its purge is weak, it hisses where only the nut moves, or the orifice moved since. */
export function leverDue(job: JobView): boolean {
  if (stopped(job)) return false;
  if (weak(job) || (isFixed(job.plan) && hissing(job))) return true;
  return Math.abs(movedSinceNut(job)) > LEVER_AFTER + 1e-9;
}
/** How far the orifice moved in since the lever was last set, turns. */
const movedSinceNut = (job: JobView): number => {
  const since = lastOf(orders(job, 'nut'));
  return job.state.turns
    .filter((t) => t.body.adjuster === 'orifice' && t.order > since)
    .reduce((sum, t) => sum + t.body.amount, 0);
};
/** It hisses after a turn outward though it opened stiff enough: the orifice took the lever with it, and that is set before anything is turned on. */
export const leverBetween = (job: JobView): boolean =>
  hissing(job) && movedSinceNut(job) < 0 && (job.state.turns.at(-1)?.body.amount ?? 0) < 0 && stiffLast(job);
const stiffLast = (job: JobView): boolean =>
  (job.readings('effort').at(-1)?.value ?? 0) > (job.limits('effort', 'left').lower ?? Infinity);

export function stuck(job: JobView): { readonly code: string; readonly because: string } | undefined {
  if (decided(job) !== 'adjust' || isFixed(job.plan) || landed(job) || effortDue(job) || hissing(job))
    return undefined;
  const advice = job.advice('orifice');
  if (advice.stop !== null && advice.stop !== 'not-read')
    return { code: advice.stop, because: advice.because };
  if (orders(job, 'orifice').length >= 2 * MOST_MOVES)
    return { code: 'moves', because: `Moved ${orders(job, 'orifice').length} times, and it does not land.` };
  return rounds(job) >= MOST_ROUNDS
    ? { code: 'rounds', because: `Closed up and proved ${MOST_ROUNDS} times, and it does not stay.` }
    : undefined;
}
const rounds = (job: JobView): number =>
  [...(job.state.taken.get('closed-up')?.values() ?? [])].flat().length;
export const hopeless = (job: JobView): boolean => stopped(job) || stuck(job) !== undefined;

export const toTurn = (job: JobView): boolean =>
  !hopeless(job) &&
  !isFixed(job.plan) &&
  !landed(job) &&
  !effortDue(job) &&
  !hissing(job) &&
  job.advice('orifice').stop === null;

/** Everything was read as it was found. */
const had = (job: JobView): boolean =>
  hissing(job) ||
  weak(job) ||
  (draws(job).length >= DRAWS.found && !differs(job) && job.readings('ip').length > 0);
export const allInside = (job: JobView): boolean =>
  had(job) &&
  !hissing(job) &&
  !weak(job) &&
  job.verdict('effort', 'found')?.word !== 'out' &&
  (job.verdict('effort', 'found')?.word === 'in' || job.rests('effort') || isFixed(job.plan));

export const decided = (job: JobView): 'adjust' | 'leave' | 'replace' | undefined => {
  const said = answerAt(job, 'decide');
  if (said !== undefined) return said as 'adjust';
  if (stopped(job)) return undefined;
  // What hissed or was weak is adjusted without being asked; silent and strong again, that is still what is done.
  if (turned(job)) return 'adjust';
  if (!had(job)) return undefined;
  return job.finds ? (allInside(job) ? 'leave' : hissing(job) || weak(job) ? 'adjust' : undefined) : 'adjust';
};

const inside = (job: JobView): boolean => job.verdict('effort', 'left')?.word !== 'out';
/** Closed up, and drawn so often since, all of it alike and inside, silent, its purge strong. */
export const proved = (job: JobView): boolean => {
  const closed = takenAt(job, 'closed-up');
  const left = job.readings('effort').filter((r) => r.kept.order > closed && r.kept.body.at.phase === 'left');
  const listened = lastSeen(job, 'listen');
  return (
    closed > 0 &&
    left.length >= DRAWS.left &&
    job.proved('effort') &&
    inside(job) &&
    !differs(job) &&
    listened?.body.answer === 'silent' &&
    listened.order > closed &&
    !firstOut(job)
  );
};
/** The gauge was hurt: its zero moved far in this job. */
export const gaugeHurt = (job: JobView): boolean => {
  const zeros = (job.state.zeros.get('suction') ?? []).map((z) => z.body.before.value);
  return zeros.length > 1 && Math.abs((zeros.at(-1) ?? 0) - (zeros[0] ?? 0)) > inches(0.15);
};

/** The lever was set: how the orifice moved the effort before says nothing of how it does now. */
export const learnsFrom = (job: JobView): number => lastOf(orders(job, 'nut'));

import type { JobView } from '@firm-needle/core/procedure';
import { insidePlain } from '@firm-needle/core/verdict';
import {
  atChurn,
  COUNTED,
  FASTER,
  FINE,
  pilotAt,
  rateOf,
  SETS,
  triedSince,
  turnsToPlan,
} from './reckoned.js';
import { LEAST_MARGIN, OVERSPEED, psi, RATE_BAND, read } from './parts.js';

export const answer = (job: JobView, name: string): string | undefined =>
  job.state.observations.findLast((o) => o.body.at.key === name)?.body.answer;

/** How a search by a step ended; undefined where it was not made. */
export const sought = (job: JobView, key: string): boolean | undefined =>
  job.state.turns.findLast((t) => t.body.at.key === key)?.body.reached;

/** Speed over the governed speed of the plate; undefined where one of them is not known. */
export function speedOver(job: JobView): number | undefined {
  const seen = job.state.observations.findLast((o) => o.body.at.key === 'speed')?.body.value;
  const governed = job.plan.plate['speed']?.value;
  return seen && governed !== undefined ? seen.value / governed : undefined;
}

/** The governor lets it run faster than a governor of a fire pump may: a few per cent over [common practice, no source]. */
export const overspeeds = (job: JobView): boolean => (speedOver(job) ?? 1) > 1 + (OVERSPEED - 1) / 2;

/** It runs with the pilot screwed well up: the seat does not close. */
export const weepsUp = (job: JobView): boolean =>
  answer(job, 'dry-up') === 'runs' || sought(job, 'up-dry') === false;
/** It was let run, and would not close again. */
export const staysOpen = (job: JobView): boolean =>
  sought(job, 'edge-closes') === false || answer(job, 'dry-left') === 'runs';
export const leaks = (job: JobView): boolean => weepsUp(job) || staysOpen(job);

/** The plan asks for no more than a look, and it was dry: its opening is not measured this time. */
export const lookedOnly = (job: JobView): boolean =>
  read(job.plan).choice.check === 'look' && job.finds && answer(job, 'dry-found') === 'dry';

/** It ran at churn as it was found, at a speed that is right, and stopped as the pilot was turned up: its margin was none. */
export const ranAtChurn = (job: JobView): boolean =>
  answer(job, 'dry-found') === 'runs' && !leaks(job) && !overspeeds(job);

/** The pilot came to the end of its travel and the outlet stayed dry; what was found. */
export const whyDry = (job: JobView): string | undefined => answer(job, 'why-dry');
export const neverOpens = (job: JobView): boolean => whyDry(job) === 'end' || whyDry(job) === 'none';

/** The gauge falls far more than a relief that just runs can make it: it stands on the cover. */
export function onCover(job: JobView): boolean {
  const [runs, churn] = [job.readings('runs').at(-1), job.readings('churn')[0]];
  return runs !== undefined && churn !== undefined && runs.value < COVER_PART * churn.value;
}
const COVER_PART = 0.8;

export const traced = (job: JobView): string | undefined => answer(job, 'trace');

/** It just closed at churn, and was read as something else: another gauge, or another figure. */
export const closesOff = (job: JobView): boolean => {
  const [closes, churn] = [job.readings('closes').at(-1), atChurn(job, 'churn')];
  return closes !== undefined && churn !== undefined && Math.abs(closes.value - churn.value) > SAME;
};
const SAME = psi(4);

/** A turn does something else than the table of the spring says. */
export function wrongSpring(job: JobView): boolean {
  const here = job.figure('perTurn', 'left');
  const table = job.plan.plate['perTurn']?.value;
  return here !== undefined && table !== undefined && Math.abs(here.value / table - 1) > RATE_BAND;
}

/** The pump's own highest pressure leaves no room for the least margin under the weakest component's rating. */
export function noRoom(job: JobView): boolean {
  if (implausible(job)) return false;
  const normal = atChurn(job, 'normal');
  const rating = job.plan.plate['rating']?.value;
  return (
    normal !== undefined && rating !== undefined && rating - normal.value - normal.budget.U < LEAST_MARGIN
  );
}

export const hopeless = (job: JobView): boolean =>
  implausible(job) ||
  noRoom(job) ||
  overspeeds(job) ||
  leaks(job) ||
  neverOpens(job) ||
  wrongSpring(job) ||
  (onCover(job) && traced(job) === 'upstream');

/**
 * Read often enough: twice where something is reckoned from it, or a pump would be condemned by it; once for a look. What does not agree
 * is read again.
 */
export function churnRead(job: JobView): boolean {
  const n = (s: string): number => job.readings(s).length;
  const both = Math.min(n('suction'), n('churn'));
  if (leaks(job) || (lookedOnly(job) && !noRoom(job) && !overspeeds(job))) return both >= 1;
  return both >= MOST_READINGS || (job.proved('suction') && job.proved('churn') && !implausible(job));
}
const MOST_READINGS = 4;

/** Churn less suction is far from what the plate says of the pump: what was read was not that. */
export function implausible(job: JobView): boolean {
  const [churn, suction] = [atChurn(job, 'churn'), atChurn(job, 'suction')];
  const plated = job.plan.plate['churn']?.value;
  return (
    churn !== undefined &&
    suction !== undefined &&
    plated !== undefined &&
    Math.abs((churn.value - suction.value) / plated - 1) > PLAUSIBLE
  );
}
/** No pump that runs at its speed is farther from its plate [common practice, no source]. */
const PLAUSIBLE = 0.3;

/** The pilot was moved, and not brought back to its mark last: a count that says nought may be a miscount. */
export function offItsMark(job: JobView): boolean {
  const last = job.state.turns.findLast((t) => t.body.adjuster === 'pilot');
  return last !== undefined && !BACK.has(last.body.at.key);
}
const BACK = new Set(['restore-pilot', 'as-found', 'put-back']);

/** What stands as found is right: found dry at churn, its margin within limits, though it may be near them, its opening surely under the weakest rating. */
export const foundRight = (job: JobView): boolean => {
  if (!job.finds) return false;
  const margin = job.figure('margin', 'found');
  const word = job.verdict('margin', 'found')?.word;
  const opening = job.verdict('opening', 'found')?.word;
  if (!margin) return false;
  // Outside by less than half its doubt: that it is wrong is not shown, and a relief that is right is not moved.
  const { lower = -Infinity, upper = Infinity } = job.limits('margin', 'found');
  const slack = margin.budget.U / 2;
  const inside = insidePlain(margin.value, { lower: lower - slack, upper: upper + slack });
  return (word === 'in' || (word === 'near' && inside)) && (opening === undefined || opening === 'in');
};

/**
 * The pilot was moved after the search, and stands elsewhere than found; a new one had no place to be found in. Set more than once it was
 * not turned as it was counted: a count of nought says nothing then.
 */
export const wasSet = (job: JobView): boolean =>
  timesSet(job) > 0 && (!job.finds || pilotAt(job) !== 0 || timesSet(job) > 1);

const timesSet = (job: JobView): number => job.state.turns.filter((t) => SETS.has(t.body.at.key)).length;

/** It was seen to open by its last proof. */
export const seenToOpen = (job: JobView): boolean =>
  job.state.turns.findLast((t) => COUNTED.has(t.body.at.key) || FASTER.has(t.body.at.key))?.body.reached ===
  true;

/** No oftener than this: what is still elsewhere then is no slip of a hand. */
const MOST_SETS = 4;

/** Seen to open where it was set to: within its limits, or no fine movement would bring it nearer. */
function opensAsSet(job: JobView): boolean {
  const margin = job.figure('margin', 'left');
  if (!margin) return false;
  const inside =
    insidePlain(margin.value, job.limits('margin', 'left')) && job.verdict('opening', 'left')?.word !== 'out';
  return (inside && seenToOpen(job)) || Math.abs(turnsToPlan(job) ?? 0) < 1.5 * FINE;
}

/** Set so often, and it opened elsewhere every time. */
export const neverAsSet = (job: JobView): boolean => timesSet(job) >= MOST_SETS && !opensAsSet(job);

/**
 * It opens where it was set to, as its proof has it: else it is set again from where it was seen to open, and proved again, for a turn may
 * have gone too far.
 */
export const setRight = (job: JobView): boolean =>
  hopeless(job) ||
  !triedSince(job) ||
  turnsToPlan(job) === undefined ||
  timesSet(job) >= MOST_SETS ||
  opensAsSet(job);

export { pilotAt, rateOf };

import { combine } from '@firm-needle/core/gauge';
import type { Derived, JobView } from '@firm-needle/core/procedure';

/** Which edge of the window: where it just closes at low speed, or where it just opens with the pumps off. */
export type Edge = 'closes' | 'opens';
type When = 'found' | 'left';

/** A hand on a stopwatch, s, standard [common practice, no source: ± 0.3 s]. */
const TAPPED_S = 0.15;
/** An edge is known to half a click to either side. */
const CLICK_U = 1 / Math.sqrt(12);

/** The last turn that ended at an edge: its key says which. */
const edgeTurn = (job: JobView, edge: Edge) =>
  job.state.turns.filter((t) => t.body.at.key === `edge-${edge}`).at(-1);

/** Whether an edge was sought last and not come to: the wheel was turned to its end. */
export const missed = (job: JobView, edge: Edge): boolean => edgeTurn(job, edge)?.body.reached === false;

/** Wheel position at an edge, clicks clockwise of where it was found; undefined until it was come to. */
export function edgeAt(job: JobView, edge: Edge): number | undefined {
  const turn = edgeTurn(job, edge);
  if (!turn || turn.body.reached !== true) return undefined;
  return job.state.turns
    .filter((t) => t.order <= turn.order && t.body.adjuster === 'wheel')
    .reduce((sum, t) => sum + t.body.amount, 0);
}

/** Where the wheel stands now, clicks clockwise of where it was found. */
export const position = (job: JobView): number => job.netTurns('wheel');

/** Clicks between the edges. */
export function windowOf(job: JobView): number | undefined {
  const [a, b] = [edgeAt(job, 'closes'), edgeAt(job, 'opens')];
  return a === undefined || b === undefined ? undefined : a - b;
}

const clicks = (value: number, u: number, ids: readonly string[] = []): Derived => ({
  value,
  n: 1,
  ids,
  budget: combine([{ name: 'resolution', because: 'counted in whole clicks', u, dof: Infinity }]),
});

export const derivedEdge =
  (edge: Edge) =>
  (job: JobView, when: When): Derived | undefined => {
    const at = edgeAt(job, edge);
    return at === undefined || when === 'found' ? undefined : clicks(at, CLICK_U);
  };

/** Where the wheel was left; counted, so without doubt. */
export const derivedWheel = (job: JobView, when: When): Derived | undefined =>
  when === 'left' && job.state.turns.length > 0 ? clicks(position(job), 0) : undefined;

export function derivedWindow(job: JobView, when: When): Derived | undefined {
  const window = windowOf(job);
  return window === undefined || when === 'found' ? undefined : clicks(window, CLICK_U * Math.SQRT2);
}

/** Clicks that are left to each edge, closing and opening: from where it was found, or from where it stands. */
function leftTo(job: JobView, when: When): readonly [closing: number, opening: number] | undefined {
  const [a, b] = [edgeAt(job, 'closes'), edgeAt(job, 'opens')];
  if (a === undefined || b === undefined) return undefined;
  const at = when === 'found' ? 0 : position(job);
  return [a - at, at - b];
}

export const derivedLeft =
  (edge: Edge) =>
  (job: JobView, when: When): Derived | undefined => {
    const left = leftTo(job, when);
    return left && clicks(left[edge === 'closes' ? 0 : 1], CLICK_U);
  };

/** Clicks to the nearer edge. */
export function derivedMargin(job: JobView, when: When): Derived | undefined {
  const left = leftTo(job, when);
  return left && clicks(Math.min(...left), CLICK_U);
}

/** Seconds from all pumps off to open, of the first stopwatch or of the last. */
export function derivedDelay(job: JobView, when: When): Derived | undefined {
  const all = job.state.observations.filter(
    (o) => o.body.answer === 'opened' && o.body.seconds !== undefined && o.body.at.phase === when,
  );
  const last = when === 'found' ? all[0] : all.at(-1);
  const seconds = last?.body.seconds;
  if (!last || seconds === undefined) return undefined;
  return {
    value: seconds,
    n: 1,
    ids: [last.id],
    budget: combine([{ name: 'resolution', because: 'a hand on the stopwatch', u: TAPPED_S, dof: Infinity }]),
  };
}

/** The newest answer at a step, over all passes. */
export const answerAt = (job: JobView, key: string): string | undefined =>
  job.state.observations.filter((o) => o.body.at.key === key).at(-1)?.body.answer;

/** A cause of low flow that was found and mended. */
export const mended = (job: JobView): readonly string[] =>
  job.state.observations
    .filter((o) => CAUSES.has(o.body.at.key))
    .map((o) => o.body.answer)
    .filter((a) => a !== 'good' && a !== 'none');

const CAUSES = new Set(['before', 'before-wheel', 'cause']);

/** It never heats: whether the switch closes at all is looked at before filter and flow. */
export const switchFirst = (job: JobView): boolean => answerAt(job, 'symptom') === 'never';

/** What the meter said last with water moving slowly, or how it opened, as found or where the wheel stands now; nothing since something was mended. */
export function last(
  job: JobView,
  what: 'low' | 'off',
): 'closed' | 'open' | 'in-time' | 'late' | 'stays' | undefined {
  const mendedAt = job.state.observations.findLast((o) => o.body.at.key === 'cause')?.order ?? 0;
  const seen = job.state.observations.findLast((o) => o.order > mendedAt && ASKED[what].has(o.body.at.key));
  if (!seen) return undefined;
  if (what === 'low') return seen.body.answer === 'closed' ? 'closed' : 'open';
  if (seen.body.answer === 'stays') return 'stays';
  return (seen.body.seconds ?? 0) <= (job.plan.limits['delay']?.upper ?? Infinity) ? 'in-time' : 'late';
}
const ASKED = {
  low: new Set(['found-low', 'found-low-mended', 'prove-low', 'prove-low-again']),
  off: new Set(['found-off', 'prove-off']),
} as const;

/** Proved where it stands: closed with water moving, open in time without it. */
export const placeWorks = (job: JobView): boolean => {
  const moved = job.state.turns.at(-1)?.order ?? 0;
  const high = job.state.observations.findLast((o) => o.body.at.key === 'prove-high');
  const off = job.state.observations.findLast((o) => o.body.at.key === 'prove-off');
  return (
    off !== undefined &&
    off.order > moved &&
    last(job, 'low') === 'closed' &&
    last(job, 'off') === 'in-time' &&
    high?.body.answer !== 'open'
  );
};

/** Times that the wheel was moved to another place by the quick school. */
export const tries = (job: JobView): number => quick(job).length;
const quick = (job: JobView) => job.state.turns.filter((t) => t.body.at.key.startsWith('first-'));

/** Closed nowhere, or to and fro without a place for both: the flow is looked at. */
export function goesRound(job: JobView): boolean {
  const mendedAt = job.state.observations.findLast((o) => o.body.at.key === 'cause')?.order ?? 0;
  const since = quick(job).filter((t) => t.order > mendedAt && t.body.reached !== undefined);
  return since.length >= 2 || since.some((t) => t.body.at.key === 'first-closes' && t.body.reached === false);
}

/** It stayed closed to the clockwise end of the wheel: nothing of the wheel will open it. */
export const stuck = (job: JobView): boolean =>
  job.state.turns.some((t) => OPENING.has(t.body.at.key) && t.body.reached === false);
const OPENING = new Set(['edge-closes-back', 'edge-opens', 'first-opens']);

/**
 * An answer that cannot be true beside an earlier one: closed was seen at low speed farther clockwise than open was, by more than the
 * switch's own play.
 */
export function contradiction(job: JobView): { readonly open: number; readonly closed: number } | undefined {
  const edge = edgeAt(job, 'closes');
  const prove = job.state.observations.filter((o) => o.body.at.key === 'prove-low').at(-1);
  if (edge === undefined || prove?.body.answer !== 'open') return undefined;
  const at = job.state.turns
    .filter((t) => t.order < prove.order && t.body.adjuster === 'wheel')
    .reduce((sum, t) => sum + t.body.amount, 0);
  return at < edge - PLAY ? { open: at, closed: edge } : undefined;
}

/** Clicks between closing and opening that any switch of this kind may have. */
const PLAY = 1;

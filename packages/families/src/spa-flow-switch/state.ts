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

/** Clicks to the nearer edge: from where it was found, or from where it stands. */
export function derivedMargin(job: JobView, when: When): Derived | undefined {
  const [a, b] = [edgeAt(job, 'closes'), edgeAt(job, 'opens')];
  if (a === undefined || b === undefined) return undefined;
  const at = when === 'found' ? 0 : position(job);
  return clicks(Math.min(a - at, at - b), CLICK_U);
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
    .filter((o) => o.body.at.key === 'before' || o.body.at.key === 'cause')
    .map((o) => o.body.answer)
    .filter((a) => a !== 'good' && a !== 'none');

/** It stayed closed to the clockwise end of the wheel: nothing of the wheel will open it. */
export const stuck = (job: JobView): boolean =>
  job.state.turns.some((t) => OPENING.has(t.body.at.key) && t.body.reached === false);
const OPENING = new Set(['edge-closes-back', 'edge-opens']);

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

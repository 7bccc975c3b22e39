import type { JobView } from '@firm-needle/core/procedure';
import { answerAt, stepAt } from '../shared/seen.js';
import { psi } from './parts.js';

export { answerAt };

/** The needle swung at the last try to read it. */
export function hunts(job: JobView): boolean {
  const last = job.state.observations.filter((o) => o.body.answer === 'hunts').at(-1);
  return last !== undefined && !job.readings('flowing').some((r) => r.kept.order > last.order);
}

/** A cause was looked for since it last hunted or did not follow, and none found. */
export const unexplained = (job: JobView): boolean =>
  answerAt(job, 'why-hunts') === 'none' || answerAt(job, 'why-still') === 'none';

/** What was found and mended. */
export const mended = (job: JobView): readonly string[] =>
  job.state.observations
    .filter((o) => stepAt(o.body.at.key, 'why-hunts') || stepAt(o.body.at.key, 'why-still'))
    .map((o) => o.body.answer)
    .filter((a) => a !== 'none');

/** Read again and again without a turn that could be advised: nothing at hand will bring it in. */
export function refused(job: JobView): boolean {
  const moved = job.lastMove('flowing');
  const since = job.readings('flowing').filter((r) => r.kept.order > moved).length;
  return since >= MOST_READINGS && !job.landed('flowing');
}
const MOST_READINGS = 4;

/** Two turns since something was last mended, and the outlet followed neither. */
export function still(job: JobView): boolean {
  const looked = job.state.observations.filter((o) => o.body.at.key === 'why-still').at(-1)?.order ?? 0;
  const all = job.readings('flowing');
  const moves = job.state.turns
    .filter((t) => t.body.adjuster === 'pilot' && t.order > looked)
    .flatMap((t, i, list) => {
      const next = list[i + 1]?.order ?? Infinity;
      const before = all.filter((r) => r.kept.order < t.order).at(-1);
      const after = all.find((r) => r.kept.order > t.order && r.kept.order < next);
      return before && after ? [{ turned: t.body.amount, moved: after.value - before.value }] : [];
    })
    .slice(-2);
  if (moves.length === 0) return false;
  // The advisor may be sure sooner than two turns.
  const { stop } = job.advice('pilot');
  if (stop === 'no-response' || stop === 'reversed') return true;
  const turned = moves.reduce((sum, m) => sum + Math.abs(m.turned), 0);
  return moves.length === 2 && turned >= 0.5 && moves.every((m) => Math.abs(m.moved) < psi(0.8));
}

/**
 * Farther off than it was before the turn, or before something was mended: nothing is turned for one such reading, it may have been of the
 * other gauge. Read again until two are of one mind.
 */
export function inDoubt(job: JobView): boolean {
  const wanted = job.plan.values['flowing'] ?? NaN;
  const from = Math.max(job.lastMove('flowing'), learnsFrom(job));
  const all = job.readings('flowing').filter((r) => r.kept.body.state !== 'early');
  const [last, ...earlier] = all.filter((r) => r.kept.order > from).reverse();
  if (!last || earlier.length >= MOST_READINGS) return false;
  const [one] = earlier;
  if (one) return Math.abs(one.value - last.value) > 2 * job.agreement('flowing');
  const before = all.findLast((r) => r.kept.order < from);
  return before !== undefined && Math.abs(last.value - wanted) > Math.abs(before.value - wanted) + psi(2);
}

/** The pilot was cut off from its valve until then: what its screw did before teaches nothing. */
export const learnsFrom = (job: JobView): number =>
  job.state.observations.filter((o) => o.body.at.key === 'why-still' && o.body.answer !== 'none').at(-1)
    ?.order ?? 0;

/** Shut, the outlet stands at the inlet's pressure, which it does not while it flows. */
export function standsAtInlet(job: JobView): boolean {
  const [inlet, flowing, lockUp] = ['inlet', 'flowing', 'lockUp'].map((x) => job.readings(x).at(-1)?.value);
  return (
    inlet !== undefined &&
    flowing !== undefined &&
    lockUp !== undefined &&
    lockUp > inlet - psi(4) &&
    flowing < inlet - psi(15)
  );
}

/** Shut, and the outlet goes on rising: the seat does not seal. */
export const creeps = (job: JobView): boolean => answerAt(job, 'creep') === 'rises';
/** It was seen to rise on while lock-up was to be read, or watched to. */
export const rises = (job: JobView): boolean =>
  creeps(job) || job.state.observations.some((o) => o.body.answer === 'creeps');

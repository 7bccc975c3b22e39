import { saturated, type Pair } from '@firm-needle/core/advisor';
import type { JobView } from '@firm-needle/core/procedure';
import { DIAGNOSE_SPIKE, MOST_SPIKE, psi } from './parts.js';

/** SD of one reading of a working pressure, Pa. */
const READ_SD = psi(20);

/** Every turn with the reading of a setting before it and after it. */
export function pairsOf(job: JobView, setting: string): readonly Pair[] {
  const all = job.readings(setting);
  return job.state.turns.flatMap((t, i) => {
    const next = job.state.turns[i + 1]?.order ?? Infinity;
    const before = all.filter((r) => r.kept.order < t.order).at(-1);
    const after = all.find((r) => r.kept.order > t.order && r.kept.order < next);
    // What was turned back from the knee is no step up to it.
    return before && after && t.body.at.key !== 'back-off'
      ? [{ turns: t.body.amount, before: before.value, after: after.value }]
      : [];
  });
}

/** The newest working pressure before anything was turned back, Pa. */
export function atFullTravel(job: JobView): number | undefined {
  const back = job.state.turns.find((t) => t.body.at.key === 'back-off')?.order ?? Infinity;
  return job.readings('working').findLast((r) => r.kept.order < back)?.value;
}

/** No water is bypassed any more: the working pressure stopped rising while what is trapped went on. */
export function knee(job: JobView): boolean {
  const working = pairsOf(job, 'working');
  const trapped = pairsOf(job, 'trapped').at(-1);
  const last = working.at(-1);
  if (!last || !trapped || last.turns <= 0) return false;
  const grew = trapped.after - trapped.before;
  const rose = last.after - last.before;
  // On the first turn of all, the other outcome of the same screw says what this one should have been.
  const against = grew > 6 * READ_SD && rose < 0.3 * grew;
  return saturated(working, READ_SD) ? grew > 3 * READ_SD || against : against;
}

/** Neither outcome follows the screw: its spring has no more to give, or it is the wrong one. */
export function spent(job: JobView): boolean {
  const turned = pairsOf(job, 'working').filter((p) => p.turns > 0);
  const trapped = pairsOf(job, 'trapped').filter((p) => p.turns > 0);
  const still = (list: readonly Pair[]): boolean => {
    const last = list.slice(-2);
    return (
      last.length === 2 && last.every((p) => p.turns >= 0.25 && Math.abs(p.after - p.before) < 3 * READ_SD)
    );
  };
  return still(turned) && still(trapped);
}

export const answerAt = (job: JobView, key: string): string | undefined =>
  job.state.observations.filter((o) => o.body.at.key === key).at(-1)?.body.answer;

export const hunts = (job: JobView): boolean => job.state.observations.some((o) => o.body.answer === 'hunts');
export const bleeds = (job: JobView): boolean =>
  job.state.observations.some(
    (o) => o.body.answer === 'bleeds' || (o.body.at.key === 'holds' && o.body.answer === 'falls'),
  );
/** Something that no turning mends. */
export const hopeless = (job: JobView): boolean =>
  hunts(job) || bleeds(job) || knee(job) || spent(job) || spiky(job);

/** The working pressure is set, and what is trapped stands over it by more than it may: by less than wants a diagnosis. */
export function over(job: JobView): boolean {
  const spike = job.figure('spike', 'left');
  return (
    spike !== undefined &&
    job.landed('working') &&
    !spiky(job) &&
    !job.state.taken.has('back-off') &&
    spike.value > MOST_SPIKE
  );
}

/** It was backed off, and both were read again. */
const backedOff = (job: JobView): boolean => {
  const turn = job.state.turns.findLast((t) => t.body.at.key === 'back-off');
  return turn !== undefined && job.readings('trapped').some((r) => r.kept.order > turn.order);
};

/** The working pressure is where it should be and what is trapped stands far above it. */
export function spiky(job: JobView): boolean {
  const spike = job.figure('spike', 'left') ?? job.figure('spike', 'found');
  return (
    spike !== undefined &&
    (job.proved('trapped') || backedOff(job)) &&
    ((job.landed('working') && spike.value >= DIAGNOSE_SPIKE) ||
      // Or over what it may be, though it was backed off for that.
      (backedOff(job) && spike.value > MOST_SPIKE))
  );
}

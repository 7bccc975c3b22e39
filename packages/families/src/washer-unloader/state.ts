import { saturated, trailing, type Pair, type StopReason } from '@firm-needle/core/advisor';
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
  const trapped = pairsOf(job, 'trapped');
  const last = working.at(-1);
  const grew = trapped.at(-1);
  if (!last || !grew || last.turns <= 0) return false;
  // The other outcome of the same screw says what this one should have been, from the first turn of all; small turns are seen together.
  const rises = [...trailing(working)];
  const against = [...trailing(trapped)].some((all, i) => {
    const rose = rises[i];
    const rise = all.after - all.before;
    return rose !== undefined && rise > 6 * READ_SD && rose.after - rose.before < 0.3 * rise;
  });
  // Where what is trapped rose no more than what works, both had come to an end: that is no knee.
  const ahead = grew.after - grew.before - (last.after - last.before);
  return against || (saturated(working, READ_SD) && ahead > 3 * READ_SD);
}

/** So far turned, and nothing moved by more than readings do, it has no more to give. */
const SPENT_TURNS = 0.5;
/** Neither outcome follows the screw, over two turns or read twice after one: its spring has no more to give, or it is the wrong one. */
export function spent(job: JobView): boolean {
  const [turned, trapped] = [trailing(pairsOf(job, 'working')), trailing(pairsOf(job, 'trapped'))].map(
    (x) => [...x],
  );
  const last = job.state.turns.at(-1)?.order ?? Infinity;
  const again = ['working', 'trapped'].every(
    (id) => job.readings(id).filter((r) => r.kept.order > last).length > 1,
  );
  const still = (p: Pair | undefined): boolean =>
    p !== undefined && p.turns >= SPENT_TURNS && Math.abs(p.after - p.before) < 3 * READ_SD;
  return (turned ?? []).some((p, i) => still(p) && still(trapped?.[i]) && (i > 0 || again));
}
/** Working is out, everything was read since it was moved, and no turn will help. */
export function stuck(job: JobView): { readonly code: StopReason; readonly because: string } | undefined {
  if (hopeless(job) || job.state.turns.length === 0 || job.due('working') || job.landed('working'))
    return undefined;
  const advice = job.advice('handle');
  return advice.stop === null || advice.stop === 'not-read' || advice.stop === 'in-limits'
    ? undefined
    : { code: advice.stop, because: advice.because };
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

/** The working pressure is set, and what is trapped surely stands over it by more than it may: by less than wants a diagnosis. */
export function over(job: JobView): boolean {
  const spike = job.figure('spike', 'left');
  return (
    spike !== undefined &&
    job.landed('working') &&
    !spiky(job) &&
    !job.state.taken.has('back-off') &&
    spike.value - spike.budget.U > MOST_SPIKE
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
      (backedOff(job) && spike.value - spike.budget.U > MOST_SPIKE))
  );
}

// What was seen and done at a step that stands in several places of a walk, each under a key of its own: `found-stop`, `set-stop`.
import type { JobView } from '@firm-needle/core/procedure';

/** A step at any of its places. */
export const stepAt = (key: string, step: string): boolean =>
  key.endsWith(step) && (key.length === step.length || key.at(-step.length - 1) === '-');

/** What was answered last at any of these steps, and when. */
export const lastSeen = (job: JobView, ...steps: readonly string[]) =>
  job.state.observations.findLast((o) => steps.some((x) => stepAt(o.body.at.key, x)));

/** The newest answer at any of these steps. */
export const answerAt = (job: JobView, ...steps: readonly string[]): string | undefined =>
  lastSeen(job, ...steps)?.body.answer;

/** The first and the last time that one of these answers was given at a step. */
export const firstSaid = (job: JobView, step: string, ...answers: readonly string[]) =>
  job.state.observations.find((o) => stepAt(o.body.at.key, step) && answers.includes(o.body.answer));
export const lastSaid = (job: JobView, step: string, ...answers: readonly string[]) =>
  job.state.observations.findLast((o) => stepAt(o.body.at.key, step) && answers.includes(o.body.answer));

/** When a step was taken last, wherever it stands; 0 where it never was. */
export function takenAt(job: JobView, step: string): number {
  let last = 0;
  for (const [key, passes] of job.state.taken)
    if (stepAt(key, step))
      for (const taken of passes.values()) for (const { order } of taken) last = Math.max(last, order);
  return last;
}

/** What ends the turning is a reason to replace it; that what it must not reach is too near for any turn is one to plan it anew. */
export const stopIs = (code: string): 'replace' | 'warn' => (code === 'unsafe' ? 'warn' : 'replace');

/**
 * Of what was said at a pressure, that which can be so there: a switch is not stuck before it should have acted. All of it, once it was
 * said again and again: nobody is asked for ever.
 */
export const told = <Said>(all: readonly Said[], canBe: (said: Said) => boolean): readonly Said[] => {
  const some = all.filter(canBe);
  return some.length > 0 || all.length < INSISTS ? some : all;
};
const INSISTS = 3;

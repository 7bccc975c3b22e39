import type { TurnStep } from '@firm-needle/core/procedure';
import type { OpenJob } from '../../sync/useJob.ts';

/** What the family reckons, or else what the advisor says; undefined where it says to stop. */
export function advisedOf(job: Pick<OpenJob, 'view'>, step: TurnStep): number | undefined {
  if (step.amount) return step.amount(job.view);
  const advice = job.view.advice(step.adjuster);
  return advice.stop === null ? advice.turns : undefined;
}

import type { JobView, ObserveBody } from '@firm-needle/core/procedure';
import { answerAt, firstSaid, lastSaid, lastSeen, stepAt, told } from '../shared/seen.js';

/** Not run: its relief does not work. */
export const reliefBad = (job: JobView): boolean => answerAt(job, 'look') === 'relief-bad';

export const hoseBad = (job: JobView): boolean => answerAt(job, 'look') === 'hose-bad';
/** Far under where it should start it did not; what was said with more than that in the tank says nothing. */
export const noStart = (job: JobView) =>
  told(
    job.state.observations.filter(({ body }) => stepAt(body.at.key, 'cut-in') && body.answer === 'no-start'),
    ({ body }) =>
      body.value === undefined ||
      body.value.value < (job.plan.limits['cutIn']?.lower ?? job.plan.values['cutIn'] ?? Infinity),
  )[0];
/** It ran to the stop-at; where its nut was lowered for that and it still does, it does not stop at all. */
export const ranOn = (job: JobView) => lastSaid(job, 'cut-out', 'no-stop', 'hisses');
export const noStop = (job: JobView) =>
  job.state.observations.find(
    (o) =>
      stepAt(o.body.at.key, 'cut-out') &&
      ['no-stop', 'hisses'].includes(o.body.answer) &&
      !mayStopYet(job, o.body) &&
      (decidedNot(job) ||
        job.state.turns.filter((t) => t.body.adjuster === 'range' && t.order < o.order).length > 1),
  );
/** It was switched off at less than it was seen to stop at: that it had not stopped there says nothing of its switch. */
const mayStopYet = (job: JobView, { answer, value }: ObserveBody): boolean =>
  answer === 'no-stop' &&
  value !== undefined &&
  job.readings('cutOut').some((r) => r.value >= job.corrected('tank', value.value));
/** Nobody lowers its nut. */
const decidedNot = (job: JobView): boolean =>
  ['leave', 'replace'].includes(lastSeen(job, 'decide')?.body.answer ?? '');
export const reliefHissed = (job: JobView): boolean => {
  const ran = ranOn(job);
  return ran !== undefined && job.lastMove('cutOut') < ran.order;
};
/** Nothing more can be done on this compressor as it stands. */
export const stopped = (job: JobView): boolean =>
  reliefBad(job) || noStart(job) !== undefined || noStop(job) !== undefined;
export const standsLow = (job: JobView) => firstSaid(job, 'cut-out', 'stands');
export const creeps = (job: JobView): boolean => answerAt(job, 'lock-up') === 'creeps';

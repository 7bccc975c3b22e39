import type { JobView } from '@firm-needle/core/procedure';
import { insidePlain } from '@firm-needle/core/verdict';
import { agreeingSpan, airDiffers, restOf } from './judge.js';

/** After so many surface readings the doubt is taken instead of more waiting. */
const MOST_SURFACE_READINGS = 9;
/** After so many bleeds whatever still differs is the gauge's own. */
const MOST_SPAN_READINGS = 6;

export const zeroWasSet = (job: JobView): boolean =>
  (job.state.zeros.get('test') ?? []).some((z) => z.body.handling === 'adjusted');

export const everZeroed = (job: JobView): boolean => (job.state.zeros.get('test') ?? []).length > 0;

/** The zero could be brought within its limit: without that nothing else is worth measuring. */
export const zeroFit = (job: JobView): boolean => job.zero('test')?.fit ?? false;

/** The cylinder is one temperature, its own and the air's; or has been waited for long enough. */
export function rested(job: JobView): boolean {
  const rest = restOf(job);
  if (!rest) return false;
  return (rest.settled && !airDiffers(rest)) || rest.n >= MOST_SURFACE_READINGS;
}

/** It was read twice or more and still is not at rest. */
export const restless = (job: JobView): boolean => (restOf(job)?.n ?? 0) >= 2;

export const spanAgrees = (job: JobView): boolean =>
  agreeingSpan(job, 'found').length >= 2 ||
  job.readings('span').filter((r) => r.kept.body.at.phase === 'found').length >= MOST_SPAN_READINGS;

/** The set is made for the refrigerant: it may be connected. */
export const suits = (job: JobView): boolean => job.answer('suits') === 'yes';

export const spanOut = (job: JobView): boolean => job.verdict('error', 'found')?.word === 'out';

/** Beyond what its class permits, by less than this check can tell. */
export const spanDoubtful = (job: JobView): boolean => {
  const figure = job.figure('error', 'found');
  return (
    figure !== undefined &&
    job.verdict('error', 'found')?.cannotTell === true &&
    !insidePlain(figure.value, job.limits('error', 'found'))
  );
};

const took = (job: JobView, key: string): boolean => job.state.taken.has(key);
export const everConnected = (job: JobView): boolean =>
  took(job, 'connect') || took(job, 'renew:cylinder=open');
export const everPumped = (job: JobView): boolean =>
  took(job, 'on-pump') || took(job, 'renew:pump=connected');

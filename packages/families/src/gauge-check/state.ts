import type { JobView } from '@firm-needle/core/procedure';
import { insidePlain } from '@firm-needle/core/verdict';
import { agreeingSpan, airDiffers, restOf } from './judge.js';
import { POINTS, type PointId } from './points.js';

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

/** Two readings of a point that lie apart by more than readings of it do. */
function pointApart(job: JobView, id: PointId): boolean {
  const values = job.readings(id).map((r) => r.value);
  return Math.max(...values) - Math.min(...values) > job.agreement(id);
}
export const pointOut = (job: JobView, id: PointId): boolean => job.verdict(id, 'found')?.word === 'out';

/**
 * A point that is out is read once more before it condemns, and a third time where the two do not agree. Two points that are surely out
 * tell enough, but of what lies below them, which may still be good.
 */
export function pointAgain(job: JobView, id: PointId): boolean {
  const n = job.readings(id).length;
  if (n === 0 || n > 2) return false;
  if (n === 2) return pointApart(job, id);
  const sure = POINTS.filter(
    (p) => job.readings(p.id).length > 1 && pointOut(job, p.id) && !pointApart(job, p.id),
  );
  const part = POINTS.find((p) => p.id === id)?.part ?? 0;
  return pointOut(job, id) && (sure.length < 2 || sure.every((p) => part < p.part));
}

const took = (job: JobView, key: string): boolean => job.state.taken.has(key);
export const everConnected = (job: JobView): boolean =>
  took(job, 'connect') || took(job, 'renew:cylinder=open');
export const everPumped = (job: JobView): boolean =>
  took(job, 'on-pump') || took(job, 'renew:pump=connected');

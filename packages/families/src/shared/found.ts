import type { JobView } from '@firm-needle/core/procedure';

/** So many readings count, waited for or not: a needle may never stand. */
const MOST = 5;

/**
 * What was read of a setting before anything was turned, as far as it was waited for: one that was taken early is no finding, and is
 * read once more, up to a bound.
 */
export function foundReadings(job: JobView, setting: string): readonly number[] {
  const all = job.readings(setting).filter((r) => r.kept.body.at.phase === 'found');
  return (all.length >= MOST ? all : all.filter((r) => r.kept.body.state !== 'early')).map((r) => r.value);
}

/** Read while it was waited for, or at least twice: what was taken early once is read again before anything is reckoned from it. */
export function wasHad(job: JobView, setting: string): boolean {
  const all = job.readings(setting);
  return all.length > 1 || all.some((r) => r.kept.body.state !== 'early');
}

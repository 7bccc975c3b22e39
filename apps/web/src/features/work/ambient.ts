import { ambientOf } from '@firm-needle/core/family';
import type { JobView } from '@firm-needle/core/procedure';

/** The air where a job is done, Pa absolute; at sea level where its site does not say how high it lies. */
export function ambientOn(job: JobView): number {
  const ambient = ambientOf(job.started.site);
  return ambient.ok ? ambient.value : 101325;
}

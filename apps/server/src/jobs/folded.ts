import type { Family, Sheet } from '@firm-needle/core/family';
import type { FoldedJob, JobState } from '@firm-needle/core/procedure';

/** The server's fold of a job. */
export interface Folded {
  readonly family: Family;
  readonly state: JobState;
  readonly view: FoldedJob;
  readonly sheet: Sheet;
  readonly through: number;
}

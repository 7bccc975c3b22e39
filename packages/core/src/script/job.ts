import type { Outcome } from '../procedure/events.js';
import type { JobLog } from '../procedure/log.js';
import type { FoldedJob } from '../procedure/view.js';
import type { Manner } from './manner.js';

/** What a scripted job came to. */
export interface ScriptedJob {
  readonly log: JobLog;
  readonly view: FoldedJob;
  readonly outcome: Outcome;
  readonly truth: Readonly<Record<string, number>>;
  readonly adjustments: number;
  /** Anything done that the product must never allow, in words. */
  readonly unsafe: readonly string[];
  readonly steps: number;
}
/** Who writes the log, when it begins, and how its events are named; all optional. */
export interface ScriptedIdentity {
  readonly job?: string;
  readonly author?: string;
  readonly name?: string;
  readonly device?: string;
  /** Wall time of the first event, ms since 1970. */
  readonly from?: number;
  readonly makeId?: () => string;
  /** Where no reading comes and there is no other way out, what stands is taken, as a person would; else that is an error. */
  readonly goesOn?: true;
  /** How hands and eyes do it; careful where it is not said. */
  readonly manner?: Manner;
}

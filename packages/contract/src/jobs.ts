// Jobs: their events, their seal, what they came to.
import type { Sheet } from '@firm-needle/core/family';
import type { ChainCheck } from '@firm-needle/core/formats';
import type { JobEvent, Outcome } from '@firm-needle/core/procedure';
import type { Saved } from './common.js';

export interface JobInfo {
  readonly id: string;
  readonly controlId: string;
  readonly visitId: string | null;
  readonly openedAt: string;
  readonly signedAt: string | null;
  readonly seq: number;
  readonly head: string;
  /** Doubts that later checks cast on the gauges used. */
  readonly flags: readonly { readonly text: string; readonly byJob: string }[];
  readonly result: {
    /** The newest event that it was worked out from. */
    readonly throughSeq: number;
    readonly outcome: Outcome | null;
    /** Why the outcome that was signed is not what the log proves, by the server's own fold. */
    readonly objections: readonly string[];
    /** Frozen at the sign-off. */
    readonly sheet: Sheet;
  } | null;
}

/** Whether the chain of a job's events is whole, and what its head looks like. */
export type Seal = ChainCheck & { readonly fingerprint: string; readonly signedAt: string | null };

export interface PlanSaved extends Saved {
  readonly version: number;
}

export interface JobOpened extends Saved {
  readonly seq: number;
}

/** One stored event: its place in the chain beside the event itself. */
export interface SequencedEvent {
  readonly seq: number;
  readonly hash: string;
  readonly event: JobEvent;
}

export interface EventsPage {
  readonly items: readonly SequencedEvent[];
  readonly next: number | null;
  /** Of the newest event. */
  readonly seq: number;
}

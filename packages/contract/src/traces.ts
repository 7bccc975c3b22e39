// Recorded traces.
import type { EventCorrection } from '@firm-needle/core/trace';

/** A trace as lists have it. */
export interface ListedTrace {
  readonly id: string;
  readonly name: string;
  readonly kind: string;
  readonly unit: string;
  readonly channels: readonly string[];
  readonly samples: number;
  readonly from_s: number;
  readonly to_s: number;
  readonly offset_s: number;
  readonly controlId: string | null;
  readonly jobId: string | null;
  /** Site and control where it was recorded. */
  readonly place: string | null;
  readonly createdAt: string;
}

/** A trace that was begun: which blocks of its samples have not come yet. */
export interface OpenedTrace extends ListedTrace {
  readonly missing: readonly number[];
}

/** A trace that the server keeps; its samples come in blocks. */
export interface KeptTrace extends OpenedTrace {
  readonly corrections: readonly EventCorrection[];
}

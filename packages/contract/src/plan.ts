// What is due and why, and who goes where.
import type { DueReason } from '@firm-needle/core/history';
import type { Outcome } from '@firm-needle/core/procedure';
import type { SiteRef } from './common.js';
import type { Person } from './people.js';

export interface VisitControl {
  readonly id: string;
  readonly name: string;
  readonly family: string;
  readonly available: boolean;
  readonly equipment: string;
  readonly story: string | null;
  readonly job: {
    readonly id: string;
    readonly signedAt: string | null;
    readonly outcome: Outcome | null;
    /** Whether the log proves what was signed; null before it is signed. */
    readonly proved: boolean | null;
  } | null;
}

export interface Visit {
  readonly id: string;
  readonly day: string;
  readonly purpose: string | null;
  readonly site: SiteRef;
  /** Null while nobody is sent. */
  readonly technician: string | null;
  readonly technicianId: string;
  /** Its place among the stops of its day. */
  readonly stop: number;
  readonly packed: readonly string[];
  readonly version: number;
  readonly controls: readonly VisitControl[];
}

/** A visit as it is planned; `version` is the one that it becomes. */
export interface VisitForm {
  readonly version: number;
  readonly siteId: string;
  readonly technicianId: string;
  readonly day: string;
  readonly stop: number;
  readonly purpose?: string | null;
  /** In walking order. */
  readonly controls: readonly string[];
  /** Why it is cancelled. */
  readonly cancelled?: string | null;
}

/** A planned visit with how long such visits took. */
export interface PlannedVisit extends Visit {
  /** From the jobs of these controls so far. */
  readonly minutes: number;
}

/** A week of the whole firm. */
export interface Week {
  readonly from: string;
  readonly people: readonly Person[];
  readonly visits: readonly PlannedVisit[];
}

/** A control that is due. */
export interface DueItem {
  readonly id: string;
  readonly name: string;
  readonly family: string;
  readonly equipment: string;
  readonly site: SiteRef;
  readonly day: string;
  /** All of them, the soonest first. */
  readonly reasons: readonly DueReason[];
  /** The next visit that is planned for it. */
  readonly visit: { readonly id: string; readonly day: string; readonly technician: string } | null;
}

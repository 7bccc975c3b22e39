import type { AdjusterPrior } from '@firm-needle/core/advisor';
import type { Sheet, SheetRow, SheetTurn } from '@firm-needle/core/family';
import type { FoundError, Gauge } from '@firm-needle/core/gauge';
import type { Outcome, Plan } from '@firm-needle/core/procedure';
import type { EventCorrection } from '@firm-needle/core/trace';
import type { Rule } from '@firm-needle/core/verdict';

/** Shapes of the API's answers. */
export interface Me {
  readonly id: string;
  readonly login: string;
  readonly name: string;
  readonly role: 'technician' | 'supervisor' | 'reader';
  readonly permits: readonly string[];
  readonly organisation: {
    readonly id: string;
    readonly name: string;
    readonly demo: boolean;
    readonly rule: Rule;
  };
}

export interface Page<T> {
  readonly items: readonly T[];
  readonly next: string | null;
}

export interface SiteRef {
  readonly id: string;
  readonly name: string;
  readonly altitude_m: number;
}

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
    readonly outcome: string | null;
  } | null;
}

export interface Visit {
  readonly id: string;
  readonly day: string;
  readonly purpose: string | null;
  readonly site: SiteRef;
  readonly technician: string;
  readonly controls: readonly VisitControl[];
}

export interface SiteEquipment {
  readonly id: string;
  readonly name: string;
  readonly notes: string | null;
  readonly controls: readonly {
    readonly id: string;
    readonly name: string;
    readonly family: string;
    readonly due: string | null;
    readonly story: string | null;
  }[];
}

export interface Site extends SiteRef {
  readonly notes: string | null;
  readonly equipment: readonly SiteEquipment[];
}

export interface ControlJob {
  readonly id: string;
  readonly openedAt: string;
  readonly signedAt: string | null;
  readonly visitId: string | null;
  readonly outcome: string | null;
  readonly rows: readonly SheetRow[];
  readonly turns: readonly SheetTurn[];
}

export interface Control {
  readonly id: string;
  readonly name: string;
  readonly family: string;
  readonly available: boolean;
  readonly due: string | null;
  readonly story: string | null;
  readonly equipment: { readonly id: string; readonly name: string; readonly notes: string | null };
  readonly site: SiteRef;
  /** The firm's own gauge that this control is, as it stands. */
  readonly gauge: Gauge | null;
  readonly plan: Plan | null;
  readonly device: {
    readonly id: string;
    readonly label: string;
    readonly fittedOn: string;
    readonly learned: Readonly<Record<string, Pick<AdjusterPrior, 'perTurn' | 'spread'>>>;
    readonly rig: { readonly seed: number; readonly faults: readonly string[] } | null;
  } | null;
  readonly jobs: readonly ControlJob[];
}

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
    readonly outcome: Outcome | null;
    /** Why the outcome that was signed is not what the log proves, by the server's own fold. */
    readonly objections: readonly string[];
    /** Frozen at the sign-off. */
    readonly sheet: Sheet;
  } | null;
}

export type Seal =
  | { readonly whole: true; readonly head: string; readonly length: number; readonly fingerprint: string }
  | { readonly whole: false; readonly at: number; readonly because: string; readonly fingerprint: string };

export type FirmGauge = Gauge & { readonly owner: string | null };

/** An error of the API, or of not reaching it. */
export interface Problem {
  readonly status: number;
  readonly code: string;
  readonly detail: string;
  readonly remedy?: string;
  readonly errors?: readonly { readonly field: string; readonly message: string }[];
}

/** A gauge with what its zeros and its checks have shown. */
export interface GaugeHistory extends FirmGauge {
  readonly limit_Pa: number;
  readonly zeros: readonly {
    readonly at: string;
    readonly before_Pa: number;
    readonly after_Pa: number;
    readonly handling: string;
    readonly job: string;
  }[];
  readonly drift: {
    readonly perYear: number;
    readonly error: number;
    readonly n: number;
    readonly leaves?: string;
  } | null;
  /** The control that its checks belong to, once there is one. */
  readonly control: { readonly id: string; readonly due: string | null } | null;
  /** Checks of its span, newest first. */
  readonly spans: readonly GaugeSpan[];
}

export interface GaugeSpan {
  readonly job: string;
  readonly at: string;
  readonly outcome: Outcome;
  readonly errors: readonly FoundError[];
}

/** A trace that the server keeps; its samples come in blocks. */
export interface KeptTrace {
  readonly id: string;
  readonly name: string;
  readonly kind: string;
  readonly unit: string;
  readonly channels: readonly string[];
  readonly samples: number;
  readonly createdAt: string;
  readonly missing: readonly number[];
  readonly corrections: readonly EventCorrection[];
}

// What server and web say to each other: the server's answers must have these types to compile, and the web reads no others.
import type { AdjusterPrior } from '@firm-needle/core/advisor';
import type { ChainCheck } from '@firm-needle/core/formats';
import type { Linked, Sheet, SheetRow, SheetTurn } from '@firm-needle/core/family';
import type { FoundError, Gauge, GaugeKind, Medium } from '@firm-needle/core/gauge';
import type { DueReason, LifePoint } from '@firm-needle/core/history';
import type { JobEvent, Outcome, Plan } from '@firm-needle/core/procedure';
import type { EventCorrection } from '@firm-needle/core/trace';
import type { Rule } from '@firm-needle/core/verdict';

/** What the server has in hand for an answer: times are still dates there, and become text on the way. */
export type Sent<T> = T extends (infer I)[]
  ? Sent<I>[]
  : T extends readonly (infer I)[]
    ? readonly Sent<I>[]
    : T extends object
      ? { [K in keyof T]: Sent<T[K]> }
      : string extends T
        ? T | Date
        : T;

/** What a list is asked for; `after` is what the page before answered as `next`. */
export interface PageAsk {
  readonly after?: string;
  readonly limit?: number;
}

export type Role = 'technician' | 'supervisor' | 'reader';

/** Who is signed in. */
export interface Me {
  readonly id: string;
  readonly login: string;
  readonly name: string;
  readonly role: Role;
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
  /** Give back as `after` for the next page; null at the end. */
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

/** A permit that a person holds: for good, or until a day. */
export interface Permit {
  readonly id: string;
  readonly until?: string;
}

/** One of the firm's people. */
export interface Person {
  readonly id: string;
  /** Only a supervisor is told. */
  readonly login?: string;
  readonly name: string;
  readonly role: Role;
  readonly permits: readonly Permit[];
  /** A customer's account sees this site alone. */
  readonly siteId: string | null;
  readonly disabled: boolean;
  readonly version: number;
}

/** A person as a supervisor enters them. */
export interface PersonForm {
  readonly version: number;
  readonly login: string;
  readonly name: string;
  readonly role: Role;
  readonly permits: readonly Permit[];
  readonly siteId?: string | null;
  readonly disabled?: boolean;
  /** Needed for a new one; else a new password, which ends every session of theirs. */
  readonly password?: string;
}

/** A session of one's own. */
export interface OpenSession {
  readonly id: string;
  readonly agent: string | null;
  readonly createdAt: string;
  readonly seenAt: string | null;
  readonly current: boolean;
}

/** Whether there is a firm yet, and whether it is the demo. */
export interface SetupState {
  readonly needed: boolean;
  readonly demo: boolean;
}

/** The firm and its first supervisor. */
export interface SetupForm {
  readonly firm: string;
  readonly name: string;
  readonly login: string;
  readonly password: string;
}

export interface PasswordForm {
  readonly current: string;
  readonly next: string;
}

/** A record as it stands: which version, and whether it was retired. */
export interface Standing {
  readonly version: number;
  readonly retired: boolean;
}

export interface SiteControl extends Standing {
  readonly id: string;
  readonly name: string;
  readonly family: string;
  readonly due: string | null;
  readonly story: string | null;
  readonly months: number | null;
  readonly lawMonths: number | null;
  readonly lawBy: string | null;
  readonly customerDay: string | null;
}

export interface SiteEquipment extends Standing {
  readonly id: string;
  readonly name: string;
  readonly notes: string | null;
  readonly maker: string | null;
  readonly model: string | null;
  readonly serial: string | null;
  /** The year on its plate. */
  readonly made: number | null;
  readonly controls: readonly SiteControl[];
}

export interface Site extends SiteRef, Standing {
  readonly notes: string | null;
  readonly customer: string | null;
  readonly address: string | null;
  readonly contact: string | null;
  readonly access: string | null;
  readonly hazards: string | null;
  /** The customer's unit of pressure. */
  readonly unit: string | null;
  readonly equipment: readonly SiteEquipment[];
}

/** A site as it is entered; `version` is the one that it becomes. */
export interface SiteForm {
  readonly version: number;
  readonly name: string;
  readonly altitude_m: number;
  readonly customer?: string | null;
  readonly address?: string | null;
  readonly contact?: string | null;
  readonly access?: string | null;
  readonly hazards?: string | null;
  readonly unit?: string | null;
  readonly notes?: string | null;
  readonly retired?: boolean;
}

export interface EquipmentForm {
  readonly version: number;
  readonly siteId: string;
  readonly name: string;
  readonly notes?: string | null;
  readonly maker?: string | null;
  readonly model?: string | null;
  readonly serial?: string | null;
  readonly made?: number | null;
  readonly retired?: boolean;
}

export interface ControlForm {
  readonly version: number;
  readonly equipmentId: string;
  readonly name: string;
  readonly family: string;
  readonly story?: string | null;
  readonly months?: number | null;
  readonly lawMonths?: number | null;
  readonly lawBy?: string | null;
  readonly customerDay?: string | null;
  readonly retired?: boolean;
}

/** A device that takes the place of the one before it. */
export interface DeviceForm {
  readonly label: string;
  readonly fittedOn: string;
}

/** A copy of a site or a control: its set-up without its past. */
export interface CopyForm {
  readonly from: string;
  readonly name: string;
}

/** A record that was kept. */
export interface RecordSaved extends Saved {
  readonly version: number;
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

/** A control's past and what comes, by setting. */
export interface Life {
  readonly reasons: readonly DueReason[];
  readonly settings: readonly {
    readonly setting: string;
    readonly title: string;
    readonly unit: string;
    readonly dimension: string;
    readonly step: number;
    readonly points: readonly (LifePoint & { readonly job: string })[];
  }[];
  readonly devices: readonly {
    readonly id: string;
    readonly label: string;
    readonly fittedOn: string;
    readonly removedOn: string | null;
  }[];
  readonly gauges: readonly {
    readonly id: string;
    readonly label: string;
    readonly jobs: number;
    readonly last: string;
  }[];
  readonly findings: readonly { readonly job: string; readonly at: string; readonly message: string }[];
}

/** Something that was found by a few letters. */
export interface Hit {
  readonly kind: 'site' | 'equipment' | 'control' | 'gauge' | 'finding';
  /** Of the page that it opens: a site, a control, a gauge, a job. */
  readonly id: string;
  readonly title: string;
  readonly beside: string;
}

export interface ControlJob {
  readonly id: string;
  readonly openedAt: string;
  readonly signedAt: string | null;
  readonly visitId: string | null;
  readonly outcome: Outcome | null;
  readonly proved: boolean | null;
  readonly rows: readonly SheetRow[];
  readonly turns: readonly SheetTurn[];
}

export interface ControlLink {
  readonly role: string;
  readonly to: Linked | null;
  /** Controls of the same site that can stand there. */
  readonly could: readonly { readonly id: string; readonly name: string; readonly equipment: string }[];
}

export interface Control {
  readonly id: string;
  readonly name: string;
  readonly family: string;
  readonly available: boolean;
  readonly due: string | null;
  readonly reasons: readonly DueReason[];
  readonly story: string | null;
  readonly months: number | null;
  readonly lawMonths: number | null;
  readonly lawBy: string | null;
  readonly customerDay: string | null;
  readonly version: number;
  readonly retired: boolean;
  readonly equipment: { readonly id: string; readonly name: string; readonly notes: string | null };
  readonly site: SiteRef;
  /** The firm's own gauge that this control is, as it stands. */
  readonly gauge: Gauge | null;
  readonly plan: Plan | null;
  /** For each role that its kind knows: who stands in it, and who could. */
  readonly links: readonly ControlLink[];
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

export type FirmGauge = Gauge & { readonly owner: string | null; readonly retired?: boolean };

/** An error of the API, or of not reaching it. */
export interface Problem {
  readonly status: number;
  readonly code: string;
  readonly detail: string;
  readonly remedy?: string;
  readonly errors?: readonly { readonly field: string; readonly message: string }[];
  /** What stands now, where somebody else changed it meanwhile. */
  readonly current?: unknown;
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

/** Something was kept under the id that was made on the device. */
export interface Saved {
  readonly id: string;
}
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

/** Who signs in. */
export interface SignInForm {
  readonly login: string;
  readonly password: string;
}

/** A gauge as it is entered; the server makes the gauge of it. */
export interface GaugeForm {
  readonly label: string;
  readonly kind: GaugeKind;
  readonly unit: string;
  readonly lower: number;
  readonly upper: number;
  readonly division: number;
  /** The part of a division that can be read. */
  readonly readable: number;
  /** A B40.100 grade, an EN 837-1 class, or percent of span with its sign: `2A`, `1.6`, `0.25 %`. */
  readonly accuracy: string;
  readonly medium: Medium;
  /** Water temperature of a column, °C; the conventional column where absent. */
  readonly column_C?: number;
  readonly serial?: string;
  readonly certificate?: string;
  readonly owner?: string;
  readonly due?: string;
  readonly retired?: boolean;
}

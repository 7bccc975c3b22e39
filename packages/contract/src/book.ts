// The firm’s book: sites, equipment, controls, what they have been through, and finding any of it.
import type { AdjusterPrior } from '@firm-needle/core/advisor';
import type { Linked, SheetRow, SheetTurn } from '@firm-needle/core/family';
import type { Gauge } from '@firm-needle/core/gauge';
import type { DueReason, LifePoint } from '@firm-needle/core/history';
import type { Outcome, Plan } from '@firm-needle/core/procedure';
import type { SiteRef, Standing } from './common.js';

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
  /** What was written down in its jobs, the newest first; what was withdrawn is left out. */
  readonly notes: readonly { readonly job: string; readonly at: string; readonly text: string }[];
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

import type {
  Finding,
  JobRules,
  JobView,
  Outcome,
  Plan,
  Procedure,
  SettingDef,
  AdjusterDef,
  FactDef,
} from '../procedure/index.js';
import type { Dimension } from '../quantity/index.js';
import type { RigModel } from '../rig/index.js';
import type { Limits } from '../verdict/index.js';

/** A parameter of the equipment's plate. Bounds in canonical units. */
export interface PlateParameter {
  readonly id: string;
  readonly title: string;
  readonly dimension: Dimension;
  readonly unit: string;
  readonly lower: number;
  readonly upper: number;
  readonly required: boolean;
  readonly hint?: string;
}

export interface GaugeSlot {
  readonly id: string;
  readonly title: string;
  readonly medium: 'water' | 'air' | 'any';
  readonly optional?: boolean;
}

export interface Caution {
  readonly key: string;
  readonly title: string;
  readonly text: string;
}

export interface School {
  readonly id: string;
  readonly title: string;
  readonly because: string;
  /** Settings held at the value the device came with. */
  readonly pins: readonly string[];
}

export interface Variant {
  readonly id: string;
  readonly title: string;
  /** Canonical starting values of a plan. */
  readonly values: Readonly<Record<string, number>>;
}

/** The ladder's closed vocabulary. Values canonical; `scale` names an axis (default `pressure`). */
export type LadderPart =
  | {
      readonly part: 'mark';
      readonly setting: string;
      readonly value: number;
      readonly title: string;
      readonly hung?: boolean;
      readonly movable: boolean;
    }
  | { readonly part: 'band'; readonly setting: string; readonly lower: number; readonly upper: number }
  | {
      readonly part: 'bracket';
      readonly setting: string;
      readonly from: number;
      readonly to: number;
      readonly title: string;
    }
  | {
      readonly part: 'zone';
      readonly lower: number;
      readonly upper: number;
      readonly title: string;
    }
  | { readonly part: 'window'; readonly lower: number; readonly upper: number; readonly title: string }
  | { readonly part: 'spine'; readonly lower: number; readonly upper: number; readonly title: string };

/** A computed figure of a plan that is not itself a setting: drawdown, run time. */
export interface PlanFigure {
  readonly id: string;
  readonly title: string;
  readonly dimension: Dimension;
  readonly unit: string;
  readonly value: number;
  readonly step: number;
  readonly because: string;
}

/** What is known without loading a family's procedure and rig. */
export interface FamilyMeta {
  readonly id: string;
  readonly title: string;
  readonly version: number;
  readonly what: string;
}

/** One kind of control: data and small pure functions. Nothing else in the product knows its id. */
export interface Family extends JobRules {
  readonly meta: FamilyMeta;
  readonly variants: readonly Variant[];
  readonly schools: readonly School[];
  readonly plate: readonly PlateParameter[];
  readonly slots: readonly GaugeSlot[];
  readonly cautions: readonly Caution[];
  readonly permits: readonly { readonly id: string; readonly title: string }[];
  /** Limits of every setting around solved values. */
  limits(values: Readonly<Record<string, number>>): Readonly<Record<string, Limits>>;
  /** Highest pressure a gauge in this place may meet, Pa. */
  worst(plan: Plan, slot: string): number;
  /** Findings of a plan alone: refusals first. */
  check(plan: Plan, ambient: number): readonly Finding[];
  figures(plan: Plan, ambient: number): readonly PlanFigure[];
  ladder(plan: Plan): readonly LadderPart[];
  procedure(plan: Plan): Procedure;
  /** Findings of a job: from readings, observations and turns to named conclusions. */
  findings(job: JobView): readonly Finding[];
  /** What must be true before "set" can be signed: empty, or what is missing. */
  unproved(job: JobView): readonly Finding[];
  /** How the job should end as things stand, and why: offered at sign-off, chosen by the technician. */
  recommend(job: JobView): { readonly outcome: Outcome; readonly because: string };
  readonly rig: RigModel;
}

/** Firmness window by family, s; used by live sources. */
export const FIRM_WINDOW_S = 4;

export type { Finding, SettingDef, AdjusterDef, FactDef };

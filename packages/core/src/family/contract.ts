import type {
  Finding,
  GaugeSlot,
  JobRules,
  JobView,
  Outcome,
  Plan,
  SettingDef,
  AdjusterDef,
  FactDef,
  AsTyped,
} from '../procedure/index.js';
import type { Dimension } from '../quantity/index.js';
import type { RigModel } from '../rig/index.js';
import type { FoundError, Gauge } from '../gauge/index.js';
import type { TraceKind } from '../trace/index.js';
import type { Limits } from '../verdict/index.js';
import type { Drawing } from './drawing.js';
import type { LinkRole } from './links.js';

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

/** What is chosen in a plan that is no number; the usual option first. */
export interface PlanChoice {
  readonly id: string;
  readonly title: string;
  readonly options: readonly { readonly id: string; readonly title: string }[];
  /** Asked only under such a plan; always, where it is not said. */
  when?(plan: Pick<Plan, 'variant' | 'school'>): boolean;
}

/** What stands on a ladder, of its closed vocabulary. Values canonical. */
type Standing =
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
      /** It lies below its edge; else above it. */
      readonly below?: boolean;
    }
  | { readonly part: 'window'; readonly lower: number; readonly upper: number; readonly title: string }
  /** The scale's own reach; `drawn` where all of it is shown whatever stands on it. */
  | {
      readonly part: 'spine';
      readonly lower: number;
      readonly upper: number;
      readonly title: string;
      readonly drawn?: boolean;
    };

/** Where it stands: `scale` names one of several axes; without it the only one. */
export type LadderPart = Standing & { readonly scale?: string };

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
  /** What a control of this kind is: part of an installation, or one of the firm's own gauges. */
  readonly subject?: 'gauge';
  /** What its traces show, where it gives any; `title` where a trace is called otherwise than the control. */
  readonly trace?: { readonly kind: TraceKind; readonly title?: string };
}

/** One kind of control: data and small pure functions. Nothing else in the product knows its id. */
export interface Family extends JobRules {
  readonly meta: FamilyMeta;
  readonly variants: readonly Variant[];
  /** What a variant is to this trade: a usual pair, a kind of check. */
  readonly variantsAre: string;
  /** Which variant it is stands beside the work and on the sheet: it says what the control is, and not only what a plan began from. */
  readonly saysVariant?: true;
  readonly schools: readonly School[];
  readonly choices?: readonly PlanChoice[];
  readonly plate: readonly PlateParameter[];
  /** What other controls can be to this one. */
  readonly links?: readonly LinkRole[];
  readonly cautions: readonly Caution[];
  readonly permits: readonly { readonly id: string; readonly title: string }[];
  /** Starting values that follow from the plate, and from the school of practice. */
  follows?(variant: string, plate: Plan['plate'], school: string): Readonly<Record<string, number>>;
  /** The plate of a control whose subject is a gauge: what the gauge itself says. */
  plateOf?(gauge: Gauge): Readonly<Record<string, AsTyped>>;
  /** Limits of every setting around solved values. */
  limits(
    values: Readonly<Record<string, number>>,
    plate: Plan['plate'],
    chosen: Pick<Plan, 'variant' | 'school' | 'choices'>,
  ): Readonly<Record<string, Limits>>;
  /** Highest pressure a gauge in this place may meet, Pa. */
  worst(plan: Plan, slot: string): number;
  /** Findings of a plan alone: refusals first. */
  check(plan: Plan, ambient: number): readonly Finding[];
  figures(plan: Plan, ambient: number): readonly PlanFigure[];
  /**
   * What a pressure of this setting is in another quantity of the trade, in words, such as the temperature at which it boils.
   * @param pa gauge, Pa
   * @param ambient Pa absolute
   */
  beside?(plan: Plan, setting: string, pa: number, ambient: number): string | undefined;
  /** What stands on the ladder; a job may add what it has learned. */
  ladder(plan: Plan, job?: JobView): readonly LadderPart[];
  /** Findings of a job: from readings, observations and turns to named conclusions. */
  findings(job: JobView): readonly Finding[];
  /** What must be true before "set" can be signed: empty, or what is missing. */
  unproved(job: JobView): readonly Finding[];
  /** How the job should end as things stand, and why: offered at sign-off, chosen by the technician. */
  recommend(job: JobView): { readonly outcome: Outcome; readonly because: string };
  /** Whether it did what the control is due for, where that is not plain from how it ended: else its date stays as it was. */
  checked?(job: JobView): boolean;
  /** What a turn must not reach, in words: `where the relief may open`. */
  readonly ceiling?: string;
  /** At what else a watched rise is stopped, in words: `a drip from the relief`. */
  readonly stopsAlso?: string;
  /** How its jobs may end, where it is not the usual four. */
  readonly outcomes?: Readonly<Partial<Record<Outcome, string>>>;
  /** What the job showed of the gauges themselves, besides their zeros. */
  evidence?(job: JobView): readonly GaugeEvidence[];
  /** The device as it stands under a plan, as data: what a screen draws and lights. */
  drawing(plan: Plan): Drawing;
  readonly rig: RigModel;
}

/** Errors of the gauge in a place, found against something better; Pa. */
export interface GaugeEvidence {
  readonly slot: string;
  readonly errors: readonly FoundError[];
  /** Which way its screw raised the needle. */
  readonly raises?: 'clockwise' | 'counter-clockwise';
}

/** How a job may end, in the usual words. */
export const OUTCOMES: Readonly<Partial<Record<Outcome, string>>> = {
  set: 'Set and proved',
  'left-as-found': 'Left as found',
  replace: 'To be replaced',
  unfinished: 'Unfinished',
};

/** How a job of this family may end, in words, best first. */
export const outcomesOf = (family: Pick<Family, 'outcomes'>): readonly (readonly [Outcome, string])[] =>
  Object.entries(family.outcomes ?? OUTCOMES) as [Outcome, string][];

export type { Finding, SettingDef, AdjusterDef, FactDef, GaugeSlot };

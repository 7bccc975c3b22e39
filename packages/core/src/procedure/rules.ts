import type { Plan } from './events.js';
import type { BudgetLine } from '../gauge/index.js';
import type { Corrected, JobView } from './job.js';
import type { AdjusterDef, Derived, GaugeSlot, Relation, Setting, TimeLimit } from './settings.js';
import type { Procedure, Words } from './step.js';

/** One adjustable or observable value of a control, as its family defines it. */
export interface SettingDef extends Setting {
  /** For a derived setting: its figure as the job stands. */
  readonly derive?: (job: JobView, when: 'found' | 'left') => Derived | undefined;
  /**
   * What a reading says of the setting where the installation spoils it: where it then lies, and by how much it may lie otherwise, Pa.
   * Nothing that was read changes by it; the advice for the next movement goes by it.
   */
  readonly meant?: (
    job: JobView,
    reading: Corrected,
  ) => { readonly value: number; readonly sd: number } | undefined;
  /**
   * For a setting that is read: what leaves it open beside what it was read with, as lines of its budget; none where nothing does.
   * It may look at readings and answers, not at a figure or a verdict of its own.
   */
  readonly open?: (job: JobView, when: 'found' | 'left') => readonly BudgetLine[];
}

/** What a fact's value means, and how to make it true when a step needs it. */
export interface FactDef {
  readonly title: string;
  readonly say: Words;
  readonly cautions?: readonly string[];
  readonly hands?: Readonly<Record<string, number>>;
  /** When it came about stands on the record: something was out of service from here on, or until here. */
  readonly timed?: true;
}

/** Why a control is worked on, and whether what is read before anything is turned counts as found there. */
export interface Occasion {
  readonly id: string;
  readonly title: string;
  readonly found: boolean;
}

/** What the job's arithmetic needs of a family. */
export interface JobRules {
  readonly settings: readonly SettingDef[];
  readonly slots: readonly GaugeSlot[];
  readonly adjusters: readonly AdjusterDef[];
  readonly relations: readonly Relation[];
  readonly facts: Readonly<Record<string, Readonly<Record<string, FactDef>>>>;
  /** The usual one first; where there is none, what is read first counts as found. */
  readonly occasions?: readonly Occasion[];
  readonly timeLimits?: readonly TimeLimit[];
  /** The way through the job under a plan. */
  procedure(plan: Plan): Procedure;
  /** What an adjustment of this setting must never reach, Pa. */
  never(plan: Plan, setting: string): number;
  /** What a fall that is caught at its lowest must never come to, Pa: there it is stopped by hand. */
  least?(plan: Plan, setting: string): number | undefined;
  /** What an adjuster did up to this event says nothing of what it does now: something in between was mended. */
  learnsFrom?(job: JobView, adjuster: string): number;
  /** The unit a plan is worked in where it is not the settings' own: that of the gauge under test. */
  unitOf?(plan: Plan, setting: string): string;
}

/** The places that a plan needs gauges in. */
export const slotsOf = (rules: Pick<JobRules, 'slots'>, plan: Plan): readonly GaugeSlot[] =>
  rules.slots.filter((s) => s.when?.(plan) ?? true);

/** The unit in which a setting is said under a plan. */
export const unitOf = (rules: JobRules, plan: Plan, setting: string): string =>
  rules.unitOf?.(plan, setting) ?? rules.settings.find((s) => s.id === setting)?.unit ?? 'Pa';

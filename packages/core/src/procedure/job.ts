import type { Advice, Aim, Belief } from '../advisor/index.js';
import type { Budget, BudgetInput, Gauge, ZeroState } from '../gauge/index.js';
import type { Limits, Rule, Verdict } from '../verdict/index.js';
import type { Plan, ReadBody, StartedBody } from './events.js';
import type { JobState, Kept, Moment } from './state.js';
import type { AdjusterDef, GaugeSlot, Setting, TimeLimit } from './settings.js';

/** One figure of the sheet: found or left, with its uncertainty. Canonical units. */
export interface Figure {
  readonly setting: string;
  readonly value: number;
  readonly n: number;
  readonly budget: Budget;
  readonly ids: readonly string[];
}

/** Where something stands in a job's log, and when it was written. */
export interface Placed {
  readonly order: number;
  readonly wall?: string;
}

/** A reading as corrected by the fold. */
export interface Corrected {
  readonly kept: Kept<ReadBody>;
  readonly value: number;
  /** The same by the zero that was known when it was taken. */
  readonly seen: number;
}

/** A job as its family sees it: every derived figure, verdict, belief and advice, from the folded log. */
export interface JobView {
  readonly state: JobState;
  readonly started: StartedBody;
  /** The plan in force. */
  readonly plan: Plan;
  /** The plan that the job was started with: found is judged by it. */
  readonly opening: Plan;
  /** What whoever holds the job is licensed to adjust. */
  readonly permits: readonly string[];
  readonly rule: Rule;
  setting(id: string): Setting;
  adjuster(id: string): AdjusterDef;
  slot(id: string): GaugeSlot | undefined;
  /** The value of a fact that still holds, or undefined where nobody said or it has lapsed. */
  fact(name: string): string | undefined;
  /** When a fact was made true, by the order of each entry in the log; none where it never was. */
  made(name: string, value: string): readonly number[];
  /** Since when something that must not last long has lasted; undefined where it does not. */
  lasting(limit: TimeLimit): Moment | undefined;
  /** The newest answer given at an observation step (or in place of a reading). */
  answer(stepKey: string): string | undefined;
  answered(stepKey: string, answer: string): boolean;
  /** The gauge in a place, as it stood at an event. */
  gauge(slot: string, order?: number): Gauge | undefined;
  /** A gauge was changed in this place and its zero not read since. */
  zeroDue(slot: string): boolean;
  /** The zero of the gauge in a place, as it stood at an event: a check that came after it counts too, by its time. */
  zero(slot: string, when?: Placed): ZeroState | undefined;
  /**
   * A raw reading as it is meant, Pa (or K): zero off, column to its temperature, known span error off, height off. Of a
   * gauge under test only its zero: its error is what is looked for.
   */
  corrected(slot: string, raw: number, when?: Placed): number;
  /** Everything a budget needs to know of a figure read in one place, but for the readings themselves. */
  measured(
    slot: string,
    when?: Placed,
  ): Pick<BudgetInput, 'gauge' | 'zero' | 'against' | 'headDoubt' | 'place' | 'day'> | undefined;
  /** Readings of a setting that carry a value (bounds left out), corrected for zero, in order. */
  readings(setting: string): readonly Corrected[];
  /** Readings that only bound a setting. */
  bounds(setting: string): readonly Kept<ReadBody>[];
  /** Order of the last movement of an adjuster that moves this setting; 0 where there was none. */
  lastMove(setting: string): number;
  /** A setting was moved and not read since. */
  due(setting: string): boolean;
  /** A setting was moved and neither read nor bounded since: nothing is known of where it stands. */
  unread(setting: string): boolean;
  /** Largest spread of readings that agree: the larger of the readable step and a quarter of the band. */
  agreement(setting: string): number;
  /** The trailing run of readings since the last movement that agree with each other. */
  agreeing(setting: string): readonly Corrected[];
  /** Whether enough readings since the last movement agree. */
  proved(setting: string): boolean;
  /** The figure as found (mean of the found-phase readings) or as left (mean of the agreeing run). */
  /** Whether what is read before anything is turned counts as found. */
  readonly finds: boolean;
  figure(setting: string, when: 'found' | 'left'): Figure | undefined;
  limits(setting: string, when: 'found' | 'left'): Limits;
  /** Found is judged by the opening plan, left by the last. */
  verdict(setting: string, when: 'found' | 'left'): Verdict | undefined;
  /** Whether the newest figure stands inside the plain limits of the plan in force. */
  landed(setting: string): boolean;
  /**
   * Whether a setting may be left where it stands: inside its limits, and no further movement would very likely bring it surely inside
   * that was not declined.
   */
  rests(setting: string): boolean;
  /** One more movement of this adjuster would very likely bring everything that it is aimed at surely inside its limits. */
  refines(adjuster: string): boolean;
  /** Signed sum of what was turned. */
  netTurns(adjuster: string): number;
  /** What is believed of an adjuster from this job, starting at the prior copied into the log. */
  belief(adjuster: string): Belief;
  /** Where each aimed setting should land and what it must not reach. */
  aims(adjuster: string): readonly Aim[];
  /** The next movement of an adjuster, or why there is none. */
  advice(adjuster: string): Advice;
  /** The unit a setting is said in. */
  unitOf(setting: string): string;
  /** The smallest step worth saying, in that unit: a tenth, or what a finer scale can be read to. */
  step(setting: string): number;
  /** A canonical value in the setting's unit, with the unit. */
  say(value: number, setting: string): string;
  /** A canonical difference (an uncertainty, a change) in the setting's unit. */
  sayWidth(value: number, setting: string): string;
}

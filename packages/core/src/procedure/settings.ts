// What a family is made of where no job is looked at: plain data.
import type { AdjusterPrior } from '../advisor/index.js';
import type { Budget, Medium, RepeatabilityPrior } from '../gauge/index.js';
import type { Facts, Plan } from './events.js';

/** Something a rule noticed, with its reason. */
export interface Finding {
  readonly code: string;
  /** `refuse` stops the plan or the sign-off; `replace` says adjusting will not help; `warn` and `say` inform. */
  readonly severity: 'refuse' | 'replace' | 'warn' | 'say';
  readonly message: string;
  readonly remedy?: string;
  /** The setting or plate parameter it is about. */
  readonly about?: string;
}

/** A figure that a family works out of a job's readings. Canonical units. */
export interface Derived {
  readonly value: number;
  readonly n: number;
  readonly budget: Budget;
  readonly ids: readonly string[];
}

/** One adjustable or observable value of a control. */
export interface Setting {
  readonly id: string;
  readonly title: string;
  /** A word or two for crowded places. */
  readonly short: string;
  /** Where its readings are taken: at a low, at a high, at a peak, standing firm, or as what drives it stops or starts. */
  readonly catch: 'firm' | 'low' | 'high' | 'peak' | 'stops' | 'starts';
  readonly dimension: 'pressure' | 'time' | 'temperature' | 'count';
  readonly unit: string;
  /** The smallest step worth saying, in `unit`, where it is not what its gauge or its dimension gives. */
  readonly step?: number;
  /** The place of the gauge that reads it. */
  readonly slot: string;
  /** Had by reading, from others by relation, as the time between two readings, or worked out by the family. */
  readonly had: 'reading' | 'relation' | 'timing' | 'derived';
  /** For a timing: the setting whose reading carries the seconds. */
  readonly from?: string;
  /** For a timing: what must have been made true after the reading before it. */
  readonly since?: Facts;
  /** For a timing: what spoils it where it is made true after the reading before. */
  readonly spoilt?: Facts;
  /** Its name among the figures and events of a trace, where that is another than its own. */
  readonly traced?: string;
  /** Repeated readings that must agree before it is proved. */
  readonly cycles: number;
  readonly repeatability: RepeatabilityPrior;
  /** SD of catching it by eye on a moving needle, Pa; 0 where it is read standing. */
  readonly caught: number;
  /** A person may give it in a plan. */
  readonly givable: boolean;
  /** Bounds of the scale it lives on, canonical. */
  readonly lower: number;
  readonly upper: number;
}

/** How an adjuster is moved. Amounts are in hand units: turns, clicks, shims; for air and scales Pa (see `byQuantity`). */
export interface AdjusterDef {
  readonly id: string;
  readonly title: string;
  readonly kind: 'turn' | 'click' | 'shim' | 'air' | 'scale';
  readonly unit: string;
  /** Words for each direction: positive first. */
  readonly ways: readonly [string, string];
  readonly seenFrom?: string;
  readonly tool: string;
  readonly prior: AdjusterPrior;
  readonly quantum: number;
  readonly largest: number;
  /** Beyond the largest movement something else happens: it is a wall, not a habit. */
  readonly strict?: boolean;
  readonly underPressure: boolean;
  /** Settings it is aimed at under this plan. */
  aims(plan: Plan): readonly string[];
}

/** An adjuster whose amounts are a quantity of its own unit (canonical), and not a count of movements. */
export const byQuantity = ({ kind }: Pick<AdjusterDef, 'kind'>): boolean =>
  kind === 'air' || kind === 'scale';

/** A linear relation between settings: the sum of coefficient × setting equals `equals` (Pa). */
export interface Relation {
  readonly terms: Readonly<Record<string, number>>;
  readonly equals: number;
  /** What the plate and the variant add to it, such as a pressure lost on the way to the gauge. */
  readonly plus?: (plan: Pick<Plan, 'variant' | 'plate'>) => number;
  /** How far that may be otherwise: its half-width, Pa, and what it rests on. */
  readonly doubt?: (plan: Pick<Plan, 'variant' | 'plate'>) => {
    readonly half: number;
    readonly because: string;
  };
  /** Hard relations hold by definition; soft ones fill in what nobody gave. */
  readonly hard: boolean;
}

/** A place that a gauge (or a thermometer) is put in. */
export interface GaugeSlot {
  readonly id: string;
  readonly title: string;
  readonly medium: Medium;
  /** What is read there; pressures unless it says otherwise. */
  readonly dimension?: 'pressure' | 'temperature';
  readonly optional?: boolean;
  /** Only under these plans; always where absent. */
  readonly when?: (plan: Plan) => boolean;
  /** The gauge in this place is itself under test, held against the one in another place, or against no gauge. */
  readonly underTest?: { readonly against?: string };
}

/** A state of the installation that must not last long. */
export interface TimeLimit {
  readonly key: string;
  /** It lasts while all of these hold. */
  readonly during: Facts;
  readonly seconds: number;
  /** What lasts: `In bypass`. */
  readonly title: string;
  /** The fact that ends it, offered when its time is over. */
  readonly ends: { readonly fact: string; readonly wanted: string };
}

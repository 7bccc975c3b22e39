import type { AdjusterPrior } from '../advisor/index.js';
import type { Gauge } from '../gauge/index.js';
import type { Limits, Rule } from '../verdict/index.js';
import type { ReadingState } from '../trace/index.js';

/** Which part of the job a reading belongs to. */
export type Phase = 'found' | 'adjust' | 'left';
export type Outcome = 'set' | 'left-as-found' | 'restricted' | 'replace' | 'unfinished';
export type Facts = Readonly<Record<string, string>>;

/** A value as it was typed (or taken from a gauge), beside the canonical one. */
export interface AsTyped {
  readonly text: string;
  readonly unit: string;
  /** Raw and canonical: Pa for pressures, s for times; zero and head are applied by the fold, never here. */
  readonly value: number;
}

/** Where in the procedure an event stands: a stable step key, the pass of the loops around it, the phase. */
export interface Place {
  readonly key: string;
  readonly pass: string;
  readonly phase?: Phase;
}

/** What a control shall be set to, solved and bounded, as a versioned whole. */
export interface Plan {
  readonly version: number;
  readonly variant: string;
  readonly school: string;
  /** Settings given by a person, oldest first; the rest follow by relation. */
  readonly given: readonly ({ readonly setting: string } & AsTyped)[];
  readonly values: Readonly<Record<string, number>>;
  readonly limits: Readonly<Record<string, Limits>>;
  readonly plate: Readonly<Record<string, AsTyped>>;
}

export interface StartedBody {
  readonly kind: 'started';
  readonly family: string;
  readonly familyVersion: number;
  readonly coreVersion: string;
  readonly mode: 'work' | 'practice';
  readonly site: {
    readonly id: string;
    readonly name: string;
    readonly altitude_m: number;
    /** A barometer read on the day: it beats the altitude. Pa absolute. */
    readonly barometer_Pa?: number;
  };
  readonly control: { readonly id: string; readonly name: string; readonly equipment: string };
  readonly technician: string;
  readonly plan: Plan;
  readonly gauges: Readonly<Record<string, Gauge>>;
  /** How far each gauge hangs below the point that is meant, m: it reads that much water too high. */
  readonly heads_m?: Readonly<Record<string, number>>;
  /** Why a gauge past its date, or one that failed its check, was used, by place. */
  readonly gaugeReasons?: Readonly<Record<string, string>>;
  readonly rule: Rule;
  readonly priors: Readonly<Record<string, AdjusterPrior>>;
  readonly permits: readonly string[];
  /** Named on the sheet where readings come from the simulated stand-in. */
  readonly source?: string;
}

export interface PlannedBody {
  readonly kind: 'planned';
  readonly plan: Plan;
  readonly reason: string;
}

export interface GaugeBody {
  readonly kind: 'gauge';
  readonly slot: string;
  readonly gauge: Gauge;
  readonly reason: string;
  /** How far it hangs below the point that is meant, m. */
  readonly head_m?: number;
}

interface Placed {
  readonly at: Place;
  /** The live source's own clock when this was taken, s: its place on the strip. */
  readonly t_s?: number;
  /** Facts that taking this step made true. */
  readonly sets?: Facts;
}

export interface ZeroBody extends Placed {
  readonly kind: 'zero';
  readonly slot: string;
  readonly before: AsTyped;
  readonly after: AsTyped;
  readonly handling: 'carried' | 'adjusted';
}

export interface ReadBody extends Placed {
  readonly kind: 'read';
  readonly setting: string;
  readonly slot: string;
  readonly value: AsTyped;
  /** The needle was beyond what could be read: the true value lies above or below. */
  readonly bound?: 'above' | 'below';
  readonly state: 'firm' | 'caught' | 'early' | 'typed';
  /** For a turning point after another: seconds since the opposite one, on the source's clock. */
  readonly since_s?: number;
  /** Samples about it, s and raw Pa, at most 200. */
  readonly excerpt?: readonly (readonly [number, number])[];
  /** The recorded trace that it is a figure of: mean of `n` events, standard doubt `u` in Pa. */
  readonly trace?: { readonly id: string; readonly name: string; readonly n: number; readonly u: number };
  readonly source?: 'typed' | 'simulated' | 'live';
}

export interface ObserveBody extends Placed {
  readonly kind: 'observe';
  readonly answer: string;
  readonly seconds?: number;
  /** A pressure that belongs to the answer, such as where it stalled; raw Pa. */
  readonly value?: AsTyped;
  /** What that pressure says of a setting. */
  readonly bounds?: { readonly setting: string; readonly side: 'above' | 'below' };
}

export interface TurnBody extends Placed {
  readonly kind: 'turn';
  readonly adjuster: string;
  /** Signed, in the adjuster's own unit (turns, clicks, shims, or Pa for air); clockwise, in or added is positive. */
  readonly amount: number;
  readonly text: string;
  readonly advised?: number;
  /** For a movement that sought something: whether it came. */
  readonly reached?: boolean;
}

export interface DoneBody extends Placed {
  readonly kind: 'done';
  readonly count?: number;
  readonly seconds?: number;
}

export interface SkipBody extends Placed {
  readonly kind: 'skip';
  readonly reason: string;
}

export interface CorrectBody {
  readonly kind: 'correct';
  /** The event corrected; never itself a correction. */
  readonly corrects: string;
  readonly reason: string;
  /** A body of the same kind that takes the original's place; absent = withdrawn. */
  readonly body?: JobBody;
}

export interface NoteBody {
  readonly kind: 'note';
  readonly text: string;
  readonly at?: Place;
}

/** This device holds the job from here on. */
export interface TakeBody {
  readonly kind: 'take';
  readonly reason?: string;
}

/** Events written by a device that did not hold the job count from here on. */
export interface AdoptBody {
  readonly kind: 'adopt';
  readonly ids: readonly string[];
}

/** The job is being left early (or ends without setting): restore steps follow, then sign-off. */
export interface LeaveBody {
  readonly kind: 'leave';
  readonly outcome: Outcome;
  readonly reason: string;
}

export interface SignBody {
  readonly kind: 'sign';
  readonly outcome: Outcome;
  readonly by: string;
  readonly coreVersion: string;
  /** The result as judged at that moment; frozen. */
  readonly result: unknown;
}

export interface CountersignBody {
  readonly kind: 'countersign';
  readonly by: string;
  readonly text?: string;
}

export type JobBody =
  | StartedBody
  | PlannedBody
  | GaugeBody
  | ZeroBody
  | ReadBody
  | ObserveBody
  | TurnBody
  | DoneBody
  | SkipBody
  | CorrectBody
  | NoteBody
  | TakeBody
  | AdoptBody
  | LeaveBody
  | SignBody
  | CountersignBody;

export type JobKind = JobBody['kind'];

export const JOB_KINDS: readonly JobKind[] = [
  'started',
  'planned',
  'gauge',
  'zero',
  'read',
  'observe',
  'turn',
  'done',
  'skip',
  'correct',
  'note',
  'take',
  'adopt',
  'leave',
  'sign',
  'countersign',
];

/** Version of the payloads written by this code. */
export const PAYLOAD_VERSION = 1;

/** One entry of a job's log. Never edited. */
export interface JobEvent<B extends JobBody = JobBody> {
  /** UUIDv7 made on the device. */
  readonly id: string;
  readonly job: string;
  readonly version: number;
  /** The newest event the device knew of. */
  readonly after: string | null;
  readonly device: string;
  readonly author: string;
  /** Device wall time, ISO 8601. */
  readonly wall: string;
  /** Monotonic device time, ms. */
  readonly mono: number;
  readonly body: B;
}

export type { ReadingState };

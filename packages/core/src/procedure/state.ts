import type { Gauge } from '../gauge/index.js';
import type {
  CorrectBody,
  CountersignBody,
  JobBody,
  JobEvent,
  LeaveBody,
  NoteBody,
  ObserveBody,
  PhotoBody,
  PlacedBody,
  Plan,
  PlannedBody,
  ReadBody,
  SignBody,
  SkipBody,
  StartedBody,
  TurnBody,
  ZeroBody,
} from './events.js';

/** Facts are believed for this long without an event, ms. */
export const FACT_LAPSE_MS = 30 * 60 * 1000;

/** An event with the place it has in the fold's order. */
export interface Kept<B extends JobBody> {
  readonly id: string;
  readonly order: number;
  readonly wall: string;
  readonly author: string;
  readonly device: string;
  readonly body: B;
}

export interface SetAside {
  readonly event: JobEvent;
  readonly reason: string;
}

/** A gauge in a place, from one event on. */
export interface Mounted {
  readonly gauge: Gauge;
  readonly from: number;
  readonly head_m: number;
  /** Why it took the place of another. */
  readonly reason?: string;
}

/** When something was entered: by the device's wall clock, and by the live source's own where there was one. */
export interface Moment {
  readonly wall: string;
  readonly t_s?: number;
}

/** Everything that a job's log says, as it stands after the newest event. Mutated only by `apply`. */
export interface JobState {
  readonly job: string;
  order: number;
  started?: Kept<StartedBody>;
  openingPlan?: Plan;
  plan?: Plan;
  /** Changes of the plan in the job, in their order. */
  readonly replans: Kept<PlannedBody>[];
  readonly gauges: Map<string, Mounted[]>;
  readonly zeros: Map<string, Kept<ZeroBody>[]>;
  readonly reads: Kept<ReadBody>[];
  readonly turns: Kept<TurnBody>[];
  readonly observations: Kept<ObserveBody>[];
  readonly skips: Kept<SkipBody>[];
  readonly notes: Kept<NoteBody>[];
  readonly photos: Kept<PhotoBody>[];
  readonly corrections: { readonly original: JobEvent; readonly by: JobEvent<CorrectBody> }[];
  /** Step key → pass → the events taken there. */
  readonly taken: Map<string, Map<string, Kept<PlacedBody>[]>>;
  readonly facts: Map<string, string>;
  /** When each fact came to the value that it has. */
  readonly factsFrom: Map<string, Moment>;
  holder?: string;
  /** What whoever holds the job is licensed to adjust. */
  permits: readonly string[];
  lastWall?: string;
  lastDevice?: string;
  leaving?: Kept<LeaveBody>;
  signed?: Kept<SignBody>;
  countersigned?: Kept<CountersignBody>;
  readonly aside: SetAside[];
  readonly ids: Set<string>;
}

/** The state of a job of which nothing is known yet. */
export const emptyState = (job: string): JobState => ({
  job,
  order: 0,
  replans: [],
  gauges: new Map(),
  zeros: new Map(),
  reads: [],
  turns: [],
  observations: [],
  skips: [],
  notes: [],
  photos: [],
  corrections: [],
  taken: new Map(),
  facts: new Map(),
  factsFrom: new Map(),
  permits: [],
  aside: [],
  ids: new Set(),
});

/** Whether facts confirmed at `then` on one device still hold at `now` on another (or the same); a clock set back ends them too. */
export const factsHold = (
  then: { wall: string; device: string },
  now: { wall: string; device: string },
): boolean =>
  then.device === now.device && Math.abs(Date.parse(now.wall) - Date.parse(then.wall)) <= FACT_LAPSE_MS;

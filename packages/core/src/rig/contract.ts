import type { Gauge } from '../gauge/index.js';
import type { Plan } from '../procedure/index.js';

/** Something on the rig that a hand can set. */
export interface HandleDef {
  readonly id: string;
  readonly title: string;
  /** Named positions, as the bench shows them. */
  readonly positions: readonly { readonly title: string; readonly value: number }[];
  /** Only under such a plan; always, where it is not said. */
  when?(plan: Pick<Plan, 'variant'>): boolean;
}

export interface FaultDef {
  readonly id: string;
  readonly title: string;
}

export interface RigOptions {
  readonly plan: Plan;
  readonly seed: number;
  /** Seed of the fitted device's own constants (what one turn does); the same device keeps it from visit to visit. */
  readonly device?: number;
  /** Ambient pressure at the site, Pa absolute. */
  readonly ambient: number;
  readonly faults: readonly string[];
  /** Which gauge sits in which place: each errs as its class lets it. Without them only their zeros do. */
  readonly gauges?: Readonly<Record<string, Gauge>>;
  /** How large its faults are beside the usual ones: a half, one and a half; 1 where it is not said. */
  readonly size?: number;
  /** Seed of the gauges' own errors: on one shelf a gauge errs alike at every installation. Else as the installation's seed. */
  readonly shelf?: number;
  /** What the gauge in a place errs by beyond its class: practice wears them. */
  readonly worn?: Readonly<Record<string, Worn>>;
  /** What lies on the shelf for a place, besides the gauge that is in it. */
  readonly spares?: Readonly<Record<string, Gauge>>;
}

/** How a gauge is worn, beside what its class permits. */
export interface Worn {
  /** Its needle stands off at nothing by so much more, Pa. */
  readonly zero: number;
  /** It shows more by this part of what is there. */
  readonly slope: number;
  /** Half of what lies between rising and falling, Pa. */
  readonly sticks: number;
}

/** The simulated stand-in of an installation: fixed steps, pure state, no clock of its own. */
export interface Rig {
  /** Advance by one fixed step, s. */
  step(dt: number): void;
  /** Simulated seconds since it was made. */
  readonly time: number;
  /** What the gauge in a place shows, Pa: its own zero error and noise included. */
  gauge(slot: string): number;
  /** State channels by name: 0 or 1, or what a display shows. */
  readonly channels: Readonly<Record<string, number>>;
  set(handle: string, value: number): void;
  position(handle: string): number;
  /** A hand sets the needle of the gauge in a place as near to zero as its screw lets it. */
  zero?(slot: string): void;
  /** The true pressure at the gauge in a place when it was last looked at, Pa: for tests and for practice. */
  actual(slot: string): number;
  /** The gauge in a place is changed for the one on the shelf (1), or put back (0). */
  fit(slot: string, spare: number): void;
  /** Move an adjuster by a signed amount in its hand unit. */
  turn(adjuster: string, amount: number): void;
  /** What a person at the installation would answer at an observation step. */
  answer(stepKey: string): string;
  /** What the rig knows and the technician does not: for tests and for practice. */
  truth(): Readonly<Record<string, number>>;
  snapshot(): unknown;
  restore(snapshot: unknown): void;
}

/** What hands do to a rig, and when: a run that shows something. */
export interface Scenario {
  readonly id: string;
  readonly title: string;
  /** The place whose gauge is recorded. */
  readonly slot: string;
  readonly hands: readonly { readonly at_s: number; readonly handle: string; readonly value: number }[];
}

/** A meter on the bench: what a channel shows a person who looks at it. */
export interface MeterDef {
  readonly channel: string;
  readonly title: string;
  /** Words at 0 and at 1. */
  readonly shows: readonly [string, string];
}

/** What drives the pressure up, where something does: a channel that is 1 while it runs, and the words that stop it. */
export interface Drives {
  readonly channel: string;
  /** `Stop the pump`. */
  readonly stop: string;
}

export interface RigModel {
  readonly drives?: Drives;
  readonly meters?: readonly MeterDef[];
  /** Runs worth recording, the usual one first. */
  readonly scenarios: readonly Scenario[];
  readonly handles: readonly HandleDef[];
  readonly faults: readonly FaultDef[];
  /** Sensor noise of each gauge place, Pa (or K). */
  noise(plan: Plan): Readonly<Record<string, number>>;
  create(options: RigOptions): Rig;
}

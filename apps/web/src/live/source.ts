/** Where a job's readings come from: the words that stand on its sheet. */
export const SOURCES = {
  rig: 'simulated rig',
  simulatedGauge: 'simulated serial gauge',
  serial: 'serial gauge',
} as const;

/** Some readings of one or more gauges: times on the source's own clock (s), what each gauge shows (raw Pa). */
export interface LiveBlock {
  readonly t: Float64Array;
  readonly gauges: Readonly<Record<string, Float64Array>>;
  /** Whether what drives the pressure runs, where the source knows. */
  readonly running?: Uint8Array;
  readonly positions?: Readonly<Record<string, number>>;
  readonly channels?: Readonly<Record<string, number>>;
}

/** Anything that gives pressures as they happen, on its own clock. */
export interface LiveSource {
  /** Named on the sheet: simulated rig, serial gauge … */
  readonly title: string;
  /** Places whose gauges it reads; all of them where it does not say. */
  readonly slots?: readonly string[];
  onBlock(take: (block: LiveBlock) => void): () => void;
  close(): void;
}

/** A source whose installation can be worked by hand: taps, power, screws, the clock. */
export interface WorkableSource extends LiveSource {
  /** Where its handles stand. */
  readonly positions: Readonly<Record<string, number>>;
  /** @param bench by a hand on the bench, and not for a step: practice tells them apart */
  set(handle: string, value: number, bench?: true): void;
  turn(adjuster: string, amount: number, bench?: true): void;
  /** The gauge from the shelf goes into a place (1), or the first one back (0). */
  fit(slot: string, spare: number): void;
  /** Set the needle of the gauge in a place as near to zero as its screw lets it. */
  zero(slot: string): void;
  answer(stepKey: string): Promise<string>;
  setSpeed(speed: number): void;
  /** While held, a hurried clock runs no faster than life. */
  hold(held: boolean): void;
  advance(seconds: number): Promise<void>;
}

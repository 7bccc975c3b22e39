import type { RigBlock } from '../workers/rig.worker.ts';

/** Anything that gives pressures as they happen, on its own clock. */
export interface LiveSource {
  /** Named on the sheet: simulated rig, serial gauge … */
  readonly title: string;
  onBlock(take: (block: RigBlock) => void): () => void;
  close(): void;
}

/** A source whose installation can be worked by hand: taps, power, screws, the clock. */
export interface WorkableSource extends LiveSource {
  set(handle: string, value: number): void;
  turn(adjuster: string, amount: number): void;
  /** Set the needle of the gauge in a place as near to zero as its screw lets it. */
  zero(slot: string): void;
  answer(stepKey: string): Promise<string>;
  setSpeed(speed: number): void;
  /** While held, a hurried clock runs no faster than life. */
  hold(held: boolean): void;
  advance(seconds: number): Promise<void>;
}

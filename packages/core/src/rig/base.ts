import type { FaultDef, HandleDef, Rig, RigModel, RigOptions } from './contract.js';
import { seeded, type Random } from './random.js';

/** What every rig keeps, besides what is its own: plain data, so that it can be kept and restored. */
export interface RigState {
  time: number;
  handles: Record<string, number>;
  /** What the zero screw of the gauge in a place took off, Pa. */
  zeroed: Record<string, number>;
}

/** What the rigs of installations share: their draws, their clock, their handles, the zeros of their gauges, and their keeping. */
export abstract class BaseRig<S extends RigState> implements Rig {
  protected abstract s: S;
  /** What differs from one installation to the next. */
  protected readonly random: Random;
  /** Constants of the fitted device: the same from visit to visit. */
  protected readonly own: Random;
  /** What differs from one look at a needle to the next. */
  protected readonly noise: Random;
  private readonly faults: ReadonlySet<string>;

  /** @param salt of the noise, so that no two kinds of rig share it */
  constructor({ seed, device, faults }: RigOptions, salt: number) {
    this.random = seeded(seed);
    this.own = seeded(device ?? seed + 0x9e37);
    this.noise = seeded(seed ^ salt);
    this.faults = new Set(faults);
  }

  /** Whether a fault is hidden in it. */
  protected has(fault: string): boolean {
    return this.faults.has(fault);
  }

  /** Whether nothing is wrong with it. */
  protected get sound(): boolean {
    return this.faults.size === 0;
  }

  /** Its state before anything was done. */
  protected begin(state: Omit<S, 'time' | 'zeroed'>): S {
    return { ...state, time: 0, zeroed: {} } as unknown as S;
  }

  /** What the gauge in a place shows at nothing, Pa. */
  protected readonly zeroErrors: Readonly<Record<string, number>> = {};

  abstract readonly channels: Readonly<Record<string, number>>;
  abstract step(dt: number): void;
  abstract gauge(slot: string): number;
  abstract turn(adjuster: string, amount: number): void;
  abstract answer(stepKey: string): string;
  abstract truth(): Readonly<Record<string, number>>;

  get time(): number {
    return this.s.time;
  }

  set(handle: string, value: number): void {
    this.s.handles[handle] = value;
  }

  position(handle: string): number {
    return this.s.handles[handle] ?? 0;
  }

  zero(slot: string): void {
    this.s.zeroed[slot] = this.zeroErrors[slot] ?? 0;
  }

  snapshot(): unknown {
    return { ...this.s, handles: { ...this.s.handles }, zeroed: { ...this.s.zeroed } };
  }

  restore(snapshot: unknown): void {
    const state = snapshot as S;
    this.s = { ...state, handles: { ...state.handles }, zeroed: { ...state.zeroed } };
  }

  /** How far the needle in a place stands off, Pa. */
  protected off(slot: string): number {
    return (this.zeroErrors[slot] ?? 0) - (this.s.zeroed[slot] ?? 0);
  }
}

/** Positions of a handle that is off or on, shut or open: 0 and 1. */
export const two = (off: string, on: string): HandleDef['positions'] => [
  { title: off, value: 0 },
  { title: on, value: 1 },
];

/** One thing that hands do in a scenario. */
export const hand = (
  at_s: number,
  handle: string,
  value: number,
): { readonly at_s: number; readonly handle: string; readonly value: number } => ({ at_s, handle, value });

/** A rig as a family has it: its handles are the family's parts, its faults named once with what they are called. */
export const rigOf = (
  parts: { readonly handles: readonly HandleDef[] },
  faults: Readonly<Record<string, string>>,
  Model: new (options: RigOptions) => Rig,
  rest: Omit<RigModel, 'handles' | 'faults' | 'create'>,
): RigModel => ({
  ...rest,
  handles: parts.handles.filter((h) => h.positions.length > 0),
  faults: Object.entries(faults).map(([id, title]): FaultDef => ({ id, title })),
  create: (options) => new Model(options),
});

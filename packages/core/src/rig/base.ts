import type { Gauge } from '../gauge/index.js';
import type { FaultDef, HandleDef, Rig, RigModel, RigOptions, Worn } from './contract.js';
import { GaugeMetal } from './metal.js';
import { seeded, seedOf, type Random } from './random.js';

/** What is left of the flicker of a needle that nothing moves: it is vented. */
const AT_REST = 0.15;

/** What every rig keeps, besides what is its own: plain data, so that it can be kept and restored. */
export interface RigState {
  time: number;
  handles: Record<string, number>;
  /** What the zero screw of the gauge in a place took off, Pa. */
  zeroed: Record<string, number>;
  /** Where the needle in a place stands, Pa. */
  stands: Record<string, number>;
  /** In which places the gauge from the shelf is: 1. */
  spare: Record<string, number>;
  /** How far each screw was turned, and how far what it carries has followed, in its own unit. */
  screws: Record<string, { readonly turned: number; readonly carried: number }>;
}

/** A screw as metal. */
export interface Thread {
  /** So far it turns the other way before anything follows. */
  readonly play: number;
  /** So far it goes to either side of where it was found. */
  readonly travel: number;
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
  /** How large its faults are beside the usual ones. */
  protected readonly size: number;
  private readonly faults: ReadonlySet<string>;
  /** The gauges in their places, where it was told which they are. */
  private readonly metals: Readonly<Record<string, GaugeMetal>>;
  /** Those on the shelf for them. */
  private readonly spares: Readonly<Record<string, GaugeMetal>>;
  /** What was there when each was last looked at, Pa. */
  private readonly there: Record<string, number> = {};

  /** @param salt of the noise, so that no two kinds of rig share it */
  constructor({ seed, device, faults, shelf, size = 1, ...shelves }: RigOptions, salt: number) {
    this.size = size;
    this.random = seeded(seed);
    this.own = seeded(device ?? seed + 0x9e37);
    this.noise = seeded(seed ^ salt);
    this.faults = new Set(faults);
    const metal = (g: Gauge, worn?: Worn): GaugeMetal =>
      new GaugeMetal(g, seedOf(g.id) ^ ((shelf ?? seed) + 1), worn);
    const each = <T>(
      all: Readonly<Record<string, T>> | undefined,
      make: (one: T, slot: string) => GaugeMetal,
    ) => Object.fromEntries(Object.entries(all ?? {}).map(([slot, one]) => [slot, make(one, slot)]));
    this.metals = each(shelves.gauges, (g, slot) => metal(g, shelves.worn?.[slot]));
    this.spares = each(shelves.spares, (g) => metal(g));
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
  protected begin(state: Omit<S, 'time' | 'zeroed' | 'stands' | 'screws' | 'spare'>): S {
    return { ...state, time: 0, zeroed: {}, stands: {}, screws: {}, spare: {} } as unknown as S;
  }

  /** What the gauge in a place shows at nothing where it is not known which gauge it is, Pa. */
  protected readonly zeroErrors: Readonly<Record<string, number>> = {};

  /** By how much more its zero was knocked off, Pa. */
  protected readonly knocked: Readonly<Record<string, number>> = {};

  private metalIn(slot: string): GaugeMetal | undefined {
    return this.s.spare[slot] === 1 ? this.spares[slot] : this.metals[slot];
  }

  /** What the gauge in a place shows at nothing, Pa. */
  protected zeroOf(slot: string): number {
    return (this.metalIn(slot)?.zero ?? this.zeroErrors[slot] ?? 0) + (this.knocked[slot] ?? 0);
  }

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
    this.s.zeroed[slot] = this.zeroOf(slot);
  }

  actual(slot: string): number {
    return this.there[slot] ?? NaN;
  }

  fit(slot: string, spare: number): void {
    if ((this.s.spare[slot] ?? 0) === spare) return;
    this.s.spare[slot] = spare;
    // Another needle: it stands where it is brought, and nobody turned its screw.
    const { [slot]: _stood, ...stands } = this.s.stands;
    const { [slot]: _turned, ...zeroed } = this.s.zeroed;
    Object.assign(this.s, { stands, zeroed });
  }

  snapshot(): unknown {
    return kept(this.s);
  }

  restore(snapshot: unknown): void {
    this.s = kept(snapshot as S);
  }

  /** A hand turns a screw: how far what it carries moves, once its play is taken up and until it comes to its end. */
  protected carried(screw: string, amount: number, { play, travel }: Thread): number {
    const was = this.s.screws[screw] ?? { turned: 0, carried: 0 };
    const turned = Math.max(-travel, Math.min(travel, was.turned + amount));
    // It was last turned clockwise to where it was found: that way it bites at once.
    const carried = turned > was.carried ? turned : Math.min(was.carried, turned + play);
    this.s.screws[screw] = { turned, carried };
    return carried - was.carried;
  }

  /** What the gauge in a place shows of a pressure, with a flicker of `noise`, Pa. */
  protected needle(slot: string, p: number, noise: number): number {
    const { spare, stands, zeroed } = this.s;
    const metal = (spare[slot] === 1 ? this.spares : this.metals)[slot];
    this.there[slot] = p;
    const shown = metal
      ? metal.shows((stands[slot] = metal.follow(stands[slot], p))) + (this.knocked[slot] ?? 0)
      : p + this.zeroOf(slot);
    const flicker = Math.abs(p) < noise ? AT_REST * noise : noise;
    return shown - (zeroed[slot] ?? 0) + flicker * this.noise.normal();
  }
}

const kept = <S extends RigState>(s: S): S => ({
  ...s,
  handles: { ...s.handles },
  zeroed: { ...s.zeroed },
  // Rigs kept before needles stuck and screws had play have none.
  stands: { ...s.stands },
  screws: { ...s.screws },
  spare: { ...s.spare },
});

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

import { RIG_STEP_S, type Rig } from '../rig/index.js';
import type { Hurts } from '../script/index.js';
import { harmOf, type Act } from './harm.js';
import type { Deed } from './run.js';

/** Looked at every so often, s; the strip keeps fewer. */
const LOOK_S = 0.05;
const LOOK_STEPS = Math.round(LOOK_S / RIG_STEP_S);
/** Most points of a strip; twice as far apart once there are more. */
const MOST_POINTS = 3000;
const POINT_S = 0.5;

/** What went on in every place: the truth, and what the needle showed. Pa, s. */
export interface Strip {
  readonly t: readonly number[];
  readonly places: Readonly<
    Record<string, { readonly truth: readonly number[]; readonly shown: readonly number[] }>
  >;
}

/** A rig that is looked at all the time by somebody who knows everything. */
export class WatchedRig implements Rig {
  /** The highest true pressure in each place, Pa. */
  readonly highest: Record<string, number> = {};
  /** Seconds beyond a bound, by place. */
  readonly beyond: Record<string, number> = {};
  /** What hands did to it. */
  readonly deeds: Deed[] = [];
  /** What hands did that hurts, each once, as it stood then. */
  readonly harm: Act[] = [];
  /** When a relief stood open first, s. */
  relieved: number | undefined;
  private steps = 0;
  private every = Math.round(POINT_S / LOOK_S);
  private looks = 0;
  private t: number[] = [];
  private readonly places: Record<string, { truth: number[]; shown: number[] }>;

  /** @param bounds what must not be gone past in a place, Pa */
  constructor(
    private readonly rig: Rig,
    slots: readonly string[],
    private readonly bounds: Readonly<Record<string, number>> = {},
    private readonly hurts: readonly Hurts[] = [],
  ) {
    this.places = Object.fromEntries(slots.map((s) => [s, { truth: [], shown: [] }]));
  }

  get strip(): Strip {
    return { t: this.t, places: this.places };
  }

  get time(): number {
    return this.rig.time;
  }

  get channels(): Readonly<Record<string, number>> {
    return this.rig.channels;
  }

  step(dt: number): void {
    this.rig.step(dt);
    if (++this.steps % LOOK_STEPS === 0) this.look();
  }

  gauge(slot: string): number {
    return this.rig.gauge(slot);
  }

  set(handle: string, value: number): void {
    this.done({ t: this.time, do: 'set', id: handle, value });
    this.rig.set(handle, value);
  }

  position(handle: string): number {
    return this.rig.position(handle);
  }

  zero(slot: string): void {
    this.deeds.push({ t: this.time, do: 'zero', id: slot });
    this.rig.zero?.(slot);
  }

  turn(adjuster: string, amount: number): void {
    this.done({ t: this.time, do: 'turn', id: adjuster, value: amount });
    this.rig.turn(adjuster, amount);
  }

  answer(stepKey: string): string {
    return this.rig.answer(stepKey);
  }

  truth(): Readonly<Record<string, number>> {
    return this.rig.truth();
  }

  actual(slot: string): number {
    return this.rig.actual(slot);
  }

  fit(slot: string, spare: number): void {
    this.deeds.push({ t: this.time, do: 'fit', id: slot, value: spare });
    this.rig.fit(slot, spare);
  }

  snapshot(): unknown {
    return this.rig.snapshot();
  }

  restore(snapshot: unknown): void {
    this.rig.restore(snapshot);
  }

  private done(deed: Deed): void {
    this.deeds.push(deed);
    const act = harmOf(this.hurts, deed, this.rig);
    if (act && !this.harm.some((a) => a.text === act.text)) this.harm.push(act);
  }

  private look(): void {
    const keep = this.looks++ % this.every === 0;
    for (const [slot, place] of Object.entries(this.places)) {
      const shown = this.rig.gauge(slot);
      const truth = this.rig.actual(slot);
      this.highest[slot] = Math.max(this.highest[slot] ?? -Infinity, truth);
      if (truth > (this.bounds[slot] ?? Infinity)) this.beyond[slot] = (this.beyond[slot] ?? 0) + LOOK_S;
      if (!keep) continue;
      place.truth.push(Math.round(truth));
      place.shown.push(Math.round(shown));
    }
    if (this.rig.channels['relief'] === 1) this.relieved ??= this.rig.time;
    if (!keep) return;
    this.t.push(Math.round(this.rig.time * 100) / 100);
    if (this.t.length > MOST_POINTS) this.thin();
  }

  private thin(): void {
    const half = <T>(all: T[]): T[] => all.filter((_, i) => i % 2 === 0);
    this.t = half(this.t);
    for (const place of Object.values(this.places)) {
      place.truth = half(place.truth);
      place.shown = half(place.shown);
    }
    this.every *= 2;
  }
}

/** What the hands did, one after the other. */
export function doDeed(rig: Rig, deed: Deed): void {
  switch (deed.do) {
    case 'set':
      return rig.set(deed.id, deed.value);
    case 'turn':
      return rig.turn(deed.id, deed.value);
    case 'zero':
      return rig.zero?.(deed.id);
    case 'fit':
      return rig.fit(deed.id, deed.value);
  }
}

/** The longest run that is gone through again, s. */
export const LONGEST_RUN_S = 6 * 3600;

/** Goes through a run again: the same rig, the same hands at the same times, until `until` s. */
export function replay(rig: Rig, deeds: readonly Deed[], until: number): void {
  const to = (t: number): void => {
    const steps = Math.round((Math.min(t, LONGEST_RUN_S) - rig.time) / RIG_STEP_S);
    for (let i = 0; i < steps; i++) rig.step(RIG_STEP_S);
  };
  for (const deed of deeds) {
    to(deed.t);
    doDeed(rig, deed);
  }
  to(until);
}

import {
  doDeed,
  drawFrom,
  exerciseOf,
  rigOptionsOf,
  unsealed,
  type Deed,
  harmOf,
  hurtBy,
  type Hurt,
} from '@firm-needle/core/practice';
import type { Plan, StartedBody } from '@firm-needle/core/procedure';
import { expectOk } from '@firm-needle/core/result';
import { RIG_STEP_S, type Rig, type RigOptions } from '@firm-needle/core/rig';
import type { Hurts } from '@firm-needle/core/script';
import { loadFamily, loadKit } from '@firm-needle/families';
import { expose } from 'comlink';
import type { LiveBlock } from '../live/source.ts';

export interface RigSetup {
  readonly family: string;
  readonly plan: Plan;
  readonly seed: number;
  readonly device: number;
  readonly ambient: number;
  readonly faults: readonly string[];
  readonly gauges: StartedBody['gauges'];
  readonly shelf: number;
  readonly snapshot?: unknown;
}

/** An installation to practise on: what is hidden in it is opened here, and nowhere else. */
export interface PracticeSetup {
  readonly family: string;
  readonly variant: string;
  readonly sealed: string;
  readonly snapshot?: unknown;
  /** What the hands have done to it already. */
  readonly deeds?: readonly Deed[];
  /** A lesson: what would hurt somebody is said, and not done. */
  readonly spares?: boolean;
}

const isPractice = (setup: RigSetup | PracticeSetup): setup is PracticeSetup => 'sealed' in setup;

interface Opened {
  readonly options: RigOptions;
  readonly hurts: readonly Hurts[];
}

async function opened(setup: RigSetup | PracticeSetup): Promise<Opened> {
  if (!isPractice(setup)) return { options: setup, hurts: [] };
  const ex = exerciseOf(await loadFamily(setup.family), await loadKit(setup.family), setup.variant);
  const options = rigOptionsOf(ex, drawFrom(ex, expectOk(unsealed(setup.sealed))));
  return { options, hurts: ex.kit.practice.hurts ?? [] };
}

const TICK_MS = 50;
const SAMPLE_S = 0.05;
/** A clock this fast or slower is life: it goes on while the page is busy. */
const LIFE = 1;
/** What a late tick of a hurried clock makes up for, in wall seconds. */
const LATE_S = 0.1;
/** What a lesson goes back to is kept every so often, s, and so often. */
const LATE_EVERY_S = 1;
const LATE_KEPT = 60;

type Without<T, K extends PropertyKey> = T extends unknown ? Omit<T, K> : never;
type Untimed = Without<Deed, 't'>;

/** Runs a rig in real time (or faster) and hands out what its gauges show. */
class RigHost {
  private rig: Rig | undefined;
  private slots: readonly string[] = [];
  private handles: readonly string[] = [];
  private speed = 1;
  private held = false;
  private owed = 0;
  private last = 0;
  private timer: ReturnType<typeof setInterval> | undefined;
  /** Channel of what drives the pressure up, where something does. */
  private drives: string | undefined;
  private take: ((block: LiveBlock) => void | Promise<void>) | undefined;
  /** A block is on its way to the page and has not been looked at there. */
  private unseen = false;

  /** Everything that the hands did, in practice. */
  private done: Deed[] = [];
  private practised = false;
  private hurts: readonly Hurts[] = [];
  private spares = false;
  /** How it stood each second of late, in practice. */
  private late: { readonly t: number; readonly snapshot: unknown; readonly deeds: number }[] = [];

  async start(
    setup: RigSetup | PracticeSetup,
    take: (block: LiveBlock) => void | Promise<void>,
  ): Promise<void> {
    const family = await loadFamily(setup.family);
    const { options, hurts } = await opened(setup);
    this.rig = family.rig.create(options);
    this.hurts = hurts;
    this.spares = isPractice(setup) && setup.spares === true;
    this.practised = isPractice(setup);
    this.done = isPractice(setup) ? [...(setup.deeds ?? [])] : [];
    if (setup.snapshot !== undefined) this.rig.restore(setup.snapshot);
    this.slots = family.slots.map((s) => s.id);
    this.handles = family.rig.handles.map((h) => h.id);
    this.drives = family.rig.drives?.channel;
    this.take = take;
    this.last = performance.now();
    clearInterval(this.timer);
    this.timer = setInterval(() => this.tick(), TICK_MS);
  }

  /** Simulated seconds per second; 0 stands still. */
  setSpeed(speed: number): void {
    this.speed = speed;
  }

  /** A hurried clock runs no faster than life while a caught reading waits to be taken. */
  hold(held: boolean): void {
    this.held = held;
  }

  /** @returns what it would do to somebody: done all the same, but for a lesson */
  set(handle: string, value: number, bench?: true): Hurt | undefined {
    return this.deed({ do: 'set', id: handle, value, ...(bench ? { bench } : {}) });
  }

  turn(adjuster: string, amount: number, bench?: true): Hurt | undefined {
    return this.deed({ do: 'turn', id: adjuster, value: amount, ...(bench ? { bench } : {}) });
  }

  zero(slot: string): void {
    this.deed({ do: 'zero', id: slot });
  }

  /** The gauge from the shelf goes into a place (1), or the first one back (0). */
  fit(slot: string, value: number): void {
    this.deed({ do: 'fit', id: slot, value });
  }

  private deed(what: Untimed): Hurt | undefined {
    if (!this.rig) return undefined;
    const deed: Deed = { ...what, t: this.rig.time };
    const hurt = hurtBy(harmOf(this.hurts, deed, this.rig));
    if (hurt && this.spares) return hurt;
    doDeed(this.rig, deed);
    if (this.practised) this.done.push(deed);
    return hurt;
  }

  answer(stepKey: string): string {
    return this.rig?.answer(stepKey) ?? '';
  }

  /** Advance by hand; for tests and for the impatient. */
  advance(seconds: number): void {
    this.owed += seconds;
    this.tick();
  }

  /** In a lesson: as it stood so many seconds ago, with what was done since undone. @returns its clock then */
  back(seconds: number): number | undefined {
    const { rig } = this;
    const then = rig && this.late.findLast((l) => l.t <= rig.time - seconds);
    if (!rig || !then) return undefined;
    rig.restore(then.snapshot);
    this.done = this.done.slice(0, then.deeds);
    this.late = this.late.filter((l) => l.t <= then.t);
    return rig.time;
  }

  private remember(rig: Rig): void {
    if (!this.practised || rig.time - (this.late.at(-1)?.t ?? -Infinity) < LATE_EVERY_S) return;
    this.late.push({ t: rig.time, snapshot: rig.snapshot(), deeds: this.done.length });
    if (this.late.length > LATE_KEPT) this.late.shift();
  }

  /** How it stands and what was done to it, at one moment. */
  kept(): { readonly snapshot: unknown; readonly deeds: readonly Deed[] } {
    return { snapshot: this.rig?.snapshot(), deeds: this.done };
  }

  stop(): void {
    clearInterval(this.timer);
  }

  private tick(): void {
    const { rig } = this;
    if (!rig) return;
    const now = performance.now();
    const pace = this.held ? Math.min(LIFE, this.speed) : this.speed;
    const hurried = pace > LIFE;
    // A tab that slept does not owe the whole night, and a hurried clock never runs ahead of a page that is busy: what it shows
    // must be seen before more happens.
    const late = Math.min(hurried ? LATE_S : 1, (now - this.last) / 1000);
    this.last = now;
    if (hurried && this.unseen) return;
    this.owed += late * pace;
    const samples = Math.min(4000, Math.floor(this.owed / SAMPLE_S));
    if (samples === 0) return;
    this.owed -= samples * SAMPLE_S;
    const t = new Float64Array(samples);
    const running = this.drives === undefined ? undefined : new Uint8Array(samples);
    const gauges = Object.fromEntries(this.slots.map((s) => [s, new Float64Array(samples)]));
    const steps = Math.round(SAMPLE_S / RIG_STEP_S);
    for (let i = 0; i < samples; i++) {
      for (let k = 0; k < steps; k++) rig.step(RIG_STEP_S);
      t[i] = rig.time;
      if (running) running[i] = rig.channels[this.drives ?? ''] === 1 ? 1 : 0;
      for (const s of this.slots) {
        const column = gauges[s];
        if (column) column[i] = rig.gauge(s);
      }
    }
    this.remember(rig);
    const positions = Object.fromEntries(this.handles.map((h) => [h, rig.position(h)]));
    this.unseen = true;
    const block = { t, gauges, ...(running ? { running } : {}), positions, channels: { ...rig.channels } };
    void Promise.resolve(this.take?.(block)).finally(() => (this.unseen = false));
  }
}

export type { RigHost };
expose(new RigHost());

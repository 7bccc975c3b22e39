import { Catcher, SampleRing, type Caught, type Firmness, type Wanted } from '@firm-needle/core';
import type { RigBlock } from '../workers/rig.worker.ts';
import type { LiveSource } from './source.ts';

export interface Watch {
  readonly key: string;
  readonly slot: string;
  readonly wanted: Wanted;
  readonly resolution: number;
  readonly noise: number;
}

export interface LiveNow {
  readonly t: number;
  /** What the gauge shows now, Pa (raw). */
  readonly p: number;
  readonly firmness: Firmness;
  readonly caught: Caught | undefined;
  readonly running: boolean;
  /** Key of the watch that this belongs to. */
  readonly key: string;
  /** What the watch waits for. */
  readonly wanted: Wanted;
}

const RING = 20 * 60 * 25;
const WINDOW_S = 4;

/** A live gauge as the screens watch it: the newest samples, how firm the needle is, and what was caught. */
export class LiveSession {
  private readonly rings = new Map<string, SampleRing>();
  private catcher: Catcher | undefined;
  private watching: Watch | undefined;
  private running = false;
  private lastCut: { kind: 'low' | 'high'; t: number } | undefined;
  private readonly listeners = new Set<() => void>();
  private readonly stop: () => void;
  positions: Readonly<Record<string, number>> = {};
  channels: Readonly<Record<string, number>> = {};

  constructor(
    readonly source: LiveSource,
    kept: readonly (readonly [string, number, number])[] = [],
  ) {
    for (const [slot, t, p] of kept) this.ring(slot).push(t, p);
    this.stop = source.onBlock((b) => this.take(b));
  }

  ring(slot: string): SampleRing {
    let r = this.rings.get(slot);
    if (!r) this.rings.set(slot, (r = new SampleRing(RING)));
    return r;
  }

  /** Watch a gauge for one reading; the same key goes on, another starts afresh. */
  watch(w: Watch): void {
    if (this.watching?.key === w.key) return;
    this.watching = w;
    this.catcher = new Catcher({
      wanted: w.wanted,
      resolution: w.resolution,
      noise: w.noise,
      window_s: WINDOW_S,
    });
  }

  /** The slot being watched. */
  get slot(): string | undefined {
    return this.watching?.slot;
  }

  now(slot = this.watching?.slot): LiveNow | undefined {
    const newest = slot ? this.rings.get(slot)?.newest() : undefined;
    if (!newest || !this.catcher) return undefined;
    return {
      ...newest,
      firmness: this.catcher.firmness(),
      caught: this.catcher.get(),
      running: this.running,
      key: this.watching?.key ?? '',
      wanted: this.watching?.wanted ?? 'firm',
    };
  }

  /** Seconds since the opposite turning point was taken; remembers this one. */
  sinceOpposite(kind: 'low' | 'high', t: number): number | undefined {
    const since = this.lastCut && this.lastCut.kind !== kind ? t - this.lastCut.t : undefined;
    this.lastCut = { kind, t };
    return since !== undefined && since > 0 && since < 1200 ? since : undefined;
  }

  /** Told at every block; screens throttle themselves. */
  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  close(): void {
    this.stop();
    this.source.close();
  }

  private take(block: RigBlock): void {
    this.positions = block.positions;
    this.channels = block.channels;
    const watched = this.watching && block.gauges[this.watching.slot];
    for (const [slot, column] of Object.entries(block.gauges)) {
      const ring = this.ring(slot);
      for (let i = 0; i < column.length; i++) ring.push(block.t[i] ?? 0, column[i] ?? 0);
    }
    if (watched && this.catcher)
      for (let i = 0; i < watched.length; i++)
        this.catcher.push(block.t[i] ?? 0, watched[i] ?? 0, block.running[i] === 1);
    this.running = block.running.at(-1) === 1;
    for (const l of this.listeners) l();
  }
}

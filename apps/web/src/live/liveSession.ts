import { Turnings } from '@firm-needle/core/entries';
import {
  Catcher,
  SampleRing,
  TraceStream,
  type Caught,
  type CatchOptions,
  type Firmness,
  type TraceEvent,
  type TraceKind,
  type Wanted,
} from '@firm-needle/core/trace';
import type { LiveBlock, LiveSource } from './source.ts';

export interface Watch extends CatchOptions {
  readonly key: string;
  readonly slot: string;
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
/** The trace is looked through for events at most this often, ms. */
const LOOK_MS = 1000;
/** Samples of the trace that is looked through: about an hour. */
const LOOKED = 1 << 16;

/** A live gauge as the screens watch it: the newest samples, how firm the needle is, and what was caught. */
export class LiveSession {
  private readonly rings = new Map<string, SampleRing>();
  private catcher: Catcher | undefined;
  private watching: Watch | undefined;
  private running = false;
  private readonly turnings = new Turnings();
  private readonly listeners = new Set<() => void>();
  private readonly stop: () => void;
  channels: Readonly<Record<string, number>> = {};
  /** The source's own clock, s; 0 before it has spoken. */
  time = 0;

  private readonly streams = new Map<string, TraceStream>();
  private found: readonly TraceEvent[] = [];
  private looked = 0;

  /** @param kind what its traces show, where the family's do show something */
  constructor(
    readonly source: LiveSource,
    kept: readonly (readonly [string, number, number])[] = [],
    private readonly kind?: TraceKind,
    private readonly ambient = 101325,
  ) {
    for (const [slot, t, p] of kept) {
      this.ring(slot).push(t, p);
      this.stream(slot)?.push(t, p);
    }
    this.stop = source.onBlock((b) => this.take(b));
  }

  ring(slot: string): SampleRing {
    let r = this.rings.get(slot);
    if (!r) this.rings.set(slot, (r = new SampleRing(RING)));
    return r;
  }

  /** Whether the source reads the gauge in a place. */
  gives(slot: string): boolean {
    return this.source.slots?.includes(slot) ?? true;
  }

  /** What the trace of the watched gauge has shown so far: cut-ins, cut-outs, openings …; raw Pa. */
  events(): readonly TraceEvent[] {
    return this.found;
  }

  /** Samples about a time, s and Pa, at most `most`: what a reading keeps of its trace. */
  excerpt(slot: string, at: number, reach_s: number, most: number): (readonly [number, number])[] {
    const ring = this.ring(slot);
    const inside: (readonly [number, number])[] = [];
    for (let i = ring.length - 1; i >= 0; i--) {
      const s = ring.at(i);
      if (!s || s.t < at - reach_s) break;
      if (s.t <= at + reach_s) inside.push([Math.round(s.t * 100) / 100, Math.round(s.p)]);
    }
    const stride = Math.max(1, Math.ceil(inside.length / most));
    return inside.reverse().filter((_, i) => i % stride === 0);
  }

  private stream(slot: string): TraceStream | undefined {
    if (!this.kind) return undefined;
    let s = this.streams.get(slot);
    if (!s) this.streams.set(slot, (s = new TraceStream(this.kind, [], this.ambient, LOOKED)));
    return s;
  }

  private look(slot: string): void {
    const now = performance.now();
    if (now - this.looked < LOOK_MS) return;
    this.looked = now;
    const read = this.stream(slot)?.read();
    if (read?.ok) this.found = read.value.events;
  }

  /** Watch a gauge for one reading; the same key goes on, another starts afresh. */
  watch(w: Watch): void {
    if (this.watching?.key === w.key) return;
    if (this.watching?.slot !== w.slot) [this.found, this.looked] = [[], 0];
    this.watching = w;
    this.catcher = new Catcher(w);
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
    return this.turnings.take(kind, t);
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

  private take(block: LiveBlock): void {
    if (block.channels) this.channels = block.channels;
    this.time = block.t.at(-1) ?? this.time;
    const watched = this.watching && block.gauges[this.watching.slot];
    for (const [slot, column] of Object.entries(block.gauges)) {
      const ring = this.ring(slot);
      const stream = this.stream(slot);
      for (let i = 0; i < column.length; i++) {
        ring.push(block.t[i] ?? 0, column[i] ?? 0);
        stream?.push(block.t[i] ?? 0, column[i] ?? 0);
      }
    }
    if (watched && this.catcher)
      for (let i = 0; i < watched.length; i++)
        this.catcher.push(block.t[i] ?? 0, watched[i] ?? 0, block.running && block.running[i] === 1);
    this.running = block.running?.at(-1) === 1;
    if (this.watching) this.look(this.watching.slot);
    for (const l of this.listeners) l();
  }
}

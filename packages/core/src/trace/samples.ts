import type { Pyramid } from './pyramid.js';

/** A trace: pressures (Pa, raw) at times (s, rising), and what switches did meanwhile. */
export interface Samples {
  readonly t: Float64Array;
  readonly p: Float64Array;
  /** State channels, one value a sample: contact, pump, flow, trigger. Contact, pump and trigger are 0 or 1. */
  readonly states: Readonly<Record<string, Float64Array>>;
}

/** A trace made ready to look through: with the lowest and highest of its runs. */
export interface Trace extends Samples {
  readonly pyramid: Pyramid;
}

export const CHANNELS = ['contact', 'pump', 'flow', 'trigger'] as const;
/** A flow whose unit the file names, m³/s: only such a one is summed to a volume. */
export const MEASURED_FLOW = 'flow_m3s';
export type Channel = (typeof CHANNELS)[number];

const BLOCK = 1 << 16;

/** Numbers that arrive one at a time, kept in blocks so that growing never copies what is there. */
class Column {
  private readonly full: Float64Array[] = [];
  private block = new Float64Array(BLOCK);
  private used = 0;

  push(x: number): void {
    if (this.used === BLOCK) {
      this.full.push(this.block);
      this.block = new Float64Array(BLOCK);
      this.used = 0;
    }
    this.block[this.used++] = x;
  }

  /** Everything in one array; the blocks are let go of on the way, so that both never stand in full. */
  take(): Float64Array {
    const out = new Float64Array(this.full.length * BLOCK + this.used);
    let at = 0;
    for (let b = this.full.shift(); b; b = this.full.shift()) {
      out.set(b, at);
      at += BLOCK;
    }
    out.set(this.block.subarray(0, this.used), at);
    this.block = new Float64Array(0);
    return out;
  }
}

/** Collects a trace sample by sample. */
export class SampleStore {
  private readonly t = new Column();
  private readonly p = new Column();
  private readonly states: readonly (readonly [name: string, column: Column])[];
  private n = 0;

  constructor(channels: readonly string[] = []) {
    this.states = channels.map((c) => [c, new Column()]);
  }

  get length(): number {
    return this.n;
  }

  push(t: number, p: number, states: Readonly<Record<string, number>> = {}): void {
    this.t.push(t);
    this.p.push(p);
    for (const [name, column] of this.states) column.push(states[name] ?? NaN);
    this.n++;
  }

  /** A sample whose states stand in the order of the channels. */
  add(t: number, p: number, states: Float64Array): void {
    this.t.push(t);
    this.p.push(p);
    for (let k = 0; k < this.states.length; k++) this.states[k]?.[1].push(states[k] ?? NaN);
    this.n++;
  }

  take(): Samples {
    return {
      t: this.t.take(),
      p: this.p.take(),
      states: Object.fromEntries(this.states.map(([name, c]) => [name, c.take()])),
    };
  }
}

/**
 * Index of the first sample at or after a time.
 * @param near a sample that is likely close to it: found from there in a few steps, instead of by halving all of the trace
 */
export function indexAt(t: Float64Array, time: number, near?: number): number {
  let low = 0;
  let high = t.length;
  if (near !== undefined && near >= 0 && near < high) {
    let step = 1;
    if ((t[near] as number) < time) {
      low = near + 1;
      let at = near + step;
      for (; at < high && (t[at] as number) < time; at += step) {
        low = at + 1;
        step *= 2;
      }
      high = Math.min(high, at);
    } else {
      high = near;
      let at = near - step;
      for (; at >= 0 && (t[at] as number) >= time; at -= step) {
        high = at;
        step *= 2;
      }
      low = Math.max(0, at + 1);
    }
  }
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((t[middle] ?? Infinity) < time) low = middle + 1;
    else high = middle;
  }
  return low;
}

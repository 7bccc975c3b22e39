import type { Result } from '../result.js';
import { analyse, type Analysis, type TraceKind } from './analyse.js';
import { buildPyramid, growPyramid, type Pyramid } from './pyramid.js';
import type { Samples } from './samples.js';

const FIRST = 1024;

/** An array that grows by doubling, so that what is appended costs the same however much is there. */
class Growing {
  private all = new Float64Array(FIRST);
  private used = 0;

  push(x: number): void {
    if (this.used === this.all.length) {
      const more = new Float64Array(this.used * 2);
      more.set(this.all);
      this.all = more;
    }
    this.all[this.used++] = x;
  }

  /** Forget the oldest, so that `keep` are left. */
  trim(keep: number): void {
    if (this.used <= keep) return;
    this.all.copyWithin(0, this.used - keep, this.used);
    this.used = keep;
  }

  view(): Float64Array {
    return this.all.subarray(0, this.used);
  }
}

/**
 * A trace that is still being recorded. A sample is taken in the same time however long the trace is; what it shows so far is read by
 * the same `analyse` that reads a file, from a pyramid that only grows, so a live gauge and its file say the same.
 */
export class TraceStream {
  private readonly t = new Growing();
  private readonly p = new Growing();
  private readonly states: Readonly<Record<string, Growing>>;
  private pyramid: Pyramid = buildPyramid(new Float64Array());
  private n = 0;

  /**
   * @param channels state channels, as `Samples.states`
   * @param ambient Pa absolute
   * @param most samples kept; then the older half is let go of
   */
  constructor(
    private readonly kind: TraceKind,
    channels: readonly string[] = [],
    private readonly ambient = 101325,
    private readonly most = 1 << 20,
  ) {
    this.states = Object.fromEntries(channels.map((c) => [c, new Growing()]));
  }

  get length(): number {
    return this.n;
  }

  /** One sample (s, Pa). One whose time does not go on is left out. @returns whether it was taken */
  push(t: number, p: number, states: Readonly<Record<string, number>> = {}): boolean {
    const last = this.n > 0 ? (this.t.view()[this.n - 1] ?? -Infinity) : -Infinity;
    if (!(t > last) || !Number.isFinite(p)) return false;
    if (this.n === this.most) this.halve();
    this.t.push(t);
    this.p.push(p);
    for (const name in this.states) this.states[name]?.push(states[name] ?? NaN);
    this.n++;
    return true;
  }

  samples(): Samples {
    return {
      t: this.t.view(),
      p: this.p.view(),
      states: Object.fromEntries(Object.entries(this.states).map(([name, c]) => [name, c.view()])),
    };
  }

  /** What it shows so far; the same refusals as `analyse`. */
  read(): Result<Analysis> {
    const samples = this.samples();
    this.pyramid = growPyramid(this.pyramid, samples.p);
    return analyse(samples, this.kind, this.ambient, this.pyramid);
  }

  private halve(): void {
    const keep = this.most >> 1;
    for (const c of [this.t, this.p, ...Object.values(this.states)]) c.trim(keep);
    this.pyramid = buildPyramid(new Float64Array());
    this.n = keep;
  }
}

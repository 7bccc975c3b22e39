/** The newest samples of a live source, bounded in memory: time (s) and pressure (Pa) in typed arrays. */
export class SampleRing {
  private readonly t: Float64Array;
  private readonly p: Float64Array;
  private next = 0;
  private count = 0;

  constructor(readonly capacity: number) {
    this.t = new Float64Array(capacity);
    this.p = new Float64Array(capacity);
  }

  get length(): number {
    return this.count;
  }

  push(t: number, p: number): void {
    this.t[this.next] = t;
    this.p[this.next] = p;
    this.next = (this.next + 1) % this.capacity;
    if (this.count < this.capacity) this.count++;
  }

  clear(): void {
    this.next = this.count = 0;
  }

  /** The i-th sample from the oldest. */
  at(i: number): { t: number; p: number } | undefined {
    if (i < 0 || i >= this.count) return undefined;
    const j = (this.next - this.count + i + this.capacity) % this.capacity;
    return { t: this.t[j] ?? 0, p: this.p[j] ?? 0 };
  }

  newest(): { t: number; p: number } | undefined {
    return this.at(this.count - 1);
  }

  /**
   * Lowest and highest pressure in each of `columns` equal slices of [from, to], so that a spike never disappears.
   * @returns pairs in one array, NaN where a slice holds no sample
   */
  minMax(from: number, to: number, columns: number): Float64Array {
    const out = new Float64Array(columns * 2).fill(NaN);
    const width = (to - from) / columns;
    if (!(width > 0)) return out;
    for (let i = this.count - 1; i >= 0; i--) {
      const s = this.at(i);
      if (!s || s.t < from) break;
      if (s.t > to) continue;
      const c = Math.min(columns - 1, Math.floor((s.t - from) / width)) * 2;
      const low = out[c] ?? NaN;
      const high = out[c + 1] ?? NaN;
      out[c] = Number.isNaN(low) ? s.p : Math.min(low, s.p);
      out[c + 1] = Number.isNaN(high) ? s.p : Math.max(high, s.p);
    }
    return out;
  }
}

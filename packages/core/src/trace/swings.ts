import { BASE, type Pyramid } from './pyramid.js';

/** An extreme of a trace between two swings. Indexes are samples. */
export interface Extreme {
  readonly kind: 'low' | 'high';
  /** Where it was first all but reached. */
  readonly arrived: number;
  /** Where it stands. */
  readonly at: number;
  readonly p: number;
}

type Turn = Omit<Extreme, 'arrived'>;

/** Sizes of the swings between extremes, Pa. */
export const sizesOf = (extremes: readonly Extreme[]): Float64Array =>
  Float64Array.from({ length: Math.max(0, extremes.length - 1) }, (_, i) =>
    Math.abs((extremes[i + 1] as Extreme).p - (extremes[i] as Extreme).p),
  );

/** The largest of them; 0 of none. */
export const largestSwing = (extremes: readonly Extreme[]): number =>
  sizesOf(extremes).reduce((most, size) => Math.max(most, size), 0);

/**
 * Lowest and highest points, on line: an extreme counts once the pressure has come back from it by `depth`. What came before the
 * first turn is itself given as the first extreme, and the end as the last.
 */
export class Swings {
  private way: 1 | -1 | 0 = 0;
  private low = Infinity;
  private lowAt = 0;
  private high = -Infinity;
  private highAt = 0;

  constructor(
    private readonly depth: number,
    private readonly give: (e: Turn) => void,
  ) {}

  push(i: number, p: number): void {
    if (this.way === 1) {
      if (p > this.high) {
        this.high = p;
        this.highAt = i;
      } else if (this.high - p > this.depth) this.turn('high', i, p);
    } else if (this.way === -1) {
      if (p < this.low) {
        this.low = p;
        this.lowAt = i;
      } else if (p - this.low > this.depth) this.turn('low', i, p);
    } else this.begin(i, p);
  }

  /** Samples from one up to another, as if they were pushed one by one: nothing but the turns among them is done for each. */
  pushAll(p: Float64Array, from: number, to: number): void {
    const { depth } = this;
    let i = from;
    while (i < to) {
      if (this.way === 1) {
        let { high, highAt } = this;
        for (; i < to; i++) {
          const x = p[i] as number;
          if (x > high) {
            high = x;
            highAt = i;
          } else if (high - x > depth) break;
        }
        this.high = high;
        this.highAt = highAt;
        if (i < to) this.turn('high', i, p[i] as number);
      } else if (this.way === -1) {
        let { low, lowAt } = this;
        for (; i < to; i++) {
          const x = p[i] as number;
          if (x < low) {
            low = x;
            lowAt = i;
          } else if (x - low > depth) break;
        }
        this.low = low;
        this.lowAt = lowAt;
        if (i < to) this.turn('low', i, p[i] as number);
      } else this.begin(i, p[i] as number);
      i++;
    }
  }

  private begin(i: number, p: number): void {
    if (p > this.high) {
      this.high = p;
      this.highAt = i;
    }
    if (p < this.low) {
      this.low = p;
      this.lowAt = i;
    }
    if (this.high - this.low > this.depth) this.turn(this.highAt > this.lowAt ? 'low' : 'high', i, p);
  }

  /**
   * A run of samples of which only the lowest and highest are known.
   * @returns false where it may hold a turn: then its samples must be pushed one by one
   */
  pushRun(from: number, low: number, high: number): boolean {
    const top = Math.max(this.high, high);
    const bottom = Math.min(this.low, low);
    if (this.way === 1) {
      if (top - low > this.depth) return false;
    } else if (this.way === -1) {
      if (high - bottom > this.depth) return false;
    } else if (top - bottom > this.depth) return false;
    if (this.way !== -1 && high > this.high) {
      this.high = high;
      this.highAt = from;
    }
    if (this.way !== 1 && low < this.low) {
      this.low = low;
      this.lowAt = from;
    }
    return true;
  }

  /** The last extreme, unfinished: where it stands so far. */
  finish(): void {
    if (this.way === 1) this.give({ kind: 'high', at: this.highAt, p: this.high });
    if (this.way === -1) this.give({ kind: 'low', at: this.lowAt, p: this.low });
  }

  private turn(kind: 'low' | 'high', i: number, p: number): void {
    if (kind === 'high') {
      this.give({ kind, at: this.highAt, p: this.high });
      this.way = -1;
      this.low = p;
      this.lowAt = i;
    } else {
      this.give({ kind, at: this.lowAt, p: this.low });
      this.way = 1;
      this.high = p;
      this.highAt = i;
    }
  }
}

/** Samples left out: first and last. */
export type Hole = readonly [number, number];

/**
 * The extremes of a trace, those samples in `without` (rising pairs of first and last) left out. Whole runs are passed over by their
 * lowest and highest, so that nearly all of the work is the pyramid's.
 * @param near within this of an extreme counts as having arrived at it
 */
export function swingsOf(
  p: Float64Array,
  pyramid: Pyramid,
  depth: number,
  near: number,
  without: readonly Hole[] = [],
): Extreme[] {
  const turns: Turn[] = [];
  const swings = new Swings(depth, (e) => turns.push(e));
  const runs = pyramid.levels[0] ?? new Float64Array();
  let next = 0;
  let i = 0;
  while (i < p.length) {
    let hole = without[next];
    while (hole && hole[1] < i) hole = without[++next];
    if (hole && i >= hole[0]) {
      i = hole[1] + 1;
      continue;
    }
    const end = Math.min(i + BASE, p.length);
    const whole = i % BASE === 0 && (!hole || hole[0] >= end);
    const k = (i / BASE) * 2;
    if (whole && swings.pushRun(i, runs[k] as number, runs[k + 1] as number)) {
      i = end;
      continue;
    }
    const stop = whole
      ? end
      : Math.min(i - (i % BASE) + BASE, hole ? Math.max(hole[0], i) : p.length, p.length);
    swings.pushAll(p, i, stop);
    i = stop;
  }
  swings.finish();
  let from = 0;
  return turns.map((e) => {
    const at = resolve(p, e);
    const arrived = reached(p, pyramid, from, at, e, near, without);
    from = at;
    return { ...e, at, arrived };
  });
}

/** The sample itself: within a run only its beginning was kept. */
function resolve(p: Float64Array, e: Turn): number {
  for (let i = e.at; i < Math.min(e.at + BASE, p.length); i++) if (p[i] === e.p) return i;
  return e.at;
}

/** First sample after the extreme before that is within `near` of this one. */
function reached(
  p: Float64Array,
  pyramid: Pyramid,
  from: number,
  at: number,
  e: Turn,
  near: number,
  without: readonly Hole[],
): number {
  const runs = pyramid.levels[0] ?? new Float64Array();
  const high = e.kind === 'high';
  const level = high ? e.p - near : e.p + near;
  for (let i = from; i < at;) {
    const b = Math.floor(i / BASE);
    const short = high ? (runs[b * 2 + 1] as number) < level : (runs[b * 2] as number) > level;
    if (short) {
      i = (b + 1) * BASE;
      continue;
    }
    const x = p[i] as number;
    if (high ? x >= level : x <= level) {
      const hole = holeAt(without, i);
      if (!hole) return i;
      i = hole[1] + 1;
    } else i++;
  }
  return at;
}

/** The first of holes in rising order that ends at a sample or after it. */
export function holeFrom(holes: readonly Hole[], i: number): Hole | undefined {
  let [a, b] = [0, holes.length];
  while (a < b) {
    const m = (a + b) >> 1;
    if ((holes[m]?.[1] ?? Infinity) < i) a = m + 1;
    else b = m;
  }
  return holes[a];
}

/** The hole that a sample falls into, of holes in rising order. */
export function holeAt(holes: readonly Hole[], i: number): Hole | undefined {
  const hole = holeFrom(holes, i);
  return hole && hole[0] <= i ? hole : undefined;
}

/** An extreme of a trace between two swings. Indexes are samples. */
export interface Extreme {
  readonly kind: 'low' | 'high';
  /** Where it was first all but reached. */
  readonly arrived: number;
  /** Where it stands. */
  readonly at: number;
  readonly p: number;
}

/**
 * Lowest and highest points of a trace, on line: an extreme counts once the trace has come back from it by `depth`. What came
 * before the first turn is itself given as the first extreme, and the end as the last.
 */
export class Swings {
  private way: 1 | -1 | 0 = 0;
  private extreme = 0;
  private at = 0;
  private arrived = 0;
  private arrivedLevel = 0;
  private lowP = Infinity;
  private lowAt = 0;
  private highP = -Infinity;
  private highAt = 0;

  constructor(
    private readonly depth: number,
    /** Within this of an extreme counts as having arrived at it. */
    private readonly near: number,
    private readonly give: (e: Extreme) => void,
  ) {}

  push(i: number, p: number): void {
    if (this.way === 1) {
      if (p > this.extreme) {
        this.extreme = p;
        this.at = i;
        if (p > this.arrivedLevel + this.near) {
          this.arrived = i;
          this.arrivedLevel = p;
        }
      } else if (this.extreme - p > this.depth) this.turn('high', i, p);
    } else if (this.way === -1) {
      if (p < this.extreme) {
        this.extreme = p;
        this.at = i;
        if (p < this.arrivedLevel - this.near) {
          this.arrived = i;
          this.arrivedLevel = p;
        }
      } else if (p - this.extreme > this.depth) this.turn('low', i, p);
    } else this.begin(i, p);
  }

  /** The last extreme, unfinished: where the trace ends. */
  finish(): void {
    if (this.way !== 0)
      this.give({
        kind: this.way === 1 ? 'high' : 'low',
        arrived: this.arrived,
        at: this.at,
        p: this.extreme,
      });
  }

  private begin(i: number, p: number): void {
    if (p < this.lowP) {
      this.lowP = p;
      this.lowAt = i;
    }
    if (p > this.highP) {
      this.highP = p;
      this.highAt = i;
    }
    if (this.highP - this.lowP <= this.depth) return;
    const rising = this.highAt > this.lowAt;
    const first = rising ? this.lowAt : this.highAt;
    this.give({
      kind: rising ? 'low' : 'high',
      arrived: first,
      at: first,
      p: rising ? this.lowP : this.highP,
    });
    this.way = rising ? 1 : -1;
    this.extreme = this.arrivedLevel = p;
    this.at = this.arrived = i;
  }

  private turn(kind: 'low' | 'high', i: number, p: number): void {
    this.give({ kind, arrived: this.arrived, at: this.at, p: this.extreme });
    this.way = kind === 'high' ? -1 : 1;
    this.extreme = this.arrivedLevel = p;
    this.at = this.arrived = i;
  }
}

/** The extremes of a stretch of samples, those in `without` (rising pairs of indexes) left out. */
export function swingsOf(
  p: Float64Array,
  depth: number,
  near: number,
  without: readonly (readonly [number, number])[] = [],
  from = 0,
  to = p.length,
): Extreme[] {
  const out: Extreme[] = [];
  const swings = new Swings(depth, near, (e) => out.push(e));
  let next = 0;
  for (let i = from; i < to; i++) {
    let hole = without[next];
    while (hole && hole[1] < i) hole = without[++next];
    if (hole && i >= hole[0]) {
      i = hole[1];
      continue;
    }
    swings.push(i, p[i] as number);
  }
  swings.finish();
  return out;
}

/** A turning point of a trace: where the pressure stopped falling (low) or rising (high). */
export interface TurningPoint {
  readonly kind: 'low' | 'high';
  readonly t: number;
  /** Pa */
  readonly p: number;
}

/** So many samples older than is needed are kept at most, beside as many as are needed. */
const SPARE = 1024;

/**
 * Finds turning points on line: an extreme counts once the trace has come back from it by `depth`.
 * The value is the mean of the samples within `smooth_s` of the extreme, so one noisy sample does not decide it.
 */
export class TurningDetector {
  private direction: 'rising' | 'falling' | undefined;
  private extremeT = 0;
  private extremeP = 0;
  private firstP: number | undefined;
  private lowP = Infinity;
  private lowT = 0;
  private highP = -Infinity;
  private highT = 0;
  /** The newest samples, from `head` on. */
  private t: number[] = [];
  private p: number[] = [];
  private head = 0;

  constructor(
    /** Come-back that confirms a turn, Pa: several times the noise and the resolution. */
    private readonly depth: number,
    private readonly smooth_s = 0.15,
    private readonly keep_s = 60,
  ) {}

  /** Take one sample (s, Pa); returns the turning point that it confirms, if any. */
  push(t: number, p: number): TurningPoint | undefined {
    this.keep(t, p);
    if (this.direction === undefined) {
      if (p < this.lowP) [this.lowP, this.lowT] = [p, t];
      if (p > this.highP) [this.highP, this.highT] = [p, t];
      this.firstP ??= p;
      if (p - this.lowP > this.depth) return this.begin('low', this.lowT, this.firstP - this.lowP, t, p);
      if (this.highP - p > this.depth) return this.begin('high', this.highT, this.highP - this.firstP, t, p);
      return undefined;
    }
    const rising = this.direction === 'rising';
    if (rising ? p >= this.extremeP : p <= this.extremeP) {
      this.extremeP = p;
      this.extremeT = t;
      return undefined;
    }
    if (Math.abs(p - this.extremeP) <= this.depth) return undefined;
    return this.turnedAt(rising ? 'high' : 'low', this.extremeT, t, p);
  }

  private keep(t: number, p: number): void {
    this.t.push(t);
    this.p.push(p);
    while (this.t.length - this.head > 4 && t - (this.t[this.head] as number) > this.keep_s) this.head++;
    if (this.head > SPARE && this.head * 2 > this.t.length) {
      this.t = this.t.slice(this.head);
      this.p = this.p.slice(this.head);
      this.head = 0;
    }
  }

  /** The first change of direction counts only where the trace had come from the other side: a start is not a turn. */
  private begin(
    kind: 'low' | 'high',
    at: number,
    approach: number,
    t: number,
    p: number,
  ): TurningPoint | undefined {
    const point = this.turnedAt(kind, at, t, p);
    return approach > this.depth ? point : undefined;
  }

  private turnedAt(kind: 'low' | 'high', at: number, t: number, p: number): TurningPoint {
    this.direction = kind === 'high' ? 'falling' : 'rising';
    this.extremeP = p;
    this.extremeT = t;
    let sum = 0;
    let n = 0;
    for (let i = this.t.length - 1; i >= this.head; i--) {
      const time = this.t[i] as number;
      if (time < at - this.smooth_s) break;
      if (time <= at + this.smooth_s) {
        sum += this.p[i] as number;
        n++;
      }
    }
    return { kind, t: at, p: n > 0 ? sum / n : p };
  }
}

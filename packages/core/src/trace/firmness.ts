/** What a live reading is doing. */
export type ReadingState = 'moving' | 'settling' | 'firm';

export interface FirmnessOptions {
  /** Window over which a reading must stand still, s. */
  readonly window_s: number;
  /** The gauge's resolution, Pa. */
  readonly resolution: number;
  /** SD of the sensor's own noise, Pa. */
  readonly noise: number;
}

export interface Firmness {
  readonly state: ReadingState;
  /** Mean of the window, Pa. */
  readonly mean: number;
  /** Fitted slope, Pa/s, and its standard error. */
  readonly slope: number;
  readonly slopeError: number;
  /** How long it has been firm, s. */
  readonly firmFor_s: number;
  /** Set where the short window stands still but the long one is surely drifting: Pa/s. */
  readonly creep?: number;
}

/** Least squares over a sliding time window, O(1) amortised per sample. */
class SlidingLine {
  private t: number[] = [];
  private p: number[] = [];
  private head = 0;
  private n = 0;
  private st = 0;
  private sp = 0;
  private stt = 0;
  private stp = 0;
  private spp = 0;
  private t0 = 0;
  private p0 = 0;
  private sinceRebase = 0;

  constructor(private readonly width_s: number) {}

  push(t: number, p: number): void {
    if (this.n === 0 || ++this.sinceRebase > 4096) this.rebase(t, p);
    this.t.push(t);
    this.p.push(p);
    this.count(t, p, 1);
    let oldest = this.t[this.head] ?? t;
    while (t - oldest > this.width_s) {
      this.count(oldest, this.p[this.head] ?? 0, -1);
      this.head++;
      oldest = this.t[this.head] ?? t;
    }
    if (this.head > 1024 && this.head * 2 > this.t.length) {
      this.t = this.t.slice(this.head);
      this.p = this.p.slice(this.head);
      this.head = 0;
    }
  }

  /** Fit of the window: undefined until it holds three samples. */
  fit(): { full: boolean; mean: number; slope: number; slopeError: number; sd: number } | undefined {
    const n = this.n;
    if (n < 3) return undefined;
    const first = this.t[this.head] ?? 0;
    const last = this.t[this.t.length - 1] ?? 0;
    const mt = this.st / n;
    const mp = this.sp / n;
    const vtt = Math.max(1e-12, this.stt - n * mt * mt);
    const vtp = this.stp - n * mt * mp;
    const vpp = Math.max(0, this.spp - n * mp * mp);
    const slope = vtp / vtt;
    const sd = Math.sqrt(Math.max(0, vpp - slope * vtp) / (n - 2));
    return {
      full: last - first >= this.width_s * 0.95,
      mean: mp + this.p0,
      slope,
      slopeError: sd / Math.sqrt(vtt),
      sd,
    };
  }

  clear(): void {
    this.t = [];
    this.p = [];
    this.head = this.n = this.sinceRebase = 0;
    this.st = this.sp = this.stt = this.stp = this.spp = 0;
  }

  private count(t: number, p: number, sign: 1 | -1): void {
    const dt = t - this.t0;
    const dp = p - this.p0;
    this.n += sign;
    this.st += sign * dt;
    this.sp += sign * dp;
    this.stt += sign * dt * dt;
    this.stp += sign * dt * dp;
    this.spp += sign * dp * dp;
  }

  /** Running sums lose digits as time grows; start them again from the samples now and then. */
  private rebase(t: number, p: number): void {
    this.t0 = t;
    this.p0 = p;
    this.n = 0;
    this.sinceRebase = 0;
    this.st = this.sp = this.stt = this.stp = this.spp = 0;
    for (let i = this.head; i < this.t.length; i++) this.count(this.t[i] ?? 0, this.p[i] ?? 0, 1);
  }
}

/**
 * Decides on line whether a reading is firm: over the window the fitted slope moves it by no more than half a resolution,
 * and what is left fits the sensor's noise. A window five times as long tests for creep.
 */
export class FirmnessDetector {
  private readonly short: SlidingLine;
  private readonly long: SlidingLine;
  private firmSince: number | undefined;
  private lastTime = -Infinity;

  constructor(private readonly options: FirmnessOptions) {
    this.short = new SlidingLine(options.window_s);
    this.long = new SlidingLine(options.window_s * 5);
  }

  /**
   * Take one sample.
   * @param t source time, s, increasing; an earlier or equal time is ignored, a gap over a window starts afresh
   * @param p pressure, Pa
   */
  push(t: number, p: number): void {
    if (!(t > this.lastTime) || !Number.isFinite(p)) return;
    if (t - this.lastTime > this.options.window_s) {
      this.short.clear();
      this.long.clear();
      this.firmSince = undefined;
    }
    this.lastTime = t;
    this.short.push(t, p);
    this.long.push(t, p);
    if (this.judge() === 'firm') this.firmSince ??= t;
    else this.firmSince = undefined;
  }

  /** The state after the newest sample. */
  get(): Firmness {
    const fit = this.short.fit();
    if (!fit) return { state: 'moving', mean: 0, slope: 0, slopeError: 0, firmFor_s: 0 };
    const creep = this.creep();
    return {
      state: this.judge(),
      mean: fit.mean,
      slope: fit.slope,
      slopeError: fit.slopeError,
      firmFor_s: this.firmSince === undefined ? 0 : this.lastTime - this.firmSince,
      ...(creep === undefined ? {} : { creep }),
    };
  }

  private judge(): ReadingState {
    const { window_s, resolution, noise } = this.options;
    const fit = this.short.fit();
    if (!fit) return 'moving';
    const move = Math.abs(fit.slope) * window_s;
    const quantisation = resolution / Math.sqrt(12);
    const quiet = fit.sd <= 2.5 * Math.hypot(noise, quantisation);
    if (fit.full && move <= resolution / 2 && quiet && this.creep() === undefined) return 'firm';
    return move <= resolution * 4 ? 'settling' : 'moving';
  }

  private creep(): number | undefined {
    const { window_s, resolution } = this.options;
    const fit = this.long.fit();
    if (!fit?.full) return undefined;
    const sure = Math.abs(fit.slope) - 3 * fit.slopeError;
    return sure * window_s > resolution / 4 ? fit.slope : undefined;
  }
}

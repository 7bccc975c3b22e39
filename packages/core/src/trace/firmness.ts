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
  private past: { t: number; slope: number; error: number }[] = [];
  private pastHead = 0;
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
    this.remember(t);
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

  /**
   * Slope at the end of the window: that of the window, carried on by how it differs from the window before; with its standard error.
   * Passing over a crest the slope is small for a moment, its end is not.
   */
  end(): { slope: number; error: number } | undefined {
    const fit = this.fit();
    const before = this.past[this.pastHead];
    const last = this.t[this.t.length - 1] ?? 0;
    if (!fit?.full || !before || before.t > last - 0.9 * this.width_s) return undefined;
    return {
      slope: 1.5 * fit.slope - 0.5 * before.slope,
      error: Math.hypot(1.5 * fit.slopeError, 0.5 * before.error),
    };
  }

  /** Remembers slopes, so that the one of a window ago is at hand. */
  private remember(t: number): void {
    const fit = this.fit();
    if (!fit?.full) return;
    this.past.push({ t, slope: fit.slope, error: fit.slopeError });
    while ((this.past[this.pastHead + 1]?.t ?? Infinity) <= t - this.width_s) this.pastHead++;
    if (this.pastHead > 1024 && this.pastHead * 2 > this.past.length) {
      this.past = this.past.slice(this.pastHead);
      this.pastHead = 0;
    }
  }

  /** Standard error that a slope has at least, from the sensor's own noise. */
  floor(noise: number): number {
    const mt = this.st / this.n;
    return noise / Math.sqrt(Math.max(1e-12, this.stt - this.n * mt * mt));
  }

  clear(): void {
    this.t = [];
    this.p = [];
    this.past = [];
    this.pastHead = 0;
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

/** Windows that a slope is fitted over, in window lengths: the shortest that is sure of it decides. */
const WINDOWS = [1, 2.5, 5] as const;
/** A slope must be within its bound with this many of its standard errors to spare. */
const SURE = 3;
/** And its end, which is less sure, with this many. */
const CREST = 1;
/** It must have been so for this part of the window that is sure of it, and for this part of the shortest. */
const DWELL = 0.1;
const DWELL_LEAST = 0.25;

/**
 * Decides on line whether a reading is firm: over the window the fitted slope, with its doubt, moves it by no more than half a
 * resolution, and what is left fits the sensor's noise; and this has been so for half a window, so that passing over a crest is not
 * standing. A noisy sensor needs a longer window to be sure. The longest also tests for creep.
 */
export class FirmnessDetector {
  private readonly lines: readonly SlidingLine[];
  private readonly short: SlidingLine;
  private readonly long: SlidingLine;
  private quietSince: number | undefined;
  private dwell_s = 0;
  private state: ReadingState = 'moving';
  private firmSince: number | undefined;
  private lastTime = -Infinity;

  constructor(private readonly options: FirmnessOptions) {
    this.lines = WINDOWS.map((k) => new SlidingLine(options.window_s * k));
    [this.short, , this.long] = this.lines as [SlidingLine, SlidingLine, SlidingLine];
  }

  /**
   * Take one sample.
   * @param t source time, s, increasing; an earlier or equal time is ignored, a gap over a window starts afresh
   * @param p pressure, Pa
   */
  push(t: number, p: number): void {
    if (!(t > this.lastTime) || !Number.isFinite(p)) return;
    if (t - this.lastTime > this.options.window_s) {
      for (const line of this.lines) line.clear();
      this.quietSince = this.firmSince = undefined;
    }
    this.lastTime = t;
    for (const line of this.lines) line.push(t, p);
    this.state = this.judge();
    if (this.state === 'firm') this.firmSince ??= t;
    else this.firmSince = undefined;
  }

  /** The state after the newest sample. */
  get(): Firmness {
    const fit = this.short.fit();
    if (!fit) return { state: 'moving', mean: 0, slope: 0, slopeError: 0, firmFor_s: 0 };
    const creep = this.creep();
    return {
      state: this.state,
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
    const quantisation = resolution / Math.sqrt(12);
    const quiet = fit.sd <= 2.5 * Math.hypot(noise, quantisation);
    const still = fit.full && quiet && this.creep() === undefined;
    // Once firm it stays so until something is sure that it moves.
    if (still && this.firmSince !== undefined && !this.surelyMoves()) return 'firm';
    const sure = still ? this.sureOver() : undefined;
    if (sure === undefined) this.quietSince = undefined;
    else if (this.quietSince === undefined) {
      this.quietSince = this.lastTime;
      this.dwell_s = window_s * Math.max(DWELL_LEAST, DWELL * sure);
    }
    if (this.quietSince !== undefined && this.lastTime - this.quietSince >= this.dwell_s) return 'firm';
    return Math.abs(fit.slope) * window_s <= resolution * 4 ? 'settling' : 'moving';
  }

  /** The window, in shortest ones, that is sure that the slope is small, no shorter one being sure of the opposite. */
  private sureOver(): number | undefined {
    const { window_s, resolution } = this.options;
    const bound = resolution / 2 / window_s;
    for (const [i, line] of this.lines.entries()) {
      const fit = line.fit();
      if (!fit?.full) return undefined;
      // What a gauge rounds away cannot be seen in its residuals.
      const error = Math.max(fit.slopeError, line.floor(this.options.noise));
      const end = line.end();
      const small = Math.abs(fit.slope) + SURE * error <= bound;
      if (small && end && Math.abs(end.slope) + CREST * Math.max(end.error, error) <= bound)
        return WINDOWS[i];
      if (Math.abs(fit.slope) - SURE * error > bound) return undefined;
    }
    return undefined;
  }

  private surelyMoves(): boolean {
    const fit = this.short.fit();
    const { window_s, resolution, noise } = this.options;
    if (!fit) return true;
    const error = Math.max(fit.slopeError, this.short.floor(noise));
    return (Math.abs(fit.slope) - 2 * error) * window_s > resolution / 2;
  }

  private creep(): number | undefined {
    const { window_s, resolution } = this.options;
    const fit = this.long.fit();
    if (!fit?.full) return undefined;
    const sure = Math.abs(fit.slope) - 3 * fit.slopeError;
    return sure * window_s > resolution / 4 ? fit.slope : undefined;
  }
}

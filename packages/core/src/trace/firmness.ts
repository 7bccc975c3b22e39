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

/** Samples from the newest back to the beginning of the longest window: one list for all windows. */
class Recent {
  t: number[] = [];
  p: number[] = [];

  push(t: number, p: number): void {
    this.t.push(t);
    this.p.push(p);
  }

  /** Leaves out the first `n`. */
  drop(n: number): void {
    this.t = this.t.slice(n);
    this.p = this.p.slice(n);
  }
}

/** So many samples that no window needs any more are kept at most, beside as many as are needed. */
const SPARE = 1024;

/** Least squares over a sliding time window, O(1) amortised per sample. Its fit is worked out once a sample, and read as often as wanted. */
class SlidingLine {
  /** Whether the window holds three samples: only then is there a fit. */
  fits = false;
  /** Whether it holds as much as it is wide. */
  full = false;
  mean = 0;
  slope = 0;
  slopeError = 0;
  sd = 0;
  /** The oldest sample of the window, in the list of all. */
  head = 0;
  private n = 0;
  private st = 0;
  private sp = 0;
  private stt = 0;
  private stp = 0;
  private spp = 0;
  private t0 = 0;
  private p0 = 0;
  private pastT: number[] = [];
  private pastSlope: number[] = [];
  private pastError: number[] = [];
  private pastHead = 0;
  private sinceRebase = 0;

  constructor(
    private readonly width_s: number,
    private readonly samples: Recent,
  ) {}

  /** The newest sample came into the list. */
  push(t: number, p: number): void {
    const { t: times, p: values } = this.samples;
    if (this.n === 0 || ++this.sinceRebase > 4096) this.rebase(t, p);
    this.count(t, p, 1);
    let oldest = times[this.head] as number;
    while (t - oldest > this.width_s) {
      this.count(oldest, values[this.head] as number, -1);
      this.head++;
      oldest = times[this.head] as number;
    }
    this.fit(oldest, t);
    if (this.full) this.remember(t);
  }

  private fit(first: number, last: number): void {
    const { n } = this;
    this.fits = n >= 3;
    this.full = this.fits && last - first >= this.width_s * 0.95;
    if (!this.fits) return;
    const mt = this.st / n;
    const mp = this.sp / n;
    const vtt = Math.max(1e-12, this.stt - n * mt * mt);
    const vtp = this.stp - n * mt * mp;
    const vpp = Math.max(0, this.spp - n * mp * mp);
    this.slope = vtp / vtt;
    this.sd = Math.sqrt(Math.max(0, vpp - this.slope * vtp) / (n - 2));
    this.mean = mp + this.p0;
    this.slopeError = this.sd / Math.sqrt(vtt);
  }

  /**
   * Slope at the end of the window: that of the window, carried on by how it differs from the window before; with its standard error.
   * Passing over a crest the slope is small for a moment, its end is not.
   * @param last time of the newest sample, s
   */
  end(last: number): { slope: number; error: number } | undefined {
    const before = this.pastT[this.pastHead];
    if (!this.full || before === undefined || before > last - 0.9 * this.width_s) return undefined;
    return {
      slope: 1.5 * this.slope - 0.5 * (this.pastSlope[this.pastHead] as number),
      error: Math.hypot(1.5 * this.slopeError, 0.5 * (this.pastError[this.pastHead] as number)),
    };
  }

  /** Remembers slopes, so that the one of a window ago is at hand. */
  private remember(t: number): void {
    this.pastT.push(t);
    this.pastSlope.push(this.slope);
    this.pastError.push(this.slopeError);
    while ((this.pastT[this.pastHead + 1] ?? Infinity) <= t - this.width_s) this.pastHead++;
    if (this.pastHead > SPARE && this.pastHead * 2 > this.pastT.length) {
      this.pastT = this.pastT.slice(this.pastHead);
      this.pastSlope = this.pastSlope.slice(this.pastHead);
      this.pastError = this.pastError.slice(this.pastHead);
      this.pastHead = 0;
    }
  }

  /** Standard error that a slope has at least, from the sensor's own noise. */
  floor(noise: number): number {
    const mt = this.st / this.n;
    return noise / Math.sqrt(Math.max(1e-12, this.stt - this.n * mt * mt));
  }

  clear(): void {
    this.pastT = [];
    this.pastSlope = [];
    this.pastError = [];
    this.fits = this.full = false;
    this.pastHead = this.head = this.n = this.sinceRebase = 0;
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

  /** Running sums lose digits as time grows; start them again from the samples now and then. The newest is not counted yet. */
  private rebase(t: number, p: number): void {
    const { t: times, p: values } = this.samples;
    this.t0 = t;
    this.p0 = p;
    this.n = 0;
    this.sinceRebase = 0;
    this.st = this.sp = this.stt = this.stp = this.spp = 0;
    for (let i = this.head; i < times.length - 1; i++) this.count(times[i] as number, values[i] as number, 1);
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
  private readonly samples = new Recent();
  private readonly lines: readonly SlidingLine[];
  private readonly short: SlidingLine;
  private readonly long: SlidingLine;
  private quietSince: number | undefined;
  private dwell_s = 0;
  private state: ReadingState = 'moving';
  private firmSince: number | undefined;
  private lastTime = -Infinity;

  constructor(private readonly options: FirmnessOptions) {
    this.lines = WINDOWS.map((k) => new SlidingLine(options.window_s * k, this.samples));
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
      this.samples.drop(this.samples.t.length);
      for (const line of this.lines) line.clear();
      this.quietSince = this.firmSince = undefined;
    }
    this.lastTime = t;
    this.samples.push(t, p);
    for (const line of this.lines) line.push(t, p);
    const { head } = this.long;
    if (head > SPARE && head * 2 > this.samples.t.length) {
      this.samples.drop(head);
      for (const line of this.lines) line.head -= head;
    }
    this.state = this.judge();
    if (this.state === 'firm') this.firmSince ??= t;
    else this.firmSince = undefined;
  }

  /** The state after the newest sample. */
  get(): Firmness {
    const fit = this.short;
    if (!fit.fits) return { state: 'moving', mean: 0, slope: 0, slopeError: 0, firmFor_s: 0 };
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
    const fit = this.short;
    if (!fit.fits) return 'moving';
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
      if (!line.full) return undefined;
      // What a gauge rounds away cannot be seen in its residuals.
      const error = Math.max(line.slopeError, line.floor(this.options.noise));
      const end = line.end(this.lastTime);
      const small = Math.abs(line.slope) + SURE * error <= bound;
      if (small && end && Math.abs(end.slope) + CREST * Math.max(end.error, error) <= bound)
        return WINDOWS[i];
      if (Math.abs(line.slope) - SURE * error > bound) return undefined;
    }
    return undefined;
  }

  private surelyMoves(): boolean {
    const fit = this.short;
    const { window_s, resolution, noise } = this.options;
    if (!fit.fits) return true;
    const error = Math.max(fit.slopeError, fit.floor(noise));
    return (Math.abs(fit.slope) - 2 * error) * window_s > resolution / 2;
  }

  private creep(): number | undefined {
    const { window_s, resolution } = this.options;
    const fit = this.long;
    if (!fit.full) return undefined;
    const sure = Math.abs(fit.slope) - 3 * fit.slopeError;
    return sure * window_s > resolution / 4 ? fit.slope : undefined;
  }
}

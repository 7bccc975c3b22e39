import { FirmnessDetector, type Firmness } from './firmness.js';
import { TurningDetector } from './turning.js';

/**
 * What a read step waits for on a live gauge: standing firm, a turning point, a momentary peak, or the moment at which what drives it
 * stops or starts, where the pressure goes on afterwards.
 */
export type Wanted = 'firm' | 'low' | 'high' | 'peak' | 'stops' | 'starts';

export interface Caught {
  /** Source time, s, and pressure, Pa. */
  readonly t: number;
  readonly p: number;
  readonly how: 'firm' | 'turned' | 'stood' | 'switched';
}

export interface CatchOptions {
  readonly wanted: Wanted;
  /** Readable step of the gauge, Pa. */
  readonly resolution: number;
  /** SD of the sensor's noise, Pa. */
  readonly noise: number;
  /** Window over which a standing reading must stand, s. */
  readonly window_s: number;
}

/**
 * Waits on a live gauge for one reading: standing firm, or the lowest, highest or momentary peak pressure. A rise that ends
 * in standing still is caught as a high, unless the source says that what drives it still runs.
 */
export class Catcher {
  private readonly firm: FirmnessDetector;
  private readonly turning: TurningDetector;
  private readonly depth: number;
  private lowest = Infinity;
  private ran: boolean | undefined;
  private caught: Caught | undefined;
  private peak: Caught | undefined;

  constructor(private readonly options: CatchOptions) {
    const { resolution, noise, window_s, wanted } = options;
    // Over the thousands of samples of one reading, noise alone spans eight SDs; a turn must be clear of that.
    this.depth = Math.max(12 * noise, resolution);
    this.firm = new FirmnessDetector({
      window_s: wanted === 'firm' ? window_s : Math.min(3, window_s),
      resolution,
      noise,
    });
    this.turning = new TurningDetector(this.depth);
  }

  /** Take one sample (s, Pa); `running` where the source knows whether what drives it runs. Returns what is caught so far. */
  push(t: number, p: number, running?: boolean): Caught | undefined {
    const { wanted } = this.options;
    this.firm.push(t, p);
    const turned = this.turning.push(t, p);
    this.lowest = Math.min(this.lowest, p);
    const state = this.firm.get();
    if (wanted === 'firm') {
      this.caught = state.state === 'firm' ? { t, p: state.mean, how: 'firm' } : undefined;
    } else if (wanted === 'peak') {
      if (!this.peak || p > this.peak.p) this.peak = { t, p, how: 'turned' };
      if (turned?.kind === 'high') this.caught = this.peak;
    } else if (wanted === 'stops' || wanted === 'starts') {
      const runs = wanted === 'starts';
      if (running === runs && this.ran === !runs && !this.caught) this.caught = { t, p, how: 'switched' };
      this.ran = running;
    } else {
      if (turned?.kind === wanted) this.caught = { t: turned.t, p: turned.p, how: 'turned' };
      const rose = p - this.lowest > this.depth;
      if (wanted === 'high' && !this.caught && rose && state.state === 'firm' && running !== true)
        this.caught = { t: t - state.firmFor_s, p: state.mean, how: 'stood' };
    }
    return this.caught;
  }

  get(): Caught | undefined {
    return this.caught;
  }

  firmness(): Firmness {
    return this.firm.get();
  }
}

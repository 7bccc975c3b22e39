/** What a trace is made of, found from the samples themselves. */
export interface Grain {
  /** SD of the noise, Pa. */
  readonly noise: number;
  /** Step of the figures, Pa; 0 where they are not visibly stepped. */
  readonly step: number;
  /** Noise and step together, as one SD, Pa. */
  readonly sd: number;
  /** Usual time between samples, s. */
  readonly dt: number;
  /** Lowest and highest that more than a few samples reach, Pa. */
  readonly low: number;
  readonly high: number;
}

/** How far a sample may be from a pressure and still stand at it, Pa. */
export const nearOf = (grain: Grain): number => 2.5 * grain.sd + grain.step / 2;

/**
 * What a pressure that only stands there may span, Pa: the noise of n samples reaches √(2 ln n) of its SD to either side, one SD more
 * hardly ever; more samples span more.
 */
export const standingSpan = (grain: Grain, n: number): number =>
  2 * (Math.sqrt(2 * Math.log(Math.max(2, n))) + 1) * grain.sd + 1.5 * grain.step;

const RUNS = 96;
const RUN = 192;

/** In rising order. */
const sorted = (list: readonly number[]): Float64Array => Float64Array.from(list).sort();

const median = (list: readonly number[]): number => sorted(list)[list.length >> 1] ?? 0;

/**
 * Noise, step and rate of a trace, from runs of samples spread over it: robust second differences for the noise, the smallest
 * common difference for the step. Bounded work, whatever the length.
 */
export function grainOf(t: Float64Array, p: Float64Array): Grain {
  const n = p.length;
  const seconds: number[] = [];
  const firsts: number[] = [];
  const gaps: number[] = [];
  const levels: number[] = [];
  const stride = Math.max(RUN, Math.floor(n / RUNS));
  for (let start = 0; start < n; start += stride) {
    const end = Math.min(n, start + RUN);
    for (let i = start; i < end; i++) {
      const x = p[i] ?? 0;
      levels.push(x);
      if (i === start) continue;
      const before = p[i - 1] ?? 0;
      gaps.push((t[i] ?? 0) - (t[i - 1] ?? 0));
      if (x !== before) firsts.push(Math.abs(x - before));
      if (i + 1 < end) seconds.push(Math.abs(before - 2 * x + (p[i + 1] ?? 0)));
    }
  }
  const rising = sorted(levels);
  const at = (q: number): number => rising[Math.min(rising.length - 1, Math.floor(q * rising.length))] ?? 0;
  const step = stepOf(firsts);
  const noise = median(seconds) / 0.6745 / Math.sqrt(6);
  return {
    noise,
    step,
    sd: Math.max(Math.hypot(noise, step / Math.sqrt(12)), 1e-9),
    dt: median(gaps) || 1,
    low: at(0.002),
    high: at(0.998),
  };
}

/** The step that most differences are whole numbers of; 0 where there is none. */
function stepOf(firsts: readonly number[]): number {
  if (firsts.length < 8) return 0;
  const differences = sorted(firsts);
  const step = differences[Math.floor(differences.length * 0.02)] ?? 0;
  if (!(step > 0)) return 0;
  let whole = 0;
  for (const d of differences) {
    const k = d / step;
    if (Math.abs(k - Math.round(k)) < 0.02 * Math.max(1, Math.sqrt(k))) whole++;
  }
  return whole > 0.95 * differences.length ? step : 0;
}

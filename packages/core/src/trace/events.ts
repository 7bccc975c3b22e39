import { nearOf, type Grain } from './noise.js';
import type { Trace } from './samples.js';
import { swingsOf, type Extreme } from './swings.js';

/** Something that happened in a trace. Standard uncertainties; Pa and s. */
export interface TraceEvent {
  readonly kind: string;
  readonly t: number;
  readonly p: number;
  readonly u: number;
  readonly ut: number;
  /** Trace it came from. */
  readonly from: number;
  readonly to: number;
}

/** A figure of a trace with its standard uncertainty and how many events it is the mean of. */
export interface TraceFigure {
  readonly value: number;
  readonly unit: string;
  readonly u: number;
  readonly n: number;
}

export type Figures = Record<string, TraceFigure>;

/** What a kind of trace came to. */
export interface Found {
  readonly figures: Figures;
  readonly events: readonly TraceEvent[];
  readonly cycles: readonly Cycle[];
}

export interface Cycle {
  readonly cutIn: number;
  readonly cutOut: number;
  readonly on_s: number;
  /** Until the next cut-in; absent after the last. */
  readonly off_s?: number;
}

const SPIKE_S = 0.8;
/** A slam has rung out after this long, s. */
const RINGS_S = 1.6;
/** At a slow rate a spike is a single sample that stands out by this part of its height from both neighbours. */
const ALONE = 0.6;
const MOST_ROUNDS = 4;

/** Swings of a trace with short spikes (hammer) taken out, and the spikes themselves. */
export interface Cleaned {
  readonly extremes: readonly Extreme[];
  readonly spikes: readonly TraceEvent[];
  /** Trace left out, as pairs of first and last. */
  readonly holes: readonly (readonly [number, number])[];
}

/**
 * Extremes by `depth`, free of spikes.
 * @param slams whether a narrow peak on a turn is a slam; not where the turns themselves are as narrow
 */
export function cleanSwings({ t, p, pyramid }: Trace, grain: Grain, depth: number, slams = true): Cleaned {
  const near = nearOf(grain);
  let holes: (readonly [number, number])[] = [];
  const spikes: TraceEvent[] = [];
  let extremes = swingsOf(p, pyramid, depth, near);
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const more: [number, number][] = [];
    for (let i = 1; i < extremes.length - 1; i++) {
      const hole = spikeAt(t, p, extremes, i, grain, slams);
      if (!hole) continue;
      more.push(hole);
      const e = extremes[i];
      if (e)
        spikes.push({
          kind: 'spike',
          t: t[e.at] ?? 0,
          p: e.p,
          u: grain.sd,
          ut: grain.dt / 2,
          from: hole[0],
          to: hole[1],
        });
    }
    if (more.length === 0) break;
    holes = merged([...holes, ...more]);
    extremes = swingsOf(p, pyramid, depth, near, holes);
  }
  return { extremes, spikes, holes };
}

/** The samples of a spike around one extreme, or undefined where it is a turn of the trace itself. */
function spikeAt(
  t: Float64Array,
  p: Float64Array,
  extremes: readonly Extreme[],
  i: number,
  grain: Grain,
  slams: boolean,
): [number, number] | undefined {
  const e = extremes[i];
  const [before, after] = [extremes[i - 1], extremes[i + 1]];
  if (!e || !before || !after) return undefined;
  const slam = slams && slamAt(p, e, grain);
  if (slam) return slam;
  // A narrow fall that nothing rang before and nothing recovers from is where a tank ran empty, and a turn.
  const time = t[e.at] ?? 0;
  const alone = time - (t[before.at] ?? 0) > RINGS_S && (t[after.at] ?? 0) - time > RINGS_S;
  if (e.kind === 'low' && alone && grain.dt < SPIKE_S / 2) return undefined;
  const height = Math.min(Math.abs(e.p - before.p), Math.abs(e.p - after.p));
  const level = e.p - (e.kind === 'high' ? 1 : -1) * height * 0.5;
  const beyond = (x: number): boolean => (e.kind === 'high' ? x > level : x < level);
  const limit = SPIKE_S;
  let [a, b] = [e.at, e.at];
  while (a > 0 && beyond(p[a - 1] ?? 0)) {
    a--;
    if (time - (t[a] ?? 0) > limit) return undefined;
  }
  while (b < p.length - 1 && beyond(p[b + 1] ?? 0)) {
    b++;
    if ((t[b] ?? 0) - time > limit) return undefined;
  }
  if (grain.dt < SPIKE_S / 2) {
    if ((t[b] ?? 0) - (t[a] ?? 0) > limit) return undefined;
    // The flanks belong to it as well.
    const flank = Math.ceil(0.3 / grain.dt);
    return [Math.max(0, a - flank), Math.min(p.length - 1, b + flank)];
  }
  if (a !== b) return undefined;
  const left = Math.abs(e.p - (p[a - 1] ?? e.p));
  const right = Math.abs(e.p - (p[b + 1] ?? e.p));
  return Math.min(left, right) > ALONE * height && height > 8 * grain.sd ? [a, b] : undefined;
}

/** Widths of a slam that are tried, s, the narrowest first. */
const SLAMS = [0.15, 0.3, 0.6] as const;
/** A corner is as wide at half height as half of what it was measured over; a slam is far narrower. */
const NARROW = 0.2;
const SLAM_SD = 14;

/**
 * A slam that stands on the top of a swing: far narrower than a corner, over what is seen a little before and after it. Only on a
 * top: a check valve slams upward, while a narrow fall into a low may be a tank that has run empty.
 */
function slamAt(p: Float64Array, e: Extreme, grain: Grain): [number, number] | undefined {
  if (e.kind !== 'high') return undefined;
  for (const width of SLAMS) {
    const reach = Math.round((2 * width) / grain.dt);
    if (reach < 3 || e.at < reach || e.at + reach >= p.length) continue;
    const shoulder = Math.max(middleOf(p, e.at - reach), middleOf(p, e.at + reach));
    const height = e.p - shoulder;
    if (height < SLAM_SD * grain.sd + 2 * grain.step) continue;
    const level = e.p - height / 2;
    let [a, b] = [e.at, e.at];
    while (a > e.at - reach && (p[a - 1] ?? 0) > level) a--;
    while (b < e.at + reach && (p[b + 1] ?? 0) > level) b++;
    if ((b - a + 1) * grain.dt > NARROW * 4 * width) continue;
    const flank = Math.ceil(Math.max(0.3, width) / grain.dt);
    return [Math.max(0, a - flank), Math.min(p.length - 1, b + flank)];
  }
  return undefined;
}

/** Middle of three samples. */
function middleOf(p: Float64Array, i: number): number {
  const list = [p[i - 1] ?? p[i] ?? 0, p[i] ?? 0, p[i + 1] ?? p[i] ?? 0].sort((x, y) => x - y);
  return list[1] ?? 0;
}

function merged(holes: (readonly [number, number])[]): (readonly [number, number])[] {
  const sorted = [...holes].sort((x, y) => x[0] - y[0]);
  const out: [number, number][] = [];
  for (const [a, b] of sorted) {
    const last = out.at(-1);
    if (last && a <= last[1] + 1) last[1] = Math.max(last[1], b);
    else out.push([a, b]);
  }
  return out;
}

/** Mean of some values with the standard uncertainty of that mean: their scatter or their own doubt, whichever is more. */
export function meanOf(
  values: readonly number[],
  us: readonly number[],
  unit: string,
  least = 0,
): TraceFigure | undefined {
  const n = values.length;
  if (n === 0) return undefined;
  const value = values.reduce((a, b) => a + b, 0) / n;
  const scatter = n > 1 ? values.reduce((a, b) => a + (b - value) ** 2, 0) / (n - 1) : 0;
  const own = us.reduce((a, b) => a + b * b, 0) / n;
  return { value, unit, n, u: Math.hypot(Math.sqrt(Math.max(scatter, own) / n), least) };
}

/** Figures without those that the trace does not show. */
export const shown = (all: Readonly<Record<string, TraceFigure | undefined>>): Figures =>
  Object.fromEntries(Object.entries(all).filter((e): e is [string, TraceFigure] => e[1] !== undefined));

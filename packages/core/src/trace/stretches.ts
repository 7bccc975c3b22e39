import { lineOf } from './knee.js';
import { standingSpan, type Grain } from './noise.js';
import { MEASURED_FLOW, type Trace } from './samples.js';

/** A stretch in which a regulated pressure stands on one side: flowing or shut. */
export interface Stretch {
  readonly on: boolean;
  readonly from: number;
  readonly to: number;
}

/** Part of a stretch that is let go while the pressure settles, and at its end. */
export const SETTLING = 0.3;
export const ENDING = 0.04;
const LEAST = 6;
/** Two levels this many SDs apart are seen however long the trace is: few samples lie between them. */
const MOST_SPAN = 10;

/**
 * Stretches of flowing and shut: from a channel where there is one, else by two levels found in the pressures themselves.
 * @param flowingLow whether the pressure is lower while flowing (a regulator) or while shut
 */
export function stretchesOf(
  samples: Trace,
  grain: Grain,
  channels: readonly string[],
  flowingLow: boolean,
): Stretch[] {
  const { p } = samples;
  const named = channels.includes('flow') ? [...channels, MEASURED_FLOW] : channels;
  const channel = named.map((c) => samples.states[c]).find((c) => c !== undefined);
  const out: Stretch[] = [];
  const add = (on: boolean, from: number, to: number): void => {
    if (to - from >= LEAST) out.push({ on, from, to });
  };
  if (channel) {
    let most = 0;
    for (const x of channel) if (x > most) most = x;
    // A measured flow is on above a twentieth of its most; a switch above a half.
    const half = most > 1.5 || samples.states[MEASURED_FLOW] === channel ? most * 0.05 : 0.5;
    let from = 0;
    for (let i = 1; i <= channel.length; i++)
      if (i === channel.length || (channel[i] ?? 0) > half !== (channel[from] ?? 0) > half) {
        add((channel[from] ?? 0) > half, from, i);
        from = i;
      }
    return out;
  }
  const levels = twoLevels(p, grain);
  if (!levels) return [];
  const [low, high] = levels;
  const [down, up] = [low + 0.35 * (high - low), low + 0.65 * (high - low)];
  let isHigh = (p[0] ?? 0) > (down + up) / 2;
  let from = 0;
  for (let i = 1; i < p.length; i++) {
    const x = p[i] as number;
    if (isHigh ? x < down : x > up) {
      add(isHigh !== flowingLow, from, i);
      from = i;
      isHigh = !isHigh;
    }
  }
  add(isHigh !== flowingLow, from, p.length);
  const all = withoutFlicker(out);
  return ramps(samples, all, high - low) ? [] : all;
}

/** A level stands: where most stretches climb or fall by half of what lies between the two, there are no levels but a ramp. */
function ramps(samples: Trace, all: readonly Stretch[], apart: number): boolean {
  const climbs = all
    .flatMap((s) => {
      const line = steady(samples, s);
      const lasts = (samples.t[s.to - 1] ?? 0) - (samples.t[s.from] ?? 0);
      return line ? [Math.abs(line.slope) * lasts] : [];
    })
    .sort((a, b) => a - b);
  return (climbs[climbs.length >> 1] ?? 0) > apart / 2;
}

/** Stretches far shorter than the rest are no change of state but an oscillation that crossed the middle. */
function withoutFlicker(all: readonly Stretch[]): Stretch[] {
  // What a trace begins and ends in may be of any length: it says nothing of what is usual.
  const inside = all.length > 4 ? all.slice(1, -1) : all;
  const lengths = inside.map((s) => s.to - s.from).sort((a, b) => a - b);
  const most = lengths.at(-1) ?? 0;
  const usual = lengths.filter((n) => n > 0.2 * most);
  const least = 0.3 * (usual[usual.length >> 1] ?? 0);
  const out: Stretch[] = [];
  all.forEach((s, i) => {
    const last = out.at(-1);
    // What the trace ends in may well be cut short.
    const flicker = s.to - s.from < least && i < all.length - 1;
    if (last && (flicker || s.on === last.on)) out[out.length - 1] = { ...last, to: s.to };
    else out.push(s);
  });
  return out;
}

/** Two levels that the pressures gather about; undefined where there is only one. (Otsu, on a histogram.) */
export function twoLevels(p: Float64Array, grain: Grain): readonly [number, number] | undefined {
  const { low, high } = grain;
  if (!(high - low > Math.min(standingSpan(grain, p.length), MOST_SPAN * grain.sd))) return undefined;
  const BINS = 256;
  const bins = new Float64Array(BINS);
  const stride = Math.max(1, Math.floor(p.length / 200000));
  let n = 0;
  for (let i = 0; i < p.length; i += stride) {
    const b = Math.floor((((p[i] as number) - low) / (high - low)) * BINS);
    if (b < 0 || b >= BINS) continue;
    bins[b] = (bins[b] ?? 0) + 1;
    n++;
  }
  let sum = 0;
  bins.forEach((c, i) => (sum += c * i));
  let [w, s, best, cut] = [0, 0, -1, 0];
  for (let i = 0; i < BINS - 1; i++) {
    w += bins[i] ?? 0;
    s += (bins[i] ?? 0) * i;
    if (w === 0 || w === n) continue;
    const between = w * (n - w) * (s / w - (sum - s) / (n - w)) ** 2;
    if (between > best) [best, cut] = [between, i];
  }
  const mode = (from: number, to: number): number => {
    let [c, m] = [0, 0];
    for (let i = from; i < to; i++) {
      c += bins[i] ?? 0;
      m += (bins[i] ?? 0) * (i + 0.5);
    }
    return c > 0 ? low + ((high - low) * m) / c / BINS : NaN;
  };
  const [a, b] = [mode(0, cut + 1), mode(cut + 1, BINS)];
  return b - a > 6 * grain.sd ? [a, b] : undefined;
}

/** The steady part of a stretch as a line, with its level where the stretch begins. */
export const steady = (samples: Trace, s: Stretch) => {
  const n = s.to - s.from;
  const from = s.from + Math.floor(n * SETTLING);
  const to = s.to - Math.max(1, Math.floor(n * ENDING));
  return lineOf(samples.t, samples.p, from, to, samples.t[s.from] ?? 0);
};

/** Doubt of a level: noise over its samples, and what the line does not explain. */
export const doubt = (line: { up: number; n: number }, grain: Grain): number =>
  Math.hypot(line.up, grain.sd / Math.sqrt(line.n), grain.step / 12);

/** Doubt of a level: noise over its samples, half a step's share, and how far its first half stands from its second. */
export function levelDoubt(samples: Trace, s: Stretch, grain: Grain): number {
  const n = s.to - s.from;
  const middle = s.from + Math.floor(n * 0.6);
  const halves = [
    middleOf(samples, { ...s, to: middle }),
    middleOf(samples, { ...s, from: middle - Math.floor(n * 0.2) }),
  ] as const;
  const apart = Math.abs(halves[0] - halves[1]);
  return Math.hypot((1.25 * grain.sd) / Math.sqrt(Math.max(1, n * 0.6)), grain.step / 6, apart / 2);
}

/** Samples that the quartiles of a stretch are taken from at the most: more of them say no more of what is a spike. */
const QUARTILES_OF = 192;

/** Level of a stretch once settled: the mean of what stands near its median, so that spikes do not move it and steps do not show. */
export function middleOf({ p }: Trace, s: Stretch): number {
  const n = s.to - s.from;
  const from = s.from + Math.floor(n * SETTLING);
  const to = s.to - Math.max(1, Math.floor(n * ENDING));
  const stride = Math.max(1, Math.ceil((to - from) / QUARTILES_OF));
  const some = new Float64Array(Math.max(0, Math.ceil((to - from) / stride)));
  for (let i = 0; i < some.length; i++) some[i] = p[from + i * stride] as number;
  some.sort();
  const at = (q: number): number => some[Math.min(some.length - 1, Math.floor(q * some.length))] ?? NaN;
  const [low, high] = [at(0.25), at(0.75)];
  const room = 1.5 * (high - low) + 1e-9;
  const [least, most] = [low - room, high + room];
  let [sum, m] = [0, 0];
  for (let i = from; i < to; i++) {
    const x = p[i] as number;
    if (x >= least && x <= most) {
      sum += x;
      m++;
    }
  }
  return m > 0 ? sum / m : NaN;
}

/** What quantising leaves in a mean, however many samples: little where noise spreads them over several steps. */
export const stepDoubt = (grain: Grain): number =>
  (grain.step / Math.sqrt(12)) *
    Math.exp(-2 * Math.PI ** 2 * (grain.step > 0 ? (grain.noise / grain.step) ** 2 : 1)) +
  grain.step / 100;

import { meanOf, shown, type Found, type TraceEvent, type TraceFigure } from './events.js';
import { lineOf } from './knee.js';
import { standingSpan, type Grain } from './noise.js';
import { onsetIn, type Onset, type Swing } from './onset.js';
import { indexAt, MEASURED_FLOW, type Trace } from './samples.js';

/** A stretch in which a regulated pressure stands on one side: flowing or shut. */
export interface Stretch {
  readonly on: boolean;
  readonly from: number;
  readonly to: number;
}

/** Part of a stretch that is let go while the pressure settles, and at its end. */
const SETTLING = 0.3;
const ENDING = 0.04;
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
const steady = (samples: Trace, s: Stretch) => {
  const n = s.to - s.from;
  const from = s.from + Math.floor(n * SETTLING);
  const to = s.to - Math.max(1, Math.floor(n * ENDING));
  return lineOf(samples.t, samples.p, from, to, samples.t[s.from] ?? 0);
};

/** Doubt of a level: noise over its samples, and what the line does not explain. */
const doubt = (line: { up: number; n: number }, grain: Grain): number =>
  Math.hypot(line.up, grain.sd / Math.sqrt(line.n), grain.step / 12);

/** Doubt of a level: noise over its samples, half a step's share, and how far its first half stands from its second. */
function levelDoubt(samples: Trace, s: Stretch, grain: Grain): number {
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
function middleOf({ p }: Trace, s: Stretch): number {
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

/** Regulators: flowing, lock-up, droop, creep, hunting. */
export function findLevels(samples: Trace, grain: Grain): Found {
  const stretches = stretchesOf(samples, grain, ['flow', 'trigger'], true);
  const flowing = stretches.filter((s) => s.on);
  const shut = stretches.filter((s) => !s.on);
  const flowingLevels = flowing.map((s) => middleOf(samples, s));
  const shutLines = shut.flatMap((s) => {
    const line = steady(samples, s);
    return line ? [{ s, line }] : [];
  });
  const flowingFigure = meanOf(
    flowingLevels,
    flowing.map((s) => levelDoubt(samples, s, grain)),
    'Pa',
    stepDoubt(grain),
  );
  const lockUp = meanOf(
    shutLines.map(({ line }) => line.p),
    shutLines.map(({ line }) => doubt(line, grain)),
    'Pa',
    stepDoubt(grain),
  );
  const creep = meanOf(
    shutLines.map(({ line }) => line.slope),
    shutLines.map(({ line }) => line.uslope),
    'Pa/s',
  );
  const hunting = huntingOf(samples, flowing, grain);
  return {
    cycles: [],
    events: changes(samples, stretches, grain, ['flowStart', 'flowStop'], hunting.huntPeriod?.value),
    figures: shown({
      flowing: flowingFigure,
      lockUp,
      droop:
        flowingFigure && lockUp
          ? {
              value: lockUp.value - flowingFigure.value,
              unit: 'Pa',
              u: Math.hypot(lockUp.u, flowingFigure.u),
              n: Math.min(lockUp.n, flowingFigure.n),
            }
          : undefined,
      creepRate: creep,
      ...hunting,
    }),
  };
}

/** A change this large, in SDs, is seen where it begins without fitting its shape. */
const PLAIN_SD = 25;
/** How far back a change may have begun before it was half done, as a part of the stretch before it. */
const BACK = 0.3;

/** Every change from one stretch to the next: when it began, and the pressure that it left. */
export function changes(
  samples: Trace,
  stretches: readonly Stretch[],
  grain: Grain,
  [start, stop]: readonly [string, string],
  period?: number,
): TraceEvent[] {
  const { t, p } = samples;
  const stated = Object.keys(samples.states).some(
    (c) => c === 'flow' || c === MEASURED_FLOW || c === 'trigger',
  );
  return stretches.slice(1).flatMap((s, i): TraceEvent[] => {
    const before = stretches[i];
    if (!before) return [];
    const n = before.to - before.from;
    const from = before.to - Math.max(4, Math.floor(n * 0.5));
    const to = before.to - Math.max(1, Math.floor(n * (stated ? 0 : ENDING)));
    const line = lineOf(t, p, Math.max(before.from, from), to, t[s.from] ?? 0);
    if (!line) return [];
    const begin = stated
      ? s.from
      : onset(p, s.from, Math.max(before.from, s.from - Math.floor(n * BACK)), line, t, grain);
    if ((t[begin] ?? 0) - (t[begin - 1] ?? 0) > 6 * grain.dt) return [];
    const swing = period === undefined ? undefined : { period, after: s.on };
    const step = Math.abs(middleOf(samples, s) - line.p);
    const plain = line.sd < 2 * grain.sd && step > PLAIN_SD * grain.sd && !swing;
    const fitted = stated || plain ? undefined : fittedOnset(samples, before, s, begin, grain, swing);
    return [
      {
        kind: s.on ? start : stop,
        t: fitted?.t ?? ((t[begin] ?? 0) + (t[begin - 1] ?? t[begin] ?? 0)) / 2,
        p: line.p + line.slope * ((t[begin] ?? 0) - (t[s.from] ?? 0)),
        u: Math.hypot(few(line.n - 2) * line.up, line.sd > 2 * grain.sd ? line.sd : 0, grain.step / 12),
        ut: Math.max(grain.dt / Math.sqrt(12), fitted?.ut ?? 0),
        from: begin,
        to: begin + 1,
      },
    ];
  });
}

/** Back from where a change is half done to the last sample that still stands on the line before it. */
function onset(
  p: Float64Array,
  half: number,
  least: number,
  line: { p: number; slope: number; sd: number },
  t: Float64Array,
  grain: Grain,
): number {
  const t0 = t[half] ?? 0;
  const near = Math.max(3 * grain.sd, 2 * line.sd) + grain.step / 2;
  let i = half;
  while (i > least && Math.abs((p[i - 1] ?? 0) - line.p - line.slope * ((t[i - 1] ?? 0) - t0)) > near) i--;
  return i;
}

/** The moment of a change from the shape of what came before and after; looked for around where it was first seen. */
function fittedOnset(
  { t, p }: Trace,
  before: Stretch,
  after: Stretch,
  begin: number,
  grain: Grain,
  swing?: Swing,
): Onset | undefined {
  const period = swing?.period ?? 0;
  const half = t[after.from] ?? 0;
  const rise = half - (t[begin] ?? 0) + grain.dt;
  const back = Math.min(0.6 * (half - (t[before.from] ?? 0)), Math.max(4 * rise, 4 * period, 40 * grain.dt));
  const on = Math.min(0.6 * ((t[after.to - 1] ?? 0) - half), 5 * rise + 10 * grain.dt + period);
  const early = half - Math.min(0.7 * back, Math.max(3 * rise, period, 4 * grain.dt));
  return onsetIn(t, p, indexAt(t, half - back), indexAt(t, half + on), early, half, grain.sd, swing);
}

/** A steady oscillation while flowing: its amplitude (half of peak to peak) and period; absent where there is none. */
export function huntingOf(
  samples: Trace,
  flowing: readonly Stretch[],
  grain: Grain,
): { huntAmplitude?: TraceFigure; huntPeriod?: TraceFigure } {
  const { t, p } = samples;
  const halves: number[] = [];
  const amplitudes: number[] = [];
  for (const s of flowing) {
    const n = s.to - s.from;
    const from = s.from + Math.floor(n * SETTLING);
    const to = s.to - Math.max(1, Math.floor(n * ENDING));
    const line = lineOf(t, p, from, to, t[from] ?? 0);
    if (!line || line.sd < 3 * grain.sd) continue;
    const swing = Math.sqrt(Math.max(0, line.sd ** 2 - grain.sd ** 2)) * Math.SQRT2;
    const edge = Math.max(0.3 * swing, 2 * grain.sd);
    let side = 0;
    let crossed: number | undefined;
    let outer = 0;
    for (let i = from; i < to; i++) {
      const x = (p[i] ?? 0) - line.p - line.slope * ((t[i] ?? 0) - (t[from] ?? 0));
      const now = x > edge ? 1 : x < -edge ? -1 : 0;
      if (now === 0 || now === side) {
        if (side === 0 || x * side < 0) outer = t[i] ?? 0;
        continue;
      }
      // Between leaving one side and reaching the other the middle was crossed.
      const at = side === 0 ? (t[i] ?? 0) : (outer + (t[i] ?? 0)) / 2;
      if (side !== 0 && crossed !== undefined) halves.push(at - crossed);
      if (side !== 0) crossed = at;
      side = now;
      outer = t[i] ?? 0;
    }
    amplitudes.push(swing);
  }
  if (halves.length < 4) return {};
  const mean = halves.reduce((a, b) => a + b, 0) / halves.length;
  const sd = Math.sqrt(halves.reduce((a, b) => a + (b - mean) ** 2, 0) / (halves.length - 1));
  if (sd > 0.4 * mean) return {};
  const amplitude = meanOf(
    amplitudes,
    amplitudes.map(() => grain.sd / 4),
    'Pa',
  );
  return {
    ...(amplitude ? { huntAmplitude: amplitude } : {}),
    huntPeriod: { value: 2 * mean, unit: 's', u: (2 * sd) / Math.sqrt(halves.length), n: halves.length },
  };
}

/** Of few samples the spread itself is in doubt: Student's t over two, near enough. */
const few = (dof: number): number => (dof > 0 ? 1 + 1.4 / dof + 1.2 / (dof * dof) : 4);

/** Unloaders: working (trigger pulled), trapped (released), and how far one stands over the other. */
export function findUnloader(samples: Trace, grain: Grain): Found {
  const above = 0.25 * grain.high;
  const stretches = stretchesOf(samples, grain, ['trigger', 'flow'], true).filter(
    (s) => middleOf(samples, s) > above,
  );
  const level = (on: boolean) => {
    const list = stretches.filter((s) => s.on === on);
    return meanOf(
      list.map((s) => middleOf(samples, s)),
      list.map((s) => levelDoubt(samples, s, grain)),
      'Pa',
      stepDoubt(grain),
    );
  };
  const [working, trapped] = [level(true), level(false)];
  return {
    cycles: [],
    events: changes(samples, stretches, grain, ['pulled', 'released']),
    figures: shown({
      working,
      trapped,
      spike:
        working && trapped
          ? {
              value: trapped.value - working.value,
              unit: 'Pa',
              u: Math.hypot(working.u, trapped.u),
              n: Math.min(working.n, trapped.n),
            }
          : undefined,
    }),
  };
}

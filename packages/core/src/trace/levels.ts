import { meanOf, shown, type Found, type TraceEvent, type TraceFigure } from './events.js';
import { lineOf } from './knee.js';
import type { Grain } from './noise.js';
import { onsetIn, type Onset, type Swing } from './onset.js';
import { indexAt, MEASURED_FLOW, type Trace } from './samples.js';

import {
  doubt,
  ENDING,
  SETTLING,
  levelDoubt,
  middleOf,
  steady,
  stepDoubt,
  stretchesOf,
  type Stretch,
} from './stretches.js';
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

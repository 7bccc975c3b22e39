import { accept, refuse, type Result } from '../result.js';
import { findCycles } from './cycles.js';
import { findCracking, findDips, findRelief } from './dips.js';
import type { Found } from './events.js';
import { findLevels, findUnloader } from './levels.js';
import { grainOf, type Grain } from './noise.js';
import { buildPyramid } from './pyramid.js';
import { LONGEST_LAG_S, withoutLag } from './lag.js';
import { withoutLone } from './lone.js';
import type { Samples, Trace } from './samples.js';
import { findAir } from './air.js';

/**
 * What kind of thing a trace shows; a family says which is its own. `clicks` are cycles that go on past where something acts: only its
 * contact tells where that was.
 */
export const TRACE_KINDS = [
  'cycles',
  'clicks',
  'levels',
  'unloader',
  'dips',
  'cracking',
  'relief',
  'air',
] as const;
export type TraceKind = (typeof TRACE_KINDS)[number];

export interface Analysis extends Found {
  readonly samples: number;
  readonly duration_s: number;
  readonly grain: Grain;
  /** Stretches without samples, s. */
  readonly gaps: readonly { readonly from: number; readonly to: number }[];
  /** Why there is nothing to say, where there is not. */
  readonly nothing?: string;
}

const FINDERS: Readonly<Record<TraceKind, (s: Trace, g: Grain, ambient: number) => Found>> = {
  cycles: findCycles,
  clicks: findCycles,
  levels: findLevels,
  unloader: findUnloader,
  dips: findDips,
  cracking: findCracking,
  relief: findRelief,
  air: findAir,
};

/** Kinds whose turns and levels last for more than a sample: one that stands alone is none of them. */
const FREED: ReadonlySet<TraceKind> = new Set(['cycles', 'clicks', 'levels', 'unloader']);

const LEAST_SAMPLES = 8;
const said = (seconds: number): string => String(Number(seconds.toPrecision(2)));
const GAP = 6;
const MOST_GAPS = 1000;
/** Samples passed over at once: fewer than fit into a gap. */
const RUN = 4;

/**
 * Everything a trace shows of one kind: figures, events and cycles. A figure that it does not show is absent.
 * @param ambient Pa absolute, for what follows Boyle's law
 * @param pyramid of the samples, where there is one already
 * @param lag_s time constant of the gauge and its tube, s: what it hides is put back before anything is looked for
 * @returns a refusal for a trace too short to be one, for clicks without their contact, or for a lag that is none or is too long for it
 */
export function analyse(
  samples: Samples,
  kind: TraceKind,
  ambient = 101325,
  pyramid = buildPyramid(samples.p),
  lag_s = 0,
): Result<Analysis> {
  const times = timesOf(samples);
  if (!times.numbers || !pyramid.numbers) {
    const kept = finite(samples);
    return analyse(kept, kind, ambient, buildPyramid(kept.p), lag_s);
  }
  const { t, p } = samples;
  if (p.length < LEAST_SAMPLES)
    return refuse('trace-short', `${p.length} samples are no trace.`, {
      bound: `${LEAST_SAMPLES} samples`,
      remedy: 'Record for longer, or look whether the file was cut off.',
    });
  if (!(lag_s >= 0 && lag_s <= LONGEST_LAG_S))
    return refuse('lag', `A lag of ${lag_s} s cannot be reckoned with.`, {
      where: 'lag',
      bound: `0 to ${LONGEST_LAG_S} s`,
      remedy: 'Give the time constant of the gauge and its tube, or leave it out.',
    });
  if (kind === 'clicks' && !samples.states['contact'] && !samples.states['pump'])
    return refuse(
      'contact-missing',
      'Without its contact this trace shows where the pressure turned, which is not where it acted.',
      {
        where: 'contact',
        remedy:
          'Record its contact with it, as a column “contact” of 0 and 1, or read the points at the click.',
      },
    );
  if (lag_s > 0) {
    const { samples: freed, at } = withoutLag(samples, lag_s);
    if (at.length < LEAST_SAMPLES) {
      const lasts = (t[t.length - 1] as number) - (t[0] as number);
      return refuse('lag-long', `A lag of ${lag_s} s hides all that a trace of ${said(lasts)} s shows.`, {
        where: 'lag',
        bound: `0 to ${said(lasts / LEAST_SAMPLES)} s`,
        remedy: 'Record for longer, or give the time constant that was measured.',
      });
    }
    const found = analyse(freed, kind, ambient);
    const was = (i: number): number => at[Math.min(i, at.length - 1)] ?? 0;
    return found.ok
      ? accept({
          ...found.value,
          samples: p.length,
          events: found.value.events.map((e) => ({ ...e, from: was(e.from), to: was(e.to) })),
        })
      : found;
  }
  const { grain } = times;
  const { p: freed, lone } = FREED.has(kind) ? withoutLone(t, p, grain) : { p, lone: [] };
  const over = freed === p ? pyramid : buildPyramid(freed);
  const seen = FINDERS[kind]({ ...samples, p: freed, pyramid: over }, grain, ambient);
  const found =
    lone.length === 0 ? seen : { ...seen, events: [...seen.events, ...lone].sort((a, b) => a.t - b.t) };
  const nothing = Object.keys(found.figures).length === 0;
  return accept({
    ...found,
    samples: p.length,
    duration_s: (t[t.length - 1] ?? 0) - (t[0] ?? 0),
    grain,
    gaps: times.gaps,
    ...(nothing ? { nothing: 'The trace shows nothing of this kind: no turn, no second level.' } : {}),
  });
}

/** What the times are made of, in one pass: whether all are numbers, and the stretches without samples. */
function timesOf({ t, p }: Samples): { numbers: boolean; gaps: Analysis['gaps']; grain: Grain } {
  const grain = grainOf(t, p);
  const wide = GAP * grain.dt;
  const gaps: { from: number; to: number }[] = [];
  const look = (from: number, to: number): void => {
    for (let k = from + 1; k <= to && gaps.length < MOST_GAPS; k++) {
      const [a, b] = [t[k - 1] as number, t[k] as number];
      if (b - a > wide) gaps.push({ from: a, to: b });
    }
  };
  // Nothing times anything that is no number is none; two sums, neither of which waits for the other.
  let [x, y] = [0, 0];
  let i = 0;
  for (; i + RUN < t.length; i += RUN) {
    x += (t[i] as number) * 0 + (t[i + 1] as number) * 0;
    y += (t[i + 2] as number) * 0 + (t[i + 3] as number) * 0;
    // A run that took no longer than usual has no gap in it.
    if ((t[i + RUN] as number) - (t[i] as number) > wide) look(i, i + RUN);
  }
  look(i, t.length - 1);
  for (; i < t.length; i++) x += (t[i] as number) * 0;
  return { numbers: x + y === 0, gaps, grain };
}

/** The samples that are numbers. */
function finite({ t, p, states }: Samples): Samples {
  const kept = (_: number, i: number): boolean =>
    Number.isFinite(t[i] ?? NaN) && Number.isFinite(p[i] ?? NaN);
  return {
    t: t.filter(kept),
    p: p.filter(kept),
    states: Object.fromEntries(Object.entries(states).map(([k, x]) => [k, x.filter(kept)])),
  };
}

import { accept, refuse, type Result } from '../result.js';
import { findCycles } from './cycles.js';
import { findCracking, findDips, findRelief } from './dips.js';
import type { Found } from './events.js';
import { findLevels, findUnloader } from './levels.js';
import { grainOf, type Grain } from './noise.js';
import type { Samples } from './samples.js';
import { findAir } from './air.js';

/** What kind of thing a trace shows; a family says which is its own. */
export type TraceKind = 'cycles' | 'levels' | 'unloader' | 'dips' | 'cracking' | 'relief' | 'air';

export interface Analysis extends Found {
  readonly samples: number;
  readonly duration_s: number;
  readonly grain: Grain;
  /** Stretches without samples, s. */
  readonly gaps: readonly { readonly from: number; readonly to: number }[];
  /** Why there is nothing to say, where there is not. */
  readonly nothing?: string;
}

const FINDERS: Readonly<Record<TraceKind, (s: Samples, g: Grain, ambient: number) => Found>> = {
  cycles: findCycles,
  levels: findLevels,
  unloader: findUnloader,
  dips: findDips,
  cracking: findCracking,
  relief: findRelief,
  air: findAir,
};

const LEAST_SAMPLES = 8;
const GAP = 6;
const MOST_GAPS = 1000;

/**
 * Everything a trace shows of one kind: figures, events and cycles. A figure that it does not show is absent.
 * @param ambient Pa absolute, for what follows Boyle's law
 * @returns a refusal for a trace too short to be one
 */
export function analyse(samples: Samples, kind: TraceKind, ambient = 101325): Result<Analysis> {
  const { t, p } = samples;
  if (p.length < LEAST_SAMPLES)
    return refuse('trace-short', `${p.length} samples are no trace.`, {
      bound: `${LEAST_SAMPLES} samples`,
      remedy: 'Record for longer, or look whether the file was cut off.',
    });
  const grain = grainOf(t, p);
  const found = FINDERS[kind](samples, grain, ambient);
  const gaps: { from: number; to: number }[] = [];
  const wide = GAP * grain.dt;
  for (let i = 1; i < t.length && gaps.length < MOST_GAPS; i++) {
    const [a, b] = [t[i - 1] as number, t[i] as number];
    if (b - a > wide) gaps.push({ from: a, to: b });
  }
  const nothing = Object.keys(found.figures).length === 0;
  return accept({
    ...found,
    samples: p.length,
    duration_s: (t[t.length - 1] ?? 0) - (t[0] ?? 0),
    grain,
    gaps,
    ...(nothing ? { nothing: 'The trace shows nothing of this kind: no turn, no second level.' } : {}),
  });
}

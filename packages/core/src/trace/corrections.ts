import type { Analysis } from './analyse.js';
import { meanOf, shown, type Figures, type TraceEvent, type TraceFigure } from './events.js';

/** What a person said of an event that was found, or was not. The event itself is never changed. */
export interface EventCorrection {
  readonly kind: string;
  /** Time of the event that is corrected, s; absent where one is added. */
  readonly found_s?: number;
  /** Where it belongs, s and Pa; absent where there was none. */
  readonly t?: number;
  readonly p?: number;
  /** Standard doubt of that, Pa. */
  readonly u?: number;
  readonly why: string;
}

export interface CorrectedEvent extends TraceEvent {
  /** What was said of it, where something was. */
  readonly correction?: EventCorrection;
}

/** The time by which an event is known, wherever a person moved it since. */
export const originOf = (e: CorrectedEvent): number => e.correction?.found_s ?? e.correction?.t ?? e.t;

/** Two events are the same when they are of one kind and this near, s. */
const SAME_S = 1e-6;

/**
 * Events with what people said of them, and the figures that are means of those events made anew. Others stay: they come from the
 * samples. The last word on an event counts.
 */
export function withCorrections(
  analysis: Analysis,
  corrections: readonly EventCorrection[],
): { readonly events: readonly CorrectedEvent[]; readonly figures: Figures } {
  if (corrections.length === 0) return analysis;
  let events: CorrectedEvent[] = [...analysis.events];
  for (const c of corrections) {
    events = events.filter(
      (e) => c.found_s === undefined || e.kind !== c.kind || Math.abs(originOf(e) - c.found_s) > SAME_S,
    );
    if (c.t === undefined || c.p === undefined) continue;
    const at = analysis.events.find((e) => e.t === c.found_s);
    events.push({
      kind: c.kind,
      t: c.t,
      p: c.p,
      u: c.u ?? analysis.grain.sd,
      ut: analysis.grain.dt / 2,
      from: at?.from ?? 0,
      to: at?.to ?? 0,
      correction: c,
    });
  }
  events.sort((a, b) => a.t - b.t);
  const touched = new Set(corrections.map((c) => c.kind));
  const figures: Record<string, TraceFigure | undefined> = { ...analysis.figures };
  for (const kind of touched) {
    const list = events.filter((e) => e.kind === kind);
    const figure = meanOf(
      list.map((e) => Math.abs(e.p) * Math.sign(analysis.figures[kind]?.value ?? 1)),
      list.map((e) => e.u),
      'Pa',
    );
    figures[kind] = figure;
  }
  for (const [name, over, under] of SPANS) {
    if (!touched.has(over) && !touched.has(under)) continue;
    const [a, b] = [figures[over], figures[under]];
    figures[name] =
      a && b
        ? { value: a.value - b.value, unit: 'Pa', u: Math.hypot(a.u, b.u), n: Math.min(a.n, b.n) }
        : undefined;
  }
  return { events, figures: shown(figures) };
}

/** Figures that are one figure over another. */
const SPANS = [
  ['differential', 'cutOut', 'cutIn'],
  ['blowdown', 'opening', 'reseat'],
] as const;

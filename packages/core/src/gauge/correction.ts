import { columnFactor } from '../reckon/index.js';
import { spanOf, type Gauge, type SpanPoint } from './gauge.js';

/** A check at a single pressure speaks for its neighbourhood: this part of the span to either side. */
export const NEIGHBOURHOOD = 0.1;

/**
 * What a gauge's span check says at a pressure: the error to take off, and its standard uncertainty. Pa.
 * @param at zeroed reading, Pa
 * @returns undefined where no check was made, outside its points, or away from a single one
 */
export function spanError(g: Gauge, at: number): { readonly error: number; readonly u: number } | undefined {
  const points = g.check?.points ?? [];
  const [first] = points;
  const last = points.at(-1);
  if (!first || !last) return undefined;
  if (points.length === 1)
    return Math.abs(at - first.at) <= NEIGHBOURHOOD * spanOf(g).span ? first : undefined;
  if (at < first.at || at > last.at) return undefined;
  const i = Math.max(
    1,
    points.findIndex((p) => p.at >= at),
  );
  const a = points[i - 1] ?? first;
  const b = points[i] ?? last;
  const w = b.at === a.at ? 0 : (at - a.at) / (b.at - a.at);
  return { error: a.error + w * (b.error - a.error), u: Math.max(a.u, b.u) };
}

/** One error found at one pressure, rising or falling. Pa. */
export interface FoundError {
  readonly at: number;
  readonly error: number;
  /** Expanded uncertainty, k = 2. */
  readonly U: number;
  readonly way: 'up' | 'down' | 'steady';
}

/**
 * The points of a span check: rising and falling errors at one pressure become their mean, and half their difference is
 * counted as hysteresis (rectangular).
 */
export function spanPoints(found: readonly FoundError[]): readonly SpanPoint[] {
  const by = new Map<number, FoundError[]>();
  for (const f of found) by.set(f.at, [...(by.get(f.at) ?? []), f]);
  return [...by.entries()]
    .sort(([a], [b]) => a - b)
    .map(([at, list]) => {
      const errors = list.map((f) => f.error);
      const half = (Math.max(...errors) - Math.min(...errors)) / 2;
      return {
        at,
        error: errors.reduce((a, b) => a + b, 0) / errors.length,
        u: Math.hypot(Math.max(...list.map((f) => f.U)) / 2, half / Math.sqrt(3)),
      };
    });
}

/** Largest difference between a falling and a rising reading at one pressure, Pa; undefined without such a pair. */
export function hysteresisOf(found: readonly FoundError[]): number | undefined {
  const gaps = found.flatMap((up) =>
    up.way === 'up'
      ? found.filter((d) => d.way === 'down' && d.at === up.at).map((d) => d.error - up.error)
      : [],
  );
  return gaps.length === 0 ? undefined : gaps.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a));
}

/** What a column reading of this gauge is multiplied by: 1 unless it is a column whose water temperature is declared. */
export function columnOf(g: Gauge): number {
  if (g.column_C === undefined) return 1;
  const factor = columnFactor(g.column_C);
  return factor.ok ? factor.value : 1;
}

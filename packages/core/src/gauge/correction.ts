import { fromCanonical, intervalToCanonical } from '../quantity/index.js';
import { columnFactor } from '../reckon/index.js';
import { errorLimit } from './accuracy.js';
import { spanOf, type Gauge, type SpanPoint } from './gauge.js';

/** A check at a single pressure speaks for its neighbourhood: this part of the span to either side. */
export const NEIGHBOURHOOD = 0.1;

/** Between two points at which it was checked a gauge may err otherwise by this part of its class limit [common practice, no source]. */
const BETWEEN = 0.25;
/** In a year after its check it may have moved by this part of it [common practice, no source]. */
const A_YEAR = 0.1;
const YEAR_MS = 365.25 * 86_400_000;

/** Largest permitted error of a gauge at a pressure by its class, Pa. */
export const classLimit = (g: Gauge, at: number): number =>
  intervalToCanonical(errorLimit(g.accuracy, fromCanonical(at, g.unit), g.lower, g.upper), g.unit);

/**
 * What a gauge's span check says at a pressure: the error to take off, and its standard uncertainty. Pa. Between the points that
 * were checked the curve may bend: most in the middle of a wide gap, and by no less than the points themselves do.
 * @param at zeroed reading, Pa
 * @param day on which it is read, ISO: the check has aged
 * @returns undefined where no check was made, outside its points, or away from a single one
 */
export function spanError(
  g: Gauge,
  at: number,
  day?: string,
): { readonly error: number; readonly u: number } | undefined {
  const points = g.check?.points ?? [];
  const [first] = points;
  const last = points.at(-1);
  if (!first || !last) return undefined;
  const span = spanOf(g);
  const limit = classLimit(g, at);
  const years = Math.abs(Date.parse(day ?? '') - Date.parse(g.check?.day ?? '')) / YEAR_MS;
  const aged = ((Number.isFinite(years) ? years : 0) * A_YEAR * limit) / Math.sqrt(3);
  if (points.length === 1)
    return Math.abs(at - first.at) <= NEIGHBOURHOOD * span.span
      ? { error: first.error, u: Math.hypot(first.u, aged) }
      : undefined;
  if (at < first.at || at > last.at) return undefined;
  const i = Math.max(
    1,
    points.findIndex((p) => p.at >= at),
  );
  const a = points[i - 1] ?? first;
  const b = points[i] ?? last;
  const w = b.at === a.at ? 0 : (at - a.at) / (b.at - a.at);
  const gap = Math.min(1, (2 * (b.at - a.at)) / span.span);
  const bends = Math.max(BETWEEN * limit * gap, bendAt(points, i)) * 4 * w * (1 - w);
  return {
    error: a.error + w * (b.error - a.error),
    // One reference was held against both: their doubts go together.
    u: Math.hypot((1 - w) * a.u + w * b.u, bends / Math.sqrt(3), aged),
  };
}

/** How far a parabola through a gap's ends and a point beside it leaves the straight line in the middle of the gap, Pa. */
function bendAt(points: readonly SpanPoint[], i: number): number {
  const [a, b] = [points[i - 1], points[i]];
  let most = 0;
  for (const c of [points[i - 2], points[i + 1]]) {
    if (!a || !b || !c || c.at === a.at || b.at === a.at || c.at === b.at) continue;
    const slope = (b.error - a.error) / (b.at - a.at);
    const second = ((c.error - a.error) / (c.at - a.at) - slope) / (c.at - b.at);
    most = Math.max(most, Math.abs(second) * ((b.at - a.at) / 2) ** 2);
  }
  return most;
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

import { leastSquares } from './squares.js';

/** A change of level and what led up to it. */
export interface Onset {
  /** When it began, s, with its standard uncertainty. */
  readonly t: number;
  readonly ut: number;
  /** The pressure that it left, Pa. */
  readonly p: number;
  readonly u: number;
}

export interface Swing {
  /** s */
  readonly period: number;
  /** Whether it begins with the change; else it ends with it. */
  readonly after: boolean;
}

const MOST_POINTS = 120;
const GRID = 24;
/** Time constants tried, as parts of the time looked at after the change. */
const TIMES = [0.02, 0.05, 0.1, 0.2, 0.4, 0.8] as const;
/** Residuals beyond this many SDs are a slam of the valve, not the change. */
const CUT = 4;

/**
 * When a level began to change, for a pressure that stands on a line, perhaps swinging with a known period, and then goes over to
 * another level as a first-order lag does. Least squares over the moment and the lag, slams cut off.
 * @param from first and `to` last sample looked at (indexes)
 * @param early earliest and `late` latest moment that it may have begun, s
 * @param sd of the samples, Pa
 * @param swing a swing with a known period, before the change or after it
 */
export function onsetIn(
  t: Float64Array,
  p: Float64Array,
  from: number,
  to: number,
  early: number,
  late: number,
  sd: number,
  swing?: Swing,
): Onset | undefined {
  const stride = Math.max(1, Math.ceil((to - from) / MOST_POINTS));
  const t0 = early;
  const p0 = p[from] ?? 0;
  const [x, y]: [number[], number[]] = [[], []];
  for (let i = from; i < to; i += stride) {
    x.push((t[i] ?? 0) - t0);
    y.push((p[i] ?? 0) - p0);
  }
  const n = x.length;
  const columns = swing ? 5 : 3;
  if (n < 2 * columns || !(late > early)) return undefined;
  const omega = swing ? (2 * Math.PI) / swing.period : 0;
  const after = (t[to - 1] ?? 0) - early;
  const rows = new Float64Array(n * columns);
  const rhs = Float64Array.from(y);
  const weight = new Float64Array(n).fill(1);
  const fit = (tau: number, lag: number): { sse: number; c: Float64Array } | undefined => {
    for (let i = 0; i < n; i++) {
      const d = (x[i] ?? 0) - tau;
      const k = i * columns;
      rows[k] = 1;
      rows[k + 1] = Math.min(d, 0);
      rows[k + 2] = d > 0 ? 1 - Math.exp(-d / lag) : 0;
      if (columns === 5) {
        const swings = d > 0 === swing?.after;
        rows[k + 3] = swings ? Math.cos(omega * d) : 0;
        rows[k + 4] = swings ? Math.sin(omega * d) : 0;
      }
    }
    return leastSquares(rows, rhs, columns, weight, CUT * sd);
  };
  let best: { tau: number; lag: number; sse: number; c: Float64Array } | undefined;
  const width = (late - early) / GRID;
  const look = (tau: number, lag: number): void => {
    const f = fit(tau, lag);
    if (f && (!best || f.sse < best.sse)) best = { tau, lag, ...f };
  };
  for (let k = 0; k <= GRID; k++) for (const part of TIMES) look(k * width, part * after);
  if (!best) return undefined;
  // Finer and finer about the best.
  for (let round = 1, step = width, ratio = 1.4; round <= 5; round++, step /= 2, ratio = Math.sqrt(ratio)) {
    const { tau, lag } = best;
    for (const d of [-1, -0.5, 0.5, 1]) look(tau + d * step, lag);
    for (const f of [1 / ratio, ratio]) look(best.tau, lag * f);
  }
  const s = Math.max(sd, Math.sqrt(best.sse / Math.max(1, n - columns - 2)));
  const slope = Math.abs(best.c[2] ?? 0) / best.lag;
  const { tau, lag } = best;
  const near = Math.max(1, x.filter((d) => d > tau && d < tau + lag).length);
  return {
    t: t0 + best.tau,
    ut: slope > 0 ? (2 * s) / slope / Math.sqrt(near) : width,
    p: p0 + (best.c[0] ?? 0),
    u: (2 * s) / Math.sqrt(Math.max(1, x.filter((d) => d < tau).length)),
  };
}

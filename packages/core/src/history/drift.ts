/** One zero of a gauge: when, and what it showed vented, Pa. */
export interface ZeroPoint {
  readonly day: string;
  readonly offset: number;
}

export interface Drift {
  /** Change a year, Pa, and its standard error. */
  readonly perYear: number;
  readonly error: number;
  readonly n: number;
  /** ISO day on which the zero is expected to leave ± limit; absent where the drift is not surely away from zero. */
  readonly leaves?: string;
}

const YEAR_MS = 365.25 * 86400e3;
/** Beyond this a line through a few zeros says nothing. */
const FARTHEST_YEARS = 20;

/**
 * A straight line through a gauge's zeros, and the day it leaves its limit.
 * @param limit how far from zero the gauge may stand, Pa
 * @returns undefined with fewer than three zeros or all on one day
 */
export function zeroDrift(points: readonly ZeroPoint[], limit: number): Drift | undefined {
  const n = points.length;
  const t = points.map((p) => Date.parse(p.day) / YEAR_MS);
  const mt = t.reduce((a, b) => a + b, 0) / n;
  const mp = points.reduce((a, p) => a + p.offset, 0) / n;
  const vtt = t.reduce((a, x) => a + (x - mt) ** 2, 0);
  if (n < 3 || vtt < 1e-6) return undefined;
  const slope = points.reduce((a, p, i) => a + ((t[i] ?? mt) - mt) * (p.offset - mp), 0) / vtt;
  const left = points.reduce((a, p, i) => a + (p.offset - mp - slope * ((t[i] ?? mt) - mt)) ** 2, 0);
  const error = Math.sqrt(left / Math.max(1, n - 2) / vtt);
  const base = { perYear: slope, error, n };
  // Only a drift that is surely there predicts anything.
  if (Math.abs(slope) <= 2 * error || slope === 0) return base;
  const at = mt + (Math.sign(slope) * limit - mp) / slope;
  const last = Math.max(...t);
  if (at > last + FARTHEST_YEARS) return base;
  return { ...base, leaves: new Date(Math.max(at, last) * YEAR_MS).toISOString().slice(0, 10) };
}

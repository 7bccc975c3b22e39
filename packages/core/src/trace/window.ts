import { holeAt, type Hole } from './swings.js';

export const MOST_POINTS = 48;
/** Samples looked at for one point. */
const MOST_EACH = 12;

/** Samples of a window, thinned by averaging to a bounded number of points: times from the first, values from the first's. */
export interface Window {
  readonly n: number;
  /** The stretch it is of, as indexes. */
  readonly from: number;
  readonly to: number;
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly w: Float64Array;
  readonly t0: number;
  readonly p0: number;
}

const emptyWindow = () => ({
  n: 0,
  from: 0,
  to: 0,
  x: new Float64Array(MOST_POINTS),
  y: new Float64Array(MOST_POINTS),
  w: new Float64Array(MOST_POINTS),
  t0: 0,
  p0: 0,
});

/** What is only looked at once is filled in again and again: there is one for every turn of a trace. */
const passing = emptyWindow();

/**
 * A stretch of samples made ready to fit lines to; undefined where it is too short to tell.
 * @param once it is looked at before the next is made, and not kept
 */
export function windowOf(
  t: Float64Array,
  p: Float64Array,
  from: number,
  to: number,
  holes: readonly Hole[] = [],
  once = false,
): Window | undefined {
  const length = to - from;
  if (length < 5) return undefined;
  const stride = Math.max(1, Math.ceil(length / MOST_POINTS));
  const each = Math.max(1, Math.floor(stride / MOST_EACH));
  const win = once ? passing : emptyWindow();
  const { x, y, w } = win;
  const t0 = (win.t0 = t[from] ?? 0);
  const p0 = (win.p0 = p[from] ?? 0);
  win.from = from;
  win.to = to;
  const holed = holes.length > 0;
  let n = 0;
  for (let i = from; i < to; i += stride) {
    let sx = 0;
    let sy = 0;
    let m = 0;
    const end = Math.min(to, i + stride);
    for (let k = i; k < end; k += each) {
      if (holed && holeAt(holes, k)) continue;
      sx += (t[k] as number) - t0;
      sy += (p[k] as number) - p0;
      m++;
    }
    if (m === 0) continue;
    x[n] = sx / m;
    y[n] = sy / m;
    w[n] = m;
    n++;
  }
  win.n = n;
  return n < 5 ? undefined : win;
}

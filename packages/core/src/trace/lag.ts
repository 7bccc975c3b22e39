import type { Samples } from './samples.js';

/** The slope is taken over this part of the lag to either side. */
const REACH = 0.5;
/** Longest lag that is reckoned with, s: beyond it a trace says little of what was before it. */
export const LONGEST_LAG_S = 60;

/** A trace freed of its lag, and where each of its samples stood in the one it was made of. */
export interface Freed {
  readonly samples: Samples;
  readonly at: Int32Array;
}

/**
 * A trace freed of a lag of the first order, as a long tube, a snubber or a slow gauge puts on it: what stood before it was its level and
 * the lag times its slope. The slope is that of a line over half the lag to either side, so that noise grows by little; samples are
 * kept half a lag apart, so that what they share of it does not pass for certainty.
 * @param lag_s time constant, s, above 0
 */
export function withoutLag({ t, p, states }: Samples, lag_s: number): Freed {
  const n = p.length;
  const kept: number[] = [];
  const values: number[] = [];
  let [a, b] = [0, 0];
  let next = -Infinity;
  for (let i = 0; i < n; i++) {
    const at = t[i] as number;
    if (at < next) continue;
    next = at + REACH * lag_s * (1 - 1e-9);
    // At least a sample to either side, however far apart they are.
    while (b < n && ((t[b] as number) <= at + REACH * lag_s || b <= i + 1)) b++;
    while (a < i - 1 && (t[a] as number) < at - REACH * lag_s) a++;
    kept.push(i);
    values.push((p[i] as number) + lag_s * slopeAt(t, p, i, a, b));
  }
  const at = Int32Array.from(kept);
  const pick = (list: Float64Array): Float64Array => Float64Array.from(kept, (i) => list[i] as number);
  return {
    at,
    samples: {
      t: pick(t),
      p: Float64Array.from(values),
      states: Object.fromEntries(Object.entries(states).map(([k, x]) => [k, pick(x)])),
    },
  };
}

/**
 * Slope of the line of least squares through samples a to b - 1. Times and pressures count from sample i, as sums from the start of
 * a trace of days would lose the digits that a slope is made of.
 */
function slopeAt(t: Float64Array, p: Float64Array, i: number, a: number, b: number): number {
  let [st, sp, stt, stp] = [0, 0, 0, 0];
  for (let k = a; k < b; k++) {
    const [x, y] = [(t[k] as number) - (t[i] as number), (p[k] as number) - (p[i] as number)];
    st += x;
    sp += y;
    stt += x * x;
    stp += x * y;
  }
  const m = b - a;
  const spread = stt - (st * st) / m;
  return spread > 0 ? (stp - (st * sp) / m) / spread : 0;
}

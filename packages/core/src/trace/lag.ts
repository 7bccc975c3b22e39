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
  // Sums over the window, of times from the first and of pressures from the first sample: kept as it slides.
  const [t0, p0] = [t[0] ?? 0, p[0] ?? 0];
  let [m, st, sp, stt, stp] = [0, 0, 0, 0, 0];
  const take = (i: number, sign: 1 | -1): void => {
    const [x, y] = [(t[i] as number) - t0, (p[i] as number) - p0];
    m += sign;
    st += sign * x;
    sp += sign * y;
    stt += sign * x * x;
    stp += sign * x * y;
  };
  for (let i = 0; i < n; i++) {
    const at = t[i] as number;
    // At least a sample to either side, however far apart they are.
    while (b < n && ((t[b] as number) <= at + REACH * lag_s || b <= i + 1)) take(b++, 1);
    while (a < i - 1 && (t[a] as number) < at - REACH * lag_s) take(a++, -1);
    if (at < next) continue;
    next = at + REACH * lag_s * (1 - 1e-9);
    const spread = stt - (st * st) / m;
    const slope = spread > 0 ? (stp - (st * sp) / m) / spread : 0;
    kept.push(i);
    values.push((p[i] as number) + lag_s * slope);
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

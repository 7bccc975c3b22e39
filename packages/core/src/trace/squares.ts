const MOST = 6;

/**
 * Linear least squares with residuals beyond `cut` counted as `cut` and given no say: two rounds.
 * @param rows n × k, row by row
 * @param weight scratch of n, overwritten
 * @returns coefficients and the sum of squared (cut) residuals; undefined where the columns do not differ
 */
export function leastSquares(
  rows: Float64Array,
  y: Float64Array,
  k: number,
  weight: Float64Array,
  cut: number,
): { readonly c: Float64Array; readonly sse: number } | undefined {
  weight.fill(1);
  let c: Float64Array | undefined;
  let sse = Infinity;
  for (let round = 0; round < 2; round++) {
    c = solve(rows, y, k, weight);
    if (!c) return undefined;
    sse = 0;
    for (let i = 0; i < y.length; i++) {
      let r = y[i] as number;
      for (let j = 0; j < k; j++) r -= (c[j] as number) * (rows[i * k + j] as number);
      const beyond = Math.abs(r) > cut;
      weight[i] = beyond ? 0.05 : 1;
      sse += beyond ? cut * cut : r * r;
    }
  }
  return c && { c, sse };
}

/** Normal equations, Cholesky. */
function solve(
  rows: Float64Array,
  y: Float64Array,
  k: number,
  weight: Float64Array,
): Float64Array | undefined {
  const a = new Float64Array(MOST * MOST);
  const b = new Float64Array(k);
  for (let i = 0; i < y.length; i++) {
    const w = weight[i] as number;
    for (let r = 0; r < k; r++) {
      const x = w * (rows[i * k + r] as number);
      if (x === 0) continue;
      b[r] = (b[r] as number) + x * (y[i] as number);
      for (let s = 0; s <= r; s++)
        a[r * MOST + s] = (a[r * MOST + s] as number) + x * (rows[i * k + s] as number);
    }
  }
  for (let r = 0; r < k; r++) {
    const whole = a[r * MOST + r] as number;
    for (let s = 0; s <= r; s++) {
      let v = a[r * MOST + s] as number;
      for (let m = 0; m < s; m++) v -= (a[r * MOST + m] as number) * (a[s * MOST + m] as number);
      if (r === s) {
        if (!(v > 1e-10 * whole)) return undefined;
        a[r * MOST + r] = Math.sqrt(v);
      } else a[r * MOST + s] = v / (a[s * MOST + s] as number);
    }
  }
  for (let r = 0; r < k; r++) {
    for (let m = 0; m < r; m++) b[r] = (b[r] as number) - (a[r * MOST + m] as number) * (b[m] as number);
    b[r] = (b[r] as number) / (a[r * MOST + r] as number);
  }
  for (let r = k - 1; r >= 0; r--) {
    for (let m = r + 1; m < k; m++) b[r] = (b[r] as number) - (a[m * MOST + r] as number) * (b[m] as number);
    b[r] = (b[r] as number) / (a[r * MOST + r] as number);
  }
  return b;
}

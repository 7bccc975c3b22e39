/** Where two straight lines meet in a trace: a turning point freed of noise and of where the samples happened to fall. */
export interface Knee {
  readonly t: number;
  readonly p: number;
  /** Standard uncertainties, s and Pa. */
  readonly ut: number;
  readonly u: number;
  /** Slopes before and after, Pa/s. */
  readonly before: number;
  readonly after: number;
  /** SD left over by the lines, in SDs of the samples: near 1 where they are lines. */
  readonly left: number;
}

const MOST_POINTS = 80;

/** Samples of a window, thinned by averaging to a bounded number: times from the first, values from their mean. */
interface Window {
  readonly x: number[];
  readonly y: number[];
  readonly w: number[];
  readonly t0: number;
  readonly p0: number;
}

function windowOf(t: Float64Array, p: Float64Array, from: number, to: number, o: KneeOptions): Window {
  const as =
    o.boyle === undefined ? (x: number): number => x : (x: number): number => 1 / (x + (o.boyle ?? 0));
  const n = to - from;
  const stride = Math.max(1, Math.ceil(n / MOST_POINTS));
  const t0 = t[from] ?? 0;
  const p0 = as(p[from] ?? 0);
  const [x, y, w]: [number[], number[], number[]] = [[], [], []];
  const holes = o.holes?.filter(([a, b]) => b >= from && a < to) ?? [];
  for (let i = from; i < to; i += stride) {
    let [sx, sy, m] = [0, 0, 0];
    for (let k = i; k < Math.min(to, i + stride); k++) {
      if (holes.some(([a, b]) => k >= a && k <= b)) continue;
      sx += (t[k] ?? 0) - t0;
      sy += as(p[k] ?? 0) - p0;
      m++;
    }
    if (m === 0) continue;
    x.push(sx / m);
    y.push(sy / m);
    w.push(m);
  }
  return { x, y, w, t0, p0 };
}

export interface KneeOptions {
  /** Samples to leave out, as pairs of first and last. */
  readonly holes?: readonly (readonly [number, number])[];
  /** Ambient pressure, Pa: the lines are straight in 1/(p + ambient), as for air in a tank under a constant flow. */
  readonly boyle?: number;
}

/** Weighted least squares of y = a + b·d + c·max(0, d), d = x − τ: coefficients, squared error. */
function hinge(win: Window, tau: number): { a: number; b: number; c: number; sse: number } | undefined {
  let [s0, s1, s2, h1, h2, m1, y0, y1, yh, yy] = [0, 0, 0, 0, 0, 0, 0, 0, 0, 0];
  for (let i = 0; i < win.x.length; i++) {
    const d = (win.x[i] ?? 0) - tau;
    const h = d > 0 ? d : 0;
    const y = win.y[i] ?? 0;
    const w = win.w[i] ?? 1;
    s0 += w;
    s1 += w * d;
    s2 += w * d * d;
    h1 += w * h;
    h2 += w * h * h;
    m1 += w * d * h;
    y0 += w * y;
    y1 += w * y * d;
    yh += w * y * h;
    yy += w * y * y;
  }
  const solved = solve3([s0, s1, h1, s1, s2, m1, h1, m1, h2], [y0, y1, yh]);
  if (!solved) return undefined;
  const [a, b, c] = solved;
  return { a, b, c, sse: Math.max(0, yy - a * y0 - b * y1 - c * yh) };
}

function solve3(m: readonly number[], r: readonly number[]): [number, number, number] | undefined {
  const [a, b, c, d, e, f, g, h, i] = m as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const [x, y, z] = r as [number, number, number];
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  if (!(Math.abs(det) > 1e-12 * Math.abs(a * e * i))) return undefined;
  return [
    (x * (e * i - f * h) - b * (y * i - f * z) + c * (y * h - e * z)) / det,
    (a * (y * i - f * z) - x * (d * i - f * g) + c * (d * z - y * g)) / det,
    (a * (e * z - y * h) - b * (d * z - y * g) + x * (d * h - e * g)) / det,
  ];
}

/**
 * The meeting of two lines near a sample, from at most the stretch between `from` and `to` (indexes).
 * @param sd noise and step of the samples, Pa
 * @returns undefined where the stretch is too short to tell
 */
export function kneeAt(
  t: Float64Array,
  p: Float64Array,
  near: number,
  from: number,
  to: number,
  sd: number,
  options: KneeOptions = {},
): Knee | undefined {
  if (to - from < 5) return undefined;
  const win = windowOf(t, p, from, to, options);
  const n = win.x.length;
  if (n < 5) return undefined;
  const guess = (t[near] ?? 0) - win.t0;
  const low = Math.max(win.x[1] ?? 0, guess - 0.4 * (guess - (win.x[0] ?? 0)) - (win.x[1] ?? 0));
  const high = Math.min(win.x[n - 2] ?? 0, guess + 0.4 * ((win.x[n - 1] ?? 0) - guess) + (win.x[1] ?? 0));
  if (!(high > low)) return undefined;
  let best = { tau: NaN, sse: Infinity };
  const GRID = 24;
  for (let k = 0; k <= GRID; k++) {
    const tau = low + ((high - low) * k) / GRID;
    const f = hinge(win, tau);
    if (f && f.sse < best.sse) best = { tau, sse: f.sse };
  }
  if (Number.isNaN(best.tau)) return undefined;
  // Golden section around the best of the grid.
  const g = (Math.sqrt(5) - 1) / 2;
  const width = (high - low) / GRID;
  let [a, b] = [Math.max(low, best.tau - width), Math.min(high, best.tau + width)];
  const sse = (tau: number): number => hinge(win, tau)?.sse ?? Infinity;
  for (let k = 0; k < 24; k++) {
    const [c, d] = [b - g * (b - a), a + g * (b - a)];
    if (sse(c) < sse(d)) b = d;
    else a = c;
  }
  const tau = (a + b) / 2;
  const fit = hinge(win, tau);
  if (!fit) return undefined;
  // What is left of the fit (each point the mean of `w` samples) says how far the stretch is from two lines.
  const left = Math.sqrt(fit.sse / Math.max(1, n - 4));
  const { boyle } = options;
  if (boyle === undefined) {
    const found = uncertain(win, tau, fit, Math.max(left, sd));
    return { ...found, before: fit.b, after: fit.b + fit.c, left: left / sd };
  }
  const y = win.p0 + fit.a;
  const value = 1 / y - boyle;
  const slope = (value + boyle) ** 2;
  const found = uncertain(win, tau, fit, Math.max(left, sd / slope));
  return {
    t: found.t,
    ut: found.ut,
    p: value,
    u: found.u * slope,
    before: -fit.b * slope,
    after: -(fit.b + fit.c) * slope,
    left: (left * slope) / sd,
  };
}

/** Meeting point with the uncertainties of a, b, c and τ together (Gauss–Newton). */
function uncertain(
  win: Window,
  tau: number,
  fit: { a: number; b: number; c: number },
  s: number,
): { t: number; p: number; u: number; ut: number } {
  // Columns: 1, d, h, and the derivative by τ: −b − c·(d > 0).
  const N = new Float64Array(16);
  for (let i = 0; i < win.x.length; i++) {
    const d = (win.x[i] ?? 0) - tau;
    const row = [1, d, Math.max(0, d), -fit.b - (d > 0 ? fit.c : 0)];
    for (let r = 0; r < 4; r++)
      for (let k = 0; k < 4; k++)
        N[r * 4 + k] = (N[r * 4 + k] ?? 0) + (win.w[i] ?? 1) * (row[r] ?? 0) * (row[k] ?? 0);
  }
  const inverse = invert4(N);
  // Few points: the spread of their residuals is itself in doubt (Student's t, to first order).
  const dof = Math.max(1, win.x.length - 4);
  const k = s * (1 + 1.4 / dof);
  // The pressure at the meeting point is a, with τ free.
  const u = inverse ? k * Math.sqrt(Math.max(0, inverse[0] ?? 0)) : s;
  const ut = inverse ? k * Math.sqrt(Math.max(0, inverse[15] ?? 0)) : 0;
  return { t: win.t0 + tau, p: win.p0 + fit.a, u, ut };
}

function invert4(m: Float64Array): Float64Array | undefined {
  // Columns differ by many powers of ten: bring the diagonal to one first.
  const d = [0, 5, 10, 15].map((i) => Math.sqrt(Math.max(m[i] ?? 0, 1e-300)));
  const a = m.map((x, i) => x / (d[i >> 2] ?? 1) / (d[i & 3] ?? 1));
  const inverse = gauss4(a);
  return inverse?.map((x, i) => x / (d[i >> 2] ?? 1) / (d[i & 3] ?? 1));
}

function gauss4(a: Float64Array): Float64Array | undefined {
  const out = Float64Array.from([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]);
  const get = (x: Float64Array, i: number): number => x[i] ?? 0;
  for (let c = 0; c < 4; c++) {
    let pivot = c;
    for (let r = c + 1; r < 4; r++)
      if (Math.abs(get(a, r * 4 + c)) > Math.abs(get(a, pivot * 4 + c))) pivot = r;
    if (Math.abs(get(a, pivot * 4 + c)) < 1e-14) return undefined;
    if (pivot !== c)
      for (const x of [a, out])
        for (let k = 0; k < 4; k++)
          [x[c * 4 + k], x[pivot * 4 + k]] = [get(x, pivot * 4 + k), get(x, c * 4 + k)];
    const f = get(a, c * 4 + c);
    for (const x of [a, out]) for (let k = 0; k < 4; k++) x[c * 4 + k] = get(x, c * 4 + k) / f;
    for (let r = 0; r < 4; r++) {
      if (r === c) continue;
      const q = get(a, r * 4 + c);
      for (const x of [a, out])
        for (let k = 0; k < 4; k++) x[r * 4 + k] = get(x, r * 4 + k) - q * get(x, c * 4 + k);
    }
  }
  return out;
}

/** Straight line through a stretch: level at `t0`, slope, and what is left. */
export function lineOf(
  t: Float64Array,
  p: Float64Array,
  from: number,
  to: number,
  t0: number,
): { p: number; slope: number; sd: number; n: number; up: number; uslope: number } | undefined {
  const n = to - from;
  if (n < 3) return undefined;
  let [st, sp] = [0, 0];
  for (let i = from; i < to; i++) {
    st += (t[i] ?? 0) - t0;
    sp += p[i] ?? 0;
  }
  const [mt, mp] = [st / n, sp / n];
  let [vtt, vtp, vpp] = [0, 0, 0];
  for (let i = from; i < to; i++) {
    const dt = (t[i] ?? 0) - t0 - mt;
    const dp = (p[i] ?? 0) - mp;
    vtt += dt * dt;
    vtp += dt * dp;
    vpp += dp * dp;
  }
  if (!(vtt > 0)) return undefined;
  const slope = vtp / vtt;
  const sd = Math.sqrt(Math.max(0, vpp - slope * vtp) / Math.max(1, n - 2));
  return {
    p: mp - slope * mt,
    slope,
    sd,
    n,
    up: sd * Math.sqrt(1 / n + (mt * mt) / vtt),
    uslope: sd / Math.sqrt(vtt),
  };
}

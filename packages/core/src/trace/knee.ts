import { holeAt, type Hole } from './swings.js';

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

const MOST_POINTS = 48;
/** Samples looked at for one point. */
const MOST_EACH = 12;

/**
 * Samples of a window, thinned by averaging to a bounded number of points: times from the first, values from the first's. Plain lists:
 * there is one for every turn of a trace, and so short a typed one costs more to make than to fill.
 */
export interface Window {
  readonly x: readonly number[];
  readonly y: readonly number[];
  readonly w: readonly number[];
  readonly t0: number;
  readonly p0: number;
}

/** A stretch of samples made ready to fit lines to; undefined where it is too short to tell. */
export function windowOf(
  t: Float64Array,
  p: Float64Array,
  from: number,
  to: number,
  holes: readonly Hole[] = [],
): Window | undefined {
  const n = to - from;
  if (n < 5) return undefined;
  const stride = Math.max(1, Math.ceil(n / MOST_POINTS));
  const each = Math.max(1, Math.floor(stride / MOST_EACH));
  const t0 = t[from] ?? 0;
  const p0 = p[from] ?? 0;
  const x: number[] = [];
  const y: number[] = [];
  const w: number[] = [];
  const holed = holes.length > 0;
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
    x.push(sx / m);
    y.push(sy / m);
    w.push(m);
  }
  if (x.length < 5) return undefined;
  return { x, y, w, t0, p0 };
}

const TRIES = 24;
const CLOSER = 14;
const GOLDEN = (Math.sqrt(5) - 1) / 2;

/**
 * Two lines that meet anywhere in a window: y = a + b·d + c·max(0, d), d = x − τ, by weighted least squares. Sums over the points from
 * each one on are kept, so that every τ costs the same few multiplications: c comes from what a single line leaves over.
 */
class Hinges {
  private readonly n: number;
  /** Per point, sums from it on: w, w·x, w·x², w·r, w·r·x, r what the single line leaves over. */
  private readonly sums: readonly number[];
  private readonly mean: number;
  private readonly spread: number;
  private readonly level: number;
  private readonly slope: number;
  private readonly line: number;

  constructor(
    private readonly x: readonly number[],
    y: readonly number[],
    w: readonly number[],
  ) {
    const n = (this.n = x.length);
    let [sw, sx, sy] = [0, 0, 0];
    for (let i = 0; i < n; i++) {
      const wi = w[i] as number;
      sw += wi;
      sx += wi * (x[i] as number);
      sy += wi * (y[i] as number);
    }
    const mx = (this.mean = sx / sw);
    const my = (this.level = sy / sw);
    let [vxx, vxy] = [0, 0];
    for (let i = 0; i < n; i++) {
      const [wi, dx] = [w[i] as number, (x[i] as number) - mx];
      vxx += wi * dx * dx;
      vxy += wi * dx * ((y[i] as number) - my);
    }
    this.spread = vxx;
    const slope = (this.slope = vxy / vxx);
    // Filled before it is read: a list that only ever held numbers stays one of plain numbers.
    const s: number[] = [];
    for (let k = 0; k < (n + 1) * 5; k++) s.push(0);
    this.sums = s;
    let line = 0;
    for (let i = n - 1, k = i * 5; i >= 0; i--, k -= 5) {
      const [xi, wi] = [x[i] as number, w[i] as number];
      const r = (y[i] as number) - my - slope * (xi - mx);
      line += wi * r * r;
      s[k] = (s[k + 5] as number) + wi;
      s[k + 1] = (s[k + 6] as number) + wi * xi;
      s[k + 2] = (s[k + 7] as number) + wi * xi * xi;
      s[k + 3] = (s[k + 8] as number) + wi * r;
      s[k + 4] = (s[k + 9] as number) + wi * r * xi;
    }
    this.line = line;
  }

  /** Where the sums of the points beyond τ begin. */
  private beyond(tau: number): number {
    let [i, end] = [0, this.n];
    while (i < end) {
      const m = (i + end) >> 1;
      if ((this.x[m] as number) <= tau) i = m + 1;
      else end = m;
    }
    return i * 5;
  }

  /** How much less a bend at τ leaves over than the single line, and how sharp it is. */
  private bend(tau: number): { c: number; gain: number; h: number; hx: number } {
    const s = this.sums;
    const k = this.beyond(tau);
    const [w, wx, wxx] = [s[k] as number, s[k + 1] as number, s[k + 2] as number];
    const hr = (s[k + 4] as number) - tau * (s[k + 3] as number);
    const h = wx - tau * w;
    const hx = wxx - tau * wx - this.mean * h;
    const own = wxx - 2 * tau * wx + tau * tau * w - (h * h) / (s[0] as number) - (hx * hx) / this.spread;
    if (!(own > 1e-9 * this.spread)) return { c: 0, gain: 0, h, hx };
    return { c: hr / own, gain: (hr * hr) / own, h, hx };
  }

  sse(tau: number): number {
    return Math.max(0, this.line - this.bend(tau).gain);
  }

  /** The best τ between two, from a grid and then closer about the best of it. */
  best(low: number, high: number): number {
    let [tau, least] = [low, Infinity];
    for (let k = 0; k <= TRIES; k++) {
      const at = low + ((high - low) * k) / TRIES;
      const left = this.sse(at);
      if (left < least) [tau, least] = [at, left];
    }
    const width = (high - low) / TRIES;
    let [a, b] = [Math.max(low, tau - width), Math.min(high, tau + width)];
    let [c, d] = [b - GOLDEN * (b - a), a + GOLDEN * (b - a)];
    let [fc, fd] = [this.sse(c), this.sse(d)];
    for (let k = 0; k < CLOSER; k++)
      if (fc < fd) {
        [b, d, fd] = [d, c, fc];
        c = b - GOLDEN * (b - a);
        fc = this.sse(c);
      } else {
        [a, c, fc] = [c, d, fd];
        d = a + GOLDEN * (b - a);
        fd = this.sse(d);
      }
    return (a + b) / 2;
  }

  /** The lines that meet at τ: level there, slopes before and after, squared error; and variances of τ and of the level per unit variance. */
  at(tau: number): Lines | undefined {
    const { c, gain, h, hx } = this.bend(tau);
    const s = this.sums;
    const w0 = s[0] as number;
    const b = this.slope - (c * hx) / this.spread;
    const a = this.level - (c * h) / w0 + b * (tau - this.mean);
    // Columns 1, d, h and the derivative by τ, −b − c·(d > 0): their products, from the sums.
    const k = this.beyond(tau);
    const [m0, m1, m2] = moments(s, 0, tau);
    const [h0, h1, h2] = moments(s, k, tau);
    const g0 = -b * m0 - c * h0;
    const variances = inverseDiagonal(
      m0,
      m1,
      h1,
      g0,
      m2,
      h2,
      -b * m1 - c * h1,
      h2,
      -(b + c) * h1,
      b * b * m0 + (2 * b * c + c * c) * h0,
    );
    return variances && { a, b, c, sse: Math.max(0, this.line - gain), ...variances };
  }
}

interface Lines {
  readonly a: number;
  readonly b: number;
  readonly c: number;
  readonly sse: number;
  readonly va: number;
  readonly vtau: number;
}

/** Sums of w, w·d and w·d² over the points from some place on, d = x − τ. */
function moments(s: readonly number[], k: number, tau: number): [number, number, number] {
  const [w, wx, wxx] = [s[k] as number, s[k + 1] as number, s[k + 2] as number];
  return [w, wx - tau * w, wxx - 2 * tau * wx + tau * tau * w];
}

/** First and last of the diagonal of the inverse of a symmetric 4 × 4 matrix, given by rows from the diagonal on. */
function inverseDiagonal(...m: readonly number[]): { va: number; vtau: number } | undefined {
  const [a, b, c, d, e, f, g, h, i, j] = m as [
    number,
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
  // Cholesky, and the columns of its inverse.
  const l11 = Math.sqrt(a);
  const [l21, l31, l41] = [b / l11, c / l11, d / l11];
  const q22 = e - l21 * l21;
  if (!(q22 > 1e-12 * e)) return undefined;
  const l22 = Math.sqrt(q22);
  const [l32, l42] = [(f - l31 * l21) / l22, (g - l41 * l21) / l22];
  const q33 = h - l31 * l31 - l32 * l32;
  if (!(q33 > 1e-12 * h)) return undefined;
  const l33 = Math.sqrt(q33);
  const l43 = (i - l41 * l31 - l42 * l32) / l33;
  const q44 = j - l41 * l41 - l42 * l42 - l43 * l43;
  if (!(q44 > 1e-12 * j)) return undefined;
  // Forward through the factor for the first unit vector gives its variance.
  const x1 = 1 / l11;
  const x2 = (-l21 * x1) / l22;
  const x3 = (-l31 * x1 - l32 * x2) / l33;
  const x4 = (-l41 * x1 - l42 * x2 - l43 * x3) / Math.sqrt(q44);
  return { va: x1 * x1 + x2 * x2 + x3 * x3 + x4 * x4, vtau: 1 / q44 };
}

/**
 * The meeting of two lines between two times, from the points of a window.
 * @param sd noise and step of the samples, Pa
 * @param ambient Pa: the lines are straight in 1/(p + ambient), as for air in a tank under a constant flow [Boyle]
 * @returns undefined where no two lines can be told
 */
export function kneeIn(
  win: Window,
  [early, late]: readonly [number, number],
  sd: number,
  ambient?: number,
): Knee | undefined {
  const n = win.x.length;
  const low = Math.max(win.x[1] ?? 0, early - win.t0);
  const high = Math.min(win.x[n - 2] ?? 0, late - win.t0);
  if (!(high > low)) return undefined;
  // Everything near one: times in spans of the window, pressures in SDs.
  const span = win.x[n - 1] ?? 1;
  const x = win.x.map((v) => v / span);
  const whole = win.p0 + (ambient ?? 0);
  const unit = ambient === undefined ? sd : sd / whole ** 2;
  const y = win.y.map(ambient === undefined ? (v) => v / sd : (v) => (1 / (v + whole) - 1 / whole) / unit);
  const hinges = new Hinges(x, y, win.w);
  const tau = hinges.best(low / span, high / span);
  const fit = hinges.at(tau);
  if (!fit) return undefined;
  // What is left of the fit (each point the mean of `w` samples) says how far the stretch is from two lines. Few points: the spread of
  // their residuals is itself in doubt (Student's t, to first order).
  const dof = Math.max(1, n - 4);
  const left = Math.sqrt(fit.sse / dof);
  const k = Math.max(left, 1) * (1 + 1.4 / dof);
  const [u, ut] = [k * unit * Math.sqrt(fit.va), k * span * Math.sqrt(fit.vtau)];
  const [before, after] = [(fit.b * unit) / span, ((fit.b + fit.c) * unit) / span];
  const t = win.t0 + tau * span;
  if (ambient === undefined) return { t, ut, p: win.p0 + fit.a * sd, u, before, after, left };
  const p = 1 / (1 / whole + fit.a * unit) - ambient;
  const back = (p + ambient) ** 2;
  return { t, ut, p, u: u * back, before: -before * back, after: -after * back, left };
}

/** The meeting of two lines near a sample, from at most the stretch between `from` and `to` (indexes); as `kneeIn`. */
export function kneeAt(
  t: Float64Array,
  p: Float64Array,
  near: number,
  from: number,
  to: number,
  sd: number,
  holes: readonly Hole[] = [],
): Knee | undefined {
  const win = windowOf(t, p, from, to, holes);
  if (!win) return undefined;
  const [guess, first, last] = [t[near] ?? 0, t[from] ?? 0, t[to - 1] ?? 0];
  return kneeIn(win, [guess - 0.4 * (guess - first), guess + 0.4 * (last - guess)], sd);
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

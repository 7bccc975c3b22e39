import { MOST_POINTS, type Window } from './window.js';

const TRIES = 24;
const CLOSER = 14;
const GOLDEN = (Math.sqrt(5) - 1) / 2;

/**
 * Two lines that meet anywhere in a window: y = a + b·d + c·max(0, d), d = x − τ, by weighted least squares. Sums over the points from
 * each one on are kept, so that every τ costs the same few multiplications: c comes from what a single line leaves over.
 */
export class Hinges {
  /** Per point, sums from it on: w, w·x, w·x², w·r, w·r·x, r what the single line leaves over. */
  private readonly sums = new Float64Array((MOST_POINTS + 1) * 5);
  private readonly x = new Float64Array(MOST_POINTS);
  private n = 0;
  private mean = 0;
  private spread = 0;
  private level = 0;
  private slope = 0;
  private line = 0;

  /**
   * Takes other points in place of those before.
   * @param span by which times are divided
   * @param y as they are to be fitted
   */
  take(win: Window, span: number, y: Float64Array): this {
    const { n, w } = win;
    const { x, sums: s } = this;
    this.n = n;
    let [sw, sx, sy] = [0, 0, 0];
    for (let i = 0; i < n; i++) {
      const wi = w[i] as number;
      x[i] = (win.x[i] as number) / span;
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
    s.fill(0, n * 5, n * 5 + 5);
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
    return this;
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
      if (left < least) {
        tau = at;
        least = left;
      }
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
function moments(s: Float64Array, k: number, tau: number): [number, number, number] {
  const [w, wx, wxx] = [s[k] as number, s[k + 1] as number, s[k + 2] as number];
  return [w, wx - tau * w, wxx - 2 * tau * wx + tau * tau * w];
}

/** First and last of the diagonal of the inverse of a symmetric 4 × 4 matrix, given by rows from the diagonal on. */
function inverseDiagonal(
  a: number,
  b: number,
  c: number,
  d: number,
  e: number,
  f: number,
  g: number,
  h: number,
  i: number,
  j: number,
): { va: number; vtau: number } | undefined {
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

import { Hinges } from './hinges.js';
import type { Hole } from './swings.js';
import { MOST_POINTS, windowOf, type Window } from './window.js';

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
  /** Samples it came from. */
  readonly from: number;
  readonly to: number;
}

/** The same, with another uncertainty of its pressure. */
export const doubtedBy = (k: Knee, u: number): Knee => ({
  t: k.t,
  p: k.p,
  ut: k.ut,
  u,
  before: k.before,
  after: k.after,
  left: k.left,
  from: k.from,
  to: k.to,
});

/** One after the other, never two at once: their lists are filled in again for each. */
const only = new Hinges();
const fitted = new Float64Array(MOST_POINTS);

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
  const { n } = win;
  const low = Math.max(win.x[1] ?? 0, early - win.t0);
  const high = Math.min(win.x[n - 2] ?? 0, late - win.t0);
  if (!(high > low)) return undefined;
  // Everything near one: times in spans of the window, pressures in SDs.
  const span = win.x[n - 1] ?? 1;
  const whole = win.p0 + (ambient ?? 0);
  const unit = ambient === undefined ? sd : sd / whole ** 2;
  for (let i = 0; i < n; i++) {
    const v = win.y[i] as number;
    fitted[i] = ambient === undefined ? v / sd : (1 / (v + whole) - 1 / whole) / unit;
  }
  const hinges = only.take(win, span, fitted);
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
  const { from, to } = win;
  if (ambient === undefined) return { t, p: win.p0 + fit.a * sd, ut, u, before, after, left, from, to };
  const p = 1 / (1 / whole + fit.a * unit) - ambient;
  const back = (p + ambient) ** 2;
  return { t, p, ut, u: u * back, before: -before * back, after: -after * back, left, from, to };
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
  const win = windowOf(t, p, from, to, holes, true);
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

import { doubtedBy, kneeIn, type Knee } from './knee.js';
import { nearOf, type Grain } from './noise.js';
import { indexAt, type Samples } from './samples.js';
import { holeAt, holeFrom, type Extreme, type Hole } from './swings.js';
import { windowOf, type Window } from './window.js';

/** How far the pressure has moved on the shortest and the longest stretch that lines are fitted over, in SDs of the samples. */
const MOVED_SD = [8, 32, 128] as const;
const MIDDLE = [MOVED_SD[1]] as const;
/** At most this part of the way to the next turn. */
const PART = 0.4;
const LEAST_SAMPLES = 4;
/** A side is no longer than this many times the other. */
const LOPSIDED = 3;
/** What may be left over by lines that are lines, in SDs of the samples. */
const LINES = 1.3;
/** Stretches agree when their corners are within this many standard uncertainties. */
const AGREE = 1.2;
/** Share of the difference between the two kinds of line that is counted as doubt. */
const SHAPE = 0.25;
/** Share of what a shorter stretch says otherwise that is counted as doubt, and of how far a corner may stand beyond two samples. */
const DIFFER = 0.7;
/** Draws come and go beside a turn: by so much are its lines in more doubt than their samples show [by the coverage of signals with draws]. */
const UNEVEN = 1.25;
const MISSED = 0.35;

/** A stretch without samples, in usual intervals. */
const GAP = 6;
/** A turn this near to a gap may have been inside it, in usual intervals. */
const BESIDE = 3;

/** Whether a turn may have happened where no samples are: then it was not seen. */
export function unseen(t: Float64Array, from: number, to: number, grain: Grain): boolean {
  const first = indexAt(t, (t[from] ?? 0) - BESIDE * grain.dt, from);
  const last = Math.min(t.length - 1, indexAt(t, (t[to] ?? 0) + BESIDE * grain.dt, to));
  for (let i = Math.max(1, first); i <= last; i++)
    if ((t[i] as number) - (t[i - 1] as number) > GAP * grain.dt) return true;
  return false;
}

/**
 * The corner of a trace at an extreme, freed of noise and sampling by lines on either side of it. Of stretches that grow, the longest
 * whose corner agrees with those of all shorter ones: a longer one sees better, until it takes in something else (Lepski's rule).
 * @param before sample of the turn before, `after` of the next
 * @param once only one stretch is tried, of the middle length: where there are so many turns that one more or less says little
 * @param ambient Pa: air in a tank gives curves that are straight in 1/(p + ambient), a receiver gives straight ones, and the samples
 *   say which; without it only straight ones are tried
 */
export function cornerAt(
  { t, p }: Samples,
  e: Extreme,
  before: number,
  after: number,
  grain: Grain,
  holes: readonly Hole[],
  ambient?: number,
  once = false,
): Knee | undefined {
  const agreed: Knee[] = [];
  const near = nearOf(grain);
  const sign = e.kind === 'high' ? 1 : -1;
  const level = e.p * sign - near;
  const short = 5 * grain.sd + grain.step;
  let gone = e.at;
  for (let i = e.at + 1; i < after && i - gone <= LEAST_SAMPLES; i++)
    if ((p[i] as number) * sign >= level || (holes.length > 0 && holeAt(holes, i))) gone = i;
  // Between arriving at the extreme and leaving it the corner must be; and where a valve slammed on a top, that was the moment.
  const hole = sign > 0 ? holeFrom(holes, e.arrived - LEAST_SAMPLES) : undefined;
  const slam = hole && hole[0] <= gone ? hole : undefined;
  const [early, late] = slam ? [slam[0], Math.min(slam[1], gone + 2)] : [e.arrived, gone];
  const range = [(t[early] ?? 0) - 2 * grain.dt, (t[late] ?? 0) + 2 * grain.dt] as const;
  let points: Window | undefined;
  let [last, left] = [0, Infinity];
  for (const moved of once ? MIDDLE : MOVED_SD) {
    const [from, to] = around(t, p, [e.arrived, gone], before, after, grain, moved);
    if (to - from === last) continue;
    last = to - from;
    const win = windowOf(t, p, from, to, holes, once);
    const knee = win && kneeIn(win, range, grain.sd);
    // Lines that do not reach the extreme are those of something longer than it.
    if (!knee || (sign < 0 && (knee.p - e.p > short || e.p - knee.p > short + between(knee, grain.dt))))
      continue;
    const fits = agreed.every(
      (c) =>
        Math.abs(c.t - knee.t) <= AGREE * c.ut + grain.dt / 2 &&
        Math.abs(c.p - knee.p) <= AGREE * c.u + grain.step / 4,
    );
    if (agreed.length > 0 && (!fits || (knee.left > LINES && knee.left > 1.1 * left))) break;
    left = Math.min(left, knee.left);
    agreed.push(knee);
    points = win;
  }
  const corner = agreed.at(-1);
  if (!corner) return undefined;
  if (!points || ambient === undefined || once)
    return doubtedBy(
      corner,
      Math.hypot(once ? UNEVEN * corner.u : corner.u, MISSED * between(corner, grain.dt)),
    );
  return doubted(shaped(corner, kneeIn(points, range, grain.sd, ambient)), agreed, grain);
}

/**
 * The longest stretch's corner. Lines are only nearly lines: what shorter stretches say otherwise than it is counted as doubt, and so is a
 * part of what may lie between two samples.
 */
function doubted(corner: Knee, agreed: readonly Knee[], grain: Grain): Knee {
  const [shorter, longest] = agreed.slice(-2);
  const other = shorter && longest ? Math.min(Math.abs(longest.p - shorter.p), shorter.u) : 0;
  const u = Math.hypot(UNEVEN * corner.u, DIFFER * other, MISSED * between(corner, grain.dt));
  return doubtedBy(corner, u);
}

/** How far beyond the samples a corner may stand that falls between two of them, Pa. */
function between(knee: Knee, dt: number): number {
  const [a, b] = [Math.abs(knee.before), Math.abs(knee.after)];
  return a + b > 0 ? (dt * a * b) / (a + b) : 0;
}

/** The better of two kinds of line; where they differ the shape itself is in doubt. */
function shaped(straight: Knee, bent: Knee | undefined): Knee {
  if (!bent) return straight;
  const better = bent.left < straight.left ? bent : straight;
  return doubtedBy(better, Math.hypot(better.u, SHAPE * Math.abs(straight.p - bent.p)));
}

/** The stretch to fit: on each side until the pressure has moved enough, but not near the next turn. */
function around(
  t: Float64Array,
  p: Float64Array,
  [arrived, gone]: readonly [number, number],
  before: number,
  after: number,
  grain: Grain,
  moved: number,
): [number, number] {
  const side = (k: number, end: number): number => {
    const at = t[k] ?? 0;
    const whole = Math.abs((t[end] ?? at) - at);
    const rise = Math.abs((p[end] ?? 0) - (p[k] ?? 0));
    const slope = whole > 0 ? rise / whole : 0;
    const needed = slope > 0 ? (moved * grain.sd) / slope : Infinity;
    return Math.max(Math.min(PART * whole, Math.max(needed, 8 * grain.dt)), LEAST_SAMPLES * grain.dt);
  };
  const [left, right] = [side(arrived, before), side(gone, after)];
  const most = LOPSIDED * Math.min(left, right);
  const from = Math.max(before, indexAt(t, (t[arrived] ?? 0) - Math.min(left, most), arrived) - 1, 0);
  const to = Math.min(after + 1, indexAt(t, (t[gone] ?? 0) + Math.min(right, most), gone) + 1, t.length);
  return [from, to];
}

import type { Gauge } from '../gauge/index.js';
import { intervalToCanonical, toCanonical } from '../quantity/index.js';
import type { Worn } from './contract.js';
import { seeded } from './random.js';

/** What each grade may err by in the middle of its scale, percent of span [from memory]. */
const MIDDLE: Readonly<Record<string, number>> = {
  '4A': 0.1,
  '3A': 0.25,
  '2A': 0.5,
  '1A': 1,
  A: 1,
  B: 2,
  C: 3,
  D: 5,
};
/** Most that a kept gauge's needle stands off at nothing, as a part of what is permitted. */
const ZERO_PART = 0.6;
/** Most that its error bends away from a straight line between two points at which it was checked, as a part of that. */
const BEND_PART = 0.15;
/** Most that friction and a spent tube leave between rising and falling, as a part of that. */
const PLAY_PART = 0.3;
/** Most that it has moved since it was checked. */
const SINCE_PART = 0.1;
/** Places of the scale at which the drawn error is held against what is permitted. */
const STEPS = 32;

/** Where a needle stands for want of being tapped, Pa. */
export type Needle = number | undefined;

const permitted = ({ accuracy: a }: Gauge): number =>
  a.standard === 'B40.100' ? (MIDDLE[a.grade] ?? 5) : a.standard === 'EN 837-1' ? a.class : a.percentOfSpan;

/**
 * A test gauge as metal: what it shows of a pressure. Its zero, its slope, its bend and its friction are drawn from a seed and
 * lie within what its class permits; where it was checked, its errors are those that were found there, and a little more.
 * Known to the rig alone.
 */
export class GaugeMetal {
  /** What it shows at nothing, Pa. */
  readonly zero: number;
  /** Half of what lies between its readings rising and falling, Pa. */
  readonly play: number;
  private readonly bounds: { readonly lower: number; readonly upper: number };
  private readonly slope: number;
  private readonly bend: number;
  private readonly points: readonly { readonly at: number; readonly error: number }[];
  private readonly scale: number = 1;

  /** @param worn what it errs by beyond that */
  constructor(
    gauge: Gauge,
    seed: number,
    private readonly worn?: Worn,
  ) {
    const random = seeded(seed);
    const either = (most: number): number => most * (2 * random.next() - 1);
    const lower = toCanonical(gauge.lower, gauge.unit);
    const upper = toCanonical(gauge.upper, gauge.unit);
    const most = (permitted(gauge) / 100) * intervalToCanonical(gauge.upper - gauge.lower, gauge.unit);
    this.bounds = { lower, upper };
    this.zero = either(ZERO_PART * most) + (worn?.zero ?? 0);
    // A digital gauge has no needle to stick.
    this.play = gauge.kind === 'bourdon' ? PLAY_PART * most * random.next() : 0;
    this.slope = either(most);
    this.bend = either(most);
    const since = either(SINCE_PART * most);
    this.points = (gauge.check?.points ?? []).map((p) => ({
      at: p.at,
      error: p.error + p.u * random.normal() + since,
    }));
    if (this.points.length > 1) this.bend = either(BEND_PART * most);
    else {
      let worst = this.play;
      for (let i = 0; i <= STEPS; i++)
        worst = Math.max(worst, Math.abs(this.error(lower + ((upper - lower) * i) / STEPS)) + this.play);
      if (worst > most) this.scale = most / worst;
    }
  }

  /** What it shows too much at a pressure, beside its zero and its friction, Pa. */
  error(at: number): number {
    const { points } = this;
    for (let i = 1; i < points.length; i++) {
      const a = points[i - 1] as (typeof points)[number];
      const b = points[i] as (typeof points)[number];
      if (b.at < at) continue;
      if (at < a.at) break;
      const w = (at - a.at) / (b.at - a.at);
      return a.error + w * (b.error - a.error) + this.bend * Math.sin(Math.PI * w);
    }
    const { lower, upper } = this.bounds;
    const nothing = Math.min(upper, Math.max(lower, 0));
    const x = (at - nothing) / (upper - lower);
    return this.scale * (this.slope * x + this.bend * 4 * x * (1 - x));
  }

  /** Where the needle comes to stand from where it stood: it follows once more than its friction pulls. */
  follow(stood: Needle, at: number): number {
    const play = this.scale * this.play + (this.worn?.sticks ?? 0);
    return stood === undefined ? at : Math.min(at + play, Math.max(at - play, stood));
  }

  /** What is shown where the needle stands, Pa. */
  shows(stands: number): number {
    return stands * (1 + (this.worn?.slope ?? 0)) + this.zero + this.error(stands);
  }
}

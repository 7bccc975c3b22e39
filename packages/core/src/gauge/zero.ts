import { intervalToCanonical } from '../quantity/index.js';
import { errorLimit } from './accuracy.js';
import { spanOf, type Gauge } from './gauge.js';

/** A gauge vented to ambient and looked at: what it showed, what was done about it. Pa. */
export interface ZeroCheck {
  readonly before: number;
  /** What it shows after adjusting; equals `before` where the offset is carried. */
  readonly after: number;
  readonly handling: 'carried' | 'adjusted';
}

export interface ZeroState {
  /** Offset to subtract from readings, Pa. */
  readonly offset: number;
  /** Largest change between zero checks with no adjustment between, Pa: the doubt that readings inherit. */
  readonly drift: number;
  readonly fit: boolean;
  readonly because: string;
}

/**
 * How far from zero a gauge may stand and still be used: two divisions [common practice], or its class limit where the
 * divisions are finer than that, as on a digital gauge. Pa.
 */
export const zeroLimit = (g: Gauge): number =>
  Math.max(2 * spanOf(g).division, intervalToCanonical(errorLimit(g.accuracy, 0, g.lower, g.upper), g.unit));

/**
 * The zero that a run of checks leaves, in the order they were made.
 * Further off than `zeroLimit` after handling, or more drift than that, is unfit.
 */
export function zeroState(g: Gauge, checks: readonly ZeroCheck[]): ZeroState | undefined {
  const last = checks[checks.length - 1];
  if (!last) return undefined;
  const limit = zeroLimit(g);
  let drift = 0;
  for (let i = 1; i < checks.length; i++) {
    const was = checks[i - 1];
    const is = checks[i];
    if (was && is) drift = Math.max(drift, Math.abs(is.before - was.after));
  }
  const off = Math.abs(last.after) > limit;
  const drifted = drift > limit;
  return {
    offset: last.after,
    drift,
    fit: !off && !drifted,
    because: off
      ? 'It will not zero within two divisions or its class.'
      : drifted
        ? 'Its zero moved too far during the job.'
        : last.handling === 'carried'
          ? 'The zero offset is carried as a correction.'
          : 'It was set to zero.',
  };
}

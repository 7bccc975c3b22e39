import { intervalToCanonical } from '../quantity/index.js';
import { errorLimit } from './accuracy.js';
import { spanOf, type Gauge } from './gauge.js';

/** A gauge vented to ambient and looked at: what it showed, what was done about it. Pa. */
export interface ZeroCheck {
  readonly before: number;
  /** What it shows after adjusting; equals `before` where the offset is carried. */
  readonly after: number;
  readonly handling: 'carried' | 'adjusted';
  /** When, s; of any clock that the readings share. */
  readonly at?: number;
}

export interface ZeroState {
  /** Offset to subtract from a reading, Pa: between two checks as far along from one to the other as the time of the reading. */
  readonly offset: number;
  /** What was known of it when the reading was taken: the check before it, Pa. */
  readonly then: number;
  /** Largest change between zero checks with no adjustment between, Pa. */
  readonly drift: number;
  /** How far the offset may still stand from that, as the half-width of an even spread, Pa. */
  readonly doubt: number;
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
 * @param when the reading it is wanted for was taken: after how many of the checks, and at what time, s; after all of them where
 * it is left out
 */
export function zeroState(
  g: Gauge,
  checks: readonly ZeroCheck[],
  when: { readonly after: number; readonly at?: number } = { after: checks.length },
): ZeroState | undefined {
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
  const found = between(checks, drift, when);
  return {
    ...found,
    // More than a gauge moves, or stands off: one check may have been misread, and then all of it is in doubt wherever it is asked for.
    doubt: Math.max(found.doubt, drifted ? drift : 0, off ? Math.abs(last.after) : 0),
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

/**
 * The offset at a time between two checks, on the straight line between them. It may have moved steadily or all at once: at a
 * part f of the way, a step that came at any time has a standard deviation of √(f(1 − f)) of its height, which is taken as the
 * half-width. Before the first and after the last check nothing is known but the most that it moved elsewhere: half of that.
 */
function between(
  checks: readonly ZeroCheck[],
  drift: number,
  { after, at = NaN }: { readonly after: number; readonly at?: number },
): Pick<ZeroState, 'offset' | 'then' | 'doubt'> {
  const [was, next] = [checks[after - 1], checks[after]];
  if (!was) return { offset: next?.before ?? 0, then: next?.before ?? 0, doubt: drift / 2 };
  if (!next) return { offset: was.after, then: was.after, doubt: drift / 2 };
  const part = (at - (was.at ?? NaN)) / ((next.at ?? NaN) - (was.at ?? NaN));
  // Clocks that say nothing leave the middle.
  const f = Number.isFinite(part) ? Math.min(1, Math.max(0, part)) : 0.5;
  const change = next.before - was.after;
  return {
    offset: was.after + f * change,
    then: was.after,
    doubt: Math.abs(change) * Math.sqrt(f * (1 - f)),
  };
}

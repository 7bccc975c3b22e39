import type { Gauge } from './gauge.js';
import { spanOf } from './gauge.js';

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
 * The zero that a run of checks leaves, in the order they were made.
 * More than two divisions off after handling, or more than two divisions of drift, is unfit.
 */
export function zeroState(g: Gauge, checks: readonly ZeroCheck[]): ZeroState | undefined {
  const last = checks[checks.length - 1];
  if (!last) return undefined;
  const limit = 2 * spanOf(g).division;
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
      ? 'It will not zero within two divisions.'
      : drifted
        ? 'Its zero moved by more than two divisions during the job.'
        : last.handling === 'carried'
          ? 'The zero offset is carried as a correction.'
          : 'It was set to zero.',
  };
}

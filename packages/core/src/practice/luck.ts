import type { Draw, Exercise } from './run.js';
import { revealOf, scriptOn } from './reveal.js';
import { accepted } from './scores.js';

/** How the same draw goes on other installations, by the script. */
export interface Luck {
  readonly of: number;
  /** In so many the script came to what is right. */
  readonly right: number;
  /** On this very installation it did. */
  readonly here: boolean;
  /** What was hidden shows less here than on nine of ten others. */
  readonly hard: boolean;
}

/** Seeds that a draw is held against. */
export const LUCK_SEEDS = 50;

/**
 * What was luck: the same faults at the same size on other installations.
 * @param seeds how many; each is two or three jobs of the script
 */
export function luckOf(ex: Exercise, draw: Draw, seeds = LUCK_SEEDS): Luck {
  const rights = accepted(ex, draw.faults);
  const shows = (d: Draw): number => Math.min(Infinity, ...d.faults.map((f) => revealOf(ex, d, f).d));
  const right = (d: Draw): boolean => rights.includes(scriptOn(ex, d).outcome);
  const others = Array.from({ length: seeds }, (_, i) => ({
    ...draw,
    seed: (draw.seed + 7919 * (i + 1)) >>> 0,
  }));
  const ds = others.map((d) => shows(d)).sort((a, b) => a - b);
  const tenth = ds[Math.floor(ds.length / 10)] ?? 0;
  return {
    of: seeds,
    right: others.filter((d) => right(d)).length,
    here: right(draw),
    hard: draw.faults.length > 0 && shows(draw) < tenth,
  };
}

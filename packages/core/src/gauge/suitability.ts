import { readingBudget, type RepeatabilityPrior } from './budget.js';
import { rangeText, spanOf, type Gauge } from './gauge.js';
import { show } from '../quantity/index.js';

export type Fitness = 'good' | 'usable' | 'cannot-tell' | 'unsafe';

export interface Suitability {
  readonly gauge: Gauge;
  readonly fitness: Fitness;
  /** Half-width of the limits over expanded uncertainty; Infinity where there are no limits. */
  readonly ratio: number;
  readonly because: string;
}

export interface Need {
  /** The setting to be told, Pa. */
  readonly target: number;
  readonly lower: number;
  readonly upper: number;
  /** Highest pressure the gauge may meet, Pa. */
  readonly worst: number;
  readonly repeatability: RepeatabilityPrior;
  /** Readings that will be averaged. */
  readonly cycles?: number;
  readonly medium?: 'water' | 'air';
}

/**
 * Whether a gauge can tell a setting: within its scale even in the worst step, and uncertainty small against the limits.
 * Ratio ≥ 4 is good, ≥ 1.5 usable [measurement practice]; 25–75 % of range preferred [ASME B40.100 advice, from memory].
 */
export function suits(gauge: Gauge, need: Need): Suitability {
  const span = spanOf(gauge);
  const shown = { unit: gauge.unit, step: gauge.division * gauge.readable };
  const is = (fitness: Fitness, ratio: number, because: string): Suitability => ({
    gauge,
    fitness,
    ratio,
    because,
  });
  if (need.medium && gauge.medium && gauge.medium !== 'any' && gauge.medium !== need.medium)
    return is('cannot-tell', 0, `${gauge.label} is for ${gauge.medium}.`);
  if (need.worst > span.upper)
    return is(
      'unsafe',
      0,
      `${gauge.label} ends at ${gauge.upper} ${gauge.unit}; this can reach ${show(need.worst, shown)} ${gauge.unit}.`,
    );
  const { U } = readingBudget({
    gauge,
    zero: { offset: 0, drift: 0, fit: true, because: '' },
    readings: Array.from({ length: need.cycles ?? 1 }, () => need.target),
    repeatability: need.repeatability,
  });
  const ratio = (need.upper - need.lower) / 2 / U;
  const place = (need.target - span.lower) / span.span;
  const middle = place >= 0.25 && place <= 0.75;
  const U_text = `± ${show(U, { unit: gauge.unit, step: 0.01 })} ${gauge.unit}`;
  if (ratio < 1)
    return is(
      'cannot-tell',
      ratio,
      `${gauge.label} (${rangeText(gauge)}) tells ${U_text}: as wide as the limits.`,
    );
  if (ratio >= 4 && middle)
    return is('good', ratio, `${gauge.label} tells ${U_text}, in the middle of its scale.`);
  return is(
    ratio >= 1.5 ? 'usable' : 'cannot-tell',
    ratio,
    `${gauge.label} tells ${U_text}${middle ? '' : ', near an end of its scale'}.`,
  );
}

const ORDER: readonly Fitness[] = ['good', 'usable', 'cannot-tell', 'unsafe'];

/** The gauges ranked for one need, best first. */
export const rank = (gauges: readonly Gauge[], need: Need): readonly Suitability[] =>
  gauges
    .map((g) => suits(g, need))
    .sort((a, b) => ORDER.indexOf(a.fitness) - ORDER.indexOf(b.fitness) || b.ratio - a.ratio);

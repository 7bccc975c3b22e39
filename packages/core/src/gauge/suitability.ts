import { readingBudget, type RepeatabilityPrior } from './budget.js';
import { classText, parseAccuracyClass } from './accuracy.js';
import { rangeText, spanOf, type Gauge, type Medium } from './gauge.js';
import { fromCanonical, show, showInterval } from '../quantity/index.js';

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
  readonly medium?: Exclude<Medium, 'any'>;
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
  if (gauge.standing?.state === 'failed')
    return is('cannot-tell', 0, `${gauge.label} failed its check on ${gauge.standing.day}.`);
  if (need.worst > span.upper)
    return is(
      'unsafe',
      0,
      `${gauge.label} ends at ${gauge.upper} ${gauge.unit}; this can reach ${show(need.worst, shown)} ${gauge.unit}.`,
    );
  const { U } = readingBudget({
    gauge,
    zero: { offset: 0, then: 0, drift: 0, doubt: 0, fit: true, because: '' },
    readings: Array.from({ length: need.cycles ?? 1 }, () => need.target),
    repeatability: need.repeatability,
  });
  const ratio = (need.upper - need.lower) / 2 / U;
  const place = (need.target - span.lower) / span.span;
  const middle = place >= 0.25 && place <= 0.75;
  const U_text = `± ${showInterval(U, { unit: gauge.unit, step: 0.01 })}`;
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

/**
 * Whether a gauge survives a place where nothing with limits is read: its medium and its range decide, then how finely it tells
 * the worst that may come.
 */
export function survives(gauge: Gauge, { worst, medium }: Pick<Need, 'worst' | 'medium'>): Suitability {
  const { U } = readingBudget({
    gauge,
    zero: { offset: 0, then: 0, drift: 0, doubt: 0, fit: true, because: '' },
    readings: [Math.min(worst, spanOf(gauge).upper)],
    repeatability: { sd: 0, dof: 10 },
  });
  // Limits as wide as all that is known of this place: everything from nothing to the worst.
  const wide = suits(gauge, {
    target: worst / 2,
    lower: 0,
    upper: worst,
    worst,
    repeatability: { sd: 0, dof: 10 },
    ...(medium ? { medium } : {}),
  });
  if (wide.fitness === 'unsafe' || wide.ratio === 0) return wide;
  const because = `${gauge.label} tells ± ${showInterval(U, { unit: gauge.unit, step: 0.01 })}.`;
  return { gauge, fitness: 'usable', ratio: worst / U, because };
}

const ORDER: readonly Fitness[] = ['good', 'usable', 'cannot-tell', 'unsafe'];

/** The gauges ranked for one need, best first. */
export const rank = (gauges: readonly Gauge[], need: Need): readonly Suitability[] =>
  bestFirst(gauges.map((g) => suits(g, need)));

/** The gauges ranked for a place without limits, best first. */
export const rankSurvivors = (
  gauges: readonly Gauge[],
  place: Pick<Need, 'worst' | 'medium'>,
): readonly Suitability[] => bestFirst(gauges.map((g) => survives(g, place)));

const bestFirst = (all: readonly Suitability[]): readonly Suitability[] =>
  [...all].sort((a, b) => ORDER.indexOf(a.fitness) - ORDER.indexOf(b.fitness) || b.ratio - a.ratio);

/** A gauge worth borrowing: its range in round figures of a unit, its class and what it must read to. */
export interface Borrow {
  readonly gauge: Gauge;
  readonly suitability: Suitability;
  /** `0–15 inH2O, grade 2A (B40.100), divisions of 0.1 inH2O`. */
  readonly text: string;
}

/** Ends of scales as gauges are commonly made [common practice; EN 837-1 and B40.100 ranges, from memory]. */
const ENDS = [1, 1.6, 2.5, 4, 6, 10, 15, 16, 25, 30, 40, 60] as const;
/** From the commonest to the finest. */
const CLASSES = ['B', 'A', '1A', '2A', '3A', '4A'] as const;

/**
 * What to borrow where no gauge at hand can tell: the smallest common range that survives the worst step and has the target in
 * its middle half, in the coarsest class that is good; failing that, the best there is.
 * @param unit unit of the scale
 * @returns undefined where even the finest class cannot tell
 */
export function whatToBorrow(need: Need, unit: string): Borrow | undefined {
  const target = fromCanonical(need.target, unit);
  const worst = fromCanonical(need.worst, unit);
  const decade = 10 ** Math.floor(Math.log10(Math.max(target, worst, 1e-9)) - 1);
  const ends = [1, 10, 100].flatMap((m) => ENDS.map((e) => e * decade * m));
  const fits = ends.filter((e) => worst <= e && target <= 0.75 * e).sort((a, b) => a - b);
  let best: Borrow | undefined;
  for (const grade of CLASSES)
    for (const upper of fits.slice(0, 2)) {
      const accuracy = parseAccuracyClass(grade);
      if (!accuracy.ok) continue;
      // Dials carry about as many divisions as their class can mean: a division of the permitted error.
      const division = roundStep(
        upper * { B: 0.02, A: 0.01, '1A': 0.01, '2A': 0.005, '3A': 0.002, '4A': 0.001 }[grade],
      );
      const gauge: Gauge = {
        id: `borrow-${upper}-${grade}`,
        label: 'A borrowed gauge',
        kind: grade === '3A' || grade === '4A' ? 'digital' : 'bourdon',
        unit,
        lower: 0,
        upper: Number(upper.toPrecision(3)),
        division,
        readable: grade === '3A' || grade === '4A' ? 1 : 0.5,
        accuracy: accuracy.value,
        ...(need.medium ? { medium: need.medium } : {}),
      };
      const suitability = suits(gauge, need);
      if (suitability.fitness !== 'good' && suitability.fitness !== 'usable') continue;
      const text = `${rangeText(gauge)}, ${classText(gauge.accuracy)}, divisions of ${division} ${unit}`;
      if (suitability.fitness === 'good') return { gauge, suitability, text };
      if (!best || suitability.ratio > best.suitability.ratio * 1.2) best = { gauge, suitability, text };
    }
  return best;
}

/** A step as scales have them: 1, 2 or 5 times a power of ten. */
function roundStep(x: number): number {
  const power = 10 ** Math.floor(Math.log10(x));
  const m = [1, 2, 5, 10].find((k) => k * power >= x * 0.99) ?? 10;
  return Number((m * power).toPrecision(3));
}

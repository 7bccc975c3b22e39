import { errorLimit } from './accuracy.js';
import { spanOf, type Gauge } from './gauge.js';
import type { ZeroState } from './zero.js';
import { dimensionOf } from './gauge.js';
import { spanError } from './correction.js';
import { fromCanonical, intervalToCanonical } from '../quantity/index.js';
import { coverageFactor } from './coverage.js';

/** One line of an uncertainty budget. */
export interface BudgetLine {
  readonly name:
    | 'accuracy'
    | 'resolution'
    | 'zero'
    | 'span'
    | 'reference'
    | 'repeatability'
    | 'sampling'
    | 'head'
    | 'temperature';
  readonly because: string;
  /** Standard uncertainty, Pa. */
  readonly u: number;
  /** Degrees of freedom; Infinity for a bound taken from a standard or a scale. */
  readonly dof: number;
}

/** GUM (JCGM 100) budget of one figure. Pa throughout. */
export interface Budget {
  readonly lines: readonly BudgetLine[];
  /** Combined standard uncertainty. */
  readonly u: number;
  /** Effective degrees of freedom, Welch–Satterthwaite. */
  readonly dof: number;
  readonly k: number;
  /** Expanded uncertainty at about 95 %, U = k·u. */
  readonly U: number;
}

/** How well a setting repeats from cycle to cycle, before this device has said anything. */
export interface RepeatabilityPrior {
  /** SD of one cycle, Pa. */
  readonly sd: number;
  readonly dof: number;
}

const RECTANGULAR = Math.sqrt(3);

/** Root sum of squares with Welch–Satterthwaite degrees of freedom. */
export function combine(lines: readonly BudgetLine[]): Budget {
  let squares = 0;
  let weight = 0;
  for (const line of lines) {
    const v = line.u * line.u;
    squares += v;
    if (Number.isFinite(line.dof)) weight += (v * v) / line.dof;
  }
  const dof = weight > 0 ? (squares * squares) / weight : Infinity;
  const k = coverageFactor(dof);
  const u = Math.sqrt(squares);
  return { lines, u, dof, k, U: k * u };
}

/**
 * SD of one cycle, pooled from the family's prior and the cycles at hand.
 * @returns sd in Pa and its degrees of freedom; with one reading it is the prior's own
 */
export function pooledRepeatability(
  readings: readonly number[],
  prior: RepeatabilityPrior,
): RepeatabilityPrior {
  const n = readings.length;
  const mean = n > 0 ? readings.reduce((a, b) => a + b, 0) / n : 0;
  const squares = readings.reduce((a, b) => a + (b - mean) ** 2, 0);
  const dof = prior.dof + Math.max(0, n - 1);
  return { sd: Math.sqrt((prior.dof * prior.sd ** 2 + squares) / dof), dof };
}

export interface BudgetInput {
  readonly gauge: Gauge;
  readonly zero: ZeroState | undefined;
  /** The readings averaged, Pa, already corrected. At least one. */
  readonly readings: readonly number[];
  readonly repeatability: RepeatabilityPrior;
  /** SD of a moving figure caught by eye or by sampling, Pa. */
  readonly caught?: number;
  /** The gauge is itself under test: its own class does not count, that of what it is held against does. */
  readonly against?: { readonly gauge: Gauge; readonly zero: ZeroState | undefined } | 'nothing';
  /** Height correction applied, Pa: its own doubt is that of the height. */
  readonly headDoubt?: number;
}

/**
 * The budget of the mean of some readings taken with one gauge.
 * Accuracy is rectangular over the class limit, or a span check's own uncertainty where one stands; resolution is half a
 * readable step, rectangular; zero is the residual's resolution and any drift between checks, rectangular. [JCGM 100]
 */
export function readingBudget(input: BudgetInput): Budget {
  const { gauge, readings, against } = input;
  const n = Math.max(1, readings.length);
  const mean = readings.reduce((a, b) => a + b, 0) / n;
  const pooled = pooledRepeatability(readings, input.repeatability);
  const lines: BudgetLine[] = against
    ? against === 'nothing'
      ? []
      : referenceLines(against.gauge, against.zero, mean)
    : [accuracyLine(gauge, mean)];
  lines.push(resolutionLine(gauge));
  // A thermometer has no zero to vent.
  if (dimensionOf(gauge) === 'pressure') lines.push(zeroLine(gauge, input.zero));
  lines.push({
    name: 'repeatability',
    because: `${n} reading${n === 1 ? '' : 's'}, pooled with the usual scatter of this kind`,
    u: pooled.sd / Math.sqrt(n),
    dof: pooled.dof,
  });
  if (input.caught)
    lines.push({
      name: 'sampling',
      because: 'a moving needle caught at its turning point',
      u: input.caught / Math.sqrt(n),
      dof: Infinity,
    });
  if (input.headDoubt)
    lines.push({
      name: 'head',
      because: 'the height between gauge and point, rectangular',
      u: input.headDoubt / RECTANGULAR,
      dof: Infinity,
    });
  return combine(lines);
}

function accuracyLine(gauge: Gauge, at: number): BudgetLine {
  const checked = spanError(gauge, at);
  if (checked)
    return {
      name: 'span',
      because: `its error here, taken off, from the check of ${gauge.check?.day}`,
      u: checked.u,
      dof: Infinity,
    };
  const limit = intervalToCanonical(
    errorLimit(gauge.accuracy, fromCanonical(at, gauge.unit), gauge.lower, gauge.upper),
    gauge.unit,
  );
  return {
    name: 'accuracy',
    because: 'limit of the gauge’s class here, rectangular',
    u: limit / RECTANGULAR,
    dof: Infinity,
  };
}

const resolutionLine = (gauge: Gauge): BudgetLine => ({
  name: 'resolution',
  because: 'half a readable step, rectangular',
  u: spanOf(gauge).readableStep / 2 / RECTANGULAR,
  dof: Infinity,
});

function zeroLine(gauge: Gauge, zero: ZeroState | undefined): BudgetLine {
  const span = spanOf(gauge);
  const half = zero ? Math.max(span.readableStep / 2, zero.drift) : span.division * 2;
  return {
    name: 'zero',
    because: zero
      ? zero.drift > span.readableStep / 2
        ? 'drift between zero checks, rectangular'
        : 'zero read to half a readable step, rectangular'
      : 'zero not checked: two divisions assumed, rectangular',
    u: half / RECTANGULAR,
    dof: Infinity,
  };
}

/** The lines of the better gauge that another is held against. */
const referenceLines = (gauge: Gauge, zero: ZeroState | undefined, at: number): BudgetLine[] =>
  [accuracyLine(gauge, at), resolutionLine(gauge), zeroLine(gauge, zero)].map((l) => ({
    ...l,
    name: 'reference' as const,
    because: `${gauge.label}: ${l.because}`,
  }));

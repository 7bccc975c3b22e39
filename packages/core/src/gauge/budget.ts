import { spanOf, type Gauge } from './gauge.js';
import type { ZeroState } from './zero.js';
import { dimensionOf } from './gauge.js';
import { classLimit, spanError } from './correction.js';
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
    | 'loss'
    | 'temperature';
  readonly because: string;
  /** Standard uncertainty, Pa. */
  readonly u: number;
  /** Degrees of freedom; Infinity for a bound taken from a standard or a scale. */
  readonly dof: number;
  /** What errs alike in every line that names it; a line without it errs by itself. */
  readonly common?: Common;
  /** Whether it counts the other way: in a difference what is common falls out. */
  readonly sign?: 1 | -1;
}

/** A source of error that several figures share: one gauge's class, its zero. */
export interface Common {
  readonly key: string;
  /** Where on the scale it was met, as a part of the span; an error that is the same at every place has none. */
  readonly at?: number;
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

/** What a gauge errs by changes along its scale: over this part of its span its error may have turned wholly, more or less. */
const TURNS_OVER = 0.5;
/** And what lies between rising and falling at one pressure, as a part of its limit. */
const BOTH_WAYS = 0.15;

/**
 * How alike one gauge errs at two places of its scale: 1 wholly, 0 not at all. A dial's error is a smooth curve, so that between
 * two places it differs by at most twice its limit times what lies between, as a part of the span [common practice, no source].
 */
function alike(a: Common, b: Common): number {
  if (a.at === undefined || b.at === undefined) return 1;
  const apart = Math.abs(a.at - b.at);
  if (apart === 0) return 1;
  const differs = Math.min(Math.SQRT2, apart / TURNS_OVER + BOTH_WAYS);
  return 1 - (differs * differs) / 2;
}

/** The lines of a budget times a factor; what is common to both sides of a difference keeps its sign. */
export const linesOf = (budget: Pick<Budget, 'lines'> | undefined, factor: number): readonly BudgetLine[] =>
  (budget?.lines ?? []).map((l) => ({
    ...l,
    u: Math.abs(factor) * l.u,
    sign: (l.sign ?? 1) * factor < 0 ? -1 : 1,
  }));

/** Lines that err together become one, with what is left of them; the others stay. */
export function merged(lines: readonly BudgetLine[]): readonly BudgetLine[] {
  const groups = new Map<string, BudgetLine[]>();
  for (const [i, line] of lines.entries()) {
    const key = line.common ? `${line.name} ${line.common.key}` : String(i);
    groups.set(key, [...(groups.get(key) ?? []), line]);
  }
  return [...groups.values()].flatMap((group) => {
    const [first] = group;
    if (!first || group.length === 1) return group;
    let v = 0;
    for (const a of group)
      for (const b of group)
        v +=
          (a.sign ?? 1) * (b.sign ?? 1) * a.u * b.u * (a.common && b.common ? alike(a.common, b.common) : 0);
    const u = Math.sqrt(Math.max(0, v));
    const says = u < Math.max(...group.map((l) => l.u)) ? 'met twice, so some of it falls out' : 'met twice';
    return [{ ...first, u, because: `${first.because}; ${says}` }];
  });
}

/** Root sum of squares with Welch–Satterthwaite degrees of freedom; lines of one common source with their covariance. [JCGM 100, 5.2] */
export function combine(lines: readonly BudgetLine[]): Budget {
  let squares = 0;
  let weight = 0;
  for (const line of merged(lines)) {
    const v = line.u * line.u;
    squares += v;
    if (Number.isFinite(line.dof)) weight += (v * v) / line.dof;
  }
  const dof = weight > 0 ? (squares * squares) / weight : Infinity;
  const k = coverageFactor(dof);
  const u = Math.sqrt(squares);
  return { lines, u, dof, k, U: k * u };
}

/** How readings that should agree scatter: sum of squares about their mean, and degrees of freedom. */
export interface Scatter {
  readonly squares: number;
  readonly dof: number;
}

/** The scatter of readings of one state. */
export function scatterOf(readings: readonly number[]): Scatter {
  const mean = readings.reduce((a, b) => a + b, 0) / Math.max(1, readings.length);
  return {
    squares: readings.reduce((a, b) => a + (b - mean) ** 2, 0),
    dof: Math.max(0, readings.length - 1),
  };
}

/** What is usual for a kind of control says no more of this one than so many readings would. */
const MOST_DOF = 5;
/**
 * Where a sample's variance over a usual one is beyond chance: the 95th percentile of F, by the sample's degrees of freedom (1 to 8,
 * more as 8) and the usual one's (1 to 5). Held against SciPy in the reference test.
 */
export const F95: readonly (readonly number[])[] = [
  [161.4476, 199.5, 215.7073, 224.5832, 230.1619, 233.986, 236.7684, 238.8827],
  [18.5128, 19, 19.1643, 19.2468, 19.2964, 19.3295, 19.3532, 19.371],
  [10.128, 9.5521, 9.2766, 9.1172, 9.0135, 8.9406, 8.8867, 8.8452],
  [7.7086, 6.9443, 6.5914, 6.3882, 6.2561, 6.1631, 6.0942, 6.041],
  [6.6079, 5.7861, 5.4095, 5.1922, 5.0503, 4.9503, 4.8759, 4.8183],
];

/**
 * SD of one cycle from the family's prior and the cycles at hand: pooled where they agree; where the cycles scatter more than
 * chance allows (F-test, 5 %), what is usual counts as one reading beside them.
 * @param elsewhere how the same control scattered in other readings of the job
 * @returns sd in Pa and its degrees of freedom; with one reading it is the prior's own
 */
export function pooledRepeatability(
  readings: readonly number[],
  prior: RepeatabilityPrior,
  elsewhere: Scatter = { squares: 0, dof: 0 },
): RepeatabilityPrior & { readonly contradicts: boolean } {
  const own = scatterOf(readings);
  const [more, squares] = [own.dof + elsewhere.dof, own.squares + elsewhere.squares];
  const usual = Math.min(MOST_DOF, prior.dof);
  const table = F95[Math.max(0, Math.floor(usual) - 1)] ?? [];
  const bound = table[Math.min(more, table.length) - 1] ?? Infinity;
  const contradicts = squares > more * bound * prior.sd ** 2;
  const weight = contradicts ? 1 : usual;
  const dof = weight + more;
  return { sd: Math.sqrt((weight * prior.sd ** 2 + squares) / dof), dof, contradicts };
}

export interface BudgetInput {
  readonly gauge: Gauge;
  readonly zero: ZeroState | undefined;
  /** Where it sits: its zero errs alike there. */
  readonly place?: string;
  /** ISO day on which it is read: a check has aged since. */
  readonly day?: string | undefined;
  /** The readings averaged, Pa, already corrected. At least one. */
  readonly readings: readonly number[];
  readonly repeatability: RepeatabilityPrior;
  /** How the control scattered in other readings of the job. */
  readonly elsewhere?: Scatter;
  /** SD of a moving figure caught by eye or by sampling, Pa. */
  readonly caught?: number;
  /** The gauge is itself under test: its own class does not count, that of what it is held against does. */
  readonly against?:
    { readonly gauge: Gauge; readonly zero: ZeroState | undefined; readonly place?: string } | 'nothing';
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
  const pooled = pooledRepeatability(readings, input.repeatability, input.elsewhere);
  const lines: BudgetLine[] = against
    ? against === 'nothing'
      ? []
      : referenceLines(against, mean, input.day)
    : [accuracyLine(gauge, mean, input.day)];
  lines.push(resolutionLine(gauge));
  // A thermometer has no zero to vent.
  if (dimensionOf(gauge) === 'pressure') lines.push(...zeroLines(gauge, input.zero, input.place));
  lines.push({
    name: 'repeatability',
    because: `${n} reading${n === 1 ? '' : 's'}, ${pooled.contradicts ? 'which scatter more than is usual for this kind' : 'pooled with the usual scatter of this kind'}`,
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

function accuracyLine(gauge: Gauge, at: number, day: string | undefined): BudgetLine {
  const span = spanOf(gauge);
  const common = { key: gauge.id, at: (at - span.lower) / span.span };
  const checked = spanError(gauge, at, day);
  if (checked)
    return {
      name: 'span',
      because: `its error here, taken off, from the check of ${gauge.check?.day}`,
      u: checked.u,
      dof: Infinity,
      common,
    };
  return {
    name: 'accuracy',
    because: 'limit of the gauge’s class here, rectangular',
    u: classLimit(gauge, at) / RECTANGULAR,
    dof: Infinity,
    common,
  };
}

const resolutionLine = (gauge: Gauge): BudgetLine => ({
  name: 'resolution',
  because: 'half a readable step, rectangular',
  u: spanOf(gauge).readableStep / 2 / RECTANGULAR,
  dof: Infinity,
});

/** A zero errs alike for every reading of one gauge in one place. */
function zeroLines(gauge: Gauge, zero: ZeroState | undefined, place = ''): readonly BudgetLine[] {
  const span = spanOf(gauge);
  const line = (because: string, half: number, of: string): BudgetLine => ({
    name: 'zero',
    because: `${because}, rectangular`,
    u: half / RECTANGULAR,
    dof: Infinity,
    common: { key: `${gauge.id} ${place} ${of}` },
  });
  if (!zero) return [line('zero not checked: two divisions assumed', span.division * 2, 'zero')];
  return [
    line('zero read to half a readable step', span.readableStep / 2, 'zero'),
    ...(zero.doubt > 0
      ? [line('drift between zero checks, what its time leaves open', zero.doubt, 'drift')]
      : []),
  ];
}

/** The lines of the better gauge that another is held against. */
const referenceLines = (
  { gauge, zero, place }: Exclude<BudgetInput['against'], undefined | 'nothing'>,
  at: number,
  day: string | undefined,
): BudgetLine[] =>
  [accuracyLine(gauge, at, day), resolutionLine(gauge), ...zeroLines(gauge, zero, place)].map((l) => ({
    ...l,
    name: 'reference' as const,
    because: `${gauge.label}: ${l.because}`,
  }));

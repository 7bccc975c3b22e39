import { ambientOf } from '@firm-needle/core/family';
import {
  combine,
  errorLimit,
  hysteresisOf,
  readingBudget,
  spanOf,
  type BudgetLine,
  type FoundError,
} from '@firm-needle/core/gauge';
import type { Corrected, Derived, JobView } from '@firm-needle/core/procedure';
import { fromCanonical, intervalToCanonical } from '@firm-needle/core/quantity';
import { fluids, saturationPressure, saturationSlope } from '@firm-needle/core/reckon';
import { fluidOf, POINTS } from './points.js';

const RECTANGULAR = Math.sqrt(3);
/** Air and surface may differ by this before the temperature is doubted more, K [common practice, no source]. */
export const AIR_DIFFERS = 1;
/** Surface readings in a row within this are settled, K. */
const SETTLED = 0.3;
const mean = (list: readonly Corrected[]): number => list.reduce((a, r) => a + r.value, 0) / list.length;

/** The cylinder's temperature, from the last surface readings that agree. */
export interface Rest {
  readonly T: number;
  /** Two readings in a row agree. */
  readonly settled: boolean;
  /** How far the air beside it differs, K. */
  readonly gap: number;
  readonly n: number;
}

/** How the cylinder stands; undefined before its surface was read. */
export function restOf(job: JobView): Rest | undefined {
  const all = job.readings('cylinder');
  const last = all.at(-1);
  const before = all.at(-2);
  if (!last) return undefined;
  const settled = before !== undefined && Math.abs(last.value - before.value) <= SETTLED;
  const T = settled ? mean([before, last]) : last.value;
  const air = job.readings('air').at(-1)?.value;
  return { T, settled, gap: air === undefined ? 0 : Math.abs(air - T), n: all.length };
}

export const airDiffers = (rest: Rest): boolean => rest.gap > AIR_DIFFERS;

/** What the cylinder's temperature says the gauge should show, gauge Pa, with its own lines of doubt. */
export interface Expected {
  readonly value: number;
  readonly lines: readonly BudgetLine[];
  /** Pa per K: what a thermometer's doubt is worth. */
  readonly slope: number;
}

export function expectedSpan(job: JobView): Expected | undefined {
  const fluid = fluidOf(job.plan);
  const rest = restOf(job);
  const thermometer = job.gauge('thermometer');
  const ambient = ambientOf(job.started.site);
  if (fluid === undefined || !rest || !thermometer || !ambient.ok) return undefined;
  const p = saturationPressure(fluid, rest.T);
  const slope = saturationSlope(fluid, rest.T);
  if (!p.ok || !slope.ok) return undefined;
  const known = fluids().find((f) => f.id === fluid);
  const shown = fromCanonical(rest.T, thermometer.unit);
  const classK = intervalToCanonical(
    errorLimit(thermometer.accuracy, shown, thermometer.lower, thermometer.upper),
    thermometer.unit,
  );
  const line = (name: BudgetLine['name'], because: string, half: number): BudgetLine => ({
    name,
    because,
    u: half / RECTANGULAR,
    dof: Infinity,
  });
  return {
    value: p.value.bubble - ambient.value,
    slope: slope.value,
    lines: [
      line('temperature', `${thermometer.label}’s own limit, by the slope there`, classK * slope.value),
      line(
        'temperature',
        'half a readable step of the thermometer, by the slope',
        (spanOf(thermometer).readableStep / 2) * slope.value,
      ),
      ...(airDiffers(rest)
        ? [line('temperature', 'the air differs: half the gap, by the slope', (rest.gap / 2) * slope.value)]
        : []),
      line(
        'reference',
        'the saturation equation against charts',
        (known?.tolerance ?? 0.01) * p.value.bubble,
      ),
    ],
  };
}

/** Readings of the span that show the same, newest run: before the hose is free of air they do not. */
export function agreeingSpan(job: JobView, when: 'found' | 'left'): readonly Corrected[] {
  const gauge = job.gauge('test');
  const step = gauge ? spanOf(gauge).readableStep : 0;
  const all = job.readings('span').filter((r) => when === 'left' || r.kept.body.at.phase === 'found');
  const phase = all.at(-1)?.kept.body.at.phase;
  const run: Corrected[] = [];
  for (const r of [...all].reverse()) {
    if (r.kept.body.at.phase !== phase) break;
    const values = [...run, r].map((x) => x.value);
    if (Math.max(...values) - Math.min(...values) > step * 0.6) break;
    run.unshift(r);
  }
  return run;
}

/** The needle was set at the span pressure: its zero moved on purpose. */
export const setAtSpan = (job: JobView): boolean => job.state.taken.has('to-span');

/** What the gauge shows too much at the cylinder's pressure. */
export function spanError(job: JobView, when: 'found' | 'left'): Derived | undefined {
  const expected = expectedSpan(job);
  const run = agreeingSpan(job, when);
  const last = run.at(-1);
  const measured = last && job.measured('test', last.kept);
  if (!expected || !last || !measured) return undefined;
  const own = readingBudget({
    ...measured,
    // A zero moved on purpose by the screw is no doubt about the readings.
    zero: measured.zero && setAtSpan(job) ? { ...measured.zero, doubt: 0 } : measured.zero,
    readings: run.map((r) => r.value),
    repeatability: job.setting('span').repeatability,
  });
  return {
    value: mean(run) - expected.value,
    n: run.length,
    ids: [
      ...run.map((r) => r.kept.id),
      ...job
        .readings('cylinder')
        .slice(-2)
        .map((r) => r.kept.id),
    ],
    budget: combine([...expected.lines, ...own.lines]),
  };
}

/** Errors at the points read so far. */
export function pointErrors(job: JobView): readonly FoundError[] {
  return POINTS.flatMap(({ id, way }) => {
    const f = job.figure(id, 'found');
    const at = job.plan.values[id];
    return f && at !== undefined ? [{ at, error: f.value - at, U: f.budget.U, way }] : [];
  });
}

/** Largest difference between falling and rising at one point. */
export function hysteresis(job: JobView): Derived | undefined {
  const found = pointErrors(job);
  const most = hysteresisOf(found);
  const gauge = job.gauge('test');
  if (most === undefined || !gauge) return undefined;
  const half = spanOf(gauge).readableStep / 2;
  return {
    value: Math.abs(most),
    n: found.length,
    ids: [],
    budget: combine([
      {
        name: 'resolution',
        because: 'two readings of the gauge under test, half a readable step each; the better gauge cancels',
        u: (half * Math.SQRT2) / RECTANGULAR,
        dof: Infinity,
      },
    ]),
  };
}

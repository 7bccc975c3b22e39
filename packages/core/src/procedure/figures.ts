import type { JobView, Figure } from './job.js';
import type { Plan } from './events.js';
import type { JobRules, SettingDef } from './rules.js';
import type { Relation } from './settings.js';
import { combine, linesOf, type BudgetLine } from '../gauge/index.js';
import { timingBudget } from './budgets.js';

/** A figure that follows from others by a hard relation, with their doubts combined. */
export function figureByRelation(
  job: JobView,
  rules: JobRules,
  def: SettingDef,
  when: 'found' | 'left',
): Figure | undefined {
  for (const r of rules.relations) {
    const own = r.terms[def.id];
    if (!r.hard || own === undefined) continue;
    const others = Object.entries(r.terms).filter(([id]) => id !== def.id);
    const parts = others.map(([id, c]) => ({ c: c / own, f: job.figure(id, when) }));
    if (parts.some((p) => !p.f)) continue;
    let value = (r.equals + (r.plus?.(job.plan) ?? 0)) / own;
    for (const { c, f } of parts) value -= c * (f?.value ?? 0);
    return {
      setting: def.id,
      value,
      n: Math.min(...parts.map((p) => p.f?.n ?? 0)),
      ids: parts.flatMap((p) => p.f?.ids ?? []),
      budget: combine([...parts.flatMap((p) => linesOf(p.f?.budget, -p.c)), ...doubtOf(r, job.plan, own)]),
    };
  }
  return undefined;
}

/** What a relation itself leaves open. */
function doubtOf({ doubt }: Relation, plan: Plan, own: number): readonly BudgetLine[] {
  const open = doubt?.(plan);
  if (!open || open.half === 0) return [];
  const u = open.half / Math.abs(own) / Math.sqrt(3);
  return [
    { name: 'loss', because: `${open.because}, rectangular`, u, dof: Infinity, common: { key: 'loss' } },
  ];
}

/** The time between two turning points, from the readings that carry it. */
export function figureByTiming(job: JobView, def: SettingDef, when: 'found' | 'left'): Figure | undefined {
  const source = def.from ?? def.id;
  const moved = job.lastMove(source);
  const set = job.state.reads.filter(
    (r) =>
      r.body.setting === source &&
      r.body.since_s !== undefined &&
      (when === 'found' ? job.finds && r.body.at.phase === 'found' : r.order > moved) &&
      timesIt(job, def, r.order),
  );
  if (set.length === 0) return undefined;
  const values = set.map((r) => r.body.since_s ?? 0);
  return {
    setting: def.id,
    value: mean(values),
    n: values.length,
    ids: set.map((r) => r.id),
    budget: timingBudget(values, def.repeatability),
  };
}

/**
 * Between the reading before and this one was done what this time is the time of, and nothing that makes it another one: a tank that
 * was drained fills from nothing.
 */
function timesIt(job: JobView, { spoilt = {}, since = {}, slot }: SettingDef, order: number): boolean {
  const before = Math.max(
    0,
    ...job.state.reads.filter((r) => r.body.slot === slot && r.order < order).map((r) => r.order),
  );
  const made = ([fact, value]: readonly [string, string]): boolean =>
    job.made(fact, value).some((at) => at > before && at < order);
  return !Object.entries(spoilt).some(made) && Object.entries(since).every(made);
}

const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;

import {
  advise,
  isOpen,
  type AdjusterPrior,
  type Advice,
  type Aim,
  type Happening,
  type StopReason,
} from '../advisor/index.js';
import { spanOf } from '../gauge/index.js';
import type { JobView } from './job.js';
import type { JobRules } from './rules.js';
import type { AdjusterDef } from './settings.js';

/** What the log says of a screw beforehand; which settings it moves is the family's own word. */
export function priorOf(job: JobView, { id, prior }: AdjusterDef): AdjusterPrior {
  const logged = job.started.priors[id];
  if (!logged) return prior;
  const same =
    logged.moves.length === prior.moves.length &&
    logged.moves.every((m, i) => m.setting === prior.moves[i]?.setting);
  return same ? logged : { ...logged, moves: prior.moves };
}

/**
 * The next movement of an adjuster, from where its settings stand.
 * @param finer its aims drawn in, where one more movement is worth its while
 */
export function adviceOf(
  job: JobView,
  rules: JobRules,
  adjuster: string,
  finer: readonly Aim[] | undefined,
): Advice {
  const { quantum, largest, strict } = job.adjuster(adjuster);
  const aims = job.aims(adjuster);
  const unseen = unseenAbove(job, adjuster, aims);
  if (unseen !== undefined)
    return {
      stop: 'not-read',
      perTurn: job.belief(adjuster).prior.perTurn,
      because: `${job.setting(unseen).title} has not been read, and the same screw moves it. Read it first.`,
    };
  const standing: Record<string, number> = {};
  for (const { setting } of aims) {
    const f = job.figure(setting, 'left');
    if (f) standing[setting] = f.value;
  }
  const advice = advise(job.belief(adjuster), finer ?? aims, { quantum, largest, strict }, standing);
  if (advice.stop !== null && CONCLUDES.has(advice.stop) && readOnce(job, adjuster, aims))
    return {
      stop: 'not-read',
      perTurn: advice.perTurn,
      because: 'What was read does not fit what was turned. Look at the gauge and read once more.',
    };
  return advice.stop === null && toAndFro(job, rules, adjuster, advice.turns)
    ? {
        stop: 'in-limits',
        perTurn: advice.perTurn,
        because: 'To and fro, one step carries it across its limits: by hand it cannot be set nearer.',
      }
    : advice;
}

/** What ends the turning for good is not said on the word of one reading. */
const CONCLUDES: ReadonlySet<StopReason> = new Set(['unsafe', 'no-response', 'reversed']);

/** The screw was turned, and something it is set by was read but once since. */
const readOnce = (job: JobView, adjuster: string, aims: readonly Aim[]): boolean => {
  const moved = job.state.turns.filter((t) => t.body.adjuster === adjuster).at(-1)?.order;
  return (
    moved !== undefined &&
    aims.some((a) => !isOpen(a) && job.readings(a.setting).filter((r) => r.kept.order > moved).length === 1)
  );
};

/** A setting that is moved along, lies above what is aimed at, has a bound, and was never read: nobody knows how near it stands. */
export function unseenAbove(job: JobView, adjuster: string, aims: readonly Aim[]): string | undefined {
  const { prior, known } = job.belief(adjuster);
  const read = (setting: string): boolean =>
    known[prior.moves.findIndex((m) => m.setting === setting)] ?? false;
  const wanted = Math.max(...aims.filter((a) => !isOpen(a)).map((a) => a.target));
  return aims.find(
    (a) => isOpen(a) && a.never < Infinity && !read(a.setting) && (job.plan.values[a.setting] ?? 0) > wanted,
  )?.setting;
}

/** This very step was taken, taken back, and would now be taken again: nothing between was found. */
function toAndFro(job: JobView, rules: JobRules, adjuster: string, next: number): boolean {
  const from = rules.learnsFrom?.(job, adjuster) ?? 0;
  const [there, back] = job.state.turns
    .filter((t) => t.body.adjuster === adjuster && t.order > from)
    .slice(-2);
  return there?.body.amount === next && back?.body.amount === -next;
}

/** How far another screw's turn may have moved a setting otherwise than was to be expected of it: it may be dead too. */
const BESIDE = 1;

/** What happened to a screw and to what it moves, in order, as the advisor takes it. */
export function historyOf(job: JobView, rules: JobRules, def: AdjusterDef): readonly Happening[] {
  const out: { order: number; what: Happening }[] = [];
  for (const t of job.state.turns)
    if (t.body.adjuster === def.id) out.push({ order: t.order, what: { turn: t.body.amount } });
  for (const t of job.state.turns) {
    if (t.body.adjuster === def.id) continue;
    // What another screw does to the same setting is no secret: by about so much, as far as anyone knows of that screw.
    const { prior } = job.adjuster(t.body.adjuster);
    for (const { setting, ratio } of prior.moves) {
      if (!def.prior.moves.some((m) => m.setting === setting)) continue;
      const by = prior.perTurn * ratio * t.body.amount;
      out.push({ order: t.order, what: { setting, by, sd: Math.abs(by) * BESIDE } });
    }
  }
  for (const { setting } of def.prior.moves) {
    const s = job.setting(setting);
    for (const r of job.readings(setting)) {
      const gauge = job.gauge(r.kept.body.slot, r.kept.order);
      const step = gauge ? spanOf(gauge).readableStep : 0;
      const sd = Math.hypot(s.repeatability.sd, s.caught, step / Math.sqrt(12));
      const meant = rules.settings.find((x) => x.id === setting)?.meant?.(job, r);
      out.push({
        order: r.kept.order,
        what: { setting, value: meant?.value ?? r.value, sd: Math.hypot(sd, meant?.sd ?? 0) },
      });
    }
    for (const o of job.state.observations) {
      if (o.body.bounds?.setting !== setting || !o.body.value) continue;
      // A one-sided reading: the setting lies somewhat beyond it, by how much is not known.
      const sd = Math.max(0.04 * Math.abs(o.body.value.value), 3 * s.repeatability.sd);
      const value = o.body.value.value + (o.body.bounds.side === 'above' ? sd : -sd);
      out.push({ order: o.order, what: { setting, value, sd } });
    }
  }
  const from = rules.learnsFrom?.(job, def.id) ?? 0;
  return out
    .filter((x) => x.order > from)
    .sort((a, b) => a.order - b.order)
    .map((x) => x.what);
}

// What is reckoned from the log and the plate: what the pump makes, what is drawn, how often it starts, what the hose takes.
import { ambientOf } from '@firm-needle/core/family';
import { airHoseLoss, freeAir } from '@firm-needle/core/reckon';
import type { BudgetLine } from '@firm-needle/core/gauge';
import type { Derived, JobView, Plan } from '@firm-needle/core/procedure';
import { psi } from '../shared/units.js';
import { stepAt } from '../shared/seen.js';

type Plated = Pick<Plan, 'plate'>;
const plated = (plan: Plated, id: string): number | undefined => plan.plate[id]?.value;
const SEA = 101325;

/** A tank that has just been filled is warm: it holds less than its pressure says, by about so much [reckoned: 3 to 8 %]. */
const WARM = 0.95;

/** Free air that the pump makes, m³/s: what the receiver took from cut-in to cut-out with nothing drawn. */
export function made(job: JobView): number | undefined {
  const ambient = ambientOf(job.started.site);
  const receiver = plated(job.plan, 'receiver');
  if (!ambient.ok || receiver === undefined) return undefined;
  // One cycle as it was found, or one as it is left: never a point of each.
  for (const when of ['found', 'left'] as const) {
    const [up, low, high] = ['pumpUp', 'cutIn', 'cutOut'].map((x) => job.figure(x, when)?.value);
    if (up && low !== undefined && high !== undefined && high > low)
      return WARM * freeAir(receiver, high - low, up, ambient.value);
  }
  return undefined;
}

/** The shortest cycle there can be takes as long to empty as to fill: then it starts so often an hour. */
export function starts(job: JobView, when: 'found' | 'left'): Derived | undefined {
  const up = job.figure('pumpUp', when);
  if (!up || up.value <= 0) return undefined;
  const perHour = 3600 / (4 * up.value);
  return {
    value: perHour,
    n: up.n,
    ids: up.ids,
    budget: {
      ...up.budget,
      u: (up.budget.u / up.value) * perHour,
      U: (up.budget.U / up.value) * perHour,
      lines: up.budget.lines.map((l) => ({ ...l, u: (l.u / up.value) * perHour })),
    },
  };
}

/**
 * What the hose of a plate takes from what the gun uses, at a pressure at the wall, Pa; undefined where they are not known.
 * @param part of what it uses at its need that flows
 */
export function hoseLoss(plan: Plated, wall: number, ambient = SEA, part = 1): number | undefined {
  const [uses, bore, length] = ['uses', 'bore', 'hose'].map((id) => plated(plan, id));
  if (uses === undefined || bore === undefined || length === undefined) return undefined;
  const loss = airHoseLoss({ flow: uses * part, bore, length }, wall, ambient);
  return loss.ok ? loss.value : Infinity;
}

/** The same as the gun is fed through it: what must stand at the wall so that `need` is left, less that, Pa. */
export function lossTo(plan: Plated, need: number, ambient = SEA): number | undefined {
  let wall = need * 1.2;
  for (let i = 0; i < 40; i++) {
    const loss = hoseLoss(plan, wall, ambient);
    if (loss === undefined) return undefined;
    if (!Number.isFinite(loss)) wall *= 1.2;
    else if (Math.abs(need + loss - wall) < 1) return loss;
    else wall = need + loss;
  }
  return Infinity;
}

/** At least so much over what it was read at is a regulator set that followed its tank, Pa [assumed]. */
const ABOVE = psi(3);

/**
 * The gun followed the tank as it fell: it shows what the tank lets through, and is set above that, by up to what the wall stands over
 * what flows.
 */
export function followed(job: JobView, when: 'found' | 'left'): readonly BudgetLine[] {
  const seen = job.state.observations.findLast(
    ({ order, body: { at } }) =>
      stepAt(at.key, 'swing') &&
      (when === 'found' ? at.key.startsWith('found') : order > job.lastMove('wallFlow')),
  );
  if (seen?.body.answer !== 'followed') return [];
  // As found it is told by what was found, whatever it was turned to afterwards.
  const [stands, flows] = ['wallLock', 'wallFlow'].map(
    (x) => job.readings(x).findLast((r) => when === 'left' || r.kept.body.at.phase === 'found')?.value,
  );
  const above = stands === undefined || flows === undefined ? ABOVE : Math.max(ABOVE, stands - flows);
  return [
    {
      name: 'sampling',
      because: 'the gun followed the tank: it is set above that, rectangular',
      u: above / Math.sqrt(3),
      dof: Infinity,
    },
  ];
}

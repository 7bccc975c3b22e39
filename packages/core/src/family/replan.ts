import { accept, refuse, type Result } from '../result.js';
import { fromCanonical, short, symbolOf } from '../quantity/index.js';
import {
  kindOpen,
  sameKind,
  slotsOf,
  unitOf,
  type JobView,
  type Plan,
  type PlannedBody,
} from '../procedure/index.js';
import type { Family } from './contract.js';
import { choicesFor, givablesOf, makePlan, schoolOf, type PlanDraft } from './plan.js';
import { ambientOf, lacksGauge, overRange, rangeDoubt } from './start.js';

/**
 * The entry that changes the plan of a job that is under way: its figures until it is signed, what kind of control it is and how it is
 * worked on only while nothing was read or turned. What was found stays judged by the plan that it was found under.
 * @param reason in a few words; it stands on the sheet
 */
export function replan(family: Family, job: JobView, draft: PlanDraft, reason: string): Result<PlannedBody> {
  if (job.state.signed) return refuse('signed', 'The job was signed; it is frozen.', { where: 'plan' });
  const plan = makePlan(family, draft, job.plan.version + 1);
  if (!kindOpen(job.state) && !sameKind(plan, job.plan))
    return refuse('kind-stands', 'What kind it is stands once something was read or turned.', {
      where: 'variant',
      remedy: 'End the job here, and start another one on it.',
    });
  const ambient = ambientOf(job.started.site);
  if (!ambient.ok) return ambient;
  const bad = family.check(plan, ambient.value).find((f) => f.severity === 'refuse');
  if (bad)
    return refuse(bad.code, bad.message, {
      ...(bad.about ? { where: bad.about } : {}),
      ...(bad.remedy ? { remedy: bad.remedy } : {}),
    });
  if (family.plateOf && JSON.stringify(plan.plate) !== JSON.stringify(job.plan.plate))
    return refuse('plate-of-gauge', 'The plate of a gauge is what the gauge itself says.', {
      where: 'plate',
      remedy: 'Correct the gauge in its register.',
    });
  // What is read under it must have a gauge, and one that bears it.
  const lacking = lacksGauge(family, plan, (slot) => job.gauge(slot));
  if (lacking) return lacking;
  for (const slot of slotsOf(family, plan)) {
    const gauge = job.gauge(slot.id);
    const over = overRange(family, plan, slot, gauge, job.started.gaugeReasons?.[slot.id]);
    // What was over its range before the change was seen to then.
    if (over && rangeDoubt(family, job.plan, slot, gauge) === undefined) return over;
  }
  if (planChanges(family, job.plan, plan).length === 0)
    return refuse('plan-same', 'Nothing of the plan was changed.', { where: 'plan' });
  if (reason.trim() === '')
    return refuse('reason', 'It is not said why.', { where: 'reason', remedy: 'Say it in a few words.' });
  return accept({ kind: 'planned', plan, reason: reason.trim() });
}

/** What is another in a plan than in the one before it, in words: `Cut-in 40 to 38 psi`. */
export function planChanges(family: Family, from: Plan, to: Plan): readonly string[] {
  const out: string[] = [];
  const say = (title: string, a: string | undefined, b: string | undefined): void => {
    if (a !== b) out.push(`${title} ${a ?? 'not known'} to ${b ?? 'not known'}`);
  };
  const titled = (list: readonly { id: string; title: string }[], id: string | undefined) =>
    list.find((x) => x.id === id)?.title;
  say(family.variantsAre, titled(family.variants, from.variant), titled(family.variants, to.variant));
  say('School of practice', schoolOf(family, from.school).title, schoolOf(family, to.school).title);
  for (const c of choicesFor(family, to))
    say(c.title, titled(c.options, from.choices?.[c.id]), titled(c.options, to.choices?.[c.id]));
  for (const p of family.plate) {
    const shown = (plan: Plan): string | undefined => {
      const kept = plan.plate[p.id];
      return kept && `${short(fromCanonical(kept.value, p.unit))} ${symbolOf(p.unit)}`.trim();
    };
    say(p.title, shown(from), shown(to));
  }
  for (const s of givablesOf(family, to)) {
    const shown = (plan: Plan): string | undefined => {
      const value = plan.values[s.id];
      const unit = unitOf(family, to, s.id);
      return value === undefined
        ? undefined
        : `${short(fromCanonical(value, unit))} ${symbolOf(unit)}`.trim();
    };
    say(s.title, shown(from), shown(to));
  }
  return out;
}

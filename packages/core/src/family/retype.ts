import { accept, refuse, type Result } from '../result.js';
import { saysItsValue, type AsTyped, type Plan } from '../procedure/index.js';
import type { Family } from './contract.js';
import { makePlan, typePlate, typeSetting, type PlanDraft } from './plan.js';

/** A value that came from outside, read from its text again: refused where the text says another value, or one out of bounds. */
function again(
  where: string,
  { text, unit, value }: AsTyped,
  type: (text: string) => Result<AsTyped>,
): Result<AsTyped> {
  if (typeof text !== 'string' || typeof unit !== 'string' || typeof value !== 'number' || text.length > 80)
    return refuse('plan-malformed', 'The plan cannot be read.', { where });
  const typed = type(/[a-z%"#°²³]/i.test(text) ? text : `${text} ${unit}`);
  if (!typed.ok) return typed;
  return saysItsValue({ text: typed.value.text, unit: typed.value.unit, value })
    ? accept({ text, unit, value: typed.value.value })
    : refuse('value-differs', `"${text} ${unit}" is not the value beside it.`, {
        where,
        remedy: 'Type it again.',
      });
}

/**
 * A draft that came from outside, every value of it read from its own text and bounded. Values and limits are never taken from
 * outside; they are solved from this.
 */
export function retype(family: Family, draft: PlanDraft): Result<PlanDraft> {
  const malformed = refuse('plan-malformed', 'The plan cannot be read.', { where: 'plan' });
  if (!Array.isArray(draft.given) || draft.given.length > family.settings.length) return malformed;
  if (typeof draft.plate !== 'object' || draft.plate === null) return malformed;
  if (!family.variants.some((v) => v.id === draft.variant))
    return refuse('variant-unknown', `There is no variant "${String(draft.variant)}".`, { where: 'variant' });
  if (!family.schools.some((s) => s.id === draft.school))
    return refuse('school-unknown', `There is no school of practice "${String(draft.school)}".`, {
      where: 'school',
    });
  if (draft.choices !== undefined && (typeof draft.choices !== 'object' || draft.choices === null))
    return malformed;
  for (const [id, option] of Object.entries(draft.choices ?? {}))
    if (!family.choices?.find((c) => c.id === id)?.options.some((o) => o.id === option))
      return refuse('choice-unknown', `There is no choice "${id}: ${String(option)}".`, { where: id });
  const given: ({ setting: string } & AsTyped)[] = [];
  for (const g of draft.given as readonly (Partial<(typeof given)[number]> | null)[]) {
    if (typeof g?.setting !== 'string') return malformed;
    const { setting } = g;
    const typed = again(setting, g as AsTyped, (text) => typeSetting(family, setting, text));
    if (!typed.ok) return typed;
    given.push({ setting, ...typed.value });
  }
  const plate: Record<string, AsTyped> = {};
  for (const [id, value] of Object.entries(draft.plate)) {
    const typed = again(id, value ?? ({} as AsTyped), (text) => typePlate(family, id, text));
    if (!typed.ok) return typed;
    plate[id] = typed.value;
  }
  const { variant, school, choices } = draft;
  return accept({ variant, school, ...(choices ? { choices } : {}), given, plate });
}

/** Whether a plan is what its own choices, values and plate come to: nobody may write its figures by hand. */
export function ownFigures(family: Family, plan: Plan): Result<Plan> {
  const draft = retype(family, plan);
  if (!draft.ok) return draft;
  const solved = makePlan(family, draft.value, plan.version);
  const near = (a: number | undefined, b: number | undefined): boolean =>
    a === b || (a !== undefined && b !== undefined && Math.abs(a - b) <= 1e-6 * Math.max(1, Math.abs(a)));
  const off =
    [...new Set([...Object.keys(plan.values), ...Object.keys(solved.values)])].find(
      (k) => !near(plan.values[k], solved.values[k]),
    ) ??
    [...new Set([...Object.keys(plan.limits), ...Object.keys(solved.limits)])].find(
      (k) =>
        !near(plan.limits[k]?.lower, solved.limits[k]?.lower) ||
        !near(plan.limits[k]?.upper, solved.limits[k]?.upper),
    );
  return off === undefined
    ? accept(solved)
    : refuse('plan-differs', `The plan's ${off} is not what its values come to.`, {
        where: off,
        remedy: 'Open the control and plan it again.',
      });
}

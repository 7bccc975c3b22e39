import { dimensionOf } from '../gauge/index.js';
import { unit } from '../quantity/index.js';
import type { JobBody, PlacedBody, Plan } from './events.js';
import type { Check } from './fold.js';
import type { JobState } from './state.js';
import type { JobRules } from './rules.js';
import { completes, isStep } from './runner.js';
import { inside, type Node, type Step } from './step.js';

const checks = new WeakMap<JobRules, Check>();

/** What a family knows of entries: its settings, places, screws and the answers of its steps. The same check for the same family. */
export function checkOf(rules: JobRules): Check {
  let check = checks.get(rules);
  if (!check) checks.set(rules, (check = (state, body) => misfitOf(rules, state, body)));
  return check;
}

function misfitOf(rules: JobRules, state: JobState, body: JobBody): string | undefined {
  const names = (list: readonly { readonly id: string }[], id: string): boolean =>
    list.some((x) => x.id === id);
  switch (body.kind) {
    case 'gauge':
      return names(rules.slots, body.slot) ? undefined : `There is no place "${body.slot}" for a gauge.`;
    case 'zero':
      return (
        dimensionMisfit(state, body.slot, body.before.unit) ??
        dimensionMisfit(state, body.slot, body.after.unit) ??
        stepMisfit(rules, state, body)
      );
    case 'read':
      if (!names(rules.settings, body.setting)) return `No setting is called "${body.setting}".`;
      return dimensionMisfit(state, body.slot, body.value.unit) ?? stepMisfit(rules, state, body);
    case 'turn':
      if (!names(rules.adjusters, body.adjuster)) return `No adjuster is called "${body.adjuster}".`;
      return stepMisfit(rules, state, body);
    case 'observe':
      if (body.bounds && !names(rules.settings, body.bounds.setting))
        return `No setting is called "${body.bounds.setting}".`;
      return stepMisfit(rules, state, body);
    case 'done':
    case 'skip':
      return stepMisfit(rules, state, body);
    case 'planned':
      return !state.plan || kindOpen(state) || sameKind(state.plan, body.plan)
        ? undefined
        : 'What kind it is stands once something was read or turned.';
    case 'started':
    case 'correct':
    case 'note':
    case 'photo':
    case 'take':
    case 'adopt':
    case 'leave':
    case 'sign':
    case 'countersign':
      return undefined;
  }
}

/** A plan's kind may still be chosen anew: nothing was read or turned yet. */
export const kindOpen = (state: Pick<JobState, 'reads' | 'turns'>): boolean =>
  state.reads.length === 0 && state.turns.length === 0;

/** Two plans are of one kind of control, worked on in one way: they ask for the same steps. */
export const sameKind = (a: Plan, b: Plan): boolean =>
  a.variant === b.variant &&
  a.school === b.school &&
  [...new Set([...Object.keys(a.choices ?? {}), ...Object.keys(b.choices ?? {})])].every(
    (id) => a.choices?.[id] === b.choices?.[id],
  );

/** A gauge is read in what it shows: a pressure in psi, never in metres. */
function dimensionMisfit(state: JobState, slot: string, unitId: string): string | undefined {
  const gauge = state.gauges.get(slot)?.at(-1)?.gauge;
  return !gauge || unit(unitId).dimension === dimensionOf(gauge)
    ? undefined
    : `${gauge.label} does not show ${unitId}.`;
}

/** An entry at a step that this code knows must be one that takes it; steps of an older procedure are let be. */
function stepMisfit(rules: JobRules, state: JobState, body: PlacedBody): string | undefined {
  if (body.kind === 'skip' || !state.plan) return undefined;
  const step = stepsOf(rules, state.plan).get(body.at.key);
  if (!step || completes(step, body)) return undefined;
  return body.kind === 'observe'
    ? `"${body.answer}" is no answer to ${step.title}.`
    : `${step.title} is not taken by that.`;
}

const tables = new WeakMap<JobRules, WeakMap<Plan, ReadonlyMap<string, Step>>>();

/** Every step of a family's procedure under a plan, by key. */
export function stepsOf(rules: JobRules, plan: Plan): ReadonlyMap<string, Step> {
  let byPlan = tables.get(rules);
  if (!byPlan) tables.set(rules, (byPlan = new WeakMap()));
  let table = byPlan.get(plan);
  if (!table) {
    const map = new Map<string, Step>();
    const visit = (node: Node): void => {
      if (isStep(node)) map.set(node.key, node);
      else inside(node).forEach(visit);
    };
    const { body, restore } = rules.procedure(plan);
    [...body, ...restore].forEach(visit);
    byPlan.set(plan, (table = map));
  }
  return table;
}

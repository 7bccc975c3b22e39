import { accept, refuse, type Result } from '../result.js';
import { parseQuantity, showWithUnit, toCanonical, type Typed } from '../quantity/index.js';
import { slotsOf, type AsTyped, type Plan } from '../procedure/index.js';
import type { Family, PlanChoice, School, SettingDef, Variant } from './contract.js';
import { solve, type Given } from './relations.js';

/** What a plan is made from: choices, what people gave, and the plate. */
export interface PlanDraft {
  readonly variant: string;
  readonly school: string;
  readonly choices?: Readonly<Record<string, string>> | undefined;
  readonly given: readonly ({ readonly setting: string } & AsTyped)[];
  readonly plate: Readonly<Record<string, AsTyped>>;
}

const variantOf = (family: Family, id: string): Variant => {
  const v = family.variants.find((x) => x.id === id) ?? family.variants[0];
  if (!v) throw new Error(`${family.meta.id} has no variant.`);
  return v;
};

/** The school of practice with this id, or the family's default. */
export const schoolOf = (family: Family, id: string): School => {
  const s = family.schools.find((x) => x.id === id) ?? family.schools[0];
  if (!s) throw new Error(`${family.meta.id} has no school of practice.`);
  return s;
};

/** Every choice of a family as a plan has it: what was chosen where that is an option, else the usual one; undefined where there are none. */
const choicesOf = (family: Family, chosen: PlanDraft['choices']): PlanDraft['choices'] =>
  family.choices?.length
    ? Object.fromEntries(
        family.choices.map(({ id, options }) => [
          id,
          options.find((o) => o.id === chosen?.[id])?.id ?? options[0]?.id ?? '',
        ]),
      )
    : undefined;

/** A plan that starts at a variant's usual values. */
export const draftOf = (family: Family, variant: string, plate: Plan['plate']): PlanDraft => ({
  variant: variantOf(family, variant).id,
  school: schoolOf(family, '').id,
  given: [],
  plate,
});

/**
 * Solve and bound a draft. Never refuses: what is wrong comes out of `family.check` as findings, so that the picture can
 * show a forbidden place and say why.
 */
export function makePlan(family: Family, draft: PlanDraft, version = 1): Plan {
  const variant = variantOf(family, draft.variant);
  const school = schoolOf(family, draft.school);
  const base: Given[] = Object.entries({
    ...variant.values,
    ...family.follows?.(variant.id, draft.plate, school.id),
  }).map(([setting, value]) => ({ setting, value }));
  const pinned = school.pins.map((setting) => ({ setting, value: variant.values[setting] ?? 0 }));
  const wanted = draft.given.filter((g) => !school.pins.includes(g.setting));
  const solved = solve(
    family.settings.filter((s) => s.had !== 'timing').map((s) => s.id),
    family.relations.map((r) => ({ ...r, equals: r.equals + (r.plus?.(draft) ?? 0) })),
    pinned,
    [...base.filter((b) => !school.pins.includes(b.setting)), ...wanted],
  );
  const choices = choicesOf(family, draft.choices);
  const standing = new Set(solved.given.map((g) => `${g.setting}=${g.value}`));
  return {
    version,
    variant: variant.id,
    school: school.id,
    ...(choices ? { choices } : {}),
    given: wanted.filter((g) => standing.has(`${g.setting}=${g.value}`)),
    values: solved.values,
    limits: family.limits(solved.values, draft.plate, {
      variant: variant.id,
      school: school.id,
      ...(choices ? { choices } : {}),
    }),
    plate: draft.plate,
  };
}

/** The draft with one setting given anew: the newest wins, and evicts what it determines. */
export const give = (draft: PlanDraft, setting: string, value: AsTyped): PlanDraft => ({
  ...draft,
  given: [...draft.given.filter((g) => g.setting !== setting), { setting, ...value }],
});

const asTyped = (t: Typed): AsTyped => ({ text: t.text, unit: t.unit, value: t.value });

/**
 * A setting as typed, refused outside the scale it lives on.
 * @param shownIn the unit in which it is shown, and meant where none is typed; its own where absent
 */
export function typeSetting(
  family: Family,
  setting: string,
  text: string,
  shownIn?: string,
): Result<AsTyped> {
  const def = family.settings.find((s) => s.id === setting);
  if (!def?.givable) return refuse('not-a-setting', `"${setting}" cannot be given.`, { where: setting });
  const unit = shownIn ?? def.unit;
  const typed = parseQuantity(text, def.dimension, unit);
  if (!typed.ok) return { ok: false, refusal: { ...typed.refusal, where: setting } };
  const { kind } = typed.value;
  if (kind === 'absolute' || kind === 'difference')
    return refuse(
      'wrong-kind',
      `${def.title} is a gauge pressure; ${typed.value.unit} is ${kind === 'absolute' ? 'absolute' : 'a difference'}.`,
      {
        where: setting,
        remedy: `Type it in ${unit}.`,
      },
    );
  return bounded(typed.value, def.lower, def.upper, def.title, unit, setting);
}

/** A plate parameter as typed, refused outside its bounds. */
export function typePlate(family: Family, id: string, text: string): Result<AsTyped> {
  const def = family.plate.find((p) => p.id === id);
  if (!def) return refuse('not-on-plate', `"${id}" is not on this plate.`, { where: id });
  const typed = parseQuantity(text, def.dimension, def.unit);
  if (!typed.ok) return { ok: false, refusal: { ...typed.refusal, where: id } };
  return bounded(typed.value, def.lower, def.upper, def.title, def.unit, id);
}

function bounded(
  t: Typed,
  lower: number,
  upper: number,
  title: string,
  unit: string,
  where: string,
): Result<AsTyped> {
  if (t.value >= lower && t.value <= upper) return accept(asTyped(t));
  const from = showWithUnit(lower, { unit, step: 0.1 });
  const to = showWithUnit(upper, { unit, step: 0.1 });
  return refuse('outside-scale', `${title} cannot be ${t.text}.`, {
    where,
    bound: `${from} to ${to}`,
    remedy: `Type a value from ${from} to ${to}.`,
  });
}

/** A canonical value written as if typed in a unit: for marks that were dragged or nudged. */
export const written = (value: number, unit: string, step: number): AsTyped => {
  const n = Math.round(value / (toCanonical(step, unit) - toCanonical(0, unit)));
  const number = Number((n * step).toFixed(6));
  return { text: String(number), unit, value: toCanonical(number, unit) };
};

/** How far a mark moves by one key or a little drag, in its setting's unit: half of it, where nothing finer is worth saying. */
export const nudgeStep = ({ step }: Pick<SettingDef, 'step'>): number =>
  step === undefined ? 0.5 : 5 * step;

/** The choices that a plan asks for. */
export const choicesFor = (
  { choices }: Pick<Family, 'choices'>,
  plan: Pick<Plan, 'variant' | 'school'>,
): readonly PlanChoice[] => (choices ?? []).filter((c) => c.when?.(plan) ?? true);

/** What was chosen for a job, in words: the variant where it says what the control is, the school of practice, the choices that are no numbers, the occasion. */
export const choicesSaid = (
  family: Pick<Family, 'variants' | 'saysVariant' | 'schools' | 'choices' | 'occasions'>,
  plan: Plan,
  occasion: string | undefined,
): readonly string[] =>
  [
    (family.saysVariant && family.variants.find((v) => v.id === plan.variant)?.title) ?? '',
    family.schools.find((s) => s.id === plan.school)?.title ?? '',
    ...choicesFor(family, plan).map((c) => {
      const chosen = c.options.find((o) => o.id === plan.choices?.[c.id]);
      return chosen ? `${c.title} ${chosen.title.replace(/^[A-Z](?=[a-z])/, (x) => x.toLowerCase())}` : '';
    }),
    family.occasions?.find((o) => o.id === occasion)?.title ?? '',
  ].filter((text) => text !== '');

/** The settings that a plan asks for: those that can be given, and that it has a place for. */
export const givablesOf = (family: Pick<Family, 'settings' | 'slots'>, plan: Plan): readonly SettingDef[] => {
  const places = new Set(slotsOf(family, plan).map((s) => s.id));
  const elsewhere = new Set(family.slots.map((s) => s.id).filter((id) => !places.has(id)));
  return family.settings.filter((s) => s.givable && !elsewhere.has(s.slot));
};

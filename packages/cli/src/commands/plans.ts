import { draftOf, give, makePlan, typePlate, typeSetting, type Family } from '@firm-needle/core/family';
import type { AsTyped } from '@firm-needle/core/procedure';
import { decide, type Limits, type Rule } from '@firm-needle/core/verdict';
import { families, familyExists, loadFamily, traceKindOf, tracedFamilies } from '@firm-needle/families';
import { must, no } from '../answer.js';
import { ambientOr, type Options } from '../options.js';

export async function familyNamed(id: string | undefined): Promise<Family> {
  if (id === undefined || !familyExists(id))
    no('family-unknown', `"${id ?? ''}" is not a family of controls here.`, {
      where: 'family',
      bound: families()
        .map((f) => f.id)
        .join(', '),
    });
  return loadFamily(id ?? '');
}

const pair = (text: string, option: string): [string, string] => {
  const cut = text.indexOf('=');
  if (cut < 1) no('pair-malformed', `--${option} wants NAME=VALUE, not "${text}".`, { where: `--${option}` });
  return [text.slice(0, cut), text.slice(cut + 1)];
};

/** One of those there are; undefined where the option is not there. */
function oneOf(o: Options, name: string, all: readonly { readonly id: string }[]): string | undefined {
  const text = o.one(name);
  if (text !== undefined && !all.some((x) => x.id === text))
    no(`${name}-unknown`, `"${text}" is no ${name} of it.`, {
      where: `--${name}`,
      bound: all.map((x) => x.id).join(', '),
    });
  return text;
}

/** `plan FAMILY --set cutIn=44psi --plate tankVolume=20galUS`: every setting, its limits, and what is wrong. */
export async function planCommand(o: Options): Promise<object> {
  const family = await familyNamed(o.words[0]);
  const plate: Record<string, AsTyped> = {};
  for (const text of o.all('plate')) {
    const [id, value] = pair(text, 'plate');
    plate[id] = must(typePlate(family, id, value));
  }
  const variant = oneOf(o, 'variant', family.variants);
  let draft = draftOf(family, variant ?? '', plate);
  const school = oneOf(o, 'school', family.schools);
  if (school !== undefined) draft = { ...draft, school };
  const said: Record<string, AsTyped> = {};
  for (const text of o.all('set')) {
    const [id, value] = pair(text, 'set');
    if (!family.settings.some((s) => s.id === id && s.givable))
      no('not-a-setting', `"${id}" is no setting of it that can be given.`, {
        where: '--set',
        bound: family.settings
          .filter((s) => s.givable)
          .map((s) => s.id)
          .join(', '),
      });
    said[id] = must(typeSetting(family, id, value));
    draft = give(draft, id, said[id]);
  }
  const plan = makePlan(family, draft);
  const given = new Set(plan.given.map((g) => g.setting));
  return {
    variant: plan.variant,
    school: plan.school,
    // What was said and does not stand so: a rule of its family, or another setting that was said, went before it.
    overridden: Object.entries(said)
      .filter(([id, t]) => !(Math.abs((plan.values[id] ?? NaN) - t.value) <= 1e-6 * Math.abs(t.value)))
      .map(([id, t]) => ({ setting: id, said_Pa: t.value, value_Pa: plan.values[id] ?? null })),
    settings: Object.fromEntries(
      Object.entries(plan.values).map(([id, v]) => [id, { value_Pa: v, given: given.has(id) }]),
    ),
    limits: Object.entries(plan.limits).map(([setting, l]) => ({
      setting,
      lower_Pa: l.lower ?? null,
      upper_Pa: l.upper ?? null,
    })),
    findings: family
      .check(plan, ambientOr(o))
      .map(({ code, severity, message, about, remedy }) => ({ code, severity, message, about, remedy })),
  };
}

interface JudgeRequest {
  readonly reading_Pa: number;
  readonly u_Pa: number;
  /** null, or left out: there is none. */
  readonly lower_Pa?: number | null;
  readonly upper_Pa?: number | null;
  readonly rule?: Rule;
}

/** A verdict on one reading; `u_Pa` is expanded. */
export function judge(r: JudgeRequest): object {
  for (const key of ['reading_Pa', 'u_Pa'] as const)
    if (!Number.isFinite(r[key])) no('not-a-number', `"${key}" is missing or not a number.`, { where: key });
  if (r.u_Pa < 0) no('negative', 'An uncertainty is never negative.', { where: 'u_Pa' });
  for (const key of ['lower_Pa', 'upper_Pa'] as const)
    if (r[key] !== undefined && r[key] !== null && !Number.isFinite(r[key]))
      no('not-a-number', `"${key}" is no number of pascals.`, {
        where: key,
        remedy: 'null, or leave it out.',
      });
  const limits: Limits = {
    ...(typeof r.lower_Pa === 'number' ? { lower: r.lower_Pa } : {}),
    ...(typeof r.upper_Pa === 'number' ? { upper: r.upper_Pa } : {}),
  };
  if (limits.lower === undefined && limits.upper === undefined)
    no('limits-missing', 'Neither a lower nor an upper limit was given.', { where: 'lower_Pa' });
  if ((limits.lower ?? -Infinity) > (limits.upper ?? Infinity))
    no('limits-crossed', 'The lower limit is above the upper.', { where: 'lower_Pa' });
  const rule = r.rule ?? 'guarded';
  if (rule !== 'guarded' && rule !== 'simple')
    no('rule-unknown', `"${String(rule)}" is no rule.`, { where: 'rule', bound: 'guarded, simple' });
  const v = decide(r.reading_Pa, r.u_Pa, limits, rule, (x) => `${Math.round(x)} Pa`);
  return { verdict: v.word, because: v.because };
}

/** `families`: what there is, and what its names are. */
export async function familiesCommand(): Promise<object> {
  const known = await Promise.all(
    families().map(async ({ id, title }) => {
      const f = await loadFamily(id);
      return {
        id,
        title,
        variants: f.variants.map((v) => v.id),
        settings: f.settings.map((s) => s.id),
        adjusters: f.adjusters.map((a) => a.id),
        faults: f.rig.faults.map((x) => x.id),
        scenarios: f.rig.scenarios.map((s) => s.id),
        trace: traceKindOf(id) ?? null,
      };
    }),
  );
  return { families: known, traces: tracedFamilies().map((f) => f.id) };
}

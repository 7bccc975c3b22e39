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

/** `plan FAMILY --set cutIn=44psi --plate tankVolume=20galUS`: every setting, its limits, and what is wrong. */
export async function planCommand(o: Options): Promise<object> {
  const family = await familyNamed(o.words[0]);
  const plate: Record<string, AsTyped> = {};
  for (const text of o.all('plate')) {
    const [id, value] = pair(text, 'plate');
    plate[id] = must(typePlate(family, id, value));
  }
  let draft = draftOf(family, o.one('variant') ?? '', plate);
  const school = o.one('school');
  if (school !== undefined) draft = { ...draft, school };
  for (const text of o.all('set')) {
    const [id, value] = pair(text, 'set');
    draft = give(draft, id, must(typeSetting(family, id, value)));
  }
  const plan = makePlan(family, draft);
  const given = new Set(plan.given.map((g) => g.setting));
  return {
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
  readonly lower_Pa?: number;
  readonly upper_Pa?: number;
  readonly rule?: Rule;
}

/** A verdict on one reading; `u_Pa` is expanded. */
export function judge(r: JudgeRequest): object {
  for (const key of ['reading_Pa', 'u_Pa'] as const)
    if (!Number.isFinite(r[key])) no('not-a-number', `"${key}" is missing or not a number.`, { where: key });
  if (r.u_Pa < 0) no('negative', 'An uncertainty is never negative.', { where: 'u_Pa' });
  const limits: Limits = {
    ...(r.lower_Pa === undefined ? {} : { lower: r.lower_Pa }),
    ...(r.upper_Pa === undefined ? {} : { upper: r.upper_Pa }),
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

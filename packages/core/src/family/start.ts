import type { AdjusterPrior } from '../advisor/index.js';
import { accept, refuse, type Result } from '../result.js';
import { ambientAt } from '../quantity/index.js';
import type { Plan, StartedBody } from '../procedure/index.js';
import type { Gauge } from '../gauge/index.js';
import type { Rule } from '../verdict/index.js';
import { CORE_VERSION } from '../version.js';
import type { Family } from './contract.js';

export interface StartInput {
  readonly plan: Plan;
  readonly site: StartedBody['site'];
  readonly control: StartedBody['control'];
  readonly technician: string;
  readonly permits: readonly string[];
  readonly gauges: Readonly<Record<string, Gauge>>;
  /** ISO day of the job; without it no gauge is held overdue. */
  readonly today?: string;
  /** Why a gauge past its date is used, by place. */
  readonly gaugeReasons?: Readonly<Record<string, string>>;
  readonly rule: Rule;
  readonly mode?: 'work' | 'practice';
  readonly source?: string;
  /** Learned on this device at earlier visits, by adjuster. */
  readonly learned?: Readonly<Record<string, Pick<AdjusterPrior, 'perTurn' | 'spread'>>>;
}

/** Whether a gauge is past the day by which it had to be checked. */
export const isOverdue = (gauge: Gauge | undefined, today: string | undefined): boolean =>
  gauge?.due !== undefined && today !== undefined && gauge.due < today;

/** The body of the event that starts a job: refused where the plan is forbidden or a gauge is missing. */
export function startJob(family: Family, input: StartInput): Result<StartedBody> {
  const ambient = ambientAt(input.site.altitude_m);
  if (!ambient.ok) return ambient;
  const bad = family.check(input.plan, ambient.value).find((f) => f.severity === 'refuse');
  if (bad)
    return refuse(bad.code, bad.message, {
      ...(bad.about ? { where: bad.about } : {}),
      ...(bad.remedy ? { remedy: bad.remedy } : {}),
    });
  const lacking = family.slots.find((s) => !s.optional && !input.gauges[s.id]);
  if (lacking)
    return refuse('gauge-missing', `No gauge was chosen: ${lacking.title}.`, {
      where: lacking.id,
      remedy: 'Choose one of your gauges for it.',
    });
  const { today } = input;
  const late = family.slots.find(
    (s) => isOverdue(input.gauges[s.id], today) && !input.gaugeReasons?.[s.id]?.trim(),
  );
  if (late)
    return refuse(
      'gauge-overdue',
      `${input.gauges[late.id]?.label} was due on ${input.gauges[late.id]?.due}.`,
      {
        where: late.id,
        remedy: 'Choose another gauge, or record why this one is used.',
      },
    );
  return accept({
    kind: 'started',
    family: family.meta.id,
    familyVersion: family.meta.version,
    coreVersion: CORE_VERSION,
    mode: input.mode ?? 'work',
    site: input.site,
    control: input.control,
    technician: input.technician,
    plan: input.plan,
    gauges: input.gauges,
    ...(input.gaugeReasons && Object.keys(input.gaugeReasons).length > 0
      ? { gaugeReasons: input.gaugeReasons }
      : {}),
    rule: input.rule,
    priors: Object.fromEntries(
      family.adjusters.map((a) => [a.id, { ...a.prior, ...(input.learned?.[a.id] ?? {}) }]),
    ),
    permits: input.permits,
    ...(input.source ? { source: input.source } : {}),
  });
}

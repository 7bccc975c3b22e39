import type { AdjusterPrior } from '../advisor/index.js';
import { accept, refuse, type Result } from '../result.js';
import { absolute, ambientAt, showWithUnit, symbolOf, type AbsolutePressure } from '../quantity/index.js';
import { slotsOf, type GaugeSlot, type JobView, type Plan, type StartedBody } from '../procedure/index.js';
import { dimensionOf, shownStep, spanOf, type Gauge } from '../gauge/index.js';
import type { Rule } from '../verdict/index.js';
import { CORE_VERSION } from '../version.js';
import type { Family } from './contract.js';
import type { Links } from './links.js';

export interface StartInput {
  readonly plan: Plan;
  readonly site: StartedBody['site'];
  readonly control: StartedBody['control'];
  readonly technician: string;
  readonly permits: readonly string[];
  readonly gauges: Readonly<Record<string, Gauge>>;
  /** ISO day of the job; without it no gauge is held overdue. */
  readonly today?: string;
  /** How far each gauge hangs below the point that is meant, m. */
  readonly heads_m?: Readonly<Record<string, number>>;
  /** Why a gauge that is overdue, failed or restricted is used, by place. */
  readonly gaugeReasons?: Readonly<Record<string, string>>;
  readonly rule: Rule;
  /** Why the control is worked on; the family's usual one where absent. */
  readonly occasion?: string;
  readonly mode?: 'work' | 'practice';
  readonly source?: string;
  /** The controls that stand beside it, by role. */
  readonly links?: Links;
  /** Learned on this device at earlier visits, by adjuster. */
  readonly learned?: Readonly<Record<string, Pick<AdjusterPrior, 'perTurn' | 'spread'>>>;
}

/** Whether a gauge is past the day by which it had to be checked. */
export const isOverdue = (gauge: Gauge | undefined, today: string | undefined): boolean =>
  gauge?.due !== undefined && today !== undefined && gauge.due < today;

/** Why a gauge needs a reason before it is used: past its date, failed, or good for part of its scale; undefined if sound. */
export function gaugeDoubt(gauge: Gauge | undefined, today: string | undefined): string | undefined {
  if (!gauge) return undefined;
  if (gauge.standing?.state === 'failed')
    return `${gauge.label} failed its check on ${gauge.standing.day}: ${gauge.standing.because}`;
  if (gauge.standing?.state === 'restricted')
    return `${gauge.label} is restricted since ${gauge.standing.day}: ${gauge.standing.because}`;
  if (isOverdue(gauge, today)) return `${gauge.label} was due on ${gauge.due}.`;
  return undefined;
}

/** Why a gauge needs a reason in this place: what may come there is beyond the end of its scale; undefined where it is not. */
export function rangeDoubt(
  family: Pick<Family, 'worst'>,
  plan: Plan,
  slot: GaugeSlot,
  gauge: Gauge | undefined,
): string | undefined {
  if (!gauge || slot.underTest || dimensionOf(gauge) !== 'pressure') return undefined;
  const worst = family.worst(plan, slot.id);
  if (!(worst > spanOf(gauge).upper)) return undefined;
  const shown = showWithUnit(worst, { unit: gauge.unit, step: shownStep(gauge) });
  return `${gauge.label} ends at ${gauge.upper} ${symbolOf(gauge.unit)}; this can reach ${shown}.`;
}

/** A place of a plan that has no gauge, refused; undefined where each that needs one has one. */
export function lacksGauge(
  family: Family,
  plan: Plan,
  gaugeIn: (slot: string) => Gauge | undefined,
): Result<never> | undefined {
  const lacking = slotsOf(family, plan).find((s) => !s.optional && !gaugeIn(s.id));
  return (
    lacking &&
    refuse('gauge-missing', `No gauge was chosen: ${lacking.title}.`, {
      where: lacking.id,
      remedy: 'Choose one of your gauges for it.',
    })
  );
}

/** A gauge that ends below what may come under a plan, refused where nobody said what protects it. */
export function overRange(
  family: Pick<Family, 'worst'>,
  plan: Plan,
  slot: GaugeSlot,
  gauge: Gauge | undefined,
  reason: string | undefined,
): Result<never> | undefined {
  const because = rangeDoubt(family, plan, slot, gauge);
  return because === undefined || reason?.trim()
    ? undefined
    : refuse('gauge-over-range', because, {
        where: slot.id,
        remedy:
          'Choose a gauge of greater range, or record what protects it: a stop, a cock opened only to read.',
      });
}

/** Ambient pressure of a site, Pa absolute: its barometer where one was read, else by its altitude. */
export function ambientOf(
  site: Pick<StartedBody['site'], 'altitude_m' | 'barometer_Pa'>,
): Result<AbsolutePressure> {
  if (site.barometer_Pa === undefined) return ambientAt(site.altitude_m);
  const [lower, upper] = BAROMETER;
  if (!(site.barometer_Pa >= lower && site.barometer_Pa <= upper))
    return refuse('barometer', `A barometer does not read ${Math.round(site.barometer_Pa / 100)} hPa.`, {
      where: 'barometer',
      bound: `${lower / 100} to ${upper / 100} hPa`,
      remedy: 'Type the station pressure, not the one reduced to sea level.',
    });
  return absolute(site.barometer_Pa);
}

/** What a pressure is in another quantity of the trade, at the site of a job: in words, where its family knows one. */
export function besideAt(
  family: Pick<Family, 'beside'>,
  job: Pick<JobView, 'plan' | 'started'>,
  setting: string,
  pa: number,
): string | undefined {
  const ambient = ambientOf(job.started.site);
  return ambient.ok ? family.beside?.(job.plan, setting, pa, ambient.value) : undefined;
}

/** Farther than this it is another installation. */
const MOST_HEAD_M = 200;
/** Station pressures that people live and work in, Pa. */
const BAROMETER = [50_000, 110_000] as const;

/** The body of the event that starts a job: refused where the plan is forbidden or a gauge is missing. */
export function startJob(family: Family, input: StartInput): Result<StartedBody> {
  const ambient = ambientOf(input.site);
  if (!ambient.ok) return ambient;
  const bad = family.check(input.plan, ambient.value).find((f) => f.severity === 'refuse');
  if (bad)
    return refuse(bad.code, bad.message, {
      ...(bad.about ? { where: bad.about } : {}),
      ...(bad.remedy ? { remedy: bad.remedy } : {}),
    });
  const occasion = input.occasion ?? family.occasions?.[0]?.id;
  if (occasion !== undefined && !family.occasions?.some((o) => o.id === occasion))
    return refuse('occasion-unknown', `There is no occasion "${occasion}".`, { where: 'occasion' });
  const slots = slotsOf(family, input.plan);
  const lacking = lacksGauge(family, input.plan, (slot) => input.gauges[slot]);
  if (lacking) return lacking;
  for (const s of slots) {
    // A gauge under test is there to be doubted.
    const because = s.underTest ? undefined : gaugeDoubt(input.gauges[s.id], input.today);
    if (because === undefined || input.gaugeReasons?.[s.id]?.trim()) continue;
    const state = input.gauges[s.id]?.standing?.state;
    return refuse(
      state === 'failed' || state === 'restricted' ? `gauge-${state}` : 'gauge-overdue',
      because,
      {
        where: s.id,
        remedy: 'Choose another gauge, or record why this one is used.',
      },
    );
  }
  for (const s of slots) {
    const over = overRange(family, input.plan, s, input.gauges[s.id], input.gaugeReasons?.[s.id]);
    if (over) return over;
  }
  const wrongHead = Object.entries(input.heads_m ?? {}).find(([, h]) => !(Math.abs(h) <= MOST_HEAD_M));
  if (wrongHead)
    return refuse('head', `A gauge does not hang ${wrongHead[1]} m from its point.`, {
      where: wrongHead[0],
      bound: `${MOST_HEAD_M} m up or down`,
      remedy: 'Type the height between the gauge and the point, in metres.',
    });
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
    ...(occasion === undefined ? {} : { occasion }),
    gauges: input.gauges,
    ...(input.heads_m && Object.values(input.heads_m).some((h) => h !== 0) ? { heads_m: input.heads_m } : {}),
    ...(input.gaugeReasons && Object.keys(input.gaugeReasons).length > 0
      ? { gaugeReasons: input.gaugeReasons }
      : {}),
    rule: input.rule,
    priors: Object.fromEntries(
      family.adjusters.map((a) => [a.id, { ...a.prior, ...(input.learned?.[a.id] ?? {}) }]),
    ),
    permits: input.permits,
    ...(input.links && Object.keys(input.links).length > 0 ? { links: input.links } : {}),
    ...(input.source ? { source: input.source } : {}),
  });
}

import type { Gathering } from '../define/index.js';
import type { LadderPart, PlanFigure } from '@firm-needle/core/family';
import type { Plan } from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';
import type { Limits } from '@firm-needle/core/verdict';
import { isElectric, LEAST_MARGIN, MOST_MARGIN, normalByPlate, OVERSPEED, psi, RATE_BAND } from './parts.js';

const say = (p: number): string => showWithUnit(p, { unit: 'psi', step: 0.1 });
const plateOf = (plan: Pick<Plan, 'plate'>, id: string): number | undefined => plan.plate[id]?.value;

/** Pressure at 110 % of the speed and the most suction: with the square of the speed. [affinity laws; NFPA 20, from memory] */
export const overspeedPressure = (plan: Pick<Plan, 'plate'>): number =>
  (plateOf(plan, 'churn') ?? 0) * OVERSPEED ** 2 + (plateOf(plan, 'suctionMost') ?? 0);

export const limits = (
  _: Readonly<Record<string, number>>,
  plate: Plan['plate'],
): Readonly<Record<string, Limits>> => {
  const [rating, table] = [plate['rating']?.value, plate['perTurn']?.value];
  const below = rating === undefined ? {} : { upper: rating };
  return {
    opening: below,
    churn: below,
    margin: { lower: LEAST_MARGIN, upper: MOST_MARGIN },
    ...(table === undefined
      ? {}
      : { perTurn: { lower: table * (1 - RATE_BAND), upper: table * (1 + RATE_BAND) } }),
  };
};

export const never = (plan: Plan): number => plateOf(plan, 'rating') ?? psi(175);

export const worst = (plan: Plan, slot: string): number =>
  slot === 'suction'
    ? Math.max(psi(15), (plateOf(plan, 'suctionMost') ?? 0) * 1.2)
    : Math.max(overspeedPressure(plan), plan.values['opening'] ?? 0);

export function check(plan: Plan, _: number, { judge: add }: Gathering): void {
  const { opening, margin, normal } = plan.values;
  const [rating, least, most] = ['rating', 'springLeast', 'springMost'].map((id) => plateOf(plan, id));
  const [suctionLeast, suctionMost] = [plateOf(plan, 'suctionLeast'), plateOf(plan, 'suctionMost')];
  if (suctionLeast !== undefined && suctionMost !== undefined && suctionLeast > suctionMost)
    add(
      'refuse',
      'suction-range',
      'suctionLeast',
      `Lowest suction ${say(suctionLeast)} is above the highest, ${say(suctionMost)}.`,
      'Exchange the two, or read them again.',
    );
  if (opening === undefined || margin === undefined || normal === undefined) return;
  if (rating !== undefined && normal >= rating)
    add(
      'refuse',
      'normal-above-rating',
      'rating',
      `Normal pressure alone, ${say(normal)}, reaches the weakest component’s ${say(rating)}.`,
      'No relief setting mends that: stronger components, or another pump.',
    );
  else if (rating !== undefined && opening > rating)
    add(
      'refuse',
      'opening-above-rating',
      'opening',
      `An opening of ${say(opening)} is above the weakest component’s ${say(rating)}.`,
      'It must open at or below the weakest rating.',
    );
  if (margin < 0)
    add(
      'refuse',
      'margin-negative',
      'margin',
      `It would open ${say(-margin)} below the highest normal pressure, and run all day.`,
      `Normal is ${say(normal)}: plan 10 to 15 psi over it.`,
    );
  else if (margin < LEAST_MARGIN - 1)
    add(
      'warn',
      'margin-small',
      'margin',
      `Only ${say(margin)} over the highest normal pressure: it may weep at churn.`,
      '10 to 15 psi is usual.',
    );
  else if (margin > MOST_MARGIN + 1)
    add(
      'warn',
      'margin-large',
      'margin',
      `${say(margin)} over the highest normal pressure.`,
      '10 to 15 psi is usual; no margin is added to overspeed.',
    );
  if ((least !== undefined && opening < least) || (most !== undefined && opening > most))
    add(
      'refuse',
      'spring-range',
      'opening',
      `The pilot’s spring does not reach ${say(opening)}.`,
      `It goes from ${least === undefined ? 'nothing' : say(least)} to ${most === undefined ? 'any' : say(most)}: take another spring from its table.`,
    );
  const fast = overspeedPressure(plan);
  if (!isElectric(plan) && fast <= opening)
    add(
      'warn',
      'shut-at-overspeed',
      'opening',
      `At 110 % of the speed there are only ${say(fast)}: it would not open.`,
      'Where overspeed stays below every rating, a relief may not be required at all: ask the authority.',
    );
}

export function figures(plan: Plan): readonly PlanFigure[] {
  const { opening, normal } = plan.values;
  const table = plateOf(plan, 'perTurn');
  const out: PlanFigure[] = [
    {
      id: 'overspeed',
      title: 'At 110 % of the speed',
      dimension: 'pressure',
      unit: 'psi',
      value: overspeedPressure(plan),
      step: 1,
      because: `Net churn × 1.21 and the most suction${isElectric(plan) ? '; a one-speed motor does not reach it' : ': what it must relieve'}.`,
    },
  ];
  if (opening !== undefined && normal !== undefined && table !== undefined)
    out.push({
      id: 'turns',
      title: 'Turns over normal',
      dimension: 'count',
      unit: 'turn',
      value: (opening - normal) / table,
      step: 0.01,
      because: `The margin over ${say(table)} a turn, by the spring’s table; what it does here is found in the job.`,
    });
  return out;
}

/** Normal, what stands over it, and the rating above both. */
export function ladder(plan: Plan): readonly LadderPart[] {
  const out: LadderPart[] = [];
  const { opening } = plan.values;
  const rating = plateOf(plan, 'rating');
  const normal = normalByPlate(plan);
  if (rating !== undefined)
    out.push({
      part: 'zone',
      lower: rating,
      upper: Infinity,
      title: `Weakest component ${Math.round(rating / psi(1))}`,
    });
  if (normal > 0)
    out.push({ part: 'mark', setting: 'normal', value: normal, title: 'Normal', movable: false, hung: true });
  if (opening !== undefined && normal > 0) {
    out.push({ part: 'band', setting: 'opening', lower: normal + LEAST_MARGIN, upper: normal + MOST_MARGIN });
    out.push({ part: 'mark', setting: 'opening', value: opening, title: 'Opens', movable: true });
    out.push({ part: 'bracket', setting: 'margin', from: normal, to: opening, title: 'Margin' });
  }
  return out;
}

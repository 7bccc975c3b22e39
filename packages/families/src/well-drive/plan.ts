import type { Gathering } from '../define/index.js';
import { PRECHARGE_HALF_BAND, worstAir } from '../shared/tank.js';
import type { LadderPart, PlanFigure } from '@firm-needle/core/family';
import type { Plan } from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';
import { drawdown } from '@firm-needle/core/reckon';
import type { Limits } from '@firm-needle/core/verdict';
import { reliefAtLeast } from '../shared/relief.js';
import { CHARGE_PART, HALF_BAND, psi, RELIEF_MARGIN, SWITCH_RULE_UNDER } from './parts.js';

const say = (p: number): string => showWithUnit(p, { unit: 'psi', step: 0.1 });
/** Wakes within this of where its plate says [common practice, no source]. */
const WAKE_HALF_BAND = psi(2);

export const limits = (values: Readonly<Record<string, number>>): Readonly<Record<string, Limits>> => {
  const out: Record<string, Limits> = {};
  for (const [id, half] of [
    ['setPoint', HALF_BAND],
    ['fullDraw', HALF_BAND],
    ['wake', WAKE_HALF_BAND],
    ['precharge', PRECHARGE_HALF_BAND],
  ] as const) {
    const v = values[id];
    if (v !== undefined) out[id] = { lower: v - half, upper: v + half };
  }
  return out;
};

const plateOf = (plan: Plan, id: string): number | undefined => plan.plate[id]?.value;

export function never(plan: Plan, setting: string): number {
  if (setting === 'precharge') return plateOf(plan, 'airMax') ?? plan.values['setPoint'] ?? psi(100);
  return Math.min(reliefAtLeast(plateOf(plan, 'relief') ?? psi(75)), plateOf(plan, 'weakest') ?? Infinity);
}

export const worst = (plan: Plan, slot: string): number =>
  slot === 'air' ? worstAir(plan) : (plateOf(plan, 'relief') ?? psi(75)) * 1.1;

export function check(plan: Plan, _: number, { judge: add }: Gathering): void {
  const { setPoint, precharge, wake } = plan.values;
  if (setPoint === undefined) return;
  const relief = plateOf(plan, 'relief');
  if (relief !== undefined && relief - setPoint < RELIEF_MARGIN - 1)
    add(
      'refuse',
      'relief-margin',
      'setPoint',
      `Set point ${say(setPoint)} leaves ${say(relief - setPoint)} under the relief at ${say(relief)}.`,
      'At least 10 psi: lower the set point; never fit a higher relief to make room.',
    );
  const weakest = plateOf(plan, 'weakest');
  if (weakest !== undefined && weakest < setPoint + RELIEF_MARGIN - 1)
    add(
      'refuse',
      'weakest-part',
      'setPoint',
      `The weakest part is rated ${say(weakest)}; set point ${say(setPoint)} comes too near.`,
      'Lower the set point, or fit a stronger part.',
    );
  const [least, most] = [plateOf(plan, 'least'), plateOf(plan, 'most')];
  if ((least !== undefined && setPoint < least) || (most !== undefined && setPoint > most))
    add(
      'refuse',
      'drive-limits',
      'setPoint',
      `The drive cannot be set to ${say(setPoint)}.`,
      `Its own limits are ${least === undefined ? 'none' : say(least)} to ${most === undefined ? 'none' : say(most)}.`,
    );
  if (precharge === undefined) return;
  const rule = CHARGE_PART * setPoint;
  const airMax = plateOf(plan, 'airMax');
  if (airMax !== undefined && precharge > airMax)
    add(
      'refuse',
      'air-limit',
      'precharge',
      `Precharge ${say(precharge)} is above the tank’s air limit ${say(airMax)}.`,
      'Charge it less, or fit another tank.',
    );
  if (wake !== undefined && precharge >= wake)
    add(
      'refuse',
      'precharge-above-wake',
      'precharge',
      `Precharge ${say(precharge)} is not below ${say(wake)}, where the drive wakes: the tank is empty before it does.`,
      `On a drive it is 70 % of the set point: ${say(rule)}.`,
    );
  else if (Math.abs(precharge - rule) > PRECHARGE_HALF_BAND)
    add(
      'warn',
      'precharge-off-rule',
      'precharge',
      `Precharge ${say(precharge)} is not 70 % of the set point.`,
      looksLikeSwitchRule(precharge, plan.values)
        ? `Two under cut-in is for a pressure switch; here it is ${say(rule)}.`
        : `By that rule it is ${say(rule)}.`,
    );
}

/** The charge stands where it would on a pressure switch: two under the set point, or under where the drive wakes. */
export const looksLikeSwitchRule = (
  precharge: number,
  { setPoint, wake }: Readonly<Record<string, number | undefined>>,
): boolean =>
  [setPoint, wake].some(
    (p) => p !== undefined && Math.abs(precharge - (p - SWITCH_RULE_UNDER)) <= 1.5 * PRECHARGE_HALF_BAND,
  );

export function figures(plan: Plan, ambient: number): readonly PlanFigure[] {
  const { setPoint, precharge, wake } = plan.values;
  const volume = plateOf(plan, 'tankVolume');
  if (setPoint === undefined || precharge === undefined || wake === undefined || volume === undefined)
    return [];
  return [
    {
      id: 'asleep',
      title: 'Given while it sleeps',
      dimension: 'volume',
      unit: 'L',
      value: drawdown(volume, precharge, wake, setPoint, ambient),
      step: 0.1,
      because: `Water between set point and waking at ${showWithUnit(ambient, { unit: 'kPa', step: 0.1 })} ambient.`,
    },
  ];
}

/** One pressure that is held, the fall that wakes the drive, and the charge far below. */
export function ladder(plan: Plan): readonly LadderPart[] {
  const out: LadderPart[] = [];
  for (const [id, title] of [
    ['relief', 'Relief'],
    ['weakest', 'Weakest part'],
  ] as const) {
    const at = plateOf(plan, id);
    if (at !== undefined)
      out.push({ part: 'zone', lower: at, upper: Infinity, title: `${title} ${Math.round(at / psi(1))}` });
  }
  const { setPoint, precharge, wake } = plan.values;
  if (setPoint !== undefined) {
    out.push({ part: 'band', setting: 'setPoint', lower: setPoint - HALF_BAND, upper: setPoint + HALF_BAND });
    out.push({ part: 'mark', setting: 'setPoint', value: setPoint, title: 'Set point', movable: true });
  }
  if (wake !== undefined && setPoint !== undefined) {
    out.push({ part: 'mark', setting: 'wake', value: wake, title: 'Wakes', movable: false, hung: true });
    out.push({ part: 'bracket', setting: 'wake', from: wake, to: setPoint, title: 'Fall' });
  }
  if (precharge !== undefined) {
    out.push({
      part: 'band',
      setting: 'precharge',
      lower: precharge - PRECHARGE_HALF_BAND,
      upper: precharge + PRECHARGE_HALF_BAND,
    });
    out.push({
      part: 'mark',
      setting: 'precharge',
      value: precharge,
      title: 'Precharge',
      movable: true,
      hung: true,
    });
  }
  return out;
}

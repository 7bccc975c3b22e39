import type { LadderPart, PlanFigure } from '@firm-needle/core/family';
import type { Plan } from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';
import { waterSaturationTemperature } from '@firm-needle/core/reckon';
import type { Limits } from '@firm-needle/core/verdict';
import type { Gathering } from '../define/index.js';
import {
  HOUSE_CAP,
  LEAST_DIFFERENTIAL,
  NEVER_UNDER_VALVE,
  OUNCES_BELOW,
  ounces,
  parts,
  psi,
  read,
  UNDER_LIMIT,
  UNDER_VALVE,
  VALVE,
} from './parts.js';
import { floorOf } from './state.js';

const inOunces = (cutOut: number): boolean => cutOut < OUNCES_BELOW;
const said = (plan: Pick<Plan, 'variant'>, pa: number): string =>
  plan.variant === 'ounce'
    ? showWithUnit(pa, { unit: 'ozf/in2', step: 0.1 })
    : showWithUnit(pa, { unit: 'psi', step: 0.01 });

/** What is wanted, to either side: in pounds 1.0 to 2 about 1.5, and 0.4 to 0.9 about 0.5; in ounces ± 2 and ± 1 [common practice]. */
export function limits(
  values: Readonly<Record<string, number>>,
  plate: Plan['plate'],
): Readonly<Record<string, Limits>> {
  const { cutOut, cutIn } = values;
  const out: Record<string, Limits> = {};
  // A limit stands over what is wanted; it starts nothing again by itself.
  const cap = cutIn === 0 ? Infinity : (read({ values, plate }).plate.cap ?? HOUSE_CAP);
  const small = cutOut !== undefined && inOunces(cutOut);
  if (cutOut !== undefined) {
    const half = small ? ounces(2) : psi(0.5);
    out['cutOut'] = { lower: cutOut - half, upper: Math.max(cutOut, Math.min(cap, cutOut + half)) };
  }
  if (cutIn !== undefined)
    out['cutIn'] = small
      ? { lower: cutIn - ounces(1), upper: cutIn + ounces(1) }
      : { lower: cutIn - psi(0.1), upper: cutIn + psi(0.4) };
  if (!small) out['differential'] = { lower: LEAST_DIFFERENTIAL };
  return out;
}

export function never(plan: Plan): number {
  const { plate } = read(plan);
  return Math.min((plate.limit ?? Infinity) - UNDER_LIMIT, (plate.valve ?? VALVE) - NEVER_UNDER_VALVE);
}

/** A hand pump stops where its gauge ends; a boiler does not. */
export function worst(plan: Plan): number {
  const { plate, v } = read(plan);
  return plan.school === 'boiler' ? (plate.valve ?? VALVE) : (plan.limits['cutOut']?.upper ?? v.cutOut ?? 0);
}

export function figures(plan: Plan, ambient: number): readonly PlanFigure[] {
  const { v } = read(plan);
  if (v.cutOut === undefined) return [];
  const steam = waterSaturationTemperature(v.cutOut + ambient);
  return steam.ok
    ? [
        {
          id: 'steam',
          title: 'Steam at cut-out',
          dimension: 'temperature',
          unit: 'degF',
          value: steam.value,
          step: 0.1,
          because: 'IAPWS-IF97, at this site’s ambient pressure.',
        },
      ]
    : [];
}

export function check(plan: Plan, _: number, { judge: add, lacks }: Gathering): void {
  const { v, plate } = read(plan);
  const show = (pa: number): string => said(plan, pa);
  for (const p of parts.plate)
    if (p.required && plan.plate[p.id] === undefined)
      lacks(
        'plate-missing',
        p.id,
        `${p.title} is not on the plate yet.`,
        'Read it from the equipment and type it.',
      );
  const { cutOut, cutIn, differential } = v;
  if (cutOut === undefined || cutIn === undefined || differential === undefined) return;
  const limit = plan.variant === 'limit';
  const cap = plate.cap ?? HOUSE_CAP;
  if (!limit && cutOut > cap)
    add(
      'refuse',
      'over-cap',
      'cutOut',
      `Cut-out ${show(cutOut)} is above the most that is wanted here, ${show(cap)}.`,
      'Lower it, or put this plant’s own need on the plate.',
    );
  if (!limit && !(cutOut > cutIn))
    add(
      'refuse',
      'cut-out-not-above-cut-in',
      'cutOut',
      `Cut-out ${show(cutOut)} is not above cut-in ${show(cutIn)}.`,
      `Raise cut-out above ${show(cutIn)} or lower cut-in.`,
    );
  if (!limit && cutIn < floorOf(plan) - 1)
    add(
      'refuse',
      'reset-unsure',
      'cutIn',
      `A cut-in of ${show(cutIn)} is below ${show(floorOf(plan))}: it would not surely close again.`,
      `Set it to ${show(floorOf(plan))} or more.`,
    );
  const { main, diff } = scalesOf(plan);
  if (
    main &&
    plate.mainLow !== undefined &&
    plate.mainHigh !== undefined &&
    !(main.value >= plate.mainLow && main.value <= plate.mainHigh)
  )
    add(
      'refuse',
      'off-main-scale',
      main.setting,
      `The main pointer would stand at ${show(main.value)}; its scale goes from ${show(plate.mainLow)} to ${show(plate.mainHigh)}.`,
      'Plan what the scale has, or fit a control that has it.',
    );
  if (
    !limit &&
    diff &&
    plate.diffLow !== undefined &&
    plate.diffHigh !== undefined &&
    !(diff >= plate.diffLow - 1 && diff <= plate.diffHigh)
  )
    add(
      'refuse',
      'off-diff-scale',
      'differential',
      `A differential of ${show(diff)} is not on its scale, ${show(plate.diffLow)} to ${show(plate.diffHigh)}.`,
      'Plan what the scale has, or fit a control that has it.',
    );
  if (plate.limit !== undefined && cutOut > plate.limit - UNDER_LIMIT + 1)
    add(
      'refuse',
      'near-limit',
      'cutOut',
      `Cut-out ${show(cutOut)} comes within ${show(UNDER_LIMIT)} of the limit control at ${show(plate.limit)}.`,
      'Lower cut-out; the limit is not raised to make room.',
    );
  if (limit && plate.operating !== undefined && cutOut < plate.operating + UNDER_LIMIT - 1)
    add(
      'refuse',
      'under-operating',
      'cutOut',
      `A limit at ${show(cutOut)} comes within ${show(UNDER_LIMIT)} of the operating control at ${show(plate.operating)}: it would trip in normal use.`,
      'Raise the limit, or lower the operating control.',
    );
  const valve = plate.valve;
  if (valve !== undefined && cutOut > valve - UNDER_VALVE + 1)
    add(
      'refuse',
      'near-valve',
      'cutOut',
      `Cut-out ${show(cutOut)} leaves ${show(valve - cutOut)} under the safety valve; ${show(UNDER_VALVE)} is the least.`,
      'Lower it. The valve is never plugged and never changed to make room.',
    );
}

/** Where its pointers would stand, by how it is marked. */
function scalesOf(plan: Plan): {
  readonly main?: { readonly setting: string; readonly value: number };
  readonly diff?: number;
} {
  const { cutOut, cutIn, differential } = read(plan).v;
  const setting = plan.variant === 'add' ? 'cutIn' : 'cutOut';
  const value = plan.variant === 'add' ? cutIn : cutOut;
  return {
    ...(value === undefined ? {} : { main: { setting, value } }),
    ...(differential === undefined ? {} : { diff: differential }),
  };
}

export function ladder(plan: Plan): readonly LadderPart[] {
  const { v, plate } = read(plan);
  const out: LadderPart[] = [];
  const round = (pa: number): string => said(plan, pa).replace(/\.?0+(?=\s)/, '');
  if (plate.valve !== undefined)
    out.push({
      part: 'zone',
      lower: plate.valve,
      upper: Infinity,
      title: `Safety valve ${round(plate.valve)}`,
    });
  if (plate.limit !== undefined)
    out.push({ part: 'zone', lower: plate.limit, upper: Infinity, title: `Limit ${round(plate.limit)}` });
  if (plan.variant !== 'limit')
    out.push({ part: 'zone', lower: 0, upper: floorOf(plan), title: 'no sure reset', below: true });
  for (const id of plan.variant === 'limit' ? (['cutOut'] as const) : (['cutIn', 'cutOut'] as const)) {
    const value = v[id];
    if (value === undefined) continue;
    const { lower, upper } = plan.limits[id] ?? {};
    if (lower !== undefined && upper !== undefined) out.push({ part: 'band', setting: id, lower, upper });
    out.push({
      part: 'mark',
      setting: id,
      value,
      title: id === 'cutIn' ? 'Cut-in' : 'Cut-out',
      movable: true,
    });
  }
  if (plan.variant !== 'limit' && v.cutIn !== undefined && v.cutOut !== undefined)
    out.push({
      part: 'bracket',
      setting: 'differential',
      from: v.cutIn,
      to: v.cutOut,
      title: said(plan, v.cutOut - v.cutIn),
    });
  return out;
}

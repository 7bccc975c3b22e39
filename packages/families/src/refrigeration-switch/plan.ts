import type { PlanFigure } from '@firm-needle/core/family';
import type { Plan } from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';
import { saturationPressure, saturationTemperature } from '@firm-needle/core/reckon';
import type { Limits } from '@firm-needle/core/verdict';
import type { Gathering } from '../define/index.js';
import { hasHigh, hasLow, lowByKnob, parts, read } from './parts.js';
import { bar, FLOOR, GUARD_K, NEAR_MOST, OF_RELIEF, OVER_AIR_K, OVER_FAN, OVER_HOT_DAY } from './bounds.js';
import { refrigerantOf } from './refrigerants.js';

type Reads = Pick<Plan, 'values' | 'plate' | 'choices'>;
/** Ambient at the sea, where a plan is looked at without its site, Pa absolute. */
export const SEA = 101325;
export const said = (pa: number): string => showWithUnit(pa, { unit: 'bar', step: 0.01 });

/** What boils or condenses at a temperature, Pa gauge: vapour that is sucked is on the dew line, liquid on the bubble line. */
export function saturated(
  plan: Reads,
  T: number | undefined,
  side: 'dew' | 'bubble',
  ambient: number,
): number | undefined {
  const fluid = refrigerantOf(plan);
  if (fluid === undefined || T === undefined) return undefined;
  const at = saturationPressure(fluid, T);
  return at.ok ? at.value[side] - ambient : undefined;
}

/** The temperature that stands beside a pressure, K; undefined where its refrigerant is not known, or not there. */
function boilsAt(plan: Reads, pa: number, side: 'dew' | 'bubble', ambient: number): number | undefined {
  const fluid = refrigerantOf(plan);
  if (fluid === undefined || pa + ambient <= 0) return undefined;
  const at = saturationTemperature(fluid, pa + ambient, side);
  return at.ok ? at.value : undefined;
}

const SIDE: Readonly<Record<string, 'dew' | 'bubble'>> = {
  lpStart: 'dew',
  lpStop: 'dew',
  suction: 'dew',
  hpStop: 'bubble',
  hpReset: 'bubble',
  discharge: 'bubble',
};

/** Every pressure has its saturation temperature beside it. */
export function beside(plan: Reads, setting: string, pa: number, ambient: number): string | undefined {
  const side = SIDE[setting];
  const T = side && boilsAt(plan, pa, side, ambient);
  return T === undefined ? undefined : `${showWithUnit(T, { unit: 'degC', step: 0.1 })} ${side}`;
}

/** Either side of the low points; the high stop may stand lower than planned and never higher [assumed]. */
export function limits(
  values: Readonly<Record<string, number>>,
  plate: Plan['plate'],
): Readonly<Record<string, Limits>> {
  const { lpStart, lpStop, hpStop } = values;
  const floor = plate['floor']?.value ?? FLOOR;
  return {
    ...(lpStart === undefined ? {} : { lpStart: { lower: lpStart - bar(0.2), upper: lpStart + bar(0.2) } }),
    ...(lpStop === undefined
      ? {}
      : {
          lpStop: { lower: Math.min(lpStop, Math.max(floor, lpStop - bar(0.2))), upper: lpStop + bar(0.2) },
        }),
    ...(hpStop === undefined ? {} : { hpStop: { lower: hpStop - bar(1), upper: hpStop } }),
  };
}

/** The most that the high side may come to, Pa: what its parts allow, and well under the relief. */
export function most(plan: Reads): number {
  const { plate } = read(plan);
  return Math.min(plate.psHigh ?? Infinity, OF_RELIEF * (plate.relief ?? Infinity));
}
export const floorOf = (plan: Reads): number => read(plan).plate.floor ?? FLOOR;

export const never = (plan: Plan, setting: string): number =>
  setting === 'hpStop' || setting === 'discharge' ? most(plan) : Infinity;

/** What stands still is as warm as its room; the high side is raised to its stop, and by hand no farther than it may. */
export function worst(plan: Plan, slot: string): number {
  const { plate, v } = read(plan);
  if (slot === 'high') return Math.min(most(plan), (v.hpStop ?? 0) + bar(2));
  return Math.max((v.lpStart ?? 0) + bar(0.5), saturated(plan, plate.room, 'dew', SEA) ?? 0);
}

export function figures(plan: Plan, ambient: number): readonly PlanFigure[] {
  const { plate } = read(plan);
  const out: PlanFigure[] = [];
  const add = (id: string, title: string, value: number | undefined, because: string): void => {
    if (value !== undefined)
      out.push({ id, title, dimension: 'pressure', unit: 'bar', value, step: 0.01, because });
  };
  if (hasLow(plan))
    add(
      'still',
      'Stands still at',
      saturated(plan, plate.room, 'dew', ambient),
      'Dew line, at the room’s temperature.',
    );
  if (hasHigh(plan)) {
    const air = plate.ambient;
    add(
      'hotDay',
      'Condenses on a hot day at',
      saturated(plan, air === undefined ? undefined : air + OVER_AIR_K, 'bubble', ambient),
      `Bubble line, ${OVER_AIR_K} K over the warmest air [assumed].`,
    );
  }
  return out;
}

export function check(plan: Plan, ambient: number, found: Gathering): void {
  const { plate } = read(plan);
  for (const p of parts.plate)
    if (p.required && hasHigh(plan) && plate[p.id as 'psHigh'] === undefined)
      found.lacks(
        'plate-missing',
        p.id,
        `${p.title} is not on the plate yet.`,
        'Read it from the equipment and type it.',
      );
  if (refrigerantOf(plan) === undefined)
    found.add(
      'warn',
      'refrigerant-unknown',
      'No saturation line is known here for its refrigerant: nothing is checked against temperatures.',
      'Go by the chart of its cylinder; pressures alone are planned and proved.',
    );
  if (hasLow(plan)) checkLow(plan, ambient, found);
  if (hasHigh(plan)) checkHigh(plan, ambient, found);
}

function checkLow(plan: Plan, ambient: number, { judge: add }: Gathering): void {
  const { v, plate, choice } = read(plan);
  const { lpStart, lpStop, lpDiff } = v;
  if (lpStart === undefined || lpStop === undefined || lpDiff === undefined) return;
  const floor = floorOf(plan);
  if (lpStop + ambient <= 0)
    add(
      'refuse',
      'below-nothing',
      'lpStop',
      `A stop of ${said(lpStop)} lies at or under no pressure at all (${said(-ambient)} here): it would never stop.`,
      `Raise it, to ${said(floor)} or more.`,
    );
  else if (lpStop < floor - 1)
    add(
      'refuse',
      'under-floor',
      'lpStop',
      `A stop of ${said(lpStop)} is under the lowest suction allowed, ${said(floor)}.`,
      'Raise it, or put the floor that this machine’s book gives on the plate.',
    );
  if (!(lpStart > lpStop))
    add(
      'refuse',
      'start-not-above-stop',
      'lpStart',
      `It would start at ${said(lpStart)}, which is not above its stop at ${said(lpStop)}.`,
      'Raise the start or lower the stop.',
    );
  const still = saturated(plan, plate.room, 'dew', ambient);
  if (still !== undefined && lpStart >= still)
    add(
      'refuse',
      'never-starts',
      'lpStart',
      `Standing still it comes to ${said(still)}: a start at ${said(lpStart)} is never reached.`,
      'Lower it under what stands still at the coldest room.',
    );
  offScale(add, 'lpStart', 'off-low-scale', [lpStart, plate.lpLow, plate.lpHigh], 'The low pointer');
  if (!lowByKnob(plan))
    offScale(
      add,
      'lpDiff',
      'off-diff-scale',
      [lpDiff, plate.diffLow, plate.diffHigh],
      'The differential pointer',
    );
  if (choice.purpose === 'guard') {
    const [stops, runs] = [lpStop, plate.suction].map((p) =>
      p === undefined ? undefined : boilsAt(plan, p, 'dew', ambient),
    );
    if (stops !== undefined && runs !== undefined && stops > runs - GUARD_K)
      add(
        'warn',
        'guard-near',
        'lpStop',
        `As a guard it stops ${(runs - stops).toFixed(1)} K under the suction it runs at; ${GUARD_K} K is the least.`,
        'Lower it, or say what else it is for.',
      );
  }
  if (choice.purpose === 'temperature')
    for (const [setting, pa, T, what] of [
      ['lpStart', lpStart, plate.coilWarm, 'warmest'],
      ['lpStop', lpStop, plate.coilCold, 'coldest'],
    ] as const) {
      const wanted = saturated(plan, T, 'dew', ambient);
      if (wanted !== undefined && Math.abs(wanted - pa) > bar(0.2))
        add(
          'warn',
          `not-${what}-coil`,
          setting,
          `The ${what} coil stands at ${said(wanted)}; planned is ${said(pa)}.`,
          `Plan ${said(wanted)}.`,
        );
    }
  if (choice.purpose === 'pump-down') {
    const cold = saturated(plan, plate.coldest, 'dew', ambient);
    if (cold !== undefined && lpStart >= cold)
      add(
        'warn',
        'cold-day',
        'lpStart',
        `On the coldest day it stands still at ${said(cold)}: it would not start at ${said(lpStart)}.`,
        'Lower the start.',
      );
  }
}

function offScale(
  add: Gathering['judge'],
  setting: string,
  code: string,
  [value, from, to]: readonly [number, number | undefined, number | undefined],
  which: string,
): void {
  if (from === undefined || to === undefined || (value >= from - 1 && value <= to + 1)) return;
  add(
    'refuse',
    code,
    setting,
    `${which} would stand at ${said(value)}; its scale goes from ${said(from)} to ${said(to)}.`,
    'Plan what the scale has, or fit a switch that has it.',
  );
}

function checkHigh(plan: Plan, ambient: number, { judge: add }: Gathering): void {
  const { v, plate } = read(plan);
  const { hpStop } = v;
  if (hpStop === undefined) return;
  if (plate.psHigh !== undefined && hpStop > plate.psHigh)
    add(
      'refuse',
      'over-allowable',
      'hpStop',
      `A stop of ${said(hpStop)} is above the ${said(plate.psHigh)} that the high side allows.`,
      'Lower it; the rating of its parts does not move.',
    );
  if (plate.relief !== undefined && hpStop > OF_RELIEF * plate.relief)
    add(
      'refuse',
      'near-relief',
      'hpStop',
      `A stop of ${said(hpStop)} is over nine tenths of the relief at ${said(plate.relief)}.`,
      `Lower it to ${said(OF_RELIEF * plate.relief)} or less. The relief is never changed to make room.`,
    );
  if (plan.school === 'system' && hpStop <= most(plan) && hpStop > most(plan) - NEAR_MOST)
    add(
      'refuse',
      'too-near-to-raise',
      'hpStop',
      `A stop of ${said(hpStop)} lies within a gauge’s doubt of the most, ${said(most(plan))}: the system is not raised to it.`,
      'Prove it with nitrogen on the isolated switch.',
    );
  if (plate.fanOn !== undefined && hpStop < plate.fanOn + OVER_FAN)
    add(
      'refuse',
      'under-fan',
      'hpStop',
      `A stop of ${said(hpStop)} comes before the last fan at ${said(plate.fanOn)} can help.`,
      `Raise it to ${said(plate.fanOn + OVER_FAN)} or more, or start the fan earlier.`,
    );
  offScale(add, 'hpStop', 'off-high-scale', [hpStop, plate.hpLow, plate.hpHigh], 'The high pointer');
  const air = plate.ambient;
  const hot = saturated(plan, air === undefined ? undefined : air + OVER_AIR_K, 'bubble', ambient);
  if (hot !== undefined && hpStop < hot + OVER_HOT_DAY)
    add(
      'warn',
      'hot-day',
      'hpStop',
      `On a hot day it condenses at about ${said(hot)}; a stop at ${said(hpStop)} would trip for nothing.`,
      'Raise it, if parts and relief allow.',
    );
}

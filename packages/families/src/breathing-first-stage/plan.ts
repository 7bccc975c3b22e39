import type { LadderPart, PlanFigure, Variant } from '@firm-needle/core/family';
import type { Plan } from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';
import type { Limits } from '@firm-needle/core/verdict';
import type { Gathering } from '../define/index.js';
import {
  BEDS_IN,
  CREEP,
  DIP_MOST,
  EFFECT_MOST,
  isBalanced,
  isFresh,
  isIndustrial,
  OFF_THE_ENDS,
  parts,
  psi,
  read,
  RICH,
  RISE_PART,
  SUPPLY,
  USUAL_EFFECT,
} from './parts.js';

export const variants: readonly Variant[] = [
  { id: 'diaphragm', title: 'Diaphragm, balanced: a screw', values: {} },
  { id: 'diaphragm-unbalanced', title: 'Diaphragm, unbalanced: a screw', values: {} },
  { id: 'piston', title: 'Piston, flow-through: shims', values: {} },
  { id: 'piston-unbalanced', title: 'Piston, unbalanced: shims', values: {} },
  { id: 'cylinder-gas', title: 'Cylinder regulator, industrial gas: not for breathing', values: {} },
];

const say = (p: number): string => showWithUnit(p, { unit: 'psi', step: 1 });
type Plate = Plan['plate'];
const plateOf = (plate: Plate) => read({ values: {}, plate }).plate;

/** Thousands of psi between low and full supply. */
const thousands = (plate: Plate): number => {
  const { supplyLow = SUPPLY.low, supplyFull = SUPPLY.full } = plateOf(plate);
  return (supplyFull - supplyLow) / psi(1000);
};

/** What full supply usually stands over low by, Pa, signed: what a plan reckons with until it is read. */
export const usualEffect = ({ variant, plate }: Pick<Plan, 'variant' | 'plate'>): number =>
  (USUAL_EFFECT[variant] ?? 0) * thousands(plate);
/** The most that full and low may lie apart. */
export const effectMost = ({ variant, plate }: Pick<Plan, 'variant' | 'plate'>): number =>
  (plateOf(plate).effectMost ?? EFFECT_MOST[isBalanced({ variant }) ? 'balanced' : 'unbalanced']) *
  thousands(plate);

/** The two windows, at full and at low supply. */
export const windowsOf = (plate: Plate) => {
  const { ipLeast = 0, ipMost = Infinity, lowLeast, lowMost } = plateOf(plate);
  return {
    full: { lower: ipLeast, upper: ipMost },
    low: { lower: lowLeast ?? ipLeast, upper: lowMost ?? ipMost },
  };
};

/**
 * Where full supply may be set so that low supply lies in its own window too, and neither at an end.
 * @param room kept free above it for a seat that beds in, Pa
 * @returns lower over upper where there is no such setting
 */
export function settable(
  { variant, plate }: Pick<Plan, 'variant' | 'plate'>,
  room: number,
): { readonly lower: number; readonly upper: number } {
  const { full, low } = windowsOf(plate);
  const apart = usualEffect({ variant, plate });
  return {
    lower: Math.max(full.lower, low.lower + apart) + OFF_THE_ENDS,
    upper: Math.min(full.upper - room, low.upper + apart) - OFF_THE_ENDS,
  };
}

/** Its usual target: the middle of what is settable, or low in it, so that a seat that beds in has room to rise. */
export function follows(variant: string, plate: Plate, school: string): Readonly<Record<string, number>> {
  const { ipLeast, ipMost } = plateOf(plate);
  if (ipLeast === undefined || ipMost === undefined) return {};
  if (isIndustrial({ variant })) return { delivery: (ipLeast + ipMost) / 2 };
  const { lower, upper } = settable({ variant, plate }, school === 'room' ? BEDS_IN : 0);
  return { ipFull: school === 'room' ? lower + (upper - lower) / 4 : (lower + upper) / 2 };
}

/** What nothing on the low side may come to: the lowest at which the relief may open, or the weakest part. */
export const stopOf = (plan: Pick<Plan, 'plate'>): number => {
  const { relief = Infinity, reliefTol = 0.05, weakest = Infinity } = plateOf(plan.plate);
  return Math.min(relief * (1 - reliefTol), weakest) - OFF_THE_ENDS;
};

export const never = (plan: Plan): number => stopOf(plan);
/** All of the bottle, where the seat fails; then the relief holds what it holds. */
export const worst = (plan: Plan): number => {
  const { relief = psi(250) } = plateOf(plan.plate);
  return relief * 1.15;
};

export function limits(
  values: Plan['values'],
  plate: Plate,
  chosen: Pick<Plan, 'variant' | 'school' | 'choices'>,
): Readonly<Record<string, Limits>> {
  const { full, low } = windowsOf(plate);
  const { v } = read({ values, plate });
  if (isIndustrial(chosen))
    return {
      delivery: full,
      rise: { upper: RISE_PART * (v.delivery ?? 0) },
      locked: { upper: stopOf({ plate }) },
    };
  const apart = effectMost({ variant: chosen.variant, plate });
  return {
    ipFull: full,
    ipLow: low,
    stood: full,
    creep: { upper: isFresh(chosen) ? CREEP.fresh : CREEP.used },
    dip: { upper: plateOf(plate).dipMost ?? DIP_MOST },
    effect: { lower: -apart, upper: apart },
  };
}

export function check(plan: Plan, _: number, { judge: add }: Gathering): void {
  const { v, plate } = read(plan);
  const { ipLeast, ipMost, lowLeast, lowMost, relief, oxygen } = plate;
  if (ipLeast !== undefined && ipMost !== undefined && ipLeast >= ipMost)
    return add(
      'refuse',
      'window',
      'ipMost',
      'The window’s most is not over its least.',
      'Type both anew from the manual.',
    );
  if (lowLeast !== undefined && lowMost !== undefined && lowLeast >= lowMost)
    return add(
      'refuse',
      'window-low',
      'lowMost',
      'At low supply the window’s most is not over its least.',
      'Type both anew.',
    );
  if (isIndustrial(plan)) {
    add(
      'warn',
      'not-for-breathing',
      'delivery',
      'Not for breathing.',
      'Clean inert bench gas, adaptors kept for one gas. Read, and nothing opened.',
    );
    if (v.delivery !== undefined && v.delivery * (1 + RISE_PART) > stopOf(plan))
      add(
        'refuse',
        'relief-near',
        'relief',
        `Locked up it may stand at ${say(v.delivery * (1 + RISE_PART))}: the relief at ${say(relief ?? 0)} may open.`,
        'Deliver less, or a relief made for it.',
      );
    return;
  }
  if (!isBalanced(plan) && (lowLeast === undefined || lowMost === undefined))
    add(
      'refuse',
      'low-window',
      'lowLeast',
      'Unbalanced, it stands elsewhere at low supply: its window there is missing.',
      'Type both from the manual.',
    );
  const room = isFresh(plan) ? CREEP.fresh + BEDS_IN : CREEP.used;
  if (ipMost !== undefined && ipMost + (isFresh(plan) ? CREEP.fresh : CREEP.used) > stopOf(plan))
    add(
      'refuse',
      'relief-near',
      'relief',
      `The relief may open at ${say(stopOf(plan))}: the window goes to ${say(ipMost)}, and it may creep.`,
      'A relief that opens higher, under what the weakest part bears.',
    );
  const { lower, upper } = settable(plan, 0);
  if (lower > upper)
    add(
      'refuse',
      'no-setting',
      'ipFull',
      'No setting lies in both windows: full and low supply stand too far apart.',
      'Look at both windows, and at the variant.',
    );
  else if (
    v.ipFull !== undefined &&
    (v.ipFull < windowsOf(plan.plate).full.lower || v.ipFull > windowsOf(plan.plate).full.upper)
  )
    add(
      'refuse',
      'outside-window',
      'ipFull',
      `${say(v.ipFull)} is outside the maker’s window.`,
      'The window stands over any habit.',
    );
  else if (
    isFresh(plan) &&
    v.ipFull !== undefined &&
    ipMost !== undefined &&
    v.ipFull + room > ipMost + BEDS_IN
  )
    add(
      'warn',
      'no-room',
      'ipFull',
      `A fresh seat beds in and stands about ${say(BEDS_IN)} higher: ${say(v.ipFull)} leaves little room under ${say(ipMost)}.`,
      'Aim low in the window.',
    );
  if (oxygen !== undefined && oxygen > RICH)
    add(
      'warn',
      'oxygen',
      'oxygen',
      'It met more than 22 % oxygen: clean bench, clean gas, listed parts, no oil.',
      'Once used on ordinary air it is no longer clean for it.',
    );
}

export function figures(plan: Plan): readonly PlanFigure[] {
  if (isIndustrial(plan)) return [];
  const stop = stopOf(plan);
  const { ipFull } = read(plan).v;
  const { upper } = windowsOf(plan.plate).full;
  return [
    ...(Number.isFinite(stop)
      ? [
          {
            id: 'stop',
            title: 'Shut and bleed at',
            dimension: 'pressure' as const,
            unit: 'psi',
            value: stop,
            step: 1,
            because: 'under the lowest at which the relief may open, and under the weakest part',
          },
        ]
      : []),
    ...(ipFull !== undefined && Number.isFinite(upper)
      ? [
          {
            id: 'room',
            title: 'Room to rise',
            dimension: 'pressure' as const,
            unit: 'psi',
            value: upper - ipFull,
            step: 1,
            because: 'from the target to the top of its window: a seat that beds in needs about five',
          },
        ]
      : []),
  ];
}

/** Low and full in their windows, the relief over both. */
export function ladder(plan: Plan): readonly LadderPart[] {
  const out: LadderPart[] = [];
  const { v, plate } = read(plan);
  const { relief, weakest } = plate;
  for (const [at, title] of [
    [relief, 'Relief'],
    [weakest, 'Weakest part'],
  ] as const)
    if (at !== undefined)
      out.push({ part: 'zone', lower: at, upper: Infinity, title: `${title} ${Math.round(at / psi(1))}` });
  for (const setting of isIndustrial(plan) ? (['delivery'] as const) : (['ipFull', 'ipLow'] as const)) {
    const { lower = 0, upper = Infinity } = plan.limits[setting] ?? {};
    const at = v[setting];
    if (at === undefined || !Number.isFinite(upper)) continue;
    out.push({ part: 'band', setting, lower, upper });
    out.push({
      part: 'mark',
      setting,
      value: at,
      title:
        setting === 'ipLow'
          ? 'Low supply'
          : setting === 'ipFull'
            ? 'Full supply'
            : (parts.settings.find((x) => x.id === setting)?.title ?? ''),
      movable: setting !== 'ipLow',
      ...(setting === 'ipLow' ? { hung: true } : {}),
    });
  }
  return out;
}

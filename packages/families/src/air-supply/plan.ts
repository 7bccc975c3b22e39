import type { LadderPart, PlanFigure } from '@firm-needle/core/family';
import type { Plan } from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';
import type { Limits } from '@firm-needle/core/verdict';
import type { Gathering } from '../define/index.js';
import {
  atGun,
  byWall,
  GUN_HALF,
  LEAST_ACROSS,
  MOST_RISE,
  OF_RELIEF,
  OVER_GUN,
  parts,
  psi,
  read,
  USUAL_OVER,
} from './parts.js';
import { lossTo } from './reckoned.js';

const said = (pa: number): string => showWithUnit(pa, { unit: 'psi', step: 0.5 });
/** Either side of a switch point: a tank’s own gauge tells no better [assumed]. */
const SWITCH_HALF = psi(6);
const USUAL_NEED = psi(40);
type Plated = Pick<Plan, 'plate'>;
const needOf = (plan: Plated): number => plan.plate['need']?.value ?? USUAL_NEED;
export const leastAcross = (plan: Plated): number => plan.plate['leastDiff']?.value ?? LEAST_ACROSS;

/** What a regulator at the gun needs beside its hose; nothing where there is none. */
export const overGun = (plan: Pick<Plan, 'variant' | 'school'>): number => (byWall(plan) ? 0 : OVER_GUN);

/** Hose as reckoned, Pa; nothing where the plate does not say, for then it is only measured. */
const hose = (plan: Plated): number => {
  const loss = lossTo(plan, needOf(plan));
  return loss === undefined || !Number.isFinite(loss) ? 0 : loss;
};

/** What must stand at the wall over what the gun needs, Pa: the hose, and where the gun regulates, something for it. */
export const wallOver = (plan: Pick<Plan, 'variant' | 'plate'>): number =>
  hose(plan) + (plan.variant === 'none' ? 0 : USUAL_OVER + OVER_GUN);

/** The plate says what the gun needs. */
export const follows = (_: string, plate: Plan['plate']): Readonly<Record<string, number>> =>
  plate['need'] ? { gunFlow: plate['need'].value } : {};

export function limits(
  values: Readonly<Record<string, number>>,
  plate: Plan['plate'],
  chosen: Pick<Plan, 'variant' | 'school' | 'choices'>,
): Readonly<Record<string, Limits>> {
  const { gunFlow, wallFlow, cutIn, cutOut } = values;
  const out: Record<string, Limits> = {};
  if (gunFlow !== undefined) out['gunFlow'] = { lower: gunFlow - GUN_HALF, upper: gunFlow + GUN_HALF };
  // Where the wall alone sets the gun, it stands where that wants it, and is judged by the gun.
  if (wallFlow !== undefined && cutIn !== undefined && !byWall(chosen)) {
    const upper = cutIn - leastAcross({ plate });
    const lower = (gunFlow ?? 0) + hose({ plate }) + overGun(chosen);
    out['wallFlow'] = { lower: Math.min(lower, wallFlow), upper: Math.max(upper, wallFlow) };
  }
  if (plate['rating']) out['wallLock'] = { upper: plate['rating'].value };
  if (chosen.choices?.['switch'] === 'set') {
    if (cutIn !== undefined) out['cutIn'] = { lower: cutIn - SWITCH_HALF, upper: cutIn + SWITCH_HALF };
    if (cutOut !== undefined) out['cutOut'] = { lower: cutOut - SWITCH_HALF, upper: cutOut + SWITCH_HALF };
  }
  return out;
}

export function never(plan: Plan, setting: string): number {
  const { plate } = read(plan);
  if (setting === 'cutOut') return OF_RELIEF * (plate.relief ?? Infinity);
  return setting === 'wallLock' || setting === 'wallFlow' || setting === 'gunFlow'
    ? (plate.rating ?? Infinity)
    : Infinity;
}

export function worst(plan: Plan, slot: string): number {
  const { plate, v } = read(plan);
  if (slot === 'tank') return OF_RELIEF * (plate.relief ?? v.cutOut ?? 0);
  const wall = (v.wallFlow ?? 0) + MOST_RISE;
  return slot === 'wall' ? wall : atGun(plan) ? (v.gunFlow ?? 0) + MOST_RISE : wall;
}

export function figures(plan: Plan): readonly PlanFigure[] {
  const loss = lossTo(plan, needOf(plan));
  return loss === undefined || !Number.isFinite(loss)
    ? []
    : [
        {
          id: 'hose',
          title: 'The hose takes',
          dimension: 'pressure',
          unit: 'psi',
          value: loss,
          step: 0.1,
          because: 'Isothermal flow of what the gun uses; couplers come on top.',
        },
      ];
}

export function check(plan: Plan, _: number, { judge: add, lacks }: Gathering): void {
  const { v, plate } = read(plan);
  for (const p of parts.plate)
    if (p.required && plan.plate[p.id] === undefined)
      lacks(
        'plate-missing',
        p.id,
        `${p.title} is not on the plate yet.`,
        'Read it from the equipment and type it.',
      );
  const { cutIn, cutOut, gunFlow, wallFlow } = v;
  if (cutIn === undefined || cutOut === undefined || gunFlow === undefined || wallFlow === undefined) return;
  if (!(cutOut > cutIn))
    add(
      'refuse',
      'cut-out-not-above-cut-in',
      'cutOut',
      `Cut-out ${said(cutOut)} is not above cut-in ${said(cutIn)}.`,
      'Raise cut-out or lower cut-in.',
    );
  if (plate.relief !== undefined && cutOut > OF_RELIEF * plate.relief)
    add(
      'refuse',
      'near-relief',
      'cutOut',
      `Cut-out ${said(cutOut)} is over nine tenths of the relief at ${said(plate.relief)}.`,
      'Lower it. The relief is never raised to make room.',
    );
  if (plate.rating !== undefined && wallFlow > plate.rating)
    add(
      'refuse',
      'over-rating',
      'wallFlow',
      `The wall at ${said(wallFlow)} is over the ${said(plate.rating)} that hose, coupler and gun bear.`,
      'Lower it.',
    );
  // With a valve at the gun the wall’s whole pressure stands there as soon as it is released.
  if (plate.rating !== undefined && !atGun(plan) && wallFlow + MOST_RISE > plate.rating)
    add(
      'warn',
      'stands-near-rating',
      'wallFlow',
      `Released, the gun has the wall’s whole pressure: up to ${said(wallFlow + MOST_RISE)}, and it bears ${said(plate.rating)}.`,
      'Lower the wall, or fit a regulator at the gun.',
    );
  const ceiling = cutIn - leastAcross(plan);
  const loss = lossTo(plan, gunFlow);
  const least = gunFlow + (loss ?? 0) + overGun(plan);
  if (wallFlow > cutIn)
    add(
      'refuse',
      'wall-over-cut-in',
      'wallFlow',
      `The wall at ${said(wallFlow)} is over cut-in at ${said(cutIn)}: between the two it only follows the tank.`,
      `Lower it to ${said(ceiling)} or less.`,
    );
  else if (wallFlow > ceiling + 1)
    add(
      'refuse',
      'wall-over-window',
      'wallFlow',
      `The wall at ${said(wallFlow)} leaves ${said(cutIn - wallFlow)} across its regulator at cut-in; it needs ${said(leastAcross(plan))}.`,
      `Lower it to ${said(ceiling)} or less.`,
    );
  if (loss === Infinity)
    add(
      'warn',
      'hose-cannot-pass',
      'wallFlow',
      'The hose of the plate cannot pass what the gun uses.',
      'Take a wider or a shorter hose, or a gun that uses less.',
    );
  else if (least > ceiling)
    add(
      'warn',
      'window-empty',
      'wallFlow',
      `Nothing fits: the gun needs ${said(least)} at the wall, the tank holds ${said(ceiling)} there.`,
      loss !== undefined && loss > psi(8)
        ? 'A wider hose opens it.'
        : 'A higher cut-in opens it, or a gun that needs less.',
    );
  else if (wallFlow < least - 1)
    add(
      'refuse',
      'wall-under-window',
      'wallFlow',
      `The wall at ${said(wallFlow)} is less than the gun’s ${said(gunFlow)} and its hose need: ${said(least)}.`,
      'Raise it.',
    );
}

/** One ladder: tank, wall and gun are pressures of the same air. */
export function ladder(plan: Plan): readonly LadderPart[] {
  const { v, plate } = read(plan);
  const out: LadderPart[] = [];
  const round = (pa: number): string => said(pa).replace(/\.0(?=\s)/, '');
  if (plate.relief !== undefined)
    out.push({ part: 'zone', lower: plate.relief, upper: Infinity, title: `Relief ${round(plate.relief)}` });
  const set = plan.choices?.['switch'] === 'set';
  for (const [id, title, movable] of [
    ['cutOut', 'Cut-out', true],
    ['cutIn', 'Cut-in', true],
    ['wallFlow', 'Wall', true],
    ['gunFlow', 'Gun', true],
  ] as const) {
    const value = v[id];
    if (value === undefined) continue;
    const { lower, upper } = plan.limits[id] ?? {};
    const window = id === 'wallFlow';
    if (window && lower !== undefined && upper !== undefined)
      out.push({ part: 'window', lower, upper, title: 'window' });
    else if (lower !== undefined && upper !== undefined && (set || id === 'gunFlow'))
      out.push({ part: 'band', setting: id, lower, upper });
    out.push({ part: 'mark', setting: id, value, title, movable });
  }
  return out;
}

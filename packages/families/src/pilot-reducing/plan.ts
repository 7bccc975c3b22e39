import { gathering } from '../shared/gather.js';
import type { LadderPart, PlanFigure } from '@firm-needle/core/family';
import type { Finding, Plan } from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';
import { cavitationIndex, criticalTime, speedIn, surgePressure } from '@firm-needle/core/reckon';
import type { Limits } from '@firm-needle/core/verdict';
import { HALF_BAND, LEAST_DROP, MOST_RISE, psi, USUAL_RISE, WAVE } from './settings.js';

const say = (p: number): string => showWithUnit(p, { unit: 'psi', step: 1 });
/** Below this many times what it takes away, water boils in the seat [from memory; the data sheet has the valve's own]. */
const CAVITATES = 0.5;
const MAY_CAVITATE = 0.8;

export const limits = (
  values: Readonly<Record<string, number>>,
  plate: Plan['plate'],
): Readonly<Record<string, Limits>> => {
  const flowing = values['flowing'];
  const most = Math.min(plate['relief']?.value ?? Infinity, plate['weakest']?.value ?? Infinity);
  return {
    ...(flowing === undefined
      ? {}
      : {
          flowing: { lower: flowing - HALF_BAND, upper: flowing + HALF_BAND },
          inlet: { lower: flowing + LEAST_DROP },
        }),
    rise: { upper: MOST_RISE },
    lockUp: Number.isFinite(most) ? { upper: most } : {},
  };
};

export function never(plan: Plan, setting: string): number {
  const most = Math.min(plan.plate['relief']?.value ?? Infinity, plan.plate['weakest']?.value ?? Infinity);
  return setting === 'lockUp' ? most : most - (plan.values['rise'] ?? USUAL_RISE);
}

export const worst = (plan: Plan, slot: string): number =>
  slot === 'inlet' ? (plan.plate['supply']?.value ?? 0) * 1.1 : (plan.values['lockUp'] ?? 0) + psi(5);

export function check(plan: Plan, ambient: number): readonly Finding[] {
  const { out, judge: add } = gathering();
  const { values, plate } = plan;
  const [flowing, lockUp] = [values['flowing'], values['lockUp']];
  const supply = plate['supply']?.value;
  if (flowing === undefined) return out;
  if (supply !== undefined && flowing >= supply)
    add(
      'refuse',
      'outlet-above-inlet',
      'flowing',
      `The outlet cannot be ${say(flowing)}: the inlet has ${say(supply)}.`,
      'A reducing valve only takes away.',
    );
  else if (supply !== undefined && supply - flowing < LEAST_DROP)
    add(
      'refuse',
      'drop-small',
      'flowing',
      `Only ${say(supply - flowing)} would be taken away.`,
      `It needs about ${say(LEAST_DROP)} to govern.`,
    );
  const relief = plate['relief']?.value;
  const weakest = plate['weakest']?.value;
  if (lockUp !== undefined && relief !== undefined && lockUp >= relief)
    add(
      'refuse',
      'lock-up-relief',
      'flowing',
      `Lock-up ${say(lockUp)} would lift the relief at ${say(relief)}.`,
      'Lower the outlet; never fit a higher relief to make room.',
    );
  if (lockUp !== undefined && weakest !== undefined && lockUp > weakest)
    add(
      'refuse',
      'lock-up-weakest',
      'flowing',
      `Lock-up ${say(lockUp)} stands on a part rated ${say(weakest)}.`,
      'Lower the outlet, or fit a stronger part.',
    );
  const [least, draw] = [plate['leastFlow']?.value, plate['draw']?.value];
  if (least !== undefined && draw !== undefined && draw < least)
    add(
      'refuse',
      'flow-below-least',
      'draw',
      `The draw at hand, ${showWithUnit(draw, { unit: 'gpm', step: 1 })}, is below the least flow ${showWithUnit(least, { unit: 'gpm', step: 1 })}.`,
      'Find a larger draw: without flow it never settles and cannot be set.',
    );
  const index = supply === undefined ? undefined : cavitationIndex(supply, flowing, ambient);
  if (index?.ok && index.value < MAY_CAVITATE)
    add(
      'warn',
      'cavitation',
      'flowing',
      `Cavitation index ${index.value.toFixed(2)}: water ${index.value < CAVITATES ? 'boils' : 'may boil'} in the seat.`,
      'Look it up in the data sheet; two valves in series share the drop.',
    );
  return out;
}

export function figures(plan: Plan, ambient: number): readonly PlanFigure[] {
  const out: PlanFigure[] = [];
  const { values, plate, variant } = plan;
  const wave = WAVE[variant] ?? 1200;
  const [length, bore, flow] = [
    plate['upstream']?.value,
    plate['bore']?.value,
    (plate['draw'] ?? plate['leastFlow'])?.value,
  ];
  if (length !== undefined)
    out.push({
      id: 'critical',
      title: 'Close slower than',
      dimension: 'time',
      unit: 's',
      value: criticalTime(length, wave),
      step: 0.1,
      because: '2L/a: faster is as bad as at once, and slower by a few times is better',
    });
  if (bore !== undefined && flow !== undefined)
    out.push({
      id: 'surge',
      title: 'Surge if it slams',
      dimension: 'pressure',
      unit: 'psi',
      value: surgePressure(wave, speedIn(flow, bore)),
      step: 1,
      because: 'ρ·a·Δv [Joukowsky], upstream, over the inlet pressure',
    });
  const index =
    values['flowing'] !== undefined && plate['supply']
      ? cavitationIndex(plate['supply'].value, values['flowing'], ambient)
      : undefined;
  if (index?.ok)
    out.push({
      id: 'cavitation',
      title: 'Cavitation index',
      dimension: 'ratio',
      unit: '%',
      value: index.value,
      step: 1,
      because: '(P2 − Pv) / (P1 − P2): below 80 % look it up',
    });
  return out;
}

/** Lock-up stands a little above flowing; both far below the inlet. */
export function ladder(plan: Plan): readonly LadderPart[] {
  const out: LadderPart[] = [];
  const { values, plate } = plan;
  for (const [id, title] of [
    ['relief', 'Relief'],
    ['weakest', 'Weakest part'],
  ] as const) {
    const at = plate[id]?.value;
    if (at !== undefined)
      out.push({ part: 'zone', lower: at, upper: Infinity, title: `${title} ${Math.round(at / psi(1))}` });
  }
  const [flowing, lockUp] = [values['flowing'], values['lockUp']];
  if (flowing !== undefined) {
    out.push({ part: 'band', setting: 'flowing', lower: flowing - HALF_BAND, upper: flowing + HALF_BAND });
    out.push({ part: 'mark', setting: 'flowing', value: flowing, title: 'Flowing', movable: true });
  }
  if (lockUp !== undefined && flowing !== undefined) {
    out.push({
      part: 'mark',
      setting: 'lockUp',
      value: lockUp,
      title: 'Lock-up',
      movable: false,
      hung: true,
    });
    out.push({ part: 'bracket', setting: 'rise', from: flowing, to: lockUp, title: 'Rise' });
  }
  return out;
}

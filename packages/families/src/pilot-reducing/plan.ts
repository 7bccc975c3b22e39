import type { Gathering } from '../define/index.js';
import type { LadderPart, PlanFigure, Variant } from '@firm-needle/core/family';
import type { Plan } from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';
import { cavitationIndex, criticalTime, speedIn, surgePressure } from '@firm-needle/core/reckon';
import type { Limits } from '@firm-needle/core/verdict';
import { reliefAtLeast } from '../shared/relief.js';
import { HALF_BAND, LEAST_DROP, MOST_RISE, psi, read, USUAL_RISE } from './parts.js';

/** Pipe upstream: by it the wave speed of a surge. m/s, from memory: rounded handbook figures for full pipes of usual wall. */
const WAVE = new Map([
  ['steel', 1200],
  ['iron', 1100],
  ['plastic', 400],
]);
export const variants: readonly Variant[] = [
  { id: 'steel', title: 'Steel', values: {} },
  { id: 'iron', title: 'Ductile iron', values: {} },
  { id: 'plastic', title: 'Plastic', values: {} },
];

const say = (p: number): string => showWithUnit(p, { unit: 'psi', step: 1 });
/** Below this many times what it takes away, water boils in the seat [from memory; the data sheet has the valve's own]. */
const CAVITATES = 0.5;
const MAY_CAVITATE = 0.8;

/** What lock-up must stay under: the lowest at which the relief downstream may open, or the weakest part there. */
const most = (plan: Pick<Plan, 'values' | 'plate'>): number => {
  const { relief = Infinity, weakest = Infinity } = read(plan).plate;
  return Math.min(reliefAtLeast(relief), weakest);
};

export const limits = (values: Plan['values'], plate: Plan['plate']): Readonly<Record<string, Limits>> => {
  const { flowing } = read({ values, plate }).v;
  const upper = most({ values, plate });
  return {
    ...(flowing === undefined
      ? {}
      : {
          flowing: { lower: flowing - HALF_BAND, upper: flowing + HALF_BAND },
          inlet: { lower: flowing + LEAST_DROP },
        }),
    rise: { upper: MOST_RISE },
    lockUp: Number.isFinite(upper) ? { upper } : {},
  };
};

export const never = (plan: Plan, setting: string): number =>
  setting === 'lockUp' ? most(plan) : most(plan) - (read(plan).v.rise ?? USUAL_RISE);

export function worst(plan: Plan, slot: string): number {
  const { v, plate } = read(plan);
  return slot === 'inlet' ? (plate.supply ?? 0) * 1.1 : (v.lockUp ?? 0) + psi(5);
}

export function check(plan: Plan, ambient: number, { judge: add }: Gathering): void {
  const { v, plate } = read(plan);
  const { flowing, lockUp } = v;
  const { supply, relief, weakest, leastFlow: least, draw } = plate;
  if (flowing === undefined) return;
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
  if (lockUp !== undefined && relief !== undefined && lockUp >= reliefAtLeast(relief))
    add(
      'refuse',
      'lock-up-relief',
      'flowing',
      `Lock-up ${say(lockUp)} may lift the relief at ${say(relief)}.`,
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
}

export function figures(plan: Plan, ambient: number): readonly PlanFigure[] {
  const out: PlanFigure[] = [];
  const { v, plate } = read(plan);
  const wave = WAVE.get(plan.variant) ?? 1200;
  const { upstream: length, bore, supply, draw, leastFlow } = plate;
  const flow = draw ?? leastFlow;
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
    v.flowing !== undefined && supply !== undefined ? cavitationIndex(supply, v.flowing, ambient) : undefined;
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
  const { v, plate } = read(plan);
  for (const [id, title] of [
    ['relief', 'Relief'],
    ['weakest', 'Weakest part'],
  ] as const) {
    const at = plate[id];
    if (at !== undefined)
      out.push({ part: 'zone', lower: at, upper: Infinity, title: `${title} ${Math.round(at / psi(1))}` });
  }
  const { flowing, lockUp } = v;
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

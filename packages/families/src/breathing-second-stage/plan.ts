import type { LadderPart, PlanFigure, Variant } from '@firm-needle/core/family';
import type { Plan } from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';
import type { Limits } from '@firm-needle/core/verdict';
import type { Gathering } from '../define/index.js';
import { EFFORT_MOST, isFixed, OFF, psi, read } from './parts.js';

export const variants: readonly Variant[] = [
  { id: 'adjustable', title: 'Orifice turns', values: {} },
  { id: 'adjustable-balanced', title: 'Orifice turns, balanced', values: {} },
  { id: 'fixed', title: 'Only the lever nut moves', values: {} },
];

type Plate = Plan['plate'];
const plateOf = (plate: Plate) => read({ values: {}, plate }).plate;
const say = (p: number): string => showWithUnit(p, { unit: 'psi', step: 1 });

/** The middle of the maker's range. */
export function follows(_: string, plate: Plate): Readonly<Record<string, number>> {
  const { effortLeast, effortMost } = plateOf(plate);
  return effortLeast === undefined || effortMost === undefined
    ? {}
    : { effort: (effortLeast + effortMost) / 2 };
}

/** What the line may not come to: the lowest at which its relief may open [a tenth under its figure, assumed]. */
export const stopOf = (plan: Pick<Plan, 'plate'>): number => {
  const { relief = Infinity, ipMost = 0 } = plateOf(plan.plate);
  return Math.max(0.9 * relief, Math.min(relief - OFF, ipMost + 2 * OFF)) - OFF;
};
export const never = (plan: Plan, setting: string): number => (setting === 'ip' ? stopOf(plan) : EFFORT_MOST);
export const worst = (plan: Plan, slot: string): number => {
  const { relief = psi(200), effortMost = EFFORT_MOST } = plateOf(plan.plate);
  return slot === 'ip' ? relief * 1.15 : 1.3 * effortMost;
};

export function limits(_: Plan['values'], plate: Plate): Readonly<Record<string, Limits>> {
  const { effortLeast = 0, effortMost = Infinity, ipLeast = 0, ipMost = Infinity } = plateOf(plate);
  return { effort: { lower: effortLeast, upper: effortMost }, ip: { lower: ipLeast, upper: ipMost } };
}

export function check(plan: Plan, _: number, { judge: add }: Gathering): void {
  const { v, plate } = read(plan);
  const { effortLeast, effortMost, ipLeast, ipMost, relief, first } = plate;
  if (effortLeast !== undefined && effortMost !== undefined && effortLeast >= effortMost)
    return add(
      'refuse',
      'range',
      'effortMost',
      'The range’s most is not over its least.',
      'Type both anew from the manual.',
    );
  if (ipLeast !== undefined && ipMost !== undefined && ipLeast >= ipMost)
    return add('refuse', 'window', 'ipMost', 'The window’s most is not over its least.', 'Type both anew.');
  if (relief !== undefined && ipMost !== undefined && ipMost >= stopOf(plan))
    add(
      'refuse',
      'relief-near',
      'relief',
      `The relief may open at ${say(stopOf(plan))}: its window goes to ${say(ipMost)}.`,
      'A relief that opens higher.',
    );
  if (
    v.effort !== undefined &&
    effortLeast !== undefined &&
    effortMost !== undefined &&
    (v.effort < effortLeast || v.effort > effortMost)
  )
    add(
      'refuse',
      'outside-range',
      'effort',
      'It is outside the maker’s range.',
      'The range stands over any habit: lighter frees flow, stiffer tires who breathes.',
    );
  if (
    first !== undefined &&
    ipLeast !== undefined &&
    ipMost !== undefined &&
    (first < ipLeast || first > ipMost)
  )
    add(
      'refuse',
      'first-outside',
      'first',
      `Its first stage is planned at ${say(first)}: outside what this one wants, ${say(ipLeast)} to ${say(ipMost)}.`,
      'Plan the first stage inside it.',
    );
  if (isFixed(plan))
    add(
      'say',
      'fixed',
      'effort',
      'Only its lever nut moves: its effort comes from spring and parts.',
      'Out of range it is rebuilt.',
    );
}

export function figures(plan: Plan): readonly PlanFigure[] {
  const stop = stopOf(plan);
  return Number.isFinite(stop)
    ? [
        {
          id: 'stop',
          title: 'Shut and bleed at',
          dimension: 'pressure',
          unit: 'psi',
          value: stop,
          step: 1,
          because: 'under the lowest at which the relief may open',
        },
      ]
    : [];
}

/** The suction at which it opens, in the maker's range; its line is another axis, and is not set here. */
export function ladder(plan: Plan): readonly LadderPart[] {
  const { v, plate } = read(plan);
  const { effortLeast, effortMost } = plate;
  const out: LadderPart[] = [];
  if (effortLeast !== undefined && effortMost !== undefined)
    out.push({ part: 'band', setting: 'effort', lower: effortLeast, upper: effortMost });
  if (v.effort !== undefined)
    out.push({ part: 'mark', setting: 'effort', value: v.effort, title: 'Opens', movable: true });
  return out;
}

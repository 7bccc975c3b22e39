import type { PlateParameter, School, Variant } from '@firm-needle/core/family';
import type { AdjusterDef, Plan, SettingDef } from '@firm-needle/core/procedure';
import type { Limits } from '@firm-needle/core/verdict';
import { derivedDelay, derivedEdge, derivedMargin, derivedWheel, derivedWindow } from './state.js';

export const variants: readonly Variant[] = [
  { id: 'two-speed', title: 'Low and high speed', values: {} },
  { id: 'one-speed', title: 'One speed', values: {} },
];

export const schools: readonly School[] = [
  {
    id: 'middle',
    title: 'Measure both edges, set the middle',
    because: 'The middle keeps the most clicks to either side as the filter clogs and the spring ages.',
    pins: [],
  },
  {
    id: 'first',
    title: 'First place that works',
    because: 'Quicker; how much is left to either side is not known afterwards.',
    pins: [],
  },
];

export const plate: readonly PlateParameter[] = [
  {
    id: 'opensWithin',
    title: 'Must open within',
    dimension: 'time',
    unit: 's',
    lower: 1,
    upper: 30,
    required: false,
    hint: '4 s unless the manual says otherwise',
  },
  {
    id: 'voltage',
    title: 'Supply voltage',
    dimension: 'voltage',
    unit: 'V',
    lower: 90,
    upper: 480,
    required: false,
  },
];

/** Opening within this long of all pumps stopping, s [common practice, no source]. */
export const OPENS_WITHIN_S = 4;
/** High speed held this long before the switch must still be closed, s [common practice, no source]. */
export const HIGH_FOR_S = 10;
/** A window of fewer clicks is low flow, not the switch [common practice, no source]. */
export const LEAST_WINDOW = 6;
/** Clicks that should be left to either side. */
export const LEAST_MARGIN = 3;
/** Clicks after which the end of travel is assumed. */
export const MOST_CLICKS = 60;

const clicks = {
  catch: 'firm',
  dimension: 'count',
  unit: 'click',
  slot: '',
  had: 'derived',
  cycles: 1,
  repeatability: { sd: 0, dof: 4 },
  caught: 0,
  givable: false,
  lower: -200,
  upper: 200,
} as const;

export const settings: readonly SettingDef[] = [
  {
    ...clicks,
    id: 'closes',
    title: 'Just closes at low speed',
    short: 'closes',
    derive: derivedEdge('closes'),
  },
  {
    ...clicks,
    id: 'opens',
    title: 'Just opens with pumps off',
    short: 'opens',
    derive: derivedEdge('opens'),
  },
  { ...clicks, id: 'wheel', title: 'Wheel, from where it was found', short: 'wheel', derive: derivedWheel },
  { ...clicks, id: 'window', title: 'Window', short: 'window', derive: derivedWindow },
  { ...clicks, id: 'margin', title: 'Left to the nearer edge', short: 'margin', derive: derivedMargin },
  {
    ...clicks,
    id: 'delay',
    title: 'Opens after the pumps stop',
    short: 'delay',
    dimension: 'time',
    unit: 's',
    step: 0.1,
    derive: derivedDelay,
    lower: 0,
    upper: 60,
  },
];

export const adjusters: readonly AdjusterDef[] = [
  {
    id: 'wheel',
    title: 'Wheel',
    kind: 'click',
    unit: 'click',
    ways: ['clockwise', 'counter-clockwise'],
    seenFrom: 'seen from the wheel’s own side',
    tool: 'small screwdriver',
    // Moves no pressure that anybody reads: there is nothing to learn of it in pascals.
    prior: { perTurn: 1, spread: 0.5, backlash: 0, moves: [] },
    quantum: 1,
    largest: MOST_CLICKS,
    underPressure: true,
    aims: () => [],
  },
];

export const isTwoSpeed = (plan: Pick<Plan, 'variant'>): boolean => plan.variant === 'two-speed';

export const opensWithin = (plate: Plan['plate']): number => plate['opensWithin']?.value ?? OPENS_WITHIN_S;

export const limits = (
  _: Readonly<Record<string, number>>,
  plate: Plan['plate'],
): Readonly<Record<string, Limits>> => ({
  window: { lower: LEAST_WINDOW },
  margin: { lower: LEAST_MARGIN },
  delay: { upper: opensWithin(plate) },
});

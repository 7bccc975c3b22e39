import { airAdjuster, prechargeSetting, TANK_SLOTS } from '../shared/tank.js';
import type { PlateParameter, School, Variant } from '@firm-needle/core/family';
import type { AdjusterDef, GaugeSlot, Plan, Relation, SettingDef } from '@firm-needle/core/procedure';
import { toCanonical } from '@firm-needle/core/quantity';

export const psi = (n: number): number => toCanonical(n, 'psi');

/** Air charge over set point on a drive, both gauge pressures [common practice, no source: 68 → 47.6 psi]. */
export const CHARGE_PART = 0.7;
/** How far under cut-in the charge stands on a pressure switch; on a drive it is the wrong rule [common practice]. */
export const SWITCH_RULE_UNDER = psi(2);
/** The set point stays this far under the relief [common practice, no source]. */
export const RELIEF_MARGIN = psi(10);
/** Held from trickle to full draw within this [common practice, no source]. */
export const HALF_BAND = psi(2);
/** Fall that wakes a sleeping drive where its plate does not say [common practice, no source]. */
export const USUAL_DROP = psi(5);
/** A display this far from the gauge is not the gauge's doubt any more. */
export const DISPLAY_OFF = psi(2.5);

export const variants: readonly Variant[] = [
  { id: 'first', title: 'First set point in use', values: { setPoint: psi(60) } },
  { id: 'second', title: 'Second set point in use', values: { setPoint: psi(50) } },
];

export const schools: readonly School[] = [
  {
    id: 'part-of-set-point',
    title: 'Charge at 70 % of the set point',
    because:
      'The drive answers a small fall at once: the tank only bridges it. Two under cut-in is for a switch.',
    pins: [],
  },
];

const pressure = { dimension: 'pressure', unit: 'psi' } as const;
export const plate: readonly PlateParameter[] = [
  {
    id: 'tankVolume',
    title: 'Tank volume',
    dimension: 'volume',
    unit: 'L',
    lower: toCanonical(1, 'L'),
    upper: toCanonical(500, 'L'),
    required: true,
    hint: 'small is enough',
  },
  {
    ...pressure,
    id: 'relief',
    title: 'Relief opens',
    lower: psi(30),
    upper: psi(300),
    required: true,
  },
  {
    ...pressure,
    id: 'least',
    title: 'Drive’s least set point',
    lower: psi(5),
    upper: psi(150),
    required: false,
  },
  {
    ...pressure,
    id: 'most',
    title: 'Drive’s highest set point',
    lower: psi(20),
    upper: psi(200),
    required: false,
  },
  {
    ...pressure,
    id: 'drop',
    title: 'Wakes after a fall of',
    lower: psi(1),
    upper: psi(30),
    required: false,
    hint: 'commonly 5 psi',
  },
  { ...pressure, id: 'airMax', title: 'Tank air limit', lower: psi(20), upper: psi(200), required: false },
  {
    ...pressure,
    id: 'weakest',
    title: 'Weakest part rated',
    lower: psi(30),
    upper: psi(400),
    required: false,
  },
];

export const slots: readonly GaugeSlot[] = TANK_SLOTS;

const held = {
  ...pressure,
  slot: 'system',
  catch: 'firm',
  had: 'reading',
  cycles: 2,
  caught: 0,
  givable: false,
  lower: psi(5),
  upper: psi(200),
  repeatability: { sd: psi(0.3), dof: 10 },
} as const;

export const settings: readonly SettingDef[] = [
  { ...held, id: 'setPoint', title: 'Set point, at a trickle', short: 'set', givable: true },
  { ...held, id: 'fullDraw', title: 'At full draw', short: 'full' },
  {
    ...held,
    id: 'wake',
    title: 'Wakes at',
    short: 'wake',
    traced: 'cutIn',
    catch: 'low',
    caught: psi(0.2),
    cycles: 1,
  },
  prechargeSetting,
];

const dropOf = ({ plate: p }: Pick<Plan, 'plate'>): number => p['drop']?.value ?? USUAL_DROP;

export const relations: readonly Relation[] = [
  { terms: { precharge: 1, setPoint: -CHARGE_PART }, equals: 0, hard: false },
  { terms: { setPoint: 1, wake: -1 }, equals: 0, plus: dropOf, hard: false },
  { terms: { fullDraw: 1, setPoint: -1 }, equals: 0, hard: false },
];

export const adjusters: readonly AdjusterDef[] = [
  {
    id: 'keys',
    title: 'Set point on the drive’s keys',
    kind: 'scale',
    unit: 'psi',
    ways: ['up', 'down'],
    tool: 'the drive’s own keys',
    prior: {
      perTurn: 1,
      spread: 0.03,
      backlash: 0,
      moves: [
        { setting: 'setPoint', ratio: 1, ratioSpread: 0.02 },
        { setting: 'fullDraw', ratio: 1, ratioSpread: 0.02 },
        { setting: 'wake', ratio: 1, ratioSpread: 0.05 },
      ],
    },
    quantum: psi(0.5),
    largest: psi(15),
    underPressure: true,
    aims: () => ['setPoint'],
  },
  airAdjuster,
];

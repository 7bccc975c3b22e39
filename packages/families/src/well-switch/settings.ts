import { airAdjuster, PRECHARGE_HALF_BAND, prechargeSetting, TANK_SLOTS } from '../shared/tank.js';
import type { PlateParameter, School, Variant } from '@firm-needle/core/family';
import type { AdjusterDef, GaugeSlot, Relation, SettingDef } from '@firm-needle/core/procedure';
import { toCanonical } from '@firm-needle/core/quantity';

export const psi = (n: number): number => toCanonical(n, 'psi');
const litres = (n: number): number => toCanonical(n, 'L');
const perMinute = (n: number): number => toCanonical(n, 'L/min');

/** Precharge stands this far under cut-in [common practice, no source]. */
export const PRECHARGE_UNDER = psi(2);
/** Cut-out stays this far under the relief [common practice, no source]. */
export const RELIEF_MARGIN = psi(10);
/** Shortest run that still cools a small motor, s [common practice; motor makers, from memory]. */
export const SHORTEST_RUN_S = 60;
/** Half-widths of the bands, Pa. */
export const HALF_BAND = {
  cutIn: psi(1.5),
  cutOut: psi(1.5),
  differential: psi(2.5),
  precharge: PRECHARGE_HALF_BAND,
} as const;

const pair = (low: number, high: number, title: string): Variant => ({
  id: `${low}-${high}`,
  title,
  values: { cutIn: psi(low), cutOut: psi(high), differential: psi(high - low) },
});

export const variants: readonly Variant[] = [
  pair(40, 60, '40/60, the usual pair'),
  pair(30, 50, '30/50'),
  pair(20, 40, '20/40, older jet pumps'),
  pair(50, 70, '50/70, on request'),
];

export const schools: readonly School[] = [
  {
    id: 'leave-differential',
    title: 'Leave the differential',
    because: 'The factory differential keeps the run time and the maker’s cover.',
    pins: ['differential'],
  },
  {
    id: 'set-both',
    title: 'Set both points',
    because: 'Each point is set on its own nut; the run time must still pass.',
    pins: [],
  },
];

export const plate: readonly PlateParameter[] = [
  {
    id: 'tankVolume',
    title: 'Tank volume',
    dimension: 'volume',
    unit: 'L',
    lower: litres(8),
    upper: litres(2000),
    required: true,
  },
  {
    id: 'pumpFlow',
    title: 'Pump flow',
    dimension: 'flow',
    unit: 'L/min',
    lower: perMinute(5),
    upper: perMinute(500),
    required: true,
    hint: 'at the middle of the pair',
  },
  {
    id: 'relief',
    title: 'Relief opens',
    dimension: 'pressure',
    unit: 'psi',
    lower: psi(30),
    upper: psi(200),
    required: true,
    hint: 'commonly 75 psi',
  },
  {
    id: 'weakest',
    title: 'Weakest part rated',
    dimension: 'pressure',
    unit: 'psi',
    lower: psi(30),
    upper: psi(400),
    required: false,
    hint: 'cartridge, glued joint, laundry valve',
  },
  {
    id: 'airMax',
    title: 'Tank air limit',
    dimension: 'pressure',
    unit: 'psi',
    lower: psi(20),
    upper: psi(200),
    required: false,
  },
  {
    id: 'supply',
    title: 'Supply voltage',
    dimension: 'voltage',
    unit: 'V',
    lower: 12,
    upper: 480,
    required: false,
  },
];

export const slots: readonly GaugeSlot[] = TANK_SLOTS;

const cycle = {
  unit: 'psi',
  dimension: 'pressure',
  slot: 'system',
  had: 'reading',
  cycles: 2,
  caught: psi(0.15),
  givable: true,
  lower: psi(5),
  upper: psi(150),
} as const;

export const settings: readonly SettingDef[] = [
  {
    ...cycle,
    id: 'cutIn',
    short: 'in',
    catch: 'low',
    title: 'Cut-in',
    repeatability: { sd: psi(0.35), dof: 20 },
  },
  {
    ...cycle,
    id: 'cutOut',
    short: 'out',
    catch: 'high',
    title: 'Cut-out',
    repeatability: { sd: psi(0.35), dof: 20 },
  },
  {
    ...cycle,
    id: 'differential',
    short: 'diff',
    catch: 'firm',
    title: 'Differential',
    had: 'relation',
    cycles: 1,
    caught: 0,
    lower: psi(3),
    upper: psi(80),
    repeatability: { sd: psi(0.4), dof: 20 },
  },
  prechargeSetting,
  {
    ...cycle,
    id: 'runTime',
    short: 'run',
    catch: 'firm',
    title: 'Run time',
    dimension: 'time',
    unit: 's',
    had: 'timing',
    from: 'cutOut',
    cycles: 1,
    caught: 0,
    givable: false,
    lower: 0,
    upper: 3600,
    repeatability: { sd: 2, dof: 10 },
  },
];

export const relations: readonly Relation[] = [
  { terms: { cutOut: 1, cutIn: -1, differential: -1 }, equals: 0, hard: true },
  { terms: { cutIn: 1, precharge: -1 }, equals: PRECHARGE_UNDER, hard: false },
];

export const adjusters: readonly AdjusterDef[] = [
  {
    id: 'range',
    title: 'Range nut',
    kind: 'turn',
    unit: 'turn',
    ways: ['clockwise', 'counter-clockwise'],
    seenFrom: 'seen from the top of the nut',
    tool: 'nut driver',
    // Roughly 1 psi a turn in one school, 2–3 on other switches [common practice]: wide, learned on site.
    prior: {
      perTurn: psi(1.8),
      spread: 0.45,
      backlash: 0.12,
      moves: [
        { setting: 'cutOut', ratio: 1, ratioSpread: 0.05 },
        { setting: 'cutIn', ratio: 1, ratioSpread: 0.05 },
      ],
    },
    quantum: 1 / 8,
    largest: 3,
    underPressure: false,
    aims: (plan) => (plan.school === 'set-both' ? ['cutIn'] : ['cutOut', 'cutIn']),
  },
  {
    id: 'differential',
    title: 'Differential nut',
    kind: 'turn',
    unit: 'turn',
    ways: ['clockwise', 'counter-clockwise'],
    seenFrom: 'seen from the top of the nut',
    tool: 'nut driver',
    prior: {
      perTurn: psi(2),
      spread: 0.5,
      backlash: 0.12,
      moves: [{ setting: 'cutOut', ratio: 1, ratioSpread: 0.05 }],
    },
    quantum: 1 / 8,
    largest: 2,
    underPressure: false,
    aims: () => ['cutOut'],
  },
  airAdjuster,
];

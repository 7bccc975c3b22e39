import type { PlateParameter, School, Variant } from '@firm-needle/core/family';
import type { AdjusterDef, GaugeSlot, Plan, Relation, SettingDef } from '@firm-needle/core/procedure';
import { toCanonical } from '@firm-needle/core/quantity';
import * as reckoned from './reckoned.js';

export const psi = (n: number): number => toCanonical(n, 'psi');

/** Opening over the highest normal pressure: least, aimed at, most [common practice, no source: 10 to 15 psi]. */
export const LEAST_MARGIN = psi(10);
export const MARGIN = psi(12.5);
export const MOST_MARGIN = psi(15);
/** One turn of the usual spring of 20 to 200 psi [common practice, no source: half a turn is about 14 psi]. */
export const USUAL_PER_TURN = psi(28);
/** A spring that gives this much more or less a turn than its table is another spring. */
export const RATE_BAND = 0.25;
/** Speed that the relief is there for: 110 %, pressure with its square [NFPA 20, from memory]. */
export const OVERSPEED = 1.1;

export const isElectric = ({ variant }: Pick<Plan, 'variant'>): boolean => variant === 'electric';
export const isVariable = ({ variant }: Pick<Plan, 'variant'>): boolean => variant === 'variable';

export const variants: readonly Variant[] = [
  { id: 'electric', title: 'Electric motor, one speed', values: {} },
  { id: 'diesel', title: 'Diesel with a governor', values: {} },
  { id: 'variable', title: 'Variable-speed drive', values: {} },
];

export const schools: readonly School[] = [
  {
    id: 'over-normal',
    title: 'A margin over the highest normal pressure',
    because:
      'Normal is governed churn and the most suction. Overspeed is what it must relieve: no margin is added to that.',
    pins: [],
  },
];

const pressure = { dimension: 'pressure', unit: 'psi' } as const;
export const plate: readonly PlateParameter[] = [
  {
    ...pressure,
    id: 'churn',
    title: 'Net churn pressure',
    lower: psi(20),
    upper: psi(500),
    required: true,
    hint: 'of the pump alone, at its governed speed',
  },
  {
    ...pressure,
    id: 'suctionMost',
    title: 'Suction, highest',
    lower: 0,
    upper: psi(200),
    required: true,
    hint: 'static; 0 from a tank below',
  },
  {
    ...pressure,
    id: 'suctionLeast',
    title: 'Suction, lowest',
    lower: psi(-10),
    upper: psi(200),
    required: false,
  },
  {
    ...pressure,
    id: 'rating',
    title: 'Weakest component rated',
    lower: psi(100),
    upper: psi(600),
    required: true,
  },
  {
    ...pressure,
    id: 'perTurn',
    title: 'Pilot spring, one turn',
    lower: psi(2),
    upper: psi(150),
    required: true,
    hint: 'from the pilot’s spring table',
  },
  { ...pressure, id: 'springLeast', title: 'Pilot spring from', lower: 0, upper: psi(300), required: false },
  {
    ...pressure,
    id: 'springMost',
    title: 'Pilot spring up to',
    lower: psi(20),
    upper: psi(600),
    required: false,
  },
  {
    id: 'speed',
    title: 'Governed speed',
    dimension: 'frequency',
    unit: 'rpm',
    lower: 5,
    upper: 100,
    required: false,
  },
  {
    id: 'size',
    title: 'Valve size',
    dimension: 'length',
    unit: 'in',
    lower: toCanonical(0.75, 'in'),
    upper: toCanonical(12, 'in'),
    required: false,
    hint: 'as listed',
  },
];

export const slots: readonly GaugeSlot[] = [
  { id: 'system', title: 'System gauge, upstream of the relief', medium: 'water' },
  { id: 'suction', title: 'Suction gauge', medium: 'water' },
];

const reading = {
  ...pressure,
  catch: 'firm',
  slot: 'system',
  had: 'reading',
  cycles: 1,
  repeatability: { sd: psi(0.3), dof: 10 },
  caught: 0,
  givable: false,
  lower: psi(5),
  upper: psi(600),
} as const;
const derived = { ...reading, had: 'derived' } as const;

export const settings: readonly SettingDef[] = [
  { ...derived, id: 'opening', title: 'Opens at', short: 'opens', givable: true, derive: reckoned.opening },
  {
    ...derived,
    id: 'margin',
    title: 'Over the highest normal',
    short: 'margin',
    givable: true,
    lower: 0,
    upper: psi(100),
    derive: reckoned.margin,
  },
  { ...derived, id: 'reseat', title: 'Closes again at', short: 'reseat', derive: reckoned.reseat },
  {
    ...derived,
    id: 'perTurn',
    title: 'Pilot, one turn',
    short: 'a turn',
    lower: psi(1),
    upper: psi(200),
    derive: reckoned.perTurn,
  },
  { ...reading, id: 'churn', title: 'System at churn', short: 'churn' },
  { ...reading, id: 'suction', title: 'Suction', short: 'suction', slot: 'suction', lower: psi(-14) },
  { ...derived, id: 'normal', title: 'Highest normal pressure', short: 'normal', derive: reckoned.normal },
  { ...reading, id: 'closes', title: 'Just closed, at churn', short: 'closed' },
  { ...reading, id: 'closesDrawn', title: 'Just closed, header drawn', short: 'drawn' },
  { ...reading, id: 'runs', title: 'While it runs', short: 'runs' },
];

/** Governed churn of the pump alone and the most suction, by the plate. */
export const normalByPlate = ({ plate: p }: Pick<Plan, 'plate'>): number =>
  (p['churn']?.value ?? 0) + (p['suctionMost']?.value ?? 0);

export const relations: readonly Relation[] = [
  { terms: { normal: 1 }, equals: 0, plus: normalByPlate, hard: true },
  { terms: { opening: 1, normal: -1, margin: -1 }, equals: 0, hard: true },
  { terms: { margin: 1 }, equals: MARGIN, hard: false },
];

export const adjusters: readonly AdjusterDef[] = [
  {
    id: 'pilot',
    title: 'Pilot screw',
    kind: 'turn',
    unit: 'turn',
    ways: ['clockwise', 'counter-clockwise'],
    seenFrom: 'seen from the screw’s head',
    tool: 'wrench for the lock nut',
    // What a turn does is found in the job, from two pressures at which it just closed.
    prior: { perTurn: USUAL_PER_TURN, spread: 0.5, backlash: 0, moves: [] },
    quantum: 1 / 16,
    largest: 6,
    underPressure: true,
    aims: () => [],
  },
  {
    id: 'speed',
    title: 'Speed',
    kind: 'scale',
    unit: '%',
    ways: ['up', 'down'],
    tool: 'the drive’s own keys',
    prior: { perTurn: 1, spread: 0.1, backlash: 0, moves: [] },
    quantum: toCanonical(0.5, '%'),
    largest: toCanonical(12, '%'),
    underPressure: true,
    aims: () => [],
  },
];

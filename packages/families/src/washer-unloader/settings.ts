import type { PlateParameter, School, Variant } from '@firm-needle/core/family';
import type { AdjusterDef, GaugeSlot, Plan, Relation, SettingDef } from '@firm-needle/core/procedure';
import { toCanonical } from '@firm-needle/core/quantity';

export const psi = (n: number): number => toCanonical(n, 'psi');

export const variants: readonly Variant[] = [
  { id: 'at-head', title: 'Gauge at the pump head', values: {} },
  { id: 'at-gun', title: 'Gauge at the gun, hose between', values: {} },
  { id: 'at-gun-coil', title: 'Gauge at the gun, hose and coil between', values: {} },
];

export const schools: readonly School[] = [
  {
    id: 'pressure',
    title: 'To the working pressure',
    because: 'What the work needs, and not what the pump could: nozzle, hose and seals last longer.',
    pins: [],
  },
];

/** Lost in a foot of hose and in a coil with water moving [common practice, no source]. */
const HOSE_PER_M = psi(1) / 0.3048;
const COIL = psi(75);

/** Pressure lost between the pump head and the gauge with the trigger pulled; none when nothing moves. */
export function lossOf({ variant, plate }: Pick<Plan, 'variant' | 'plate'>): number {
  if (variant === 'at-head') return 0;
  const hose = (plate['hose']?.value ?? 0) * HOSE_PER_M;
  return hose + (variant === 'at-gun-coil' ? COIL : 0);
}

/** Trapped over working: usual, and the most before it is backed off; more than that much is diagnosed first [common practice]. */
export const USUAL_SPIKE = psi(350);
export const MOST_SPIKE = psi(400);
export const DIAGNOSE_SPIKE = psi(500);
export const LEAST_SPIKE = psi(100);
/** Half the band that a working pressure is set in. */
export const HALF_BAND = psi(75);
/** A gauge reaches at least this many times the pump's rating [common practice]. */
export const GAUGE_FACTOR = 1.2;

const pressure = { dimension: 'pressure', unit: 'psi' } as const;
export const plate: readonly PlateParameter[] = [
  { ...pressure, id: 'rating', title: 'Pump rated', lower: psi(200), upper: psi(10000), required: true },
  {
    id: 'flow',
    title: 'Pump flow',
    dimension: 'flow',
    unit: 'gpm',
    lower: toCanonical(0.3, 'gpm'),
    upper: toCanonical(40, 'gpm'),
    required: true,
  },
  {
    id: 'nozzle',
    title: 'Nozzle, flow at 4000 psi',
    dimension: 'flow',
    unit: 'gpm',
    lower: toCanonical(0.3, 'gpm'),
    upper: toCanonical(60, 'gpm'),
    required: true,
    hint: 'the number on it, at 4000 psi',
  },
  {
    ...pressure,
    id: 'weakest',
    title: 'Weakest part rated',
    lower: psi(200),
    upper: psi(15000),
    required: true,
  },
  {
    id: 'hose',
    title: 'Hose to the gauge',
    dimension: 'length',
    unit: 'ft',
    lower: 0,
    upper: toCanonical(600, 'ft'),
    required: false,
  },
  {
    id: 'hoseBore',
    title: 'Bore of the hose',
    dimension: 'length',
    unit: 'in',
    lower: toCanonical(0.125, 'in'),
    upper: toCanonical(2, 'in'),
    required: false,
  },
  {
    ...pressure,
    id: 'springMost',
    title: 'Unloader spring up to',
    lower: psi(200),
    upper: psi(15000),
    required: false,
  },
];

export const slots: readonly GaugeSlot[] = [{ id: 'test', title: 'Test gauge', medium: 'water' }];

const reading = {
  ...pressure,
  step: 1,
  catch: 'firm',
  slot: 'test',
  had: 'reading',
  cycles: 2,
  repeatability: { sd: psi(12), dof: 10 },
  caught: 0,
  givable: false,
  lower: psi(100),
  upper: psi(10000),
} as const;

export const settings: readonly SettingDef[] = [
  {
    ...reading,
    id: 'head',
    title: 'Working, at the pump head',
    short: 'head',
    had: 'relation',
    cycles: 1,
    givable: true,
  },
  { ...reading, id: 'working', title: 'Working, at the gauge', short: 'work' },
  { ...reading, id: 'trapped', title: 'Trapped', short: 'trap', upper: psi(15000) },
  {
    ...reading,
    id: 'spike',
    title: 'Trapped over working',
    short: 'spike',
    had: 'relation',
    cycles: 1,
    givable: true,
    lower: 0,
    upper: psi(2000),
  },
];

export const relations: readonly Relation[] = [
  { terms: { head: 1, working: -1 }, equals: 0, plus: lossOf, hard: true },
  { terms: { trapped: 1, head: -1, spike: -1 }, equals: 0, hard: true },
  { terms: { spike: 1 }, equals: USUAL_SPIKE, hard: false },
];

export const adjusters: readonly AdjusterDef[] = [
  {
    id: 'handle',
    title: 'Unloader handle',
    kind: 'turn',
    unit: 'turn',
    ways: ['clockwise', 'counter-clockwise'],
    seenFrom: 'seen from the handle’s own end',
    tool: 'wrench for the lock nut',
    // About 600 psi a turn far from the knee, 400 near it [common practice, no source]: wide, learned on site.
    prior: {
      perTurn: psi(550),
      spread: 0.35,
      backlash: 0.05,
      moves: [
        { setting: 'working', ratio: 1, ratioSpread: 0.05 },
        { setting: 'trapped', ratio: 1, ratioSpread: 0.1 },
      ],
    },
    quantum: 1 / 8,
    largest: 1,
    underPressure: true,
    aims: () => ['working'],
  },
];

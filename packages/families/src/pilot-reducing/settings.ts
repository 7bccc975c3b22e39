import type { PlateParameter, School, Variant } from '@firm-needle/core/family';
import type { AdjusterDef, GaugeSlot, Relation, SettingDef } from '@firm-needle/core/procedure';
import { toCanonical } from '@firm-needle/core/quantity';

export const psi = (n: number): number => toCanonical(n, 'psi');

/** Pipe upstream: by it the wave speed of a surge. m/s, from memory: rounded handbook figures for full pipes of usual wall. */
export const WAVE: Readonly<Record<string, number>> = { steel: 1200, iron: 1100, plastic: 400 };
export const variants: readonly Variant[] = [
  { id: 'steel', title: 'Steel', values: {} },
  { id: 'iron', title: 'Ductile iron', values: {} },
  { id: 'plastic', title: 'Plastic', values: {} },
];

export const schools: readonly School[] = [
  {
    id: 'under-flow',
    title: 'Set under flow, from below',
    because: 'Without flow the valve chatters and never settles; from below, lock-up stays on the safe side.',
    pins: [],
  },
];

/** Lock-up over flowing that the seat needs to seal, and the most that is still only that [common practice, no source]. */
export const USUAL_RISE = psi(5);
export const MOST_RISE = psi(10);
export const HALF_BAND = psi(1.5);
/** The least that must be taken away for the valve to govern [common practice, no source]. */
export const LEAST_DROP = psi(10);

const pressure = { dimension: 'pressure', unit: 'psi' } as const;
export const plate: readonly PlateParameter[] = [
  {
    id: 'size',
    title: 'Valve size',
    dimension: 'length',
    unit: 'in',
    lower: toCanonical(0.5, 'in'),
    upper: toCanonical(36, 'in'),
    required: true,
  },
  { ...pressure, id: 'supply', title: 'Inlet pressure', lower: psi(15), upper: psi(600), required: true },
  {
    id: 'leastFlow',
    title: 'Least steady flow',
    dimension: 'flow',
    unit: 'gpm',
    lower: 0,
    upper: toCanonical(5000, 'gpm'),
    required: true,
    hint: 'from the data sheet; a 4 in valve: about 50',
  },
  {
    id: 'draw',
    title: 'Draw at hand',
    dimension: 'flow',
    unit: 'gpm',
    lower: 0,
    upper: toCanonical(20000, 'gpm'),
    required: false,
  },
  { ...pressure, id: 'relief', title: 'Relief downstream', lower: psi(10), upper: psi(600), required: false },
  {
    ...pressure,
    id: 'weakest',
    title: 'Weakest part downstream',
    lower: psi(10),
    upper: psi(1500),
    required: false,
  },
  {
    id: 'upstream',
    title: 'Pipe upstream',
    dimension: 'length',
    unit: 'ft',
    lower: 0,
    upper: 50000,
    required: false,
  },
  {
    id: 'bore',
    title: 'Its bore',
    dimension: 'length',
    unit: 'in',
    lower: toCanonical(0.25, 'in'),
    upper: toCanonical(60, 'in'),
    required: false,
  },
];

export const slots: readonly GaugeSlot[] = [
  { id: 'outlet', title: 'Outlet gauge', medium: 'water' },
  { id: 'inlet', title: 'Inlet gauge', medium: 'water' },
];

const reading = {
  ...pressure,
  catch: 'firm',
  slot: 'outlet',
  had: 'reading',
  cycles: 2,
  repeatability: { sd: psi(0.3), dof: 10 },
  caught: 0,
  givable: false,
  lower: psi(2),
  upper: psi(600),
} as const;

export const settings: readonly SettingDef[] = [
  { ...reading, id: 'flowing', title: 'Flowing', short: 'flow', givable: true },
  { ...reading, id: 'lockUp', title: 'Lock-up', short: 'lock' },
  {
    ...reading,
    id: 'rise',
    title: 'Lock-up over flowing',
    short: 'rise',
    had: 'relation',
    cycles: 1,
    givable: true,
    lower: 0,
    upper: psi(100),
  },
  { ...reading, id: 'inlet', title: 'Inlet', short: 'inlet', slot: 'inlet', cycles: 1 },
];

export const relations: readonly Relation[] = [
  { terms: { lockUp: 1, flowing: -1, rise: -1 }, equals: 0, hard: true },
  { terms: { rise: 1 }, equals: USUAL_RISE, hard: false },
];

export const adjusters: readonly AdjusterDef[] = [
  {
    id: 'pilot',
    title: 'Pilot screw',
    kind: 'turn',
    unit: 'turn',
    ways: ['clockwise, inward', 'counter-clockwise, outward'],
    seenFrom: 'seen from the screw’s head',
    tool: 'wrench for the lock nut',
    // No figure holds for pilots in general [common practice]: it is probed, and learned.
    prior: {
      perTurn: psi(10),
      spread: 0.7,
      backlash: 0.1,
      moves: [
        { setting: 'flowing', ratio: 1, ratioSpread: 0.02 },
        { setting: 'lockUp', ratio: 1, ratioSpread: 0.05 },
      ],
    },
    quantum: 1 / 16,
    largest: 2,
    underPressure: true,
    aims: () => ['flowing'],
  },
  {
    id: 'opening',
    title: 'Opening speed control',
    kind: 'turn',
    unit: 'turn',
    ways: ['open, faster', 'closed, slower'],
    tool: 'small wrench',
    prior: { perTurn: 1, spread: 0.5, backlash: 0, moves: [] },
    quantum: 1 / 4,
    largest: 3,
    underPressure: true,
    aims: () => [],
  },
  {
    id: 'closing',
    title: 'Closing speed control',
    kind: 'turn',
    unit: 'turn',
    ways: ['open, faster', 'closed, slower'],
    tool: 'small wrench',
    prior: { perTurn: 1, spread: 0.5, backlash: 0, moves: [] },
    quantum: 1 / 4,
    largest: 3,
    underPressure: true,
    aims: () => [],
  },
];

import {
  branch,
  type JobView,
  type Node,
  type Phase,
  type Plan,
  type ReadStep,
  type TurnStep,
} from '@firm-needle/core/procedure';
import { two } from '@firm-needle/core/rig';
import { psi } from './units.js';
import { looked } from './soap.js';

/** Half the band that an air charge is set in. */
export const PRECHARGE_HALF_BAND = psi(1);

/**
 * Highest pressure that an air gauge on the tank's valve may meet, Pa: the water side stands at zero whenever it is put on, so only
 * an overshoot of the charge counts.
 */
export const worstAir = (plan: Pick<Plan, 'values'>): number => (plan.values['precharge'] ?? 0) * 1.25;

/** What every installation with a bladder tank has, to be spread into its parts. */
export const tank = {
  slots: {
    system: { title: 'Water gauge at the tank tee', medium: 'water' },
    air: { title: 'Air gauge at the tank valve', medium: 'air' },
  },
  /** The air charge of a bladder tank, read at its valve with the water side at zero. */
  precharge: { title: 'Precharge', short: 'air', slot: 'air', givable: true, from: 2, to: 150, sd: 0.2 },
  air: {
    title: 'Air valve',
    kind: 'air',
    unit: 'psi',
    ways: ['add', 'bleed'],
    tool: 'pump and tyre gauge',
    // One pascal of air is one pascal of charge.
    perTurn: 1 / psi(1),
    spread: 0.04,
    moves: { precharge: [1, 0.01] },
    step: psi(0.5),
    largest: psi(15),
    // No more at once than is then read again.
    strict: true,
  },
  stored: {
    title: 'Stored air and water',
    text: 'Never open a fitting under pressure. Keep below the tank’s air limit, face away from the air valve, drain to a safe place.',
  },
  manual: {
    title: 'Manual and code come first',
    text: 'The maker’s manual, local codes and licensed practice stand above this app. It is an aid to a competent person.',
  },
  handles: {
    house: { title: 'House valve', positions: two('Closed', 'Open') },
    drain: { title: 'Drain', positions: two('Closed', 'Open') },
    gauge: { title: 'Water gauge', positions: two('Vented', 'Connected') },
    airGauge: { title: 'Air gauge', positions: two('Off', 'On valve') },
  },
} as const;

export const MAINS = [{ id: 'mains', title: 'May open mains-voltage controls' }] as const;

/** What is said where the pump is locked off: for the air of a tank no cover is opened, and none needs to be. */
export const LOCK_AND_TRY = 'Lock off, then draw water: the pump must not start.';

/** What a job at a tank may need to be true. */
export const tankFacts = {
  power: {
    off: {
      title: 'Locked off, tried',
      say: LOCK_AND_TRY,
      cautions: ['live'],
      hands: { power: 0 },
    },
    on: { title: 'Power on', say: 'Cover on, then put the power back.', hands: { power: 1 } },
  },
  house: {
    closed: { title: 'House valve closed', say: 'Close the house valve.', hands: { house: 0 } },
    open: { title: 'House valve open', say: 'Open the house valve slowly.', hands: { house: 1 } },
  },
  drain: {
    open: {
      title: 'Tank drained to zero',
      say: 'Open the drain and wait until the water gauge reads zero.',
      cautions: ['stored'],
      hands: { drain: 1 },
    },
    closed: { title: 'Drain closed', say: 'Close the drain valve.', hands: { drain: 0 } },
  },
  gauge: {
    fitted: {
      title: 'Gauge fitted',
      say: 'Fit the water gauge at the tank tee and open its cock slowly.',
      hands: { gauge: 1 },
    },
    off: {
      title: 'Gauge off',
      say: 'Close and bleed the gauge cock, then take the gauge off.',
      hands: { gauge: 0 },
    },
  },
} as const;

/** Locked off, and tried: nothing starts. */
export const lockOff = (key: string): readonly Node[] => [
  {
    kind: 'confirm',
    key,
    title: 'Lock off, try to start',
    say: LOCK_AND_TRY,
    cautions: ['live'],
    sets: { power: 'off' },
    hands: { power: 0 },
    tools: ['lock'],
  },
];

const DRAIN = 'open the drain and wait until the water gauge reads zero. Leave it open.';

/**
 * The tank alone, locked off, drained to zero with the drain left open: only so does the air gauge read the charge. The drain is the
 * draw that tries the lock: as the pressure falls the pump must not start.
 */
export const isolate = (key: string): readonly Node[] => [
  branch(
    (j) => j.fact('power') !== 'off' || j.fact('house') !== 'closed' || j.fact('drain') !== 'open',
    [
      {
        kind: 'confirm',
        key: `${key}-drain`,
        title: 'Locked off, drained to zero',
        say: (j) =>
          j.fact('power') !== 'off' && j.fact('power') !== 'dead'
            ? `Lock off, close the house valve, then ${DRAIN} As it falls the pump must not start.`
            : `Still locked off. Close the house valve, ${DRAIN}`,
        why: 'With water pressure left, the air gauge reads the water and not the charge.',
        cautions: ['live', 'stored'],
        sets: { power: 'off', house: 'closed', drain: 'open' },
        hands: { power: 0, house: 0, tap: 0, drain: 1 },
        tools: ['lock', 'drain hose'],
      },
    ],
  ),
];

/**
 * The charge, read at the tank's valve. The first look is at what comes out of it: water means that the bladder is ruptured, and no
 * gauge goes on it.
 */
export const readPrecharge = (key: string, phase: Phase, again = 'Read the air charge again.'): ReadStep => ({
  kind: 'read',
  key,
  phase,
  title: phase === 'found' ? 'Precharge as found' : 'Precharge again',
  say: (j) =>
    looked(j)
      ? again
      : 'Uncap the air valve and press its core for a moment: air, no water. Then read the charge.',
  why: (j) => (looked(j) ? '' : 'Water there means the bladder is ruptured.'),
  setting: 'precharge',
  slot: 'air',
  catch: 'firm',
  cautions: ['stored'],
  needs: { power: 'off', drain: 'open' },
  hands: { airGauge: 1 },
  tools: ['tyre-type air gauge'],
  instead: [{ code: 'water', title: 'Water comes out', before: true }],
});

const turnAir = (key: string, how?: string): TurnStep => ({
  kind: 'turn',
  key,
  phase: 'adjust',
  title: 'Air charge',
  say: 'Add or bleed air in small steps.',
  ...(how ? { how } : {}),
  adjuster: 'air',
  cautions: ['stored'],
  needs: { power: 'off', drain: 'open' },
  tools: ['pump or cylinder'],
});

/** Whether air may still be added or bled, or the gauge is to be looked at once more. */
export const airGoesOn = (job: JobView): boolean => {
  const { stop } = job.advice('air');
  return stop === null || stop === 'not-read';
};

/** Air in small steps, each read; where what was read does not fit, it is only read again. */
export const chargeAir = (turn: string, read: string, phase: Phase, how?: string): readonly Node[] => [
  branch((j) => j.advice('air').stop === null, [turnAir(turn, how)]),
  readPrecharge(read, phase),
];

/** Drain closed, then power: never the other way round. `house` where its valve is opened with it. */
const backOn = (job: JobView, house?: 'open'): string =>
  `${job.fact('drain') === 'closed' ? 'Stand clear' : house ? 'Close the drain, open the house valve slowly. Stand clear' : 'Close the drain. Stand clear'}, take the lock off and put the power on.`;

/**
 * What a reading is begun with where nothing but the tank was drained: its power comes back with it, and the first rise is one look.
 * @param then what is read
 */
export const asItComesBack = (then: string, house?: 'open') => ({
  say: (job: JobView) => (job.fact('power') === 'on' ? then : `${backOn(job, house)} ${then}`),
  sets: { drain: 'closed', power: 'on' } as const,
  hands: { drain: 0, power: 1 },
});

export const powerOn = (key: string, house?: 'open'): readonly Node[] => [
  branch(
    (j) =>
      j.fact('drain') !== 'closed' ||
      j.fact('power') !== 'on' ||
      (house !== undefined && j.fact('house') !== house),
    [
      {
        kind: 'confirm',
        key: `${key}-power`,
        title: 'Drain closed, power on',
        say: (j) => backOn(j, house),
        cautions: ['live'],
        sets: { drain: 'closed', power: 'on', ...(house ? { house } : {}) },
        hands: { drain: 0, power: 1, ...(house ? { house: 1 } : {}) },
      },
    ],
  ),
];

export const zeroTankGauges: readonly Node[] = [
  {
    kind: 'zero',
    key: 'zero-system',
    title: 'Water gauge zero',
    say: 'Vent the water gauge to air, in the position it will be used, and read its zero.',
    why: 'Every verdict stands on this.',
    slot: 'system',
    needs: { cautions: 'read' },
    hands: { gauge: 0 },
    tools: ['test gauge'],
  },
  {
    kind: 'zero',
    key: 'zero-air',
    title: 'Air gauge zero',
    say: 'Read the zero of the air gauge, off the valve.',
    slot: 'air',
    needs: { cautions: 'read' },
    hands: { airGauge: 0 },
    tools: ['tyre-type air gauge'],
  },
  {
    kind: 'confirm',
    key: 'fit-gauge',
    title: 'Gauge fitted, system running',
    say: 'Fit the water gauge at the tank tee and open its cock slowly; no cock: lock off and drain first. Then power on, house valve open, drain closed.',
    cautions: ['stored'],
    needs: { cautions: 'read' },
    sets: { gauge: 'fitted', power: 'on', house: 'open', drain: 'closed' },
    hands: { gauge: 1, power: 1, house: 1, drain: 0, tap: 0 },
  },
];

/** The gauge comes off and is in the hand, vented: its zero is read once more. */
export const takeGaugeOff: readonly Node[] = [
  {
    kind: 'zero',
    key: 'zero-again',
    title: 'Gauge off, its zero again',
    say: 'Close and bleed the gauge cock; without one, drain first. Gauge off, plug, look for leaks. Read its zero.',
    why: 'A zero that moved during the job casts doubt on the readings between.',
    slot: 'system',
    cautions: ['stored'],
    sets: { gauge: 'off' },
    hands: { gauge: 0 },
  },
];

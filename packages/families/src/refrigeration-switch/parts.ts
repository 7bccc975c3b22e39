import { fluids } from '@firm-needle/core/reckon';
import { two } from '@firm-needle/core/rig';
import type { JobView, Plan } from '@firm-needle/core/procedure';
import { defineParts } from '../define/index.js';

export const OTHER = 'other';
const USUAL = 'R134a';
/** What it may be charged with: every fluid whose saturation is known here, the usual one first, or another by its own chart. */
const REFRIGERANTS = Object.fromEntries([
  ...fluids()
    .filter((f) => f.id !== 'water')
    .sort(
      (a, b) =>
        Number(b.id === USUAL) - Number(a.id === USUAL) ||
        a.title.localeCompare(b.title, 'en', { numeric: true }),
    )
    .map((f) => [f.id, f.title] as const),
  [OTHER, 'Another, by its own chart'] as const,
]);

export type Plain = Pick<Plan, 'variant'>;
export const hasLow = ({ variant }: Plain): boolean => !variant.startsWith('hp');
export const hasHigh = ({ variant }: Plain): boolean => !variant.startsWith('lp');
/** Its low side closes by a knob. */
export const lowByKnob = ({ variant }: Plain): boolean => variant === 'lp-manual';
/** Its high side closes by itself. */
export const highByItself = ({ variant }: Plain): boolean => variant === 'dual-auto' || variant === 'hp-auto';

const low = {
  slot: 'low',
  unit: 'bar',
  cycles: 2,
  from: -1.1,
  to: 60,
  sd: 0.03,
  dof: 10,
  caught: 0.02,
  step: 0.01,
} as const;
const high = {
  slot: 'high',
  unit: 'bar',
  cycles: 2,
  from: 0,
  to: 140,
  sd: 0.15,
  dof: 10,
  caught: 0.1,
  step: 0.1,
} as const;
const spindle = {
  seenFrom: 'seen from its slot',
  tool: 'screwdriver',
  underPressure: true,
  backlash: 1 / 16,
} as const;

/** What its low side is starved by: as planned, and by the suction where its discharge climbed. */
export const valve = ({ plan, state }: Pick<JobView, 'plan' | 'state'>): string =>
  plan.choices?.['starved'] === 'suction' || state.observations.some((o) => o.body.answer === 'climbs')
    ? 'suction valve'
    : 'liquid valve';

export const parts = defineParts({
  plate: {
    psHigh: {
      title: 'Allowable, high side',
      unit: 'bar',
      from: 10,
      to: 140,
      required: true,
      hint: 'PS on the plate',
    },
    relief: { title: 'Relief opens', unit: 'bar', from: 10, to: 140 },
    room: {
      title: 'Coldest room or glycol',
      unit: 'degC',
      from: -60,
      to: 45,
      hint: 'what stands still gets no warmer',
    },
    ambient: { title: 'Warmest air on the condenser', unit: 'degC', from: -10, to: 60 },
    floor: {
      title: 'Lowest suction allowed',
      unit: 'bar',
      from: -0.5,
      to: 20,
      hint: 'a chiller: above freezing',
    },
    suction: { title: 'Runs at, suction', unit: 'bar', from: -0.9, to: 60 },
    discharge: { title: 'Runs at, discharge', unit: 'bar', from: 0, to: 140 },
    fanOn: { title: 'Last fan starts at', unit: 'bar', from: 0, to: 130 },
    lpLow: { title: 'Low scale from', unit: 'bar', from: -0.9, to: 20 },
    lpHigh: { title: 'Low scale to', unit: 'bar', from: 1, to: 60 },
    diffLow: { title: 'Differential scale from', unit: 'bar', from: 0.1, to: 10 },
    diffHigh: { title: 'Differential scale to', unit: 'bar', from: 0.5, to: 20 },
    hpLow: { title: 'High scale from', unit: 'bar', from: 1, to: 60 },
    hpHigh: { title: 'High scale to', unit: 'bar', from: 5, to: 140 },
    hpDiff: {
      title: 'High side’s fixed differential',
      unit: 'bar',
      from: 0.5,
      to: 15,
      hint: 'commonly 4 bar',
    },
    coilWarm: {
      title: 'Warmest coil wanted',
      unit: 'degC',
      from: -60,
      to: 30,
      hint: 'where it sets a temperature',
    },
    coilCold: { title: 'Coldest coil wanted', unit: 'degC', from: -60, to: 30 },
    coldest: { title: 'Coldest day, outdoors', unit: 'degC', from: -40, to: 30, hint: 'where it pumps down' },
    delay: { title: 'Anti-recycle timer', unit: 's', from: 0, to: 900 },
  },
  choices: {
    refrigerant: { title: 'Refrigerant', options: REFRIGERANTS },
    purpose: {
      title: 'Low side is for',
      options: { guard: 'Guard', 'pump-down': 'Pump-down', temperature: 'Temperature' },
      when: hasLow,
    },
    // A gauge on the pipe side of a front-seated suction valve sees nothing of it: only where the liquid cannot be shut in.
    starved: {
      title: 'Low side is starved by',
      options: { liquid: 'Its liquid valve', suction: 'Its suction valve' },
      when: hasLow,
    },
  },
  slots: {
    low: { title: 'Suction gauge', medium: 'refrigerant', when: hasLow },
    high: { title: 'Discharge gauge', medium: 'refrigerant', when: hasHigh },
  },
  settings: {
    lpStart: {
      ...low,
      title: 'Low side starts',
      short: 'start',
      catch: 'starts',
      traced: 'cutIn',
      givable: true,
    },
    lpStop: {
      ...low,
      // It falls on while switch, hose and eye follow.
      caught: 0.04,
      title: 'Low side stops',
      short: 'stop',
      catch: 'low',
      traced: 'cutOut',
      givable: true,
    },
    lpDiff: {
      ...low,
      title: 'Differential',
      short: 'diff',
      had: 'relation',
      cycles: 1,
      caught: 0,
      from: 0.05,
      givable: true,
    },
    hpStop: { ...high, title: 'High side stops', short: 'high', catch: 'high', givable: true },
    hpReset: { ...high, title: 'High side frees', short: 'frees', had: 'relation', cycles: 1, caught: 0 },
    suction: { ...low, title: 'Suction, running', short: 'suction', cycles: 1, sd: 0.05 },
    discharge: { ...high, title: 'Discharge, running', short: 'discharge', cycles: 1 },
  },
  screws: {
    range: {
      ...spindle,
      title: 'Low start spindle',
      ways: ['clockwise', 'counter-clockwise'],
      perTurn: 0.7,
      spread: 0.15,
      moves: { lpStart: [1, 0.05], lpStop: [1, 0.05] },
      // With a knob only its stop can be read.
      aims: (plan) => [lowByKnob(plan) ? 'lpStop' : 'lpStart'],
      step: 1 / 8,
      largest: 2,
    },
    diff: {
      ...spindle,
      title: 'Low differential spindle',
      // Clockwise narrows: the stop rises.
      ways: ['clockwise', 'counter-clockwise'],
      perTurn: 0.15,
      spread: 0.2,
      moves: { lpStop: [1, 0] },
      step: 1 / 2,
      largest: 5,
    },
    high: {
      ...spindle,
      title: 'High stop spindle',
      ways: ['clockwise', 'counter-clockwise'],
      perTurn: 2.3,
      spread: 0.15,
      moves: { hpStop: [1, 0] },
      step: 1 / 8,
      largest: 2,
    },
  },
  cautions: {
    refrigerant: {
      title: 'Refrigerant',
      text: 'Liquid burns skin and eyes: goggles and gloves. Recover, never vent. Licensed hands; loosen only what is isolated and recovered.',
    },
    high: {
      title: 'Pressure is being raised',
      text: 'A hand on the stop, eyes on the gauge, out by hand at the stop-at. Never plug or by-pass a relief to finish a test.',
    },
    vacuum: {
      title: 'Towards a vacuum',
      text: 'Below the air’s pressure a leak draws in air and moisture. Stop it by hand at the floor.',
    },
    trapped: {
      title: 'Trapped liquid',
      text: 'Never shut liquid between two valves: warming bursts the pipe.',
    },
    rotating: { title: 'It starts by itself', text: 'Hands clear of fans and belts, guards on.' },
    flammable: {
      title: 'Flammable',
      text: 'No spark, a detector on, air moving, and tools that are meant for it.',
    },
    nitrogen: {
      title: 'Cylinder pressure',
      text: 'Dry nitrogen by a regulator with a relief, never oxygen and never shop air. Under the part’s rating; ventilate.',
    },
    electric: {
      title: 'Mains',
      text: 'Outside the cover: lock, and try to start it. Under it also: cover off as if live, then prove dead. No contact is bridged.',
    },
    manual: {
      title: 'Book, code and licence come first',
      text: 'The maker’s book, the refrigerant rules and the licence stand above this app.',
    },
  },
  handles: {
    power: { title: 'Compressor', positions: two('Locked off', 'On, calling') },
    hoses: { title: 'Gauge hoses', positions: two('Off', 'On, open') },
    liquid: {
      title: 'Liquid valve',
      positions: [
        { title: 'Shut', value: 0 },
        { title: 'A crack', value: 1 },
        { title: 'Open', value: 2 },
      ],
    },
    fan: { title: 'Condenser fan', positions: two('Off', 'On') },
    knobs: { title: 'Reset knobs', positions: two('Let be', 'Pressed') },
    port: {
      title: 'Nitrogen on',
      positions: [
        { title: 'Nothing', value: 0 },
        { title: 'Low port', value: 1 },
        { title: 'High port', value: 2 },
      ],
    },
    nitrogen: {
      title: 'Nitrogen',
      positions: [
        { title: 'Vented', value: -2 },
        { title: 'Bleed', value: -1 },
        { title: 'Hold', value: 0 },
        { title: 'Raise', value: 1 },
      ],
    },
    plates: { title: 'Locking plates', positions: two('Off', 'On') },
    tube: { title: 'Switch tube', positions: two('As found', 'Cleared') },
    pointers: { title: 'Pointers', positions: two('As delivered', 'At the plan') },
  },
  facts: {
    cautions: {
      read: {
        title: 'Cautions read',
        say: 'Read the cautions again before going on.',
        cautions: ['refrigerant', 'high', 'vacuum', 'trapped', 'rotating', 'nitrogen', 'electric', 'manual'],
      },
    },
    gauges: {
      on: {
        title: 'Gauges on, hoses purged',
        say: 'Gauges at the compressor, hoses purged by the rules.',
        cautions: ['refrigerant'],
        hands: { hoses: 1 },
      },
      off: {
        title: 'Hoses off',
        say: 'Service valves back, hoses off, caps on.',
        cautions: ['refrigerant'],
        hands: { hoses: 0 },
      },
    },
    power: {
      off: {
        title: 'Locked off, tried',
        say: 'Lock it off and call for cooling: it must stay still.',
        cautions: ['electric'],
        hands: { power: 0 },
      },
      on: {
        title: 'Running',
        say: 'Hands clear. Liquid valve and fan on, power on; let it run.',
        cautions: ['rotating'],
        hands: { power: 1, liquid: 2, fan: 1 },
      },
    },
    liquid: {
      shut: {
        title: 'Liquid valve shut',
        say: (j) => `Shut the ${valve(j)} slowly.`,
        cautions: ['trapped'],
        hands: { liquid: 0 },
      },
      open: { title: 'Liquid valve open', say: (j) => `Open the ${valve(j)}.`, hands: { liquid: 2 } },
    },
    fan: {
      off: { title: 'Condenser fan off', say: 'Fan off.', cautions: ['high'], hands: { fan: 0 } },
      on: { title: 'Condenser fan on', say: 'Fan on.', hands: { fan: 1 } },
    },
    plates: {
      off: { title: 'Plates off', say: 'Locking screws out, plates off.', hands: { plates: 0 } },
      on: { title: 'Plates on', say: 'Plates on, screws tight.', hands: { plates: 1 } },
    },
    nitrogen: {
      on: {
        title: 'Nitrogen on the switch',
        say: 'Regulator with its relief, gauge and bleed on the switch’s port; the meter across its contacts.',
        cautions: ['nitrogen'],
      },
      off: {
        title: 'Nitrogen off',
        say: 'Vent it; nitrogen off.',
        cautions: ['nitrogen'],
        hands: { port: 0, nitrogen: -2 },
      },
    },
  },
});
export const { steps: s, read } = parts;

import { two } from '@firm-needle/core/rig';
import type { JobView, Plan } from '@firm-needle/core/procedure';
import { defineParts } from '../define/index.js';
import { inches } from '../shared/units.js';

export { inches };

/** Either side of the supply at rest, where the book does not say [assumed]. */
export const STATIC_HALF = inches(0.5);
/** Either side of the manifold, by fuel, where the book does not say [common practice, no source]. */
export const MANIFOLD_HALF = { natural: inches(0.3), propane: inches(0.5) } as const;
/** A dial is set so near as its division lets it, where the plate does not say which [assumed]. */
export const GAS_DIVISION = inches(0.5);
export const AIR_DIVISION = inches(0.1);
/** Supply that sags more than this at full fire is called small, where the book says no least [assumed]. */
export const MOST_DROOP = inches(2);
/** A manometer is no better than this; nothing is brought nearer to what it must not reach [assumed]. */
export const DOUBT = inches(0.2);
/** A high-gas switch is tried up to so many times the most that locks up; more is not pumped into it [assumed]. */
export const TRIED_TO = 1.5;
/** An appliance regulator that stands wide open takes less than this [assumed]. */
export const WIDE_OPEN = inches(1.2);
/** Nobody moves a screw, or a dial, oftener than this for one setting [assumed]. */
export const MOST_MOVES = 6;
export const DIAL_MOVES = 3;
/** After any flow the supply rests so long before it is read, s. */
export const RESTS_S = 60;

export type Plain = Pick<Plan, 'variant' | 'school'>;
export const SWITCHES = ['lowGas', 'highGas', 'airTrip', 'mainTrip'] as const;
export type SwitchSetting = (typeof SWITCHES)[number];
/** Switches whose points can be had: the one in a furnace's draught is fixed, and only works or does not. */
export const switchesOf = ({ variant }: Plain): readonly SwitchSetting[] =>
  variant === 'furnace' ? [] : SWITCHES;
/** A valve where the fan leads the gas has no manifold figure, and is not ours. */
export const hasManifold = ({ variant }: Plain): boolean => variant !== 'ratio';
/** What locks up after the regulator is read only where it stands before a valve that lets nothing by. */
export const hasLockUp = ({ variant }: Plain): boolean => variant === 'train';
/** Switches by their figure alone: nothing is measured. */
export const byFigure = (plan: Plain): boolean => plan.school === 'figure' && switchesOf(plan).length > 0;
/** A gas switch whose tap cannot be let down: its dial is run to what stands there, until it trips. */
export const toDial = (plan: Plain, x: SwitchSetting): boolean =>
  plan.school === 'dial' && switchesOf(plan).length > 0 && (x === 'lowGas' || x === 'highGas');
/** Its own pressure is not brought to it: no trip of it is read. */
export const untripped = (plan: Plain, x: SwitchSetting): boolean => byFigure(plan) || toDial(plan, x);
/** A dial is run so far at most, and by so much at a time [assumed]. */
export const RUNS_MOST = inches(14);
export const RUNS_BY = inches(0.1);

const gas = { slot: 'gas', sd: 0.05, dof: 10, unit: 'inH2O', from: 0.1, to: 70, step: 0.1 } as const;
const air = { slot: 'air', sd: 0.02, dof: 10, unit: 'inH2O', from: 0.02, to: 10, step: 0.01 } as const;
const screw = {
  ways: ['clockwise', 'counter-clockwise'],
  seenFrom: 'seen from its head, under the cap',
  tool: 'screwdriver',
  underPressure: true,
  backlash: 0.05,
  step: 1 / 8,
} as const;
/** A dial moves what it says by what it is moved; where it stands is another matter [assumed]. */
const dial = {
  kind: 'scale',
  unit: 'inH2O',
  ways: ['to the higher figure', 'to the lower figure'],
  seenFrom: 'under its cover',
  tool: 'screwdriver',
  perTurn: 1 / inches(1),
  spread: 0.1,
} as const;
const gasDial = { ...dial, step: inches(0.25), largest: inches(6) } as const;
const airDial = { ...dial, step: inches(0.05), largest: inches(2) } as const;

const moved = (job: JobView, to: string): string =>
  `Burner off, cock shut. Tubing to ${to}, the other port screwed gently in. Cock open slowly, soap both until they are tight.${
    job.fact('burner') === 'on'
      ? ' Stand aside, start it again by the book.'
      : job.fact('gas') === 'shut'
        ? ' Cock shut again.'
        : ''
  }`;

export const parts = defineParts({
  plate: {
    page: {
      title: 'Page of the book',
      unit: 'page',
      from: 1,
      to: 2000,
      required: true,
      hint: 'a number: what is remembered is looked up',
    },
    ceiling: {
      title: 'Most at the valve’s inlet',
      unit: 'inH2O',
      from: 5,
      to: 60,
      required: true,
      hint: 'often 14, which is half a pound',
    },
    flowLeast: { title: 'Least supply at full fire', unit: 'inH2O', from: 1, to: 40 },
    manifoldLow: { title: 'Manifold, least', unit: 'inH2O', from: 0.3, to: 40 },
    manifoldHigh: { title: 'Manifold, most', unit: 'inH2O', from: 0.3, to: 40 },
    lockMost: { title: 'Most as it locks up', unit: 'inH2O', from: 1, to: 60 },
    gasDivision: { title: 'Gas dials, a division', unit: 'inH2O', from: 0.1, to: 5 },
    airDivision: { title: 'Air dials, a division', unit: 'inH2O', from: 0.02, to: 1 },
    airLeast: {
      title: 'Air that proves, at least',
      unit: 'inH2O',
      from: 0.02,
      to: 5,
      hint: 'under this there is not enough air to burn',
    },
    input: { title: 'Input', unit: 'Btu/h', from: 5e3, to: 2e7 },
    heat: { title: 'Heating value', unit: 'Btu/ft3', from: 300, to: 3500, hint: 'from the supplier' },
    meterTurn: { title: 'A turn of the meter’s dial', unit: 'ft3', from: 0.05, to: 100 },
  },
  choices: {
    fuel: { title: 'Fuel', options: { natural: 'Natural gas', propane: 'Propane' } },
    stages: {
      title: 'Stages',
      options: { one: 'One fire', two: 'Low and full fire' },
      when: ({ variant }: Plain) => variant !== 'ratio',
    },
    lowTap: {
      title: 'Low-gas switch feels it',
      options: { after: 'After the regulator', before: 'Before it' },
      when: ({ variant }: Plain) => variant !== 'furnace',
    },
    highTap: {
      title: 'High-gas switch feels it',
      options: { after: 'After the regulator', before: 'Before it' },
      when: ({ variant }: Plain) => variant !== 'furnace',
    },
    lockTap: {
      title: 'Tap after the regulator',
      options: { before: 'Before the safety valves', behind: 'Behind them' },
      when: ({ variant }: Plain) => variant === 'train',
    },
    inputs: {
      title: 'Manometer on the gas',
      options: { two: 'Two inputs, or two of them', one: 'One input, moved between the taps' },
    },
  },
  slots: {
    gas: { title: 'Manometer on the gas', medium: 'any' },
    air: { title: 'Manometer on the air', medium: 'air', when: (plan) => plan.variant !== 'furnace' },
  },
  settings: {
    static: { ...gas, title: 'Supply, at rest', short: 'rest', givable: true },
    supplyFlow: { ...gas, title: 'Supply, full fire', short: 'fire' },
    manifold: { ...gas, title: 'Manifold, full fire', short: 'mani', givable: true, sd: 0.03 },
    lowFire: { ...gas, title: 'Manifold, low fire', short: 'low' },
    lockUp: { ...gas, title: 'Locked up', short: 'lock', catch: 'high' },
    lowGas: { ...gas, title: 'Low gas trips', short: 'low', catch: 'stops', givable: true, sd: 0.06 },
    highGas: { ...gas, title: 'High gas trips', short: 'high', catch: 'stops', givable: true, sd: 0.06 },
    airNormal: { ...air, title: 'Combustion air, normal', short: 'normal' },
    airTrip: { ...air, title: 'Combustion air trips', short: 'air', catch: 'stops', givable: true },
    mainTrip: { ...air, title: 'Main air trips', short: 'main', catch: 'stops', givable: true },
    droop: {
      title: 'Supply sags at full fire',
      short: 'sags',
      slot: '',
      unit: 'inH2O',
      from: -5,
      to: 60,
      had: 'relation',
      sd: 0.07,
      step: 0.1,
    },
    rise: {
      title: 'Rises as it locks up',
      short: 'rises',
      slot: '',
      unit: 'inH2O',
      from: -5,
      to: 60,
      had: 'relation',
      sd: 0.07,
      step: 0.1,
    },
  },
  screws: {
    supply: {
      ...screw,
      title: 'Supply screw',
      perTurn: 1.4,
      spread: 0.4,
      largest: 2,
      moves: { static: [1, 0], supplyFlow: [1, 0.15], manifold: [0.03, 0.05] },
      aims: ['static'],
    },
    appliance: {
      ...screw,
      title: 'Appliance screw',
      perTurn: 0.8,
      spread: 0.5,
      largest: 1 / 4,
      moves: { manifold: [1, 0], lockUp: [1, 0.15], lowFire: [0.5, 0.3] },
      aims: ['manifold'],
    },
    lowDial: { ...gasDial, title: 'Low-gas dial', moves: { lowGas: [1, 0] } },
    highDial: { ...gasDial, title: 'High-gas dial', moves: { highGas: [1, 0] } },
    airDial: { ...airDial, title: 'Combustion air dial', moves: { airTrip: [1, 0] } },
    mainDial: { ...airDial, title: 'Main air dial', moves: { mainTrip: [1, 0] } },
  },
  cautions: {
    gas: {
      title: 'Gas',
      text: 'Licensed hands. Cock shut before a port opens; detector on, no spark; every joint soaped after. Smell it: shut, out, call.',
    },
    ports: {
      title: 'Port screws',
      text: 'Cone seats shear when they are forced. Gently in, soap, never tape.',
    },
    fire: {
      title: 'Lighting',
      text: 'Stand aside, purge its full time, no more tries than the book allows. The flame safeguard stays in service.',
    },
    air: {
      title: 'Proof of air',
      text: 'No air switch is by-passed, not for a minute: gas without air explodes. Tubes go back where they were.',
    },
    co: {
      title: 'Carbon monoxide',
      text: 'After any change of pressure or air, measure it. Not as the book wants: shut down.',
    },
    live: {
      title: 'Mains under covers',
      text: 'Lock off, call for heat, cover off as if live, prove dead: tester, terminals, tester.',
    },
    moving: {
      title: 'Fan, drum, belts',
      text: 'Hands out while they turn; locked off when you reach in. Hot surfaces.',
    },
    manual: {
      title: 'Book, code and licence first',
      text: 'The maker’s book, the gas code and the licence stand above this app. A remembered figure is looked up.',
    },
  },
  handles: {
    power: { title: 'Power', positions: two('Locked off', 'On') },
    cock: { title: 'Gas cock', positions: two('Shut', 'Open') },
    burner: { title: 'Call for heat', positions: two('Off', 'Full fire') },
    stage: { title: 'Stage', positions: two('Full fire', 'Low fire') },
    ports: { title: 'Tubing on the ports', positions: two('Off, ports shut', 'On') },
    input: { title: 'Manometer looks at', positions: two('The supply', 'After the regulator') },
    valve: { title: 'Firing valve', positions: two('Open', 'Shut') },
    bleed: { title: 'Tubing', positions: two('Clamped', 'Bleeds outside') },
    bulb: { title: 'Bulb on the tee', positions: two('Let go', 'Squeezed') },
    fan: { title: 'Fan', positions: two('Off', 'On alone') },
    tube: {
      title: 'Air manometer',
      positions: [
        { title: 'Open to the room', value: 0 },
        { title: 'At combustion air', value: 1 },
        { title: 'At main air', value: 2 },
      ],
    },
    let: { title: 'Air tube at the tee', positions: two('Tight', 'Let down slowly') },
    meter: {
      title: 'Watched',
      positions: [
        { title: 'Nothing', value: 0 },
        { title: 'Low gas', value: 1 },
        { title: 'High gas', value: 2 },
        { title: 'Combustion air', value: 3 },
        { title: 'Main air', value: 4 },
      ],
    },
    dial: { title: 'Meter’s dial', positions: two('Not timed', 'Timed') },
    blown: { title: 'Tubing', positions: two('As it came', 'Blown dry') },
    vent: { title: 'Vent of the regulator', positions: two('As found', 'Cleared') },
  },
  facts: {
    cautions: {
      read: {
        title: 'Cautions read',
        say: 'Read the cautions again before going on.',
        cautions: ['gas', 'ports', 'fire', 'air', 'co', 'live', 'moving', 'manual'],
      },
    },
    gas: {
      on: {
        title: 'Gas cock open',
        say: 'Open the gas cock slowly.',
        cautions: ['gas'],
        hands: { cock: 1, bleed: 0 },
      },
      shut: {
        title: 'Gas cock shut',
        say: 'Burner off. Shut the gas cock.',
        cautions: ['gas'],
        hands: { burner: 0, cock: 0 },
      },
    },
    burner: {
      on: {
        title: 'Burner at full fire',
        say: 'Gas cock open. Stand aside, start it by the book, full fire.',
        cautions: ['fire'],
        hands: { power: 1, fan: 0, bleed: 0, bulb: 0, meter: 0, cock: 1, burner: 1, stage: 0, valve: 0 },
      },
      off: { title: 'Burner off', say: 'Stop the burner.', hands: { burner: 0, stage: 0, valve: 0 } },
    },
    ports: {
      open: { title: 'Tubing on the ports', say: 'Ports as they were: tubing on, clamped.' },
      shut: { title: 'Ports shut', say: 'Tubing off, port screws gently in.', cautions: ['ports'] },
    },
    // With one input the tubing hangs on one tap, and the other is screwed shut.
    tubing: {
      supply: {
        title: 'Tubing at the supply',
        say: (j) => moved(j, 'the supply’s tap'),
        cautions: ['gas', 'ports', 'fire'],
      },
      after: {
        title: 'Tubing after the regulator',
        say: (j) => moved(j, 'the tap after the regulator'),
        cautions: ['gas', 'ports', 'fire'],
      },
    },
    power: {
      on: { title: 'Power on', say: 'Cover on, lock off, power on.', hands: { power: 1 } },
      off: {
        title: 'Locked off, tried',
        say: 'Burner off, gas cock shut. Lock it off, then call for heat: nothing may happen.',
        cautions: ['live', 'gas'],
        hands: { burner: 0, cock: 0, fan: 0, power: 0 },
      },
      dead: {
        title: 'Proved dead',
        say: 'Lock it off and call for heat. Cover off as if live, then prove dead: tester, terminals, tester.',
        cautions: ['live'],
        hands: { burner: 0, cock: 0, fan: 0, power: 0 },
      },
    },
  },
});
export const { steps: s, read } = parts;
/** One manometer with one input: it hangs on one tap at a time. */
export const oneInput = (plan: Parameters<typeof read>[0]): boolean => read(plan).choice.inputs === 'one';

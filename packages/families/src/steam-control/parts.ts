import { two } from '@firm-needle/core/rig';
import { defineParts } from '../define/index.js';
import { psi, ounces } from '../shared/units.js';

export { psi, ounces };

/** The most that is wanted in a house, Pa [common practice, no source]. */
export const HOUSE_CAP = psi(2);
/** What a safety valve of a low-pressure steam boiler opens at, Pa [ASME BPVC IV, from memory]. */
export const VALVE = psi(15);
/** Cut-out stays this far under the safety valve [ASME BPVC VI, from memory], and under the limit control [assumed]. */
export const UNDER_VALVE = psi(5);
export const UNDER_LIMIT = psi(1);
/** No turn may bring it nearer to the safety valve than this, Pa [assumed]. */
export const NEVER_UNDER_VALVE = psi(2);
/** Least pressure at which a control surely closes again: pounds and ounces [common practice, no source]. */
export const FLOOR = { pounds: psi(0.5), ounces: ounces(2) } as const;
/** The narrowest differential that pounds controls hold [common practice, no source]. */
export const LEAST_DIFFERENTIAL = psi(0.5);
/** Below this a plan is one of ounces, Pa. */
export const OUNCES_BELOW = psi(0.9);
/** Past its proved cut-out by this much it is switched off by hand, Pa [assumed]. */
export const PAST = psi(1.5);
/** A burner fires so many times what condenses before that is called too much [assumed]. */
export const OVERSIZE = 1.5;
/** Nobody moves a screw oftener than this for one setting [assumed]. */
export const MOST_MOVES = 6;

const act = {
  slot: 'test',
  cycles: 2,
  caught: 0.01,
  givable: true,
  from: 0.05,
  to: 15,
  sd: 0.04,
  dof: 10,
  step: 0.01,
} as const;
/** A screw whose pointer tells how far: a psi of setting for a psi of scale, ± 25 % [assumed]. */
const pointer = {
  kind: 'scale',
  unit: 'psi',
  ways: ['clockwise', 'counter-clockwise'],
  seenFrom: 'seen from above, driver in the slot, as its pointer shows',
  tool: 'screwdriver',
  perTurn: 1 / psi(1),
  spread: 0.25,
  backlash: psi(0.1),
  step: psi(0.125),
  largest: psi(4),
} as const;
const ounce = { unit: 'ozf/in2', backlash: ounces(0.5), step: ounces(0.5), largest: ounces(16) } as const;
const both = { cutOut: [1, 0.05], cutIn: [1, 0.05] } as const;

export const parts = defineParts({
  links: {
    limit: {
      title: 'Limit control of this boiler',
      kinds: ['steam-control'],
      gives: { limit: 'cutOut' },
      when: ({ variant }) => variant !== 'limit',
      fits: ({ variant }) => variant === 'limit',
    },
    operating: {
      title: 'Operating control of this boiler',
      kinds: ['steam-control'],
      gives: { operating: 'cutOut' },
      when: ({ variant }) => variant === 'limit',
      fits: ({ variant }) => variant !== 'limit',
    },
  },
  plate: {
    valve: {
      title: 'Safety valve opens',
      unit: 'psi',
      from: 5,
      to: 15,
      required: true,
      hint: '15 psi is the most on a low-pressure boiler',
    },
    cap: {
      title: 'Most wanted here',
      unit: 'psi',
      from: 0.25,
      to: 13,
      hint: '2 psi in a house; process steam its own need',
    },
    limit: { title: 'Limit control trips', unit: 'psi', from: 1, to: 15 },
    operating: {
      title: 'Operating control stops at',
      unit: 'psi',
      from: 0.25,
      to: 13,
      hint: 'a limit stands over it',
    },
    element: {
      title: 'Most for its element',
      unit: 'psi',
      from: 1,
      to: 60,
      hint: 'else the top of its main scale',
    },
    mainLow: { title: 'Main scale from', unit: 'psi', from: 0, to: 15 },
    mainHigh: { title: 'Main scale to', unit: 'psi', from: 0.25, to: 30 },
    diffLow: { title: 'Differential scale from', unit: 'psi', from: 0, to: 10 },
    diffHigh: { title: 'Differential scale to', unit: 'psi', from: 0.1, to: 20 },
    floor: {
      title: 'Least sure reset',
      unit: 'psi',
      from: 0.05,
      to: 3,
      hint: 'half a pound; two ounces on an ounce scale',
    },
  },
  choices: {
    mercury: {
      title: 'A mercury bulb',
      options: {
        keep: 'Kept if it repeats',
        replace: 'Replaced on sight',
      },
    },
  },
  slots: { test: { title: 'Low-range gauge at the control', medium: 'air' } },
  settings: {
    cutOut: { ...act, title: 'Cut-out', short: 'out', catch: 'stops' },
    cutIn: { ...act, title: 'Cut-in', short: 'in', catch: 'starts' },
    differential: { ...act, title: 'Differential', short: 'diff', had: 'relation', cycles: 1, caught: 0 },
  },
  screws: {
    main: { ...pointer, title: 'Main screw', moves: both, aims: ['cutOut'] },
    diff: {
      ...pointer,
      title: 'Differential screw',
      perTurn: -1 / psi(1),
      spread: 0.3,
      moves: { cutIn: [1, 0.05] },
    },
    mainLow: {
      ...pointer,
      title: 'Main screw',
      moves: { cutIn: [1, 0.05], cutOut: [1, 0.05] },
      aims: ['cutIn'],
    },
    wheel: {
      ...pointer,
      title: 'Differential wheel',
      ways: ['to the higher figure', 'to the lower figure'],
      seenFrom: 'under the cover',
      tool: 'fingers',
      spread: 0.3,
      moves: { cutOut: [1, 0.05] },
    },
    mainOunce: { ...pointer, ...ounce, title: 'Main screw', moves: both, aims: ['cutOut'] },
    diffOunce: {
      ...pointer,
      ...ounce,
      title: 'Differential screw',
      perTurn: -1 / psi(1),
      spread: 0.3,
      moves: { cutIn: [1, 0.05] },
    },
  },
  cautions: {
    steam: {
      title: 'Steam and hot water',
      text: 'Loosen nothing on the siphon until the boiler’s gauge stands at zero and the metal is cool. Stand aside as a cock opens.',
    },
    live: {
      title: 'Live under the cover',
      text: 'Lock off, try to start, take the cover off as if live, and prove dead at the terminals: tester, terminals, tester. Low voltage may share the box with mains.',
    },
    firing: {
      title: 'The burner will fire',
      text: 'Safety valve, low-water cut-off, flame safeguard and high limit stay in service. A hand stays near the switch until pressure has stopped it once.',
    },
    element: {
      title: 'A thin diaphragm',
      text: 'Hand pump only, below the maker’s limit. No live steam on it without a wet siphon, and no tyre pump.',
    },
    mercury: {
      title: 'Mercury',
      text: 'Do not shake or heat the bulb; a spill kit is at hand. It is recovered by the rules, never binned.',
    },
    manual: {
      title: 'Manual and code come first',
      text: 'The boiler code, the licence and the maker’s book stand above this app. A sealed calibration is not moved.',
    },
  },
  handles: {
    power: { title: 'Burner switch', positions: two('Locked off', 'On') },
    call: { title: 'Thermostat', positions: two('As found', 'Calling') },
    control: { title: 'Control', positions: two('On the boiler', 'On the pump') },
    pump: {
      title: 'Hand pump',
      positions: [
        { title: 'Vented', value: -2 },
        { title: 'Let down', value: -1 },
        { title: 'Hold', value: 0 },
        { title: 'Pump', value: 1 },
      ],
    },
    siphon: { title: 'Siphon', positions: two('As found', 'Clear and filled') },
    hang: { title: 'Control hangs', positions: two('As found', 'Plumb') },
    button: { title: 'Reset button', positions: two('Let be', 'Pressed') },
    cock: { title: 'Gauge cock', positions: two('Shut, vented', 'Open') },
  },
  facts: {
    cautions: {
      read: {
        title: 'Cautions read',
        say: 'Read the cautions again before going on.',
        cautions: ['steam', 'live', 'firing', 'element', 'mercury', 'manual'],
      },
    },
    power: {
      off: {
        title: 'Burner locked off',
        say: 'Lock the burner off, then turn the thermostat up: it must stay out.',
        cautions: ['live'],
        hands: { power: 0, call: 1 },
      },
      dead: {
        title: 'Locked off, proved dead',
        say: 'Lock the burner off and try to start it. Cover off as if live, then prove dead: tester, terminals, tester.',
        cautions: ['live'],
        hands: { power: 0 },
      },
      on: {
        title: 'Power on, calling',
        say: 'Take the lock off and put the power on.',
        cautions: ['firing'],
        hands: { power: 1, call: 1 },
      },
    },
    cover: {
      off: {
        title: 'Cover off',
        say: 'Take the cover off. The burner stays locked off.',
        cautions: ['live'],
      },
      on: { title: 'Cover on', say: 'Put the cover back.' },
    },
    steam: {
      down: {
        title: 'No steam, siphon cool',
        say: 'Wait: boiler gauge at zero, siphon cool enough to hold.',
        cautions: ['steam'],
      },
    },
    control: {
      off: { title: 'Control off the boiler', say: 'Take the control off its siphon.', cautions: ['steam'] },
      on: {
        title: 'Control on the boiler',
        say: 'Siphon filled with water, control on and plumb.',
        cautions: ['steam'],
        hands: { control: 0 },
      },
    },
    pump: {
      on: {
        title: 'Pump and gauge on its port',
        say: 'Pump and gauge on its port, held as it hung.',
        cautions: ['element'],
        hands: { control: 1, pump: 0 },
      },
    },
    gauge: {
      on: {
        title: 'Gauge on the boiler',
        say: 'Gauge on its cock at the boiler, cock open.',
        cautions: ['steam'],
        hands: { cock: 1 },
      },
    },
  },
});
export const { steps: s, read } = parts;

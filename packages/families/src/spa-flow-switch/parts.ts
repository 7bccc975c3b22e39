import type { Plan } from '@firm-needle/core/procedure';
import { two } from '@firm-needle/core/rig';
import { defineParts } from '../define/index.js';
import {
  derivedDelay,
  derivedEdge,
  derivedLeft,
  derivedMargin,
  derivedWheel,
  derivedWindow,
} from './state.js';

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

/** Worked out of clicks and answers; no gauge reads it. */
const clicks = { slot: '', unit: 'click', had: 'derived', from: -200, to: 200, sd: 0, dof: 4 } as const;

export const parts = defineParts({
  plate: {
    opensWithin: {
      title: 'Must open within',
      unit: 's',
      from: 1,
      to: 30,
      hint: '4 s unless the manual says otherwise',
    },
    voltage: { title: 'Supply voltage', unit: 'V', from: 90, to: 480 },
  },
  slots: {},
  settings: {
    closes: { ...clicks, title: 'Just closes at low speed', short: 'closes', derive: derivedEdge('closes') },
    opens: { ...clicks, title: 'Just opens with pumps off', short: 'opens', derive: derivedEdge('opens') },
    wheel: { ...clicks, title: 'Wheel, from where it was found', short: 'wheel', derive: derivedWheel },
    window: { ...clicks, title: 'Window', short: 'window', derive: derivedWindow },
    margin: { ...clicks, title: 'Left to the nearer edge', short: 'margin', derive: derivedMargin },
    toClosing: { ...clicks, title: 'Left to closing', short: 'to close', derive: derivedLeft('closes') },
    toOpening: { ...clicks, title: 'Left to opening', short: 'to open', derive: derivedLeft('opens') },
    delay: {
      ...clicks,
      title: 'Opens after the pumps stop',
      short: 'delay',
      unit: 's',
      step: 0.1,
      derive: derivedDelay,
      from: 0,
      to: 60,
    },
  },
  screws: {
    wheel: {
      title: 'Wheel',
      kind: 'click',
      ways: ['clockwise', 'counter-clockwise'],
      seenFrom: 'seen from the wheel’s own side',
      tool: 'small screwdriver',
      // Moves no pressure that anybody reads: there is nothing to learn of it in pascals.
      perTurn: 1,
      spread: 0.5,
      moves: {},
      step: 1,
      largest: MOST_CLICKS,
      underPressure: true,
    },
  },
  cautions: {
    enclosure: {
      title: 'Mains in the same box',
      text: 'Lock off. Cover off as if live, then prove dead; prove the tester before and after. While a pump runs with the cover off, keep hands and tools clear: the switch lead carries at most 5 V, its neighbours carry mains.',
    },
    ohms: {
      title: 'Ohms only on the detached lead',
      text: 'Pull the lead off the board before the meter touches it. Never measure ohms on a live circuit.',
    },
    water: {
      title: 'Dry hands, working residual-current device',
      text: 'Nobody is in the water, hands and floor are dry, and the residual-current device was tested today.',
    },
    bridge: {
      title: 'Never leave the switch bridged',
      text: 'The switch is what keeps the heater off without water. It is set or replaced, never bridged.',
    },
    manual: {
      title: 'The maker’s word comes first',
      text: 'Where the manual, the local code or licensed practice says otherwise, follow them.',
    },
  },
  handles: {
    power: { title: 'Power', positions: two('Off', 'On') },
    pump: {
      title: 'Pump',
      positions: [
        { title: 'Off', value: 0 },
        { title: 'Low', value: 1 },
        { title: 'High', value: 2 },
      ],
    },
    filter: { title: 'Filter', positions: two('As found', 'Clean') },
    valves: { title: 'Valves', positions: two('As found', 'Open') },
    prime: { title: 'Pump air', positions: two('As found', 'Bled') },
  },
  facts: {
    cautions: { read: { title: 'Cautions read', say: 'Read the cautions.' } },
    power: {
      off: {
        title: 'Locked off, proved dead',
        say: 'Lock off the spa. With the cover off, prove the board dead: tester, board, tester.',
        cautions: ['enclosure'],
        hands: { power: 0, pump: 0 },
      },
      on: {
        title: 'Power on, hands clear',
        say: 'Hands and tools clear, then put the power on.',
        cautions: ['enclosure'],
        hands: { power: 1 },
      },
    },
    lead: {
      off: {
        title: 'Switch lead off the board, meter on it',
        say: 'With the power off pull the switch lead off the board and put the meter on it, in ohms.',
        cautions: ['ohms'],
      },
      on: { title: 'Switch lead back on the board', say: 'Put the switch lead back on the board.' },
    },
    pump: {
      low: { title: 'Low speed', say: 'Run the pump at low speed.', hands: { pump: 1 } },
      high: { title: 'High speed', say: 'Run the pump at high speed.', hands: { pump: 2 } },
      off: {
        title: 'All pumps off',
        say: 'Stop all pumps and wait until the water stands.',
        hands: { pump: 0 },
      },
    },
    filter: {
      clean: { title: 'Filter clean', say: 'Clean the filter or take it out.', hands: { filter: 1 } },
    },
    valves: { open: { title: 'Valves open', say: 'Open every valve fully.', hands: { valves: 1 } } },
    primed: { yes: { title: 'Pump primed', say: 'Bleed the air and prime the pump.', hands: { prime: 1 } } },
  },
});
export const { steps: s, read } = parts;

export const isTwoSpeed = (plan: Pick<Plan, 'variant'>): boolean => plan.variant === 'two-speed';

export const opensWithin = (plate: Plan['plate']): number =>
  read({ values: {}, plate }).plate.opensWithin ?? OPENS_WITHIN_S;

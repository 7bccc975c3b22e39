import type { Caution } from '@firm-needle/core/family';
import type { FactDef } from '@firm-needle/core/procedure';

export const cautions: readonly Caution[] = [
  {
    key: 'enclosure',
    title: 'Mains in the same box',
    text: 'Lock off and prove dead before the cover comes off. While a pump runs with the cover off, keep hands and tools clear: the switch lead carries at most 5 V, its neighbours carry mains.',
  },
  {
    key: 'ohms',
    title: 'Ohms only on the detached lead',
    text: 'Pull the lead off the board before the meter touches it. Never measure ohms on a live circuit.',
  },
  {
    key: 'water',
    title: 'Dry hands, working residual-current device',
    text: 'Nobody is in the water, hands and floor are dry, and the residual-current device was tested today.',
  },
  {
    key: 'bridge',
    title: 'Never leave the switch bridged',
    text: 'The switch is what keeps the heater off without water. It is set or replaced, never bridged.',
  },
  {
    key: 'manual',
    title: 'The maker’s word comes first',
    text: 'Where the manual, the local code or licensed practice says otherwise, follow them.',
  },
];

export const permits = [{ id: 'mains', title: 'May work on mains enclosures' }] as const;

export const facts: Readonly<Record<string, Readonly<Record<string, FactDef>>>> = {
  cautions: { read: { title: 'Cautions read', say: 'Read the cautions.' } },
  power: {
    off: {
      title: 'Locked off, proved dead',
      say: 'Lock off the spa and prove the board dead.',
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
};

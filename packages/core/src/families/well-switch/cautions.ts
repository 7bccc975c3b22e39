import type { Caution, FactDef } from '../../family/contract.js';

export const cautions: readonly Caution[] = [
  {
    key: 'live',
    title: 'Live parts under the cover',
    text: 'Lock off at the disconnect and prove dead at the terminals before the cover comes off. No local disconnect: isolate at the panel and lock it.',
  },
  {
    key: 'relief',
    title: 'Stop at a drip from the relief',
    text: 'A relief drips first, then opens fully. Lock the pump off and lower the setting. Never plug it, never fit a higher one to make room.',
  },
  {
    key: 'stored',
    title: 'Stored air and water',
    text: 'Never open a fitting under pressure. Keep below the tank’s air limit, face away from the air valve, drain to a safe place.',
  },
  {
    key: 'manual',
    title: 'Manual and code come first',
    text: 'The maker’s manual, local codes and licensed practice stand above this app. It is an aid to a competent person.',
  },
];

export const permits = [{ id: 'mains', title: 'May open mains-voltage controls' }] as const;

export const facts: Readonly<Record<string, Readonly<Record<string, FactDef>>>> = {
  cautions: {
    read: {
      title: 'Cautions read',
      say: 'Read the cautions again before going on.',
      cautions: ['live', 'relief', 'stored', 'manual'],
    },
  },
  power: {
    off: {
      title: 'Locked off, proved dead',
      say: 'Lock off and prove dead at the switch terminals.',
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
  cover: {
    off: { title: 'Cover off', say: 'Take the cover off. Power stays locked off.', cautions: ['live'] },
    on: { title: 'Cover on', say: 'Put the cover or its guard back.' },
  },
  gauge: {
    fitted: {
      title: 'Gauge fitted',
      say: 'Fit the water gauge at the tank tee and open its cock slowly.',
      hands: { gauge: 1 },
    },
  },
};

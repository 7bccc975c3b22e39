import { storedCaution, tankFacts } from '../shared/tank.js';
import type { Caution } from '@firm-needle/core/family';
import type { FactDef } from '@firm-needle/core/procedure';

/** Where a pump switch is proved dead. */
export const DEAD_AT = 'the switch terminals';

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
  storedCaution,
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
  ...tankFacts(DEAD_AT),
  cover: {
    off: { title: 'Cover off', say: 'Take the cover off. Power stays locked off.', cautions: ['live'] },
    on: { title: 'Cover on', say: 'Put the cover or its guard back.' },
  },
};

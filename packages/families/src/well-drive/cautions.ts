import { storedCaution, tankFacts } from '../shared/tank.js';
import type { Caution } from '@firm-needle/core/family';
import type { FactDef } from '@firm-needle/core/procedure';

/** Where a drive is proved dead. */
export const DEAD_AT = 'the drive’s supply terminals';

export const cautions: readonly Caution[] = [
  {
    key: 'live',
    title: 'Live parts, and charged capacitors',
    text: 'Lock off at the disconnect. A drive stays charged after switch-off: wait the maker’s time, then prove dead at its terminals.',
  },
  {
    key: 'starts',
    title: 'It starts by itself',
    text: 'A sleeping drive starts without warning when the pressure falls. Locked off is off; asleep is not.',
  },
  {
    key: 'relief',
    title: 'The relief stands above the set point',
    text: 'At least 10 psi over it. Never plug it, never fit a higher one to make room.',
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
  cautions: { read: { title: 'Cautions read', say: 'Read the cautions again before going on.' } },
  ...tankFacts(DEAD_AT),
  sensor: {
    bled: {
      title: 'Sensor line bled',
      say: 'Bleed the sensor’s line until clear water runs.',
      hands: { bleed: 1 },
    },
  },
};

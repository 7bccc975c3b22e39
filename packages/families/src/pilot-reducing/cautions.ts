import type { Caution } from '@firm-needle/core/family';
import type { FactDef } from '@firm-needle/core/procedure';

export const cautions: readonly Caution[] = [
  {
    key: 'stored',
    title: 'Pressure on both sides, and in the cover',
    text: 'Isolate and bleed before a fitting is loosened. Couplings are tightened before the inlet is cracked open.',
  },
  {
    key: 'entry',
    title: 'No chamber alone',
    text: 'A pit or trench wants its air tested, a second person and shoring: your own entry rules come first.',
  },
  {
    key: 'downstream',
    title: 'Know what stands downstream',
    text: 'Lock-up stands on everything after the valve. Its relief works, and lock-up stays below every rating there.',
  },
  {
    key: 'fire',
    title: 'Where it feeds fire protection',
    text: 'An impairment notice, a fire watch and the authority’s consent before it is shut or changed.',
  },
  {
    key: 'manual',
    title: 'The maker’s word comes first',
    text: 'Where the manual or the data sheet says otherwise, follow it.',
  },
];

export const facts: Readonly<Record<string, Readonly<Record<string, FactDef>>>> = {
  cautions: { read: { title: 'Cautions read', say: 'Read the cautions.' } },
  flow: {
    enough: {
      title: 'Flow above the minimum',
      say: 'Open a draw and keep it above the valve’s least flow.',
      hands: { draw: 1 },
    },
    shut: { title: 'Draw shut', say: 'Shut every draw.', hands: { draw: 0 } },
  },
  cocks: {
    open: {
      title: 'Cocks open',
      say: 'Open every isolating cock of the pilot circuit.',
      hands: { cocks: 1 },
    },
  },
  strainer: {
    clean: { title: 'Strainer clean', say: 'Clean the pilot’s strainer.', hands: { strainer: 1 } },
  },
  bled: {
    yes: { title: 'Cover bled', say: 'Bleed cover and tubing until clear water runs.', hands: { bleed: 1 } },
  },
  draws: { more: { title: 'More drawn', say: 'Open a second draw.', hands: { draw: 2 } } },
  inlet: {
    open: { title: 'Inlet open', say: 'Open the inlet slowly.', cautions: ['stored'], hands: { inlet: 1 } },
  },
};

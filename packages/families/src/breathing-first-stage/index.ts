import { defineFamily } from '../define/index.js';
import { BREATHING_PERMIT, breathingOccasions } from '../shared/breathing.js';
import { drawing } from './drawing.js';
import { findings, unproved } from './findings.js';
import { breathingFirstStageMeta } from './meta.js';
import { parts } from './parts.js';
import { check, figures, follows, ladder, limits, never, usualEffect, variants, worst } from './plan.js';
import { breathingFirstStageRig } from './rig.js';
import { walk } from './walk.js';

/** The first stage of a breathing regulator, and the cylinder regulator of other gases that nobody breathes from. */
export const family = defineFamily(breathingFirstStageMeta, parts, {
  variants,
  variantsAre: 'How it is made',
  saysVariant: true,
  schools: [
    {
      id: 'middle',
      title: 'To the middle of its window',
      because: 'A seat in use stays where it is: the middle is farthest from both ends.',
      pins: [],
    },
    {
      id: 'room',
      title: 'Low, with room to rise',
      because:
        'A fresh seat takes a set over its first hundreds of cycles, and stands about 5 psi higher then.',
      pins: [],
    },
  ],
  occasions: breathingOccasions('Rebuilt, a new seat'),
  permits: [BREATHING_PERMIT],
  relations: [
    { terms: { ipFull: 1, ipLow: -1 }, equals: 0, plus: usualEffect, hard: false },
    { terms: { ipFull: 1, ipLow: -1, effect: -1 }, equals: 0, hard: true },
    { terms: { stood: 1, ipFull: -1, creep: -1 }, equals: 0, hard: true },
    { terms: { ipFull: 1, purging: -1, dip: -1 }, equals: 0, hard: true },
    { terms: { locked: 1, delivery: -1, rise: -1 }, equals: 0, hard: true },
  ],
  follows,
  ceiling: 'what the relief and the weakest part allow it',
  stopsAlso: 'a hiss from the relief',
  limits,
  never,
  worst,
  check,
  figures,
  ladder,
  drawing,
  walk,
  findings,
  unproved,
  ends: {
    set: 'Landed at both supplies, capped, watched and proved.',
    left: 'At both supplies it stands where it should.',
  },
  rig: breathingFirstStageRig,
});

import { defineFamily } from '../define/index.js';
import { BREATHING_PERMIT, breathingOccasions } from '../shared/breathing.js';
import { drawing } from './drawing.js';
import { findings, unproved } from './findings.js';
import { breathingSecondStageMeta } from './meta.js';
import { parts } from './parts.js';
import { check, figures, follows, ladder, limits, never, variants, worst } from './plan.js';
import { breathingSecondStageRig } from './rig.js';
import { learnsFrom, turned } from './state.js';
import { walk } from './walk.js';

/** The second stage of a breathing regulator: nothing of it is turned before its line is right. */
export const family = defineFamily(breathingSecondStageMeta, parts, {
  variants,
  variantsAre: 'How it is made',
  saysVariant: true,
  schools: [
    {
      id: 'held',
      title: 'Purge held for every move',
      because: 'Only that lifts the seat off its edge; a syringe draws slowly and alike each time.',
      pins: [],
    },
  ],
  occasions: breathingOccasions('Rebuilt'),
  permits: [BREATHING_PERMIT],
  learnsFrom,
  follows,
  ceiling: 'what its range and its line allow it',
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
  ends: { set: 'Opens where it should, closed up and proved.', left: 'It opens where it should.' },
  wasSet: turned,
  rig: breathingSecondStageRig,
});

import { defineFamily } from '../define/index.js';
import { drawing } from './drawing.js';
import { FIRE_PERMIT } from '../shared/impairment.js';
import { findings, unproved } from './findings.js';
import { pilotReducingMeta } from './meta.js';
import { parts, USUAL_RISE } from './parts.js';
import { check, figures, ladder, limits, never, variants, worst } from './plan.js';
import { pilotReducingRig } from './rig.js';
import { learnsFrom } from './state.js';
import { walk } from './walk.js';

/** The pilot-operated pressure-reducing valve. */
export const family = defineFamily(pilotReducingMeta, parts, {
  variants,
  variantsAre: 'Pipe upstream',
  schools: [
    {
      id: 'under-flow',
      title: 'Set under flow, from below',
      because:
        'Without flow the valve chatters and never settles; from below, lock-up stays on the safe side.',
      pins: [],
    },
  ],
  relations: [
    { terms: { lockUp: 1, flowing: -1, rise: -1 }, equals: 0, hard: true },
    { terms: { rise: 1 }, equals: USUAL_RISE, hard: false },
  ],
  permits: [FIRE_PERMIT],
  occasions: [
    { id: 'service', title: 'In service', found: true },
    { id: 'new', title: 'New or rebuilt', found: false },
  ],
  learnsFrom,
  ceiling: 'what relief and weakest part allow it',
  stopsAlso: 'a drip from the relief',
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
    set: 'Flowing comes back, and lock-up stands.',
    left: 'Flowing and lock-up are within limits as found.',
  },
  wasSet: (job) => job.state.turns.some((t) => t.body.adjuster === 'pilot'),
  rig: pilotReducingRig,
});

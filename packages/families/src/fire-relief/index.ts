import type { Family } from '@firm-needle/core/family';
import { cautions, facts, permits } from './cautions.js';
import { findings, recommend, unproved } from './findings.js';
import { fireReliefMeta } from './meta.js';
import { check, figures, ladder, limits, never, worst } from './plan.js';
import { procedureOf } from './procedure.js';
import { fireReliefRig } from './rig.js';
import { adjusters, plate, relations, schools, settings, slots, variants } from './settings.js';

/** The pilot-operated pressure relief valve of a fire pump. */
export const family: Family = {
  meta: fireReliefMeta,
  variants,
  variantsAre: 'Driver',
  schools,
  plate,
  settings,
  slots,
  adjusters,
  cautions,
  permits,
  facts,
  relations,
  ceiling: 'the weakest component’s rating',
  limits,
  never,
  worst,
  check,
  figures,
  ladder,
  procedure: procedureOf,
  findings,
  unproved,
  recommend,
  outcomes: {
    set: 'Set and proved',
    'left-as-found': 'Left as found',
    replace: 'Not set: to be repaired',
    unfinished: 'Unfinished',
  },
  rig: fireReliefRig,
};

import type { Family } from '@firm-needle/core/family';
import { cautions, facts } from './cautions.js';
import { findings, recommend, unproved } from './findings.js';
import { pilotReducingMeta } from './meta.js';
import { check, figures, ladder, limits, never, worst } from './plan.js';
import { procedure } from './procedure.js';
import { pilotReducingRig } from './rig.js';
import { learnsFrom } from './state.js';
import { adjusters, plate, relations, schools, settings, slots, variants } from './settings.js';

/** The pilot-operated pressure-reducing valve. */
export const family: Family = {
  meta: pilotReducingMeta,
  variants,
  variantsAre: 'Pipe upstream',
  schools,
  plate,
  settings,
  slots,
  adjusters,
  cautions,
  permits: [],
  facts,
  relations,
  learnsFrom,
  ceiling: 'where lock-up would reach the relief or the weakest part',
  limits,
  never,
  worst,
  check,
  figures,
  ladder,
  procedure: () => procedure,
  findings,
  unproved,
  recommend,
  rig: pilotReducingRig,
};

import type { Family } from '@firm-needle/core/family';
import { cautions, facts, permits } from './cautions.js';
import { findings, recommend, unproved } from './findings.js';
import { wellSwitchMeta } from './meta.js';
import { check, figures, ladder, limits, never, worst } from './plan.js';
import { procedure } from './procedure.js';
import { wellSwitchRig } from './rig.js';
import { adjusters, plate, relations, schools, settings, slots, variants } from './settings.js';

/** The well pump pressure switch and its tank. */
export const family: Family = {
  meta: wellSwitchMeta,
  variants,
  variantsAre: 'Usual pair',
  schools,
  plate,
  settings,
  slots,
  adjusters,
  cautions,
  permits,
  facts,
  relations,
  ceiling: 'where the relief may open',
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
  rig: wellSwitchRig,
};

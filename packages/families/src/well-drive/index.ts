import type { Family } from '@firm-needle/core/family';
import { cautions, facts, permits } from './cautions.js';
import { findings, recommend, unproved } from './findings.js';
import { wellDriveMeta } from './meta.js';
import { check, figures, ladder, limits, never, worst } from './plan.js';
import { procedure } from './procedure.js';
import { wellDriveRig } from './rig.js';
import { adjusters, plate, relations, schools, settings, slots, variants } from './settings.js';

/** The constant-pressure pump drive with its small bladder tank. */
export const family: Family = {
  meta: wellDriveMeta,
  variants,
  variantsAre: 'Set point in use',
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
  rig: wellDriveRig,
};

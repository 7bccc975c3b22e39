import type { Family } from '@firm-needle/core/family';
import { cautions, facts, timeLimits } from './cautions.js';
import { findings, recommend, unproved } from './findings.js';
import { washerUnloaderMeta } from './meta.js';
import { check, figures, ladder, limits, never, worst } from './plan.js';
import { procedure } from './procedure.js';
import { washerUnloaderRig } from './rig.js';
import { adjusters, plate, relations, schools, settings, slots, variants } from './settings.js';

/** The unloader of a pressure washer that traps pressure when the trigger is released. */
export const family: Family = {
  meta: washerUnloaderMeta,
  variants,
  variantsAre: 'Where the gauge is',
  schools,
  plate,
  settings,
  slots,
  adjusters,
  cautions,
  permits: [],
  facts,
  timeLimits,
  relations,
  ceiling: 'where the spike would reach the weakest part',
  limits,
  never,
  worst: (plan) => worst(plan),
  check: (plan) => check(plan),
  figures: (plan) => figures(plan),
  ladder,
  procedure: () => procedure,
  findings,
  unproved,
  recommend,
  rig: washerUnloaderRig,
};

import type { Family } from '@firm-needle/core/family';
import { cautions, facts } from './cautions.js';
import { evidence, findings, recommend, unproved } from './findings.js';
import { gaugeCheckMeta } from './meta.js';
import { check, ladder, limits, worst } from './plan.js';
import { procedureOf } from './procedure.js';
import { gaugeCheckRig } from './rig.js';
import { follows, plate, plateOf, schools, settings, slots, unitOf, variants } from './settings.js';

/** The test gauge itself. */
export const family: Family = {
  meta: gaugeCheckMeta,
  variants,
  variantsAre: 'Kind of check',
  schools,
  plate,
  settings,
  slots,
  adjusters: [],
  cautions,
  permits: [],
  facts,
  relations: [],
  outcomes: {
    set: 'Fit, zero set',
    'left-as-found': 'Fit as found',
    restricted: 'Restricted',
    replace: 'Unfit',
    unfinished: 'Unfinished',
  },
  follows,
  plateOf,
  unitOf,
  limits,
  never: () => Infinity,
  worst,
  check: (plan) => check(plan),
  figures: () => [],
  ladder,
  procedure: procedureOf,
  findings,
  unproved,
  recommend,
  evidence,
  rig: gaugeCheckRig,
};

import type { Family } from '@firm-needle/core/family';
import { cautions, facts, permits } from './cautions.js';
import { findings, recommend, unproved } from './findings.js';
import { spaFlowSwitchMeta } from './meta.js';
import { check, ladder } from './plan.js';
import { procedureOf } from './procedure.js';
import { spaFlowSwitchRig } from './rig.js';
import { adjusters, limits, plate, schools, settings, variants } from './settings.js';

/** The flow (pressure) switch of a spa heater. It is set by clicks and a meter; nobody reads a pressure. */
export const family: Family = {
  meta: spaFlowSwitchMeta,
  variants,
  variantsAre: 'Pump speeds',
  schools,
  plate,
  settings,
  slots: [],
  adjusters,
  cautions,
  permits,
  facts,
  relations: [],
  limits,
  never: () => Infinity,
  worst: () => 0,
  check,
  figures: () => [],
  ladder,
  procedure: procedureOf,
  findings,
  unproved,
  recommend,
  rig: spaFlowSwitchRig,
};

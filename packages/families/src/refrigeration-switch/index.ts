import { defineFamily } from '../define/index.js';
import { drawing } from './drawing.js';
import { findings, recommend, unproved } from './findings.js';
import { refrigerationSwitchMeta } from './meta.js';
import { parts } from './parts.js';
import { bar, HP_DIFF } from './bounds.js';
import { beside, check, figures, floorOf, limits, never, worst } from './plan.js';
import { hpDiffOf, ladder } from './ladder.js';
import { refrigerationSwitchRig } from './rig.js';
import * as now from './state.js';
import { walk } from './walk.js';

const LOW = { lpStart: bar(2.2), lpStop: bar(1), lpDiff: bar(1.2) };
const HIGH = { hpStop: bar(16), hpReset: bar(16) - HP_DIFF };

/** Low- and high-pressure switches of a refrigeration system. */
export const family = defineFamily(refrigerationSwitchMeta, parts, {
  variants: [
    { id: 'dual', title: 'Dual: low by itself, high by knob', values: { ...LOW, ...HIGH } },
    { id: 'dual-auto', title: 'Dual: both by themselves', values: { ...LOW, ...HIGH } },
    { id: 'lp', title: 'Low pressure, by itself', values: LOW },
    { id: 'lp-manual', title: 'Low pressure, by knob', values: LOW },
    { id: 'hp-manual', title: 'High pressure, by knob', values: HIGH },
    { id: 'hp-auto', title: 'High pressure, by itself', values: HIGH },
  ],
  variantsAre: 'Which sides it has, and how they close again',
  schools: [
    {
      id: 'system',
      title: 'On the running system',
      because: 'Each side is starved: that proves pipe, wiring and machine with the switch.',
      pins: [],
    },
    {
      id: 'nitrogen',
      title: 'By nitrogen, isolated',
      because:
        'Where the rise is not allowed, or on the bench: it proves points only, so its circuit is proved apart.',
      pins: [],
    },
  ],
  occasions: [
    { id: 'service', title: 'In service', found: true },
    { id: 'new', title: 'New', found: false },
  ],
  permits: [{ id: 'refrigerant', title: 'May open refrigerant circuits' }],
  relations: [
    { terms: { lpStart: 1, lpStop: -1, lpDiff: -1 }, equals: 0, hard: true },
    {
      terms: { hpStop: 1, hpReset: -1 },
      equals: 0,
      plus: hpDiffOf,
      doubt: () => ({ half: bar(0.5), because: 'the fixed differential of such switches' }),
      hard: true,
    },
  ],
  ceiling: 'what the high side allows, or nine tenths of the relief',
  limits,
  never,
  least: (plan, setting) => (setting === 'lpStop' ? floorOf(plan) : undefined),
  worst,
  check,
  figures,
  beside,
  ladder,
  drawing,
  walk,
  findings,
  unproved,
  recommend,
  // What was read through a shut tube says nothing of the spindle.
  learnsFrom: (job, adjuster) => (adjuster === 'high' ? 0 : now.cleared(job)),
  ends: {
    set: 'Landed, plates on, and proved.',
    left: 'It acts where it should.',
  },
  rig: refrigerationSwitchRig,
});

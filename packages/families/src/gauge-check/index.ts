import { defineFamily } from '../define/index.js';
import { drawing } from './drawing.js';
import { evidence, findings, recommend, unproved } from './findings.js';
import { gaugeCheckMeta } from './meta.js';
import { parts } from './parts.js';
import { check, ladder, limits, worst } from './plan.js';
import { gaugeCheckRig } from './rig.js';
import { follows, plateOf, unitOf } from './scale.js';
import { walk } from './walk.js';

/** The test gauge itself. */
export const family = defineFamily(gaugeCheckMeta, parts, {
  variants: [
    { id: 'zero', title: 'Zero only', values: {} },
    { id: 'span-r410a', title: 'Zero, and R-410A at rest', values: { error: 0 } },
    { id: 'span-r134a', title: 'Zero, and R-134a at rest', values: { error: 0 } },
    { id: 'span-r22', title: 'Zero, and R-22 at rest', values: { error: 0 } },
    { id: 'comparison', title: 'Against a better gauge', values: {} },
    { id: 'column', title: 'Against a water column', values: {} },
  ],
  variantsAre: 'Kind of check',
  schools: [
    {
      id: 'zero-only',
      title: 'The screw is for zero only',
      because: 'A zero screw shifts the whole scale: a wrong span is a matter for repair.',
      pins: [],
    },
    {
      id: 'set-at-span',
      title: 'Set the needle at the span pressure',
      because:
        'Right near that pressure only; the zero is spoiled by as much, and the gauge is then restricted.',
      pins: [],
    },
  ],
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
  check,
  ladder,
  drawing,
  walk,
  findings,
  unproved,
  recommend,
  // How it ends is said by its own recommendation.
  ends: { set: '', left: '' },
  evidence,
  rig: gaugeCheckRig,
});

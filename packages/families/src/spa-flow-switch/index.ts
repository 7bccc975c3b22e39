import { defineFamily } from '../define/index.js';
import { drawing } from './drawing.js';
import { findings, recommend, unproved } from './findings.js';
import { spaFlowSwitchMeta } from './meta.js';
import { LEAST_MARGIN, LEAST_WINDOW, opensWithin, parts } from './parts.js';
import { check, ladder } from './plan.js';
import { spaFlowSwitchRig } from './rig.js';
import { walk } from './walk.js';

/** The flow (pressure) switch of a spa heater. It is set by clicks and a meter; nobody reads a pressure. */
export const family = defineFamily(spaFlowSwitchMeta, parts, {
  variants: [
    { id: 'two-speed', title: 'Low and high speed', values: {} },
    { id: 'one-speed', title: 'One speed', values: {} },
  ],
  variantsAre: 'Pump speeds',
  schools: [
    {
      id: 'middle',
      title: 'Measure both edges, set the middle',
      because: 'The middle keeps the most clicks to either side as the filter clogs and the spring ages.',
      pins: [],
    },
    {
      id: 'first',
      title: 'First place that works',
      because: 'Quicker; how much is left to either side is not known afterwards.',
      pins: [],
    },
  ],
  permits: [{ id: 'mains', title: 'May work on mains enclosures' }],
  limits: (_, plate) => ({
    window: { lower: LEAST_WINDOW },
    margin: { lower: LEAST_MARGIN },
    delay: { upper: opensWithin(plate) },
  }),
  never: () => Infinity,
  worst: () => 0,
  check,
  ladder,
  drawing,
  walk,
  findings,
  unproved,
  recommend,
  wasSet: (job) => job.state.turns.length > 0,
  ends: { set: 'Closed with water moving, open in time without it.', left: 'It works as it was found.' },
  rig: spaFlowSwitchRig,
});

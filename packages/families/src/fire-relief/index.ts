import { defineFamily } from '../define/index.js';
import { drawing } from './drawing.js';
import { FIRE_PERMIT } from '../shared/impairment.js';
import { findings, recommend, unproved } from './findings.js';
import { fireReliefMeta } from './meta.js';
import { MARGIN, normalByPlate, parts } from './parts.js';
import { check, figures, ladder, limits, never, worst } from './plan.js';
import { fireReliefRig } from './rig.js';
import { lookedOnly, wasSet } from './state.js';
import { walk } from './walk.js';

/** The pilot-operated pressure relief valve of a fire pump. */
export const family = defineFamily(fireReliefMeta, parts, {
  variants: [
    { id: 'electric', title: 'Electric motor, one speed', values: {} },
    { id: 'diesel', title: 'Diesel with a governor', values: {} },
    { id: 'variable', title: 'Variable-speed drive', values: {} },
  ],
  variantsAre: 'Driver',
  schools: [
    {
      id: 'over-normal',
      title: 'A margin over the highest normal pressure',
      because:
        'Normal is governed churn and the most suction. Overspeed is what it must relieve: no margin is added to that.',
      pins: [],
    },
    {
      id: 'by-table',
      title: 'The same, by the spring’s table',
      because:
        'Quicker, and no water through the test header, where the number on the spring is that of the table.',
      pins: [],
    },
  ],
  // Long enough for all of the searches, and no longer [common practice, no source: half an hour].
  timeLimits: [
    {
      key: 'churn',
      during: { pump: 'churn' },
      seconds: 1800,
      title: 'At churn',
      ends: { fact: 'pump', wanted: 'off' },
    },
  ],
  permits: [FIRE_PERMIT],
  occasions: [
    { id: 'service', title: 'In service', found: true },
    { id: 'new', title: 'New or rebuilt', found: false },
  ],
  relations: [
    { terms: { normal: 1 }, equals: 0, plus: normalByPlate, hard: true },
    { terms: { opening: 1, normal: -1, margin: -1 }, equals: 0, hard: true },
    { terms: { margin: 1 }, equals: MARGIN, hard: false },
  ],
  ceiling: 'the weakest component’s rating',
  stopsAlso: 'a drip from the relief',
  limits,
  never,
  worst,
  check,
  figures,
  ladder,
  drawing,
  walk,
  findings,
  unproved,
  recommend,
  checked: (job) => !lookedOnly(job),
  wasSet,
  ends: {
    set: 'It opens where it was planned, and closes without a weep.',
    left: 'It opens 10 to 15 psi over the highest normal pressure, and closes.',
  },
  replaceSays: (f) => `${f.message} ${f.remedy ?? ''}`.trim(),
  outcomes: {
    set: 'Set and proved',
    'left-as-found': 'Left as found',
    replace: 'Not set: to be repaired',
    unfinished: 'Unfinished',
  },
  rig: fireReliefRig,
});

import { defineFamily } from '../define/index.js';
import { drawing } from './drawing.js';
import { findings, unproved } from './findings.js';
import { washerUnloaderMeta } from './meta.js';
import { lossOf, lossOver, parts, USUAL_SPIKE } from './parts.js';
import { check, figures, ladder, limits, never, worst } from './plan.js';
import { washerUnloaderRig } from './rig.js';
import { walk } from './walk.js';

/** The unloader of a pressure washer that traps pressure when the trigger is released. */
export const family = defineFamily(washerUnloaderMeta, parts, {
  variants: [
    { id: 'at-head', title: 'Gauge at the pump head', values: {} },
    { id: 'at-gun', title: 'Gauge at the gun, hose between', values: {} },
    { id: 'at-gun-coil', title: 'Gauge at the gun, hose and coil between', values: {} },
  ],
  variantsAre: 'Where the gauge is',
  schools: [
    {
      id: 'pressure',
      title: 'To the working pressure',
      because: 'What the work needs, and not what the pump could: nozzle, hose and seals last longer.',
      pins: [],
    },
  ],
  // A few minutes in bypass and no longer [common practice, no source: three].
  timeLimits: [
    {
      key: 'bypass',
      during: { engine: 'on', trigger: 'released' },
      seconds: 180,
      title: 'In bypass',
      ends: { fact: 'trigger', wanted: 'pulled' },
    },
  ],
  relations: [
    { terms: { head: 1, working: -1 }, equals: 0, plus: lossOf, doubt: lossOver, hard: true },
    { terms: { trapped: 1, head: -1, spike: -1 }, equals: 0, hard: true },
    { terms: { spike: 1 }, equals: USUAL_SPIKE, hard: false },
  ],
  ceiling: 'what the weakest part allows it',
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
  ends: {
    set: 'Working and trapped are where they should be and come back.',
    left: 'Working and trapped are within limits as found.',
  },
  // Why it is to be replaced leads somewhere: to the valve, the nozzle or the belt.
  replaceSays: (f) => `${f.message} ${f.remedy ?? ''}`,
  rig: washerUnloaderRig,
});

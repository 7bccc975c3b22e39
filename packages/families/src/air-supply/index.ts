import { defineFamily } from '../define/index.js';
import { drawing } from './drawing.js';
import { findings, recommend, unproved } from './findings.js';
import { airSupplyMeta } from './meta.js';
import { parts, psi } from './parts.js';
import { check, figures, follows, ladder, limits, never, wallOver, worst } from './plan.js';
import { airSupplyRig } from './rig.js';
import { learnsFrom } from './learned.js';
import { walk } from './walk.js';

// Out at 130, in at 90: common practice, no source.
const TANK = { cutIn: psi(90), cutOut: psi(130) };

/** A compressor's tank, its wall regulator, and the gun at the end of the hose. */
export const family = defineFamily(airSupplyMeta, parts, {
  variants: [
    { id: 'regulator', title: 'A regulator at the gun', values: { ...TANK, gunFlow: psi(40) } },
    { id: 'valve', title: 'A valve at the gun', values: { ...TANK, gunFlow: psi(40) } },
    { id: 'none', title: 'Nothing at the gun', values: { ...TANK, gunFlow: psi(40) } },
  ],
  variantsAre: 'What sits at the gun',
  schools: [
    {
      id: 'trim',
      title: 'Trimmed at the gun',
      because: 'The wall stands anywhere in its window, and the gun is set by its own control.',
      pins: [],
    },
    {
      id: 'wall',
      title: 'Set at the wall',
      because: 'Gun wide open: the wall alone sets it, hose and all. One gun on one wall.',
      pins: [],
    },
  ],
  occasions: [
    { id: 'service', title: 'In service', found: true },
    { id: 'new', title: 'New', found: false },
  ],
  permits: [{ id: 'mains', title: 'May work on mains enclosures' }],
  relations: [
    {
      terms: { wallFlow: 1, gunFlow: -1 },
      equals: 0,
      plus: wallOver,
      doubt: () => ({ half: psi(5), because: 'what couplers take' }),
      hard: false,
    },
  ],
  ceiling: 'what the weakest part allows, or the relief',
  stopsAlso: 'the first hiss of the relief',
  follows,
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
  learnsFrom,
  ends: { set: 'Gun and wall landed, locked and proved.', left: 'It holds what the gun needs.' },
  rig: airSupplyRig,
});

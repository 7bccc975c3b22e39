import { defineFamily } from '../define/index.js';
import { drawing } from './drawing.js';
import { MAINS } from '../shared/tank.js';
import { findings, recommend, unproved } from './findings.js';
import { wellDriveMeta } from './meta.js';
import { CHARGE_PART, parts, psi, read, USUAL_DROP } from './parts.js';
import { check, figures, ladder, limits, never, worst } from './plan.js';
import { wellDriveRig } from './rig.js';
import { walk } from './walk.js';

/** The constant-pressure pump drive with its small bladder tank. */
export const family = defineFamily(wellDriveMeta, parts, {
  variants: [
    { id: 'first', title: 'First set point in use', values: { setPoint: psi(60) } },
    { id: 'second', title: 'Second set point in use', values: { setPoint: psi(50) } },
  ],
  variantsAre: 'Set point in use',
  schools: [
    {
      id: 'part-of-set-point',
      title: 'Charge at 70 % of the set point',
      because:
        'The drive answers a small fall at once: the tank only bridges it. Two under cut-in is for a switch.',
      pins: [],
    },
  ],
  permits: MAINS,
  relations: [
    { terms: { precharge: 1, setPoint: -CHARGE_PART }, equals: 0, hard: false },
    {
      terms: { setPoint: 1, wake: -1 },
      equals: 0,
      plus: ({ plate }) => read({ values: {}, plate }).plate.drop ?? USUAL_DROP,
      hard: false,
    },
    { terms: { fullDraw: 1, setPoint: -1 }, equals: 0, hard: false },
  ],
  ceiling: 'where the relief may open',
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
  ends: {
    set: 'It holds from a trickle to full draw, with the charge right.',
    left: 'Everything stands inside its limits as found.',
  },
  replaceSays: (f) => `${f.message} ${f.remedy ?? ''}`.trim(),
  rig: wellDriveRig,
});

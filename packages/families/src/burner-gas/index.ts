import { defineFamily } from '../define/index.js';
import { drawing } from './drawing.js';
import { findings, recommend, unproved } from './findings.js';
import { burnerGasMeta } from './meta.js';
import { inches, parts } from './parts.js';
import { check, figures, ladder, limits, never, worst } from './plan.js';
import { burnerGasRig } from './rig.js';
import { walk } from './walk.js';

/** What burners of their kind are commonly set to; the book’s page stands over it [common practice, no source]. */
const SWITCHED = { lowGas: inches(2.5), highGas: inches(8), airTrip: inches(0.5), mainTrip: inches(1) };

/** Gas to a burner: supply before appliance before the switches that watch both. */
export const family = defineFamily(burnerGasMeta, parts, {
  variants: [
    {
      id: 'train',
      title: 'Train with its own regulator and switches',
      values: { static: inches(12), manifold: inches(4), ...SWITCHED },
    },
    {
      id: 'furnace',
      title: 'Furnace: regulator in the valve',
      values: { static: inches(7), manifold: inches(3.5) },
    },
    {
      id: 'ratio',
      title: 'Fan leads the gas: no manifold figure',
      values: { static: inches(10), ...SWITCHED },
    },
  ],
  variantsAre: 'How the burner is fed',
  schools: [
    {
      id: 'measured',
      title: 'Tripped by their pressure',
      because:
        'Each switch is brought to its point by gas or air, its dial untouched: that is what was found.',
      pins: [],
    },
    {
      id: 'dial',
      title: 'To the dial, gas switches',
      because:
        'Where a tap cannot be let down: the dial is run to what stands there. It moves it before it is found, its cover open, and proves it there only.',
      pins: [],
    },
    {
      id: 'figure',
      title: 'By their dials alone',
      because: 'Where no tap lets a switch be tripped. A dial is a claim: the job is signed as not proved.',
      pins: [],
    },
  ],
  occasions: [
    { id: 'service', title: 'In service', found: true },
    { id: 'new', title: 'New', found: false },
  ],
  permits: [
    { id: 'gas', title: 'Licensed for gas' },
    { id: 'mains', title: 'May work on mains enclosures' },
  ],
  relations: [
    { terms: { static: 1, supplyFlow: -1, droop: -1 }, equals: 0, hard: true },
    { terms: { lockUp: 1, manifold: -1, rise: -1 }, equals: 0, hard: true },
  ],
  ceiling: 'what the valve bears, or the book’s most',
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
    set: 'Landed, capped, covered and proved; it burns as the book wants.',
    left: 'Everything stands where the book wants it.',
  },
  rig: burnerGasRig,
});

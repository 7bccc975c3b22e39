import { two } from '@firm-needle/core/rig';
import { defineParts } from '../define/index.js';
import { tank, tankFacts } from '../shared/tank.js';
import { psi } from '../shared/units.js';

export { psi };

/** Air charge over set point on a drive, both gauge pressures [common practice, no source: 68 → 47.6 psi]. */
export const CHARGE_PART = 0.7;
/** How far under cut-in the charge stands on a pressure switch; on a drive it is the wrong rule [common practice]. */
export const SWITCH_RULE_UNDER = psi(2);
/** The set point stays this far under the relief [common practice, no source]. */
export const RELIEF_MARGIN = psi(10);
/** Held from trickle to full draw within this [common practice, no source]. */
export const HALF_BAND = psi(2);
/** Fall that wakes a sleeping drive where its plate does not say [common practice, no source]. */
export const USUAL_DROP = psi(5);
/** A display this far from the gauge is not the gauge's doubt any more. */
export const DISPLAY_OFF = psi(2.5);

const held = { slot: 'system', cycles: 2, from: 5, to: 200, sd: 0.3, dof: 10 } as const;

export const parts = defineParts({
  plate: {
    tankVolume: {
      title: 'Tank volume',
      unit: 'L',
      from: 1,
      to: 500,
      required: true,
      hint: 'small is enough',
    },
    relief: { title: 'Relief opens', unit: 'psi', from: 30, to: 300, required: true },
    least: { title: 'Drive’s least set point', unit: 'psi', from: 5, to: 150 },
    most: { title: 'Drive’s highest set point', unit: 'psi', from: 20, to: 200 },
    drop: { title: 'Wakes after a fall of', unit: 'psi', from: 1, to: 30, hint: 'commonly 5 psi' },
    airMax: { title: 'Tank air limit', unit: 'psi', from: 20, to: 200 },
    weakest: { title: 'Weakest part rated', unit: 'psi', from: 30, to: 400 },
  },
  slots: tank.slots,
  settings: {
    setPoint: { ...held, title: 'Set point, at a trickle', short: 'set', givable: true },
    fullDraw: { ...held, title: 'At full draw', short: 'full' },
    wake: {
      ...held,
      title: 'Wakes at',
      short: 'wake',
      traced: 'cutIn',
      catch: 'low',
      caught: 0.2,
      cycles: 1,
    },
    precharge: tank.precharge,
  },
  screws: {
    keys: {
      title: 'Set point on the drive’s keys',
      kind: 'scale',
      unit: 'psi',
      ways: ['up', 'down'],
      tool: 'the drive’s own keys',
      // A pascal on the keys is a pascal held.
      perTurn: 1 / psi(1),
      spread: 0.03,
      moves: { setPoint: [1, 0.02], fullDraw: [1, 0.02], wake: [1, 0.05] },
      aims: ['setPoint'],
      step: psi(0.5),
      largest: psi(15),
      underPressure: true,
    },
    air: tank.air,
  },
  cautions: {
    live: {
      title: 'Live parts, and charged capacitors',
      text: 'Lock off at the disconnect, and try it. A drive stays charged after switch-off: its cover stays on. Whoever must open it waits the maker’s time first, then proves dead.',
    },
    starts: {
      title: 'It starts by itself',
      text: 'A sleeping drive starts without warning when the pressure falls. Locked off is off; asleep is not.',
    },
    relief: {
      title: 'The relief stands above the set point',
      text: 'At least 10 psi over it. Never plug it, never fit a higher one to make room.',
    },
    stored: tank.stored,
    manual: tank.manual,
  },
  handles: {
    power: { title: 'Power', positions: two('Locked off', 'On') },
    tap: {
      title: 'Taps',
      positions: [
        { title: 'Shut', value: 0 },
        { title: 'Trickle', value: 0.1 },
        { title: 'Full', value: 1 },
      ],
    },
    ...tank.handles,
    bleed: { title: 'Sensor line', positions: two('As found', 'Bled') },
  },
  facts: {
    cautions: { read: { title: 'Cautions read', say: 'Read the cautions again before going on.' } },
    ...tankFacts,
    sensor: {
      bled: {
        title: 'Sensor line bled',
        say: 'Bleed the sensor’s line until clear water runs.',
        hands: { bleed: 1 },
      },
    },
  },
});
export const { steps: s, read } = parts;

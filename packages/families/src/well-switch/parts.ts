import { two } from '@firm-needle/core/rig';
import type { JobView } from '@firm-needle/core/procedure';
import { defineParts } from '../define/index.js';
import { meantCutIn, restless } from './state.js';
import { LOCK_AND_TRY, PRECHARGE_HALF_BAND, tank, tankFacts } from '../shared/tank.js';
import { psi } from '../shared/units.js';

export { psi };

/** Precharge stands this far under cut-in [common practice, no source]. */
export const PRECHARGE_UNDER = psi(2);
/** Cut-out stays this far under the relief [common practice, no source]. */
export const RELIEF_MARGIN = psi(10);
/** Farther than this from the rated pair its springs are not what they were made for [common practice, no source]. */
export const RATED_BAND = psi(10);
/** Shortest run that still cools a small motor, s [common practice; motor makers, from memory]. */
export const SHORTEST_RUN_S = 60;
/** Half-widths of the bands, Pa. */
export const HALF_BAND = {
  cutIn: psi(1.5),
  cutOut: psi(1.5),
  differential: psi(2.5),
  precharge: PRECHARGE_HALF_BAND,
} as const;

const cycle = { slot: 'system', cycles: 2, caught: 0.15, givable: true, from: 5, to: 150, sd: 0.35 } as const;
const restlessOf = (setting: string) => (job: JobView, when: 'found' | 'left') =>
  restless(job, setting, when);
const nut = {
  ways: ['clockwise', 'counter-clockwise'],
  seenFrom: 'seen from the top of the nut',
  tool: 'nut driver',
  backlash: 0.12,
  step: 1 / 8,
} as const;

export const parts = defineParts({
  choices: {
    both: {
      title: 'Both points set because',
      when: ({ school }: { readonly school: string }) => school === 'set-both',
      options: {
        none: 'No reason given',
        wanted: 'The customer needs another differential',
        run: 'The run time asks for it',
        manual: 'The maker’s manual has it so',
      },
    },
  },
  plate: {
    tankVolume: { title: 'Tank volume', unit: 'L', from: 8, to: 2000, required: true },
    pumpFlow: {
      title: 'Pump flow',
      unit: 'L/min',
      from: 5,
      to: 500,
      required: true,
      hint: 'at the middle of the pair',
    },
    relief: {
      title: 'Relief opens',
      unit: 'psi',
      from: 30,
      to: 200,
      required: true,
      hint: 'commonly 75 psi',
    },
    weakest: {
      title: 'Weakest part rated',
      unit: 'psi',
      from: 30,
      to: 400,
      hint: 'cartridge, glued joint, laundry valve',
    },
    airMax: { title: 'Tank air limit', unit: 'psi', from: 20, to: 200 },
    ratedIn: { title: 'Rated cut-in', unit: 'psi', from: 5, to: 150, hint: 'inside the cover' },
    ratedOut: { title: 'Rated cut-out', unit: 'psi', from: 10, to: 200, hint: 'inside the cover' },
    supply: { title: 'Supply voltage', unit: 'V', from: 12, to: 480 },
  },
  slots: tank.slots,
  settings: {
    cutIn: {
      ...cycle,
      title: 'Cut-in',
      short: 'in',
      catch: 'low',
      meant: meantCutIn,
      open: restlessOf('cutIn'),
    },
    cutOut: { ...cycle, title: 'Cut-out', short: 'out', catch: 'high', open: restlessOf('cutOut') },
    differential: {
      ...cycle,
      title: 'Differential',
      short: 'diff',
      had: 'relation',
      cycles: 1,
      caught: 0,
      from: 3,
      to: 80,
      sd: 0.4,
    },
    precharge: tank.precharge,
    runTime: {
      title: 'Run time',
      short: 'run',
      slot: 'system',
      unit: 's',
      had: 'timing',
      timed: 'cutOut',
      // A tank that was drained, a pump that was locked off on the way.
      spoilt: { drain: 'open', power: 'off' },
      from: 0,
      to: 3600,
      sd: 2,
      dof: 10,
    },
  },
  screws: {
    range: {
      ...nut,
      title: 'Range nut',
      // Roughly 1 psi a turn in one school, 2–3 on other switches [common practice]: wide, learned on site.
      perTurn: 1.8,
      spread: 0.45,
      moves: { cutOut: [1, 0.05], cutIn: [1, 0.05] },
      aims: (plan) => (plan.school === 'set-both' ? ['cutIn'] : ['cutOut', 'cutIn']),
      largest: 3,
    },
    differential: {
      ...nut,
      title: 'Differential nut',
      perTurn: 2,
      spread: 0.5,
      moves: { cutOut: [1, 0.05] },
      largest: 2,
    },
    air: tank.air,
  },
  cautions: {
    live: {
      title: 'Live parts under the cover',
      text: 'Lock off. Cover off as if live, then prove dead; prove the tester before and after. No local disconnect: isolate at the panel and lock it.',
    },
    relief: {
      title: 'Stop at a drip from the relief',
      text: 'A relief drips first, then opens fully. Lock the pump off and lower the setting. Never plug it, never fit a higher one to make room.',
    },
    stored: tank.stored,
    manual: tank.manual,
  },
  handles: {
    power: { title: 'Power', positions: two('Locked off', 'On') },
    tap: {
      title: 'Tap',
      positions: [
        { title: 'Shut', value: 0 },
        { title: 'Half', value: 0.5 },
        { title: 'Full', value: 1 },
      ],
    },
    ...tank.handles,
  },
  facts: {
    cautions: {
      read: {
        title: 'Cautions read',
        say: 'Read the cautions again before going on.',
        cautions: ['live', 'relief', 'stored', 'manual'],
      },
    },
    ...tankFacts,
    power: {
      ...tankFacts.power,
      dead: {
        title: 'Locked off, proved dead',
        say: `${LOCK_AND_TRY} Cover off as if live, then prove dead: tester, switch terminals, tester.`,
        cautions: ['live'],
        hands: { power: 0 },
      },
    },
    cover: {
      off: { title: 'Cover off', say: 'Take the cover off. Power stays locked off.', cautions: ['live'] },
      on: { title: 'Cover on', say: 'Put the cover or its guard back.' },
    },
  },
});
export const { steps: s, read } = parts;

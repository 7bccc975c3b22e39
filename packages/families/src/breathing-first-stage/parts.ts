import type { Plan } from '@firm-needle/core/procedure';
import { two } from '@firm-needle/core/rig';
import { defineParts } from '../define/index.js';
import { psi } from '../shared/units.js';

export { psi };

/** Supply where the plate does not say [common practice, no source]. */
export const SUPPLY = { low: psi(300), full: psi(3000) } as const;
/** Most that it may creep while it is watched: a seat in use, and a fresh one that beds in [assumed]. */
export const CREEP = { used: psi(3), fresh: psi(5) } as const;
/** Watched so long, s; purged so often after it was set [common practice, no source]. */
export const WATCH_S = { used: 120, fresh: 300 } as const;
/** A fresh seat takes a set over its first cycles, and stands higher for it by about this [common practice, no source]. */
export const BEDS_IN = psi(5);
/** What the gauges of this work can be a psi or two off; targets keep so far from their window's ends [assumed]. */
export const OFF_THE_ENDS = psi(2);
/** Readings of one supply farther apart than this are of a device that sticks [assumed]. */
export const REPEATS = psi(3);
/** Dip while it is purged that is still right, where the plate does not say [assumed]. */
export const DIP_MOST = psi(30);
/** Supply effect that is still right, a thousand psi of supply, where the plate does not say [assumed]. */
export const EFFECT_MOST = { balanced: psi(3), unbalanced: psi(12) } as const;
/** Usual supply effect, a thousand psi: full over low is the positive side [flow-through pistons +1 to +2: common practice; the rest reckoned]. */
export const USUAL_EFFECT: Readonly<Record<string, number>> = {
  diaphragm: 0,
  'diaphragm-unbalanced': psi(-7),
  piston: psi(1.5),
  'piston-unbalanced': psi(9),
};
/** A locked-up cylinder regulator may stand so far over what it delivers, of that [ISO 2503, from memory]. */
export const RISE_PART = 0.3;
/** Over what was used with more oxygen than this, the oxygen rules hold [EN 144-3 and makers, from memory]. */
export const RICH = 0.22;
/** Never more shims than this in a pack, whatever their thickness [common practice, no source]. */
export const MOST_SHIMS = 3;

type Kind = Pick<Plan, 'variant'>;
/** What nobody breathes from: read, and nothing more. */
export const isIndustrial = ({ variant }: Kind): boolean => variant === 'cylinder-gas';
/** What somebody breathes from. */
const breathed = (plan: Kind): boolean => !isIndustrial(plan);
export const isPiston = ({ variant }: Kind): boolean => variant.startsWith('piston');
export const isBalanced = ({ variant }: Kind): boolean => !variant.endsWith('-unbalanced');
export const isFresh = (plan: Pick<Plan, 'choices'>): boolean => plan.choices?.['seat'] === 'fresh';
export const adjusterOf = (plan: Kind): 'screw' | 'pack' => (isPiston(plan) ? 'pack' : 'screw');
/** What is judged under a plan. */
export const judgedOf = (plan: Kind): readonly ('ipLow' | 'ipFull' | 'stood' | 'delivery' | 'locked')[] =>
  isIndustrial(plan) ? ['delivery', 'locked'] : ['ipLow', 'ipFull', 'stood'];

const ip = { slot: 'ip', from: 20, to: 290, sd: 0.4, dof: 10 } as const;
const width = { ...ip, slot: '', had: 'relation', from: -100, to: 250 } as const;
const shim = { unit: 'mm', from: 0.05, to: 1.5 } as const;

export const parts = defineParts({
  choices: {
    seat: {
      title: 'Its seat',
      options: { used: 'In use', fresh: 'New, just rebuilt' },
      when: (plan: Kind) => !isIndustrial(plan),
    },
  },
  plate: {
    ipLeast: { title: 'Window at full supply, least', unit: 'psi', from: 20, to: 250, required: true },
    ipMost: {
      title: 'Window at full supply, most',
      unit: 'psi',
      from: 20,
      to: 250,
      required: true,
      hint: 'the maker’s manual, for this model and this year',
    },
    lowLeast: { title: 'Window at low supply, least', unit: 'psi', from: 80, to: 250 },
    lowMost: { title: 'Window at low supply, most', unit: 'psi', from: 80, to: 250 },
    supplyLow: { title: 'Low supply', unit: 'psi', from: 200, to: 1000, hint: 'usually 300' },
    supplyFull: { title: 'Full supply', unit: 'psi', from: 1500, to: 4500, hint: 'usually 3000' },
    relief: { title: 'Relief in the line', unit: 'psi', from: 20, to: 290, required: true },
    reliefTol: { title: 'It may open under that by', unit: '%', from: 0, to: 10 },
    weakest: { title: 'Weakest part on the low side', unit: 'psi', from: 40, to: 600 },
    effectMost: { title: 'Supply effect, most, a thousand psi', unit: 'psi', from: 0.5, to: 15 },
    dipMost: { title: 'Dip while purged, most', unit: 'psi', from: 5, to: 60 },
    oxygen: { title: 'Richest gas it ever met', unit: '%', from: 20, to: 100 },
    pack: { ...shim, title: 'Shims inside, together', from: 0, hint: 'measured, not counted' },
    shim1: { ...shim, title: 'Shim 1', hint: 'each that is inside or at hand' },
    shim2: { ...shim, title: 'Shim 2' },
    shim3: { ...shim, title: 'Shim 3' },
    shim4: { ...shim, title: 'Shim 4' },
    shim5: { ...shim, title: 'Shim 5' },
    shim6: { ...shim, title: 'Shim 6' },
  },
  slots: {
    ip: {
      title: 'Gauge on the low side, with its bleed',
      medium: 'air',
      when: (plan) => !isIndustrial(plan),
    },
    outlet: { title: 'Gauge on the outlet', medium: 'air', when: isIndustrial },
  },
  settings: {
    ipFull: { ...ip, title: 'Intermediate, full supply', short: 'full', givable: true, traced: 'lockUp' },
    ipLow: { ...ip, title: 'Intermediate, low supply', short: 'low' },
    stood: { ...ip, title: 'After it was watched', short: 'stood' },
    purging: { ...ip, title: 'While purged', short: 'purged', catch: 'low', caught: 1, from: 0 },
    creep: { ...width, title: 'Crept', short: 'crept' },
    dip: { ...width, title: 'Dip while purged', short: 'dip' },
    effect: { ...width, title: 'Full supply over low', short: 'effect' },
    delivery: { ...ip, slot: 'outlet', title: 'Delivered, flowing', short: 'flows', givable: true, from: 2 },
    locked: { ...ip, slot: 'outlet', title: 'Locked up', short: 'locks', from: 2 },
    rise: { ...width, title: 'Locked up over delivered', short: 'rise' },
  },
  screws: {
    screw: {
      title: 'Spring screw',
      ways: ['clockwise', 'counter-clockwise'],
      seenFrom: 'seen from the key',
      tool: 'the maker’s key',
      // By spring and diaphragm 12 to 46 [reckoned]: probed.
      perTurn: 24,
      spread: 0.5,
      backlash: 0.06,
      moves: { ipFull: [1, 0], ipLow: [1, 0.05], stood: [1, 0.05] },
      aims: ['ipFull', 'ipLow'],
      step: 1 / 16,
      largest: 1,
    },
    pack: {
      title: 'Shim pack',
      kind: 'shim',
      unit: 'hundredth',
      ways: ['of a millimetre thicker', 'of a millimetre thinner'],
      tool: 'the guide and torque of the manual',
      // 20 psi a millimetre, by spring and piston 12 to 25 [reckoned].
      perTurn: 0.2,
      spread: 0.35,
      moves: { ipFull: [1, 0], ipLow: [1, 0.05], stood: [1, 0.05] },
      aims: ['ipFull', 'ipLow'],
      step: 1,
      largest: 100,
    },
  },
  cautions: {
    life: {
      title: 'Someone breathes from this',
      text: 'For people trained and authorised by its maker. The maker’s training, manual and parts come first.',
    },
    relief: {
      title: 'Relief before pressure',
      text: 'No supply until something in the line can open: a failed seat puts the whole bottle on a hose and a glass.',
    },
    slow: { title: 'Open slowly', text: 'Slowly, face and hands aside of gauge and hose.' },
    whip: { title: 'Bottle and hoses secured', text: 'Hose ends held; no fitting is undone under pressure.' },
    dead: {
      title: 'Bled before it is touched',
      text: 'No turn, no cap, no fitting while a needle is up: supply shut, bleed open, a purge gives nothing.',
    },
    guide: {
      title: 'Piston through its guide',
      text: 'It passes its seal only through the guide, or the seal is cut.',
    },
    oxygen: {
      title: 'Oxygen over 22 %',
      text: 'Bench, gauges and hoses kept clean for it, listed parts and lubricant, clean gas, no oil.',
    },
    ears: { title: 'Eyes and ears', text: 'Both protected while it is purged.' },
    fuel: {
      title: 'Other gases',
      text: 'No flame, vented outside; adaptors are never swapped between gases. Nobody breathes from those.',
    },
    manual: { title: 'The maker’s word comes first', text: 'Where the manual says otherwise, it wins.' },
  },
  handles: {
    supply: {
      title: 'Supply',
      positions: [
        { title: 'Shut', value: 0 },
        { title: 'Low', value: 1 },
        { title: 'Full', value: 2 },
      ],
    },
    bleed: { title: 'Bleed', positions: two('Shut', 'Open') },
    purge: {
      title: 'Second stage’s purge',
      positions: [
        { title: 'Let go', value: 0 },
        { title: 'Held two seconds', value: 1 },
        { title: 'A few times', value: 4 },
        { title: 'Ten times', value: 10 },
        { title: 'Fifty times', value: 50 },
      ],
      when: breathed,
    },
    relief: {
      title: 'Relief in the line',
      positions: [...two('None', 'Screwed in'), { title: 'Another', value: 2 }],
    },
    joints: { title: 'Hose joints', positions: two('As made', 'Made again'), when: breathed },
    valve: { title: 'Bottle’s valve', positions: two('As it was opened', 'Fully open'), when: breathed },
    cap: { title: 'Cap', positions: two('Off', 'On, tight'), when: breathed },
    knob: { title: 'Its knob', positions: two('Out', 'In'), when: isIndustrial },
    cock: { title: 'Cock to the vent', positions: two('Shut', 'Cracked'), when: isIndustrial },
  },
  facts: {
    cautions: {
      read: {
        title: 'Cautions read',
        say: 'Read the cautions again before going on.',
        cautions: ['life', 'relief', 'slow', 'whip', 'dead', 'manual'],
      },
    },
    relief: {
      inline: {
        title: 'Relief in the line',
        say: 'Screw a relief into the line. No supply before.',
        cautions: ['relief'],
        hands: { relief: 1 },
      },
    },
    line: {
      closed: { title: 'Bleed shut', say: 'Shut the bleed.', hands: { bleed: 0 } },
      bled: {
        title: 'Shut and bled',
        say: 'Supply shut, bleed open: both needles rest, a purge gives nothing.',
        cautions: ['dead'],
        hands: { supply: 0, bleed: 1, purge: 0 },
      },
    },
    supply: {
      low: {
        title: 'At low supply',
        say: 'Bleed shut. Face aside, slowly to low supply.',
        cautions: ['slow', 'relief'],
        hands: { bleed: 0, supply: 1 },
      },
      full: {
        title: 'At full supply',
        say: 'Bleed shut. Face aside, slowly on to full supply.',
        cautions: ['slow', 'relief'],
        hands: { bleed: 0, supply: 2 },
      },
      shut: { title: 'Supply shut', say: 'Shut the supply.', hands: { supply: 0 } },
    },
    cap: {
      off: { title: 'Cap off', say: 'Cap off.', cautions: ['dead'], hands: { cap: 0 } },
      tight: { title: 'Cap tight', say: 'Cap on, to its torque.', cautions: ['dead'], hands: { cap: 1 } },
    },
  },
});
export const { steps: s, read } = parts;

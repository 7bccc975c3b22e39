import { two } from '@firm-needle/core/rig';
import { impairmentFact } from '../shared/impairment.js';
import { defineParts } from '../define/index.js';
import { psi } from '../shared/units.js';

export { psi };

/** Lock-up over flowing that the seat needs to seal, and the most that is still only that [common practice, no source]. */
export const USUAL_RISE = psi(5);
export const MOST_RISE = psi(10);
export const HALF_BAND = psi(1.5);
/** The least that must be taken away for the valve to govern [common practice, no source]. */
export const LEAST_DROP = psi(10);

const outlet = { slot: 'outlet', from: 2, to: 600, sd: 0.3, dof: 10 } as const;
const trim = {
  ways: ['open, faster', 'closed, slower'],
  tool: 'small wrench',
  perTurn: 1,
  spread: 0.5,
  moves: {},
  step: 1 / 4,
  largest: 3,
  underPressure: true,
} as const;

export const parts = defineParts({
  choices: {
    feeds: { title: 'Feeds', options: { use: 'Water in use', fire: 'Fire protection' } },
  },
  plate: {
    size: { title: 'Valve size', unit: 'in', from: 0.5, to: 36, required: true },
    supply: { title: 'Inlet pressure', unit: 'psi', from: 15, to: 600, required: true },
    leastFlow: {
      title: 'Least steady flow',
      unit: 'gpm',
      from: 0,
      to: 5000,
      required: true,
      hint: 'from the data sheet; a 4 in valve: about 50',
    },
    draw: { title: 'Draw at hand', unit: 'gpm', from: 0, to: 20000 },
    relief: { title: 'Relief downstream', unit: 'psi', from: 10, to: 600 },
    weakest: { title: 'Weakest part downstream', unit: 'psi', from: 10, to: 1500 },
    upstream: { title: 'Pipe upstream', unit: 'ft', from: 0, to: 164_000 },
    bore: { title: 'Its bore', unit: 'in', from: 0.25, to: 60 },
  },
  slots: {
    outlet: { title: 'Outlet gauge', medium: 'water' },
    inlet: { title: 'Inlet gauge', medium: 'water' },
  },
  settings: {
    flowing: { ...outlet, title: 'Flowing', short: 'flow', cycles: 2, givable: true },
    lockUp: { ...outlet, title: 'Lock-up', short: 'lock', cycles: 2 },
    rise: {
      ...outlet,
      title: 'Lock-up over flowing',
      short: 'rise',
      had: 'relation',
      givable: true,
      from: 0,
      to: 100,
    },
    inlet: { ...outlet, title: 'Inlet', short: 'inlet', slot: 'inlet' },
  },
  screws: {
    pilot: {
      title: 'Pilot screw',
      ways: ['clockwise, inward', 'counter-clockwise, outward'],
      seenFrom: 'seen from the screw’s head',
      tool: 'wrench for the lock nut',
      // No figure holds for pilots in general [common practice]: it is probed, and learned.
      perTurn: 10,
      spread: 0.7,
      backlash: 0.1,
      moves: { flowing: [1, 0.02], lockUp: [1, 0.05] },
      aims: ['flowing'],
      step: 1 / 16,
      largest: 2,
      underPressure: true,
    },
    opening: { ...trim, title: 'Opening speed control' },
    closing: { ...trim, title: 'Closing speed control' },
  },
  cautions: {
    stored: {
      title: 'Pressure on both sides, and in the cover',
      text: 'Isolate and bleed before a fitting is loosened. Couplings are tightened before the inlet is cracked open.',
    },
    entry: {
      title: 'No chamber alone',
      text: 'Confined space. Never alone: air tested, second person, trench shored. Your own entry rules come first.',
    },
    downstream: {
      title: 'Know what stands downstream',
      text: 'Lock-up stands on everything after the valve. Its relief works, and lock-up stays below every rating there.',
    },
    fire: {
      title: 'Where it feeds fire protection',
      text: 'An impairment notice, a fire watch and the authority’s consent before it is shut or changed.',
    },
    manual: {
      title: 'The maker’s word comes first',
      text: 'Where the manual or the data sheet says otherwise, follow it.',
    },
  },
  handles: {
    gauges: { title: 'Gauges', positions: two('Vented', 'Connected') },
    inlet: { title: 'Inlet', positions: two('Shut', 'Open') },
    draw: { title: 'Draw', positions: [...two('Shut', 'Open'), { title: 'Two open', value: 2 }] },
    cocks: { title: 'Pilot cocks', positions: two('As found', 'Open') },
    strainer: { title: 'Strainer', positions: two('As found', 'Clean') },
    bleed: { title: 'Bleeds', positions: two('As found', 'Bled again') },
  },
  facts: {
    cautions: { read: { title: 'Cautions read', say: 'Read the cautions.' } },
    impairment: impairmentFact('fire'),
    flow: {
      enough: {
        title: 'Flow above the minimum',
        say: 'Open a draw and keep it above the valve’s least flow.',
        hands: { draw: 1 },
      },
      shut: { title: 'Draw shut', say: 'Shut every draw.', hands: { draw: 0 } },
    },
    cocks: {
      open: {
        title: 'Cocks open',
        say: 'Open every isolating cock of the pilot circuit.',
        hands: { cocks: 1 },
      },
    },
    strainer: {
      clean: { title: 'Strainer clean', say: 'Clean the pilot’s strainer.', hands: { strainer: 1 } },
    },
    bled: {
      yes: {
        title: 'Cover bled',
        say: 'Bleed cover and tubing until clear water runs.',
        hands: { bleed: 1 },
      },
    },
    draws: { more: { title: 'More drawn', say: 'Open a second draw.', hands: { draw: 2 } } },
    inlet: {
      open: { title: 'Inlet open', say: 'Open the inlet slowly.', cautions: ['stored'], hands: { inlet: 1 } },
    },
  },
});
export const { steps: s, read } = parts;

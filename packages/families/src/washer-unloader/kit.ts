import { dial, type Kit } from '../define/kit.js';
import { psi } from '../shared/units.js';

/** One plausible installation, and what must be concluded on it. */
export const kit: Kit = {
  plate: {
    rating: '3000 psi',
    flow: '4 gpm',
    nozzle: '4.5 gpm',
    weakest: '4200 psi',
    hose: '50 ft',
    hoseBore: '0.375 in',
  },
  given: { head: '2700 psi' },
  gauges: { test: dial('T-5', 'psi', 5000, 50, 0.5, '1A') },
  variants: [
    { name: 'unloader, gauge at the head', variant: 'at-head' },
    { name: 'unloader, gauge at the gun', variant: 'at-gun' },
  ],
  concludes: {
    none: [['left-as-found']],
    'set-low': [['set']],
    'worn-nozzle': [['replace', 'full-travel-low']],
    'slipping-belt': [['replace', 'full-travel-low']],
    'air-in-inlet': [['replace', 'air-inlet']],
    'leaking-check': [['replace', 'check-leaks']],
    'sticking-piston': [['replace', 'spike-large']],
    'wrong-spring': [['replace', 'spring']],
  },
  permits: [],
  practice: {
    lines: {
      none: 'It cleans as it always did. It is due.',
      'set-low': 'It does not cut the dirt any more; somebody turned the knob.',
      'worn-nozzle': 'It has done a whole season of concrete with that nozzle.',
      'slipping-belt': 'It squeals when the trigger is pulled.',
      'air-in-inlet': 'The jet pulses, and the hose was long.',
      'leaking-check': 'The engine labours while nobody sprays.',
      'sticking-piston': 'The gun kicks when the trigger is let go.',
      'wrong-spring': 'It was mended elsewhere with a part that "fits them all".',
    },
    hurts: [
      { deed: 'nozzle', while: { engine: [1] }, text: 'The nozzle was changed with the engine running.' },
      {
        deed: 'nozzle',
        over: ['test', psi(100)],
        text: 'The nozzle was changed with pressure trapped behind it.',
      },
    ],
    pairs: [
      ['flush', 'start', 2],
      ['mark', 'turn-handle', 1],
      ['lock-nut', 'locked-working', 2],
    ],
  },
  truths: ({ truth }) => ({ working: truth['working'] ?? NaN, spike: truth['spike'] ?? NaN }),
  trace: { figures: { working: ['working', 6], trapped: ['trapped', 6], spike: ['spike', 6] } },
};

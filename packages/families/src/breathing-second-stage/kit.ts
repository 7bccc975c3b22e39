import { dial, type Kit } from '../define/kit.js';

/** One plausible installation, and what must be concluded on it. */
export const kit: Kit = {
  plate: {
    effortLeast: '1.05 inH2O',
    effortMost: '1.55 inH2O',
    ipLeast: '128 psi',
    ipMost: '141 psi',
    relief: '174 psi',
  },
  gauges: {
    suction: dial('S-2', 'inH2O', 4, 0.05, 0.5, 0.5),
    ip: dial('R-3', 'psi', 300, 1, 0.5, 0.25),
  },
  variants: [
    { name: 'second stage, orifice turns', variant: 'adjustable' },
    { name: 'second stage, balanced', variant: 'adjustable-balanced' },
    {
      name: 'second stage, rebuilt',
      variant: 'adjustable',
      occasion: 'rebuilt',
      concludes: { none: [['set']], 'case-leak': [['set', 'case-mended']] },
    },
    {
      name: 'second stage, its first to be rebuilt',
      variant: 'adjustable',
      links: {
        first: {
          control: 'first',
          name: 'First stage',
          values: {},
          signed: { at: '2030-01-01', outcome: 'replace', proved: true },
        },
      },
      concludes: Object.fromEntries(
        ['none', 'stiff', 'light', 'free-flow', 'lever-low', 'case-leak'].map((fault) => [
          fault,
          [['unfinished', 'first-unproved']],
        ]),
      ),
    },
    {
      name: 'second stage, lever alone',
      variant: 'fixed',
      concludes: {
        stiff: [['replace', 'parts']],
        light: [['replace', 'parts']],
        'free-flow': [['set', 'free-flow']],
      },
    },
  ],
  concludes: {
    none: [['left-as-found']],
    stiff: [['set']],
    light: [['set']],
    'free-flow': [['set', 'free-flow']],
    'cut-seat': [['replace', 'seat-cut']],
    'high-ip': [['unfinished', 'first-out']],
    'creeping-ip': [['unfinished', 'first-out']],
    'lever-low': [['set', 'lever-set']],
    'bent-lever': [['replace', 'lever']],
    'case-leak': [['left-as-found', 'case-mended']],
    'case-gone': [['replace', 'case-leaks']],
    sticky: [['replace', 'scatter']],
    cracked: [['replace', 'cracked']],
  },
  permits: ['breathing'],
  truths: ({ truth }) => ({ effort: truth['effort'] ?? NaN, ip: truth['ip'] ?? NaN }),
  trace: { figures: { cracking: ['effort', 0.004] } },
};

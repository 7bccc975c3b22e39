import { dial, type Kit } from '../define/kit.js';

/** One plausible installation, and what must be concluded on it. */
export const kit: Kit = {
  plate: { size: '3 in', supply: '88 psi', leastFlow: '30 gpm', relief: '75 psi', weakest: '150 psi' },
  given: { flowing: '52 psi' },
  gauges: { outlet: dial('T-6', 'psi', 100, 0.5, 0.5, '2A'), inlet: dial('T-7', 'psi', 160, 1, 0.5, '2A') },
  variants: [
    { name: 'reducing valve', variant: 'steel' },
    { name: 'reducing valve, feeds fire protection', variant: 'steel', choices: { feeds: 'fire' } },
    {
      name: 'reducing valve, new',
      variant: 'steel',
      occasion: 'new',
      // Nothing was found that could be left as it was.
      concludes: {
        none: [['set']],
        'trapped-air': [['set', 'was-air']],
        'low-flow': [['set', 'was-flow']],
      },
    },
  ],
  concludes: {
    none: [['left-as-found']],
    'set-low': [['set']],
    'trapped-air': [['left-as-found', 'was-air']],
    'low-flow': [['left-as-found', 'was-flow']],
    'shut-cock': [['set', 'was-cock']],
    'blocked-strainer': [['set', 'was-strainer']],
    'torn-diaphragm': [['replace', 'diaphragm']],
    'seat-debris': [['replace', 'seat-leaks']],
  },
  permits: ['fire'],
  practice: {
    lines: {
      none: 'The tenants say nothing, which is good.',
      'set-low': 'Since the last visit the top floor is thin.',
      'trapped-air': 'The main was drained last week; the needle has trembled since.',
      'low-flow': 'Hardly anybody is in the building at the moment.',
      'shut-cock': 'Somebody exercised all the valves and cocks of the plant room.',
      'blocked-strainer': 'The works in the street brought up mud.',
      'torn-diaphragm': 'Water drips from the bonnet, now and then.',
      'seat-debris': 'At night, with nobody drawing, the fittings hiss.',
    },
    pairs: [
      ['mark', 'turn-pilot', 1],
      ['lock-nut', 'left-lock-up', 2],
      ['found-lock-up', 'turn-pilot', 2],
    ],
  },
  truths: ({ truth }) => ({ flowing: truth['flowing'] ?? NaN, rise: truth['rise'] ?? NaN }),
  trace: { figures: { flowing: ['flowing', 0.2], lockUp: ['lockUp', 0.2], droop: ['rise', 0.2] } },
};

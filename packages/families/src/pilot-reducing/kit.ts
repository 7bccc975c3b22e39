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
  truths: ({ truth }) => ({ flowing: truth['flowing'] ?? NaN, rise: truth['rise'] ?? NaN }),
  trace: { figures: { flowing: ['flowing', 0.2], lockUp: ['lockUp', 0.2], droop: ['rise', 0.2] } },
};

import type { Kit } from '../define/kit.js';

/** One plausible installation, and what must be concluded on it. */
export const kit: Kit = {
  gauges: {},
  variants: [
    { name: 'spa switch, two speeds', variant: 'two-speed' },
    {
      name: 'spa switch, one speed',
      variant: 'one-speed',
      // There is a place at which it opens in time.
      concludes: { 'slow-decay': [['set']] },
    },
    {
      name: 'spa switch, first place that works',
      variant: 'two-speed',
      school: 'first',
      // Only the width of the window tells of too little flow where a hurried look says that all is in order.
      concludes: {
        'dirty-filter': [['set', 'margin-unknown']],
        'shut-valve': [['set', 'margin-unknown']],
        'air-lock': [
          ['set', 'margin-unknown'],
          ['set', 'was-air'],
        ],
        'slow-decay': [['replace', 'not-both'], ['set']],
      },
    },
  ],
  concludes: {
    none: [['left-as-found']],
    'dirty-filter': [['set', 'was-filter']],
    'shut-valve': [['set', 'was-valve']],
    'air-lock': [['set', 'was-air']],
    'stuck-closed': [['replace', 'stuck-closed']],
    'drifted-high': [['set']],
    'drifted-low': [['set']],
    'slow-decay': [['replace', 'opens-late']],
  },
  permits: ['mains'],
  // The wheel must stand between the edges; its margin is the nearer one's distance.
  practice: {
    lines: {
      none: 'It heats. The yearly service.',
      'dirty-filter': 'The heater drops out, more so since the guests were here.',
      'shut-valve': 'Somebody worked at the pipes and was in a hurry to leave.',
      'air-lock': 'It was drained and filled again yesterday; since then it does not heat.',
      'stuck-closed': 'The heater stayed on with the pump off; it was smelt.',
      'drifted-high': 'The heater clicks off while everything runs.',
      'drifted-low': 'The panel shows flow while nothing runs.',
      'slow-decay': 'The lamp stays on for a good while after the pump stops.',
    },
    pairs: [
      ['before', 'isolate', 1],
      ['found-low', 'edge-closes', 2],
    ],
  },
  truths: ({ truth }) => ({
    margin:
      Math.min(
        (truth['closes'] ?? NaN) - (truth['wheel'] ?? NaN),
        (truth['wheel'] ?? NaN) - (truth['opens'] ?? NaN),
      ) + 1,
  }),
};

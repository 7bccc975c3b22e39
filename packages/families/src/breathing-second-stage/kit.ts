import { dial, type Kit } from '../define/kit.js';
import { lineHurts, UNDER_PRESSURE } from '../shared/breathing.js';

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
  seldom: [{ variant: 'second stage, orifice turns', fault: 'stiff', says: { 'left-listen': 'weak' } }],
  practice: {
    lines: {
      none: 'It was used all season. Nobody complained.',
      stiff: 'One has to pull at it.',
      light: 'It starts to flow when it is just dipped.',
      'free-flow': 'It hisses while it hangs there.',
      'cut-seat': 'It hisses, and turning the knob does not help.',
      'high-ip': 'The other one on the same first stage hisses as well.',
      'creeping-ip': 'It is quiet at first and hisses after a while.',
      'lever-low': 'The button has play, and one gets little.',
      'bent-lever': 'It was taken apart in the boat.',
      'case-leak': 'There is a drop of water with every breath.',
      'case-gone': 'It was stood on, on the jetty.',
      sticky: 'Sometimes the first breath is a hard one.',
      cracked: 'It fell down the hatch.',
    },
    access: ['tool', 'side'],
    hurts: [
      ...lineHurts([1]),
      {
        deed: 'tool',
        while: { bleed: [0] },
        over: ['ip', UNDER_PRESSURE],
        text: 'A hose was uncoupled under pressure.',
      },
      {
        deed: 'purge',
        to: [1, 4, 10],
        while: { shutoff: [1], supply: [1] },
        severity: 2,
        text: 'It was purged with the low-range gauge open: its needle is bent.',
      },
      {
        deed: 'orifice',
        while: { thumb: [0] },
        severity: 2,
        text: 'The orifice was turned against its seat: the seat is cut.',
      },
    ],
    pairs: [
      ['relief', 'found-ip', 3],
      ['bled-for-tool', 'tool-in', 3],
      ['found-ip', 'found-draw-1', 2],
      ['found-case', 'found-draw-1', 2],
      ['silent', 'nut-hiss', 2],
      ['closed-up', 'left-draw-1', 2],
    ],
    breathed: true,
  },
  truths: ({ truth }) => ({ effort: truth['effort'] ?? NaN, ip: truth['ip'] ?? NaN }),
  trace: { figures: { cracking: ['effort', 0.004] } },
};

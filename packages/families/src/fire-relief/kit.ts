import { dial, type Kit } from '../define/kit.js';

/** One plausible installation, and what must be concluded on it. */
export const kit: Kit = {
  plate: {
    churn: '128 psi',
    suctionMost: '24 psi',
    suctionLeast: '10 psi',
    rating: '175 psi',
    perTurn: '27 psi',
    springLeast: '20 psi',
    springMost: '200 psi',
    speed: '2100 rpm',
  },
  gauges: {
    system: dial('T-8', 'psi', 300, 1, 0.5, '3A'),
    suction: dial('T-9', 'psi', 60, 0.5, 0.5, '2A'),
  },
  variants: [
    {
      name: 'fire relief, electric',
      variant: 'electric',
      // A motor of one speed has no governor to run away.
      concludes: { overspeed: [['left-as-found']] },
    },
    {
      name: 'fire relief, seen dry',
      variant: 'electric',
      choices: { check: 'look' },
      // What only a measurement shows is not looked for.
      concludes: {
        ...Object.fromEntries(
          [
            'small-margin',
            'set-high',
            'wrong-spring',
            'blocked-sensing',
            'spring-end',
            'overspeed',
            'gauge-on-cover',
          ].map((fault) => [fault, [['left-as-found', 'not-measured']] as const]),
        ),
        none: [['left-as-found', 'not-measured']],
      },
    },
    {
      name: 'fire relief, new',
      variant: 'electric',
      occasion: 'new',
      // It had no place to be found in: it is set wherever it stood.
      concludes: {
        ...Object.fromEntries(
          ['none', 'small-margin', 'set-low', 'set-high', 'overspeed'].map((f) => [f, [['set']] as const]),
        ),
        'blocked-sensing': [['set', 'was-sensing']],
        'gauge-on-cover': [['set', 'was-cover']],
      },
    },
    {
      name: 'fire relief, by the spring’s table',
      variant: 'electric',
      school: 'by-table',
      concludes: {
        overspeed: [['left-as-found']],
        // A few psi too little may not show where what a turn does was not measured.
        'small-margin': [['set'], ['left-as-found']],
      },
    },
    { name: 'fire relief, diesel', variant: 'diesel' },
    { name: 'fire relief, variable speed', variant: 'variable' },
  ],
  concludes: {
    none: [['left-as-found']],
    'small-margin': [['set', 'margin-small']],
    'set-low': [['set', 'ran-at-churn']],
    'set-high': [['set', 'above-rating']],
    'seat-debris': [['replace', 'seat-leaks']],
    'wrong-spring': [['replace', 'wrong-spring']],
    'blocked-sensing': [['left-as-found', 'was-sensing']],
    'spring-end': [['replace', 'spring-end']],
    overspeed: [['replace', 'overspeed']],
    'gauge-on-cover': [['left-as-found', 'was-cover']],
  },
  permits: ['fire'],
  seldom: [
    { fault: 'blocked-sensing', says: { 'why-dry': 'none' } },
    { fault: 'gauge-on-cover', says: { trace: 'upstream' } },
    { walk: 1140 },
  ],
  practice: {
    lines: {
      none: 'The weekly test runs as ever.',
      'small-margin': 'It spits a little at every weekly test.',
      'set-low': 'The waste cone runs as soon as the pump does.',
      'set-high': 'It has never been seen to open.',
      'seat-debris': 'It drips since the tank was cleaned.',
      'wrong-spring': 'The pilot was rebuilt by somebody who was new to it.',
      'blocked-sensing': 'It opened once and then never again; the line has not been off in years.',
      'spring-end': 'The screw is nearly down, and they say it was turned every year.',
      overspeed: 'The engine sounds higher than it did, says the watchman.',
      'gauge-on-cover': 'A gauge was added after the last audit, where there was a plug.',
    },
    hurts: [
      {
        deed: 'pump',
        to: [1],
        while: { gauges: [0] },
        severity: 2,
        text: 'The pump was started with no gauge on it.',
      },
    ],
    pairs: [
      ['impairment', 'path', 3],
      ['path', 'read-churn', 3],
      ['mark-set', 'lock-nut', 1],
    ],
  },
  truths: ({ truth, view }) => ({
    opening: truth['opening'] ?? NaN,
    margin:
      (truth['opening'] ?? NaN) - (truth['net'] ?? NaN) - (view.plan.plate['suctionMost']?.value ?? NaN),
  }),
  trace: { variant: 'variable', figures: { opening: ['opening', 0.8], reseat: ['reseat', 0.8] } },
};

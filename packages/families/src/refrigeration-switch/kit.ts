import { dial, type Kit, type Right } from '../define/kit.js';

const as = (...rights: readonly Right[]): readonly Right[] => rights;

const COMPOUND = dial('C-1', 'bar', 12, 0.01, 1, 0.25, { kind: 'digital', lower: -1, medium: 'refrigerant' });
const HIGH = dial('C-2', 'bar', 40, 0.05, 1, 0.25, { kind: 'digital', medium: 'refrigerant' });

/** What a side that is not there, or not raised, cannot show. */
const LOW_FAULTS = [
  'diff-wide',
  'diff-narrow',
  'stop-low',
  'low-off',
  'start-high',
  'tube-blocked',
  'valve-leaks',
  'timer',
];
const HIGH_FAULTS = [
  'high-off',
  'high-low',
  'high-welded',
  'self-reset',
  'no-reset',
  'low-charge',
  'fouled-condenser',
];
const fine = (faults: readonly string[], right = as(['left-as-found'])) =>
  Object.fromEntries(faults.map((f) => [f, right]));

/** One plausible installation, and what must be concluded on it. */
export const kit: Kit = {
  plate: {
    psHigh: '25 bar',
    relief: '26 bar',
    room: '5 degC',
    ambient: '30 degC',
    suction: '2.6 bar',
    discharge: '9 bar',
    fanOn: '11 bar',
    lpLow: '-0.5 bar',
    lpHigh: '7 bar',
    diffLow: '0.5 bar',
    diffHigh: '4 bar',
    hpLow: '6 bar',
    hpHigh: '30 bar',
  },
  given: { lpStart: '2 bar', lpStop: '0.8 bar', hpStop: '16 bar' },
  gauges: { low: COMPOUND, high: HIGH },
  permits: ['refrigerant'],
  variants: [
    { name: 'refrigeration switch, dual', variant: 'dual' },
    {
      name: 'refrigeration switch, both by themselves',
      variant: 'dual-auto',
      concludes: { 'self-reset': as(['left-as-found']) },
    },
    {
      name: 'low-pressure switch',
      variant: 'lp',
      given: { lpStart: '2 bar', lpStop: '0.8 bar' },
      concludes: fine(HIGH_FAULTS),
    },
    {
      name: 'low-pressure switch, by knob',
      variant: 'lp-manual',
      given: { lpStart: '2 bar', lpStop: '0.8 bar' },
      concludes: {
        ...fine([...HIGH_FAULTS, 'timer', 'valve-leaks', 'start-high']),
        // Brought up by its one spindle, its start may come to stand over what the room gives.
        'diff-wide': as(['set'], ['replace', 'no-lp-start'], ['replace', 'knob-refuses']),
        // Only its stop can be read: what feels late looks like one that stops too low.
        'tube-blocked': as(['set'], ['left-as-found', 'tube-blocked']),
      },
    },
    {
      name: 'high-pressure switch, by knob',
      variant: 'hp-manual',
      concludes: {
        ...fine([...LOW_FAULTS, 'wanders', 'no-receiver']),
        'by-passed': as(['replace', 'no-hp-stop']),
      },
    },
    {
      name: 'refrigeration switch, by nitrogen',
      variant: 'dual',
      school: 'nitrogen',
      concludes: {
        // On the isolated switch the pipe and the machine are not seen.
        ...fine(['tube-blocked', 'valve-leaks', 'low-charge', 'no-receiver', 'timer', 'fouled-condenser']),
        'start-high': as(['set']),
        'stop-low': as(['set']),
        'by-passed': as(['unfinished', 'by-passed']),
      },
    },
    {
      name: 'refrigeration switch, new',
      variant: 'dual',
      occasion: 'new',
      concludes: {
        none: as(['set']),
        'port-leaks': as(['set', 'leak']),
        'tube-blocked': as(['set', 'tube-blocked']),
        'no-receiver': as(['set', 'no-receiver'], ['set']),
        ...fine(
          [
            'diff-wide',
            'diff-narrow',
            'stop-low',
            'low-off',
            'start-high',
            'valve-leaks',
            'timer',
            'low-charge',
          ],
          as(['set']),
        ),
      },
    },
  ],
  concludes: {
    none: as(['left-as-found']),
    'diff-wide': as(['set']),
    'diff-narrow': as(['set', 'short-cycle'], ['set']),
    'stop-low': as(['set', 'no-lp-stop'], ['set', 'vacuum-stop']),
    'low-off': as(['set']),
    'start-high': as(['set', 'no-lp-start']),
    'high-off': as(['set']),
    'high-low': as(['set', 'hp-nuisance'], ['set']),
    'high-welded': as(['replace', 'no-hp-stop']),
    'self-reset': as(['replace', 'self-reset']),
    'no-reset': as(['replace', 'no-reset']),
    'tube-blocked': as(['left-as-found', 'tube-blocked'], ['set', 'tube-blocked']),
    'low-charge': as(['left-as-found', 'unlike-before']),
    'no-receiver': as(['left-as-found', 'no-receiver']),
    'valve-leaks': as(['left-as-found', 'pumps-back']),
    unlocked: as(['left-as-found', 'unlocked'], ['set', 'unlocked']),
    timer: as(['left-as-found']),
    'by-passed': as(['replace', 'no-lp-stop'], ['replace', 'no-hp-stop']),
    'port-leaks': as(['left-as-found', 'leak']),
    'fouled-condenser': as(['unfinished', 'hp-not-reached']),
    // Whatever is said of one that hangs: it is replaced.
    wanders: as(['replace', 'scatter'], ['replace']),
    'zero-off': as(
      ['left-as-found', 'gauge-zero'],
      ['left-as-found', 'gauge-unfit'],
      ['left-as-found'],
      ['unfinished', 'gauge-unfit'],
    ),
  },
  practice: {
    lines: {
      none: 'It holds its temperature. The yearly look.',
      'diff-wide': 'It warms a lot before it comes on again.',
      'diff-narrow': 'It is on and off all the time.',
      'stop-low': 'The frost on the suction line comes far back.',
      'low-off': 'The pointer of the low side was moved by hand, somebody says.',
      'start-high': 'On mild days it starts late or not at all.',
      'high-off': 'The high side was set "by ear" in summer.',
      'high-low': 'It goes out on the first hot day.',
      'high-welded': 'It once ran against a shut valve, and nothing stopped it.',
      'self-reset': 'It goes off and comes back by itself; nobody pressed anything.',
      'no-reset': 'One presses the button, and it does not hold.',
      'tube-blocked': 'The needle moves, the switch does not hear of it.',
      'low-charge': 'It has not been as cold since the door gasket was changed.',
      'no-receiver': 'The plant was put together from parts of two others.',
      'valve-leaks': 'It does not stay down when it is pumped down.',
      unlocked: 'The lid was off when we came.',
      timer: 'It waits a while before it starts, ever since the panel was renewed.',
      'by-passed': 'There is a jumper in the box. The one who put it there has left.',
      'port-leaks': 'There is oil around the port.',
      'fouled-condenser': 'The fan sounds as if it pulled through felt.',
      wanders: 'One day it stops here, the next day there.',
      'zero-off': 'The manifold fell off the roof ladder, a small way.',
    },
    access: ['plates'],
    hurts: [
      {
        deed: 'plates',
        to: [0],
        while: { power: [1] },
        text: 'The plates came off beside live parts: the power was on.',
      },
      {
        deed: 'fan',
        to: [0],
        while: { power: [1], hoses: [0] },
        text: 'The condenser fan was stopped on a running machine, with no gauge to see how high it goes.',
      },
    ],
    pairs: [
      ['lock', 'plates', 3],
      ['gauges', 'found-stop', 2],
    ],
  },
  truths: ({ truth }) => ({ lpStart: truth['lpStart'], lpStop: truth['lpStop'], hpStop: truth['hpStop'] }),
  trace: {
    variant: 'lp',
    figures: { cutIn: ['lpStart', 1], cutOut: ['lpStop', 1] },
    channels: ['contact'],
    seconds: 560,
  },
};

import { dial, type Kit, type Right } from '../define/kit.js';

const as = (...rights: readonly Right[]): readonly Right[] => rights;

/** One plausible installation, and what must be concluded on it. */
export const kit: Kit = {
  plate: {
    receiver: '80 galUS',
    relief: '165 psi',
    need: '40 psi',
    rating: '140 psi',
    uses: '9 cfm',
    hose: '45 ft',
    bore: '0.375 in',
    fad: '14 cfm',
  },
  given: { cutIn: '95 psi', cutOut: '135 psi' },
  gauges: {
    gun: dial('G-1', 'psi', 100, 0.1, 1, 0.25, { kind: 'digital', medium: 'air' }),
    wall: dial('G-2', 'psi', 160, 2, 0.5, 'B', { medium: 'air' }),
    tank: dial('G-3', 'psi', 200, 5, 0.5, 'B', { medium: 'air' }),
  },
  permits: ['mains'],
  variants: [
    { name: 'air supply, regulator at the gun', variant: 'regulator' },
    { name: 'air supply, valve at the gun', variant: 'valve', choices: { pattern: 'asked' } },
    {
      name: 'air supply, set at the wall',
      variant: 'none',
      school: 'wall',
      concludes: {
        // Its supply effect is the gun’s own here: what is found near a limit is brought to its middle.
        none: as(['left-as-found'], ['set']),
        'not-relieving': as(['left-as-found'], ['set']),
        leak: as(['left-as-found', 'leak'], ['set', 'leak']),
        'diff-narrow': as(['left-as-found', 'short-cycle'], ['set', 'short-cycle']),
        // There is no window: the wall is where the gun is.
        'wall-low': as(['set']),
        'narrow-hose': as(['left-as-found']),
        'gun-off': as(['set']),
        'wall-high': as(['set']),
      },
    },
    {
      name: 'air supply, new',
      variant: 'regulator',
      occasion: 'new',
      concludes: {
        none: as(['set']),
        'pump-worn': as(['set', 'weak']),
        leak: as(['set', 'leak']),
        'diff-narrow': as(['set', 'short-cycle']),
        'not-relieving': as(['set']),
        'wall-high': as(['set']),
        'wall-low': as(['set']),
        'narrow-hose': as(['set']),
        'small-receiver': as(['set', 'weak'], ['set', 'starved']),
        'zero-off': as(['set'], ['unfinished', 'gauge-unfit']),
      },
    },
    {
      name: 'air supply, its switch set',
      variant: 'regulator',
      choices: { switch: 'set' },
      concludes: { 'diff-narrow': as(['set', 'short-cycle'], ['set']) },
    },
  ],
  concludes: {
    none: as(['left-as-found']),
    'wall-high': as(['set', 'wall-high']),
    'wall-low': as(['set', 'wall-low']),
    'gun-off': as(['set']),
    'pump-worn': as(['left-as-found', 'weak']),
    leak: as(['left-as-found', 'leak']),
    'narrow-hose': as(['set', 'loss-big'], ['left-as-found']),
    creep: as(['replace', 'creeps']),
    'diff-narrow': as(['left-as-found', 'short-cycle']),
    'not-relieving': as(['left-as-found']),
    'relief-near': as(['set', 'relief-near']),
    'no-stop': as(['replace', 'no-stop']),
    'no-start': as(['replace', 'no-start']),
    'relief-stuck': as(['unfinished', 'relief-bad']),
    'small-receiver': as(['left-as-found', 'weak'], ['left-as-found', 'starved']),
    'zero-off': as(
      ['left-as-found', 'gauge-zero'],
      ['unfinished', 'gauge-unfit'],
      ['left-as-found', 'gauge-unfit'],
      ['left-as-found'],
      ['set'],
    ),
  },
  truths: ({ truth }) => ({
    gunFlow: truth['gunFlow'],
    wallFlow: truth['wallFlow'],
    cutIn: truth['cutIn'],
    cutOut: truth['cutOut'],
  }),
  trace: {
    variant: 'regulator',
    figures: { cutIn: ['cutIn', 2.5], cutOut: ['cutOut', 2.5] },
    channels: ['trigger', 'motor'],
    vented: false,
    seconds: 1200,
  },
};

import { dial, type Kit, type Right } from '../define/kit.js';

const as = (...rights: readonly Right[]): readonly Right[] => rights;

/** One plausible installation, and what must be concluded on it. */
export const kit: Kit = {
  plate: {
    valve: '15 psi',
    cap: '2.1 psi',
    limit: '8 psi',
    mainLow: '0.25 psi',
    mainHigh: '9 psi',
    diffLow: '0.4 psi',
    diffHigh: '5 psi',
  },
  gauges: { test: dial('T-8', 'psi', 5, 0.05, 0.5, 0.5) },
  variants: [
    { name: 'steam control, subtractive', variant: 'sub' },
    { name: 'steam control, additive', variant: 'add' },
    {
      name: 'steam control, ounces',
      variant: 'ounce',
      plate: { cap: '14 oz', mainLow: '0 oz', mainHigh: '20 oz', diffLow: '2 oz', diffHigh: '14 oz' },
      // Marked in ounces there is no other kind to take it for.
      concludes: {
        'other-kind': as(['left-as-found']),
        coarse: as(['replace', 'diff-wide'], ['replace', 'no-reset'], ['replace', 'scatter']),
      },
      gauges: { test: dial('T-9', 'inH2O', 30, 0.2, 0.5, 0.5) },
    },
    {
      name: 'steam limit',
      variant: 'limit',
      plate: { limit: '11 psi' },
      gauges: { test: dial('T-10', 'psi', 10, 0.1, 0.5, 0.5) },
      // It never cycles; whether the burner obeys it is seen at its circuit.
      concludes: {
        'other-kind': as(['left-as-found']),
        coarse: as(['left-as-found'], ['replace', 'scatter']),
        oversized: as(['left-as-found']),
        'matched-load': as(['left-as-found']),
      },
    },
    {
      name: 'steam control, on its boiler',
      variant: 'sub',
      school: 'boiler',
      gauges: { test: dial('T-11', 'psi', 15, 0.1, 0.5, 0.5) },
      // What is seen with the control off the boiler is not seen here.
      concludes: {
        'siphon-blocked': as(['unfinished', 'runs-past']),
        welded: as(['unfinished', 'runs-past']),
        'siphon-dry': as(['left-as-found']),
        oversized: as(['left-as-found']),
      },
    },
    {
      name: 'steam control, new',
      variant: 'sub',
      occasion: 'new',
      // Nothing was found that could be left as it was; its siphon is new.
      concludes: {
        none: as(['set']),
        'siphon-blocked': as(['set']),
        'siphon-dry': as(['set']),
        oversized: as(['set', 'oversize']),
        'matched-load': as(['set', 'not-seen']),
        'gauge-zero-off': as(['set'], ['unfinished', 'gauge-unfit']),
      },
    },
  ],
  concludes: {
    none: as(['left-as-found']),
    'set-high': as(['set', 'over-cap'], ['set']),
    'other-kind': as(['set', 'misread'], ['left-as-found', 'misread']),
    // One that is coarse scatters, too: either is reason enough.
    coarse: as(['replace', 'diff-wide'], ['replace', 'scatter']),
    'sticky-reset': as(['replace', 'no-reset']),
    tilted: as(['set', 'tilted'], ['left-as-found', 'tilted']),
    'siphon-blocked': as(['left-as-found', 'siphon-blocked']),
    'siphon-dry': as(['left-as-found', 'siphon-dry']),
    welded: as(['replace', 'welded']),
    oversized: as(['left-as-found', 'oversize']),
    'matched-load': as(['left-as-found', 'not-seen']),
    'by-passed': as(['unfinished', 'by-passed']),
    'gauge-zero-off': as(
      ['left-as-found', 'gauge-zero'],
      ['left-as-found', 'gauge-unfit'],
      ['left-as-found'],
    ),
  },
  permits: ['mains'],
  seldom: [{ walk: 56 }, { walk: 201 }],
  practice: {
    lines: {
      none: 'It makes steam, and the yearly look is due.',
      'set-high': 'The radiators hammer and it smells hot; the caretaker wanted it warmer.',
      'other-kind': 'It was exchanged in spring for one "as good as the same".',
      coarse: 'It is either too hot or too cold.',
      'sticky-reset': 'It goes off and stays off until somebody knocks on it.',
      tilted: 'The bracket was bent when the pump was lifted in.',
      'siphon-blocked': 'The needle moves as if asleep.',
      'siphon-dry': 'It was drained for the summer; the pigtail too.',
      welded: 'It did not stop until the other control stopped it.',
      oversized: 'The boiler was renewed, a size larger.',
      'matched-load': 'With the laundry on it runs all day without a pause.',
      'by-passed': 'There is a wire in there that nobody can explain.',
      'gauge-zero-off': 'The gauge does not come home when it is cold.',
    },
    access: ['cover'],
    hurts: [
      {
        deed: 'control',
        to: [1],
        while: { power: [1] },
        text: 'The control was taken off with the power on.',
      },
      {
        deed: 'siphon',
        to: [1],
        while: { power: [1] },
        text: 'The siphon was opened on a boiler that can fire.',
      },
      ...['main', 'diff', 'mainLow', 'wheel', 'mainOunce', 'diffOunce'].map((deed) => ({
        deed,
        while: { power: [1] },
        text: 'A screw was turned beside live parts: the power was on.',
      })),
    ],
    pairs: [
      ['siphon', 'found-trip', 2],
      ['inside', 'set-trip', 2],
    ],
  },
  truths: ({ truth }) => ({ cutOut: truth['cutOut'], cutIn: truth['cutIn'] }),
  trace: {
    figures: { cutIn: ['cutIn', 0.1], cutOut: ['cutOut', 0.1] },
    channels: ['contact'],
    seconds: 3600,
  },
};

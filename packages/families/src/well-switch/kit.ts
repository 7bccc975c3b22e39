import { dial, type Kit } from '../define/kit.js';

/** One plausible installation, and what must be concluded on it. */
export const kit: Kit = {
  plate: { tankVolume: '280 L', pumpFlow: '33 L/min', relief: '81 psi' },
  given: { cutIn: '43 psi' },
  gauges: { system: dial('T-1', 'psi', 100, 1, 0.5, '2A'), air: dial('T-2', 'psi', 60, 0.5, 0.5, '2A') },
  variants: [{ name: 'well switch' }],
  concludes: {
    none: [['left-as-found']],
    'low-precharge': [
      ['set', 'precharge-low'],
      ['set', 'charged-as-drive'],
    ],
    'ruptured-bladder': [['replace', 'ruptured-bladder']],
    'drifted-switch': [['set']],
    'narrowed-differential': [['replace', 'differential-narrowed']],
    'blocked-tube': [
      ['replace', 'unrepeatable'],
      ['replace', 'does-not-stop'],
    ],
    'welded-contacts': [['replace', 'does-not-stop']],
    'low-well': [['left-as-found', 'below-cut-out']],
    'leaking-check-valve': [['left-as-found', 'falls-at-rest']],
    'gauge-zero-off': [
      ['left-as-found', 'gauge-zero'],
      ['left-as-found', 'gauge-unfit'],
    ],
  },
  permits: ['mains'],
  /** Settings whose truth the rig tells under the same name. */
  practice: {
    lines: {
      none: 'The yearly visit. Nobody has noticed anything.',
      'low-precharge': 'It goes on and off more often than it used to when somebody showers.',
      'ruptured-bladder':
        'The pump clatters on and off in seconds, and water once came out of the air valve.',
      'drifted-switch': 'The pressure upstairs is not what it was; somebody may have had a key on the nut.',
      'narrowed-differential': 'It starts soon after it stops. It never used to.',
      'blocked-tube': 'Some days it cuts out late, some days early. The water here is full of iron.',
      'welded-contacts': 'Last week it would not stop until the breaker was thrown.',
      'low-well': 'After half an hour of watering the lawn it coughs air.',
      'leaking-check-valve': 'It starts by itself at night, with every tap shut.',
      'gauge-zero-off': 'A colleague says the water gauge was dropped in the van.',
    },
    access: ['cover'],
    hurts: [
      ...['range', 'differential'].map((deed) => ({
        deed,
        while: { power: [1] },
        text: 'A nut was turned beside live parts: the power was on.',
      })),
    ],
    pairs: [
      ['found-drain', 'found-precharge', 2],
      ['rest', 'found-drain', 2],
    ],
  },
  truths: (job) => Object.fromEntries(['cutIn', 'cutOut', 'precharge'].map((s) => [s, job.truth[s]])),
  trace: { figures: { cutIn: ['cutIn', 0.5], cutOut: ['cutOut', 0.5] }, seconds: 3600 },
};

import { dial, type Kit } from '../define/kit.js';

/** One plausible installation, and what must be concluded on it. */
export const kit: Kit = {
  plate: { tankVolume: '9 L', relief: '88 psi', drop: '6 psi', most: '85 psi', least: '25 psi' },
  given: { setPoint: '64 psi' },
  gauges: { system: dial('T-1', 'psi', 100, 1, 0.5, '2A'), air: dial('T-2', 'psi', 60, 0.5, 0.5, '2A') },
  variants: [{ name: 'pump drive', variant: 'first' }],
  concludes: {
    none: [['left-as-found']],
    'set-low': [['set']],
    'low-precharge': [['set', 'waterlogged']],
    'charged-as-switch': [['set', 'charged-as-switch']],
    'ruptured-bladder': [['replace', 'ruptured-bladder']],
    'sensor-offset': [['replace', 'sensor-off']],
    leak: [['left-as-found', 'never-sleeps']],
    'air-in-line': [['left-as-found', 'was-air']],
    'high-gain': [['replace', 'hunts']],
    'low-well': [['left-as-found', 'outrun']],
  },
  permits: ['mains'],
  seldom: [
    { fault: 'set-low', says: { 'found-precharge': 'water' } },
    { fault: 'low-well', says: { 'found-at-most': 'no' } },
  ],
  practice: {
    lines: {
      none: 'It purrs. The yearly look.',
      'set-low': 'Somebody was at the keypad to "save power".',
      'low-precharge': 'It wakes for every glass of water.',
      'charged-as-switch': 'The tank was looked after by somebody who knows the old switches well.',
      'ruptured-bladder': 'The pipes knock, and the pump surges up and down.',
      'sensor-offset': 'The display and the little gauge on the manifold never agree.',
      leak: 'It never goes to sleep, not even at night.',
      'air-in-line': 'It has been nervous since the filter was changed.',
      'high-gain': 'It swings like a pendulum at a small draw; somebody "tuned" it.',
      'low-well': 'In the dry weeks it cannot keep up.',
    },
    pairs: [
      ['found-drain', 'found-precharge', 2],
      ['found-held', 'turn-keys', 2],
    ],
  },
  truths: ({ truth }) => ({
    setPoint: truth['setPoint'] ?? NaN,
    precharge: truth['precharge'] ?? NaN,
    wake: truth['wake'] ?? NaN,
  }),
  trace: {
    // The pump is awake a moment before the pressure turns.
    figures: { cutIn: ['wake', 0.8] },
  },
};

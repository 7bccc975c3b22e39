import { dial, type Kit } from '../define/kit.js';

const SHIMS = {
  pack: '0.6 mm',
  shim1: '0.35 mm',
  shim2: '0.25 mm',
  shim3: '0.45 mm',
  shim4: '0.15 mm',
  shim5: '0.7 mm',
  shim6: '0.1 mm',
};
const NOTHING_FOUND = {
  none: [['set']],
  'set-low': [['set']],
  worn: [['set']],
  joint: [['set', 'joint']],
  'supply-short': [['set', 'supply-short']],
  'relief-early': [['set', 'relief-early']],
  'fresh-seat': [['set']],
} as const;

/** One plausible installation, and what must be concluded on it. */
export const kit: Kit = {
  plate: { ipLeast: '122 psi', ipMost: '142 psi', relief: '172 psi', weakest: '260 psi' },
  gauges: { ip: dial('R-3', 'psi', 300, 1, 0.5, 0.25), outlet: dial('R-4', 'psi', 150, 1, 0.5, 0.5) },
  variants: [
    { name: 'first stage, diaphragm', variant: 'diaphragm' },
    {
      name: 'first stage, diaphragm, rebuilt',
      variant: 'diaphragm',
      school: 'room',
      occasion: 'rebuilt',
      choices: { seat: 'fresh' },
      concludes: NOTHING_FOUND,
    },
    {
      name: 'first stage, diaphragm, richer gas',
      variant: 'diaphragm',
      plate: { oxygen: '36 %' },
    },
    {
      name: 'first stage, unbalanced diaphragm',
      variant: 'diaphragm-unbalanced',
      plate: { lowLeast: '132 psi', lowMost: '164 psi', relief: '185 psi' },
      concludes: { balance: [['left-as-found']] },
    },
    {
      name: 'first stage, piston',
      variant: 'piston',
      plate: { ...SHIMS, lowLeast: '116 psi', lowMost: '142 psi' },
      concludes: { sticks: [['replace']] },
    },
    {
      name: 'first stage, unbalanced piston',
      variant: 'piston-unbalanced',
      plate: { ...SHIMS, lowLeast: '92 psi', lowMost: '122 psi' },
      concludes: { balance: [['left-as-found']] },
    },
    {
      name: 'cylinder regulator, not for breathing',
      variant: 'cylinder-gas',
      plate: { ipLeast: '40 psi', ipMost: '62 psi', relief: '120 psi' },
      concludes: {
        none: [['left-as-found', 'not-for-breathing']],
        'set-low': [['left-as-found'], ['unfinished']],
        worn: [['left-as-found'], ['unfinished']],
        'seat-leaks': [['replace', 'seat-leaks']],
        'seat-failed': [['replace', 'seat-failed']],
        sticks: [['left-as-found']],
        balance: [['left-as-found']],
        filter: [['left-as-found']],
        'supply-short': [['left-as-found']],
        joint: [['left-as-found']],
        'inner-leak': [['replace', 'inner-leak']],
        'relief-early': [['unfinished', 'relief-early']],
        'fresh-seat': [['left-as-found']],
        'wrong-spring': [['left-as-found'], ['unfinished']],
        wet: [['replace', 'unfit']],
      },
    },
  ],
  concludes: {
    none: [['left-as-found']],
    'set-low': [['set']],
    worn: [['set']],
    'seat-leaks': [['replace', 'seat-leaks']],
    'seat-failed': [['replace', 'seat-failed']],
    sticks: [['replace', 'sticks']],
    balance: [['replace', 'effect']],
    filter: [['replace', 'filter']],
    'supply-short': [['left-as-found', 'supply-short']],
    joint: [['left-as-found', 'joint']],
    'inner-leak': [['replace', 'inner-leak']],
    'relief-early': [['left-as-found', 'relief-early']],
    'fresh-seat': [['left-as-found']],
    'wrong-spring': [['replace']],
    wet: [['replace', 'wet']],
  },
  permits: ['breathing'],
  seldom: [{ variant: 'diaphragm', fault: 'none', says: { look: 'filter' } }],
  truths: ({ truth, view }) =>
    view.plan.variant === 'cylinder-gas'
      ? { delivery: truth['delivery'] ?? NaN }
      : { ipFull: truth['ipFull'] ?? NaN, ipLow: truth['ipLow'] ?? NaN },
  trace: { figures: { lockUp: ['ipFull', 0.8], purgeDip: ['dip', 1.5] } },
};

import { dial, type Kit } from '../define/kit.js';

const HIGH_SIDE = dial('T-3', 'psi', 500, 5, 0.5, '1A');
const DRAUGHT = dial('T-4', 'inH2O', 20, 0.5, 0.5, '1A');

/** One plausible installation, and what must be concluded on it. */
export const kit: Kit = {
  gauges: {
    test: HIGH_SIDE,
    reference: dial('R-1', 'psi', 600, 0.1, 1, 0.1, { kind: 'digital' }),
    thermometer: dial('K-1', 'degF', 220, 0.1, 1, 0.35, { kind: 'thermometer', lower: -40 }),
  },
  variants: [
    { name: 'zero', variant: 'zero', concludes: { 'sprung-tube': [['set'], ['left-as-found']] } },
    { name: 'R-410A', variant: 'span-r410a' },
    { name: 'R-410A, set at span', variant: 'span-r410a', school: 'set-at-span' },
    { name: 'better gauge', variant: 'comparison' },
    {
      name: 'water column',
      variant: 'column',
      gauges: {
        test: DRAUGHT,
        reference: dial('U-1', 'inH2O', 24, 0.1, 0.5, 0.1, { kind: 'u-tube', column_C: 20 }),
      },
    },
  ],
  concludes: {
    none: [['left-as-found']],
    'zero-off': [['set']],
    'bent-pointer': [['replace', 'zero-unfit']],
    'sprung-tube': [['replace'], ['restricted']],
    sticky: [['left-as-found', 'sticks']],
    'air-in-hose': [['left-as-found']],
    sun: [['left-as-found']],
  },
  permits: [],
  practice: {
    lines: {
      none: 'It came back from its rounds and is due. Nothing happened to it that anybody told of.',
      'zero-off': 'It was dropped, not far, and it seemed fine.',
      'bent-pointer': 'It was over its end once, a while ago.',
      'sprung-tube': 'It was left on a line that hammered.',
      sticky: 'One has to tap it, says the colleague who had it.',
      'air-in-hose': 'The hose was changed this morning.',
      sun: 'The cylinder stood on the loading bed all morning.',
    },
    pairs: [['vented', 'zero', 2]],
  },
  truths: (job) => {
    const shown = job.view.figure('span', 'found');
    // A needle set at the span pressure carries its error in its zero from then on.
    const moved =
      job.view.state.signed?.body.outcome === 'restricted' && job.view.plan.school === 'set-at-span'
        ? (job.truth['zero'] ?? NaN)
        : 0;
    return shown ? { error: (job.truth['slope'] ?? NaN) * shown.value + moved } : {};
  },
};

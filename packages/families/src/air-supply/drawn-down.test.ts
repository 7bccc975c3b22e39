import { describe, it, expect } from '@jest/globals';
import { keysOf } from '../testing.js';
import { onKit, REGULATOR } from './testing.js';
import { kit } from './kit.js';

describe('a tank that was drawn down', () => {
  // One regulator turned from what a nearly empty tank lets through was called in by 30 psi too much, and one by 2.
  const EMPTIED = [
    ['air supply, new', 'wall-high leak'],
    ['air supply, new', 'wall-high small-receiver'],
    ['air supply, set at the wall', 'pump-worn relief-near'],
  ] as const;
  const jobs = EMPTIED.flatMap(([variant, faults]) =>
    [1, 2].map((seed) => ({
      at: `${variant}, ${faults}, ${seed}`,
      job: onKit(variant, faults, seed),
    })),
  );

  it.each(jobs)('is let fill before anything that flows is read: $at', ({ job }) => {
    let drawn = false;
    for (const key of keysOf(job)) {
      if (
        key === 'wide' ||
        job.view.state.observations.some((o) => o.body.at.key === key && o.body.answer === 'falling')
      )
        drawn = true;
      if (key.endsWith('cut-out')) drawn = false;
      if (['set-gun', 'set-wall', 'left-gun', 'left-pull-gun'].includes(key))
        expect([key, drawn]).toEqual([key, false]);
    }
  });

  it.each(jobs)('has nothing called in that is out: $at', ({ job }) => {
    const truths = kit.truths(job);
    for (const setting of ['gunFlow', 'wallFlow']) {
      if (job.view.verdict(setting, 'left')?.word !== 'in') continue;
      const { lower = -Infinity, upper = Infinity } = job.view.limits(setting, 'left');
      expect(truths[setting]).toBeGreaterThanOrEqual(lower);
      expect(truths[setting]).toBeLessThanOrEqual(upper);
    }
  });

  it('costs a job that draws no more than it makes no step', () => {
    const filled = (fault: string): readonly string[] =>
      keysOf(onKit(REGULATOR, fault, 1)).filter((key) => key.endsWith('full-cut-out'));
    expect(filled('none')).toEqual([]);
    // With its gun once wide open there is one, and no more.
    expect(filled('gun-off')).toEqual(['full-cut-out']);
  });
});

import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { decide } from './index.js';

const say = (v: number): string => `${v.toFixed(1)} psi`;
const limits = { lower: 41.5, upper: 44.5 };

describe('verdict', () => {
  it('is in, near or out by a guard band of one U on each side', () => {
    expect(decide(43, 0.8, limits, 'guarded', say).word).toBe('in');
    expect(decide(41.9, 0.8, limits, 'guarded', say).word).toBe('near');
    expect(decide(41.0, 0.8, limits, 'guarded', say).word).toBe('near');
    expect(decide(40.6, 0.8, limits, 'guarded', say).word).toBe('out');
  });

  it('says why, with the numbers', () => {
    expect(decide(38.6, 0.8, limits, 'guarded', say).because).toBe(
      '38.6 psi ± 0.8 psi is 2.9 psi below the limit (41.5 psi to 44.5 psi).',
    );
    expect(decide(41.9, 0.8, limits, 'guarded', say).because).toContain(
      'nearer a limit than the gauge can tell',
    );
  });

  it('by simple acceptance still says where the gauge cannot tell', () => {
    expect(decide(41.9, 0.8, limits, 'simple', say)).toMatchObject({ word: 'in', cannotTell: true });
    expect(decide(43, 0.8, limits, 'simple', say)).toMatchObject({ word: 'in', cannotTell: false });
  });

  it('knows limits with one side', () => {
    expect(decide(52, 2, { lower: 60 }, 'guarded', say)).toMatchObject({
      word: 'out',
      because: '52.0 psi ± 2.0 psi is 8.0 psi below the limit (at least 60.0 psi).',
    });
  });

  it('never gets better as the uncertainty grows, nor calls in what a surer gauge calls out', () => {
    const order = { in: 0, near: 1, out: 2 };
    fc.assert(
      fc.property(
        fc.double({ min: 30, max: 55, noNaN: true }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        (x, u, more) => {
          const sure = decide(x, u, limits, 'guarded', say).word;
          const unsure = decide(x, u + more, limits, 'guarded', say).word;
          if (sure === 'near') expect(unsure).toBe('near');
          else expect([sure, 'near']).toContain(unsure);
          const nearer = decide((x + 43) / 2, u, limits, 'guarded', say).word;
          expect(order[nearer]).toBeLessThanOrEqual(order[sure]);
        },
      ),
    );
  });
});

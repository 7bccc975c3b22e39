import { describe, expect, it } from '@jest/globals';
import { zeroDrift } from './index.js';

describe('drift of a zero', () => {
  const at = (years: readonly number[], offset: (y: number) => number) =>
    years.map((y) => ({ day: `${2026 + y}-06-01`, offset: offset(y) }));

  it('predicts the day a steady drift leaves its limit', () => {
    const d = zeroDrift(
      at([0, 1, 2, 3], (y) => 100 + 200 * y),
      1500,
    );
    expect(d?.perYear).toBeCloseTo(200, 0);
    expect(d?.leaves).toMatch(/^2033-0[56]/);
  });

  it('predicts nothing from noise, from too few, or from one day', () => {
    expect(
      zeroDrift(
        at([0, 1, 2, 3], (y) => (y % 2 ? 50 : -50)),
        1500,
      )?.leaves,
    ).toBeUndefined();
    expect(
      zeroDrift(
        at([0, 1], (y) => y),
        10,
      ),
    ).toBeUndefined();
    expect(
      zeroDrift(
        [1, 2, 3].map((o) => ({ day: '2030-01-01', offset: o })),
        10,
      ),
    ).toBeUndefined();
  });
});

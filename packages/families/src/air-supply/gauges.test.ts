import { chooseGauges, pickGauges } from '@firm-needle/core/family';
import { describe, it, expect } from '@jest/globals';
import { planOf } from './testing.js';
import { family } from './index.js';
import { kit } from './kit.js';

describe('three gauges in three places at once', () => {
  const choices = chooseGauges(family, planOf(), Object.values(kit.gauges));
  const labels = (picks: ReturnType<typeof pickGauges>) =>
    Object.fromEntries(Object.entries(picks).map(([slot, { gauge }]) => [slot, gauge.label]));

  it('are three gauges, each the best that is free and can tell there', () => {
    const picked = labels(pickGauges(choices));
    expect(new Set(Object.values(picked)).size).toBe(3);
    expect(picked['gun']).toBe('G-1');
  });

  it('or the one that was put there by hand, and it is nowhere else then', () => {
    const picked = labels(pickGauges(choices, { wall: kit.gauges['gun']?.id ?? '' }));
    expect(picked['wall']).toBe('G-1');
    expect(picked['tank']).not.toBe('G-1');
  });

  it('or one twice, where none other can tell: better than none', () => {
    const one = chooseGauges(family, planOf(), [...Object.values(kit.gauges).slice(2)]);
    expect(new Set(Object.values(labels(pickGauges(one)))).size).toBe(1);
  });
});

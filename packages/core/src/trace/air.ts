import { findCycles } from './cycles.js';
import { meanOf, shown, type Found } from './events.js';
import { lineOf } from './knee.js';
import type { Grain } from './noise.js';
import type { Trace } from './samples.js';
import { stretchesOf } from './stretches.js';

/** Air supplies: the compressor's cycles, how fast it recovers, and what it sustains while the gun is held, with its ripple. */
export function findAir(samples: Trace, grain: Grain, ambient: number): Found {
  const { t, p } = samples;
  const found = findCycles(samples, grain, ambient);
  const rates = found.cycles.map((c) => (c.cutOut - c.cutIn) / c.on_s);
  const held = samples.states['trigger']
    ? stretchesOf(samples, grain, ['trigger'], true).filter((s) => s.on)
    : [];
  const ends = held.flatMap((s) => {
    // Once the tank has come to rest between draw and pump, the last third is what it sustains.
    const from = s.to - Math.floor((s.to - s.from) / 3);
    const line = lineOf(t, p, from, s.to, ((t[from] ?? 0) + (t[s.to - 1] ?? 0)) / 2);
    if (!line) return [];
    let [low, high] = [Infinity, -Infinity];
    for (let i = from; i < s.to; i++) {
      const x = (p[i] ?? 0) - line.slope * ((t[i] ?? 0) - (t[from] ?? 0));
      if (x < low) low = x;
      if (x > high) high = x;
    }
    return [{ line, ripple: Math.max(0, high - low - 6 * grain.sd) }];
  });
  return {
    ...found,
    figures: {
      ...found.figures,
      ...shown({
        recoveryRate: meanOf(
          rates,
          rates.map((r) => 0.01 * r),
          'Pa/s',
        ),
        sustained: meanOf(
          ends.map((e) => e.line.p),
          ends.map((e) => Math.hypot(e.line.up, grain.step / 12)),
          'Pa',
        ),
        ripple: meanOf(
          ends.map((e) => e.ripple),
          ends.map(() => 2 * grain.sd),
          'Pa',
        ),
      }),
    },
  };
}

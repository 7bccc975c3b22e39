import type { TraceEvent } from './events.js';
import type { Grain } from './noise.js';

/** A sample this far from its neighbours, in SDs, stands alone; and so near the neighbours are to one another. */
const ALONE_SD = 10;
const TOGETHER_SD = 5;

/** A trace without the samples that stand alone, and what they were. */
export interface Freed {
  readonly p: Float64Array;
  readonly lone: readonly TraceEvent[];
}

/** The middle of five: what is left between the least and the most once both of each were taken away. */
function middleOfFive(a: number, b: number, c: number, d: number, e: number): number {
  const [low, high] = [Math.min(a, b), Math.max(a, b)];
  const [less, more] = [Math.min(d, e), Math.max(d, e)];
  // Of the four the least and the most are not the middle: it is that of the other two and the fifth.
  const [x, y] = [Math.max(low, less), Math.min(high, more)];
  return Math.max(Math.min(x, y), Math.min(Math.max(x, y), c));
}

/**
 * Single samples that a wire or a radio spoiled: far from the two before and the two after, which stand together. Each becomes the
 * middle of the five; a turn, a slam or a step is no such sample, for its neighbours go with it. The samples themselves are untouched.
 */
export function withoutLone(t: Float64Array, p: Float64Array, grain: Grain): Freed {
  const far = ALONE_SD * grain.sd + 2 * grain.step;
  const near = TOGETHER_SD * grain.sd + 2 * grain.step;
  const lone: TraceEvent[] = [];
  let freed: Float64Array | undefined;
  const end = p.length - 2;
  const look = (i: number): void => {
    if (i < 2 || i >= end) return;
    const [a, b, x, d, e] = [
      p[i - 2] as number,
      p[i - 1] as number,
      p[i] as number,
      p[i + 1] as number,
      p[i + 2] as number,
    ];
    if (Math.abs(x - b) < far || Math.abs(x - d) < far) return;
    const middle = middleOfFive(a, b, x, d, e);
    if (Math.abs(x - middle) < far) return;
    const [low, high] = [Math.min(a, b, d, e), Math.max(a, b, d, e)];
    if (high - middle >= near || middle - low >= near) return;
    freed ??= Float64Array.from(p);
    freed[i] = middle;
    lone.push({ kind: 'spike', t: t[i] ?? 0, p: x, u: grain.sd, ut: grain.dt / 2, from: i, to: i + 1 });
  };
  // One that stands alone is far from both its neighbours, so from the other of its pair: two are done with at a time.
  for (let i = 2; i < end; i += 2) {
    const rose = (p[i + 1] as number) - (p[i] as number);
    if (rose < far && rose > -far) continue;
    look(i);
    look(i + 1);
  }
  return { p: freed ?? p, lone };
}

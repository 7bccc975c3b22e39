import type { Signal } from './testing.js';
import { EDGE_S } from './testing.js';

export interface Score {
  readonly truth: number;
  readonly found: number;
  readonly matched: number;
  /** Found less true, Pa, of every match; and whether the stated 95 % interval holds the truth. */
  readonly errors: readonly number[];
  readonly covered: number;
}
/** Matches found events with true ones of the same kind, within the larger of two samples and a second. */
export function scoreOf(
  signal: Signal,
  found: readonly { readonly kind: string; readonly t: number; readonly p: number; readonly u: number }[],
): Score {
  const kinds = new Set(signal.events.map((e) => e.kind));
  const t = signal.samples.t;
  const [begin, end] = [(t[0] ?? 0) + EDGE_S, (t[t.length - 1] ?? 0) - EDGE_S];
  const list = found.filter((e) => kinds.has(e.kind));
  const inside = (e: { readonly t: number }): boolean => e.t > begin + 1 && e.t < end - 1;
  const dt = ((t[t.length - 1] ?? 0) - (t[0] ?? 0)) / Math.max(1, t.length - 1);
  const within = Math.max(2 * dt, 1);
  const used = new Set<number>();
  const errors: number[] = [];
  let covered = 0;
  for (const e of signal.events) {
    let best = -1;
    list.forEach((f, i) => {
      if (used.has(i) || f.kind !== e.kind || Math.abs(f.t - e.t) > within) return;
      if (best < 0 || Math.abs(f.t - e.t) < Math.abs((list[best]?.t ?? 0) - e.t)) best = i;
    });
    const match = list[best];
    if (!match) continue;
    used.add(best);
    errors.push(match.p - e.p);
    if (Math.abs(match.p - e.p) <= 2 * match.u) covered++;
  }
  // One found near the edge may belong to one beyond it, which is not in the truth.
  const counted = list.filter((e, i) => used.has(i) || inside(e)).length;
  return { truth: signal.events.length, found: counted, matched: errors.length, errors, covered };
}

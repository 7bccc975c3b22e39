import { accept, refuse, type Result } from '../result.js';
import type { Samples } from './samples.js';

/** One of several files of a trace. */
export interface JoinPart {
  readonly name: string;
  readonly samples: Samples;
}

export interface Joined {
  readonly samples: Samples;
  /** Names in the order of their times. */
  readonly order: readonly string[];
  /** Samples that stood in two files, the same in both, and were taken once. */
  readonly twice: number;
}

/** Files further apart than this are of different times, or of different clocks. */
const APART_S = 31 * 86_400;
const at = (f: JoinPart, i: number): number => f.samples.t.at(i) ?? 0;
const said = (s: number): string => `${Number(s.toPrecision(6))} s`;

/**
 * Several files of one logger as one trace, in the order of their times. Where two overlap they must say the same there: a logger that
 * writes a file anew each hour writes the last minutes twice.
 * @returns a refusal where their times contradict each other
 */
export function joinTraces(parts: readonly JoinPart[]): Result<Joined> {
  const sorted = parts
    .filter((f) => f.samples.t.length > 0)
    .sort((a, b) => at(a, 0) - at(b, 0) || at(a, -1) - at(b, -1));
  const [first] = sorted;
  if (!first) return refuse('trace-empty', 'None of the files holds a sample.', { where: 'file' });
  const names = [...new Set(sorted.flatMap((f) => Object.keys(f.samples.states)))];
  const all = sorted.reduce((n, f) => n + f.samples.t.length, 0);
  const t = new Float64Array(all);
  const p = new Float64Array(all);
  const states = Object.fromEntries(names.map((n) => [n, new Float64Array(all).fill(NaN)]));
  let n = 0;
  let twice = 0;
  for (const { name, samples } of sorted) {
    const { length } = samples.t;
    // Where this one begins among those that are there.
    let at = n;
    const begins = samples.t[0] as number;
    while (at > 0 && (t[at - 1] as number) >= begins) at--;
    if (n > 0 && begins - (t[n - 1] as number) > APART_S)
      return refuse('times-apart', `“${name}” begins more than a month after the file before it ends.`, {
        where: name,
        bound: '31 days',
        remedy: 'Look whether both write the same clock, and read them by themselves.',
      });
    let from = 0;
    for (; at < n && from < length; at++, from++)
      if (t[at] !== samples.t[from] || p[at] !== samples.p[from])
        return refuse(
          'times-overlap',
          `“${name}” begins at ${said(begins)}, before the file before it ends at ${said(t[n - 1] as number)}, and does not say the same.`,
          {
            where: name,
            remedy:
              'Join files whose times carry their date and follow each other; read the others by themselves.',
          },
        );
    twice += from;
    t.set(samples.t.subarray(from), n);
    p.set(samples.p.subarray(from), n);
    for (const channel of names) {
      const own = samples.states[channel];
      if (own) states[channel]?.set(own.subarray(from), n);
    }
    n += length - from;
  }
  return accept({
    samples: {
      t: t.subarray(0, n),
      p: p.subarray(0, n),
      states: Object.fromEntries(names.map((c) => [c, (states[c] ?? t).subarray(0, n)])),
    },
    order: sorted.map((f) => f.name),
    twice,
  });
}

// The order of work: pairs of which one comes before the other. Other orders are free.
import { stepsOf, type JobEvent, type Step } from '../procedure/index.js';
import type { Exercise } from './run.js';

/** One thing before another: `held` says of the b at a place of the log whether its a had been done. */
export interface Pair {
  readonly before: string;
  readonly after: string;
  readonly weight: 1 | 2 | 3;
  /** In words: `zero before it is read`. */
  readonly words: string;
}

export interface OrderScore {
  readonly met: number;
  readonly kept: number;
  /** Σ w kept ÷ Σ w met; undefined where nothing was met. */
  readonly part: number | undefined;
  readonly broken: readonly string[];
}

/** What a log took, in its order: the keys of its steps. */
export const takenKeys = (events: readonly JobEvent[]): readonly string[] =>
  events.flatMap(({ body }) => ('at' in body && body.at && body.kind !== 'skip' ? [body.at.key] : []));

/** Pairs that follow from what a family is: its zeros, what is read before it is turned, what is read after it. */
export function pairsOf(ex: Exercise): readonly Pair[] {
  const { family, plan, kit } = ex;
  const steps = stepsOf(family, plan);
  const all = [...steps.values()];
  const title = (key: string): string => (steps.get(key)?.title ?? key).toLowerCase();
  const pairs: Pair[] = [];
  const pair = (a: Step, b: Step, weight: Pair['weight'], words: string): void => {
    pairs.push({ before: a.key, after: b.key, weight, words });
  };
  const reads = all.filter((s) => s.kind === 'read');
  for (const zero of all)
    if (zero.kind === 'zero')
      for (const read of reads)
        if (read.slot === zero.slot && read.phase !== 'left')
          pair(zero, read, 2, `${title(zero.key)} comes before ${title(read.key)}`);
  for (const turn of all) {
    if (turn.kind !== 'turn') continue;
    const moved =
      family.adjusters.find((a) => a.id === turn.adjuster)?.prior.moves.map((m) => m.setting) ?? [];
    for (const read of reads)
      if (read.phase === 'found' && moved.includes(read.setting))
        pair(read, turn, 2, `${title(read.key)} is read before ${title(turn.key)}`);
  }
  for (const [before, after, weight] of kit.practice.pairs ?? [])
    pairs.push({ before, after, weight, words: `${title(before)} comes before ${title(after)}` });
  return pairs;
}

/**
 * Pairs held against what was taken.
 * @param keys the steps, in the order in which they were taken
 * @param asked pairs that the script's own run on this draw keeps: nobody is blamed for what even it does otherwise
 */
export function orderScore(pairs: readonly Pair[], keys: readonly string[]): OrderScore {
  let [met, kept, weights, good] = [0, 0, 0, 0];
  const broken = new Map<string, number>();
  const index = new Map<string, Pair[]>();
  for (const p of pairs) index.set(p.after, [...(index.get(p.after) ?? []), p]);
  const done = new Set<string>();
  for (const key of keys) {
    for (const p of index.get(key) ?? []) {
      met++;
      weights += p.weight;
      if (done.has(p.before)) {
        kept++;
        good += p.weight;
      } else broken.set(p.words, p.weight);
    }
    done.add(key);
  }
  return {
    met,
    kept,
    part: weights > 0 ? good / weights : undefined,
    broken: [...broken].sort((a, b) => b[1] - a[1]).map(([words]) => words),
  };
}

/** The pairs that a run of the script keeps, each time. */
export const askedOf = (pairs: readonly Pair[], scripted: readonly string[]): readonly Pair[] =>
  pairs.filter((p) => orderScore([p], scripted).broken.length === 0);

/** Steps that turn this. */
export const turnsOf = (ex: Pick<Exercise, 'family' | 'plan'>, adjuster: string): readonly Step[] =>
  [...stepsOf(ex.family, ex.plan).values()].filter((s) => s.kind === 'turn' && s.adjuster === adjuster);

/**
 * Why a hand does not reach what it would turn, in words; undefined where it does.
 * @param holds whether a fact that gives access is so
 */
export function unreached(
  ex: Exercise,
  adjuster: string,
  holds: (fact: string, value: string) => boolean,
): string | undefined {
  const { access = [] } = ex.kit.practice;
  const closed = turnsOf(ex, adjuster).map((s) =>
    Object.entries(s.needs ?? {}).filter(([fact, value]) => access.includes(fact) && !holds(fact, value)),
  );
  if (closed.some((all) => all.length === 0)) return undefined;
  return closed[0]
    ?.map(([fact, value]) => ex.family.facts[fact]?.[value]?.title.toLowerCase() ?? fact)
    .join(', ');
}

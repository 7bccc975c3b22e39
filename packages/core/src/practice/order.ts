// The order of work: pairs of which one comes before the other. Other orders are free.
import { stepsOf, type FoldedJob, type JobEvent, type PlacedBody, type Step } from '../procedure/index.js';
import type { Family } from '../family/index.js';
import type { Deed, Exercise } from './run.js';

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

/** Where the handles stood at a time, by what the hands had done. */
export function positionsAt(
  start: Readonly<Record<string, number>>,
  deeds: readonly Deed[],
  t: number,
): Readonly<Record<string, number>> {
  const out: Record<string, number> = { ...start };
  for (const d of deeds) {
    if (d.t > t) break;
    if (d.do === 'set') out[d.id] = d.value;
  }
  return out;
}

/** An interlock that somebody went past: what was not so, in words, and whether cautions stand at it. */
export interface Passed {
  readonly fact: string;
  readonly title: string;
  readonly grave: boolean;
}

/**
 * What a step needs and what is not so: by where the handles stand where a fact has hands, else by what was said.
 * @param positions absent where what was said is all that is known
 */
export function passed(
  family: Pick<Family, 'facts'>,
  step: Pick<Step, 'needs'>,
  positions: Readonly<Record<string, number>> | undefined,
  said: (fact: string) => string | undefined,
): readonly Passed[] {
  return Object.entries(step.needs ?? {}).flatMap(([fact, wanted]) => {
    const def = family.facts[fact]?.[wanted];
    const hands = Object.entries(def?.hands ?? {});
    const holds =
      positions && hands.length > 0 ? hands.every(([h, v]) => positions[h] === v) : said(fact) === wanted;
    return holds ? [] : [{ fact, title: def?.title ?? fact, grave: (def?.cautions?.length ?? 0) > 0 }];
  });
}

/** Steps whose hands are this: opening that valve is that step, whoever asked for it. */
export const stepsWith = (
  ex: Pick<Exercise, 'family' | 'plan'>,
  handle: string,
  value: number,
): readonly Step[] =>
  [...stepsOf(ex.family, ex.plan).values()].filter((s) => s.hands?.[handle] === value && s.needs);

/** Steps that turn this. */
export const turnsOf = (ex: Pick<Exercise, 'family' | 'plan'>, adjuster: string): readonly Step[] =>
  [...stepsOf(ex.family, ex.plan).values()].filter((s) => s.kind === 'turn' && s.adjuster === adjuster);

/** Everything that was taken at a step, in its order. */
export const takenIn = (view: FoldedJob): readonly PlacedBody[] =>
  [...view.state.taken.values()]
    .flatMap((passes) => [...passes.values()].flat())
    .sort((a, b) => a.order - b.order)
    .map((k) => k.body);

/** What the log made true before a time on the source's clock. */
export function saidBefore(view: FoldedJob, t: number): (fact: string) => string | undefined {
  const facts = new Map<string, string>();
  for (const body of takenIn(view)) {
    if ((body.t_s ?? 0) > t) break;
    for (const [f, v] of Object.entries(body.sets ?? {})) facts.set(f, v);
  }
  return (fact) => facts.get(fact);
}

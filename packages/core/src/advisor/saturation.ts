/** One movement with the readings on either side of it: hand units, Pa. */
export interface Pair {
  readonly turns: number;
  readonly before: number;
  readonly after: number;
}

/** A turn that gives less than this of what earlier ones gave has come to the end of what the screw can do. */
const LITTLE = 0.3;
const SURE = 3;

/** What the newest movements that went one way did together, from the last alone to all of them, each with how many were before it. */
export function* trailing(history: readonly Pair[]): Generator<Pair & { readonly from: number }> {
  const way = Math.sign(history.at(-1)?.turns ?? 0);
  let turns = 0;
  for (let from = history.length - 1; from >= 0; from--) {
    const [first, last] = [history[from], history.at(-1)];
    if (!first || !last || way === 0 || Math.sign(first.turns) !== way) return;
    turns += first.turns;
    yield { from, turns, before: first.before, after: last.after };
  }
}

/**
 * Whether the newest turns no longer move what earlier turns, the same way, did move: the setting is saturated. Small turns, none of
 * which says anything by itself, are seen together.
 * @param sd of one reading, Pa
 */
export function saturated(history: readonly Pair[], sd: number): boolean {
  const doubt = SURE * sd * Math.SQRT2;
  for (const last of trailing(history)) {
    const sameWay = history.slice(0, last.from).filter((h) => Math.sign(h.turns) === Math.sign(last.turns));
    const turned = sameWay.reduce((a, h) => a + h.turns, 0);
    const moved = sameWay.reduce((a, h) => a + h.after - h.before, 0);
    if (turned === 0 || Math.abs(moved) < doubt) continue;
    const expected = (moved / turned) * last.turns;
    const got = last.after - last.before;
    if (Math.abs(expected) > 2 * doubt && got / expected < LITTLE && Math.abs(expected - got) > doubt)
      return true;
  }
  return false;
}

/**
 * Whether a screw has no more to give, or what is wanted lies where its scale or its spring does not reach; undefined where a turn may
 * help.
 * @param sd of one reading, Pa
 * @param scale lowest and highest that it reaches, Pa
 */
export function endOf(
  history: readonly Pair[],
  sd: number,
  target: number,
  scale: readonly [lowest: number, highest: number],
): { readonly stop: 'saturated' | 'end-of-scale'; readonly because: string } | undefined {
  if (saturated(history, sd))
    return {
      stop: 'saturated',
      because: 'The last turns moved it far less than those before: the screw has no more to give.',
    };
  const [lowest, highest] = scale;
  return target < lowest || target > highest
    ? {
        stop: 'end-of-scale',
        because: 'The target lies beyond what the scale or the spring reaches: no turn gets there.',
      }
    : undefined;
}

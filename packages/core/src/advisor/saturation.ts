/** One movement with the readings on either side of it: hand units, Pa. */
export interface Pair {
  readonly turns: number;
  readonly before: number;
  readonly after: number;
}

/** A turn that gives less than this of what earlier ones gave has come to the end of what the screw can do. */
const LITTLE = 0.3;
const SURE = 3;

/**
 * Whether the newest turn no longer moves what earlier turns, the same way, did move: the setting is saturated.
 * @param sd of one reading, Pa
 */
export function saturated(history: readonly Pair[], sd: number): boolean {
  const last = history.at(-1);
  if (!last || last.turns === 0) return false;
  const sameWay = history.slice(0, -1).filter((h) => Math.sign(h.turns) === Math.sign(last.turns));
  const turned = sameWay.reduce((a, h) => a + h.turns, 0);
  const moved = sameWay.reduce((a, h) => a + h.after - h.before, 0);
  if (turned === 0 || Math.abs(moved) < SURE * sd * Math.SQRT2) return false;
  const expected = (moved / turned) * last.turns;
  const got = last.after - last.before;
  const doubt = SURE * sd * Math.SQRT2;
  return Math.abs(expected) > 2 * doubt && got / expected < LITTLE && Math.abs(expected - got) > doubt;
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
      because: 'The last turn moved it far less than the turns before: the screw has no more to give.',
    };
  const [lowest, highest] = scale;
  return target < lowest || target > highest
    ? {
        stop: 'end-of-scale',
        because: 'The target lies beyond what the scale or the spring reaches: no turn gets there.',
      }
    : undefined;
}

import { hypotheses, learnedGain, moved, type Belief } from './belief.js';
import { upperTail, within } from './normal.js';

/** Chance of reaching `never` that one movement may carry. */
export const RISK = 1e-4;
/** A movement that leaves this part of a danger, or less, takes some of it away. */
const LESS = 0.999;
/** All that is left out by it is far below the bound. */
const NEGLIGIBLE = 1e-9;
/** Held to be reversed sooner than not: where no movement is safe, none is tried. */
const EVEN = 0.5;
/** Where a danger is to be taken away, this much of what can be taken away may be left. */
const MOST_OF_IT = 0.05;
const DEAD_SURE = 0.99;
/** So much farther than the largest usual movement, where that falls short. */
const FARTHER = 2;

/** What one setting should become and must not reach, Pa. */
export interface Aim {
  readonly setting: string;
  readonly target: number;
  readonly lower: number;
  readonly upper: number;
  /** Never to be reached: relief or rating less its own tolerance. */
  readonly never: number;
}

/** A setting that is moved along: it has no limits of its own here, only what it must not reach. */
export const openAim = (setting: string, never: number): Aim => ({
  setting,
  target: NaN,
  lower: -Infinity,
  upper: Infinity,
  never,
});
/** Whether a setting is only moved along. */
export const isOpen = (aim: Aim): boolean => aim.lower === -Infinity && aim.upper === Infinity;

/** What a hand can do with the adjuster. */
export interface Hand {
  /** Smallest sensible movement, hand units. */
  readonly quantum: number;
  /** Largest movement usually made at once; up to twice it where that would fall short and endangers nothing. */
  readonly largest: number;
  /** Never more than that. */
  readonly strict?: boolean | undefined;
}

export interface Expectation {
  readonly setting: string;
  readonly mean: number;
  /** 95 % band */
  readonly low: number;
  readonly high: number;
}

export type StopReason =
  'in-limits' | 'no-response' | 'reversed' | 'saturated' | 'end-of-scale' | 'unsafe' | 'not-read';

export type Advice =
  | {
      readonly stop: null;
      /** Signed hand units, clockwise positive. */
      readonly turns: number;
      readonly expect: readonly Expectation[];
      readonly perTurn: number;
      readonly perTurnSd: number;
      /** Whether the risk bound made the movement smaller than aimed. */
      readonly probing: boolean;
      /** Chance that everything aimed at lands in its band, if the screw works. */
      readonly lands: number;
      /** Chance of reaching `never`. */
      readonly risk: number;
      /** What comes nearest to its `never`, aimed at or only moved along. */
      readonly nearest: Expectation;
      /** How far its upper expectation stays under it. */
      readonly room: number;
    }
  | { readonly stop: StopReason; readonly perTurn: number; readonly because: string };

/** The predicted distribution of one setting after a movement: mean and 95 % band. */
export function expectation(belief: Belief, index: number, turns: number): Expectation {
  let w = 0;
  let m = 0;
  let q = 0;
  for (const c of belief.candidates) {
    if (c.hypothesis !== 'works') continue;
    const x = moved(belief, c, index, turns);
    w += c.weight;
    m += c.weight * x.mean;
    q += c.weight * (x.variance + x.mean * x.mean);
  }
  const mean = m / w;
  const sd = Math.sqrt(Math.max(0, q / w - mean * mean));
  const setting = belief.prior.moves[index]?.setting ?? '';
  return { setting, mean, low: mean - 2 * sd, high: mean + 2 * sd };
}

interface Score {
  readonly turns: number;
  readonly land: number;
  readonly miss: number;
  /** Chance to reach any `never`, a reversed screw counted in. */
  readonly risk: number;
  /** The same of a screw that is not reversed. */
  readonly forward: number;
}

/** Chance to land in every band, expected miss, and chance to reach any `never`, for one movement. */
function score(belief: Belief, aims: readonly { aim: Aim; index: number }[], turns: number): Score {
  let land = 0;
  let miss = 0;
  let risk = 0;
  let forward = 0;
  let working = 0;
  for (const c of belief.candidates) {
    // A reversed screw is not planned for, but it counts as a danger: before the first reading after a turn has all but ruled it
    // out, a lowering move goes no farther than its mirror image may.
    if (c.weight < NEGLIGIBLE) continue;
    let all = 1;
    let away = 0;
    let reach = 0;
    for (const { aim, index } of aims) {
      const x = moved(belief, c, index, turns);
      const sd = Math.sqrt(x.variance);
      // What has no limits of its own is only kept from what it must not reach.
      if (c.hypothesis === 'works' && !isOpen(aim)) {
        all *= within(aim.lower, aim.upper, x.mean, sd);
        away += Math.abs(x.mean - aim.target);
      }
      reach = Math.max(reach, upperTail((aim.never - x.mean) / sd));
    }
    risk += c.weight * reach;
    if (c.hypothesis !== 'reversed') forward += c.weight * reach;
    if (c.hypothesis === 'works') {
      working += c.weight;
      land += c.weight * all;
      miss += c.weight * away;
    }
  }
  return working > 0
    ? { turns, land: land / working, miss: miss / working, risk, forward }
    : { turns, land: 0, miss: Infinity, risk, forward };
}

/**
 * How far to turn next: the movement most likely to land every aimed setting in its band, among those a hand can do,
 * with no more than a 1 in 10 000 chance that anything it moves reaches its `never`.
 * @param standing what each setting is held to stand at (the mean of its agreeing readings), Pa; "in limits" is said of these,
 *   so that advice and sheet never differ; the belief's own estimate where it is not given
 */
export function advise(
  belief: Belief,
  aims: readonly Aim[],
  hand: Hand,
  standing: Readonly<Record<string, number>> = {},
): Advice {
  const asked = [
    ...aims.map((a) => [a.setting, a.target, a.lower, a.upper, a.never, standing[a.setting]]),
    [hand.quantum, hand.largest, hand.strict],
  ].join();
  const said = lately.get(belief) ?? [];
  const before = said.find((x) => x.asked === asked);
  if (before) return before.advice;
  const advice = adviseAnew(belief, aims, hand, standing);
  lately.set(belief, [...said.slice(1 - MOST_SAID), { asked, advice }]);
  return advice;
}

/** What was said of a belief: it is asked for after every event, and mostly nothing has changed. */
const lately = new WeakMap<Belief, readonly { readonly asked: string; readonly advice: Advice }[]>();
const MOST_SAID = 4;

function adviseAnew(
  belief: Belief,
  aims: readonly Aim[],
  hand: Hand,
  standing: Readonly<Record<string, number>>,
): Advice {
  const placed = aims
    .map((aim) => ({ aim, index: belief.prior.moves.findIndex((m) => m.setting === aim.setting) }))
    .filter((x) => x.index >= 0 && belief.known[x.index]);
  const { perTurn, sd: perTurnSd } = learnedGain(belief);
  const stop = (reason: StopReason, because: string): Advice => ({ stop: reason, perTurn, because });
  const bounded = placed.filter(({ aim }) => !isOpen(aim));
  if (bounded.length === 0) return stop('not-read', 'Nothing that this adjuster moves has been read yet.');
  const h = hypotheses(belief);
  if (belief.totalTurned > 0 && h.dead > DEAD_SURE)
    return stop('no-response', 'The screw turns and the reading does not follow: stop, it will not set.');
  const against = stop(
    'reversed',
    'The reading moves against the screw: check which screw it is and which way it was turned.',
  );
  if (belief.totalTurned > 0 && h.reversed > 0.9) return against;
  const now = bounded.map(({ index }) => expectation(belief, index, 0));
  if (bounded.every(({ aim }, i) => inside(standing[aim.setting] ?? now[i]?.mean ?? NaN, aim)))
    return stop('in-limits', 'Every setting stands inside its limits.');
  // The largest usual movement is a habit, not a wall: where it falls short, and the danger allows, it goes farther.
  const steps = (hand.strict ? 1 : FARTHER) * Math.round(hand.largest / hand.quantum);
  const still = score(belief, placed, 0);
  const ways = bounded.map(({ aim }, i) => {
    const mean = now[i]?.mean ?? aim.target;
    return Math.sign(perTurn) * (mean < aim.lower ? 1 : mean > aim.upper ? -1 : 0);
  });
  // Where all of it must go one way, and nothing is near, the other way is not looked at.
  const only = (way: number): boolean => still.risk <= RISK && ways.every((w) => w === way);
  const scores: Score[] = [];
  for (let i = only(1) ? 1 : -steps; i <= (only(-1) ? -1 : steps); i++)
    if (i !== 0) scores.push(score(belief, placed, i * hand.quantum));
  const bestOf = (may: (s: Score) => boolean): Score | undefined =>
    scores.reduce<Score | undefined>(
      (best, s) => (may(s) && (!best || better(s, best)) ? s : best),
      undefined,
    );
  const free = bestOf(() => true);
  const safe = bestOf((s) => s.risk <= RISK);
  // It already stands where it may reach `never`: whatever takes most of that away is better than standing still.
  const least = Math.min(...scores.map((s) => s.risk));
  const calming =
    !safe && still.forward > RISK && least < still.risk * LESS
      ? bestOf((s) => s.risk <= least + (still.risk - least) * MOST_OF_IT)
      : undefined;
  if (!safe && !calming && h.reversed > EVEN) return against;
  // Only that the screw might be reversed speaks against going down: the smallest movement asks which way it works.
  const asking =
    safe ?? calming ?? bestOf((s) => Math.abs(s.turns) <= hand.quantum * 1.001 && s.forward <= RISK);
  // Limits need not lie evenly about what is aimed at: likelier to land is better too.
  const best = asking && (asking.miss < still.miss || asking.land > still.land) ? asking : undefined;
  if (!best)
    return safe && free && safe.turns === free.turns
      ? stop('in-limits', 'No movement that a hand can make would bring it nearer.')
      : stop('unsafe', 'Any movement that would help may reach the relief or a rating. Do not turn further.');
  const chosen = best;
  const expect = bounded.map(({ index }) => expectation(belief, index, chosen.turns));
  const [{ e: nearest, room } = { e: now[0] as Expectation, room: Infinity }] = placed
    .map(({ aim, index }) => {
      const e = expectation(belief, index, chosen.turns);
      return { e, room: aim.never - e.high };
    })
    .sort((a, b) => a.room - b.room);
  return {
    stop: null,
    turns: chosen.turns,
    expect,
    perTurn,
    perTurnSd,
    probing: free !== undefined && Math.abs(free.turns) > Math.abs(chosen.turns),
    lands: chosen.land,
    risk: chosen.risk,
    nearest,
    room,
  };
}

const inside = (x: number, aim: Aim): boolean => x >= aim.lower && x <= aim.upper;

/** More likely to land; where nothing is likely to (a long way off), nearer on average; then the smaller movement. */
function better(a: Score, b: Score): boolean {
  const far = a.land < 0.02 && b.land < 0.02;
  if (!far && Math.abs(a.land - b.land) > 1e-9) return a.land > b.land;
  if (Math.abs(a.miss - b.miss) > 1e-9) return a.miss < b.miss;
  return Math.abs(a.turns) < Math.abs(b.turns);
}

/**
 * The chance that a movement of the technician's own choosing reaches `never`, and what to expect of it.
 * Used to refuse "other amount" where it would reach the relief.
 */
export function riskOf(belief: Belief, aims: readonly Aim[], turns: number): number {
  const placed = aims
    .map((aim) => ({ aim, index: belief.prior.moves.findIndex((m) => m.setting === aim.setting) }))
    .filter((x) => x.index >= 0 && belief.known[x.index]);
  return score(belief, placed, turns).risk;
}

import {
  advise,
  believe,
  endOf,
  type AdjusterPrior,
  type Advice,
  type Aim,
  type Happening,
} from '@firm-needle/core/advisor';
import { no } from '../answer.js';
import { familyNamed } from './plans.js';

interface AdviseRequest {
  readonly family: string;
  readonly adjuster: string;
  readonly setting: string;
  readonly target_Pa: number;
  readonly lower_Pa: number;
  readonly upper_Pa: number;
  /** What must not be reached; null where there is nothing. */
  readonly never_Pa: number | null;
  readonly now_Pa: number;
  /** Expanded, k = 2. */
  readonly u_Pa: number;
  readonly others?: readonly {
    readonly setting: string;
    readonly now_Pa: number;
    readonly never_Pa: number | null;
  }[];
  /** What the scale or the spring reaches; the family's own where it says nothing. */
  readonly scale_Pa?: readonly [number, number];
  readonly backlash_turns?: number;
  /** Smallest sensible movement, and the largest at once. */
  readonly quantum_turns?: number;
  readonly largest_turns?: number;
  readonly prior?: { readonly perTurn_Pa: number; readonly spread: number };
  readonly history?: readonly {
    readonly turns: number;
    readonly before_Pa: number;
    readonly after_Pa: number;
  }[];
}

const NUMBERS = ['target_Pa', 'lower_Pa', 'upper_Pa', 'now_Pa', 'u_Pa'] as const;
/** Hands where no family says better: eighths of a turn, three turns at once. */
const HAND = { quantum: 1 / 8, largest: 3 } as const;
const RATIO_SPREAD = 0.05;

/** A number, or a refusal that names where it should stand. */
function numberAt(x: unknown, where: string): number {
  if (typeof x === 'number' && Number.isFinite(x)) return x;
  return no('not-a-number', `"${where}" is missing or not a number.`, {
    where,
    ...(where.endsWith('_Pa') ? { bound: 'a number of pascals' } : {}),
  });
}

/** What must not be reached: a number, or null for nothing; left out it is asked for. */
function ceilingAt(x: unknown, where: string): void {
  if (x === undefined)
    no('ceiling-missing', `"${where}" is missing: what must not be reached is said, or null for nothing.`, {
      where,
      remedy: `Give ${where} in Pa: relief or rating less its tolerance.`,
    });
  if (x !== null) numberAt(x, where);
}

/** Every number of a request is one, and in pascals or turns. */
function check(r: AdviseRequest): void {
  for (const key of NUMBERS) numberAt(r[key], key);
  ceilingAt(r.never_Pa, 'never_Pa');
  listOf(r.others, 'others').forEach((o, i) => {
    numberAt(o.now_Pa, `others[${i}].now_Pa`);
    ceilingAt(o.never_Pa, `others[${i}].never_Pa`);
  });
  listOf(r.history, 'history').forEach((h, i) => {
    for (const key of ['turns', 'before_Pa', 'after_Pa'] as const) numberAt(h[key], `history[${i}].${key}`);
  });
  for (const key of ['backlash_turns', 'quantum_turns', 'largest_turns'] as const) {
    const x = r[key];
    if (x !== undefined && !(numberAt(x, key) >= 0 && (x > 0 || key === 'backlash_turns')))
      no('negative', `"${key}" is a number of turns above nought.`, { where: key });
  }
  if (r.quantum_turns !== undefined && r.largest_turns !== undefined && r.quantum_turns > r.largest_turns)
    no('hand-crossed', 'The smallest movement is above the largest.', { where: 'quantum_turns' });
  if (r.scale_Pa !== undefined) {
    const [low, high] = listOf(r.scale_Pa, 'scale_Pa').map((x, i) => numberAt(x, `scale_Pa[${i}]`));
    if (!(low !== undefined && high !== undefined && low < high))
      no('limits-crossed', '"scale_Pa" is a lowest and a highest.', { where: 'scale_Pa' });
  }
}

function listOf<T>(list: readonly T[] | undefined, where: string): readonly T[] {
  if (list !== undefined && !Array.isArray(list)) no('not-a-list', `"${where}" is a list.`, { where });
  return list ?? [];
}

/** How far to turn next, from what was turned and read so far. */
export async function adviseOne(r: AdviseRequest): Promise<object> {
  check(r);
  if (!(r.upper_Pa > r.lower_Pa))
    no('limits-crossed', 'The upper limit is not above the lower.', { where: 'upper_Pa' });
  if (!(r.u_Pa >= 0)) no('negative', 'An uncertainty is never negative.', { where: 'u_Pa' });
  const known = await familyNamed(r.family).catch(() => undefined);
  const def = known?.adjusters.find((a) => a.id === r.adjuster);
  const base = r.prior ? { perTurn: r.prior.perTurn_Pa, spread: r.prior.spread } : def?.prior;
  if (!base || !Number.isFinite(base.perTurn) || base.perTurn === 0)
    no(
      'prior-missing',
      `Nothing is known of "${r.adjuster}" of ${r.family}: what one turn does must be said.`,
      {
        where: 'prior',
        remedy: 'Give prior.perTurn_Pa and prior.spread.',
      },
    );
  const moves = [
    { setting: r.setting, ratio: 1, ratioSpread: 0 },
    ...(r.others ?? []).map((o) => {
      const own = def?.prior.moves.find((m) => m.setting === r.setting)?.ratio ?? 1;
      const m = def?.prior.moves.find((x) => x.setting === o.setting);
      return {
        setting: o.setting,
        ratio: (m?.ratio ?? 1) / own,
        ratioSpread: m?.ratioSpread ?? RATIO_SPREAD,
      };
    }),
  ];
  const prior: AdjusterPrior = {
    perTurn: base?.perTurn ?? 1,
    spread: Math.max(0.01, base?.spread ?? 0.5),
    backlash: r.backlash_turns ?? def?.prior.backlash ?? 0,
    moves,
  };
  const sd = Math.max(r.u_Pa / 2, 1);
  const read = (setting: string, value: number): Happening => ({ setting, value, sd });
  const happened: Happening[] = [];
  let last: number | undefined;
  for (const h of r.history ?? []) {
    // Successive pairs share a reading; it is counted once.
    if (h.before_Pa !== last) happened.push(read(r.setting, h.before_Pa));
    happened.push({ turn: h.turns }, read(r.setting, h.after_Pa));
    last = h.after_Pa;
  }
  if (r.now_Pa !== last) happened.push(read(r.setting, r.now_Pa));
  for (const o of r.others ?? []) happened.push(read(o.setting, o.now_Pa));
  const pairs = (r.history ?? []).map((h) => ({ turns: h.turns, before: h.before_Pa, after: h.after_Pa }));
  const inside = r.now_Pa >= r.lower_Pa && r.now_Pa <= r.upper_Pa;
  const own = known?.settings.find((s) => s.id === r.setting);
  const scale = r.scale_Pa ?? ([own?.lower ?? -Infinity, own?.upper ?? Infinity] as const);
  const ended = inside ? undefined : endOf(pairs, sd, r.target_Pa, scale);
  if (ended) return answerOf({ ...ended, perTurn: prior.perTurn }, r);
  const belief = believe(prior, happened);
  const never = r.never_Pa ?? Infinity;
  const aims: Aim[] = [
    { setting: r.setting, target: r.target_Pa, lower: r.lower_Pa, upper: r.upper_Pa, never },
    ...(r.others ?? []).map((o) => ({
      setting: o.setting,
      target: o.now_Pa,
      lower: -Infinity,
      upper: Infinity,
      never: o.never_Pa ?? Infinity,
    })),
  ];
  const usual = def ? { quantum: def.quantum, largest: def.largest } : HAND;
  const hand = {
    quantum: r.quantum_turns ?? usual.quantum,
    largest: r.largest_turns ?? usual.largest,
    // What was said is meant.
    ...(r.largest_turns === undefined ? {} : { strict: true }),
  };
  return answerOf(advise(belief, aims, hand, { [r.setting]: r.now_Pa }), r);
}

function answerOf(a: Advice, r: AdviseRequest): object {
  if (a.stop !== null)
    return {
      turns: 0,
      direction: 'none',
      expect_Pa: r.now_Pa,
      expect95_Pa: [r.now_Pa - r.u_Pa, r.now_Pa + r.u_Pa],
      perTurn_Pa: a.perTurn,
      stop: a.stop,
      because: a.because,
    };
  const [first] = a.expect;
  return {
    turns: a.turns,
    direction: a.turns > 0 ? 'clockwise' : 'counter-clockwise',
    expect_Pa: first?.mean ?? null,
    expect95_Pa: [first?.low ?? null, first?.high ?? null],
    perTurn_Pa: a.perTurn,
    stop: null,
    because: `${
      a.probing
        ? 'A smaller turn first: more might reach what must never be reached.'
        : 'Most likely to land inside the limits.'
    }${r.never_Pa === null ? ' Nothing was given that must never be reached.' : ''}`,
  };
}

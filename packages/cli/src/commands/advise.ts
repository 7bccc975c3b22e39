import {
  advise,
  believe,
  saturated,
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
  readonly never_Pa: number;
  readonly now_Pa: number;
  /** Expanded, k = 2. */
  readonly u_Pa: number;
  readonly others?: readonly {
    readonly setting: string;
    readonly now_Pa: number;
    readonly never_Pa: number;
  }[];
  /** What the scale or the spring reaches; the family's own where it says nothing. */
  readonly scale_Pa?: readonly [number, number];
  readonly backlash_turns?: number;
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

/** How far to turn next, from what was turned and read so far. */
export async function adviseOne(r: AdviseRequest): Promise<object> {
  for (const key of NUMBERS)
    if (!Number.isFinite(r[key])) no('not-a-number', `"${key}" is missing or not a number.`, { where: key });
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
  if (!inside && saturated(pairs, sd))
    return answerOf(
      {
        stop: 'saturated',
        perTurn: prior.perTurn,
        because: 'The last turn moved it far less than the turns before: the screw has no more to give.',
      },
      r,
    );
  const own = known?.settings.find((s) => s.id === r.setting);
  const [lowest, highest] = r.scale_Pa ?? [own?.lower ?? -Infinity, own?.upper ?? Infinity];
  if (!inside && (r.target_Pa < lowest || r.target_Pa > highest))
    return answerOf(
      {
        stop: 'end-of-scale',
        perTurn: prior.perTurn,
        because: 'The target lies beyond what the scale or the spring reaches: no turn gets there.',
      },
      r,
    );
  const belief = believe(prior, happened);
  const never = r.never_Pa ?? Infinity;
  const aims: Aim[] = [
    { setting: r.setting, target: r.target_Pa, lower: r.lower_Pa, upper: r.upper_Pa, never },
    ...(r.others ?? []).map((o) => ({
      setting: o.setting,
      target: o.now_Pa,
      lower: -Infinity,
      upper: Infinity,
      never: o.never_Pa,
    })),
  ];
  const hand = def ? { quantum: def.quantum, largest: def.largest } : HAND;
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
    because: a.probing
      ? 'A smaller turn first: more might reach what must never be reached.'
      : 'Most likely to land inside the limits.',
  };
}

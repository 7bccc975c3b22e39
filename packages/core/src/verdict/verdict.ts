/** Limits of a setting, gauge Pa (or s for a time); an absent side is open. */
export interface Limits {
  readonly lower?: number;
  readonly upper?: number;
}

export type Rule = 'guarded' | 'simple';
export type VerdictWord = 'in' | 'near' | 'out';

export interface Verdict {
  readonly word: VerdictWord;
  /** One sentence with the numbers. */
  readonly because: string;
  /** True where simple acceptance says in or out but the gauge cannot tell. */
  readonly cannotTell: boolean;
}

/** Inside the plain limits, no guard band: what the advisor lands on. */
export const insidePlain = (value: number, limits: Limits): boolean =>
  (limits.lower === undefined || value >= limits.lower) &&
  (limits.upper === undefined || value <= limits.upper);

/**
 * Decide by a guard band of one expanded uncertainty on each side (JCGM 106, ILAC-G8: w = U), or simply (w = 0).
 * @param value the figure, in the unit of the limits
 * @param U expanded uncertainty, same unit, ≥ 0
 * @param say formats a value with its unit for the sentence
 */
export function decide(
  value: number,
  U: number,
  limits: Limits,
  rule: Rule,
  say: (value: number) => string,
): Verdict {
  const { lower = -Infinity, upper = Infinity } = limits;
  const clearlyIn = value >= lower + U && value <= upper - U;
  const clearlyOut = value < lower - U || value > upper + U;
  const inside = value >= lower && value <= upper;
  const span =
    limits.lower !== undefined && limits.upper !== undefined
      ? `${say(lower)} to ${say(upper)}`
      : limits.lower !== undefined
        ? `at least ${say(lower)}`
        : `at most ${say(upper)}`;
  const reading = `${say(value)} ± ${say(U)}`;
  const word: VerdictWord =
    rule === 'guarded' ? (clearlyIn ? 'in' : clearlyOut ? 'out' : 'near') : inside ? 'in' : 'out';
  const cannotTell = !clearlyIn && !clearlyOut;
  const beyond = value < lower ? `${say(lower - value)} below` : `${say(value - upper)} above`;
  const tail = cannotTell
    ? inside
      ? `inside ${span}, but nearer a limit than the gauge can tell`
      : `${beyond} the limit, within what the gauge can tell`
    : word === 'in'
      ? `inside ${span}, with its ± inside too`
      : `${beyond} the limit (${span})`;
  return { word, cannotTell, because: `${reading} is ${tail}.` };
}

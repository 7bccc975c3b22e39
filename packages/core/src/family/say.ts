import { expectation, RISK, riskOf, type Advice } from '../advisor/index.js';
import { accept, refuse, type Result } from '../result.js';
import { decimalsFor, fromCanonical, showInterval, showWithUnit } from '../quantity/index.js';
import {
  byQuantity,
  unseenAbove,
  wordsOf,
  type JobView,
  type Missing,
  type ReadStep,
  type Step,
} from '../procedure/index.js';
import type { Family } from './contract.js';
import { sayAmount } from './sheet.js';

/** The next move in words: what to do, what to expect, and why. */
export interface NextMove {
  /** The imperative, and the part of it to set in bold. */
  readonly say: string;
  readonly amount?: string;
  readonly expect?: string;
  readonly why?: string;
  /** A bound to stop at, Pa; `falling` where the pressure comes to it from above. */
  readonly stopAt?: number;
  readonly falling?: true;
  readonly stop?: string;
}

/** What to do about an interlock that the step still lacks. */
export const sayMissing = (m: Missing): NextMove => ({
  say: m.say,
  why: `Needed first: ${m.title.toLowerCase()}.`,
});

/** The sentence of one step as the job stands. */
export function sayStep(family: Family, job: JobView, step: Step): NextMove {
  const why = step.why ? wordsOf(step.why, job) : undefined;
  const say = wordsOf(step.say, job);
  if (step.kind === 'turn' && step.amount)
    return {
      say,
      amount: sayAmount(job.adjuster(step.adjuster), step.amount(job)),
      ...(why ? { why } : {}),
    };
  if (step.kind === 'turn' && !step.seek) return sayTurn(family, job, step.adjuster, step.how);
  if (step.kind !== 'read') return { say, ...(why ? { why } : {}) };
  const expected = expectedOf(family, job, step.setting);
  return {
    say,
    ...(expected ? { expect: `Expect ${expected}.` } : {}),
    ...(why ? { why } : {}),
    ...stopOf(family, job, step),
  };
}

/** Where a watched reading is stopped by hand: what must not be reached, or what must not be fallen to. */
function stopOf(family: Family, job: JobView, step: ReadStep): Pick<NextMove, 'stopAt' | 'falling'> {
  if (!step.watched) return {};
  const least = step.catch === 'low' ? family.least?.(job.plan, step.setting) : undefined;
  return least === undefined
    ? { stopAt: family.never(job.plan, step.setting) }
    : { stopAt: least, falling: true };
}

/** What the belief expects a setting to read now, in words; undefined where nothing moved it. */
function expectedOf(family: Family, job: JobView, setting: string): string | undefined {
  const p = predicted(family, job, setting);
  return p ? plusMinus(job, setting, p.mean, (p.high - p.low) / 2) : undefined;
}

/** The predicted reading of a setting after the last movement: mean and 95 % band, Pa. */
export function predicted(
  family: Family,
  job: JobView,
  setting: string,
): { mean: number; low: number; high: number } | undefined {
  const last = job.state.turns.at(-1);
  // What was only bounded says which side it stands on, and not where.
  if (!last || !job.due(setting) || job.readings(setting).length === 0) return undefined;
  const def = family.adjusters.find((a) => a.id === last.body.adjuster);
  const index = def?.prior.moves.findIndex((m) => m.setting === setting) ?? -1;
  if (!def || index < 0) return undefined;
  const belief = job.belief(def.id);
  return belief.known[index] ? expectation(belief, index, 0) : undefined;
}

function sayTurn(family: Family, job: JobView, adjuster: string, how?: string): NextMove {
  const def = job.adjuster(adjuster);
  const advice = job.advice(adjuster);
  if (advice.stop !== null) return { say: `${def.title}: ${advice.because}`, stop: advice.stop };
  const amount = sayAmount(def, advice.turns);
  const expect = advice.expect
    .map(
      (e) =>
        `${job.setting(e.setting).title.toLowerCase()} ${plusMinus(job, e.setting, e.mean, (e.high - e.low) / 2)}`,
    )
    .join(', ');
  return {
    say: `${def.title}${def.seenFrom ? `, ${def.seenFrom}` : ''}:`,
    amount,
    expect: `${how ? `${how} ` : ''}Expect ${expect}.`,
    why: reason(family, job, adjuster, advice),
  };
}

function reason(
  family: Family,
  job: JobView,
  adjuster: string,
  advice: Extract<Advice, { stop: null }>,
): string {
  const def = job.adjuster(adjuster);
  const lead = def.prior.moves[0]?.setting ?? '';
  const unit = job.setting(lead).unit;
  const parts: string[] = [];
  if (!byQuantity(def)) {
    const said = (pa: number): string =>
      showInterval(pa, { unit, step: Math.min(0.1, job.setting(lead).step ?? 0.1) });
    const assumed = job.started.priors[adjuster] ?? def.prior;
    const turned = job.state.turns.some((t) => t.body.adjuster === adjuster);
    parts.push(
      turned
        ? `One ${def.unit} moved it ${said(advice.perTurn)} here, ${said(assumed.perTurn)} was assumed.`
        : assumed.perTurn === def.prior.perTurn
          ? `One ${def.unit} usually moves it about ${said(assumed.perTurn)}; this one is not known yet.`
          : `One ${def.unit} moved it ${said(assumed.perTurn)} at earlier visits.`,
    );
    const worst = advice.nearest;
    // What is only moved along is not among what is expected: it is named.
    const which = advice.expect.some((e) => e.setting === worst.setting)
      ? ''
      : `${job.setting(worst.setting).title.toLowerCase()} `;
    if (Number.isFinite(advice.room))
      parts.push(
        `Worst case ${which}${job.say(worst.high, worst.setting)} stays ${job.sayWidth(advice.room, worst.setting)} under ${family.ceiling ?? 'what it must not reach'}.`,
      );
  }
  if (job.refines(adjuster))
    parts.unshift(
      `It stands inside its limits, but near. ${Math.round(10 * advice.lands)} times in 10 this brings it surely inside.`,
    );
  if (advice.probing) parts.push('A smaller turn first: more might reach it.');
  return parts.join(' ');
}

/** What is as sure as this, in its unit, is said to a hundredth. */
const FINE = 0.3;
const plusMinus = (job: JobView, setting: string, mean: number, half: number): string => {
  const unit = job.setting(setting).unit;
  const digits = Math.min(fromCanonical(half, unit) < FINE ? 2 : 1, decimalsFor(job.step(setting)));
  return `${fromCanonical(mean, unit).toFixed(digits)}\u00a0±\u00a0${fromCanonical(half, unit).toFixed(digits)}\u00a0${unit}`;
};

/**
 * A movement of the technician's own choosing: refused where it could reach the relief or a rating, or is no movement.
 * @param amount signed, in hand units
 */
export function checkTurn(job: JobView, adjuster: string, amount: number): Result<number> {
  const def = job.adjuster(adjuster);
  if (!Number.isFinite(amount) || amount === 0)
    return refuse('no-turn', 'That is no movement.', {
      where: adjuster,
      remedy: `Say how far and which way: ${def.ways.join(' or ')}.`,
    });
  const most = byQuantity(def)
    ? showWithUnit(def.largest, { unit: def.unit, step: 0.5 })
    : `${def.largest} ${def.unit}s`;
  const advised = job.advice(adjuster);
  const far = Math.max(def.largest, advised.stop === null ? Math.abs(advised.turns) : 0);
  if (Math.abs(amount) > far + 1e-9)
    return refuse('turn-too-large', `${sayAmount(def, amount)} is more than one sensible step.`, {
      where: adjuster,
      bound: most,
      remedy: `Turn at most ${most}, then read.`,
    });
  const aims = job.aims(adjuster);
  // A screw that moves no pressure can reach none.
  if (def.prior.moves.length === 0) return accept(amount);
  const unseen = unseenAbove(job, adjuster, aims);
  if (unseen !== undefined)
    return refuse(
      'not-read',
      `${job.setting(unseen).title} has not been read, and the same screw moves it.`,
      {
        where: unseen,
        remedy: 'Read it first.',
      },
    );
  // What is advised, or less of it, is never refused: where it stands too high already, any way down is better than none.
  if (advised.stop === null && amount / advised.turns > 0 && amount / advised.turns <= 1 + 1e-9)
    return accept(amount);
  const belief = job.belief(adjuster);
  const risk = riskOf(belief, aims, amount);
  if (risk > RISK) {
    const down = amount * belief.prior.perTurn < 0;
    const never = Math.min(...aims.map((a) => a.never));
    const s = aims[0]?.setting ?? '';
    return refuse(
      'turn-reaches-relief',
      `${sayAmount(def, amount)} could reach ${job.say(never, s)}: less the gauge’s own ±, there the relief or a rating lies${down ? ', were this screw to work the wrong way round' : ''}.`,
      {
        where: adjuster,
        bound: `${job.say(never, s)}, with a chance above 1 in 10 000`,
        remedy: 'Turn less and read again.',
      },
    );
  }
  return accept(amount);
}

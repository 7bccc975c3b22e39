import { dimensionOf, rangeText, shownStep, spanOf, zeroLimit, type Gauge } from '../gauge/index.js';
import { accept, refuse, type Result } from '../result.js';
import { fromCanonical, parseGaugePressure, parseQuantity, show, type Typed } from '../quantity/index.js';
import type { JobView } from '../procedure/index.js';
import type { Family } from './contract.js';
import { predicted } from './say.js';

/** A doubt about a typed reading: shown, never enforced. */
export interface Doubt {
  readonly message: string;
  /** A likelier value, in the gauge's unit as text. */
  readonly instead?: string;
}

/** A reading typed for a gauge: refused where it is not a number or outside the gauge's scale. */
export function typeReading(gauge: Gauge, text: string): Result<Typed> {
  const typed =
    dimensionOf(gauge) === 'pressure'
      ? parseGaugePressure(text, gauge.unit)
      : parseQuantity(text, dimensionOf(gauge), gauge.unit);
  if (!typed.ok) return typed;
  const span = spanOf(gauge);
  const slack = span.division * 2;
  if (typed.value.value > span.upper || typed.value.value < span.lower - slack)
    return refuse('outside-gauge', `${text.trim()} is outside ${gauge.label}’s scale.`, {
      bound: rangeText(gauge),
      remedy: 'Type what the needle shows, or mark it off scale.',
    });
  return accept(typed.value);
}

/**
 * Whether a typed reading fits what is known: the readings so far, and what the last turn should have done.
 * @returns undefined where it fits
 */
export function doubt(
  family: Family,
  job: JobView,
  setting: string,
  typed: Pick<Typed, 'text' | 'value'>,
): Doubt | undefined {
  const def = job.setting(setting);
  const gauge = job.gauge(def.slot);
  if (!gauge) return undefined;
  const shown = { unit: gauge.unit, step: gauge.division * gauge.readable };
  const guess = predicted(family, job, setting);
  const past = job.readings(setting).map((r) => r.value);
  const target = job.plan.values[setting];
  const centre = guess?.mean ?? past.at(-1) ?? target;
  // A temperature is no multiple of anything: a misplaced point is not looked for.
  if (centre === undefined || def.dimension === 'temperature') return undefined;
  const known = guess !== undefined || past.length > 0;
  const half = guess
    ? (guess.high - guess.low) * 1.5 + spanOf(gauge).division
    : known
      ? 0.12 * Math.abs(centre)
      : 0.6 * Math.abs(centre);
  if (Math.abs(typed.value - centre) <= Math.max(half, spanOf(gauge).division * 2)) return undefined;
  const slip = [10, 0.1, 100].find(
    (f) => Math.abs(typed.value * f - centre) <= Math.max(half, 0.15 * Math.abs(centre)),
  );
  const tens = tensSlip(typed, centre, gauge, half);
  const instead = slip !== undefined ? show(typed.value * slip, shown) : tens;
  const low = past.length > 0 ? Math.min(...past) : undefined;
  const high = past.length > 0 ? Math.max(...past) : undefined;
  const because = guess
    ? `Expected ${show(guess.mean, shown)} ± ${show((guess.high - guess.low) / 2, shown)} ${gauge.unit} after the last turn.`
    : low !== undefined && high !== undefined
      ? low === high
        ? `The last ${def.title.toLowerCase()} read ${show(low, shown)}.`
        : `Every ${def.title.toLowerCase()} so far lies between ${show(low, shown)} and ${show(high, shown)}.`
      : `The plan says ${show(centre, shown)}.`;
  return { message: `${typed.text}? ${because}`, ...(instead ? { instead } : {}) };
}

/**
 * Whether a typed zero is one that a gauge in use has: not so far off that it is unfit, nor moved so far since it was read before. It
 * is looked at once more before a gauge is given up for it.
 * @returns undefined where it fits
 */
export function doubtZero(
  job: JobView,
  slot: string,
  typed: Pick<Typed, 'text' | 'value'>,
): Doubt | undefined {
  const gauge = job.gauge(slot);
  if (!gauge || dimensionOf(gauge) !== 'pressure') return undefined;
  const limit = zeroLimit(gauge);
  const shown = { unit: gauge.unit, step: shownStep(gauge) };
  if (Math.abs(typed.value) > limit)
    return {
      message: `${typed.text}? A zero more than ${show(limit, shown)} ${gauge.unit} off makes ${gauge.label} unfit.`,
    };
  const before = job.zero(slot);
  return before && Math.abs(typed.value - before.then) > limit
    ? {
        message: `${typed.text}? It read ${show(before.then, shown)} before, and a sound zero does not move so far.`,
      }
    : undefined;
}

/** A wrong first digit: 12.0 typed for 62.0. */
function tensSlip(
  typed: Pick<Typed, 'value'>,
  centre: number,
  gauge: Gauge,
  half: number,
): string | undefined {
  const n = fromCanonical(typed.value, gauge.unit);
  const c = fromCanonical(centre, gauge.unit);
  const h = fromCanonical(half, gauge.unit);
  const candidate = n + Math.round((c - n) / 10) * 10;
  return Math.abs(candidate - c) <= Math.max(h, 2) && candidate !== n
    ? show(candidate * (typed.value / n || 1), { unit: gauge.unit, step: gauge.division * gauge.readable })
    : undefined;
}

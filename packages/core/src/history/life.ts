import { coverageFactor } from '../gauge/index.js';

/** One signed visit to a setting: what was found and what was left, canonical units. */
export interface LifePoint {
  /** ISO day. */
  readonly day: string;
  /** The fitted device it belongs to: what another device did says nothing of this one. */
  readonly device?: string;
  readonly found?: number;
  readonly left?: number;
}

/** How a setting wanders between visits: a change a year, through what each visit found less what the one before had left. */
export interface LifeDrift {
  /** Canonical units a year. */
  readonly perYear: number;
  /** Its standard error; absent with a single pair, which has none. */
  readonly error?: number;
  /** Scatter of one visit's change about the line, canonical units. */
  readonly sd?: number;
  /** Pairs of visits it rests on. */
  readonly n: number;
  /** Sum of the pairs' squared years: how far the line is held. */
  readonly years2: number;
  /** Where the next wandering starts from. */
  readonly from: { readonly day: string; readonly value: number };
}

const YEAR_MS = 365.25 * 86400e3;
/** Visits nearer to each other than this tell of handling, not of drift, years. */
const LEAST_YEARS = 14 / 365.25;
/** Beyond this a line through a few visits says nothing. */
const FARTHEST_YEARS = 10;

const yearsFrom = (from: string, to: string): number => (Date.parse(to) - Date.parse(from)) / YEAR_MS;
const dayAt = (from: string, years: number): string =>
  new Date(Date.parse(from) + years * YEAR_MS).toISOString().slice(0, 10);

/** What a visit left: as it was found where nothing was moved. */
const leftBy = (p: LifePoint): number | undefined => p.left ?? p.found;

/**
 * Least squares through the origin: a setting that was left somewhere has not wandered yet. The scatter of one change is taken as the
 * same for all pairs.
 * @param points visits of one setting, in any order
 * @returns undefined where no two visits of the device that is fitted now follow each other
 */
export function settingDrift(points: readonly LifePoint[]): LifeDrift | undefined {
  const all = [...points].sort((a, b) => a.day.localeCompare(b.day));
  const last = all.at(-1);
  const own = all.filter((p) => p.device === last?.device);
  const pairs = own.flatMap((p, i) => {
    const before = own[i - 1];
    const was = before && leftBy(before);
    if (was === undefined || p.found === undefined || !before) return [];
    const t = yearsFrom(before.day, p.day);
    return t < LEAST_YEARS ? [] : [{ t, change: p.found - was }];
  });
  const value = last && leftBy(last);
  const years2 = pairs.reduce((a, p) => a + p.t ** 2, 0);
  if (!last || value === undefined || years2 === 0) return undefined;
  const perYear = pairs.reduce((a, p) => a + p.t * p.change, 0) / years2;
  const base = { perYear, n: pairs.length, years2, from: { day: last.day, value } };
  if (pairs.length < 2) return base;
  const sd = Math.sqrt(pairs.reduce((a, p) => a + (p.change - perYear * p.t) ** 2, 0) / (pairs.length - 1));
  return { ...base, sd, error: sd / Math.sqrt(years2) };
}

/** With fewer pairs of visits an interval says more of Student's t than of the device. */
export const LEAST_PAIRS = 3;

/** Half-width of the 95 % interval of a year's change, canonical; undefined with too few pairs of visits. */
export const surely = ({ error, n }: LifeDrift): number | undefined =>
  error === undefined || n < LEAST_PAIRS ? undefined : coverageFactor(n - 1) * error;

/** Where a setting will be found on a day, and the half-width of the 95 % prediction interval; canonical units. None with too few pairs. */
export function foundOn(drift: LifeDrift, day: string): { readonly value: number; readonly half?: number } {
  return at(drift, yearsFrom(drift.from.day, day));
}

function at({ perYear, sd, n, years2, from }: LifeDrift, t: number): { value: number; half?: number } {
  const value = from.value + perYear * t;
  if (sd === undefined || n < LEAST_PAIRS) return { value };
  return { value, half: coverageFactor(n - 1) * sd * Math.sqrt(1 + t ** 2 / years2) };
}

/** Whether it surely drifts, and when it leaves its limits: by the line, and not before which day by the interval. */
export interface Leaving {
  readonly sure: boolean;
  /** ISO day on which the line leaves; absent where it does not within ten years, or the drift is not sure. */
  readonly day?: string;
  /** ISO day before which nothing speaks for its being outside; absent where that is beyond ten years or no interval is known. */
  readonly notBefore?: string;
}

/** @param limits canonical; an open side is absent */
export function leaving(
  drift: LifeDrift,
  limits: { readonly lower?: number; readonly upper?: number },
): Leaving {
  const { lower: low = -Infinity, upper: high = Infinity } = limits;
  const { perYear, from } = drift;
  const sure = Math.abs(perYear) > (surely(drift) ?? Infinity);
  const edge = perYear > 0 ? high : low;
  const years = (edge - from.value) / perYear;
  const line = sure && years >= 0 && years <= FARTHEST_YEARS ? { day: dayAt(from.day, years) } : {};
  const first = firstOutside(drift, low, high);
  return { sure, ...line, ...(first === undefined ? {} : { notBefore: dayAt(from.day, first) }) };
}

/** Years until the interval first touches a limit; the scatter alone may reach it at once. */
function firstOutside(drift: LifeDrift, low: number, high: number): number | undefined {
  const outside = (t: number): boolean => {
    const { value, half } = at(drift, t);
    return half !== undefined && (value + half > high || value - half < low);
  };
  if (outside(0)) return 0;
  // Where it is inside is one stretch of time: an edge that bends away from the line meets a limit once from within.
  if (!outside(FARTHEST_YEARS)) return undefined;
  let [a, b] = [0, FARTHEST_YEARS];
  for (let i = 0; i < 40; i++) {
    const m = (a + b) / 2;
    if (outside(m)) b = m;
    else a = m;
  }
  return b;
}

import { parseAs, type NumberForm } from './numbers.js';

/** How a logger writes its times: a number, a date with its time, a time of day, minutes with seconds. */
export type TimeForm = 'number' | 'iso' | 'clock' | 'minutes';
/** What stands first in a date. */
export type DayOrder = 'ymd' | 'dmy' | 'mdy';

const MONTHS = 'jan feb mar apr may jun jul aug sep oct nov dec'.split(' ');
const CLOCK = String.raw`\d{1,3}:\d{2}(?::\d{2}(?:[.,:]\d+)?)?(?:\s*[ap]\.?m\.?)?`;
const DATE = String.raw`[a-z]{3,9}\.? \d{1,2},? \d{4}|\d{4}[-/.]\d{1,2}[-/.]\d{1,2}|\d{1,2}[-/.]\d{1,2}[-/.]\d{2,4}|\d{1,2}[- ][a-z]{3,9}[- ]\d{2,4}|\d{8}`;
/** Days that a length of time begins with: 2 days 03:10:00. */
const DAYS = String.raw`(?:(\d{1,4})\s*(?:days?|d),?\s+)?`;
const IS_CLOCK = new RegExp(String.raw`^\s*${DAYS}${CLOCK}\s*$`, 'i');
const LASTING = new RegExp(String.raw`^${DAYS}`, 'i');
const IS_MINUTES = /^\s*\d{1,4}:\d{2}[.,]\d+\s*$/;
const IS_DATE = new RegExp(String.raw`^\s*(${DATE})\s*$`, 'i');
const IS_BOTH = new RegExp(
  String.raw`^\s*(${DATE})(?:T|-|\s+)(${CLOCK})\s*(Z|UTC|GMT|[+-]\d{2}:?\d{2})?\s*$`,
  'i',
);
/** Without a mark between: 20310503100000, 20310503T100000. */
const IS_COMPACT = /^\s*(\d{8})[T ]?(\d{2})(\d{2})(\d{2}(?:[.,]\d+)?)\s*(Z|[+-]\d{2}:?\d{2})?\s*$/;
const IS_HALF = /^\s*[ap]\.?m\.?\s*$/i;

export const isDate = (text: string): boolean =>
  IS_DATE.test(text) && !Number.isNaN(dateOf(text, 'dmy', true));
export const isClock = (text: string): boolean => IS_CLOCK.test(text) || IS_MINUTES.test(text);
export const isHalf = (text: string): boolean => IS_HALF.test(text);

/** The form of one cell; undefined where it is no time. */
export function formOfTime(text: string, number: (t: string) => boolean): TimeForm | undefined {
  if (bothOf(text)) return 'iso';
  if (IS_MINUTES.test(text)) return 'minutes';
  if (IS_CLOCK.test(text)) return 'clock';
  return number(text) ? 'number' : undefined;
}

/** Days since 1970 of a date; NaN where it is none. @param loose either order will do */
export function dateOf(text: string, order: DayOrder, loose = false): number {
  const t = text.trim().toLowerCase();
  const named = /^([a-z]{3,9})\.? (\d{1,2}),? (\d{4})$/.exec(t);
  if (named) {
    const month = MONTHS.findIndex((m) => named[1]?.startsWith(m));
    return dayOf(Number(named[3]), month + 1, Number(named[2]));
  }
  const word = /^(\d{1,2})[- ]([a-z]{3,9})[- ](\d{2,4})$/.exec(t);
  if (word) {
    const month = MONTHS.findIndex((m) => word[2]?.startsWith(m));
    return dayOf(year(word[3]), month + 1, Number(word[1]));
  }
  if (/^\d{8}$/.test(t)) return dayOf(Number(t.slice(0, 4)), Number(t.slice(4, 6)), Number(t.slice(6)));
  const [a = '', b = '', c = ''] = t.split(/[-/.]/);
  if (a.length === 4) return dayOf(Number(a), Number(b), Number(c));
  const dmy = dayOf(year(c), Number(b), Number(a));
  const mdy = dayOf(year(c), Number(a), Number(b));
  if (loose) return Number.isNaN(dmy) ? mdy : dmy;
  return order === 'mdy' ? mdy : dmy;
}

const year = (text = ''): number => (text.length <= 2 ? 2000 + Number(text) : Number(text));

function dayOf(y: number, m: number, d: number): number {
  if (!(y >= 1970 && y < 2200 && m >= 1 && m <= 12 && d >= 1 && d <= 31)) return NaN;
  const at = new Date(Date.UTC(y, m - 1, d));
  return at.getUTCMonth() === m - 1 ? at.getTime() / 86_400_000 : NaN;
}

/** Seconds of a time of day; NaN where it is none. @param half of its own column */
export function clockOf(text: string, half = ''): number {
  const [, days = '0'] = LASTING.exec(text.trim()) ?? [];
  const cut = /^(\d{1,3}):(\d{2})(?::(\d{2}(?:[.,:]\d+)?))?\s*([ap])?\.?m?\.?$/i.exec(
    text.trim().replace(LASTING, ''),
  );
  if (!cut) return NaN;
  const [, a = '0', b = '0', c = '0', own] = cut;
  const noon = (own ?? half.trim().charAt(0)).toLowerCase();
  const hour = Number(a) + (noon === 'p' && Number(a) < 12 ? 12 : noon === 'a' && Number(a) === 12 ? -12 : 0);
  return Number(days) * 86_400 + hour * 3600 + Number(b) * 60 + Number(c.replace(/[,:]/, '.'));
}

/** Seconds of minutes and seconds; NaN where it is none. */
export function minutesOf(text: string): number {
  const cut = /^(\d{1,4}):(\d{2}(?:[.,]\d+)?)$/.exec(text.trim());
  return cut ? Number(cut[1]) * 60 + Number((cut[2] ?? '').replace(',', '.')) : NaN;
}

/** The parts of a date and its time without a mark between them, where they are one. */
function compact(text: string): readonly (string | undefined)[] | undefined {
  const cut = IS_COMPACT.exec(text);
  if (!cut || Number.isNaN(dateOf(cut[1] ?? '', 'ymd'))) return undefined;
  const [, date, h, m, s, zone] = cut;
  return Number(h) < 24 && Number(m) < 60 && Number((s ?? '').replace(',', '.')) < 61
    ? [text, date, `${h}:${m}:${s}`, zone]
    : undefined;
}

/** A date with its time, in two parts and its offset from UTC, s. */
export function bothOf(
  text: string,
): { readonly date: string; readonly clock: string; readonly offset_s: number } | undefined {
  const [, date = '', clock = '', zone] = IS_BOTH.exec(text) ?? compact(text) ?? [];
  if (date === '') return undefined;
  const off = zone && /([+-])(\d{2}):?(\d{2})/.exec(zone);
  const offset_s = off ? (off[1] === '-' ? -1 : 1) * (Number(off[2]) * 3600 + Number(off[3]) * 60) : 0;
  return { date, clock, offset_s };
}

/** What the dates of a column say of their order, and why. */
export interface FoundOrder {
  readonly order: DayOrder;
  readonly because: string;
  /** Nothing in the file says which. */
  readonly either?: true;
  /** One date alone: the next one will say. */
  readonly alone?: true;
}

/** So many days apart two neighbouring dates of one file may lie and still be a plain stop. */
const NEAR_DAYS = 10;

/** Day before month, or the other way, from all dates that are at hand; undefined where none leaves it open. */
export function orderOf(dates: readonly string[]): FoundOrder | undefined {
  const open = [...new Set(dates)].filter((d) => /^\d{1,2}[-/.]\d{1,2}[-/.]\d{2,4}$/.test(d.trim()));
  if (open.length === 0) return undefined;
  const parts = open.map((d) => d.trim().split(/[-/.]/).map(Number));
  if (parts.some(([a = 0]) => a > 12)) return { order: 'dmy', because: 'a day above 12 stands first' };
  if (parts.some(([, b = 0]) => b > 12)) return { order: 'mdy', because: 'a day above 12 stands second' };
  const dotted = open.every((d) => d.includes('.'));
  if (open.length === 1) return { order: dotted ? 'dmy' : 'mdy', because: 'one date alone', alone: true };
  const far = (order: DayOrder): number => {
    const days = open.map((d) => dateOf(d, order));
    return Math.max(...days.slice(1).map((d, i) => Math.abs(d - (days[i] ?? d))));
  };
  const [dmy, mdy] = [far('dmy'), far('mdy')];
  if (dmy <= NEAR_DAYS && mdy > NEAR_DAYS) return { order: 'dmy', because: 'so its days follow each other' };
  if (mdy <= NEAR_DAYS && dmy > NEAR_DAYS) return { order: 'mdy', because: 'so its days follow each other' };
  return dotted
    ? { order: 'dmy', because: 'dates with points begin with the day' }
    : { order: 'dmy', because: 'nothing in the file says which', either: true };
}

/** Units that a person may say the times are in. */
export const TIME_UNITS = ['ms', 's', 'min', 'h', 'd'] as const;
export type TimeUnit = (typeof TIME_UNITS)[number];
/** What one of a unit of time is, s. */
export const secondsOf = (unit: TimeUnit): number => SCALES[unit] ?? 1;

const SCALES: Readonly<Record<string, number>> = {
  us: 1e-6,
  µs: 1e-6,
  ms: 1e-3,
  msec: 1e-3,
  milliseconds: 1e-3,
  s: 1,
  sec: 1,
  secs: 1,
  second: 1,
  seconds: 1,
  min: 60,
  mins: 60,
  minute: 60,
  minutes: 60,
  h: 3600,
  hr: 3600,
  hrs: 3600,
  hour: 3600,
  hours: 3600,
  d: 86_400,
  day: 86_400,
  days: 86_400,
};

/** From the last day of 1899, which spreadsheets call nought. */
const DAYS_1900_TO_1970 = 25_569;
const YEAR_1_TO_1970_S = 62_135_596_800;

/** A factor before a unit of time: 1/10 s, 0.1 s, 10 ms. */
function factorBefore(words: readonly string[], unit: string): number | undefined {
  const text = words[words.indexOf(unit) - 1] ?? '';
  const part = /^1\/(10+)$/.exec(text);
  const factor = part ? 1 / Number(part[1]) : /^(0?\.\d+|10+)$/.test(text) ? Number(text) : NaN;
  return factor > 0 && factor !== 1 ? factor : undefined;
}
const short = (x: number): string => String(Number(x.toPrecision(6)));

/** What one of a column of numbers is, s; where it came from in words. */
export interface FoundScale {
  readonly seconds: number;
  readonly said: string;
  /** 1970 in it, s, where it counts from another day. */
  readonly zero?: number;
  /** Neither its name nor its size says so. */
  readonly assumed?: true;
}

/**
 * The unit of a column of numbers that is the time: by its name, or by its size where it counts from a day that all know.
 * @param words of its heading
 */
export function scaleOf(words: readonly string[], cells: readonly string[], form: NumberForm): FoundScale {
  const values = cells.map((c) => parseAs(c, form)).filter(Number.isFinite);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const within = (a: number, b: number): boolean => values.length > 0 && low >= a && high < b;
  // Seconds, milliseconds and microseconds since 1970, from 2001 to 2100; days since 1900 with the time as a fraction.
  if (within(978e6, 4.2e9)) return { seconds: 1, said: 'seconds since 1970' };
  if (within(978e9, 4.2e12)) return { seconds: 1e-3, said: 'milliseconds since 1970' };
  if (within(978e12, 4.2e15)) return { seconds: 1e-6, said: 'microseconds since 1970' };
  // 100 ns since the year 1, as some programs keep their clock.
  if (within(6.2e17, 6.65e17))
    return { seconds: 1e-7, zero: YEAR_1_TO_1970_S, said: 'hundreds of nanoseconds since the year 1' };
  const named = words.map((w) => [w, SCALES[w.toLowerCase()]] as const).find(([, s]) => s !== undefined);
  const days = within(36_526, 73_050) && values.some((v) => !Number.isInteger(v));
  if (days && (!named || named[1] === 86_400))
    return {
      seconds: 86_400,
      zero: DAYS_1900_TO_1970 * 86_400,
      said: 'days since 1900, as spreadsheets count',
    };
  const times = named && factorBefore(words, named[0]);
  if (named && times !== undefined)
    return {
      seconds: times * (named[1] ?? 1),
      said: `in ${short(times)} ${named[0]} since it began, as its heading says`,
    };
  if (named) return { seconds: named[1] ?? 1, said: `in ${named[0]}, as its heading says` };
  return { seconds: 1, said: 'taken as seconds: its heading does not say', assumed: true };
}

/** What a trace's seconds count from: 1970, as loggers write dates; midnight; or its beginning. */
export type TimeScale = 'date' | 'clock' | 'elapsed';

/** Nothing was logged before 1979: what is larger counts from 1970. */
const DATED = 3e8;
const DAY_S = 86_400;
const MONTHS = 'Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec'.split(' ');
const MINUTE = 60;
const HOUR = 3600;
/** Steps between ticks, s. */
const STEPS = [
  ...[0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 15, 30],
  ...[1, 2, 5, 10, 15, 30].map((m) => m * MINUTE),
  ...[1, 2, 3, 6, 12, 24].map((h) => h * HOUR),
  ...[2, 7, 14, 28, 91, 182, 364].map((d) => d * DAY_S),
];

/** @param clock its file writes the time of day alone */
export const timeScaleOf = (from: number, clock = false): TimeScale =>
  from >= DATED ? 'date' : clock ? 'clock' : 'elapsed';

const two = (n: number): string => String(n).padStart(2, '0');

/** Time of day to a step: hours and minutes, seconds where they are needed, tenths where those are. */
function clockText(t: number, step: number): string {
  const places = step < 0.1 ? 2 : step < 1 ? 1 : 0;
  // Rounded first: 59.96 s to a tenth is a minute.
  const rounded = Math.round(t * 10 ** places) / 10 ** places;
  const s = ((rounded % DAY_S) + DAY_S) % DAY_S;
  const minutes = Math.floor(s / MINUTE + 1e-9);
  const hm = `${two(Math.floor(minutes / 60))}:${two(minutes % 60)}`;
  if (step >= MINUTE) return hm;
  return `${hm}:${(s - minutes * MINUTE).toFixed(places).padStart(places > 0 ? 3 + places : 2, '0')}`;
}

function dayText(t: number, year: boolean): string {
  const at = new Date(Math.floor(t / DAY_S) * DAY_S * 1000);
  return `${at.getUTCDate()} ${MONTHS[at.getUTCMonth()]}${year ? ` ${at.getUTCFullYear()}` : ''}`;
}

/** A time of a trace as a person says it, to a tenth of a second. */
export function timeText(t: number, scale: TimeScale): string {
  if (scale === 'elapsed') return `${t.toFixed(1)} s`;
  const clock = clockText(t, 0.1);
  return scale === 'clock' ? clock : `${dayText(Math.round(t * 10) / 10, true)}, ${clock}`;
}

export interface TimeTick {
  readonly t: number;
  readonly text: string;
}

/**
 * Ticks of a time axis at round times.
 * @param most so many at the most
 */
export function timeTicks(from: number, to: number, scale: TimeScale, most: number): readonly TimeTick[] {
  const span = to - from;
  if (!(span > 0)) return [];
  const step = STEPS.find((s) => span / s <= Math.max(1, most)) ?? Math.ceil(span / most / DAY_S) * DAY_S;
  const ticks: TimeTick[] = [];
  let day = NaN;
  for (let i = Math.ceil(from / step - 1e-9); i * step <= to + 1e-9; i++) {
    const t = i * step;
    const today = Math.floor((t + 1e-6) / DAY_S);
    // The day is said with its first tick, and again where it changes.
    const text =
      scale === 'elapsed'
        ? elapsedText(t, step)
        : scale === 'clock'
          ? clockText(t, step)
          : step >= DAY_S
            ? dayText(t + 1e-6, step >= 28 * DAY_S)
            : `${today === day ? '' : `${dayText(t + 1e-6, false)} `}${clockText(t, step)}`;
    day = today;
    ticks.push({ t, text });
  }
  return ticks;
}

function elapsedText(t: number, step: number): string {
  const [one, name] =
    step < MINUTE ? [1, 's'] : step < HOUR ? [MINUTE, 'min'] : step < 2 * DAY_S ? [HOUR, 'h'] : [DAY_S, 'd'];
  return `${Number((t / one).toFixed(2))} ${name}`.replace('-', '−');
}

/**
 * A time of a trace as typed: seconds, or a time of day on a day of the trace.
 * @returns NaN where it is none, or where it lies outside
 */
export function typedTime(text: string, scale: TimeScale, from: number, to: number): number {
  const inside = (t: number): boolean => t >= from && t <= to;
  const typed = text.trim();
  if (scale === 'elapsed') {
    const t = /^-?(\d+[.,]?\d*|[.,]\d+)( ?s)?$/.test(typed) ? parseFloat(typed.replace(',', '.')) : NaN;
    return inside(t) ? t : NaN;
  }
  const cut = /^(?:.*[,T ]\s*)?(\d{1,2}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?$/.exec(typed);
  if (!cut) return NaN;
  const [, hours, minutes, seconds = '0'] = cut;
  const clock = Number(hours) * HOUR + Number(minutes) * MINUTE + Number(seconds.replace(',', '.'));
  const first = Math.floor(from / DAY_S);
  const said = /^(\d{1,2}) ([a-z]{3})[a-z]* (\d{4})/i.exec(typed);
  if (said) {
    const month = MONTHS.findIndex((m) => m.toLowerCase() === said[2]?.toLowerCase());
    const t = Date.UTC(Number(said[3]), month, Number(said[1])) / 1000 + clock;
    return month >= 0 && inside(t) ? t : NaN;
  }
  for (let day = first; day * DAY_S <= to; day++) if (inside(day * DAY_S + clock)) return day * DAY_S + clock;
  return NaN;
}

import { accept, refuse, type Result } from '../../result.js';
import { timeReader } from './clock.js';
import { most, type Column, type Head } from './head.js';
import { INDEX_WORDS, TIME_WORDS, wordsOf } from './headings.js';
import type { Assumption, ColumnMap, Said } from './map.js';
import { numeric, parseAs, type NumberForm } from './numbers.js';
import {
  bothOf,
  formOfTime,
  isClock,
  isDate,
  isHalf,
  orderOf,
  scaleOf,
  secondsOf,
  type DayOrder,
  type TimeForm,
} from './times.js';

interface FoundTime {
  readonly time: ColumnMap['time'];
  readonly assumptions: readonly Assumption[];
}

/** The column of times, and how they are written: by what the cells look like, their heading, and how they run. */
export function timeOf(head: Head, form: NumberForm, said: Said): Result<FoundTime> {
  const { columns } = head;
  const wordy = (c: Column): boolean => TIME_WORDS.test(wordsOf(c.heading)[0] ?? '');
  const both = columns.find((c) => most(c.cells, (t) => bothOf(t) !== undefined));
  const date = columns.find((c) => most(c.cells, isDate) && (wordy(c) || !most(c.cells, numeric)));
  const clock = columns.find((c) => most(c.cells, isClock));
  const half = columns.find((c) => most(c.cells, isHalf));
  const chosen = said.time === undefined ? undefined : columns[said.time];
  const split =
    date && clock && date !== clock && (!chosen || chosen === date || chosen === clock)
      ? { date, clock }
      : undefined;
  const numbered =
    columns.find((c) => wordy(c) && most(c.cells, numeric)) ??
    columns.find(
      (c) =>
        most(c.cells, numeric) &&
        !INDEX_WORDS.test(c.heading.trim()) &&
        rises(c, form) &&
        c.unit === undefined,
    ) ??
    columns.find((c) => most(c.cells, numeric) && c.unit === undefined);
  const found =
    chosen ?? both ?? split?.date ?? clock ?? (date && wordy(date) ? date : undefined) ?? numbered;
  if (!found)
    return refuse('no-times', 'No column of times was found.', {
      remedy: 'Export the time beside the pressure.',
    });
  const extra = { ...(half && half !== found ? { half: half.index } : {}) };
  const assumptions: Assumption[] = [];
  const say = (about: Assumption['about'], text: string): void =>
    void assumptions.push({ about, said: text });
  const days = (
    dates: readonly string[],
  ): { readonly order?: DayOrder; readonly alone?: true } | undefined => {
    const order = orderOf(dates);
    if (said.order) return { order: said.order };
    if (!order) return {};
    if (order.either) return undefined;
    if (new Set(dates).size > 1)
      say(
        'days',
        `Dates are read as ${order.order === 'dmy' ? 'day before month' : 'month before day'}: ${order.because}.`,
      );
    return { order: order.order, ...(order.alone ? { alone: true } : {}) };
  };
  const open = refuse('day-order', `In ${head.named(found.index)} day and month can be either.`, {
    where: 'time',
    remedy: 'Say which stands first: the day or the month.',
  });
  if (split && (found === split.date || found === split.clock)) {
    const order = days(split.date.cells);
    if (!order) return open;
    say('time', `The time is ${head.named(split.date.index)} with ${head.named(split.clock.index)}.`);
    return accept({
      time: {
        index: split.date.index,
        form: 'iso',
        seconds: 1,
        clock: split.clock.index,
        ...extra,
        ...order,
      },
      assumptions,
    });
  }
  const example = found.cells.find((t) => formOfTime(t, numeric) !== undefined || isDate(t)) ?? '';
  if (found === date && !numeric(example)) {
    if (new Set(found.cells).size === 1)
      return refuse('one-time', `All rows stand at one time: ${head.named(found.index)} is a date alone.`, {
        where: 'time',
        remedy: 'Export the time of day beside the date.',
      });
    const order = days(found.cells);
    return order
      ? accept({ time: { index: found.index, form: 'iso', seconds: 1, ...order }, assumptions })
      : open;
  }
  const shape = formOfTime(example, numeric);
  if (!shape)
    return refuse('not-times', `The column ${head.named(found.index)} holds no times.`, {
      where: 'time',
      remedy: 'Choose the column of seconds, clock times or dates.',
    });
  if (shape === 'iso') {
    const order = days(found.cells.map((t) => bothOf(t)?.date ?? '').filter((d) => d !== ''));
    return order
      ? accept({ time: { index: found.index, form: 'iso', seconds: 1, ...extra, ...order }, assumptions })
      : open;
  }
  if (shape === 'minutes' || shape === 'clock')
    return accept(clockTime(head, found, shape, extra, said, say, assumptions));
  if (said.timeUnit !== undefined)
    return accept({
      time: { index: found.index, form: 'number', seconds: secondsOf(said.timeUnit) },
      assumptions,
    });
  const scale = scaleOf(wordsOf(found.heading), found.cells, form);
  if (scale.assumed || /since/.test(scale.said))
    say('time', `The time ${head.named(found.index)} is ${scale.said}.`);
  const { seconds, zero } = scale;
  return accept({
    time: { index: found.index, form: 'number', seconds, ...(zero === undefined ? {} : { zero }) },
    assumptions,
  });
}

/** Whether a column of numbers only rises, or only falls. */
function rises(c: Column, form: NumberForm): boolean {
  const v = c.cells.map((t) => parseAs(t, form)).filter(Number.isFinite);
  return (
    v.length > 2 &&
    (v.every((x, i) => i === 0 || x > (v[i - 1] ?? x)) || v.every((x, i) => i === 0 || x < (v[i - 1] ?? x)))
  );
}

/** Two parts with a colon: hours with minutes, or minutes with seconds. */
function clockTime(
  head: Head,
  found: Column,
  shape: 'minutes' | 'clock',
  extra: { readonly half?: number },
  said: Said,
  say: (about: Assumption['about'], text: string) => void,
  assumptions: readonly Assumption[],
): FoundTime {
  const make = (form: TimeForm): FoundTime => ({
    time: { index: found.index, form, seconds: 1, ...extra },
    assumptions,
  });
  if (shape === 'minutes' || said.timeForm === 'minutes') return make('minutes');
  const two = found.cells.filter((t) => /^\s*\d{1,4}:\d{2}\s*$/.test(t));
  if (two.length < found.cells.length / 2 || said.timeForm === 'clock') return make('clock');
  const starts = two.map((t) => Number(t.split(':')[0]));
  const minutes =
    /mm:ss|m:ss|min:s/i.test(found.heading) ||
    Math.max(...starts) > 23 ||
    (/elapsed|duration|run/i.test(found.heading) && starts[0] === 0);
  say(
    'time',
    `${head.named(found.index)} is read as ${minutes ? 'minutes and seconds' : 'hours and minutes'}.`,
  );
  return make(minutes ? 'minutes' : 'clock');
}

/** Rows at one time among all: a clock written too coarsely for how fast it logs. */
const MANY = 0.4;

/** To how many seconds times are written where many rows share one; undefined where each has its own. */
export function spreadOf(head: Head, time: ColumnMap['time'], form: NumberForm): number | undefined {
  const read = timeReader(time, form);
  const t = head.body.map((r) => read(r)).filter(Number.isFinite);
  const steps = t.slice(1).map((x, i) => x - (t[i] ?? x));
  const on = steps.filter((s) => s > 0);
  const same = steps.filter((s) => s === 0).length;
  if (on.length < 2 || same < MANY * steps.length || on.length + same < steps.length) return undefined;
  return on.reduce((a, b) => Math.min(a, b), Infinity);
}

/** Words that come in turn so many times over are no chance. */
const LEAST_TURNS = 4;
/** No table holds more channels one under the other. */
const MOST_SERIES = 20;

/**
 * The column that tells several channels apart which stand one under the other: each of its few words comes once at each time, or they
 * come in turn.
 * @param taken columns that are something else
 */
export function seriesOf(
  head: Head,
  time: ColumnMap['time'],
  form: NumberForm,
  taken: ReadonlySet<number>,
): Column | undefined {
  const read = timeReader(time, form);
  const times = head.body.map((r) => read(r));
  return head.columns.find((c) => {
    const words = new Set(c.cells.map((t) => t.trim()));
    if (taken.has(c.index) || words.size < 2 || words.size > MOST_SERIES || words.has('')) return false;
    const n = c.cells.length;
    if (new Set(times).size < n)
      return new Set(c.cells.map((t, i) => `${times[i]} ${t.trim()}`)).size > 0.95 * n;
    const k = words.size;
    return c.numbers === 0 && n >= LEAST_TURNS * k && c.cells.every((t, i) => t === c.cells[i % k]);
  });
}

/** Whether the times of the head go backward, nearly all of them. */
export function falls(head: Head, time: ColumnMap['time'], form: NumberForm): boolean {
  const read = timeReader(time, form);
  const t = head.body.map((r) => read(r)).filter(Number.isFinite);
  const steps = t.slice(1).map((x, i) => x - (t[i] ?? x));
  const [down, up] = [steps.filter((s) => s < 0).length, steps.filter((s) => s > 0).length];
  return down > 2 && down > 5 * up;
}

import type { ColumnMap } from './map.js';
import { parseAs, type NumberForm } from './numbers.js';
import { bothOf, clockOf, dateOf, minutesOf, type DayOrder } from './times.js';

const DAY_S = 86_400;

/**
 * What reads the time of a row, s; NaN where it has none. Remembers the day where only the time of day is written: it starts again at
 * midnight.
 * @param descending the newest row stands first: midnight is passed backward
 */
export function timeReader(
  time: ColumnMap['time'],
  form: NumberForm,
  descending = false,
): (fields: readonly string[]) => number {
  const { index, clock, half, seconds, zero = 0 } = time;
  let { order = 'dmy' } = time;
  let last = NaN;
  let day = 0;
  let decided = false;
  let shift = 0;
  const known = new Map<string, number>();
  const dayOf = (date: string): number => {
    let at = known.get(date);
    if (at !== undefined) return at;
    const [first] = known;
    if (time.alone && first && known.size === 1 && !decided) {
      decided = true;
      // The order in which the second date is nearer to the first; what the first was taken for stays.
      const other: DayOrder = order === 'dmy' ? 'mdy' : 'dmy';
      const far = (o: DayOrder): number => Math.abs(dateOf(date, o) - dateOf(first[0], o));
      if (!(far(order) <= far(other))) {
        shift = first[1] - dateOf(first[0], other);
        order = other;
      }
    }
    known.set(date, (at = dateOf(date, order) + shift));
    return at;
  };
  const running = (s: number): number => {
    // A day later where it fell by most of a day, a day before where it rose so.
    if (s < last - DAY_S / 2 && (!descending || day < 0)) day++;
    else if (s > last + DAY_S / 2 && (descending || day > 0)) day--;
    last = s;
    return day * DAY_S + s;
  };
  return (fields) => {
    const text = fields[index] ?? '';
    switch (time.form) {
      case 'number':
        return parseAs(text, form) * seconds - zero;
      case 'minutes':
        return minutesOf(text);
      case 'clock':
        return running(clockOf(text, half === undefined ? '' : fields[half]));
      case 'iso': {
        if (clock !== undefined) {
          const own = half === undefined ? '' : (fields[half] ?? '');
          return dayOf(text.trim()) * DAY_S + clockOf(fields[clock] ?? '', own);
        }
        const both = bothOf(text);
        if (!both) return dayOf(text.trim()) * DAY_S;
        const own = half === undefined ? '' : (fields[half] ?? '');
        return dayOf(both.date) * DAY_S + clockOf(both.clock, own) - both.offset_s;
      }
    }
  };
}

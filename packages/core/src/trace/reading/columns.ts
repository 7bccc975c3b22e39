import { findUnit } from '../../quantity/index.js';
import { accept, refuse, type Result } from '../../result.js';
import { CHANNELS, MEASURED_FLOW } from '../samples.js';
import {
  basisOf,
  flowUnitOf,
  INDEX_WORDS,
  likely,
  TIME_WORDS,
  unitOfHeading,
  wordsOf,
  type PressureBasis,
} from './headings.js';
import { timeReader } from './clock.js';
import { formOf, isHole, numeric, parseAs, sentinelsOf, type NumberForm } from './numbers.js';
import {
  bothOf,
  formOfTime,
  isClock,
  isDate,
  isHalf,
  orderOf,
  scaleOf,
  type DayOrder,
  type TimeForm,
} from './times.js';

/** Something that was taken as so without the file saying it, or out of several: told, and changeable. */
export interface Assumption {
  readonly about:
    'header' | 'time' | 'days' | 'pressure' | 'unit' | 'basis' | 'ambient' | 'numbers' | 'sentinels' | 'rows';
  readonly said: string;
}

/** Which column of a table is what, and how it is written. Remembered for the next file of the same logger. */
export interface ColumnMap {
  readonly time: {
    readonly index: number;
    readonly form: TimeForm;
    /** What one of a column of numbers is, s. */
    readonly seconds: number;
    /** A time of day in a column of its own, beside the date. */
    readonly clock?: number;
    /** AM or PM in a column of its own. */
    readonly half?: number;
    readonly order?: DayOrder;
    /** Only one date was seen yet: the second says which order it is. */
    readonly alone?: true;
  };
  readonly pressure: {
    readonly index: number;
    readonly unit: string;
    readonly basis: PressureBasis;
    /** A vacuum written as numbers above nought. */
    readonly below?: true;
  };
  readonly states: Readonly<Record<string, number>>;
  /** Unit of a measured flow, where the heading names it. */
  readonly flowUnit?: string;
  readonly decimal: '.' | ',';
  readonly group?: NumberForm['group'];
  /** Figures that stand for no reading. */
  readonly sentinels: readonly number[];
  /** The newest row stands first. */
  readonly descending?: true;
  /** Rows before the first reading. */
  readonly header: number;
  readonly assumptions: readonly Assumption[];
}

/** What a person says that the columns of a table are. Indexes from 0. */
export interface ColumnChoice {
  readonly time: number;
  readonly pressure: number;
  readonly unit: string;
  /** Channels of `CHANNELS` by name. */
  readonly states: Readonly<Record<string, number>>;
  readonly basis?: PressureBasis;
  readonly order?: DayOrder;
  readonly timeForm?: TimeForm;
  readonly decimal?: '.' | ',';
  /** The air outside, Pa absolute: it is taken off absolute pressures. */
  readonly ambient?: number;
}

/** What may be said before anything is proposed; the rest is found. */
export interface Said extends Partial<ColumnChoice> {
  /** What parts the cells: where it is no comma, a comma is the decimal mark. */
  readonly delimiter?: string;
}

type Rows = readonly (readonly string[])[];

/** Rows that are alike enough to be the body: the header is what stands over them. */
const BODY_ROWS = 3;

/** The first row of the body: from it on rows have the same number of cells, a time and a number among them. */
function firstReading(rows: Rows): number {
  const isRow = (r: readonly string[] | undefined): boolean =>
    r !== undefined &&
    r.length > 1 &&
    r.some((f) => numeric(f) || isHole(f)) &&
    r.some((f) => formOfTime(f, numeric) !== undefined || isDate(f)) &&
    r.filter((f) => numeric(f) || formOfTime(f, numeric) || isDate(f)).length >= 2;
  for (let i = 0; i < rows.length; i++) {
    if (!isRow(rows[i])) continue;
    const next = rows.slice(i + 1, i + BODY_ROWS).filter((r) => r.length > 1 || (r[0] ?? '').trim() !== '');
    if (next.every((r) => isRow(r) && Math.abs(r.length - (rows[i]?.length ?? 0)) <= 1)) return i;
  }
  return -1;
}

/** The row over the first reading that names its columns, or nothing: by it a logger's files are known again. */
export function headingOf(rows: Rows): readonly string[] {
  const first = firstReading(rows);
  const over = first > 0 ? rows[first - 1] : undefined;
  if (!over) return [];
  const before = rows[first - 2];
  // A row of units under the names: each name with its unit.
  const units = over.every(
    (f) => f.trim() === '' || /^[([]?[a-z°µ"#%/²³0-9.: -]{1,12}[)\]]?$/i.test(f.trim()),
  );
  const named = before && before.length === over.length && before.every((f) => !numeric(f));
  return units && named && over.some((f) => unitOfHeading(f) !== undefined)
    ? before.map((f, i) => `${f} (${over[i]?.replace(/^[([]|[)\]]$/g, '') ?? ''})`.replace(' ()', ''))
    : over;
}

/** A unit that a line of the preamble names: `Pressure unit,bar`. */
function unitInPreamble(rows: Rows, first: number): string | undefined {
  for (const r of rows.slice(0, Math.max(0, first - 1))) {
    const line = r.join(' ');
    if (/unit/i.test(line) && /press|unit/i.test(line)) {
      const unit = unitOfHeading(r.at(-1) ?? '') ?? unitOfHeading(line);
      if (unit !== undefined) return unit;
    }
  }
  return undefined;
}

/** What was found, as a choice to begin from. */
export const choiceOf = (map: ColumnMap): ColumnChoice => ({
  time: map.time.index,
  pressure: map.pressure.index,
  unit: map.pressure.unit,
  states: Object.fromEntries(
    Object.entries(map.states).map(([name, i]) => [name === MEASURED_FLOW ? 'flow' : name, i]),
  ),
  basis: map.pressure.basis,
  ...(map.time.order ? { order: map.time.order } : {}),
});

const column = (rows: Rows, i: number): readonly string[] => rows.map((r) => r[i] ?? '');

/** A column of a table's head, looked at. */
interface Column {
  readonly index: number;
  readonly heading: string;
  readonly cells: readonly string[];
  readonly numbers: number;
  readonly unit: string | undefined;
}

/** The head of a table, looked at once. */
class Head {
  readonly first: number;
  readonly heading: readonly string[];
  readonly body: Rows;
  readonly columns: readonly Column[];

  constructor(readonly rows: Rows) {
    this.first = firstReading(rows);
    this.heading = headingOf(rows);
    this.body = this.first < 0 ? [] : rows.slice(this.first).filter((r) => r.length > 1);
    const wide = Math.max(0, ...this.body.slice(0, 50).map((r) => r.length));
    this.columns = Array.from({ length: wide }, (_, index) => {
      const cells = column(this.body, index);
      const heading = this.heading[index] ?? '';
      return { index, heading, cells, numbers: cells.filter(numeric).length, unit: unitOfHeading(heading) };
    });
  }

  named(i: number): string {
    return `"${this.heading[i]?.trim() || `column ${i + 1}`}"`;
  }
}

interface FoundTime {
  readonly time: ColumnMap['time'];
  readonly assumptions: readonly Assumption[];
}

const most = (cells: readonly string[], is: (t: string) => boolean): boolean =>
  cells.length > 0 && cells.filter(is).length > 0.6 * cells.length;

function timeOf(head: Head, form: NumberForm, said: Said): Result<FoundTime> {
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
  const scale = scaleOf(wordsOf(found.heading), found.cells, form);
  if (scale.assumed || /since/.test(scale.said))
    say('time', `The time ${head.named(found.index)} is ${scale.said}.`);
  return accept({ time: { index: found.index, form: 'number', seconds: scale.seconds }, assumptions });
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

/** The column of what was measured, and what speaks for it. */
function pressureOf(
  head: Head,
  taken: ReadonlySet<number>,
  form: NumberForm,
  said: Said,
): Result<{ readonly column: Column; readonly assumptions: readonly Assumption[] }> {
  const numbers = head.columns.filter((c) => !taken.has(c.index) && c.numbers > 0);
  if (said.pressure !== undefined) {
    const column = numbers.find((c) => c.index === said.pressure);
    return column
      ? accept({ column, assumptions: [] })
      : refuse('not-pressures', `The column ${head.named(said.pressure)} holds no pressures.`, {
          where: 'pressure',
          remedy: 'Choose the column of pressures.',
        });
  }
  const moves = (c: Column): number => (new Set(c.cells.map((t) => parseAs(t, form))).size > 1 ? 0.5 : 0);
  const scored = numbers
    .filter((c) => !INDEX_WORDS.test(c.heading.trim()))
    .map((c) => ({ c, score: likely(c.heading, c.unit) + moves(c) }))
    .sort((a, b) => b.score - a.score || a.c.index - b.c.index);
  const [best, ...others] = scored;
  if (!best)
    return refuse('no-pressure', 'No column of pressures was found.', {
      remedy: 'Name the column with its unit, such as p_psi or pressure (kPa).',
    });
  const rivals = others.filter((o) => o.c.unit !== undefined || o.score >= best.score - 1);
  return accept({
    column: best.c,
    assumptions:
      rivals.length === 0
        ? []
        : [
            {
              about: 'pressure',
              said: `The pressure is ${head.named(best.c.index)}; ${rivals.map((r) => head.named(r.c.index)).join(', ')} could be meant too.`,
            },
          ],
  });
}

/** Switch channels: a word that names one, and two values at most where it is no flow. */
function statesOf(
  head: Head,
  time: ReadonlySet<number>,
  form: NumberForm,
): { readonly states: Record<string, number>; readonly flowUnit?: string } {
  const states: Record<string, number> = {};
  let flowUnit: string | undefined;
  for (const c of head.columns) {
    const word = wordsOf(c.heading)[0]?.toLowerCase() ?? '';
    if (time.has(c.index) || !(CHANNELS as readonly string[]).includes(word) || c.unit !== undefined)
      continue;
    const two =
      new Set(c.cells.map((t) => t.trim().toLowerCase())).size <= 2 ||
      c.cells.every((t) => Number.isNaN(parseAs(t, form)));
    if (word !== 'flow' && !two) continue;
    flowUnit ??= word === 'flow' ? flowUnitOf(c.heading) : undefined;
    states[word === 'flow' && flowUnit !== undefined ? MEASURED_FLOW : word] = c.index;
  }
  return { states, ...(flowUnit === undefined ? {} : { flowUnit }) };
}

/**
 * Finds what the columns of a table are, from its first rows: what it says, what its cells look like, how its numbers run.
 * @param rows as they were split, what stands before the table among them
 * @param said what a person said of them; a unit alone may be given as text
 * @returns a refusal that says what is missing, or can be either
 */
export function guessColumns(rows: Rows, said: Said | string = {}): Result<ColumnMap> {
  const own: Said = typeof said === 'string' ? { unit: said } : said;
  if (rows.every((r) => r.every((f) => f.trim() === '')))
    return refuse('trace-empty', 'The file is empty.', { remedy: 'Export it again from the logger.' });
  const head = new Head(rows);
  if (head.first < 0) {
    const single = rows.some((r) => r.length === 1 && numeric(r[0] ?? ''));
    return single
      ? refuse('one-column', 'The file has one column: pressures without times.', {
          remedy: 'Export the time beside the pressure.',
        })
      : refuse('no-readings', 'No row with a time and a number was found.', {
          remedy: 'Use a table with a heading, a time column and a pressure column.',
        });
  }
  const all = head.columns.flatMap((c) => (most(c.cells, isClock) || most(c.cells, isDate) ? [] : c.cells));
  const rough: NumberForm = own.decimal ? { decimal: own.decimal } : formOf(all);
  const time = timeOf(head, rough, own);
  if (!time.ok) return time;
  const times = new Set([time.value.time.index, time.value.time.clock ?? -1, time.value.time.half ?? -1]);
  const switches = own.states ? { states: statesSaid(head, own.states) } : statesOf(head, times, rough);
  const found = pressureOf(head, new Set([...times, ...Object.values(switches.states)]), rough, own);
  if (!found.ok) return found;
  const { column: c } = found.value;
  const assumptions: Assumption[] = [...time.value.assumptions, ...found.value.assumptions];
  if (head.first > 1)
    assumptions.push({
      about: 'header',
      said: `The table begins at line ${head.first + 1}; ${head.first} lines stand before its readings.`,
    });
  const marks = own.decimal ? formWith(own.decimal, c.cells) : formOf(c.cells);
  const open = 'either' in marks && marks.either === true;
  const parted = own.delimiter !== undefined && own.delimiter !== ',';
  const form: NumberForm = open && parted ? { decimal: ',' } : marks;
  if (open && parted)
    assumptions.push({
      about: 'numbers',
      said: 'A comma is the decimal mark: the cells are parted by something else.',
    });
  if (open && !parted)
    return refuse(
      'number-form',
      `In ${head.named(c.index)} a comma before three digits can part thousands or begin a fraction.`,
      {
        where: 'pressure',
        remedy: 'Say whether the decimal mark is a point or a comma.',
      },
    );
  const lent = c.unit === undefined ? unitInPreamble(rows, head.first) : undefined;
  const unit = findUnit(own.unit ?? c.unit ?? lent ?? '');
  if (unit?.dimension !== 'pressure')
    return refuse('unit-missing', `The column ${head.named(c.index)} does not say its unit.`, {
      where: 'pressure',
      remedy: 'Say the unit of the pressures.',
    });
  if (lent !== undefined && own.unit === undefined)
    assumptions.push({ about: 'unit', said: `The unit, ${unit.id}, is what a line before the table says.` });
  const values = c.cells.map((t) => parseAs(t, form));
  const basis = own.basis ?? (unit.kind === 'absolute' ? 'absolute' : (basisOf(c.heading) ?? 'gauge'));
  const below = basis === 'vacuum' && values.filter((v) => v > 0).length > values.filter((v) => v < 0).length;
  if (basis === 'vacuum')
    assumptions.push({
      about: 'basis',
      said: `A vacuum: ${below ? 'numbers above nought are below the air outside' : 'as its signs say'}.`,
    });
  else if (basis === 'absolute')
    assumptions.push({ about: 'basis', said: 'Absolute pressures: the air outside is taken off.' });
  const sentinels = sentinelsOf(values);
  if (sentinels.length > 0)
    assumptions.push({ about: 'sentinels', said: `${sentinels.join(', ')} stands for no reading.` });
  const descending = falls(head, time.value.time, { ...rough });
  if (descending)
    assumptions.push({ about: 'rows', said: 'The newest row stands first: they are turned round.' });
  return accept({
    time: time.value.time,
    pressure: { index: c.index, unit: unit.id, basis, ...(below ? { below: true } : {}) },
    ...switches,
    decimal: form.decimal,
    ...(form.group === undefined ? {} : { group: form.group }),
    sentinels,
    ...(descending ? { descending: true } : {}),
    header: head.first,
    assumptions,
  });
}

/** The form of numbers whose decimal mark was said: the other parts thousands where it stands before three digits alone. */
function formWith(decimal: '.' | ',', cells: readonly string[]): NumberForm {
  const group = decimal === '.' ? ',' : '.';
  const marked = cells.filter((c) => c.includes(group));
  const thousands = marked.length > 0 && marked.every((c) => Number.isFinite(parseAs(c, { decimal, group })));
  return { decimal, ...(thousands ? { group } : {}) };
}

function statesSaid(head: Head, said: Readonly<Record<string, number>>): Record<string, number> {
  return Object.fromEntries(
    Object.entries(said).map(([name, i]) => [
      name === 'flow' && flowUnitOf(head.heading[i] ?? '') !== undefined ? MEASURED_FLOW : name,
      i,
    ]),
  );
}

/**
 * The columns of a table as a person chose them; forms of times and numbers are still found.
 * @returns a refusal where a chosen column holds no times or no pressures
 */
export function chooseColumns(rows: Rows, choice: ColumnChoice): Result<ColumnMap> {
  const map = guessColumns(rows, choice);
  if (!map.ok) return map;
  const flow = choice.states['flow'];
  const flowUnit = flow === undefined ? undefined : flowUnitOf(headingOf(rows)[flow] ?? '');
  return accept({ ...map.value, ...(flowUnit === undefined ? {} : { flowUnit }) });
}

/** Whether the times of the head go backward, nearly all of them. */
function falls(head: Head, time: ColumnMap['time'], form: NumberForm): boolean {
  const read = timeReader(time, form);
  const t = head.body.map((r) => read(r)).filter(Number.isFinite);
  const steps = t.slice(1).map((x, i) => x - (t[i] ?? x));
  const [down, up] = [steps.filter((s) => s < 0).length, steps.filter((s) => s > 0).length];
  return down > 2 && down > 5 * up;
}

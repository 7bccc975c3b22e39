import { findUnit } from '../quantity/index.js';
import { accept, refuse, type Result } from '../result.js';
import { CHANNELS, MEASURED_FLOW, SampleStore, type Samples } from './samples.js';

/** How a logger writes its times. */
export type TimeForm = 'number' | 'iso' | 'clock';

/** Which column of a table is what. Remembered for the next file of the same logger. */
export interface ColumnMap {
  readonly time: { readonly index: number; readonly form: TimeForm; readonly seconds: number };
  readonly pressure: { readonly index: number; readonly unit: string };
  readonly states: Readonly<Record<string, number>>;
  /** Unit of a measured flow, where the heading names it. */
  readonly flowUnit?: string;
  readonly decimal: '.' | ',';
  /** Rows before the first reading. */
  readonly header: number;
}

export interface TableProblem {
  /** Line of the file, from 1. */
  readonly line: number;
  readonly message: string;
}

/** Most problems that are told one by one; the rest are counted. */
const MOST_PROBLEMS = 200;
const TIME_WORDS = /^(t|time|elapsed|zeit|seconds?|timestamp|date|datetime|clock)$/i;
const TIME_SCALE: Readonly<Record<string, number>> = { ms: 1e-3, s: 1, sec: 1, min: 60, h: 3600 };
/** Words that are also a unit's spelling but in a header mean something else. */
const NOT_UNITS = new Set(['at', 'p', 't', 'in', 'out', 'c', 'f', 'h', 'm', 'oz', '#']);

const wordsOf = (header: string): string[] => header.split(/[\s_()[\]{},;:|]+/).filter((w) => w !== '');

/** The pressure unit that a column's heading names, or undefined. */
export function unitOfHeading(heading: string): string | undefined {
  for (const word of [heading.trim(), ...wordsOf(heading)].reverse()) {
    if (NOT_UNITS.has(word.toLowerCase())) continue;
    const unit = findUnit(word);
    if (unit?.dimension === 'pressure') return unit.id;
  }
  return undefined;
}

/** The unit of flow that a heading names: `flow (L/min)`, `flow_gpm`. */
const flowUnitOf = (heading: string): string | undefined =>
  [...heading.split(/[\s_()[\]{},;:|]+/)].map((w) => findUnit(w)).find((u) => u?.dimension === 'flow')?.id;

const numeric = (text: string): boolean => /^\s*[+-]?(\d+([.,]\d*)?|[.,]\d+)(e[+-]?\d+)?\s*$/i.test(text);

function timeForm(example: string): TimeForm | undefined {
  if (numeric(example)) return 'number';
  if (/^\s*(\d{4}-\d{2}-\d{2}|\d{1,2}[./]\d{1,2}[./]\d{2,4})[T\s]+\d{1,2}:\d{2}/.test(example)) return 'iso';
  if (/^\s*\d{1,3}:\d{2}(:\d{2})?([.,]\d+)?\s*$/.test(example)) return 'clock';
  return undefined;
}

const firstReading = (rows: readonly (readonly string[])[]): number =>
  rows.findIndex(
    (r) => r.length > 1 && r.filter((f) => numeric(f)).length >= 1 && r.some((f) => timeForm(f)),
  );

/** The row over the first reading, or nothing: by it a logger's files are known again. */
export function headingOf(rows: readonly (readonly string[])[]): readonly string[] {
  const first = firstReading(rows);
  return (first > 0 ? rows[first - 1] : undefined) ?? [];
}

const decimalOf = (rows: readonly (readonly string[])[]): '.' | ',' =>
  rows.some((r) => r.some((f) => /^\s*[+-]?\d+,\d+\s*$/.test(f))) ? ',' : '.';

/** What a person says that the columns of a table are. Indexes from 0. */
export interface ColumnChoice {
  readonly time: number;
  readonly pressure: number;
  readonly unit: string;
  /** Channels of `CHANNELS` by name. */
  readonly states: Readonly<Record<string, number>>;
}

/** What was guessed, as a choice to begin from. */
export const choiceOf = (map: ColumnMap): ColumnChoice => ({
  time: map.time.index,
  pressure: map.pressure.index,
  unit: map.pressure.unit,
  states: Object.fromEntries(
    Object.entries(map.states).map(([name, i]) => [name === MEASURED_FLOW ? 'flow' : name, i]),
  ),
});

/**
 * The columns of a table as a person chose them; forms of times, the decimal mark and the unit of a flow are still found.
 * @returns a refusal where a chosen column holds no times or no pressures
 */
export function chooseColumns(rows: readonly (readonly string[])[], choice: ColumnChoice): Result<ColumnMap> {
  const first = firstReading(rows);
  const [heading, example] = [headingOf(rows), rows[first] ?? []];
  const form = timeForm(example[choice.time] ?? '');
  const named = (i: number): string => `"${heading[i] ?? `column ${i + 1}`}"`;
  if (!form)
    return refuse('not-times', `The column ${named(choice.time)} holds no times.`, {
      where: 'time',
      remedy: 'Choose the column of seconds, clock times or dates.',
    });
  if (choice.pressure === choice.time || !numeric(example[choice.pressure] ?? ''))
    return refuse('not-pressures', `The column ${named(choice.pressure)} holds no pressures.`, {
      where: 'pressure',
      remedy: 'Choose the column of pressures.',
    });
  const unit = findUnit(choice.unit);
  if (unit?.dimension !== 'pressure')
    return refuse('unit-missing', `The column ${named(choice.pressure)} does not say its unit.`, {
      where: 'pressure',
      remedy: 'Say the unit of the pressures.',
    });
  const flow = choice.states['flow'];
  const flowUnit = flow === undefined ? undefined : flowUnitOf(heading[flow] ?? '');
  return accept({
    time: { index: choice.time, form, seconds: form === 'number' ? scaleOf(heading[choice.time] ?? '') : 1 },
    pressure: { index: choice.pressure, unit: unit.id },
    states: Object.fromEntries(
      Object.entries(choice.states).map(([name, i]) => [
        name === 'flow' && flowUnit !== undefined ? MEASURED_FLOW : name,
        i,
      ]),
    ),
    ...(flowUnit === undefined ? {} : { flowUnit }),
    decimal: decimalOf(rows.slice(first)),
    header: first,
  });
}

/** Seconds that one of a time column's numbers is, by its heading. */
const scaleOf = (heading: string): number =>
  wordsOf(heading)
    .map((w) => TIME_SCALE[w.toLowerCase()])
    .find((s) => s !== undefined) ?? 1;

/**
 * Guess what the columns of a table are, from its heading and first rows.
 * @param rows the first rows as they were split, the heading among them
 * @param asked unit of the pressure where the heading does not say it
 * @returns a refusal that says what is missing: a time, a pressure, its unit
 */
export function guessColumns(rows: readonly (readonly string[])[], asked?: string): Result<ColumnMap> {
  const firstData = firstReading(rows);
  const example = rows[firstData];
  if (rows.every((r) => r.every((f) => f.trim() === '')))
    return refuse('trace-empty', 'The file is empty.', { remedy: 'Export it again from the logger.' });
  if (!example) {
    const single = rows.some((r) => r.length === 1 && numeric(r[0] ?? ''));
    return single
      ? refuse('one-column', 'The file has one column: pressures without times.', {
          remedy: 'Export the time beside the pressure.',
        })
      : refuse('no-readings', 'No row with a time and a number was found.', {
          remedy: 'Use a table with a heading, a time column and a pressure column.',
        });
  }
  const heading = headingOf(rows);
  const decimal = decimalOf(rows.slice(firstData));
  const isTime = (i: number): boolean => TIME_WORDS.test(wordsOf(heading[i] ?? '')[0] ?? '');
  const named = example.findIndex((f, i) => isTime(i) && timeForm(f) !== undefined);
  const clocked = example.findIndex((f) => timeForm(f) !== undefined && timeForm(f) !== 'number');
  const time = named >= 0 ? named : clocked >= 0 ? clocked : 0;
  const form = timeForm(example[time] ?? '') ?? 'number';
  const scale = scaleOf(heading[time] ?? '');
  const states: Record<string, number> = {};
  let flowUnit: string | undefined;
  heading.forEach((h, i) => {
    const word = wordsOf(h)[0]?.toLowerCase() ?? '';
    if (!(CHANNELS as readonly string[]).includes(word)) return;
    flowUnit ??= word === 'flow' ? flowUnitOf(h) : undefined;
    states[word === 'flow' && flowUnit !== undefined ? MEASURED_FLOW : word] = i;
  });
  const taken = new Set([time, ...Object.values(states)]);
  const units = heading.map((h, i) => (taken.has(i) ? undefined : unitOfHeading(h)));
  const withUnit = units.findIndex((u) => u !== undefined);
  const byName = heading.findIndex(
    (h, i) => !taken.has(i) && /^(p|pressure|druck|press)$/i.test(wordsOf(h)[0] ?? ''),
  );
  const other = example.findIndex((f, i) => !taken.has(i) && numeric(f));
  const index = withUnit >= 0 ? withUnit : byName >= 0 ? byName : other;
  if (index < 0)
    return refuse('no-pressure', 'No column of pressures was found.', {
      remedy: 'Name the column with its unit, such as p_psi or pressure (kPa).',
    });
  const unit = units[index] ?? (asked === undefined ? undefined : findUnit(asked)?.id);
  if (unit === undefined)
    return refuse('unit-missing', `The column "${heading[index] ?? index + 1}" does not say its unit.`, {
      where: 'pressure',
      remedy: 'Say the unit of the pressures.',
    });
  return accept({
    time: { index: time, form, seconds: form === 'number' ? scale : 1 },
    pressure: { index, unit },
    states,
    ...(flowUnit === undefined ? {} : { flowUnit }),
    decimal,
    header: firstData,
  });
}

const DAY_S = 86400;

/** Reads the rows of a mapped table into samples; a bad row is told with its line and nothing else is lost. */
export class TableReader {
  private readonly store: SampleStore;
  private readonly told: TableProblem[] = [];
  private bad = 0;
  private last = -Infinity;
  private lastClock = -Infinity;
  private day = 0;
  private lastDate = '';
  private readonly factor: number;
  private readonly offset: number;
  private readonly flowFactor: number;
  private readonly names: readonly string[];
  private readonly state: Record<string, number> = {};

  /** @param ambient Pa absolute, taken off where the column is absolute */
  constructor(
    private readonly map: ColumnMap,
    ambient = 101325,
  ) {
    const unit = findUnit(map.pressure.unit);
    this.factor = unit?.factor ?? 1;
    this.offset = unit?.kind === 'absolute' ? -ambient : 0;
    this.flowFactor = findUnit(map.flowUnit ?? '')?.factor ?? 1;
    this.names = Object.keys(map.states);
    this.store = new SampleStore(this.names);
  }

  get samples(): number {
    return this.store.length;
  }

  /** One row, as it was split; `line` is where it stands in the file. */
  row(fields: readonly string[], line: number): void {
    const { map } = this;
    if (fields.length === 1 && (fields[0] ?? '').trim() === '') return;
    const rawP = fields[map.pressure.index];
    const p = rawP === undefined ? NaN : this.number(rawP);
    if (!Number.isFinite(p)) return this.problem(line, `"${rawP ?? ''}" is not a pressure.`);
    const rawT = fields[map.time.index];
    const t = rawT === undefined ? NaN : this.time(rawT);
    if (!Number.isFinite(t)) return this.problem(line, `"${rawT ?? ''}" is not a time.`);
    if (t <= this.last)
      return this.problem(line, t === this.last ? 'The time stands twice.' : 'The time goes backward.');
    this.last = t;
    for (const name of this.names) {
      const value = this.stateOf(fields[map.states[name] ?? -1] ?? '');
      this.state[name] = name === MEASURED_FLOW ? value * this.flowFactor : value;
    }
    this.store.push(t, p * this.factor + this.offset, this.state);
  }

  /** Everything read, and what was wrong with the rest. */
  done(): {
    readonly samples: Samples;
    readonly problems: readonly TableProblem[];
    readonly skipped: number;
  } {
    const more = this.bad - this.told.length;
    const last = this.told.at(-1);
    return {
      samples: this.store.take(),
      skipped: this.bad,
      problems:
        more > 0 && last
          ? [...this.told, { line: last.line, message: `… and ${more} more lines.` }]
          : this.told,
    };
  }

  private problem(line: number, message: string): void {
    this.bad++;
    if (this.told.length < MOST_PROBLEMS) this.told.push({ line, message });
  }

  private number(text: string): number {
    if (text.trim() === '') return NaN;
    return Number(this.map.decimal === ',' ? text.replace(',', '.') : text);
  }

  private stateOf(text: string): number {
    const t = text.trim().toLowerCase();
    if (t === 'on' || t === 'true' || t === 'closed') return 1;
    if (t === 'off' || t === 'false' || t === 'open') return 0;
    return this.number(t);
  }

  private time(text: string): number {
    const { form, seconds } = this.map.time;
    if (form === 'number') return this.number(text) * seconds;
    if (form === 'clock') return this.clock(text);
    const cut = /^\s*(\S+?)[T\s]+(.+?)\s*$/.exec(text);
    if (!cut) return NaN;
    const [, date = '', rest = ''] = cut;
    if (/^\d{4}-\d{2}-\d{2}$/.test(date)) {
      // Zone marks are all alike within one file; only differences count.
      const clock = rest.replace(/(Z|[+-]\d{2}:?\d{2})$/, '');
      const at = Date.parse(`${date}T00:00:00Z`);
      return at / 1000 + this.seconds(clock);
    }
    // Dates whose order of day and month is unknown: a new date is the next day.
    if (this.lastDate !== '' && date !== this.lastDate) this.day++;
    this.lastDate = date;
    return this.day * DAY_S + this.seconds(rest);
  }

  /** Clock time: it starts again at midnight. */
  private clock(text: string): number {
    const s = this.seconds(text);
    if (s < this.lastClock - DAY_S / 2) this.day++;
    this.lastClock = s;
    return this.day * DAY_S + s;
  }

  private seconds(text: string): number {
    const cut = /^(\d{1,3}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?\s*(am|pm)?$/i.exec(text.trim());
    if (!cut) return NaN;
    const [, a = '0', b = '0', c, half] = cut;
    const noon =
      half?.toLowerCase() === 'pm' && Number(a) < 12
        ? 12
        : half?.toLowerCase() === 'am' && Number(a) === 12
          ? -12
          : 0;
    return (Number(a) + noon) * 3600 + Number(b) * 60 + Number((c ?? '0').replace(',', '.'));
  }
}

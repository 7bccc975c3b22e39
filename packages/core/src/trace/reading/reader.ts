import { findUnit } from '../../quantity/index.js';
import { MEASURED_FLOW, SampleStore, type Samples } from '../samples.js';
import { timeReader } from './clock.js';
import { basisOf, unitOfHeading } from './headings.js';
import type { ColumnMap } from './map.js';
import { FAR, isHole, isKnownHole, parseAs, withUnit, type NumberForm } from './numbers.js';

export interface TableProblem {
  /** Line of the file, from 1. */
  readonly line: number;
  readonly message: string;
}

/** Why a row came to nothing. */
export type Lost =
  | 'no pressure'
  | 'a hole'
  | 'no time'
  | 'time twice'
  | 'time backward'
  | 'time far ahead'
  | 'below any vacuum';

/** What reading a table came to. */
export interface TableDone {
  readonly samples: Samples;
  readonly problems: readonly TableProblem[];
  readonly skipped: number;
  /** Rows that were lost, by reason. */
  readonly lost: Readonly<Partial<Record<Lost, number>>>;
}

/** Most problems that are told one by one; the rest are counted. */
const MOST_PROBLEMS = 200;
/** A step this many times the one before, taken back by the next row, was one wrong time. */
const FAR_AHEAD = 20;
/** More rows than that at one time: it stands still. */
const MOST_SHARED = 100_000;
const HOUR_S = 3600;
/** Nothing is this much below the air outside, as a part of it: a gauge errs. */
const BELOW = 1.05;

/** Reads the rows of a mapped table into samples; a bad row is told with its line and nothing else is lost. */
export class TableReader {
  private readonly store: SampleStore;
  private readonly told: TableProblem[] = [];
  private readonly lost: Partial<Record<Lost, number>> = {};
  private bad = 0;
  private last = -Infinity;
  private step = 0;
  /** Rows that stand at one time so far, where several do. */
  private shared: { readonly value: number; readonly line: number; readonly state: Float64Array }[] = [];
  private sharedAt = NaN;
  private other: { readonly line: number; readonly unit: string } | undefined;
  /** The largest figure so far, as it is written. */
  private top = 0;
  /** What a local clock was set back by, s. */
  private setBack = 0;
  /** The newest row waits for the next: only that shows whether its time was one alone. */
  private held = false;
  private heldT = NaN;
  private heldP = NaN;
  private heldLine = 0;
  /** States of the row at hand, and of the one that waits. */
  private state: Float64Array;
  private heldState: Float64Array;
  private readonly factor: number;
  private readonly shift: number;
  private readonly least: number;
  private readonly flowFactor: number;
  private readonly names: readonly string[];
  /** Whether times are of a clock that may be set back. */
  private readonly local: boolean;
  /** The time of a row, s, as it is written; NaN where it has none. Asked twice for one row it says the same. */
  readonly time: (fields: readonly string[]) => number;
  readonly form: NumberForm;
  private readonly sign: 1 | -1;

  /**
   * @param ambient Pa absolute, taken off where the column is absolute
   * @param heading of the column of pressures: where it comes again the table goes on, whatever somebody said of it
   */
  constructor(
    readonly map: ColumnMap,
    ambient = 101325,
    private readonly heading = '',
  ) {
    const { unit, basis, below } = map.pressure;
    this.factor = (findUnit(unit)?.factor ?? 1) * (below ? -1 : 1);
    this.shift = basis === 'absolute' ? -ambient : 0;
    this.least = -BELOW * ambient;
    this.flowFactor = findUnit(map.flowUnit ?? '')?.factor ?? 1;
    this.names = Object.keys(map.states);
    this.store = new SampleStore(this.names);
    this.form = { decimal: map.decimal, ...(map.group === undefined ? {} : { group: map.group }) };
    this.time = timeReader(map.time, this.form, map.descending);
    this.local = map.time.form === 'iso' || map.time.clock !== undefined;
    this.state = new Float64Array(this.names.length);
    this.heldState = new Float64Array(this.names.length);
    this.sign = map.descending ? -1 : 1;
  }

  get samples(): number {
    return this.store.length;
  }

  /** One row, as it was split; `line` is where it stands in the file. */
  row(fields: readonly string[], line: number): void {
    const { map } = this;
    if (fields.length === 1 && (fields[0] ?? '').trim() === '') return;
    const rawP = fields[map.pressure.index];
    let value = rawP === undefined ? NaN : parseAs(rawP, this.form);
    if (Number.isNaN(value) && rawP !== undefined) value = this.united(rawP);
    if (!Number.isFinite(value)) {
      this.look(rawP ?? '', line);
      return this.problem(
        line,
        `"${rawP ?? ''}" is not a pressure.`,
        rawP !== undefined && isHole(rawP) ? 'a hole' : 'no pressure',
      );
    }
    if (this.standsForNone(value))
      return this.problem(line, `"${rawP ?? ''}" stands for no reading.`, 'a hole');
    if (this.isBelow(value)) {
      this.top = Math.max(this.top, Math.abs(value));
      return this.problem(line, `"${rawP ?? ''}" is below any vacuum.`, 'below any vacuum');
    }
    const t = this.time(fields);
    if (!Number.isFinite(t)) {
      this.top = Math.max(this.top, Math.abs(value));
      return this.problem(line, `"${fields[map.time.index] ?? ''}" is not a time.`, 'no time');
    }
    this.names.forEach((name, k) => this.put(k, this.stateOf(fields[map.states[name] ?? -1] ?? '')));
    this.take(t, value, line);
  }

  /** Indexes of the columns of states, in the order of their numbers. */
  get stateColumns(): readonly number[] {
    return this.names.map((name) => this.map.states[name] ?? -1);
  }

  /** The state of a channel in the row at hand, as it is written. */
  put(channel: number, x: number): void {
    this.state[channel] = this.names[channel] === MEASURED_FLOW ? x * this.flowFactor : x;
  }

  /** Whether a figure can be the pressure of a row. */
  isSound(value: number): boolean {
    return !this.standsForNone(value) && !this.isBelow(value);
  }

  /** A row whose time and pressure were read, as they are written; its states were put. */
  take(written: number, value: number, line: number): void {
    const { spread } = this.map.time;
    if (spread === undefined) return this.place(written, value, line);
    if (this.shared.length > 0 && written !== this.sharedAt) this.spread(spread, written - this.sharedAt);
    this.sharedAt = written;
    this.shared.push({ value, line, state: this.state.slice() });
    if (this.shared.length > MOST_SHARED) this.spread(spread, spread);
  }

  /** Rows that stand at one time, evenly over what it was written to; or over less, where the next comes sooner. */
  private spread(over: number, next: number): void {
    const { shared, sharedAt } = this;
    const width = next > 0 ? Math.min(over, next) : over;
    shared.forEach(({ value, line, state }, i) => {
      this.state.set(state);
      this.place(sharedAt + (width * i) / shared.length, value, line);
    });
    this.shared = [];
  }

  private place(written: number, value: number, line: number): void {
    const size = value < 0 ? -value : value;
    if (size > this.top) this.top = size;
    let t = this.sign * written + this.setBack;
    if (this.local && this.held && this.isHourAgain(this.heldT, t)) {
      this.setBack += HOUR_S;
      t += HOUR_S;
      this.told.push({
        line,
        message: 'The clock was set back by an hour here: what follows is taken an hour later.',
      });
    }
    if (this.held && t <= this.heldT) {
      const ahead = this.heldT - this.last;
      const fits = t > this.last && ahead > FAR_AHEAD * Math.max(t - this.last, this.step);
      if (!fits || this.step === 0)
        return t === this.heldT
          ? this.problem(line, 'The time stands twice.', 'time twice')
          : this.problem(line, 'The time goes backward.', 'time backward');
      this.problem(this.heldLine, 'Its time stands far ahead of the rows about it.', 'time far ahead');
    } else this.keep();
    this.held = true;
    this.heldT = t;
    this.heldP = value * this.factor + this.shift;
    this.heldLine = line;
    [this.heldState, this.state] = [this.state, this.heldState];
  }

  /** Where another heading stands among the rows, and counts in another unit. */
  get turnedTo(): { readonly line: number; readonly unit: string } | undefined {
    return this.other;
  }

  /** A cell that is no number may head another table: one in the same unit goes on. */
  private look(cell: string, line: number): void {
    const named = /[a-z]/i.test(cell) ? unitOfHeading(cell) : undefined;
    const again = cell.trim() === this.heading;
    if (named === undefined || again || this.other || this.store.length === 0) return;
    const [own, its] = [findUnit(this.map.pressure.unit), findUnit(named)];
    const basis = basisOf(cell) ?? 'gauge';
    if (own?.factor !== its?.factor || (basis !== this.map.pressure.basis && basisOf(cell) !== undefined))
      this.other = { line, unit: named };
  }

  /** Everything read, and what was wrong with the rest. */
  done(): TableDone {
    const { spread } = this.map.time;
    if (spread !== undefined) this.spread(spread, spread);
    this.keep();
    this.held = false;
    const more = this.bad - this.told.length;
    const last = this.told.at(-1);
    return {
      samples: this.map.descending ? turned(this.store.take()) : this.store.take(),
      skipped: this.bad,
      lost: this.lost,
      problems:
        more > 0 && last
          ? [...this.told, { line: last.line, message: `… and ${more} more lines.` }]
          : this.told,
    };
  }

  /** A local clock without its offset goes back by an hour in autumn, and then on as before. */
  private isHourAgain(before: number, t: number): boolean {
    return (
      this.step > 0 &&
      this.setBack === 0 &&
      this.step < HOUR_S / 2 &&
      Math.abs(before + this.step - t - HOUR_S) < 2 * this.step + 1e-6
    );
  }

  private keep(): void {
    if (!this.held) return;
    if (this.store.length > 0) this.step = this.heldT - this.last;
    this.last = this.heldT;
    this.store.add(this.heldT, this.heldP, this.heldState);
  }

  /** A number that has its unit with it, in the column's unit; NaN where it is none. */
  private united(text: string): number {
    const own = withUnit(text);
    if (!own) return NaN;
    const [its, column] = [findUnit(own.unit), findUnit(this.map.pressure.unit)];
    // One that counts from elsewhere is no number of this column.
    if (its?.kind !== undefined && (its.kind === 'absolute') !== (this.map.pressure.basis === 'absolute'))
      return NaN;
    return (parseAs(own.number, this.form) * (its?.factor ?? NaN)) / (column?.factor ?? NaN);
  }

  private standsForNone(value: number): boolean {
    const { sentinels } = this.map;
    return (
      (sentinels.length > 0 && sentinels.includes(value)) ||
      (this.top > 0 && Math.abs(value) > FAR * this.top && isKnownHole(value))
    );
  }

  private isBelow(value: number): boolean {
    return value * this.factor + this.shift < this.least;
  }

  private problem(line: number, message: string, why: Lost): void {
    this.bad++;
    this.lost[why] = (this.lost[why] ?? 0) + 1;
    if (this.told.length < MOST_PROBLEMS) this.told.push({ line, message });
  }

  private stateOf(text: string): number {
    const t = text.trim().toLowerCase();
    if (t === 'on' || t === 'true' || t === 'closed') return 1;
    if (t === 'off' || t === 'false' || t === 'open') return 0;
    return parseAs(t, this.form);
  }
}

/** The newest row stood first. */
function turned({ t, p, states }: Samples): Samples {
  return {
    t: t.map((x) => -x).reverse(),
    p: p.slice().reverse(),
    states: Object.fromEntries(Object.entries(states).map(([name, c]) => [name, c.slice().reverse()])),
  };
}

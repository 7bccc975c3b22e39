import { findUnit } from '../../quantity/index.js';
import { MEASURED_FLOW, SampleStore, type Samples } from '../samples.js';
import { timeReader } from './clock.js';
import type { ColumnMap } from './map.js';
import { FAR, isHole, isKnownHole, parseAs, type NumberForm } from './numbers.js';

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

const NO_STATES: Record<string, number> = {};
/** Most problems that are told one by one; the rest are counted. */
const MOST_PROBLEMS = 200;
/** A step this many times the one before, taken back by the next row, was one wrong time. */
const FAR_AHEAD = 20;
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
  /** The largest figure so far, as it is written. */
  private top = 0;
  /** What a local clock was set back by, s. */
  private setBack = 0;
  /** The newest row waits for the next: only that shows whether its time was one alone. */
  private held:
    | {
        readonly t: number;
        readonly p: number;
        readonly line: number;
        readonly state: Record<string, number>;
      }
    | undefined;
  private readonly factor: number;
  private readonly shift: number;
  private readonly least: number;
  private readonly flowFactor: number;
  private readonly names: readonly string[];
  private readonly time: (fields: readonly string[]) => number;
  private readonly form: NumberForm;
  private readonly sign: 1 | -1;

  /** @param ambient Pa absolute, taken off where the column is absolute */
  constructor(
    private readonly map: ColumnMap,
    ambient = 101325,
  ) {
    const { unit, basis, below } = map.pressure;
    this.factor = (findUnit(unit)?.factor ?? 1) * (below ? -1 : 1);
    this.shift = basis === 'absolute' ? -ambient : 0;
    this.least = -BELOW * ambient;
    this.flowFactor = findUnit(map.flowUnit ?? '')?.factor ?? 1;
    this.names = Object.keys(map.states);
    this.store = new SampleStore(this.names);
    this.form = { decimal: map.decimal, ...(map.group === undefined ? {} : { group: map.group }) };
    this.time = timeReader(map.time, this.form);
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
    const value = rawP === undefined ? NaN : parseAs(rawP, this.form);
    if (!Number.isFinite(value))
      return this.problem(
        line,
        `"${rawP ?? ''}" is not a pressure.`,
        rawP !== undefined && isHole(rawP) ? 'a hole' : 'no pressure',
      );
    if (
      map.sentinels.includes(value) ||
      (this.top > 0 && Math.abs(value) > FAR * this.top && isKnownHole(value))
    )
      return this.problem(line, `"${rawP ?? ''}" stands for no reading.`, 'a hole');
    this.top = Math.max(this.top, Math.abs(value));
    const p = value * this.factor + this.shift;
    if (p < this.least) return this.problem(line, `"${rawP ?? ''}" is below any vacuum.`, 'below any vacuum');
    let t = this.sign * this.time(fields) + this.setBack;
    if (!Number.isFinite(t))
      return this.problem(line, `"${fields[map.time.index] ?? ''}" is not a time.`, 'no time');
    const { held } = this;
    if (held && this.isHourAgain(held.t, t)) {
      this.setBack += HOUR_S;
      t += HOUR_S;
      this.told.push({
        line,
        message: 'The clock was set back by an hour here: what follows is taken an hour later.',
      });
    }
    if (held && t <= held.t) {
      const ahead = held.t - this.last;
      const fits = t > this.last && ahead > FAR_AHEAD * Math.max(t - this.last, this.step);
      if (!fits || this.step === 0)
        return t === held.t
          ? this.problem(line, 'The time stands twice.', 'time twice')
          : this.problem(line, 'The time goes backward.', 'time backward');
      this.problem(held.line, 'Its time stands far ahead of the rows about it.', 'time far ahead');
    } else this.keep();
    const state: Record<string, number> = this.names.length === 0 ? NO_STATES : {};
    for (const name of this.names) {
      const x = this.stateOf(fields[map.states[name] ?? -1] ?? '');
      state[name] = name === MEASURED_FLOW ? x * this.flowFactor : x;
    }
    this.held = { t, p, line, state };
  }

  /** Everything read, and what was wrong with the rest. */
  done(): TableDone {
    this.keep();
    this.held = undefined;
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
    const { form, clock } = this.map.time;
    const local = form === 'iso' || clock !== undefined;
    return (
      local &&
      this.step > 0 &&
      this.setBack === 0 &&
      this.step < HOUR_S / 2 &&
      Math.abs(before + this.step - t - HOUR_S) < 2 * this.step + 1e-6
    );
  }

  private keep(): void {
    const { held } = this;
    if (!held) return;
    if (Number.isFinite(this.last)) this.step = held.t - this.last;
    this.last = held.t;
    this.store.push(held.t, held.p, held.state);
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

import type { TableReader } from './reader.js';

const [TAB, LF, CR, SPACE, QUOTE, PLUS, COMMA, MINUS, POINT, ZERO, NINE, COLON] = [
  9, 10, 13, 32, 34, 43, 44, 45, 46, 48, 57, 58,
];
/** So many figures, and so many of them behind the mark, are exact in a double: digits over a power of ten round once. */
const MOST_FIGURES = 15;
const TENS = Array.from({ length: MOST_FIGURES + 1 }, (_, i) => 10 ** i);
const DAY_S = 86_400;
/** A cell longer than this holds no time. */
const LONGEST_TIME = 64;
/** Bytes of a line after which it is no row of readings. */
export const LONGEST_LINE = 1 << 20;

/** How pieces ended: all taken, at a line that only text can tell (quoted, or with another sort of end in it), or at none. */
export type Ended = 'taken' | 'as-text' | 'endless';

/** Where a feed stands: shared with the lane that takes its rows over. */
export interface Counts {
  line: number;
  rows: number;
}

/**
 * Reads whole lines of a table from their bytes, without making text of them: nearly all lines of a long file are a time and a number,
 * plainly written. A line that is not is given away as it is; a quoted cell ends the lane, for what is quoted may go on over lines.
 */
export class ByteLane {
  private carry: Uint8Array = new Uint8Array();
  private readonly last: number;
  private readonly starts: Int32Array;
  private readonly ends: Int32Array;
  private readonly states: readonly number[];
  /** Cells of a time that is no number. */
  private readonly timeCells: readonly number[];
  /** Where the marking of cells stopped. */
  private at = 0;
  private readonly fields: string[] = [];
  /** Times are dates with a time of day to the second: each minute is made out once. */
  private readonly dated: boolean;
  /** Bytes of the last date and time without its seconds, and what they came to, s. */
  private readonly known = new Uint8Array(2 * LONGEST_TIME);
  private knownSize = -1;
  private day = 0;
  private minute = 0;
  private seconds = 0;
  private readonly decimal: number;
  private readonly zero: number;

  /**
   * @param delimiter byte that parts the cells
   * @param lineEnd byte that ends a line
   * @param slow takes a line that is not plainly written; the counts stand at it
   */
  constructor(
    private readonly reader: TableReader,
    private readonly counts: Counts,
    private readonly delimiter: number,
    private readonly lineEnd: number,
    private readonly slow: (line: Uint8Array) => void,
  ) {
    const { time, pressure } = reader.map;
    this.states = reader.stateColumns;
    this.timeCells =
      time.form === 'number' ? [] : [time.index, time.clock, time.half].filter((i) => i !== undefined);
    this.dated = time.form === 'iso' && time.half === undefined;
    this.last = Math.max(time.index, pressure.index, ...this.timeCells, ...this.states);
    this.starts = new Int32Array(this.last + 1);
    this.ends = new Int32Array(this.last + 1);
    this.zero = time.zero ?? 0;
    this.decimal = reader.form.decimal === ',' ? COMMA : POINT;
  }

  /** The next bytes. */
  push(bytes: Uint8Array): Ended {
    let all = bytes;
    if (this.carry.length > 0) {
      all = new Uint8Array(this.carry.length + bytes.length);
      all.set(this.carry);
      all.set(bytes, this.carry.length);
    }
    return this.lines(all, false);
  }

  /** What was pushed and not read yet. */
  rest(): Uint8Array {
    return this.carry;
  }

  /** The file is at its end: its last line may have no end. */
  end(): Ended {
    return this.lines(this.carry, true);
  }

  private lines(all: Uint8Array, whole: boolean): Ended {
    const { lineEnd } = this;
    let from = 0;
    let quote = all.indexOf(QUOTE);
    // An end of another sort within a line: what follows it is a line to the other reader.
    const stray = lineEnd === LF ? CR : LF;
    let end = all.indexOf(stray);
    while (from < all.length) {
      const cells = this.cellsFrom(all, from);
      let to = this.at;
      if (to < all.length && all[to] !== lineEnd) to = all.indexOf(lineEnd, to);
      if (to < 0 || to === all.length) {
        if (!whole) break;
        to = all.length;
      }
      if (quote >= 0 && quote < to) {
        if (this.isQuoted(all, from, quote, to)) {
          this.carry = all.subarray(from);
          return 'as-text';
        }
        quote = all.indexOf(QUOTE, to);
      }
      if (end >= 0 && end < to) {
        if (end !== to - 1 || stray === LF) {
          this.carry = all.subarray(from);
          return 'as-text';
        }
        end = all.indexOf(stray, to);
      }
      this.counts.line++;
      if (!cells || !this.read(all)) this.odd(all, from, to);
      from = to + 1;
    }
    this.carry = all.slice(from);
    return this.carry.length > LONGEST_LINE ? 'endless' : 'taken';
  }

  /** Marks the cells that are wanted of the line that begins here, and where it was left. @returns whether there are so many */
  private cellsFrom(b: Uint8Array, from: number): boolean {
    const { starts, ends, last, delimiter, lineEnd } = this;
    const { length } = b;
    let cell = 0;
    let at = from;
    starts[0] = from;
    for (; at < length; at++) {
      const c = b[at];
      if (c === delimiter) {
        ends[cell++] = at;
        if (cell > last) break;
        starts[cell] = at + 1;
      } else if (c === lineEnd) break;
    }
    this.at = at;
    if (cell > last) return true;
    if (cell < last) return false;
    ends[cell] = at > from && b[at - 1] === CR ? at - 1 : at;
    return true;
  }

  /** Whether a cell of the line [from, to) begins with the quote found there, or with one after it. */
  private isQuoted(b: Uint8Array, from: number, quote: number, to: number): boolean {
    for (let q = quote; q >= 0 && q < to; q = b.indexOf(QUOTE, q + 1))
      if (q === from || b[q - 1] === this.delimiter || b[q - 1] === SPACE) return true;
    return false;
  }

  /** Takes the row whose cells are marked. @returns false where it is not plainly written */
  private read(b: Uint8Array): boolean {
    const { reader, states } = this;
    const { time, pressure } = reader.map;
    const value = this.number(b, pressure.index);
    if (!(value - value === 0) || !reader.isSound(value)) return false;
    const t =
      this.timeCells.length === 0 ? this.number(b, time.index) * time.seconds - this.zero : this.written(b);
    if (!(t - t === 0)) return false;
    for (let k = 0; k < states.length; k++) {
      const x = this.number(b, states[k] as number);
      if (!(x - x === 0)) return false;
      reader.put(k, x);
    }
    this.counts.rows++;
    reader.take(t, value, this.counts.line);
    return true;
  }

  /** A line that is not plainly written; a blank one is passed over. */
  private odd(b: Uint8Array, from: number, to: number): void {
    const end = to > from && b[to - 1] === CR ? to - 1 : to;
    for (let i = from; i < end; i++)
      if (b[i] !== SPACE && b[i] !== TAB) return this.slow(b.subarray(from, end));
  }

  /** The number in a cell where it is digits with at most one mark among them; NaN where it is written in any other way. */
  private number(b: Uint8Array, cell: number): number {
    let i = this.starts[cell] as number;
    let end = this.ends[cell] as number;
    while (i < end && b[i] === SPACE) i++;
    while (end > i && b[end - 1] === SPACE) end--;
    const sign = b[i];
    if (sign === MINUS || sign === PLUS) i++;
    const length = end - i;
    if (length > MOST_FIGURES + 1 || length === 0) return NaN;
    let whole = 0;
    let mark = -1;
    for (; i < end; i++) {
      const c = b[i] as number;
      if (c >= ZERO && c <= NINE) whole = whole * 10 + (c - ZERO);
      else if (c === this.decimal && mark < 0) mark = i;
      else return NaN;
    }
    // A mark at the end, and more figures than a double holds, are for the other reader to judge.
    if (mark === end - 1 || (mark < 0 && length > MOST_FIGURES)) return NaN;
    const x = mark < 0 ? whole : whole / (TENS[end - 1 - mark] as number);
    return sign === MINUS ? -x : x;
  }

  /** A time that is no number: a date with its time of day, or its cells' text where that is ASCII. */
  private written(b: Uint8Array): number {
    const clock = this.timeCells.at(-1) as number;
    const cut = this.dated ? this.secondsIn(b, this.starts[clock] as number, this.ends[clock] as number) : -1;
    if (cut < 0) return this.textOf(b, -1) ? this.reader.time(this.fields) : NaN;
    if (!this.isSameMinute(b, cut)) {
      const minute = this.textOf(b, cut) ? this.reader.time(this.fields) : NaN;
      if (!(minute - minute === 0)) {
        this.knownSize = -1;
        return NaN;
      }
      this.day = Math.floor(minute / DAY_S) * DAY_S;
      this.minute = minute - this.day;
    }
    // In the order in which the time of day and the day are added elsewhere.
    return this.day + (this.minute + this.seconds);
  }

  /** Where the seconds of hh:mm:ss begin, with a fraction or not and nothing after them; they are kept. -1 where it is written otherwise. */
  private secondsIn(b: Uint8Array, from: number, to: number): number {
    let colons = 0;
    let cut = -1;
    for (let i = from; i < to; i++)
      if (b[i] === COLON) {
        colons++;
        cut = i + 1;
      }
    if (colons !== 2 || to - cut < 2 || to - cut > MOST_FIGURES) return -1;
    let whole = 0;
    let mark = -1;
    for (let i = cut; i < to; i++) {
      const c = b[i] as number;
      if (c >= ZERO && c <= NINE) whole = whole * 10 + (c - ZERO);
      else if (i === cut + 2 && (c === POINT || c === COMMA) && i < to - 1) mark = i;
      else return -1;
    }
    if (mark < 0 && to - cut !== 2) return -1;
    this.seconds = mark < 0 ? whole : whole / (TENS[to - 1 - mark] as number);
    return cut;
  }

  /** Whether the date and the time before the seconds are those of the row before; they are kept. */
  private isSameMinute(b: Uint8Array, cut: number): boolean {
    const { known, timeCells } = this;
    let n = 0;
    let same = true;
    for (const cell of timeCells) {
      const to = cell === timeCells.at(-1) ? cut : (this.ends[cell] as number);
      const from = this.starts[cell] as number;
      if (n + to - from > known.length) {
        this.knownSize = -1;
        return false;
      }
      for (let i = from; i < to; i++, n++)
        if (known[n] !== b[i]) {
          same = false;
          known[n] = b[i] as number;
        }
    }
    same &&= n === this.knownSize;
    this.knownSize = n;
    return same;
  }

  /** The text of the cells of the time, where it is ASCII. @param cut what follows in the last of them is no second; -1 for all of it */
  private textOf(b: Uint8Array, cut: number): boolean {
    for (const cell of this.timeCells) {
      const from = this.starts[cell] as number;
      const whole = cut < 0 || cell !== this.timeCells.at(-1);
      const to = whole ? (this.ends[cell] as number) : cut;
      if (to - from > LONGEST_TIME) return false;
      let text = '';
      for (let i = from; i < to; i++) {
        const c = b[i] as number;
        if (c > 126) return false;
        text += String.fromCharCode(c);
      }
      this.fields[cell] = whole ? text : `${text}00`;
    }
    return true;
  }
}

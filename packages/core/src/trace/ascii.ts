import { findUnit } from '../quantity/index.js';

/** A pressure that a serial gauge sent. */
export interface Sent {
  /** Pa, of the kind of its unit, ambient taken off an absolute one. */
  readonly p: number;
  /** Its own time, s, of a gauge that sends one. */
  readonly t?: number;
  /** The line as it came. */
  readonly text: string;
}

/** A line longer than this is no line of a gauge. */
const LONGEST = 200;

/**
 * Reads what a gauge sends as lines of ASCII, however the bytes are cut up: `43.25 psi`, `P=+0043.2`, `1;43,25;bar`. The last number of
 * a line is the pressure; its unit is the one that the line names after it, else the one asked for.
 */
export class AsciiGauge {
  private rest = '';
  private bad = 0;

  /**
   * @param unit of lines that do not name one
   * @param ambient Pa absolute
   * @param timed whether the first number of a line is its time, s
   */
  constructor(
    private readonly unit: string,
    private readonly ambient = 101325,
    private readonly timed = false,
  ) {}

  /** Lines that held no pressure. */
  get skipped(): number {
    return this.bad;
  }

  /** Takes the next characters; gives the pressures of all lines that are now whole. */
  push(text: string): Sent[] {
    const lines = (this.rest + text).split(/\r\n|\r|\n/);
    this.rest = lines.pop() ?? '';
    if (this.rest.length > LONGEST) {
      this.rest = '';
      this.bad++;
    }
    return lines.flatMap((line) => {
      if (line.trim() === '') return [];
      const sent = this.line(line);
      if (!sent) this.bad++;
      return sent ? [sent] : [];
    });
  }

  private line(line: string): Sent | undefined {
    if (line.length > LONGEST) return undefined;
    const numbers = [...line.matchAll(/[+-]?\d+(?:[.,]\d+)?(?:e[+-]?\d+)?/gi)];
    const number = numbers.at(-1);
    if (!number || (this.timed && numbers.length < 2)) return undefined;
    const after = line.slice(number.index + number[0].length);
    const named = after
      .split(/[\s;,:=]+/)
      .map((w) => findUnit(w))
      .find((u) => u?.dimension === 'pressure');
    const unit = named ?? findUnit(this.unit);
    if (unit?.dimension !== 'pressure') return undefined;
    const value = Number(number[0].replace(',', '.')) * unit.factor;
    return Number.isFinite(value)
      ? {
          p: unit.kind === 'absolute' ? value - this.ambient : value,
          ...(this.timed ? { t: Number(numbers[0]?.[0].replace(',', '.')) } : {}),
          text: line.trim(),
        }
      : undefined;
  }
}

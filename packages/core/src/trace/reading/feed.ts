import { accept, refuse, type Result } from '../../result.js';
import { chooseColumns, guessColumns } from './columns.js';
import { headingOf } from './head.js';
import type { Assumption, ColumnMap, Said } from './map.js';
import { TableReader, type TableDone } from './reader.js';
import { ByteLane, type Counts } from './lane.js';
import { saysDelimiter } from './sniff.js';

/** Rows that are looked at before anything is read: what is written in all of a column shows in these. */
export const HEAD_ROWS = 2000;

/** A table that was read, and how. */
export interface TableRead extends TableDone {
  readonly map: ColumnMap;
  /** What its columns are called. */
  readonly heading: readonly string[];
  /** Rows of readings, read or lost. */
  readonly rows: number;
}

/** How a table is to be read, where somebody said. */
export interface FeedOptions {
  readonly said?: Said | undefined;
  /** What parts its cells. */
  readonly delimiter?: string | undefined;
  /** Ambient pressure, Pa absolute. */
  readonly ambient?: number | undefined;
}

const AT_SEA: Assumption = {
  about: 'ambient',
  said: 'The air outside is taken as 1013.25 hPa, as at sea level.',
};

/** A cell as spreadsheets guard it, ="45.2", or with room about its quotes. */
const unwrapped = (cell: string): string => /^\s*=?"(.*)"\s*$/.exec(cell)?.[1] ?? cell;

const isBlank = (fields: readonly string[]): boolean =>
  fields.length === 0 || (fields.length === 1 && (fields[0] ?? '').trim() === '');

/** Takes a table row by row, as it was split: looks at its head, proposes, and reads. The same for the page and the command line. */
export class TableFeed {
  private head: (readonly string[])[] = [];
  private reader: TableReader | undefined;
  private map: ColumnMap | undefined;
  private heading: readonly string[] = [];
  private readonly counts: Counts = { line: 0, rows: 0 };

  constructor(private readonly options: FeedOptions = {}) {}

  /** Lines that were taken so far. */
  get line(): number {
    return this.counts.line;
  }

  get samples(): number {
    return this.reader?.samples ?? 0;
  }

  /** One row. @returns a refusal where the head says that it cannot be read */
  push(cells: readonly string[]): Result<unknown> | undefined {
    const fields = cells.some((c) => c.includes('"')) ? cells.map(unwrapped) : cells;
    this.counts.line++;
    if (this.reader) {
      this.row(fields);
      return undefined;
    }
    this.head.push(fields);
    if (this.head.length < HEAD_ROWS) return undefined;
    const begun = this.begin();
    return begun.ok ? undefined : begun;
  }

  /**
   * A lane for the bytes of the rows that follow, once the head was read.
   * @param lineEnd byte that ends a line
   * @param text of a line's bytes
   */
  lane(delimiter: string, lineEnd: number, text: (bytes: Uint8Array) => string): ByteLane | undefined {
    return (
      this.reader &&
      new ByteLane(this.reader, this.counts, delimiter.charCodeAt(0), lineEnd, (line) =>
        this.row(text(line).replace(/\0+/g, '').split(delimiter)),
      )
    );
  }

  private row(fields: readonly string[]): void {
    if (!isBlank(fields)) this.counts.rows++;
    this.reader?.row(fields, this.counts.line);
  }

  /** The file is at its end. */
  end(): Result<TableRead> {
    if (!this.reader) {
      const begun = this.begin();
      if (!begun.ok) return begun;
    }
    const { reader, map, heading } = this;
    const { rows } = this.counts;
    if (!reader || !map) return refuse('trace-empty', 'The file is empty.');
    const { turnedTo } = reader;
    if (turnedTo)
      return refuse(
        'unit-changes',
        `At line ${turnedTo.line} another table begins, in ${turnedTo.unit}; what stands above is in ${map.pressure.unit}.`,
        { where: `line ${turnedTo.line}`, remedy: 'Cut the file there, and read each part by itself.' },
      );
    const done = reader.done();
    if (done.samples.t.length === 0 && (done.lost['time twice'] ?? 0) > 1)
      return refuse('one-time', 'All rows stand at one time.', {
        where: 'time',
        remedy: 'Choose the column of times.',
      });
    if (done.samples.t.length === 1 && (done.lost['time twice'] ?? 0) > 1)
      return refuse('one-time', 'All rows stand at one time: what was taken for the time does not move.', {
        where: 'time',
        remedy: 'Choose the column of times, or export the time of day beside the date.',
      });
    return accept({ ...done, map, heading, rows });
  }

  private begin(): Result<unknown> {
    const { delimiter } = this.options;
    const said: Said = { ...(delimiter === undefined ? {} : { delimiter }), ...this.options.said };
    // A first line that only says what parts the cells is no row of the table.
    const head = this.head.map((r, i) => (i === 0 && saysDelimiter(r) ? [] : r));
    const whole = said.time !== undefined && said.pressure !== undefined && said.unit !== undefined;
    const map = whole
      ? chooseColumns(head, {
          states: {},
          ...said,
          time: said.time ?? 0,
          pressure: said.pressure ?? 0,
          unit: said.unit ?? '',
        })
      : guessColumns(head, said);
    if (!map.ok) return map;
    const ambient = said.ambient ?? this.options.ambient;
    const assumed = ambient === undefined && map.value.pressure.basis === 'absolute';
    this.map = assumed ? { ...map.value, assumptions: [...map.value.assumptions, AT_SEA] } : map.value;
    this.heading = headingOf(head, map.value.header);
    const named = this.heading[map.value.pressure.index] ?? '';
    this.reader = new TableReader(map.value, ambient, named.trim());
    head.forEach((fields, i) => {
      if (i < map.value.header) return;
      if (!isBlank(fields)) this.counts.rows++;
      this.reader?.row(fields, i + 1);
    });
    this.head = [];
    return accept(undefined);
  }
}

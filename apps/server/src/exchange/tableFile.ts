// A table as it comes in: bytes to text, the heading to columns, a row to cells.
import { Transform } from 'node:stream';
import { TABLE_COLUMNS, tidied } from '@firm-needle/core/formats';
import { Problem } from '../common/problem.js';
import { columnOf, type Cells, type Column } from './columns.js';

const MOST_LINE = 40_000;
/** A hundred thousand lines are shorter. */
const MOST_BYTES = 64 * 1024 * 1024;
const MOST_COLUMNS = 200;

/** Which column each of the file's is. */
export function headingOf(row: readonly string[], said: string[]): (Column | undefined)[] {
  if (row.length > MOST_COLUMNS)
    throw new Problem(
      422,
      'not-a-table',
      `The first line has more than ${MOST_COLUMNS} columns: this is no such table.`,
    );
  const heading = row.map(columnOf);
  const twice = heading.find((c, i) => c !== undefined && heading.indexOf(c) !== i);
  if (twice)
    throw new Problem(422, 'column-twice', `The column “${twice}” stands twice.`, { remedy: 'Leave one.' });
  if (!heading.includes('site'))
    throw new Problem(422, 'no-heading', 'The first line names no column “site”.', {
      remedy: `Its first line names the columns: ${TABLE_COLUMNS.join(', ')}. Only “site” must be there.`,
    });
  const unknown = row.filter((h, i) => heading[i] === undefined && tidied(h) !== '');
  if (unknown.length > 0)
    said.push(`Columns that are not read: ${unknown.map((u) => tidied(u).slice(0, 40)).join(', ')}.`);
  return heading;
}

/** A row's cells by column; what stands in no column of ours is left out. */
export function cellsOf(heading: readonly (Column | undefined)[], row: readonly string[]): Cells {
  const cells: Partial<Record<Column, string>> = {};
  heading.forEach((column, i) => {
    const text = tidied((row[i] ?? '').slice(0, MOST_LINE));
    if (column !== undefined && text !== '') cells[column] = text;
  });
  return cells;
}

/** Bytes as text; what is no UTF-8 ends it with the place. */
export function utf8(): Transform {
  const decoder = new TextDecoder('utf-8', { fatal: true });
  let bytes = 0;
  let lines = 1;
  const decode = (chunk: Buffer | undefined): string => {
    try {
      const text = decoder.decode(chunk, { stream: chunk !== undefined });
      for (const char of text) if (char === '\n') lines += 1;
      bytes += chunk?.length ?? 0;
      if (bytes > MOST_BYTES)
        throw new Problem(
          413,
          'too-large',
          `The file has more than ${MOST_BYTES / 1024 / 1024} MB. Cut it into parts.`,
        );
      return text;
    } catch (error) {
      if (error instanceof Problem) throw error;
      throw new Problem(422, 'not-utf8', `Near line ${lines} (byte ${bytes}) the file is not UTF-8.`, {
        remedy: 'Save it as CSV in UTF-8 and choose it again.',
      });
    }
  };
  return new Transform({
    transform(chunk: Buffer, _, done) {
      try {
        done(null, decode(chunk));
      } catch (error) {
        done(error as Error);
      }
    },
    flush(done) {
      try {
        done(null, decode(undefined));
      } catch (error) {
        done(error as Error);
      }
    },
  });
}

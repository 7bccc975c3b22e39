import { accept, refuse, type Result } from '@firm-needle/core/result';
import { TableFeed, type Assumption, type FeedOptions, type TableRead } from '@firm-needle/core/trace';
import readWorkbook from 'read-excel-file/universal';

/** A packed workbook may be many times as large unpacked. */
export const MOST_WORKBOOK_BYTES = 32 * 1024 * 1024;

/** How a workbook begins: as a packed archive does. */
export const beginsAsWorkbook = (bytes: Uint8Array): boolean =>
  [0x50, 0x4b, 3, 4].every((b, i) => bytes[i] === b);

interface Sheet {
  readonly name: string;
  readonly rows: readonly string[][];
}

/** Sheets of a workbook as text, each cell as a table of text would have it. @returns a refusal for an archive that is no workbook */
export async function sheetsOf(bytes: Uint8Array<ArrayBuffer>): Promise<Result<readonly Sheet[]>> {
  if (bytes.length > MOST_WORKBOOK_BYTES)
    return refuse('workbook-large', 'The workbook is too large to be unpacked here.', {
      where: 'file',
      bound: `${MOST_WORKBOOK_BYTES / 1024 / 1024} MB`,
      remedy: 'Save the sheet as CSV and choose that.',
    });
  try {
    const sheets = await readWorkbook(bytes.slice().buffer, { trim: false });
    return accept(sheets.map((s) => ({ name: s.sheet, rows: s.data.map((row) => row.map(textOf)) })));
  } catch {
    return refuse('not-a-table', 'The file is an archive and no workbook that can be read.', {
      where: 'file',
      remedy: 'Unpack it, or save the sheet as CSV and choose that.',
    });
  }
}

/** Dates as loggers write them; before 1901 a cell is a time of day alone. */
function textOf(cell: unknown): string {
  if (cell === null || cell === undefined) return '';
  if (!(cell instanceof Date)) return String(cell);
  // A fraction of a day is hardly ever whole milliseconds, and the reader takes what lies below: what ends in nine was a hundredth.
  const ms = cell.getTime();
  const at = new Date(ms % 10 === 9 || ms % 10 === -1 ? ms + 1 : ms).toISOString();
  return cell.getUTCFullYear() < 1901 ? at.slice(11, 23) : at.slice(0, 23).replace('T', ' ');
}

/** Reads the first sheet that holds a table of readings; where there are several, it is said which. */
export async function readSheets(
  bytes: Uint8Array<ArrayBuffer>,
  options: FeedOptions,
): Promise<Result<TableRead>> {
  const sheets = await sheetsOf(bytes);
  if (!sheets.ok) return sheets;
  let first: Result<TableRead> | undefined;
  for (const { name, rows } of sheets.value) {
    const read = readRows(rows, options);
    if (read.ok) return accept(sheets.value.length > 1 ? told(read.value, name) : read.value);
    first ??= read;
  }
  return first ?? refuse('trace-empty', 'The workbook is empty.', { where: 'file' });
}

function readRows(rows: readonly string[][], options: FeedOptions): Result<TableRead> {
  const feed = new TableFeed(options);
  for (const fields of rows) {
    const wrong = feed.push(fields);
    if (wrong && !wrong.ok) return wrong;
  }
  return feed.end();
}

function told(read: TableRead, sheet: string): TableRead {
  const said: Assumption = { about: 'sheet', said: `The readings are those of the sheet “${sheet}”.` };
  return { ...read, map: { ...read.map, assumptions: [...read.map.assumptions, said] } };
}

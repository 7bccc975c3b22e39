import { accept, refuse, type Result } from '@firm-needle/core/result';
import { firstRows, readBytes, type BytesOptions, type TableRead } from '@firm-needle/core/trace';
import { TOOLS } from './text.js';
import { beginsAsWorkbook, MOST_WORKBOOK_BYTES, readSheets, sheetsOf } from './workbook.js';

export { csvOf, eventsCsv, figuresCsv } from './told.js';

/** A file that was read, and how it was written; a workbook is parted by nothing. */
export interface FileRead extends TableRead {
  readonly encoding: string;
  readonly delimiter: string;
}

export type ReadOptions = Omit<BytesOptions, 'tools' | 'delimiter'>;

/** Enough for the rows that are shown. */
const HEAD_BYTES = 64 * 1024;
/** What a workbook's text is called where a file of text has its encoding. */
const WORKBOOK = 'workbook';

/** The first piece, so that it can be looked at, and all of them. */
async function looked(
  pieces: AsyncIterable<Uint8Array>,
): Promise<{ readonly head: Uint8Array; readonly all: AsyncGenerator<Uint8Array> }> {
  const it = pieces[Symbol.asyncIterator]();
  const first: Uint8Array[] = [];
  let n = 0;
  while (n < 4) {
    const next = await it.next();
    if (next.done) break;
    first.push(next.value);
    n += next.value.length;
  }
  const all = async function* (): AsyncGenerator<Uint8Array> {
    try {
      yield* first;
      for (let next = await it.next(); !next.done; next = await it.next()) yield next.value;
    } finally {
      // Whoever has enough lets go of the file.
      await it.return?.();
    }
  };
  const [head = new Uint8Array(), ...more] = first;
  return { head: more.length === 0 ? head : Uint8Array.from(first.flatMap((b) => [...b])), all: all() };
}

/**
 * A logger's file, read piece by piece whatever it is: text in any of the usual encodings, or a workbook. The page and the command line
 * read with this and nothing else.
 */
export async function readFile(
  pieces: AsyncIterable<Uint8Array>,
  options: ReadOptions = {},
): Promise<Result<FileRead>> {
  const { head, all } = await looked(pieces);
  if (!beginsAsWorkbook(head)) return readBytes(all, { ...options, tools: TOOLS });
  const bytes = await whole(all);
  if (!bytes.ok) return bytes;
  const read = await readSheets(bytes.value, options);
  return read.ok ? accept({ ...read.value, encoding: WORKBOOK, delimiter: '' }) : read;
}

/**
 * The first rows of a file, as they are split, for a person who says what its columns are; none where it is no table.
 * @param delimiter what parts its cells, where somebody said
 */
export async function headRows(
  pieces: AsyncIterable<Uint8Array>,
  most: number,
  delimiter?: string,
): Promise<readonly (readonly string[])[]> {
  const { head, all } = await looked(pieces);
  if (!beginsAsWorkbook(head)) {
    const first = await whole(all, HEAD_BYTES);
    return first.ok ? firstRows(first.value, TOOLS, most, delimiter) : [];
  }
  const book = await whole(all);
  const sheets = book.ok ? await sheetsOf(book.value) : book;
  if (!sheets.ok) return [];
  const [fullest] = [...sheets.value].sort((a, b) => b.rows.length - a.rows.length);
  return fullest?.rows.slice(0, most) ?? [];
}

/** All bytes in one piece. @param cut so many are enough; else more than a workbook may have is refused */
async function whole(
  pieces: AsyncIterable<Uint8Array>,
  cut?: number,
): Promise<Result<Uint8Array<ArrayBuffer>>> {
  const list: Uint8Array[] = [];
  let size = 0;
  for await (const piece of pieces) {
    list.push(piece);
    size += piece.length;
    if (cut !== undefined && size >= cut) break;
    if (cut === undefined && size > MOST_WORKBOOK_BYTES)
      return refuse('workbook-large', 'The workbook is too large to be unpacked here.', {
        where: 'file',
        bound: `${MOST_WORKBOOK_BYTES / 1024 / 1024} MB`,
        remedy: 'Save the sheet as CSV and choose that.',
      });
  }
  const out = new Uint8Array(size);
  let at = 0;
  for (const piece of list) {
    out.set(piece, at);
    at += piece.length;
  }
  return accept(cut === undefined ? out : out.slice(0, cut));
}

import { accept, refuse, type Result } from '../../result.js';

/** What the first bytes of a file say of how its text is written. */
export type Encoding = 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252';

const begins = (bytes: Uint8Array, ...head: readonly number[]): boolean =>
  head.every((b, i) => bytes[i] === b);
const ascii = (text: string): number[] => [...text].map((c) => c.charCodeAt(0));

/** Files that are no text, by what they begin with. */
const OTHERS: readonly (readonly [head: readonly number[], what: string, remedy: string])[] = [
  [[0xd0, 0xcf, 0x11, 0xe0], 'an old workbook', 'Save the sheet as CSV and choose that.'],
  [ascii('%PDF'), 'a PDF', 'Export the readings as CSV from the logger.'],
  [[0x89, ...ascii('PNG')], 'a picture', 'Export the readings as CSV from the logger.'],
  [[0xff, 0xd8, 0xff], 'a picture', 'Export the readings as CSV from the logger.'],
  [ascii('GIF8'), 'a picture', 'Export the readings as CSV from the logger.'],
  [[0x1f, 0x8b], 'packed', 'Unpack it and choose what is in it.'],
  [ascii('SQLite'), 'a database', 'Export the readings as CSV from the logger.'],
];

/**
 * What a file is, by its first bytes: how its text is written, or what it is instead.
 * @param bytes at least its first kilobyte, where it has one
 */
export function sniff(bytes: Uint8Array): Result<Encoding> {
  // What a logger set aside and never wrote is no part of its text.
  let written = bytes.length;
  while (written > 0 && bytes[written - 1] === 0) written--;
  const head = bytes.subarray(0, written);
  const other = OTHERS.find(([start]) => begins(head, ...start));
  if (other) return notText(other[1], other[2]);
  if (begins(head, 0xff, 0xfe)) return accept('utf-16le');
  if (begins(head, 0xfe, 0xff)) return accept('utf-16be');
  const even = head.filter((b, i) => i % 2 === 0 && b === 0).length;
  const odd = head.filter((b, i) => i % 2 === 1 && b === 0).length;
  if (odd > head.length / 4 && even < head.length / 50) return accept('utf-16le');
  if (even > head.length / 4 && odd < head.length / 50) return accept('utf-16be');
  if (even + odd > 0) return notText('no text', 'Export the readings as CSV from the logger.');
  const text = String.fromCharCode(...head.slice(0, 200))
    .trimStart()
    .toLowerCase();
  if (/^(<!doctype|<html|<\?xml|<svg|<table)/.test(text))
    return notText('a page', 'Export the readings as CSV from the logger.');
  if (/^[[{]\s*("|\{|\[|$)/.test(text)) return notText('JSON', 'Export the readings as a table, as CSV.');
  return accept(isUtf8(head) ? 'utf-8' : 'windows-1252');
}

const notText = (what: string, remedy: string): Result<never> =>
  refuse('not-a-table', `The file is ${what}, not a table of readings.`, { where: 'file', remedy });

/** Whether bytes are UTF-8; a character that is cut at their end is whole elsewhere. */
function isUtf8(bytes: Uint8Array): boolean {
  for (let i = 0; i < bytes.length; i++) {
    const b = bytes[i] ?? 0;
    if (b < 0x80) continue;
    const more = b >= 0xf0 && b < 0xf5 ? 3 : b >= 0xe0 ? 2 : b >= 0xc2 && b < 0xe0 ? 1 : 0;
    if (more === 0 || b >= 0xf5) return false;
    for (let k = 1; k <= more; k++) {
      const next = bytes[i + k];
      if (next === undefined) return true;
      if ((next & 0xc0) !== 0x80) return false;
    }
    i += more;
  }
  return true;
}

/** Columns lined up with spaces. */
export const SPACES = ' ';
const DELIMITERS = [',', ';', '\t', '|'] as const;

/** What parts the cells of a table: what its first line says, or what parts its lines most alike. */
export function delimiterOf(text: string): string {
  const said = /^\uFEFF?sep=(.)\r?\n/i.exec(text);
  if (said?.[1]) return said[1];
  const lines = text
    .split(/\r\n|\n|\r/)
    .slice(0, 400)
    .filter((l) => l.trim() !== '');
  // The body is what most lines are: the last half of them, without one that may be cut.
  const body = lines.length > 6 ? lines.slice(Math.floor(lines.length / 2), -1) : lines;
  const score = (d: string): number => {
    const counts = body.map((l) => l.replace(/"[^"]*"/g, '').split(d).length - 1);
    const usual = [...counts].sort((a, b) => a - b)[counts.length >> 1] ?? 0;
    if (usual === 0) return 0;
    const alike = counts.filter((c) => c === usual).length / counts.length;
    // A comma may stand in numbers: what else parts all lines is the better sign.
    return alike * (d === ',' ? 0.9 : 1) + Math.min(usual, 5) / 100;
  };
  if (DELIMITERS.every((d) => score(d) === 0)) {
    const numbers = body.filter(
      (l) =>
        l
          .trim()
          .split(/\s+/)
          .filter((w) => /^[-+]?[\d.,:/]+$/.test(w)).length > 1,
    );
    if (numbers.length > 0.6 * body.length) return SPACES;
  }
  return [...DELIMITERS].sort((a, b) => score(b) - score(a))[0] ?? ',';
}

/** Rows of a first line that only says what parts the cells. */
export const saysDelimiter = (fields: readonly string[]): boolean => /^\uFEFF?sep=/i.test(fields[0] ?? '');

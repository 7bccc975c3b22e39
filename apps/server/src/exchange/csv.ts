import Papa from 'papaparse';

export type CsvCell = string | number | boolean | null;

/** What a spreadsheet would run as a formula when it stands at the beginning of a cell of text. */
const RUNS = /^[=+\-@\t\r]|^\s+[=+\-@]/;

/** A number as it was typed: a vacuum of −3 begins with a sign, and is nothing to run. */
const NUMBER = /^[+-]?\d+([.,]\d+)?$/;

/** Text that no spreadsheet runs: with an apostrophe before what it would; numbers stay numbers. */
export const harmless = (cell: CsvCell): CsvCell =>
  typeof cell === 'string' && RUNS.test(cell) && !NUMBER.test(cell) ? `'${cell}` : cell;

/** Begins a file so that spreadsheets read it as UTF-8. */
export const BOM = '\ufeff';

/** Rows as lines of CSV [RFC 4180], each with its line end. */
export const csvLines = (rows: readonly (readonly CsvCell[])[]): string =>
  rows.length === 0
    ? ''
    : `${Papa.unparse(
        rows.map((r) => r.map(harmless)),
        { newline: '\r\n' },
      )}\r\n`;

// Workbooks as spreadsheets save them, the least that is one: made for tests, each with what must come out.
import type { CorpusFile } from '../../core/src/trace/reading/testing.js';
import { strToU8, zipSync } from 'fflate';
import { readFile } from './index.js';

type Cell = string | number | { readonly days: number; readonly clock?: true };
export interface SheetMade {
  readonly name: string;
  readonly rows: readonly (readonly Cell[])[];
}

const HEAD = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>';
const MAIN = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
const OFFICE = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
const PACKAGE = 'http://schemas.openxmlformats.org/package/2006';
const escaped = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/"/g, '&quot;');

const columnName = (i: number): string => String.fromCharCode(65 + i);

/** Styles: 0 general, 1 a date with its time, 2 a time of day. */
const STYLES = `${HEAD}<styleSheet xmlns="${MAIN}"><numFmts count="2"><numFmt numFmtId="164" formatCode="yyyy\\-mm\\-dd hh:mm:ss"/><numFmt numFmtId="165" formatCode="hh:mm:ss"/></numFmts><fonts count="1"><font/></fonts><fills count="1"><fill><patternFill patternType="none"/></fill></fills><borders count="1"><border/></borders><cellStyleXfs count="1"><xf/></cellStyleXfs><cellXfs count="3"><xf numFmtId="0"/><xf numFmtId="164" applyNumberFormat="1"/><xf numFmtId="165" applyNumberFormat="1"/></cellXfs></styleSheet>`;

function cellXml(cell: Cell, ref: string): string {
  if (typeof cell === 'string') return `<c r="${ref}" t="inlineStr"><is><t>${escaped(cell)}</t></is></c>`;
  if (typeof cell === 'number') return `<c r="${ref}"><v>${cell}</v></c>`;
  return `<c r="${ref}" s="${cell.clock ? 2 : 1}"><v>${cell.days}</v></c>`;
}

const sheetXml = ({ rows }: SheetMade): string =>
  `${HEAD}<worksheet xmlns="${MAIN}"><sheetData>${rows
    .map(
      (row, r) =>
        `<row r="${r + 1}">${row.map((c, i) => cellXml(c, `${columnName(i)}${r + 1}`)).join('')}</row>`,
    )
    .join('')}</sheetData></worksheet>`;

/** A workbook of sheets. */
export function workbook(...sheets: readonly SheetMade[]): Uint8Array<ArrayBuffer> {
  const parts = sheets.map((_, i) => `/xl/worksheets/sheet${i + 1}.xml`);
  const type = 'application/vnd.openxmlformats-officedocument.spreadsheetml';
  return zipSync({
    '[Content_Types].xml': strToU8(
      `${HEAD}<Types xmlns="${PACKAGE}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" ContentType="${type}.sheet.main+xml"/><Override PartName="/xl/styles.xml" ContentType="${type}.styles+xml"/>${parts.map((p) => `<Override PartName="${p}" ContentType="${type}.worksheet+xml"/>`).join('')}</Types>`,
    ),
    '_rels/.rels': strToU8(
      `${HEAD}<Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="rId1" Type="${OFFICE}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    ),
    'xl/workbook.xml': strToU8(
      `${HEAD}<workbook xmlns="${MAIN}" xmlns:r="${OFFICE}"><sheets>${sheets.map((s, i) => `<sheet name="${escaped(s.name)}" sheetId="${i + 1}" r:id="rId${i + 1}"/>`).join('')}</sheets></workbook>`,
    ),
    'xl/_rels/workbook.xml.rels': strToU8(
      `${HEAD}<Relationships xmlns="${PACKAGE}/relationships">${sheets.map((_, i) => `<Relationship Id="rId${i + 1}" Type="${OFFICE}/worksheet" Target="worksheets/sheet${i + 1}.xml"/>`).join('')}<Relationship Id="rId${sheets.length + 1}" Type="${OFFICE}/styles" Target="styles.xml"/></Relationships>`,
    ),
    'xl/styles.xml': strToU8(STYLES),
    ...Object.fromEntries(sheets.map((s, i) => [parts[i]?.slice(1) ?? '', strToU8(sheetXml(s))])),
  });
}

const PSI = 6894.757293168361;
const N = 40;
const BARS = Array.from({ length: N }, (_, i) => Math.round((3 + Math.sin(i / 5)) * 1000) / 1000);
const expected = { n: N, span: (N - 1) * 5, first: 3e5, mean: (BARS.reduce((a, b) => a + b, 0) / N) * 1e5 };
/** 2031-03-07 06:00 in days as spreadsheets count. */
const DAY = 47_914.25;
const COVER: SheetMade = { name: 'Cover', rows: [['Pump house 2'], ['Checked by', 'a technician']] };

/** Workbooks of a corpus. */
export function workbooks(): readonly CorpusFile[] {
  const table = (
    heading: readonly string[],
    row: (i: number, bar: number) => readonly Cell[],
  ): SheetMade => ({
    name: 'Log',
    rows: [heading, ...BARS.map((b, i) => row(i, b))],
  });
  const seconds = table(['Time (s)', 'Line (bar)'], (i, b) => [i * 5, b]);
  return [
    { name: 'a workbook of one sheet', bytes: workbook(seconds), expected },
    {
      name: 'a workbook behind a cover sheet',
      bytes: workbook(COVER, seconds),
      expected: { ...expected, says: ['sheet'] },
    },
    {
      name: 'a workbook of dates',
      bytes: workbook(
        table(['When', 'Line (psi)'], (i, b) => [{ days: DAY + (i * 5) / 86_400 }, (b * 1e5) / PSI]),
      ),
      expected,
    },
    {
      name: 'a workbook of times of day',
      bytes: workbook(
        table(['Time', 'Line (bar)'], (i, b) => [{ days: 0.5 + (i * 5) / 86_400, clock: true }, b]),
      ),
      expected,
    },
    {
      name: 'a workbook without a unit',
      bytes: workbook(table(['Time (s)', 'Header pressure'], (i, b) => [i * 5, b])),
      expected: { refused: 'unit-missing' },
    },
    { name: 'a workbook with nothing in it', bytes: workbook(COVER), expected: { refused: 'no-readings' } },
    {
      name: 'an archive that is no workbook',
      bytes: zipSync({ 'log.csv': strToU8('Time (s),psi\n0,50\n') }),
      expected: { refused: 'not-a-table' },
    },
  ];
}

/** Refusals that a person lifts by saying what the file leaves open. */
const ASKED: ReadonlySet<string> = new Set([
  'unit-missing',
  'unit-scaled',
  'day-order',
  'number-form',
  'no-pressure',
  'no-times',
  'one-time',
]);

/** What came of a file, and whether that is what must come. */
async function outcomeOf({ bytes, expected }: CorpusFile): Promise<readonly [came: string, said: string]> {
  const pieces = async function* (): AsyncGenerator<Uint8Array> {
    for (let at = 0; at < bytes.length; at += 4096) yield await Promise.resolve(bytes.slice(at, at + 4096));
  };
  const read = await readFile(pieces());
  if (!read.ok) {
    const { code, message, remedy = '' } = read.refusal;
    const right = 'refused' in expected && expected.refused === code;
    return [right ? (ASKED.has(code) ? 'asked' : 'refused') : 'wrong', `${message} ${remedy}`.trim()];
  }
  const { samples, skipped, map } = read.value;
  const [first = NaN, n] = [samples.p[0], samples.p.length];
  const span = (samples.t.at(-1) ?? NaN) - (samples.t[0] ?? NaN);
  const right =
    !('refused' in expected) &&
    n === expected.n &&
    skipped === (expected.lost ?? 0) &&
    Math.abs(span - expected.span) < 0.01 &&
    Math.abs(first - expected.first) <= 2e-4 * Math.abs(expected.first) + 1e-3 &&
    (expected.says ?? []).every((about) => map.assumptions.some((a) => a.about === about));
  return [right ? 'right' : 'wrong', map.assumptions.map((a) => a.said).join(' ')];
}

const CAME = ['right', 'asked', 'refused', 'wrong'] as const;

/** The corpus and what comes of it, as a page of the documentation. */
export async function corpusTable(files: readonly CorpusFile[]): Promise<string> {
  const rows: string[] = [];
  const counts = new Map<string, number>();
  for (const file of files) {
    const [came, said] = await outcomeOf(file);
    counts.set(came, (counts.get(came) ?? 0) + 1);
    rows.push(`| ${file.name} | ${came} | ${said.replace(/\|/g, '\\|')} |`);
  }
  const told = CAME.map((c) => `${c} ${counts.get(c) ?? 0}`).join(', ');
  return `# Files as loggers write them

Written by \`npm run corpus\`: every file of the corpus, made by a seed in \`packages/core/src/trace/reading/testing.ts\` and
\`packages/tables/src\`, through the one reader of page and command line. Of ${files.length}: ${told}. *Asked* is a file
that leaves something open, which is said among its columns or by an option; *wrong* would be one that is read as what it is not.

| file | came out | said of it |
| --- | --- | --- |
${rows.join('\n')}
`;
}

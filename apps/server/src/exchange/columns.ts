// The columns of a file that sites, equipment and controls are read in from: what each may hold, and what is wrong where it does not.
import {
  ALTITUDE_M,
  INTERVAL_MONTHS,
  MOST,
  TABLE_COLUMNS,
  tidied,
  wordsWrong,
  YEAR_MADE,
  type Range,
  type TableColumn,
} from '@firm-needle/core/formats';
import { findUnit } from '@firm-needle/core/quantity';
import { families } from '@firm-needle/families';
import { isRealDay } from '../common/fields.js';

export type Column = TableColumn;
/** A line's cells by column, as they stand in the file; empty ones are left out. */
export type Cells = Readonly<Partial<Record<Column, string>>>;

const WORDS: Readonly<Partial<Record<Column, number>>> = {
  site: MOST.name,
  customer: MOST.name,
  address: MOST.lines,
  contact: MOST.contact,
  access: MOST.lines,
  hazards: MOST.lines,
  equipment: MOST.name,
  maker: MOST.plate,
  model: MOST.plate,
  serial: MOST.plate,
  control: MOST.name,
  story: MOST.lines,
  law_by: MOST.name,
};
const SEVERAL_LINES: readonly Column[] = ['address', 'access', 'hazards', 'story'];
const NUMBERS: Readonly<Partial<Record<Column, Range & { readonly whole: boolean }>>> = {
  altitude_m: { ...ALTITUDE_M, whole: false },
  made: { ...YEAR_MADE, whole: true },
  months: { ...INTERVAL_MONTHS, whole: true },
  law_months: { ...INTERVAL_MONTHS, whole: true },
};

/** The column that a heading names; undefined where it is none of ours. */
export function columnOf(heading: string): Column | undefined {
  const name = tidied(heading)
    .toLowerCase()
    .replace(/[\s-]+/g, '_');
  return TABLE_COLUMNS.find((c) => c === name);
}

/** A number as it is written in a table: with a point, or with a decimal comma; not where it could be either of two. */
export function numberIn(text: string): number | string {
  const plain = text.replace(/[\s\u00a0\u202f]/g, '').replace('−', '-');
  if (/^[-+]?\d+(\.\d+)?$/.test(plain)) return Number(plain);
  if (/^[-+]?\d{1,3},\d{3}$/.test(plain))
    return `“${text}” may be a thousand or a decimal comma: write it without the comma`;
  if (/^[-+]?\d+,\d+$/.test(plain)) return Number(plain.replace(',', '.'));
  return `“${text}” is no number`;
}

/** A kind of control by its id or its title. */
export function kindOf(text: string): string | undefined {
  const wanted = tidied(text).toLowerCase();
  return families().find((f) => f.id === wanted || f.title.toLowerCase() === wanted)?.id;
}

/** What is wrong with a line by itself; undefined where nothing is. */
export function wrongIn(cells: Cells): string | undefined {
  if (cells.site === undefined) return 'site: no name stands here';
  for (const [column, most] of Object.entries(WORDS) as [Column, number][]) {
    const text = cells[column];
    const wrong =
      text === undefined ? undefined : wordsWrong(text, { most, lines: SEVERAL_LINES.includes(column) });
    if (wrong) return `${column}: ${wrong}`;
  }
  for (const [column, range] of Object.entries(NUMBERS) as [Column, Range & { whole: boolean }][]) {
    const text = cells[column];
    if (text === undefined) continue;
    const value = numberIn(text);
    if (typeof value === 'string') return `${column}: ${value}`;
    if (range.whole && !Number.isInteger(value)) return `${column}: ${text} is no whole number`;
    if (value < range.from || value > range.to)
      return `${column}: ${text} is outside ${range.from} to ${range.to}`;
  }
  if (cells.unit !== undefined && findUnit(cells.unit)?.dimension !== 'pressure')
    return `unit: “${cells.unit}” is no unit of pressure, such as psi, bar or kPa`;
  if (cells.customer_day !== undefined && !isRealDay(cells.customer_day))
    return `customer_day: “${cells.customer_day}” is no day such as 2030-01-31`;
  if (cells.control === undefined)
    return cells.kind === undefined ? undefined : 'control: a kind without a name';
  if (cells.equipment === undefined) return 'equipment: a control stands on a piece of equipment';
  if (cells.kind === undefined) return 'kind: what kind of control it is';
  if (kindOf(cells.kind) === undefined)
    return `kind: “${cells.kind}” is not known here. Known: ${families()
      .map((f) => f.id)
      .join(', ')}`;
  return undefined;
}

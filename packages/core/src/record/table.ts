import type { Sheet, SheetFigure, SheetRow } from '../family/index.js';
import { show, showInterval, symbolOf } from '../quantity/index.js';
import type { VerdictWord } from '../verdict/index.js';

/** One figure of the record's table as it is read. */
export interface Cell {
  readonly text: string;
  /** The same in another quantity of the trade, in words. */
  readonly beside?: string;
  readonly word?: VerdictWord;
  /** Moved, and not read since. */
  readonly due?: true;
}

export interface TableRow {
  readonly setting: string;
  readonly title: string;
  readonly target: Cell;
  readonly found: Cell;
  readonly left: Cell;
}

/** Target, found and left of every setting, in words and figures. */
export interface RecordTable {
  /** Of the figures that name none. */
  readonly unit: string;
  readonly rows: readonly TableRow[];
}

const NOTHING = '·';
const stepOf = (r: SheetRow): number => r.step ?? (r.dimension === 'time' ? 1 : 0.1);
const textOf = (r: SheetRow, v: number | undefined): string =>
  v === undefined ? NOTHING : show(v, { unit: r.unit, step: stepOf(r) });

/** Target as a figure, or as a bound where there is none. */
function targetOf(r: SheetRow): string {
  if (r.target !== undefined) return textOf(r, r.target).replace(/\.0+$/, '');
  if (r.limits.lower !== undefined && r.limits.upper !== undefined)
    return `${textOf(r, r.limits.lower)}–${textOf(r, r.limits.upper)}`;
  if (r.limits.lower !== undefined) return `≥ ${textOf(r, r.limits.lower)}`;
  if (r.limits.upper !== undefined) return `≤ ${textOf(r, r.limits.upper)}`;
  return NOTHING;
}

const cellOf = (r: SheetRow, f: SheetFigure | undefined): Cell => ({
  text: textOf(r, f?.value),
  ...(f?.beside ? { beside: f.beside } : {}),
  ...(f?.verdict ? { word: f.verdict.word } : {}),
});

/** The table of a sheet: a row a setting, in the unit of its first pressure. */
export function tableOf(sheet: Pick<Sheet, 'rows'>): RecordTable {
  const main = sheet.rows.find((r) => r.dimension === 'pressure')?.unit ?? sheet.rows[0]?.unit;
  return {
    unit: main === undefined ? '' : symbolOf(main),
    rows: sheet.rows.map((r) => ({
      setting: r.setting,
      title: r.unit === main ? r.title : `${r.title}, ${symbolOf(r.unit)}`,
      target: { text: targetOf(r), ...(r.beside ? { beside: r.beside } : {}) },
      found: cellOf(r, r.found),
      left: r.due ? { text: 'due', due: true } : cellOf(r, r.left),
    })),
  };
}

/** A figure of a setting as its row shows it, with its unit where the row has one of its own. */
export function shownIn(sheet: Pick<Sheet, 'rows'>, setting: string, value: number): string {
  const row = sheet.rows.find((r) => r.setting === setting);
  return row ? textOf(row, value) : show(value, { unit: 'Pa' });
}

/** An uncertainty of a row, a little finer than its figures. */
export const doubtIn = (row: SheetRow, u: number): string =>
  row.dimension === 'time'
    ? `${u.toFixed(1)} s`
    : showInterval(u, { unit: row.unit, step: Math.min(0.01, stepOf(row) / 5) });

import { unitOfHeading } from './headings.js';
import type { Rows } from './map.js';
import { isHole, numeric, withUnit } from './numbers.js';
import { formOfTime, isDate } from './times.js';

/** Rows that are alike enough to be the body: the header is what stands over them. */
const BODY_ROWS = 3;

/** The first row of the body: from it on rows have the same number of cells, a time and a number among them. */
function firstReading(rows: Rows): number {
  const isRow = (r: readonly string[] | undefined): boolean =>
    r !== undefined &&
    r.length > 1 &&
    r.some((f) => numeric(f) || isHole(f)) &&
    r.some((f) => formOfTime(f, numeric) !== undefined || isDate(f)) &&
    r.filter((f) => numeric(f) || formOfTime(f, numeric) || isDate(f)).length >= 2;
  for (let i = 0; i < rows.length; i++) {
    if (!isRow(rows[i])) continue;
    const next = rows.slice(i + 1, i + BODY_ROWS).filter((r) => r.length > 1 || (r[0] ?? '').trim() !== '');
    if (next.every((r) => isRow(r) && Math.abs(r.length - (rows[i]?.length ?? 0)) <= 1)) return i;
  }
  return -1;
}

/**
 * The row over the first reading that names its columns, or nothing: by it a logger's files are known again.
 * @param first row of the first reading, where it is known
 */
export function headingOf(rows: Rows, first = firstReading(rows)): readonly string[] {
  const over = first > 0 ? rows[first - 1] : undefined;
  if (!over) return [];
  const before = rows[first - 2];
  // A row of units under the names: each name with its unit.
  const units = over.every(
    (f) => f.trim() === '' || /^[([]?[a-z°µ"#%/²³0-9.: -]{1,12}[)\]]?$/i.test(f.trim()),
  );
  const named = before && before.length === over.length && before.every((f) => !numeric(f));
  return units && named && over.some((f) => unitOfHeading(f) !== undefined)
    ? before.map((f, i) => `${f} (${over[i]?.replace(/^[([]|[)\]]$/g, '') ?? ''})`.replace(' ()', ''))
    : over;
}

/** A unit that a line of the preamble names: `Pressure unit,bar`. */
export function unitInPreamble(rows: Rows, first: number): string | undefined {
  for (const r of rows.slice(0, Math.max(0, first - 1))) {
    const line = r.join(' ');
    if (/unit/i.test(line) && /press|unit/i.test(line)) {
      const unit = unitOfHeading(r.at(-1) ?? '') ?? unitOfHeading(line);
      if (unit !== undefined) return unit;
    }
  }
  return undefined;
}

const column = (rows: Rows, i: number): readonly string[] => rows.map((r) => r[i] ?? '');

/** A column of a table's head, looked at. */
export interface Column {
  readonly index: number;
  readonly heading: string;
  readonly cells: readonly string[];
  readonly numbers: number;
  readonly unit: string | undefined;
}

/** The head of a table, looked at once. */
export class Head {
  readonly first: number;
  readonly heading: readonly string[];
  readonly body: Rows;
  readonly columns: readonly Column[];

  /** @param said row of the first reading, where somebody said it */
  constructor(
    readonly rows: Rows,
    said?: number,
  ) {
    this.first = said === undefined ? firstReading(rows) : said < rows.length ? said : -1;
    this.heading = headingOf(rows, this.first);
    this.body = this.first < 0 ? [] : rows.slice(this.first).filter((r) => r.length > 1);
    const wide = Math.max(0, ...this.body.slice(0, 50).map((r) => r.length));
    this.columns = Array.from({ length: wide }, (_, index) => {
      const cells = column(this.body, index);
      const heading = this.heading[index] ?? '';
      const numbers = cells.filter(numeric).length;
      const united = cells.map(withUnit);
      const own = united.find((u) => u !== undefined)?.unit;
      return {
        index,
        heading,
        // A unit behind each number is the column's, as if its heading said it.
        cells: own === undefined ? cells : cells.map((c, i) => united[i]?.number ?? c),
        numbers,
        unit: unitOfHeading(heading) ?? own,
      };
    });
  }

  named(i: number): string {
    return `"${this.heading[i]?.trim() || `column ${i + 1}`}"`;
  }
}

export const most = (cells: readonly string[], is: (t: string) => boolean): boolean =>
  cells.length > 0 && cells.filter(is).length > 0.6 * cells.length;

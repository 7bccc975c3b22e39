import { findUnit } from '../../quantity/index.js';

/** How a file writes its numbers. */
export interface NumberForm {
  readonly decimal: '.' | ',';
  /** Between thousands, where there is something. */
  readonly group?: '.' | ',' | ' ';
}

/** Signs and spaces as other programs write them. */
const plain = (text: string): string =>
  text
    .replace(/[\u2212\u2012\u2013\uFE63\uFF0D]/g, '-')
    .replace(/[\u00A0\u2007\u2009\u202F']/g, ' ')
    .trim();

/** Begins as a number, and is none of another base. */
const PLAINLY = /^-?\d(?![xXoObB])/;
const NUMBER = /^[+-]?(\d[\d .,]*|[.,]\d+)(e[+-]?\d+)?$/i;

/** A number with a unit of pressure behind it. */
const WITH_UNIT = /^(.*\d)\s*([a-z"#/²0-9().]+)$/i;

/** A cell that has its unit with it: the number as it is written, and the unit. */
export function withUnit(text: string): { readonly number: string; readonly unit: string } | undefined {
  const t = plain(text);
  // A plain number, a date or a time of day has none.
  if (t === '' || NUMBER.test(t) || !/[a-z"#]/i.test(t)) return undefined;
  const [, number = '', name = ''] = WITH_UNIT.exec(t) ?? [];
  const unit = NUMBER.test(number) ? findUnit(name) : undefined;
  return unit?.dimension === 'pressure' ? { number, unit: unit.id } : undefined;
}

/** Whether a cell is a number, however it is written. */
export const numeric = (text: string): boolean => NUMBER.test(plain(text)) || withUnit(text) !== undefined;

/** A number in a form; NaN where it is none. */
export function parseAs(text: string, { decimal, group }: NumberForm): number {
  // Nearly all are written plainly: what begins with a digit or a sign, and is a number as it stands.
  if (group === undefined && PLAINLY.test(text)) {
    const n = Number(decimal === ',' ? text.replace(',', '.') : text);
    if (n === n) return n;
  }
  const t = plain(text);
  if (t === '' || !NUMBER.test(t)) return NaN;
  const whole = group === undefined ? t : t.split(group).join('');
  const dotted = decimal === ',' ? whole.replace(',', '.') : whole;
  return /[\s,]/.test(dotted) ? NaN : Number(dotted);
}

/** What the marks of a column say, and whether they could mean something else. */
export interface FoundForm extends NumberForm {
  /** Each mark stands before three digits: it may part thousands or begin a fraction. */
  readonly either?: true;
  /** Each point stands before three digits: taken for a fraction. */
  readonly threes?: true;
}

const THREES = (mark: string): RegExp => new RegExp(`^[+-]?\\d{1,3}(\\${mark}\\d{3})+$`);

/**
 * The form of the numbers of a column, from all of those that are at hand.
 * @param cells numbers as they are written
 */
export function formOf(cells: readonly string[]): FoundForm {
  const all = cells.map(plain).filter((c) => NUMBER.test(c));
  const has = (mark: string): readonly string[] => all.filter((c) => c.includes(mark));
  const spaced = has(' ').length > 0;
  const [dots, commas] = [has('.'), has(',')];
  const both = dots.find((c) => c.includes(','));
  if (both)
    return both.lastIndexOf(',') > both.lastIndexOf('.')
      ? { decimal: ',', group: '.' }
      : { decimal: '.', group: ',' };
  const space: Pick<NumberForm, 'group'> = spaced ? { group: ' ' } : {};
  if (commas.length > 0) {
    const groups = commas.every((c) => THREES(',').test(c));
    if (!groups) return { decimal: ',', ...space };
    // Twice in one number it parts thousands; so it does where the others of the column are smaller than a thousand and whole.
    if (commas.some((c) => c.split(',').length > 2)) return { decimal: '.', group: ',' };
    if (dots.length > 0) return { decimal: '.', group: ',' };
    // Written with the same digits behind a mark, a fraction of nought is no thousand.
    if (commas.some((c) => /^[+-]?0,/.test(c))) return { decimal: ',', ...space };
    return { decimal: '.', group: ',', either: true };
  }
  if (dots.some((c) => c.split('.').length > 2)) return { decimal: ',', group: '.' };
  // Nearly always a fraction; in a file that is parted otherwise it may be thousands, which is said.
  if (dots.length > 0 && dots.every((c) => THREES('.').test(c) && !/^[+-]?0\./.test(c)))
    return { decimal: '.', threes: true, ...space };
  return { decimal: '.', ...space };
}

/** Words that loggers write where there was no reading. */
const HOLE =
  /^(|ol|o\.l\.?|over|under|-+|\*+|\?+|n\/?a|nan|null|none|err(or)?|fault|fail(ed)?|open|#+.*|inf|-inf)$/i;
export const isHole = (text: string): boolean => HOLE.test(plain(text));

/** Figures that loggers write where there was no reading. */
const SENTINELS = [9999, 99999, 999.9, 9999.9, 999, 3276.7, 6553.5, 32767, 32768, 65535] as const;
/** Whether a figure is one that loggers write where there was no reading. */
export const isKnownHole = (x: number): boolean => SENTINELS.some((s) => Math.abs(Math.abs(x) - s) < 1e-9);
/** So many times as far out, a figure that nobody knows, that comes again to the last digit and never twice in a row, is none either. */
const FARTHER = 50;
/** So many times as far out as everything else it is no pressure that was there. */
export const FAR = 5;

/**
 * Figures in a column that stand for no reading: among those known, twice at least, and far outside of the rest.
 * @param values of the column, as they were written
 */
export function sentinelsOf(values: readonly number[]): readonly number[] {
  const rest = values.filter((x) => Number.isFinite(x) && !isKnownHole(x)).map(Math.abs);
  const top = rest.reduce((a, b) => Math.max(a, b), 0);
  const found = [...new Set(values.filter((x) => isKnownHole(x) && Math.abs(x) > FAR * top))];
  if (rest.length === 0) return [];
  const often = (x: number): number => values.filter((v) => v === x).length;
  return [...found.filter((x) => often(x) > 1), ...strangers(values.filter((x) => !found.includes(x)))];
}

/**
 * Figures far beyond all others that come again to the last digit, each time by themselves: what a logger writes that nobody knew of. A
 * pressure that was there stays for more than one row.
 */
function strangers(values: readonly number[]): readonly number[] {
  const counts = new Map<number, number>();
  for (const x of values) if (Number.isFinite(x)) counts.set(x, (counts.get(x) ?? 0) + 1);
  const sizes = [...counts].sort((a, b) => Math.abs(b[0]) - Math.abs(a[0]));
  for (let n = 1; n <= MOST_STRANGERS && n < sizes.length; n++) {
    const top = Math.abs(sizes[n]?.[0] ?? NaN);
    const out = sizes.slice(0, n);
    const seldom = out.reduce((sum, [, often]) => sum + often, 0) < values.length / 3;
    const alone = (x: number): boolean => values.every((v, i) => v !== x || values[i + 1] !== x);
    if (seldom && top > 0 && out.every(([x, often]) => often > 1 && Math.abs(x) > FARTHER * top && alone(x)))
      return out.map(([x]) => x);
  }
  return [];
}
const MOST_STRANGERS = 2;

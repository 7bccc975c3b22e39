import { findUnit } from '../../quantity/index.js';
import { accept, refuse, type Result } from '../../result.js';
import { CHANNELS, MEASURED_FLOW } from '../samples.js';
import { Head, headingOf, most, unitInPreamble, type Column } from './head.js';
import { basisOf, flowUnitOf, INDEX_WORDS, isBarometer, likely, wordsOf } from './headings.js';
import type { Assumption, ColumnChoice, ColumnMap, Rows, Said } from './map.js';
import { formOf, numeric, parseAs, sentinelsOf, type NumberForm } from './numbers.js';
import { falls, seriesOf, spreadOf, timeOf } from './timeColumn.js';
import { isClock, isDate } from './times.js';

/** What was found, as a choice to begin from. */
export const choiceOf = (map: ColumnMap): ColumnChoice => ({
  time: map.time.index,
  pressure: map.pressure.index,
  unit: map.pressure.unit,
  states: Object.fromEntries(
    Object.entries(map.states).map(([name, i]) => [name === MEASURED_FLOW ? 'flow' : name, i]),
  ),
  basis: map.pressure.basis,
  ...(map.time.order ? { order: map.time.order } : {}),
});

/** A score below which a heading says that something else was measured, such as a temperature. */
const ANOTHER = -3;
/** A factor beside a unit: psi x10, kPa*100, bar/10. */
const SCALED = /[x×*]\s*10+(\.0)?\b|\b10+\s*[x×*]|\/\s*10+\b|[x×*]\s*0\.\d+/i;

/** The column of what was measured, and what speaks for it. */
function pressureOf(
  head: Head,
  taken: ReadonlySet<number>,
  form: NumberForm,
  said: Said,
): Result<{ readonly column: Column; readonly assumptions: readonly Assumption[] }> {
  const numbers = head.columns.filter((c) => !taken.has(c.index) && c.numbers > 0);
  if (said.pressure !== undefined) {
    const column = numbers.find((c) => c.index === said.pressure);
    return column
      ? accept({ column, assumptions: [] })
      : refuse('not-pressures', `The column ${head.named(said.pressure)} holds no pressures.`, {
          where: 'pressure',
          remedy: 'Choose the column of pressures.',
        });
  }
  const moves = (c: Column): number => (new Set(c.cells.map((t) => parseAs(t, form))).size > 1 ? 0.5 : 0);
  const scored = numbers
    .filter((c) => !INDEX_WORDS.test(c.heading.trim()))
    .map((c) => ({ c, score: likely(c.heading, c.unit) + moves(c) }))
    .sort((a, b) => b.score - a.score || a.c.index - b.c.index);
  const [best, ...others] = scored;
  if (!best || isBarometer(best.c.heading) || (best.c.unit === undefined && best.score <= ANOTHER))
    return refuse('no-pressure', 'No column of pressures was found.', {
      remedy: 'Name the column with its unit, such as p_psi or pressure (kPa).',
    });
  const rivals = others.filter((o) => o.c.unit !== undefined || o.score >= best.score - 1);
  return accept({
    column: best.c,
    assumptions:
      rivals.length === 0
        ? []
        : [
            {
              about: 'pressure',
              said: `The pressure is ${head.named(best.c.index)}; ${rivals.map((r) => head.named(r.c.index)).join(', ')} could be meant too.`,
            },
          ],
  });
}

/** Switch channels: a word that names one, and two values at most where it is no flow. */
function statesOf(
  head: Head,
  time: ReadonlySet<number>,
  form: NumberForm,
): { readonly states: Record<string, number>; readonly flowUnit?: string } {
  const states: Record<string, number> = {};
  let flowUnit: string | undefined;
  for (const c of head.columns) {
    const word = wordsOf(c.heading)[0]?.toLowerCase() ?? '';
    if (time.has(c.index) || !(CHANNELS as readonly string[]).includes(word) || c.unit !== undefined)
      continue;
    const two =
      new Set(c.cells.map((t) => t.trim().toLowerCase())).size <= 2 ||
      c.cells.every((t) => Number.isNaN(parseAs(t, form)));
    if (word !== 'flow' && !two) continue;
    flowUnit ??= word === 'flow' ? flowUnitOf(c.heading) : undefined;
    states[word === 'flow' && flowUnit !== undefined ? MEASURED_FLOW : word] = c.index;
  }
  return { states, ...(flowUnit === undefined ? {} : { flowUnit }) };
}

/**
 * Finds what the columns of a table are, from its first rows: what it says, what its cells look like, how its numbers run.
 * @param rows as they were split, what stands before the table among them
 * @param said what a person said of them; a unit alone may be given as text
 * @returns a refusal that says what is missing, or can be either
 */
export function guessColumns(rows: Rows, said: Said | string = {}): Result<ColumnMap> {
  const own: Said = typeof said === 'string' ? { unit: said } : said;
  if (rows.every((r) => r.every((f) => f.trim() === '')))
    return refuse('trace-empty', 'The file is empty.', { remedy: 'Export it again from the logger.' });
  const head = new Head(rows, own.header);
  if (head.first < 0) {
    const single = rows.some((r) => r.length === 1 && numeric(r[0] ?? ''));
    return single
      ? refuse('one-column', 'The file has one column: pressures without times.', {
          remedy: 'Export the time beside the pressure.',
        })
      : refuse('no-readings', 'No row with a time and a number was found.', {
          remedy: 'Use a table with a heading, a time column and a pressure column.',
        });
  }
  const all = head.columns.flatMap((c) => (most(c.cells, isClock) || most(c.cells, isDate) ? [] : c.cells));
  const rough: NumberForm = own.decimal ? { decimal: own.decimal } : formOf(all);
  const time = timeOf(head, rough, own);
  if (!time.ok) return time;
  const times = new Set([time.value.time.index, time.value.time.clock ?? -1, time.value.time.half ?? -1]);
  const switches = own.states ? { states: statesSaid(head, own.states) } : statesOf(head, times, rough);
  const found = pressureOf(head, new Set([...times, ...Object.values(switches.states)]), rough, own);
  if (!found.ok) return found;
  const { column: c } = found.value;
  const assumptions: Assumption[] = [...time.value.assumptions, ...found.value.assumptions];
  if (head.first > 1)
    assumptions.push({
      about: 'header',
      said: `The table begins at line ${head.first + 1}; ${head.first} lines stand before its readings.`,
    });
  const marks = own.decimal ? formWith(own.decimal, c.cells) : formOf(c.cells);
  const open = 'either' in marks && marks.either === true;
  const parted = own.delimiter !== undefined && own.delimiter !== ',';
  const form: NumberForm = open && parted ? { decimal: ',' } : marks;
  if (parted && 'threes' in marks && marks.threes)
    assumptions.push({
      about: 'numbers',
      said: 'A point is the decimal mark, though it always stands before three digits.',
    });
  if (open && parted)
    assumptions.push({
      about: 'numbers',
      said: 'A comma is the decimal mark: the cells are parted by something else.',
    });
  if (open && !parted)
    return refuse(
      'number-form',
      `In ${head.named(c.index)} a comma before three digits can part thousands or begin a fraction.`,
      {
        where: 'pressure',
        remedy: 'Say whether the decimal mark is a point or a comma.',
      },
    );
  const scaled = SCALED.exec(c.heading);
  if (scaled && own.unit === undefined)
    return refuse(
      'unit-scaled',
      `The column ${head.named(c.index)} counts in a multiple: “${scaled[0].trim()}”.`,
      {
        where: 'pressure',
        remedy: 'Say a unit that its numbers are in, or export them unscaled.',
      },
    );
  const lent = c.unit === undefined ? unitInPreamble(rows, head.first) : undefined;
  const unit = findUnit(own.unit ?? c.unit ?? lent ?? '');
  if (unit?.dimension !== 'pressure')
    return refuse('unit-missing', `The column ${head.named(c.index)} does not say its unit.`, {
      where: 'pressure',
      remedy: 'Say the unit of the pressures.',
    });
  if (own.unit === undefined && /\bmPa\b/.test(c.heading))
    assumptions.push({ about: 'unit', said: 'mPa is taken as MPa, millions of pascals.' });
  if (lent !== undefined && own.unit === undefined)
    assumptions.push({ about: 'unit', said: `The unit, ${unit.id}, is what a line before the table says.` });
  const values = c.cells.map((t) => parseAs(t, form));
  const basis = own.basis ?? (unit.kind === 'absolute' ? 'absolute' : (basisOf(c.heading) ?? 'gauge'));
  const below = basis === 'vacuum' && values.filter((v) => v > 0).length > values.filter((v) => v < 0).length;
  if (basis === 'vacuum')
    assumptions.push({
      about: 'basis',
      said: `A vacuum: ${below ? 'numbers above nought are below the air outside' : 'as its signs say'}.`,
    });
  else if (basis === 'absolute')
    assumptions.push({ about: 'basis', said: 'Absolute pressures: the air outside is taken off.' });
  const sentinels = sentinelsOf(values);
  if (sentinels.length > 0)
    assumptions.push({ about: 'sentinels', said: `${sentinels.join(', ')} stands for no reading.` });
  const descending = falls(head, time.value.time, { ...rough });
  if (descending)
    assumptions.push({ about: 'rows', said: 'The newest row stands first: they are turned round.' });
  const spread = spreadOf(head, time.value.time, rough);
  const others = new Set([...times, c.index, ...Object.values(switches.states)]);
  const series = seriesOf(head, time.value.time, rough, others);
  if (series)
    return refuse(
      'several-series',
      `Several channels stand one under the other: ${head.named(series.index)} tells them apart.`,
      { where: 'rows', remedy: 'Export one channel, or each in a column of its own.' },
    );
  if (spread !== undefined)
    assumptions.push({
      about: 'time',
      said: `Several rows stand at each time, which is written to ${Number(spread.toPrecision(3))} s: they are spread evenly over it.`,
    });
  return accept({
    time: { ...time.value.time, ...(spread === undefined ? {} : { spread }) },
    pressure: { index: c.index, unit: unit.id, basis, ...(below ? { below: true } : {}) },
    ...switches,
    decimal: form.decimal,
    ...(form.group === undefined ? {} : { group: form.group }),
    sentinels,
    ...(descending ? { descending: true } : {}),
    header: head.first,
    assumptions,
  });
}

/** The form of numbers whose decimal mark was said: the other parts thousands where it stands before three digits alone. */
function formWith(decimal: '.' | ',', cells: readonly string[]): NumberForm {
  const group = decimal === '.' ? ',' : '.';
  const marked = cells.filter((c) => c.includes(group));
  const thousands = marked.length > 0 && marked.every((c) => Number.isFinite(parseAs(c, { decimal, group })));
  return { decimal, ...(thousands ? { group } : {}) };
}

function statesSaid(head: Head, said: Readonly<Record<string, number>>): Record<string, number> {
  return Object.fromEntries(
    Object.entries(said).map(([name, i]) => [
      name === 'flow' && flowUnitOf(head.heading[i] ?? '') !== undefined ? MEASURED_FLOW : name,
      i,
    ]),
  );
}

/**
 * The columns of a table as a person chose them; forms of times and numbers are still found.
 * @returns a refusal where a chosen column holds no times or no pressures
 */
export function chooseColumns(rows: Rows, choice: ColumnChoice): Result<ColumnMap> {
  const map = guessColumns(rows, choice);
  if (!map.ok) return map;
  const flow = choice.states['flow'];
  const flowUnit = flow === undefined ? undefined : flowUnitOf(headingOf(rows, map.value.header)[flow] ?? '');
  return accept({ ...map.value, ...(flowUnit === undefined ? {} : { flowUnit }) });
}

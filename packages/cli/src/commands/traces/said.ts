import { type Said, TIME_UNITS } from '@firm-needle/core/trace';
import { no } from '../../answer.js';
import type { Options } from '../../options.js';

const BASES = ['gauge', 'absolute', 'vacuum'] as const;
const ORDERS = ['ymd', 'dmy', 'mdy'] as const;
const DELIMITERS: Readonly<Record<string, string>> = {
  comma: ',',
  semicolon: ';',
  tab: '\t',
  bar: '|',
  space: ' ',
};
const FORMS = ['number', 'iso', 'clock', 'minutes'] as const;

/** What can be said of a file, where what is found in it is not so. */
export const TRACE_OPTIONS: Readonly<Record<string, string>> = {
  '--family': 'whose figures are wanted',
  '--unit': 'of the pressures, where no heading says it',
  '--time': 'number of the column of times, from 1',
  '--pressure': 'number of the column of pressures, from 1',
  '--basis': BASES.join(', '),
  '--dates': `what stands first in a date: ${ORDERS.join(', ')}`,
  '--times': `how times are written: ${FORMS.join(', ')}`,
  '--decimal': '. or ,',
  '--time-unit': `of a column of numbers: ${TIME_UNITS.join(', ')}`,
  '--delimiter': Object.keys(DELIMITERS).join(', '),
  '--first': 'line of the first reading, from 1; its heading is the line before',
  '--ambient': 'the air outside, with its unit; or --altitude',
  '--altitude': 'of the site, with its unit',
  '--lag': 'time constant of the gauge and its tube, such as 2 s',
  '--figures': 'where the figures go as CSV',
  '--events': 'where the events go as CSV',
  '--in': 'unit of pressures in CSV, where it is not that of the file',
  '--summary': 'a folder: each of its files is read, one answer a file',
  '--csv': 'where the summary goes as CSV',
  '--lines': 'names of files on standard input, one answer a line',
};

/** One of a few words; undefined where the option is not there. */
function oneOf<T extends string>(o: Options, name: string, all: readonly T[]): T | undefined {
  const text = o.one(name);
  const found = all.find((x) => x === text);
  if (text !== undefined && found === undefined)
    no('option-unknown', `--${name} knows no "${text}".`, { where: `--${name}`, bound: all.join(', ') });
  return found;
}

/** A column by its number, from 1. */
function columnOf(o: Options, name: string): number | undefined {
  const n = o.one(name) === undefined ? undefined : o.number(name, 1);
  if (n !== undefined && !(Number.isInteger(n) && n >= 1))
    no('column', `--${name} wants a whole number, from 1.`, { where: `--${name}` });
  return n === undefined ? undefined : n - 1;
}

/** What parts the cells, by its name or as it is written. */
function delimiterSaid(o: Options): string | undefined {
  const text = o.one('delimiter');
  if (text === undefined) return undefined;
  const found =
    (Object.hasOwn(DELIMITERS, text) ? DELIMITERS[text] : undefined) ??
    Object.values(DELIMITERS).find((d) => d === text);
  return (
    found ??
    no('option-unknown', `--delimiter knows no "${text}".`, {
      where: '--delimiter',
      bound: Object.keys(DELIMITERS).join(', '),
    })
  );
}

/** What the options say of the file's columns. */
export function saidOf(o: Options): Said {
  const said = {
    time: columnOf(o, 'time'),
    pressure: columnOf(o, 'pressure'),
    unit: o.one('unit'),
    basis: oneOf(o, 'basis', BASES),
    order: oneOf(o, 'dates', ORDERS),
    timeForm: oneOf(o, 'times', FORMS),
    timeUnit: oneOf(o, 'time-unit', TIME_UNITS),
    delimiter: delimiterSaid(o),
    header: columnOf(o, 'first'),
    decimal: o.one('decimal') === undefined ? undefined : oneOf(o, 'decimal', ['.', ','] as const),
  };
  return Object.fromEntries(Object.entries(said).filter(([, v]) => v !== undefined)) as Said;
}

// A corpus of small files as loggers, controllers and phones write them, each with what must come out. Made from one signal, by a seed.
import { utf8ToBytes } from '@noble/hashes/utils.js';
import { seeded } from '../../rig/random.js';

/** What must come of a file. */
export type Expected =
  | { readonly refused: string }
  | {
      /** Rows read. */
      readonly n: number;
      /** From the first to the last, s. */
      readonly span: number;
      /** The first pressure, Pa gauge at 101 325 Pa. */
      readonly first: number;
      /** Of the pressures as a whole, Pa. */
      readonly mean: number;
      /** What must be said of it. */
      readonly says?: readonly string[];
      readonly lost?: number;
    };

export interface CorpusFile {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly expected: Expected;
}

const N = 90;
const DT = 10;
const PSI = 6894.757293168361;
const AIR = 101325;
const utf8 = utf8ToBytes;
const two = (n: number): string => String(n).padStart(2, '0');

/** The signal, psi gauge, to a hundredth. */
function signal(seed: number): readonly number[] {
  const random = seeded(seed);
  return Array.from(
    { length: N },
    (_, i) => Math.round(100 * (50 + 8 * Math.sin(i / 7) + 0.1 * random.normal())) / 100,
  );
}

const PSIS = signal(7);

interface Form {
  readonly heading?: readonly string[];
  /** The cells of a row. */
  readonly row: (i: number, psi: number) => readonly (string | number)[];
  readonly before?: readonly string[];
  readonly after?: readonly string[];
  readonly delimiter?: string;
  readonly end?: string;
  readonly order?: (rows: readonly string[]) => readonly string[];
}

const text = ({
  heading,
  row,
  before = [],
  after = [],
  delimiter = ',',
  end = '\n',
  order = (r) => r,
}: Form): string =>
  [
    ...before,
    ...(heading ? [heading.join(delimiter)] : []),
    ...order(PSIS.map((p, i) => row(i, p).join(delimiter))),
    ...after,
  ].join(end) + end;

/** What the signal is where a unit of its own scale is written in its place: value × Pa, over the air or not. */
const as = (pa: number, over: Partial<Exclude<Expected, { refused: string }>> = {}, shift = 0): Expected => ({
  n: N,
  span: (N - 1) * DT,
  first: (PSIS[0] ?? 0) * pa + shift,
  mean: (PSIS.reduce((a, b) => a + b, 0) / N) * pa + shift,
  ...over,
});
const usual = (over: Partial<Exclude<Expected, { refused: string }>> = {}): Expected => as(PSI, over);
const at = (i: number, from = 0): string => {
  const s = from + i * DT;
  return `${two(Math.floor(s / 3600) % 24)}:${two(Math.floor(s / 60) % 60)}:${two(s % 60)}`;
};
const twelve = (i: number, from: number): readonly [string, string] => {
  const s = from + i * DT;
  const h = Math.floor(s / 3600) % 24;
  return [
    `${h % 12 === 0 ? 12 : h % 12}:${two(Math.floor(s / 60) % 60)}:${two(s % 60)}`,
    h < 12 ? 'AM' : 'PM',
  ];
};
const NOON = 11 * 3600 + 55 * 60;

const FORMS: readonly (readonly [name: string, form: Form, expected: Expected])[] = [
  ['plain', { heading: ['Time (s)', 'Pressure (psi)'], row: (i, p) => [i * DT, p] }, usual()],
  [
    'semicolon and decimal comma',
    {
      heading: ['Zeit (s)', 'Druck (bar)'],
      delimiter: ';',
      row: (i, p) => [i * DT, p.toFixed(2).replace('.', ',')],
    },
    as(1e5),
  ],
  ['tabs', { heading: ['t_s', 'p_kPa'], delimiter: '\t', row: (i, p) => [i * DT, p] }, as(1e3)],
  ['pipes', { heading: ['t_s', 'p_kPa'], delimiter: '|', row: (i, p) => [i * DT, p] }, as(1e3)],
  ['carriage returns alone', { heading: ['t_s', 'p_psi'], end: '\r', row: (i, p) => [i * DT, p] }, usual()],
  [
    'line ends of another program',
    { heading: ['t_s', 'p_psi'], end: '\r\n', row: (i, p) => [i * DT, p] },
    usual(),
  ],
  [
    'a row of units',
    { heading: ['Time', 'Pressure'], before: [], row: (i, p) => [i * DT, p], order: (r) => ['s,psi', ...r] },
    usual(),
  ],
  [
    'a date and a time',
    { heading: ['Date', 'Time', 'Pressure (psi)'], row: (i, p) => ['2030-01-05', at(i), p] },
    usual({ says: ['time'] }),
  ],
  [
    'a date with its time',
    { heading: ['Timestamp', 'psi'], row: (i, p) => [`2030-01-05 ${at(i)}`, p] },
    usual(),
  ],
  [
    'morning and afternoon in the time',
    { heading: ['Date/Time', 'psi'], row: (i, p) => [`1/25/2030 ${twelve(i, NOON).join(' ')}`, p] },
    usual(),
  ],
  [
    'morning and afternoon in a column',
    { heading: ['Clock', 'AM/PM', 'psi'], row: (i, p) => [...twelve(i, NOON), p] },
    usual(),
  ],
  ['past midnight', { heading: ['Clock', 'psi'], row: (i, p) => [at(i, 24 * 3600 - 300), p] }, usual()],
  ['a fixed offset', { heading: ['time', 'psi'], row: (i, p) => [`2030-01-05T${at(i)}+02:00`, p] }, usual()],
  [
    'an offset that changes',
    {
      heading: ['time', 'psi'],
      row: (i, p) => [i < 45 ? `2030-10-27T${at(i, 9000)}+02:00` : `2030-10-27T${at(i, 5400)}+01:00`, p],
    },
    usual(),
  ],
  [
    'a local hour that repeats',
    {
      heading: ['time', 'psi'],
      row: (i, p) => [`2030-10-27 ${at(i, i < 45 ? 2.5 * 3600 : 1.5 * 3600)}`, p],
    },
    usual(),
  ],
  [
    'quoted numbers',
    { heading: ['"Time (s)"', '"Pressure (psi)"'], row: (i, p) => [`"${i * DT}"`, `"${p}"`] },
    usual(),
  ],
  [
    'quoted decimal commas',
    {
      heading: ['Time (s)', 'Pressure (psi)'],
      row: (i, p) => [i * DT, `"${p.toFixed(2).replace('.', ',')}"`],
    },
    usual(),
  ],
  [
    'said what parts it',
    {
      before: ['sep=;'],
      heading: ['Time (s)', 'Pressure (psi)'],
      delimiter: ';',
      row: (i, p) => [i * DT, p],
    },
    usual({ says: ['header'] }),
  ],
  [
    'absolute, by its name',
    { heading: ['Time (s)', 'Abs Pres (kPa)'], row: (i, p) => [i * DT, p + 100] },
    as(1e3, { says: ['basis'] }, 1e5 - AIR),
  ],
  [
    'absolute, kPa abs',
    { heading: ['Time (s)', 'kPa abs'], row: (i, p) => [i * DT, p + 100] },
    as(1e3, { says: ['basis'] }, 1e5 - AIR),
  ],
  [
    'absolute, bar(a)',
    { heading: ['Time (s)', 'Pressure bar(a)'], row: (i, p) => [i * DT, p] },
    as(1e5, { says: ['basis'] }, -AIR),
  ],
  [
    'absolute, P_abs_bar',
    { heading: ['t_s', 'P_abs_bar'], row: (i, p) => [i * DT, p] },
    as(1e5, { says: ['basis'] }, -AIR),
  ],
  [
    'absolute, in words',
    { heading: ['Time (s)', 'Absolute pressure (psi)'], row: (i, p) => [i * DT, p] },
    as(PSI, { says: ['basis'] }, -AIR),
  ],
  [
    'absolute, psia',
    { heading: ['Time (s)', 'psia'], row: (i, p) => [i * DT, p] },
    as(PSI, { says: ['basis'] }, -AIR),
  ],
  ['gauge, kPa(g)', { heading: ['Time (s)', 'kPa(g)'], row: (i, p) => [i * DT, p] }, as(1e3)],
  ['gauge, mbar(g)', { heading: ['Time (s)', 'Druck mbar(g)'], row: (i, p) => [i * DT, p] }, as(100)],
  [
    'a vacuum above nought',
    { heading: ['Time (s)', 'Vacuum (inHg)'], row: (i, p) => [i * DT, (p / 4).toFixed(4)] },
    as(-3386.38815789 / 4, { says: ['basis'] }),
  ],
  [
    'a vacuum below nought',
    { heading: ['Time (s)', 'Vacuum (inHg)'], row: (i, p) => [i * DT, (-p / 4).toFixed(4)] },
    as(-3386.38815789 / 4, { says: ['basis'] }),
  ],
  [
    'inHg vac',
    { heading: ['Time (s)', 'inHg vac'], row: (i, p) => [i * DT, (p / 4).toFixed(4)] },
    as(-3386.38815789 / 4, { says: ['basis'] }),
  ],
  [
    'seconds since 1970',
    { heading: ['epoch', 'psi'], row: (i, p) => [1893456000 + i * DT, p] },
    usual({ says: ['time'] }),
  ],
  [
    'milliseconds since 1970',
    { heading: ['Timestamp', 'Pressure (psi)'], row: (i, p) => [1893456000000 + 1000 * i * DT, p] },
    usual({ says: ['time'] }),
  ],
  [
    'days as spreadsheets count',
    { heading: ['Date', 'psi'], row: (i, p) => [(47488 + (i * DT) / 86400).toFixed(9), p] },
    usual({ says: ['time'] }),
  ],
  [
    'minutes, seconds and tenths',
    {
      heading: ['Time', 'psi'],
      row: (i, p) => [`${two(Math.floor((i * DT) / 60))}:${two((i * DT) % 60)}.0`, p],
    },
    usual(),
  ],
  [
    'minutes and seconds, said',
    {
      heading: ['Elapsed mm:ss', 'psi'],
      row: (i, p) => [`${two(Math.floor((i * DT) / 60))}:${two((i * DT) % 60)}`, p],
    },
    usual({ says: ['time'] }),
  ],
  ['minutes', { heading: ['Elapsed (min)', 'psi'], row: (i, p) => [((i * DT) / 60).toFixed(6), p] }, usual()],
  ['hours', { heading: ['Run time (h)', 'psi'], row: (i, p) => [((i * DT) / 3600).toFixed(8), p] }, usual()],
  ['milliseconds', { heading: ['t (ms)', 'psi'], row: (i, p) => [1000 * i * DT, p] }, usual()],
  [
    'nobody says what time is in',
    { heading: ['Elapsed', 'psi'], row: (i, p) => [i * DT, p] },
    usual({ says: ['time'] }),
  ],
  [
    'an index before the time',
    { heading: ['Record', 'Elapsed (s)', 'psi'], row: (i, p) => [i + 1, i * DT, p] },
    usual(),
  ],
  [
    'a number before date and time',
    { heading: ['#', 'Date', 'Time', 'psi'], row: (i, p) => [i + 1, '2030-01-05', at(i), p] },
    usual({ says: ['time'] }),
  ],
  [
    'dates without marks',
    { heading: ['Date', 'Clock', 'psi'], row: (i, p) => ['20300105', at(i), p] },
    usual({ says: ['time'] }),
  ],
  [
    'dates with strokes, year first',
    { heading: ['Time', 'psi'], row: (i, p) => [`2030/01/05 ${at(i)}`, p] },
    usual(),
  ],
  [
    'dates with a month in letters',
    { heading: ['Time', 'psi'], row: (i, p) => [`05-Jan-30 ${at(i)}`, p] },
    usual(),
  ],
  [
    'a stop of two days',
    { heading: ['Time', 'psi'], row: (i, p) => [`${i < 45 ? '05.01.2030' : '07.01.2030'} ${at(i)}`, p] },
    usual({ span: (N - 1) * DT + 2 * 86400, says: ['days'] }),
  ],
  [
    'month before day, past the twelfth',
    { heading: ['Time', 'psi'], row: (i, p) => [`${i < 45 ? '01/14/2030' : '01/15/2030'} ${at(i)}`, p] },
    usual({ span: (N - 1) * DT + 86400, says: ['days'] }),
  ],
  [
    'a day that follows says the order',
    { heading: ['Time', 'psi'], row: (i, p) => [`${i < 45 ? '03/04/2030' : '04/04/2030'} ${at(i)}`, p] },
    usual({ span: (N - 1) * DT + 86400, says: ['days'] }),
  ],
  [
    'days that can be either',
    { heading: ['Time', 'psi'], row: (i, p) => [`${i < 45 ? '01/02/2030' : '02/03/2030'} ${at(i)}`, p] },
    { refused: 'day-order' },
  ],
  [
    'the newest first',
    { heading: ['Time (s)', 'psi'], row: (i, p) => [i * DT, p], order: (r) => [...r].reverse() },
    usual({ says: ['rows'] }),
  ],
  [
    'the newest first, by dates',
    { heading: ['Time', 'psi'], row: (i, p) => [`2030-01-05 ${at(i)}`, p], order: (r) => [...r].reverse() },
    usual({ says: ['rows'] }),
  ],
  ['a date alone', { heading: ['Date', 'psi'], row: (_, p) => ['2030-01-05', p] }, { refused: 'one-time' }],
  [
    'setpoint and actual',
    { heading: ['Time (s)', 'Setpoint (psi)', 'Actual (psi)'], row: (i, p) => [i * DT, 50, p] },
    usual({ says: ['pressure'] }),
  ],
  [
    'barometer and line',
    {
      heading: ['Time (s)', 'Barometer (psi)', 'Line (psi)'],
      row: (i, p) => [i * DT, (14.7 + i / 900).toFixed(2), p],
    },
    usual({ says: ['pressure'] }),
  ],
  [
    'temperature before it',
    { heading: ['Time (s)', 'Temp (°F)', 'Pressure (psi)'], row: (i, p) => [i * DT, 70 + i / 10, p] },
    usual(),
  ],
  [
    'two that were measured',
    {
      heading: ['Time (s)', 'Tank pressure (psi)', 'Pump pressure (psi)'],
      row: (i, p) => [i * DT, p, p + 3],
    },
    usual({ says: ['pressure'] }),
  ],
  [
    'a long preamble',
    {
      before: [
        'Logger 12',
        'Serial,4711',
        'Started,2030-01-05',
        ...Array.from({ length: 14 }, (_, i) => `Channel ${i},on,${i}`),
        '',
      ],
      heading: ['Time (s)', 'Pressure (psi)'],
      row: (i, p) => [i * DT, p],
    },
    usual({ says: ['header'] }),
  ],
  [
    'a unit before the table',
    {
      before: ['Site,North', 'Pressure unit,bar', ''],
      heading: ['Time (s)', 'Pressure'],
      row: (i, p) => [i * DT, p],
    },
    as(1e5, { says: ['unit', 'header'] }),
  ],
  [
    'no unit anywhere',
    { heading: ['Time (s)', 'Pressure'], row: (i, p) => [i * DT, p] },
    { refused: 'unit-missing' },
  ],
  [
    'a comma that can be either',
    {
      heading: ['Time (s)', 'Pressure (kPa)'],
      row: (i, p) => [i * DT, `"${Math.round(p * 6)},${two(i % 100)}4"`],
    },
    { refused: 'number-form' },
  ],
  [
    'three places after a comma',
    {
      heading: ['Zeit (s)', 'Druck (kPa)'],
      delimiter: ';',
      row: (i, p) => [i * DT, `${Math.floor(p)},${(1000 * (p % 1)).toFixed(0).padStart(3, '0')}`],
    },
    as(1e3, { says: ['numbers'] }),
  ],
  [
    'thousands by commas',
    {
      heading: ['Time (s)', 'Pressure (Pa)'],
      row: (i, p) => [i * DT, `"${Math.floor(p)},${(1000 * (p % 1)).toFixed(1).padStart(5, '0')}"`],
    },
    as(1000),
  ],
  [
    'thousands by a narrow space',
    {
      heading: ['Time (s)', 'Pressure (Pa)'],
      delimiter: ';',
      row: (i, p) => [i * DT, `${Math.floor(p)}\u202F${(1000 * (p % 1)).toFixed(0).padStart(3, '0')}`],
    },
    as(1000),
  ],
  [
    'thousands by points',
    {
      heading: ['Zeit (s)', 'Druck (Pa)'],
      delimiter: ';',
      row: (i, p) => [i * DT, `${Math.floor(p)}.${(1000 * (p % 1)).toFixed(0).padStart(3, '0')},0`],
    },
    as(1000),
  ],
  [
    'no reading as -9999',
    { heading: ['Time (s)', 'psi'], row: (i, p) => [i * DT, i % 30 === 11 ? -9999 : p] },
    usual({ n: N - 3, lost: 3, mean: NaN }),
  ],
  [
    'no reading as 999.9',
    { heading: ['Time (s)', 'psi'], row: (i, p) => [i * DT, i % 30 === 11 ? '999.9' : p] },
    usual({ n: N - 3, lost: 3, mean: NaN, says: ['sentinels'] }),
  ],
  [
    'no reading as OL',
    {
      heading: ['Time (s)', 'psi'],
      row: (i, p) => [i * DT, i % 30 === 11 ? 'OL' : i % 30 === 12 ? '----' : p],
    },
    usual({ n: N - 6, lost: 6, mean: NaN }),
  ],
  ['in. w.c.', { heading: ['Time (s)', 'Pressure (in. w.c.)'], row: (i, p) => [i * DT, p] }, as(249.08891)],
  ['mm Hg', { heading: ['Time (s)', 'Pressure (mm Hg)'], row: (i, p) => [i * DT, p] }, as(133.322387415)],
  ['oz/in²', { heading: ['Time (s)', 'Pressure (oz/in²)'], row: (i, p) => [i * DT, p] }, as(PSI / 16)],
  ['cmH2O', { heading: ['Time (s)', 'Pressure (cmH2O)'], row: (i, p) => [i * DT, p] }, as(98.0665)],
  [
    'torr',
    { heading: ['Time (s)', 'Pressure (Torr)'], row: (i, p) => [i * DT, p] },
    as(133.322387415, { says: ['basis'] }, -AIR),
  ],
  [
    'micron',
    { heading: ['Time (s)', 'Pressure (micron)'], row: (i, p) => [i * DT, p] },
    as(0.133322387415, { says: ['basis'] }, -AIR),
  ],
  [
    'what a vacuum pump stands at',
    { heading: ['Time (s)', 'Vacuum pump oil (psi)'], row: (i, p) => [i * DT, p] },
    usual(),
  ],
  [
    'one time far ahead',
    {
      heading: ['Time', 'psi'],
      row: (i, p) => [i === 40 ? `2031-01-05 ${at(i)}` : `2030-01-05 ${at(i)}`, p],
    },
    usual({ n: N - 1, lost: 1, mean: NaN }),
  ],
  [
    'a minus of another kind',
    { heading: ['Time (s)', 'Pressure (kPa)'], row: (i, p) => [i * DT, `\u2212${p}`] },
    as(-1e3),
  ],
  [
    'a switch beside it',
    {
      heading: ['Time (s)', 'Pressure (psi)', 'Contact'],
      row: (i, p) => [i * DT, p, i % 20 < 10 ? 'closed' : 'open'],
    },
    usual(),
  ],
  [
    'headings again in the middle',
    {
      heading: ['Time (s)', 'psi'],
      row: (i, p) => [i * DT, p],
      order: (r) => [...r.slice(0, 50), 'Time (s),psi', ...r.slice(50)],
    },
    usual({ lost: 1 }),
  ],
  ['a comma at the end', { heading: ['Time (s)', 'psi', ''], row: (i, p) => [i * DT, p, ''] }, usual()],
  ['one column', { heading: ['psi'], row: (_, p) => [p] }, { refused: 'one-column' }],
];

const encoded = (name: string, bytes: Uint8Array, expected: Expected): CorpusFile => ({
  name,
  bytes,
  expected,
});
const PLAIN: Form = { heading: ['Time (s)', 'Pressure (psi)'], row: (i, p) => [i * DT, p] };

function wide(t: string, little: boolean, mark: boolean): Uint8Array {
  const units = [...(mark ? '\uFEFF' : ''), ...t].map((c) => c.charCodeAt(0));
  return Uint8Array.from(units.flatMap((u) => (little ? [u & 255, u >> 8] : [u >> 8, u & 255])));
}

/** Every file of the corpus. */
export const corpus = (): readonly CorpusFile[] => [
  ...FORMS.map(([name, form, expected]) => encoded(name, utf8(text(form)), expected)),
  encoded('a mark before it', Uint8Array.from([0xef, 0xbb, 0xbf, ...utf8(text(PLAIN))]), usual()),
  encoded('two bytes a character, little end first', wide(text(PLAIN), true, true), usual()),
  encoded('two bytes a character, unmarked', wide(text(PLAIN), true, false), usual()),
  encoded('two bytes a character, big end first', wide(text(PLAIN), false, true), usual()),
  encoded(
    'one byte a character',
    Uint8Array.from(
      [
        ...text({
          ...PLAIN,
          heading: ['Time (s)', 'Temp (\u00b0F)', 'Pressure (psi)'],
          row: (i, p) => [i * DT, 70, p],
        }),
      ].map((c) => c.charCodeAt(0)),
    ),
    usual(),
  ),
  encoded('a workbook', Uint8Array.from([0x50, 0x4b, 3, 4, 20, 0]), { refused: 'not-a-table' }),
  encoded('a PDF', utf8('%PDF-1.7\n1 0 obj'), { refused: 'not-a-table' }),
  encoded('a picture', Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 13, 10]), { refused: 'not-a-table' }),
  encoded('a page', utf8('<!DOCTYPE html><html><body>Sign in</body></html>'), { refused: 'not-a-table' }),
  encoded('JSON', utf8('{"readings":[{"t":0,"p":50}]}'), { refused: 'not-a-table' }),
  encoded('packed', Uint8Array.from([0x1f, 0x8b, 8, 0]), { refused: 'not-a-table' }),
  encoded('nothing', new Uint8Array(), { refused: 'trace-empty' }),
  encoded('words', utf8('Dear colleague,\nplease find nothing here.\n'), { refused: 'no-readings' }),
];

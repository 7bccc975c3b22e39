// Files by what their headings and their clocks say.
import { N, as, at, DT, AIR, NOON, PSI, two, twelve, usual, type Named } from './testing.form.js';

export const CLOCKS: readonly Named[] = [
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
];

// More files as instruments, phones and spreadsheets leave them: each was once read as what it is not, or refused without a true reason.
import type { CorpusFile } from '../../../core/src/trace/reading/testing.js';

const N = 72;
const BAR = 1e5;
const PSI = 6894.757293168361;
const AIR = 101_325;
/** A signal of its own, bar to a hundredth. */
const BARS = Array.from({ length: N }, (_, i) => Math.round(100 * (3.4 + 0.6 * Math.sin(i / 6))) / 100);
const mean = BARS.reduce((a, b) => a + b, 0) / N;
const two = (n: number): string => String(n).padStart(2, '0');
const clock = (s: number): string =>
  `${two(9 + Math.floor(s / 3600))}:${two(Math.floor(s / 60) % 60)}:${two(s % 60)}`;

type Row = (i: number, bar: number) => string;
type Read = Exclude<CorpusFile['expected'], { refused: string }>;
const text = (heading: string, row: Row, after = ''): Uint8Array =>
  new TextEncoder().encode(`${heading}\n${BARS.map((b, i) => row(i, b)).join('\n')}\n${after}`);
/** Everything read, `step` seconds apart. */
const all = (over: Partial<Read> = {}, step = 5): Read => ({
  n: N,
  span: (N - 1) * step,
  first: (BARS[0] ?? NaN) * BAR,
  mean: mean * BAR,
  ...over,
});
const read = (name: string, bytes: Uint8Array, over: Partial<Read> = {}, step?: number): CorpusFile => ({
  name,
  bytes,
  expected: all(over, step),
});
const refused = (name: string, bytes: Uint8Array, code: string): CorpusFile => ({
  name,
  bytes,
  expected: { refused: code },
});
/** Every ninth row holds a figure that stands for none; the first does not. */
const holed =
  (figure: string): Row =>
  (i, b) =>
    `${i * 5},${i % 9 === 4 ? figure : b.toFixed(2)}`;
const kept = BARS.filter((_, i) => i % 9 !== 4);
const holes: Partial<Read> = {
  n: kept.length,
  lost: N - kept.length,
  mean: (kept.reduce((a, b) => a + b, 0) / kept.length) * BAR,
  says: ['sentinels'],
};

/** @returns files that were found by trying, each with what must come of it */
export function oddities(): readonly CorpusFile[] {
  return [
    read(
      'the unit behind each number',
      text('Time,Port', (i, b) => `${clock(i * 5)},${b.toFixed(2)} bar`),
    ),
    read(
      'the unit behind each number, which has a comma',
      text('Uhrzeit;Druck', (i, b) => `${clock(i * 5)};${b.toFixed(2).replace('.', ',')} bar`),
    ),
    read(
      'the unit behind each number, which changes',
      text(
        'Time (s),Port',
        (i, b) => `${i * 5},${i < 40 ? `${b.toFixed(2)} bar` : `${(b * 100).toFixed(0)} kPa`}`,
      ),
    ),
    read(
      'thousandths of a second behind a colon',
      text('Time,Port (bar)', (i, b) => `2031-03-04 ${clock(i * 5)}:125,${b.toFixed(2)}`),
    ),
    read(
      'a date and time without a mark',
      text('Stamp,Port (bar)', (i, b) => `20310304${clock(i * 5).replace(/:/g, '')},${b.toFixed(2)}`),
    ),
    read(
      'a date, a T and a time without marks',
      text('Stamp,Port (bar)', (i, b) => `20310304T${clock(i * 5).replace(/:/g, '')}Z,${b.toFixed(2)}`),
    ),
    read(
      'cells guarded as a spreadsheet does',
      text('Time (s),bar', (i, b) => `"=""${i * 5}""","=""${b}"""`),
    ),
    read(
      'cells with room about their quotes',
      text('"Time (s)" , "bar"', (i, b) => `"${i * 5}" , "${b}"`),
    ),
    read(
      'a month in words first',
      text('When,Port (bar)', (i, b) => `"Mar 4, 2031 ${clock(i * 5)}",${b}`),
    ),
    read(
      'a dash between date and time',
      text('When,Port (bar)', (i, b) => `2031/03/04-${clock(i * 5)},${b}`),
    ),
    read(
      'UTC in so many letters',
      text('When,Port (bar)', (i, b) => `2031-03-04 ${clock(i * 5)} UTC,${b}`),
    ),
    read(
      'days and a time',
      text('Elapsed,Port (bar)', (i, b) => `2 days ${clock(i * 5)},${b}`),
    ),
    read(
      'hundreds of nanoseconds since the year 1',
      text('Ticks,bar', (i, b) => `${640_000_000_000_000_000n + BigInt(i) * 50_000_000n},${b}`),
      {
        says: ['time'],
      },
    ),
    read(
      'tenths of a second by the heading',
      text('Time (1/10 s),bar', (i, b) => `${i * 50},${b}`),
      { says: ['time'] },
    ),
    read(
      'a vacuum that is absolute',
      text('Time (s),Vacuum (kPa abs)', (i, b) => `${i * 5},${(b * 100 + AIR / 1000).toFixed(3)}`),
      {
        says: ['basis'],
      },
    ),
    refused(
      'a barometer alone',
      text('Time (s),Barometric pressure (hPa)', (i, b) => `${i * 5},${1000 + b}`),
      'no-pressure',
    ),
    read(
      'room that was never written',
      text('Time (s),bar', (i, b) => `${i * 5},${b}`, '\0'.repeat(3000)),
    ),
    read(
      'columns lined up with spaces',
      text(
        '  Time     Port\n   (s)    (bar)',
        (i, b) => `${(i * 5).toFixed(1).padStart(7)}  ${b.toFixed(3).padStart(7)}`,
      ),
    ),
    read(
      'dates lined up with spaces',
      text('Date Time Port_bar', (i, b) => `2031-03-04  ${clock(i * 5)}   ${b.toFixed(2)}`),
    ),
    read('a figure for no reading that nobody knows', text('Time (s),bar', holed('6999.0')), holes),
    read('no reading as the largest there is', text('Time (s),bar', holed('1E+38')), holes),
    read(
      'several rows a second, the clock in whole ones',
      text('Time,bar', (i, b) => `2031-03-04 ${clock(Math.floor(i / 8))},${b}`),
      { span: 8.88, says: ['time'] },
    ),
    read(
      'the same table begun again',
      text('Time (s),bar', (i, b) => (i === 30 ? `${i * 5},${b}\nTime (s),bar` : `${i * 5},${b}`)),
      { lost: 1 },
    ),
    read(
      'figures at the end',
      text('Time (s),bar', (i, b) => `${i * 5},${b}`, 'Mean,3.41\nMax,4.00\nEnd of log\n'),
      {
        lost: 3,
      },
    ),
    read(
      'hours beyond a day',
      text('Elapsed (hh:mm:ss),bar', (i, b) => `${26 + Math.floor(i / 60)}:${two(i % 60)}:00,${b}`),
      {},
      60,
    ),
    read(
      'm for millions',
      text('Time (s),mPa', (i, b) => `${i * 5},${(b / 10).toFixed(3)}`),
      { says: ['unit'] },
    ),
    read(
      'absolute beside gauge',
      text(
        'Time (s),Absolute pressure (kPa),Gauge pressure (kPa)',
        (i, b) => `${i * 5},${(b * 100 + AIR / 1000).toFixed(3)},${(b * 100).toFixed(0)}`,
      ),
      { says: ['pressure'] },
    ),
    read(
      'a bare unit in capitals',
      text('Time (s),PSIA', (i, b) => `${i * 5},${((b * BAR + AIR) / PSI).toFixed(4)}`),
      {
        says: ['ambient'],
      },
    ),
    read(
      'atmospheres',
      text('Time (s),Pressure (atm)', (i, b) => `${i * 5},${((b * BAR) / AIR).toFixed(5)}`),
    ),
    read(
      'a plateau of one figure, of a gauge in whole ones',
      text('Time (s),bar', (i) => `${i * 5},${i >= 50 && i < 68 ? 120 : i % 2}`),
      { first: 0, mean: ((18 * 120 + 27) / N) * BAR },
    ),
    refused(
      'channels one under the other',
      text(
        'Time,Channel,Value (bar)',
        (i, b) => `2031-03-04 ${clock(5 * (i >> 1))},${i % 2 ? 'Outlet' : 'Inlet'},${b}`,
      ),
      'several-series',
    ),
    refused(
      'channels in turn, each at its own time',
      text('Time (s),Probe,Value (bar)', (i, b) => `${i},${['A', 'B', 'C'][i % 3]},${b}`),
      'several-series',
    ),
    refused(
      'another table below, in another unit',
      text('Time (s),bar', (i, b) =>
        i === 30 ? 'Time (s),psi' : `${i * 5},${i < 30 ? b : ((b * BAR) / PSI).toFixed(2)}`,
      ),
      'unit-changes',
    ),
    refused(
      'another table below, absolute',
      text('Time (s),bar', (i, b) => (i === 30 ? 'Time (s),bar abs' : `${i * 5},${b}`)),
      'unit-changes',
    ),
    refused(
      'a multiple of a unit',
      text('Time (s),psi x10', (i, b) => `${i * 5},${Math.round((b * BAR * 10) / PSI)}`),
      'unit-scaled',
    ),
    refused(
      'a temperature alone',
      text('Time (s),Temp (C)', (i, b) => `${i * 5},${b}`),
      'no-pressure',
    ),
    refused(
      'milliamps',
      text('Time (s),Loop (mA)', (i, b) => `${i * 5},${(4 + b).toFixed(3)}`),
      'unit-missing',
    ),
    refused(
      'one object a line',
      text('{"t":0,"bar":3.4}', (i, b) => `{"t":${i},"bar":${b}}`),
      'not-a-table',
    ),
  ];
}

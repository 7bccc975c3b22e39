import { describe, expect, it } from '@jest/globals';
import { TableFeed, type Said } from '@firm-needle/core/trace';
import type { Result } from '@firm-needle/core/result';
import fc from 'fast-check';
import Papa from 'papaparse';
import { corpus } from '../../core/src/trace/reading/testing.js';
import { headRows, readFile, type FileRead } from './index.js';
import { oddities } from './odd/testing.js';
import { corpusTable, workbooks } from './testing.js';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';

/** Bytes as they come over a line: in pieces of no even size. */
async function* inPieces(bytes: Uint8Array, size = 997): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < bytes.length; at += size) yield bytes.slice(at, at + size);
}
const read = (bytes: Uint8Array, said?: Said): Promise<Result<FileRead>> =>
  readFile(inPieces(bytes), { said });
const utf8 = (text: string): Uint8Array => new TextEncoder().encode(text);

const FILES = [...corpus(), ...workbooks(), ...oddities()];

it('is a corpus of sixty and more, each named once', () => {
  expect(FILES.length).toBeGreaterThanOrEqual(60);
  expect(new Set(FILES.map((f) => f.name)).size).toBe(FILES.length);
});

describe.each(FILES.map((f) => [f.name, f] as const))('%s', (_, { bytes, expected }) => {
  it('is read right, or refused with its reason', async () => {
    const read = await readFile(inPieces(bytes));
    if ('refused' in expected)
      return expect(read).toMatchObject({ ok: false, refusal: { code: expected.refused } });
    if (!read.ok) throw new Error(`${read.refusal.code}: ${read.refusal.message}`);
    const { samples, skipped, map } = read.value;
    const span = (samples.t.at(-1) ?? 0) - (samples.t[0] ?? 0);
    expect({ n: samples.t.length, span: Math.round(span * 100) / 100, skipped }).toEqual({
      n: expected.n,
      span: expected.span,
      skipped: expected.lost ?? 0,
    });
    const close = (a: number, b: number): void =>
      expect(Math.abs(a - b)).toBeLessThanOrEqual(2e-4 * Math.abs(b) + 1e-3);
    close(samples.p[0] ?? NaN, expected.first);
    if (Number.isFinite(expected.mean))
      close(samples.p.reduce((a, b) => a + b, 0) / samples.p.length, expected.mean);
    for (const about of expected.says ?? []) expect(map.assumptions.map((a) => a.about)).toContain(about);
    expect([...samples.t]).toEqual([...samples.t].sort((a, b) => a - b));
  });
});

describe('what is asked can be said', () => {
  const named = (name: string): Uint8Array => FILES.find((f) => f.name === name)?.bytes ?? new Uint8Array();
  const span = (r: Result<FileRead>): number =>
    r.ok ? (r.value.samples.t.at(-1) ?? 0) - (r.value.samples.t[0] ?? 0) : NaN;

  it('the order of days', async () => {
    const bytes = named('days that can be either');
    expect(span(await read(bytes, { order: 'dmy' })) / 86400).toBeCloseTo(29, 0);
    expect(span(await read(bytes, { order: 'mdy' })) / 86400).toBeCloseTo(32, 0);
  });

  it('what parts the cells, where the readings begin, and what times are in', async () => {
    const rows = Array.from({ length: 30 }, (_, i) => `${i} ${50 + (i % 5)}`);
    const spaced = utf8(['12 7', 'run 4', 'hour psi', ...rows].join('\n'));
    const said = await read(spaced, {
      delimiter: ' ',
      header: 3,
      timeUnit: 'h',
      time: 0,
      pressure: 1,
      unit: 'psi',
    });
    expect(span(said)).toBe(29 * 3600);
    expect(said.ok && [said.value.samples.p.length, said.value.delimiter, said.value.map.header]).toEqual([
      30,
      ' ',
      3,
    ]);
    expect(await read(spaced, { delimiter: ' ', header: 900 })).toMatchObject({ ok: false });
  });

  it('what its heading says as well, also where the heading comes again', async () => {
    const again = (i: number): string => (i === 20 ? '\nTime (s),psi' : '');
    const rows = Array.from({ length: 60 }, (_, i) => `${i},${50 + (i % 5)}${again(i)}`);
    const said = await read(utf8(['Time (s),psi', ...rows].join('\n')), { unit: 'kPa' });
    expect(said.ok && [said.value.samples.p[0], said.value.skipped]).toEqual([50_000, 1]);
  });

  it('the newest row first, over midnight, by the time of day alone', async () => {
    const clock = (s: number): string => new Date(s * 1000).toISOString().slice(11, 19);
    const rows = Array.from({ length: 60 }, (_, i) => `${clock(86_400 + 1500 - 60 * i)},${50 + (i % 5)}`);
    const got = await read(utf8(['Time,psi', ...rows].join('\n')));
    expect(got.ok && got.value.skipped).toBe(0);
    expect(span(got)).toBe(59 * 60);
    // Forward, a stop of more than half a day is no midnight passed backward.
    const stop = ['08:00:00,50', '08:00:10,51', '08:00:20,52', '21:30:00,53', '21:30:10,54', '21:30:20,52'];
    const on = await read(utf8(['Time,psi', ...stop].join('\n')));
    expect(span(on)).toBe(13.5 * 3600 + 20);
  });

  it('the unit, the mark, and which column', async () => {
    expect(await read(named('no unit anywhere'), { unit: 'bar' })).toMatchObject({ ok: true });
    const comma = await read(named('a comma that can be either'), { decimal: '.' });
    // Where the point is the mark, the comma before three digits parts thousands; and the other way round.
    expect(comma.ok && (comma.value.samples.p[0] ?? 0) > 200_000e3).toBe(true);
    const point = await read(named('a comma that can be either'), { decimal: ',' });
    expect(point.ok && (point.value.samples.p[0] ?? 0) < 400e3).toBe(true);
    const other = await read(named('setpoint and actual'), { pressure: 1 });
    expect(other.ok && other.value.samples.p.every((p) => Math.abs(p - 50 * 6894.757) < 1)).toBe(true);
    expect(await read(named('plain'), { basis: 'absolute' })).toMatchObject({
      ok: true,
      value: { map: { pressure: { basis: 'absolute' } } },
    });
  });
});

/** Rows that are looked at before the lane of bytes begins; what follows is what is tried. */
const HEAD = Array.from({ length: 2100 }, (_, i) => `${i},${(50 + (i % 7) / 10).toFixed(1)}`);
const HEADING = 'Time (s),psi';

/** The same text read in one piece by the splitter alone. */
function asText(text: string, delimiter = ','): Result<unknown> {
  const feed = new TableFeed({ delimiter });
  const lines = text.replace(/\r\n?/g, '\n');
  for (const fields of Papa.parse<string[]>(lines, { delimiter, newline: '\n' }).data) {
    const wrong = feed.push(fields);
    if (wrong && !wrong.ok) return wrong;
  }
  return feed.end();
}

describe('lines of bytes and rows of text', () => {
  const cell = fc.oneof(
    { weight: 6, arbitrary: fc.double({ noNaN: true, min: -1e6, max: 1e6 }).map(String) },
    { weight: 4, arbitrary: fc.integer({ min: -50, max: 999_999 }).map((n) => (n / 100).toFixed(2)) },
    fc.constantFrom(
      '',
      ' ',
      '-',
      '+',
      '.',
      '5.',
      '.5',
      '+2',
      '-0',
      ' 4 ',
      '1e3',
      '1.2.3',
      '0x10',
      'OL',
      '9999',
    ),
    fc.constantFrom(
      '9007199254740993',
      '0.1234567890123456789',
      '123456789012345.6',
      '\u22124',
      'Zähler',
      '\t7',
    ),
    fc.constantFrom('1 234', '12:30', 'NaN', 'Infinity', '5" pipe', '--', '000000000000000000001'),
  );
  const line = fc
    .array(cell, { minLength: 0, maxLength: 4 })
    .map((cells) => cells.join(','))
    .filter((l) => !/(^|[, ])"/.test(l));

  it('say the same of every line that can be written', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(line, { maxLength: 60 }),
        fc.integer({ min: 1, max: 5000 }),
        fc.boolean(),
        async (lines, size, ended) => {
          // Times that go on, before half of the lines: else nearly all would only go backward.
          const timed = lines.map((l, i) => (i % 2 === 0 ? `${3000 + i},${l}` : l));
          const text = [HEADING, ...HEAD, ...timed].join('\n') + (ended ? '\n' : '');
          const got = await readFile(inPieces(utf8(text), size));
          const want = asText(text);
          if (!got.ok || !want.ok) return expect(got).toEqual(want);
          const { encoding: _e, delimiter: _d, ...rest } = got.value;
          expect(rest).toEqual(want.value);
        },
      ),
      { numRuns: 80 },
    );
  });

  const two = (n: number): string => String(n).padStart(2, '0');
  const dated = fc
    .record({
      minute: fc.integer({ min: 0, max: 5 }),
      second: fc.integer({ min: 0, max: 61 }),
      fraction: fc.constantFrom('', '.5', ',25', '.123456789', '.', '.5x'),
      after: fc.constantFrom('', '', '', '', 'Z', '+02:00', ' AM', ' pm', ' '),
      day: fc.constantFrom(
        '2031-05-03',
        '2031-05-03',
        '2031-05-03',
        '03/05/2031',
        '2031-02-30',
        '2031-05-04',
        '',
      ),
      short: fc.boolean(),
      p: fc.constantFrom('51.5', '50', 'OL', '49.25'),
    })
    .map((r) => ({
      ...r,
      clock: `11:${two(30 + r.minute)}${r.short && r.second > 50 ? '' : `:${two(r.second)}${r.fraction}`}${r.after}`,
    }));

  it.each([
    ['one column', 'When,psi', (day: string, clock: string, p: string) => `${day} ${clock},${p}`],
    ['two columns', 'Date,psi,Time', (day: string, clock: string, p: string) => `${day},${p},${clock}`],
  ])('say the same of dates in %s, however they are written', async (_, heading, row) => {
    const head = HEAD.map((_l, i) =>
      row('2031-05-03', `10:${two(Math.floor(i / 60) % 60)}:${two(i % 60)}`, (50 + (i % 7)).toFixed(1)),
    );
    await fc.assert(
      fc.asyncProperty(fc.array(dated, { maxLength: 40 }), fc.boolean(), async (rows, sorted) => {
        const list = sorted ? [...rows].sort((a, b) => a.clock.localeCompare(b.clock)) : rows;
        const text = [heading, ...head, ...list.map((r) => row(r.day, r.clock, r.p))].join('\n');
        const got = await readFile(inPieces(utf8(text), 7000));
        const want = asText(text);
        if (!got.ok || !want.ok) return expect(got).toEqual(want);
        const { encoding: _e, delimiter: _d, ...rest } = got.value;
        expect(rest).toEqual(want.value);
      }),
      { numRuns: 60 },
    );
  });

  it.each([
    ['a quoted cell', '3000,"51.5"\n3001,52\n'],
    ['a quoted cell that goes on over a line', '3000,51,"a note\nof two lines"\n3001,52\n'],
    ['a quote within a cell', '3000,51,5" pipe\n3001,52\n'],
    ['another sort of end within a line', '3000,51\r3001,52\n3002,53\n'],
    ['carriage returns', '3000,51\r\n3001,52\r\n\r\n'],
    ['a line too short', '3000\n3001,52\n'],
    ['blank lines', '\n \n3000,51\n\t\n3001,52'],
  ])('say the same where there is %s', async (_, tail) => {
    const text = `${HEADING}\n${HEAD.join('\n')}\n${tail}`;
    const want = asText(text.replace(/\r\n/g, '\n'));
    if (!want.ok) throw new Error('not read');
    for (const size of [1000, 4096, 1 << 22]) {
      const got = await readFile(inPieces(utf8(text), size));
      expect(got).toMatchObject({ ok: true, value: want.value as object });
    }
  });

  it('say the same with a comma as the mark, dates, states, and lines that end in a carriage return', async () => {
    const rows = Array.from({ length: 4000 }, (_, i) => {
      const at = new Date(Date.UTC(2031, 4, 2, 10) + i * 500).toISOString();
      return `${at.slice(0, 10)} ${at.slice(11, 23)};${(3 + (i % 9) / 10).toFixed(2).replace('.', ',')};${i % 3 === 0 ? 1 : 0};${i === 3500 ? 'OL' : 'x'}`;
    });
    const text = ['When;Line (bar);contact;note', ...rows].join('\n');
    const want = asText(text, ';');
    for (const end of ['\n', '\r\n', '\r']) {
      const got = await readFile(inPieces(utf8(text.replace(/\n/g, end)), 3333));
      if (!got.ok || !want.ok) throw new Error('not read');
      const { encoding: _e, delimiter: _d, ...rest } = got.value;
      expect(rest).toEqual(want.value);
      expect(rest.samples.p.length).toBe(4000);
      expect(rest.samples.states['contact']?.[3]).toBe(1);
    }
  });
});

describe('what is no file of readings', () => {
  const rows = `${HEADING}\n${HEAD.join('\n')}\n`;

  it('a line without an end is refused, in its head and behind it, quoted and not', async () => {
    const long = 'x'.repeat(3 << 20);
    for (const text of [long, `${rows}3000,${long}`, `${rows}3000,"${long}`, `"${long}`])
      expect(await readFile(inPieces(utf8(text), 1 << 18))).toMatchObject({
        ok: false,
        refusal: { code: 'line-long', bound: expect.stringContaining('characters a line') as unknown },
      });
  });

  it('a file that is too large is refused before it is read', async () => {
    let taken = 0;
    const endless = async function* (): AsyncGenerator<Uint8Array> {
      for (;;) {
        taken++;
        yield utf8(
          HEAD.map((l) => `${l}\n`)
            .join('')
            .repeat(30),
        );
      }
    };
    expect(await readFile(endless(), { size: 4e9 })).toMatchObject({
      ok: false,
      refusal: { code: 'trace-large' },
    });
    expect(taken).toBeLessThan(10);
  });

  it('lets go of the file once it has enough', async () => {
    let open = 0;
    const held = async function* (text: string): AsyncGenerator<Uint8Array> {
      open++;
      try {
        for (;;) yield await Promise.resolve(utf8(text));
      } finally {
        open--;
      }
    };
    for (const text of ['%PDF-1.7 and no table', `${'x'.repeat(1 << 19)}`, rows])
      expect(await readFile(held(text), { size: text === rows ? 9e9 : undefined })).toMatchObject({
        ok: false,
      });
    await headRows(held(rows), 3);
    expect(open).toBe(0);
  });

  it('nothing at all, and bytes one at a time', async () => {
    expect(await readFile(inPieces(new Uint8Array()))).toMatchObject({
      ok: false,
      refusal: { code: 'trace-empty' },
    });
    const one = await readFile(inPieces(utf8('Time (s),psi\n0,50\n10,51\n20,52\n'), 1));
    expect(one.ok && [...one.value.samples.t]).toEqual([0, 10, 20]);
    const book = workbooks()[0]?.bytes ?? new Uint8Array();
    expect(await readFile(inPieces(book, 1))).toMatchObject({ ok: true, value: { encoding: 'workbook' } });
  });
});

it('the first rows of a file are those that are read', async () => {
  expect(await headRows(inPieces(utf8('Time (s);psi\n0;50\n')), 2)).toEqual([
    ['Time (s)', 'psi'],
    ['0', '50'],
  ]);
  const behind = FILES.find((f) => f.name === 'a workbook behind a cover sheet');
  expect((await headRows(inPieces(behind?.bytes ?? new Uint8Array()), 1))[0]).toEqual([
    'Time (s)',
    'Line (bar)',
  ]);
  expect(await headRows(inPieces(utf8('%PDF-1.4')), 5)).toEqual([]);
});

it('the page of the documentation says what comes of each, and none is read as what it is not', async () => {
  const page = readFileSync(join(process.cwd(), 'docs/logger-files.md'), 'utf8');
  expect(await corpusTable(FILES)).toBe(page);
  expect(page).toContain(`Of ${FILES.length}: `);
  expect(page).toContain(', wrong 0.');
});

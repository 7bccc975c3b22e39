import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import Papa from 'papaparse';
import { unit, unitsOf } from '../../quantity/index.js';
import type { Result } from '../../result.js';
import { basisOf, unitOfHeading } from './headings.js';
import { formOf, parseAs, sentinelsOf } from './numbers.js';
import { delimiterOf, sniff, TableFeed, type TableRead } from './index.js';
import { bothOf, clockOf, dateOf, minutesOf, orderOf, scaleOf } from './times.js';

/** A file in one piece: sniffed, decoded, split, fed. */
function readBytes(bytes: Uint8Array): Result<TableRead> {
  const encoding = sniff(bytes.subarray(0, 65536));
  if (!encoding.ok) return encoding;
  const text = new TextDecoder(encoding.value).decode(bytes);
  const delimiter = delimiterOf(text);
  const feed = new TableFeed({ delimiter });
  for (const fields of Papa.parse<string[]>(text, { delimiter }).data) {
    const wrong = feed.push(fields);
    if (wrong && !wrong.ok) return wrong;
  }
  return feed.end();
}

describe('the parts', () => {
  it('numbers come back as they were written, in every form', () => {
    const forms = [
      [{ decimal: '.' }, (x: string) => x],
      [{ decimal: ',' }, (x: string) => x.replace('.', ',')],
      [
        { decimal: '.', group: ',' },
        (x: string) =>
          x.replace(/\B(?=(\d{3})+(?!\d)(?=.*\.|$))/g, (m, _, at, all: string) =>
            at < (all.indexOf('.') + 1 || all.length + 1) - 1 ? ',' : m,
          ),
      ],
    ] as const;
    fc.assert(
      fc.property(
        fc.integer({ min: -999_999, max: 999_999 }),
        fc.integer({ min: 0, max: 3 }),
        (n, places) => {
          const plain = (n / 10 ** places).toFixed(places);
          for (const [form, write] of forms)
            expect(parseAs(write(plain), form)).toBeCloseTo(Number(plain), 9);
        },
      ),
    );
    for (const none of ['', 'OL', '--', '1.2.3', '12 psi', 'e5', '1,2,3'])
      expect(parseAs(none, { decimal: '.' })).toBeNaN();
  });

  it('the form of a column is told from all of it', () => {
    expect(formOf(['1.5', '22.25'])).toEqual({ decimal: '.' });
    expect(formOf(['1,5', '22,25'])).toEqual({ decimal: ',' });
    expect(formOf(['1,234.5', '22.0'])).toEqual({ decimal: '.', group: ',' });
    expect(formOf(['1.234,5'])).toEqual({ decimal: ',', group: '.' });
    expect(formOf(['335,004', '336,104'])).toMatchObject({ either: true });
    expect(formOf(['0,004', '0,104'])).toEqual({ decimal: ',' });
    expect(formOf(['1,234,567'])).toEqual({ decimal: '.', group: ',' });
    expect(formOf(['50', '51'])).toEqual({ decimal: '.' });
  });

  it('a figure that stands for no reading is known also where it comes first after all that was looked at', () => {
    const rows = Array.from(
      { length: 3000 },
      (_, i) => `${i},${i === 2500 ? 9999 : (50 + (i % 9)).toFixed(1)}`,
    );
    const read = readBytes(new TextEncoder().encode(['Time (s),psi', ...rows].join('\n')));
    expect(read.ok && [read.value.samples.t.length, read.value.lost]).toEqual([2999, { 'a hole': 1 }]);
  });

  it('a figure stands for no reading only where it is known, twice there, and far out', () => {
    expect(sentinelsOf([50, 51, -9999, 52, -9999])).toEqual([-9999]);
    expect(sentinelsOf([50, 51, 999.9, 999.9])).toEqual([999.9]);
    // A line that runs near it reads it.
    expect(sentinelsOf([990, 995, 999, 999, 1004])).toEqual([]);
    expect(sentinelsOf([50, 9999])).toEqual([]);
  });

  it('dates, times of day and offsets', () => {
    const day = (y: number, m: number, d: number): number => Date.UTC(y, m - 1, d) / 86_400_000;
    expect(dateOf('05.01.2030', 'dmy')).toBe(day(2030, 1, 5));
    expect(dateOf('05/01/30', 'mdy')).toBe(day(2030, 5, 1));
    expect(dateOf('20300105', 'dmy')).toBe(day(2030, 1, 5));
    expect(dateOf('5-Jan-2030', 'mdy')).toBe(day(2030, 1, 5));
    for (const none of ['31.02.2030', '2030-13-01', '00.01.2030', 'today'])
      expect(dateOf(none, 'dmy')).toBeNaN();
    expect(clockOf('12:00:30 am')).toBe(30);
    expect(clockOf('12:00:30', 'PM')).toBe(12 * 3600 + 30);
    expect(clockOf('1:05 p.m.')).toBe(13 * 3600 + 300);
    expect(minutesOf('61:30.5')).toBe(3690.5);
    expect(bothOf('2030-01-05T10:00:00-0730')).toMatchObject({ offset_s: -27_000 });
    expect(orderOf(['01/02/2030', '02/03/2030'])).toMatchObject({ either: true });
    expect(orderOf(['2030-01-02'])).toBeUndefined();
  });

  it('what time is in is told by name, or by its size', () => {
    const scale = (heading: string, ...cells: string[]) =>
      scaleOf(heading.split(/[\s()]+/), cells, { decimal: '.' }).seconds;
    expect(scale('Time (min)', '0', '1')).toBe(60);
    expect(scale('Timestamp', '1893456000', '1893456001')).toBe(1);
    expect(scale('Timestamp', '1893456000123', '1893456001123')).toBe(1e-3);
    expect(scale('Date', '47488.5', '47488.6')).toBe(86_400);
    // What counts from another day than 1970 is brought there; the second by Python's datetime.
    const found = (heading: string, ...cells: string[]) =>
      scaleOf(heading.split(/[\s()]+/), cells, { decimal: '.' });
    const date = (x: number, { seconds, zero = 0 }: { seconds: number; zero?: number }): string =>
      new Date((x * seconds - zero) * 1000).toISOString().slice(0, 16);
    expect(date(47_488.5, found('Date', '47488.5', '47488.6'))).toBe('2030-01-05T12:00');
    const ticks = 640_000_000_000_000_000;
    expect(date(ticks, found('Ticks', String(ticks)))).toBe('2029-01-29T17:46');
    expect(found('Time (1/10 s)', '1', '2')).toMatchObject({ seconds: 0.1 });
    expect(found('Time (10 ms)', '1', '2').seconds).toBeCloseTo(0.01, 12);
    expect(found('Time 2 (s)', '1', '2').seconds).toBe(1);
    // Forty thousand seconds are eleven hours.
    expect(scale('Time (s)', '47488.5', '47489.5')).toBe(1);
  });

  it('a heading says its unit and what it is counted from', () => {
    expect(unitOfHeading('Pressure [in. w.c.]')).toBe('inH2O');
    expect(basisOf('P_abs_bar')).toBe('absolute');
    expect(basisOf('Absolute humidity')).toBe('absolute');
    for (const gauge of ['kPa(g)', 'psig', 'Gauge pressure']) expect(basisOf(gauge)).toBe('gauge');
    for (const none of ['Pressure (psi)', 'Tank a (bar)', 'Lab (kPa)']) expect(basisOf(none)).toBeUndefined();
  });

  it('a unit is found in a heading however it is written there', () => {
    const spellings = unitsOf('pressure')
      .flatMap((u) => [u.id, ...(u.also ?? [])].map((text) => [u.id, text] as const))
      // In a heading these mean something else: such a file is asked about.
      .filter(([, text]) => !['at', 'oz', '#'].includes(text));
    fc.assert(
      fc.property(
        fc.constantFrom(...spellings),
        fc.constantFrom('Pressure', 'Line pressure', 'P', 'Tank 2', 'Supply', 'Druck'),
        fc.constantFrom(
          (name: string, unit: string) => `${name} (${unit})`,
          (name: string, unit: string) => `${name} [${unit}]`,
          (name: string, unit: string) => `${name}, ${unit}`,
          (name: string, unit: string) => `  ${name}  (${unit}) `,
        ),
        fc.constantFrom(
          (t: string) => t,
          (t: string) => t.replace(/[a-z]/g, (c) => c.toUpperCase()),
        ),
        ([id, text], name, write, as) => {
          const found = unitOfHeading(write(name, as(text)));
          expect([write(name, as(text)), found === undefined ? undefined : unit(found).factor]).toEqual([
            write(name, as(text)),
            unit(id).factor,
          ]);
        },
      ),
      { numRuns: 400 },
    );
  });

  it('never throws, whatever the bytes are', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), (bytes) => {
        const read = readBytes(bytes);
        expect(typeof read.ok).toBe('boolean');
      }),
    );
    fc.assert(
      fc.property(
        fc.array(
          fc.array(
            fc.constantFrom(
              '',
              '1',
              '2,5',
              '3.5',
              '-9999',
              '12:30',
              '2030-01-05',
              'psi',
              'Time',
              'OL',
              '\u2212',
              '47488.5',
              '1/2/2030',
            ),
            { maxLength: 4 },
          ),
          { maxLength: 30 },
        ),
        (rows) => {
          const feed = new TableFeed();
          for (const r of rows) {
            const wrong = feed.push(r);
            if (wrong && !wrong.ok) return;
          }
          const read = feed.end();
          if (read.ok)
            expect([...read.value.samples.t]).toEqual([...read.value.samples.t].sort((a, b) => a - b));
        },
      ),
    );
  });
});

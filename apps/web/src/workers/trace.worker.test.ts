/** @jest-environment node */
import { beforeAll, describe, expect, it, jest } from '@jest/globals';
import { parseQuantity } from '@firm-needle/core/quantity';
import { corpus } from '../../../../packages/core/src/trace/reading/testing.js';
import { oddities } from '../../../../packages/tables/src/odd/testing.js';
import { workbooks } from '../../../../packages/tables/src/testing.js';
import type { TraceHost } from './trace.worker.ts';

let host: TraceHost;
// What is handed to the page over the worker's line is had here as it is.
jest.mock('comlink', () => ({
  expose: (made: TraceHost) => void (host = made),
  transfer: (x: unknown) => x,
}));
beforeAll(async () => {
  await import('./trace.worker.ts');
});

const NO_PROGRESS = (): void => undefined;
const file = (name: string, text: string | Uint8Array): File =>
  new File([text as BlobPart], name, { type: 'text/csv' });
const read = (...files: readonly File[]) => host.read(files, undefined, undefined, NO_PROGRESS);
const wave = (from: number, n: number, unit = 'psi'): string =>
  `Time (s),Line (${unit})\n${Array.from(
    { length: n },
    (_, i) => `${from + i},${(50 + 8 * Math.sin((from + i) / 40)).toFixed(2)}`,
  ).join('\n')}\n`;

describe.each([...corpus(), ...workbooks(), ...oddities()].map((f) => [f.name, f] as const))('%s', (_, f) => {
  it('is read by the page’s worker as it must be, and told how', async () => {
    const got = await read(file(f.name, f.bytes));
    if ('refused' in f.expected)
      return expect(got).toMatchObject({ ok: false, refusal: { code: f.expected.refused } });
    if (!got.ok) throw new Error(got.refusal.message);
    const { samples, from, to, how, problems } = got.value;
    expect([samples, Math.round((to - from) * 100) / 100]).toEqual([f.expected.n, f.expected.span]);
    expect(how?.lost).toBe(f.expected.lost ?? 0);
    if (f.expected.lost) expect(problems.length).toBeGreaterThan(0);
    for (const about of f.expected.says ?? []) expect(how?.assumptions.map((a) => a.about)).toContain(about);
    expect(how?.pressure).not.toBe('');
  });
});

describe('the trace in its worker', () => {
  it('says how far it is, to the end', async () => {
    const parts: number[] = [];
    await host.read(
      [file('a.csv', wave(0, 90_000)), file('b.csv', wave(90_000, 500))],
      undefined,
      undefined,
      (p) => void parts.push(p),
    );
    expect(parts.length).toBeGreaterThan(1);
    expect([...parts]).toEqual([...parts].sort((a, b) => a - b));
    expect(parts.at(-1)).toBeCloseTo(1, 9);
  });

  it('is drawn, analysed and cut from what was read last, and from nothing after a refusal of its own', async () => {
    expect(await read(file('a.csv', wave(0, 900)))).toMatchObject({ ok: true, value: { unit: 'psi' } });
    const found = host.analyse('cycles');
    expect(found.ok && found.value.samples).toBe(900);
    const columns = host.columns(0, 899, 100);
    expect(columns.length).toBe(200);
    expect(Math.max(...columns.filter(Number.isFinite)) / 6894.757).toBeCloseTo(58, 1);
    const cut = host.excerpt(450, 30, 20);
    expect(cut.length).toBeLessThanOrEqual(20);
    for (const [t] of cut) expect(Math.abs(t - 450)).toBeLessThanOrEqual(30);
    expect(host.analyse('cycles', -1)).toMatchObject({ ok: false, refusal: { code: 'lag' } });
  });

  it('several files are one trace, each problem with the name of its file', async () => {
    const both = await read(
      file('two.csv', wave(400, 300).replace('\n410,', '\nx,')),
      file('one.csv', wave(0, 410)),
    );
    if (!both.ok) throw new Error(both.refusal.message);
    expect(both.value.samples).toBe(699);
    expect(both.value.how?.assumptions[0]?.said).toBe(
      '2 files as one, in the order of their times: one.csv, two.csv; 10 samples stood in two of them.',
    );
    expect(both.value.problems.map((p) => p.message)).toEqual(['two.csv: "x" is not a time.']);
    expect(await read(file('one.csv', wave(0, 9)), file('none.csv', 'nothing'))).toMatchObject({
      ok: false,
      refusal: { message: expect.stringMatching(/^none\.csv: /) as unknown },
    });
    expect(await read(file('one.csv', wave(0, 99)), file('bar.csv', wave(50, 99, 'bar')))).toMatchObject({
      ok: false,
      refusal: { code: 'times-overlap', where: 'bar.csv' },
    });
    expect(await read()).toMatchObject({ ok: false, refusal: { code: 'no-trace' } });
  });

  it('takes the air of the place off absolute pressures, and says so where nobody knows it', async () => {
    const absolute = file('abs.csv', wave(0, 200, 'psia'));
    const sea = await read(absolute);
    const high = await host.read([absolute], undefined, 80_000, NO_PROGRESS);
    if (!sea.ok || !high.ok) throw new Error('not read');
    expect(high.value.low - sea.value.low).toBeCloseTo(101_325 - 80_000, 3);
    const about = (r: typeof sea): unknown => r.ok && r.value.how?.assumptions.map((a) => a.about);
    expect(about(sea)).toContain('ambient');
    expect(about(high)).not.toContain('ambient');
    const psi = parseQuantity('1 psi', 'pressure', 'Pa');
    expect(psi.ok && high.value.high / psi.value.value).toBeGreaterThan(45);
  });

  it('shows its first rows, split as somebody says', async () => {
    const odd = file('odd.csv', 'a b;c\n1 2;3\n4 5;6\n');
    expect((await host.rows(odd))[1]).toEqual(['1 2', '3']);
    expect((await host.rows(odd, ' '))[1]).toEqual(['1', '2;3']);
    expect(await host.rows(file('x.pdf', '%PDF-1.7 …'))).toEqual([]);
  });

  it('a file that can be read no more is said, and nothing is thrown', async () => {
    const gone = file('gone.csv', wave(0, 50));
    gone.stream = () =>
      new ReadableStream({
        pull: () => Promise.reject(new Error('The file changed.')),
      });
    expect(await read(gone)).toMatchObject({
      ok: false,
      refusal: { code: 'file-unreadable', message: 'The file changed.' },
    });
    expect(await host.rows(gone)).toEqual([]);
  });
});

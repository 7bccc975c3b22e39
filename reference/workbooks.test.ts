// Workbooks read and written by openpyxl (Debian's python3-openpyxl), the outside reader and writer.
import { expect, it } from '@jest/globals';
import { readFile } from '@firm-needle/tables';
import { spawnSync } from 'node:child_process';
import { createReadStream, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { workbooks } from '../packages/tables/src/testing.js';

interface Theirs {
  readonly read: readonly { readonly n: number; readonly mean: number; readonly last: number }[];
  readonly written: readonly number[];
  readonly step: number;
}

it('what openpyxl reads of ours is what was put in, and what it writes is read as it was written', async () => {
  const dir = mkdtempSync(join(tmpdir(), 'fn-books-'));
  const books = workbooks().filter((b) => !('refused' in b.expected));
  const read = books.map(({ bytes }, i) => {
    const path = join(dir, `${i}.xlsx`);
    writeFileSync(path, bytes);
    return { path, sheet: 'Log', column: 1 };
  });
  const write = join(dir, 'theirs.xlsx');
  const run = spawnSync('/usr/bin/python3', [join(process.cwd(), 'reference/workbooks.py')], {
    input: JSON.stringify({ read, write }),
    encoding: 'utf8',
  });
  expect(run.stderr).toBe('');
  const theirs = JSON.parse(run.stdout) as Theirs;

  expect(books.length).toBeGreaterThan(3);
  for (const [i, { path }] of read.entries()) {
    const ours = await readFile(createReadStream(path));
    if (!ours.ok) throw new Error(ours.refusal.message);
    const { p } = ours.value.samples;
    const one = ours.value.map.pressure.unit === 'psi' ? 6894.757293168361 : 1e5;
    const t = theirs.read[i];
    expect(p.length).toBe(t?.n);
    expect(p.reduce((a, b) => a + b, 0) / p.length / one / (t?.mean ?? NaN)).toBeCloseTo(1, 9);
    expect((p.at(-1) ?? NaN) / one / (t?.last ?? NaN)).toBeCloseTo(1, 9);
  }

  const got = await readFile(createReadStream(write));
  if (!got.ok) throw new Error(got.refusal.message);
  const { samples, map, heading } = got.value;
  expect(heading).toEqual(['Taken at', 'Delivery (kPa)', 'Remark']);
  expect([...samples.p].map((p) => Math.round(p / 10) / 100)).toEqual(theirs.written);
  // To the millisecond, over midnight of a leap day.
  const steps = [...samples.t].slice(1).map((t, i) => Math.round((t - (samples.t[i] ?? NaN)) * 1000));
  expect(new Set(steps)).toEqual(new Set([1000 * theirs.step]));
  expect(new Date((samples.t[0] ?? NaN) * 1000).toISOString()).toBe('2032-02-28T23:50:00.000Z');
  expect(map.assumptions.map((a) => a.about)).toContain('sheet');
});

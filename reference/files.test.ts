// The corpus of logger files, read by Python's csv module (the standard library of Debian's python3) as the outside reader.
import { expect, it } from '@jest/globals';
import { spawnSync } from 'node:child_process';
import { createReadStream, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { toCanonical } from '@firm-needle/core/quantity';
import { readFile } from '@firm-needle/tables';
import { oddities } from '../packages/tables/src/odd/testing.js';
import { corpus } from '../packages/core/src/trace/reading/testing.js';

const PYTHON: Readonly<Record<string, string>> = {
  'utf-8': 'utf-8-sig',
  'utf-16le': 'utf-16-le',
  'utf-16be': 'utf-16-be',
  'windows-1252': 'cp1252',
};

it('what Python reads of every file is what we read, pressure by pressure', async () => {
  const dir = mkdtempSync(join(tmpdir(), 'fn-files-'));
  const asks: object[] = [];
  const ours: { name: string; n: number; mean: number; last: number }[] = [];
  for (const [i, { name, bytes, expected }] of [...corpus(), ...oddities()].entries()) {
    if ('refused' in expected || expected.lost !== undefined) continue;
    // What is more than a number in a cell, and bytes that were never written, Python's reader leaves as they are.
    if (/unit behind|guarded|about their quotes|never written/.test(name)) continue;
    const path = join(dir, `${i}.csv`);
    writeFileSync(path, bytes);
    const read = await readFile(createReadStream(path));
    if (!read.ok) throw new Error(name);
    const { map, samples, encoding, delimiter } = read.value;
    // What is turned round, or taken off, is ours to decide: files in which every row stands as it is written.
    if (map.descending || map.pressure.basis !== 'gauge') continue;
    asks.push({
      path,
      encoding: PYTHON[encoding],
      delimiter,
      header: map.header,
      column: map.pressure.index,
      decimal: map.decimal,
      group: map.group,
    });
    const one = toCanonical(1, map.pressure.unit);
    ours.push({
      name,
      n: samples.p.length,
      mean: samples.p.reduce((a, b) => a + b, 0) / samples.p.length / one,
      last: (samples.p.at(-1) ?? NaN) / one,
    });
  }
  const run = spawnSync('/usr/bin/python3', [join(process.cwd(), 'reference/files.py')], {
    input: JSON.stringify(asks),
    encoding: 'utf8',
  });
  expect(run.stderr).toBe('');
  const theirs = JSON.parse(run.stdout) as { n: number; mean: number; last: number }[];
  expect(ours.length).toBeGreaterThan(50);
  for (const [i, o] of ours.entries()) {
    const t = theirs[i] ?? { n: 0, mean: NaN, last: NaN };
    expect([o.name, o.n]).toEqual([o.name, t.n]);
    expect(Math.abs(o.mean / t.mean - 1)).toBeLessThan(1e-9);
    expect(Math.abs(o.last / t.last - 1)).toBeLessThan(1e-9);
  }
});

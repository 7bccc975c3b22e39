import { intervalFromCanonical } from '@firm-needle/core/quantity';
import type { Refusal } from '@firm-needle/core/result';
import type { TraceKind } from '@firm-needle/core/trace';
import { csvOf } from '@firm-needle/tables';
import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { errorOf, no, Refused } from '../../answer.js';
import type { Options } from '../../options.js';
import { figuresOf, kindNamed, type Told, traced } from './analysed.js';
import { writeTo } from './written.js';

/** Files of a folder that may hold readings. */
const READABLE = /\.(csv|tsv|txt|tab|dat|log|asc|xlsx)$/i;

interface Summed {
  readonly file: string;
  readonly unit: string;
  readonly samples: number;
  readonly duration_s: number;
  readonly lost: number;
  readonly assumptions: number;
  readonly figures: Readonly<Record<string, Told>>;
  readonly error: Refusal | undefined;
}

/** Every file of a folder by itself: what it came to, or why it came to nothing. */
export async function summary(folder: string, family: string, o: Options): Promise<object> {
  const kind = kindNamed(family);
  const names = await readdir(folder, { withFileTypes: true }).catch(() =>
    no('folder-missing', `There is no folder "${folder}".`, { where: '--summary' }),
  );
  const files = names
    .filter((f) => f.isFile() && READABLE.test(f.name))
    .map((f) => f.name)
    .sort();
  if (files.length === 0)
    no('folder-empty', `The folder "${folder}" holds no file of readings.`, {
      where: '--summary',
      bound: 'csv, tsv, txt, tab, dat, log, asc, xlsx',
    });
  const summed: Summed[] = [];
  for (const file of files) summed.push(await summedOf(file, join(folder, file), kind, o));
  const read = summed.filter((s) => s.error === undefined);
  await writeTo(o, 'csv', () => summaryCsv(summed));
  return {
    folder,
    read: read.length,
    refused: summed.length - read.length,
    files: summed.map(({ file, error, samples, duration_s, lost, assumptions, figures }) =>
      error ? { file, ...errorOf(error) } : { file, samples, duration_s, lost, assumptions, figures },
    ),
  };
}

async function summedOf(file: string, path: string, kind: TraceKind, o: Options): Promise<Summed> {
  const none = { file, unit: '', samples: 0, duration_s: 0, lost: 0, assumptions: 0, figures: {} };
  try {
    const { tables, analysis: a, unit } = await traced([path], kind, o);
    const lost = tables.reduce((n, t) => n + t.skipped, 0);
    const assumptions = tables.reduce((n, t) => n + t.map.assumptions.length, 0);
    const { samples, duration_s } = a;
    return { file, unit, samples, duration_s, lost, assumptions, figures: figuresOf(a), error: undefined };
  } catch (e) {
    // What is wrong with one file is said of it; the others are read all the same.
    if (e instanceof Refused) return { ...none, error: e.refusal };
    throw e;
  }
}

function summaryCsv(summed: readonly Summed[]): string {
  const names = [...new Set(summed.flatMap((s) => Object.keys(s.figures)))];
  const cell = (f: Told | undefined, x: 'value' | 'u', unit: string): number | string =>
    f === undefined
      ? ''
      : Number((f.unit === 'Pa' ? intervalFromCanonical(f[x], unit) : f[x]).toPrecision(6));
  return csvOf([
    [
      'file',
      'samples',
      'duration_s',
      'lost',
      'assumptions',
      'pressure_unit',
      ...names.flatMap((n) => [n, `${n}_u_expanded`]),
      'refused',
    ],
    ...summed.map((s) => [
      s.file,
      s.samples,
      s.duration_s,
      s.lost,
      s.assumptions,
      s.unit,
      ...names.flatMap((n) => [cell(s.figures[n], 'value', s.unit), cell(s.figures[n], 'u', s.unit)]),
      s.error ? `${s.error.message} ${s.error.remedy ?? ''}`.trim() : '',
    ]),
  ]);
}

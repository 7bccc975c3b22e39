import { draftOf, makePlan, typePlate } from '@firm-needle/core/family';
import type { AsTyped, Plan } from '@firm-needle/core/procedure';
import { findUnit, intervalFromCanonical, overAirUnit, parseQuantity } from '@firm-needle/core/quantity';
import type { Refusal } from '@firm-needle/core/result';
import { RIG_STEP_S } from '@firm-needle/core/rig';
import {
  analyse,
  joinTraces,
  TIME_UNITS,
  type Analysis,
  type Joined,
  type Said,
  type TraceKind,
} from '@firm-needle/core/trace';
import { tracedFamilies, traceKindOf } from '@firm-needle/families';
import { csvOf, eventsCsv, figuresCsv, type FileRead } from '@firm-needle/tables';
import { createWriteStream } from 'node:fs';
import { readdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { errorOf, must, no, Refused } from '../answer.js';
import { readTable } from '../file.js';
import { ambientOr, ambientSaid, type Options } from '../options.js';
import { familyNamed } from './plans.js';

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

/** `trace FILE… --family FAMILY`: figures, events, cycles and the lines that could not be read; several files are one trace. */
export async function traceCommand(o: Options): Promise<object> {
  const folder = o.one('summary');
  const family = o.one('family') ?? '';
  const alone = o.words.length > 0 ? 'file' : ['figures', 'events'].find((n) => o.has(n));
  if (folder !== undefined && alone !== undefined)
    no('option-twice', '--summary reads the files of its folder, each by itself, and writes --csv.', {
      where: alone,
    });
  if (folder === undefined && o.has('csv'))
    no('option-alone', '--csv is written by --summary.', {
      where: '--csv',
      remedy: 'Use --figures or --events.',
    });
  if (folder !== undefined) return summary(folder, family, o);
  if (o.words.length === 0) no('file-missing', 'Name a file, or - for standard input.', { where: 'file' });
  return traceFiles(o.words, family, o);
}

export const traceFile = (path: string, family: string, o: Options): Promise<object> =>
  traceFiles([path], family, o);

interface Traced {
  readonly tables: readonly FileRead[];
  readonly joined: Joined | undefined;
  readonly analysis: Analysis;
  readonly ambient: number;
  /** Pressures are written in it where they are not in Pa. */
  readonly unit: string;
}

function kindNamed(family: string): TraceKind {
  return (
    traceKindOf(family) ??
    no('family-unknown', `"${family}" gives no traces.`, {
      where: '--family',
      bound: tracedFamilies()
        .map((f) => f.id)
        .join(', '),
    })
  );
}

async function traced(paths: readonly string[], kind: TraceKind, o: Options): Promise<Traced> {
  const ambient = ambientOr(o);
  const lag = o.one('lag');
  const lag_s = lag === undefined ? 0 : must(parseQuantity(lag, 'time', 's')).value;
  const shown = o.one('in');
  if (shown !== undefined && findUnit(shown)?.dimension !== 'pressure')
    no('unknown-unit', `"${shown}" is no unit of pressure.`, { where: '--in' });
  const said = saidOf(o);
  const tables: FileRead[] = [];
  for (const path of paths) tables.push(await readTable(path, { ambient: ambientSaid(o), said }));
  const joined =
    tables.length < 2
      ? undefined
      : must(joinTraces(tables.map((table, i) => ({ name: paths[i] ?? '', samples: table.samples }))));
  const samples = joined?.samples ?? tables[0]?.samples;
  if (!samples) return no('file-missing', 'Name a file.', { where: 'file' });
  const analysis = must(analyse(samples, kind, ambient, undefined, lag_s));
  // What an absolute column came to is over the air outside.
  const unit = findUnit(shown ?? '')?.id ?? overAirUnit(tables[0]?.map.pressure.unit ?? 'kPa');
  return { tables, joined, analysis, ambient, unit };
}

async function traceFiles(paths: readonly string[], family: string, o: Options): Promise<object> {
  const kind = kindNamed(family);
  const { tables, joined, analysis: a, ambient, unit } = await traced(paths, kind, o);
  await writeTo(o, 'figures', () => figuresCsv(a.figures, unit));
  await writeTo(o, 'events', () => eventsCsv(a.events, unit));
  const [only] = tables;
  return {
    ...(tables.length === 1 && only
      ? { read: howRead(only, ambient) }
      : {
          files: tables.map((table, i) => ({ file: paths[i], read: howRead(table, ambient) })),
          order: joined?.order,
          twice: joined?.twice,
        }),
    samples: a.samples,
    duration_s: a.duration_s,
    figures: figuresOf(a),
    events: a.events.map((e) => ({ kind: e.kind, t_s: e.t, p_Pa: e.p, u_Pa: 2 * e.u })),
    cycles: a.cycles.map((c) => ({
      cutIn_Pa: c.cutIn,
      cutOut_Pa: c.cutOut,
      on_s: c.on_s,
      off_s: c.off_s ?? null,
    })),
    problems: [
      ...tables.flatMap((table, i) =>
        table.problems.map((p) => (tables.length === 1 ? p : { file: paths[i], ...p })),
      ),
      ...a.gaps.map((g) => ({ line: null, message: `No samples from ${g.from} to ${g.to} s.` })),
      ...(a.nothing ? [{ line: null, message: a.nothing }] : []),
    ],
  };
}

const figuresOf = (a: Analysis): Readonly<Record<string, Told>> =>
  Object.fromEntries(
    Object.entries(a.figures).map(([name, f]) => [
      name,
      { value: f.value, unit: f.unit, u: 2 * f.u, n: f.n },
    ]),
  );

interface Told {
  readonly value: number;
  readonly unit: string;
  readonly u: number;
  readonly n: number;
}

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
async function summary(folder: string, family: string, o: Options): Promise<object> {
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

/** Writes where an option says, if it does. */
async function writeTo(o: Options, name: string, text: () => string): Promise<void> {
  const path = o.one(name);
  if (path === undefined) return;
  await writeFile(path, text()).catch((e: unknown) => unwritable(path, `--${name}`, e));
}

const unwritable = (path: string, where: string, e: unknown): never =>
  no('not-writable', `"${path}" cannot be written: ${e instanceof Error ? e.message : String(e)}.`, {
    where,
    remedy: 'Name a file in a folder that can be written to.',
  });

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
function saidOf(o: Options): Said {
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

/** How the file was read: what was found in it, and what was taken as so without being said. */
function howRead(table: FileRead, ambient: number): object {
  const { map, heading } = table;
  const named = (i: number): object => ({ column: i + 1, name: heading[i]?.trim() ?? '' });
  const absolute = map.pressure.basis === 'absolute';
  return {
    encoding: table.encoding,
    delimiter: table.delimiter,
    header_line: map.header,
    time: {
      ...named(map.time.index),
      form: map.time.form,
      seconds: map.time.seconds,
      ...(map.time.order ? { order: map.time.order } : {}),
      ...(map.time.clock === undefined ? {} : { clock: named(map.time.clock) }),
    },
    pressure: { ...named(map.pressure.index), unit: map.pressure.unit, basis: map.pressure.basis },
    decimal: map.decimal,
    rows: table.rows,
    lost: table.lost,
    ...(absolute ? { ambient_Pa: ambient } : {}),
    assumptions: map.assumptions,
  };
}

/** Plate values good enough to run a rig on, where none were said. */
function planFor(family: Awaited<ReturnType<typeof familyNamed>>, o: Options): Plan {
  const plate: Record<string, AsTyped> = {};
  for (const text of o.all('plate')) {
    const [id = '', value = ''] = text.split('=');
    plate[id] = must(typePlate(family, id, value));
  }
  for (const p of family.plate)
    if (p.required && !plate[p.id]) {
      // The geometric middle of what it may be, or of its bounds where they are of one sign.
      const value = p.lower > 0 ? Math.sqrt(p.lower * p.upper) : (p.lower + p.upper) / 2;
      plate[p.id] = { text: String(value), unit: p.unit, value };
    }
  return makePlan(family, draftOf(family, o.one('variant') ?? '', plate));
}

/** `simulate FAMILY --seed N --seconds S --rate HZ --out FILE.csv`: a rig's trace, and what the rig knows. */
export async function simulateCommand(o: Options): Promise<object> {
  const family = await familyNamed(o.words[0]);
  const seconds = o.number('seconds', 600);
  const rate = o.number('rate', 10);
  const seed = o.number('seed', 1);
  if (!(seconds > 0 && seconds <= 1e6))
    no('seconds', 'Between 1 and 1 000 000 s are simulated.', { where: '--seconds' });
  if (!(rate > 0 && rate <= 1 / RIG_STEP_S))
    no('rate', `At most ${1 / RIG_STEP_S} samples a second are simulated.`, { where: '--rate' });
  const faults = o.all('fault');
  for (const f of faults)
    if (!family.rig.faults.some((x) => x.id === f))
      no('fault-unknown', `"${f}" is no fault of it.`, {
        where: '--fault',
        bound: family.rig.faults.map((x) => x.id).join(', '),
      });
  const named = o.one('scenario');
  const scenario =
    named === undefined ? family.rig.scenarios[0] : family.rig.scenarios.find((s) => s.id === named);
  if (!scenario)
    return no('scenario-unknown', `"${named ?? ''}" is no scenario of it.`, {
      where: '--scenario',
      bound: family.rig.scenarios.map((s) => s.id).join(', '),
    });
  const out = o.one('out');
  if (out === undefined)
    no('out-missing', 'Say where the trace goes.', { where: '--out', remedy: '--out trace.csv' });
  const rig = family.rig.create({ plan: planFor(family, o), seed, ambient: ambientOr(o), faults });
  const channels = Object.keys(rig.channels).filter((c) => c === 'contact' || c === 'pump');
  const steps = Math.round(seconds / RIG_STEP_S);
  const every = Math.max(1, Math.round(1 / rate / RIG_STEP_S));
  const hands = [...scenario.hands].sort((a, b) => a.at_s - b.at_s);
  const lines = function* (): Generator<string> {
    yield `t_s,p_Pa${channels.map((c) => `,${c}`).join('')}\n`;
    let next = 0;
    for (let i = 0; i <= steps; i++) {
      for (let h = hands[next]; h && h.at_s <= i * RIG_STEP_S; h = hands[++next]) rig.set(h.handle, h.value);
      if (i % every === 0)
        yield `${(i * RIG_STEP_S).toFixed(2)},${rig.gauge(scenario.slot).toFixed(1)}${channels.map((c) => `,${rig.channels[c] ?? 0}`).join('')}\n`;
      rig.step(RIG_STEP_S);
    }
  };
  await pipeline(lines, createWriteStream(out ?? '')).catch((e: unknown) =>
    unwritable(out ?? '', '--out', e),
  );
  return {
    family: family.meta.id,
    scenario: scenario.id,
    seconds,
    rate_hz: 1 / (every * RIG_STEP_S),
    truth: rig.truth(),
  };
}

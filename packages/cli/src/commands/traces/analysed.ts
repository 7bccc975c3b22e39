import { findUnit, overAirUnit, parseQuantity } from '@firm-needle/core/quantity';
import { analyse, type Analysis, type Joined, joinTraces, type TraceKind } from '@firm-needle/core/trace';
import { tracedFamilies, traceKindOf } from '@firm-needle/families';
import type { FileRead } from '@firm-needle/tables';
import { must, no } from '../../answer.js';
import { readTable } from '../../file.js';
import { ambientOr, ambientSaid, type Options } from '../../options.js';
import { saidOf } from './said.js';

export interface Traced {
  readonly tables: readonly FileRead[];
  readonly joined: Joined | undefined;
  readonly analysis: Analysis;
  readonly ambient: number;
  /** Pressures are written in it where they are not in Pa. */
  readonly unit: string;
}

/** What a family's traces show. */
export function kindNamed(family: string): TraceKind {
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

/** Files read as one trace, and what it shows. */
export async function traced(paths: readonly string[], kind: TraceKind, o: Options): Promise<Traced> {
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

export const figuresOf = (a: Analysis): Readonly<Record<string, Told>> =>
  Object.fromEntries(
    Object.entries(a.figures).map(([name, f]) => [
      name,
      { value: f.value, unit: f.unit, u: 2 * f.u, n: f.n },
    ]),
  );

export interface Told {
  readonly value: number;
  readonly unit: string;
  readonly u: number;
  readonly n: number;
}

/** How the file was read: what was found in it, and what was taken as so without being said. */
export function howRead(table: FileRead, ambient: number): object {
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

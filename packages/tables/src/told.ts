import { timeScaleOf } from '@firm-needle/core/picture';
import { fromCanonical, intervalFromCanonical } from '@firm-needle/core/quantity';
import type { Figures, TraceEvent } from '@firm-needle/core/trace';
import Papa from 'papaparse';

/** Rows as CSV; a cell that a spreadsheet would take for a formula is marked as text. */
export const csvOf = (rows: readonly (readonly (string | number)[])[]): string =>
  `${Papa.unparse(rows as (string | number)[][], { escapeFormulae: true })}\n`;

const SIX = (x: number): number => Number(x.toPrecision(6));

/**
 * What a trace came to, one figure a row: its value with its expanded uncertainty and how many it is of.
 * @param unit pressures are written in it
 */
export const figuresCsv = (figures: Figures, unit: string): string =>
  csvOf([
    ['figure', 'value', 'unit', 'u_expanded', 'n'],
    ...Object.entries(figures).map(([name, f]) => {
      const inUnit = (x: number): number => SIX(f.unit === 'Pa' ? intervalFromCanonical(x, unit) : x);
      return [name, inUnit(f.value), f.unit === 'Pa' ? unit : f.unit, inUnit(2 * f.u), f.n];
    }),
  ]);

/** The events of a trace, one a row; times as the trace has them, s, and where they are dates as dates too. */
export function eventsCsv(events: readonly TraceEvent[], unit: string): string {
  const dated = events.length > 0 && timeScaleOf(events[0]?.t ?? 0) === 'date';
  return csvOf([
    ['event', 't_s', ...(dated ? ['time'] : []), `p_${unit}`, `u_expanded_${unit}`],
    ...events.map((e) => [
      e.kind,
      Number(e.t.toFixed(3)),
      ...(dated ? [new Date(Math.round(e.t * 1000)).toISOString().slice(0, 23)] : []),
      SIX(fromCanonical(e.p, unit)),
      SIX(intervalFromCanonical(2 * e.u, unit)),
    ]),
  ]);
}

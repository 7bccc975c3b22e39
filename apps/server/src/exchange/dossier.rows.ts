// Rows of a dossier, out of the database and into another one.
import type { DatabaseError } from 'sequelize';
import { wrong, type Row, type Value } from './dossier.checks.js';
import type { ColumnType, DossierPart } from './dossier.parts.js';

/** Parts that may stand here already: whoever is known is not taken in again. */
export const MAY_STAND: ReadonlySet<string> = new Set(['people', 'gauges', 'photos']);

/**
 * A value as it is taken in. A doubt that was cast by a job elsewhere stands as cast by the job itself: its words are kept. People come
 * without what they might do: a supervisor of another firm is none here.
 */
export function taken(p: DossierPart, row: Row, column: string, jobs: ReadonlySet<Value | undefined>): Value {
  const value = row[column] ?? null;
  if (p.part === 'flags' && column === 'by_job_id' && !jobs.has(value)) return row['job_id'] ?? null;
  if (p.part === 'people' && column === 'role') return 'technician';
  return value;
}

/** What the database refuses of it, as a refusal. */
export function unfit(error: DatabaseError): Error {
  const code = (error.original as { code?: string } | undefined)?.code ?? '';
  return UNFIT.has(code) ? wrong('dossier', 'holds a value that cannot be kept, or one twice') : error;
}

const UNFIT: ReadonlySet<string> = new Set([
  'ER_DATA_TOO_LONG',
  'ER_TRUNCATED_WRONG_VALUE',
  'ER_WARN_DATA_OUT_OF_RANGE',
  'ER_DUP_ENTRY',
]);

/** A row as it is written out. */
export const outOf = (p: DossierPart, row: Record<string, unknown>): Row =>
  Object.fromEntries(p.columns.map((c) => [c.name, shown(c.type, row[c.name])]));

function shown(type: ColumnType, value: unknown): Value {
  if (value === null || value === undefined) return null;
  switch (type) {
    case 'json':
      return typeof value === 'string' ? (JSON.parse(value) as object) : value;
    case 'time':
      return value instanceof Date ? value.toISOString() : String(value);
    case 'yes':
      return Boolean(value);
    case 'bytes':
      return Buffer.isBuffer(value) ? value.toString('base64') : String(value);
    case 'whole':
    case 'number':
      return Number(value);
    default:
      return String(value);
  }
}

/** A value as it is taken in. */
export function into(type: ColumnType, value: Value): Value {
  if (value === null) return null;
  switch (type) {
    case 'json':
      return JSON.stringify(value);
    case 'time':
      return new Date(String(value));
    case 'bytes':
      return Buffer.from(String(value), 'base64');
    default:
      return value;
  }
}

// A file that is being read or taken in: its row, how far it has come, and how that is told.
import type { ImportState } from '@firm-needle/contract';
import type { Makes } from './resolver.js';
import { Problem } from '../common/problem.js';

export interface Row {
  readonly id: string;
  readonly name: string;
  readonly state: ImportState['state'];
  readonly lines: number;
  readonly counts: string | ImportState['counts'];
  readonly said: string | readonly string[];
  readonly problem: string | null;
  /** Nothing was heard of it for so long that whoever worked on it is gone. */
  readonly silent: number;
}
/** What is going on with a file on this server; others learn of it by its row. */
export interface Going {
  lines: number;
  readonly counts: Record<keyof ImportState['counts'], number>;
  cancelled: boolean;
  end?: () => void;
}
export const none = (): Going['counts'] => ({
  new: 0,
  known: 0,
  refused: 0,
  sites: 0,
  equipment: 0,
  controls: 0,
});
export const read = <T>(v: unknown): T => (typeof v === 'string' ? (JSON.parse(v) as T) : (v as T));
/** It was stopped by somebody. */
export function stopped(going: Going): Error {
  going.cancelled = true;
  return new Error('cancelled');
}
export function count(going: Going, makes: Makes): void {
  if (makes.site) going.counts.sites += 1;
  if (makes.equipment) going.counts.equipment += 1;
  if (makes.control) going.counts.controls += 1;
}
export const inWords = (error: unknown): string =>
  error instanceof Problem
    ? [error.detail, error.extra.remedy].filter(Boolean).join(' ')
    : error instanceof Error && error.message === 'cancelled'
      ? 'It was stopped.'
      : 'It could not be read to its end.';

/** How it is told: by this server while it is at work on it, else by its row. */
export function stateOf(row: Row, now: Going | undefined): ImportState {
  // It was cut off by a server that ended: what it had begun went with it. Another server may be at it, and says so.
  const lost = !now && Number(row.silent) === 1 && (row.state === 'reading' || row.state === 'applying');
  return {
    id: row.id,
    name: row.name,
    state: lost ? 'failed' : row.state,
    lines: now?.lines ?? row.lines,
    counts: { ...(now?.counts ?? read<ImportState['counts']>(row.counts)) },
    said: read(row.said),
    problem: lost ? 'It was cut off: the server ended meanwhile. Nothing was taken in.' : row.problem,
  };
}

import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import type { ReactNode } from 'react';
import type { Problem } from '@firm-needle/contract';

export function Loading({ what }: { what: string }) {
  return (
    <div className="state" role="status">
      <p>Loading {what} …</p>
      <LinearProgress aria-label={`Loading ${what}`} color="inherit" />
    </div>
  );
}

export function Empty({ children }: { children: ReactNode }) {
  return <div className="state soft">{children}</div>;
}

/** What went wrong and what to do; with a way to try again. */
export function Failed({ problem, retry }: { problem: Problem | undefined; retry?: () => void }) {
  return (
    <div className="state" role="alert">
      <p>
        <strong>{problem?.detail ?? 'This could not be loaded.'}</strong> {problem?.remedy}
      </p>
      {retry && <Button onClick={retry}>Try again</Button>}
    </div>
  );
}

/** A part of the app, or of a kind, that was never fetched; or what was made of it found no room. */
export const NOT_HERE: Problem = {
  status: 0,
  code: 'not-here',
  detail:
    'What this needs is not on this device and cannot be fetched now, or there is no room left to keep it.',
  remedy: 'Try again with a signal, or make room.',
};

/** How browsers say that a part of the app could not be had: after an update its old parts are gone, and asking again brings none. */
const PART_MISSING =
  /dynamically imported module|importing a module script failed|error loading dynamically|preload CSS/i;
export const partMissing = (error: unknown): boolean =>
  PART_MISSING.test(error instanceof Error ? error.message : String(error));

/** The problem inside an RTK Query error, whatever else it may be. */
export const problemOf = (error: unknown): Problem | undefined =>
  typeof error === 'object' && error !== null && 'detail' in error ? (error as Problem) : undefined;

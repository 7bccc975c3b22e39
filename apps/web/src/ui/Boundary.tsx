import Button from '@mui/material/Button';
import type { ReactNode } from 'react';
import { ErrorBoundary, type FallbackProps } from 'react-error-boundary';
import { useLocation } from 'react-router';
import { partMissing } from './States.tsx';

/** A page that cannot be drawn says so and keeps the way back; `also` shows what is at hand of it all the same. */
export function Boundary({ children, also }: { children: ReactNode; also?: ReactNode }) {
  // Another page is another try.
  const { pathname } = useLocation();
  return (
    <ErrorBoundary resetKeys={[pathname]} fallbackRender={(props) => <Broken {...props} also={also} />}>
      {children}
    </ErrorBoundary>
  );
}

function Broken({ error, resetErrorBoundary, also }: FallbackProps & { also?: ReactNode }) {
  const message = error instanceof Error ? error.message : String(error);
  const missing = partMissing(error);
  const { pathname, search } = useLocation();
  const here = pathname + search;
  return (
    <main className="state" role="alert">
      <h1>This page cannot be shown</h1>
      <p>
        Nothing that was entered is lost; it is kept on this device.{' '}
        {missing && 'A part of the app could not be had: it was updated meanwhile, or there is no signal. '}
        What failed: <code>{message}</code>
      </p>
      <p className="acts">
        {missing ? (
          <Button component="a" variant="contained" href={here}>
            Load it anew
          </Button>
        ) : (
          <Button variant="contained" onClick={resetErrorBoundary}>
            Try again
          </Button>
        )}
        {/* A link of the browser's own: the way back must not hang on what failed. */}
        <Button component="a" href="/">
          Back to today
        </Button>
      </p>
      {also}
    </main>
  );
}

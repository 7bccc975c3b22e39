import Button from '@mui/material/Button';
import type { ReactNode } from 'react';
import { ErrorBoundary, type FallbackProps } from 'react-error-boundary';
import { useLocation } from 'react-router';

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
  return (
    <main className="state" role="alert">
      <h1>This page cannot be shown</h1>
      <p>
        Nothing that was entered is lost; it is kept on this device. What failed:{' '}
        <code>{error instanceof Error ? error.message : String(error)}</code>
      </p>
      <p className="acts">
        <Button variant="contained" onClick={resetErrorBoundary}>
          Try again
        </Button>
        {/* A link of the browser's own: the way back must not hang on what failed. */}
        <Button component="a" href="/">
          Back to today
        </Button>
      </p>
      {also}
    </main>
  );
}

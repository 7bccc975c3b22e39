import { wrap, type Remote } from 'comlink';
import type { PracticeHost } from '../workers/practice.worker.ts';

let host: Remote<PracticeHost> | undefined;

/** The worker that draws and judges runs: one, started when it is first asked. */
export function practiceHost(): Remote<PracticeHost> {
  host ??= wrap<PracticeHost>(
    new Worker(new URL('../workers/practice.worker.ts', import.meta.url), { type: 'module' }),
  );
  return host;
}

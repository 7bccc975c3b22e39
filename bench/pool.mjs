// Figures that are counts over many jobs: shared out over the cores, a kind and a variant at a time, and added up again.
import { availableParallelism } from 'node:os';
import { isMainThread, parentPort, Worker } from 'node:worker_threads';
import { installed } from './installations.mjs';
import { core } from './parts.mjs';

/** Every kind with each of its variants: [id, which variant], the longest lists of faults first so that no core is left waiting. */
export const everyVariant = (only = () => true) =>
  installed()
    .filter(([id]) => only(id))
    .flatMap(([id, kind]) => kind.variants.map((v, i) => [id, i, Object.keys(kind.concludes).length]))
    .sort((a, b) => b[2] - a[2])
    .map(([id, i]) => [id, i]);

/** Two tables as one: numbers are added, lists are put one after the other, what bears one name is added in turn. */
export function added(a, b) {
  if (a === undefined) return b;
  if (b === undefined) return a;
  if (typeof a === 'number') return a + b;
  if (Array.isArray(a)) return [...a, ...b];
  if (typeof a !== 'object') return a;
  const out = { ...a };
  for (const [name, value] of Object.entries(b)) out[name] = added(out[name], value);
  return out;
}

/**
 * `figures(core, ...args)` of a file of this folder for each list of arguments.
 * @returns what each gave, in the order of the lists
 */
export function shared(file, figures, lists) {
  return new Promise((resolve, reject) => {
    const results = new Array(lists.length);
    let next = 0;
    let done = 0;
    const workers = [];
    const end = (how, what) => {
      for (const w of workers) void w.terminate();
      how(what);
    };
    if (lists.length === 0) return resolve(results);
    const give = (worker) => {
      if (next < lists.length) worker.postMessage({ at: next, file, figures, args: lists[next++] });
    };
    for (let i = 0; i < Math.min(availableParallelism(), lists.length); i++) {
      const worker = new Worker(new URL(import.meta.url));
      workers.push(worker);
      worker.on('error', (error) => end(reject, error));
      worker.on('message', ({ at, value, error }) => {
        if (error !== undefined) return end(reject, new Error(`${lists[at].join(' ')}: ${error}`));
        results[at] = value;
        if (++done === lists.length) return end(resolve, results);
        give(worker);
      });
      give(worker);
    }
  });
}

if (!isMainThread)
  parentPort.on('message', async ({ at, file, figures, args }) => {
    try {
      const value = await (await import(new URL(file, import.meta.url)))[figures](core, ...args);
      parentPort.postMessage({ at, value });
    } catch (error) {
      parentPort.postMessage({ at, error: String(error.stack ?? error) });
    }
  });

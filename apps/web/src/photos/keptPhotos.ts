// Photos on this device: kept here first, sent by the outbox, and shown from here as long as they are here.
import { wrap, type Remote } from 'comlink';
import { useEffect, useState } from 'react';
import { withDb } from '../sync/db.ts';
import { outbox } from '../sync/outbox.ts';
import type { PhotoWorker, Reduced, Reduction } from '../workers/photo.worker.ts';

interface Reducer {
  readonly remote: Remote<PhotoWorker>;
  /** Where its script cannot be had: the app was opened with no signal before all of it was on this device. */
  readonly failed: Promise<Reduction>;
}
let reducer: Reducer | undefined;

function openReducer(): Reducer {
  const worker = new Worker(new URL('../workers/photo.worker.ts', import.meta.url), { type: 'module' });
  const failed = new Promise<Reduction>((resolve) => {
    worker.addEventListener('error', () => {
      // Another try loads it anew.
      reducer = undefined;
      worker.terminate();
      resolve({ ok: false, because: NOT_HERE });
    });
  });
  return { remote: wrap<PhotoWorker>(worker), failed };
}
const NOT_HERE =
  'What reduces pictures is not on this device yet. Go on without the photo, and add it where there is a signal.';

/** Reduces a picture in the worker. */
export async function reduce(file: Blob): Promise<Reduction> {
  reducer ??= openReducer();
  return Promise.race([reducer.remote.reduce(file), reducer.failed]);
}

/** Keeps a reduced photo on this device, and sends it when it can. */
export async function keepPhoto({ data, hash }: Reduced): Promise<void> {
  await outbox.keepBlob(hash, data);
}

/** Where a photo's bytes are had: on this device, else from the server. */
export function usePhotoUrl(hash: string): string | undefined {
  const [url, setUrl] = useState<string>();
  useEffect(() => {
    let wanted = true;
    let made: string | undefined;
    void withDb((db) => db.get('blobs', hash))
      .catch(() => undefined)
      .then((kept) => {
        if (!wanted) return;
        if (kept) made = URL.createObjectURL(kept.data);
        setUrl(made ?? `/api/v1/photos/${hash}`);
      });
    return () => {
      wanted = false;
      if (made) URL.revokeObjectURL(made);
    };
  }, [hash]);
  return url;
}

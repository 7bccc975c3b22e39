// Photos on this device: kept here first, sent by the outbox, and shown from here as long as they are here.
import { wrap, type Remote } from 'comlink';
import { useEffect, useState } from 'react';
import { withDb } from '../sync/db.ts';
import { outbox } from '../sync/outbox.ts';
import type { PhotoWorker, Reduced, Reduction } from '../workers/photo.worker.ts';

let worker: Remote<PhotoWorker> | undefined;

/** Reduces a picture in the worker. */
export async function reduce(file: Blob): Promise<Reduction> {
  worker ??= wrap<PhotoWorker>(
    new Worker(new URL('../workers/photo.worker.ts', import.meta.url), { type: 'module' }),
  );
  return worker.reduce(file);
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

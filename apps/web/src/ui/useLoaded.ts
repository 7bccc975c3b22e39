import { useEffect, useState } from 'react';

interface Got<T> {
  readonly key: string;
  readonly value?: T;
  readonly failed?: unknown;
}

/**
 * What is loaded for a key: undefined until it is here, and where nothing is to be loaded.
 *
 * @param load called once a key; what it fails with is thrown to the nearest boundary, which says so: nobody waits for ever
 * @throws what `load` failed with
 */
export function useLoaded<T>(load: () => Promise<T>, key: string | undefined): T | undefined {
  const [got, setGot] = useState<Got<T>>();
  useEffect(() => {
    if (key === undefined) return;
    let wanted = true;
    load().then(
      (value) => wanted && setGot({ key, value }),
      (failed: unknown) => wanted && setGot({ key, failed: failed ?? new Error('nothing') }),
    );
    return () => {
      wanted = false;
    };
    // What is loaded follows from the key.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  if (key === undefined || got?.key !== key) return undefined;
  if (got.failed !== undefined) throw got.failed;
  return got.value;
}

import { families, loadFamily } from '@firm-needle/families';
import { useEffect, useState } from 'react';

/** A permit that some kind of control asks for. */
export interface PermitKind {
  readonly id: string;
  readonly title: string;
}

let all: Promise<readonly PermitKind[]> | undefined;

const load = (): Promise<readonly PermitKind[]> =>
  (all ??= Promise.all(families().map((f) => loadFamily(f.id))).then((kinds) => {
    const byId = new Map(kinds.flatMap((k) => k.permits.map((p) => [p.id, p.title] as const)));
    return [...byId].map(([id, title]) => ({ id, title })).sort((a, b) => a.title.localeCompare(b.title));
  }));

/** The permits that exist, by title; undefined until the kinds are here. */
export function usePermits(): readonly PermitKind[] | undefined {
  const [permits, setPermits] = useState<readonly PermitKind[]>();
  useEffect(() => {
    let wanted = true;
    void load().then((p) => wanted && setPermits(p));
    return () => {
      wanted = false;
    };
  }, []);
  return permits;
}

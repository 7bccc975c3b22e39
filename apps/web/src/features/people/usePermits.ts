import { families, loadFamily } from '@firm-needle/families';
import { useLoaded } from '../../ui/useLoaded.ts';

/** A permit that some kind of control asks for. */
export interface PermitKind {
  readonly id: string;
  readonly title: string;
}

async function load(): Promise<readonly PermitKind[]> {
  const kinds = await Promise.all(families().map((f) => loadFamily(f.id)));
  const byId = new Map(kinds.flatMap((k) => k.permits.map((p) => [p.id, p.title] as const)));
  return [...byId].map(([id, title]) => ({ id, title })).sort((a, b) => a.title.localeCompare(b.title));
}

/** The permits that exist, by title; undefined until the kinds are here. */
export const usePermits = (): readonly PermitKind[] | undefined => useLoaded(load, 'permits');

/** A permit that a person holds: for good, or until a day that still counts. */
export type HeldPermit = string | { readonly id: string; readonly until: string };

/** Ids of the permits that hold on a day (ISO). */
export const permitsOn = (held: readonly HeldPermit[], day: string): readonly string[] =>
  held.flatMap((p) => (typeof p === 'string' ? [p] : p.until >= day ? [p.id] : []));

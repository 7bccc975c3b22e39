import type { Rig } from '../rig/index.js';
import type { Hurts } from '../script/index.js';
import type { Deed, Hurt } from './run.js';

/** Something that was done and should not have been: 3 hurts somebody, 2 spoils something, 1 is careless. */
export interface Act {
  readonly severity: 1 | 2 | 3;
  /** When, on the installation's own clock, s. */
  readonly t?: number;
  readonly text: string;
}

/**
 * What a deed does as the installation stands just before it: physics, whatever was written down.
 * @returns the gravest; undefined where it harms nothing
 */
export function harmOf(
  hurts: readonly Hurts[],
  deed: Deed,
  rig: Pick<Rig, 'position' | 'actual'>,
): Act | undefined {
  if (deed.do !== 'set' && deed.do !== 'turn') return undefined;
  // A handle that is put where it stands does nothing.
  if (deed.do === 'set' && rig.position(deed.id) === deed.value) return undefined;
  const found = hurts.filter(
    (h) =>
      h.deed === deed.id &&
      (h.to?.includes(deed.value) ?? true) &&
      Object.entries(h.while ?? {}).every(([handle, at]) => at.includes(rig.position(handle))) &&
      (!h.over || rig.actual(h.over[0]) > h.over[1]),
  );
  const [first] = [...found].sort((a, b) => (b.severity ?? 3) - (a.severity ?? 3));
  return first && { severity: first.severity ?? 3, t: deed.t, text: first.text };
}

/** The plain line with which a run ends where somebody would have been hurt. */
export const hurtBy = (act: Act | undefined): Hurt | undefined =>
  act?.severity === 3 ? { t: act.t ?? 0, text: act.text } : undefined;

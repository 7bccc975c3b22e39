import type { Family, LadderPart } from '../family/index.js';
import { unitOf, type JobView, type Plan } from '../procedure/index.js';
import { toCanonical } from '../quantity/index.js';

/** One axis of a ladder: a control that is set by two pressures far apart has two, each with its own parts and unit. */
export interface Axis {
  readonly id: string;
  readonly unit: string;
  /** One of its unit, canonical. */
  readonly factor: number;
  readonly parts: readonly LadderPart[];
}

/** The axis of parts that name none. */
const ONLY = 'pressure';

/** The axes of a ladder in the order in which they first come, each with what stands on it; at least one. */
export function axesOf(family: Family, plan: Plan, parts: readonly LadderPart[]): readonly Axis[] {
  const ids = [...new Set(parts.map((p) => p.scale ?? ONLY))];
  return (ids.length > 0 ? ids : [ONLY]).map((id): Axis => {
    const own = parts.filter((p) => (p.scale ?? ONLY) === id);
    const named = own.flatMap((p) => ('setting' in p ? [p.setting] : []));
    const settings = family.settings.filter((s) => named.includes(s.id));
    // The axis is that of the pressures on it, or of whatever else it is set by.
    const first =
      settings.find((s) => s.dimension === 'pressure') ??
      settings[0] ??
      family.settings.find((s) => s.dimension === 'pressure') ??
      family.settings[0];
    const unit = unitOf(family, plan, first?.id ?? '');
    return { id, unit, factor: toCanonical(1, unit) - toCanonical(0, unit), parts: own };
  });
}

/** The axis that is looked at: that of the place being watched, else of the last reading, else the first. */
export function axisAt(
  axes: readonly Axis[],
  family: Family,
  job: JobView | undefined,
  watched: string | undefined,
): Axis | undefined {
  const stands = (axis: Axis, settings: readonly string[]): boolean =>
    axis.parts.some((p) => 'setting' in p && settings.includes(p.setting));
  const there = family.settings.filter((s) => s.slot === watched).map((s) => s.id);
  const last = job?.state.reads.at(-1)?.body.setting;
  return (
    axes.find((a) => stands(a, there)) ?? axes.find((a) => last !== undefined && stands(a, [last])) ?? axes[0]
  );
}

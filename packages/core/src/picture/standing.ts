// What of a job stands on a ladder and along its strip.
import { dimensionOf, spanOf, type Gauge } from '../gauge/index.js';
import type { Family, LadderPart } from '../family/index.js';
import type { JobView } from '../procedure/index.js';
import { fromCanonical, short } from '../quantity/index.js';

/** Where a setting stood, on the rail of its side. */
export interface RailMark {
  readonly side: 'found' | 'left';
  readonly value: number;
}

/** A reading as it stands on the strip. */
export interface StripPoint {
  readonly order: number;
  /** The place of the gauge that read it. */
  readonly slot: string;
  readonly t: number | undefined;
  readonly p: number;
  readonly label: string;
  readonly above: boolean;
}

/** A movement of a screw as it stands on the strip. */
export interface StripTurn {
  readonly order: number;
  readonly t: number | undefined;
  readonly label: string;
}

/** The gauge's own useful range as a shaded spine: 25 to 75 % of its scale [ASME B40.100 advice, from memory]. */
export function withSpine(parts: readonly LadderPart[], gauge: Gauge | undefined): readonly LadderPart[] {
  if (!gauge || dimensionOf(gauge) !== 'pressure') return parts;
  const { lower, span } = spanOf(gauge);
  return [
    ...parts,
    {
      part: 'spine',
      lower: lower + span / 4,
      upper: lower + (span * 3) / 4,
      title: `${gauge.label} reads best here`,
    },
  ];
}

/** What is drawn of a family's settings, and in which places it is read. */
export interface Drawn {
  /** Settings that stand on it in any way. */
  readonly settings: ReadonlySet<string>;
  /** Settings that have a mark. */
  readonly marks: ReadonlySet<string>;
  /** The places that anything drawn is read in: their readings stand on this ladder, others do not. */
  readonly places: ReadonlySet<string>;
}

/** Which settings and places some parts of a ladder show. */
export function drawnOf(family: Family, parts: readonly LadderPart[]): Drawn {
  const all = new Set(parts.flatMap((p) => ('setting' in p ? [p.setting] : [])));
  return {
    settings: all,
    marks: new Set(parts.flatMap((p) => (p.part === 'mark' ? [p.setting] : []))),
    places: new Set(family.settings.filter((s) => all.has(s.id)).map((s) => s.slot)),
  };
}

/**
 * The readings that stand beside these parts, in the order they were taken.
 * @param several there are other axes: only readings of settings on this one
 */
export function pointsOf(
  family: Family,
  job: JobView | undefined,
  unit: string,
  { places, settings }: Drawn,
  several: boolean,
): readonly StripPoint[] {
  if (!job) return [];
  return family.settings
    .filter((s) => s.had === 'reading' && s.dimension === 'pressure' && places.has(s.slot))
    .filter((s) => !several || settings.has(s.id))
    .flatMap((s) =>
      job.readings(s.id).map((r) => ({
        order: r.kept.order,
        slot: r.kept.body.slot,
        t: r.kept.body.t_s,
        p: r.value,
        label: `${s.short} ${short(fromCanonical(r.value, unit))}`,
        above: ['high', 'peak', 'stops'].includes(s.catch),
      })),
    )
    .sort((a, b) => a.order - b.order);
}

const shorter = (text: string): string =>
  text
    .replace(/ turns?/, '')
    .replace(/,.*/, '')
    .replace('counter-clockwise', 'ccw')
    .replace('clockwise', 'cw');

/** Every movement of a screw, in its order. */
export function turnsOf(job: JobView | undefined): readonly StripTurn[] {
  if (!job) return [];
  return job.state.turns.map((t) => ({ order: t.order, t: t.body.t_s, label: shorter(t.body.text) }));
}

/** As-found marks for the left rail and as-left marks for the right one. */
export function railsOf(
  family: Family,
  job: JobView | undefined,
  { marks, places, settings }: Drawn,
  several: boolean,
): readonly RailMark[] {
  if (!job) return [];
  return family.settings
    .filter((s) => !several || settings.has(s.id))
    .filter(
      (s) =>
        s.dimension === 'pressure' &&
        (s.had === 'reading' ? places.has(s.slot) : s.had === 'derived' && marks.has(s.id)),
    )
    .flatMap((s) => {
      const found = job.figure(s.id, 'found');
      const left = job.state.turns.length > 0 ? job.figure(s.id, 'left') : undefined;
      return [
        ...(found ? [{ side: 'found' as const, value: found.value }] : []),
        ...(left ? [{ side: 'left' as const, value: left.value }] : []),
      ];
    });
}

import type { Family, LadderPart } from '@firm-needle/core/family';
import { dimensionOf, spanOf, type Gauge } from '@firm-needle/core/gauge';
import type { JobView, Plan } from '@firm-needle/core/procedure';
import { fromCanonical, short } from '@firm-needle/core/quantity';
import { useMemo } from 'react';
import type { LiveSession } from '../../live/liveSession.ts';
import { useSize } from '../useSize.ts';
import { axesOf, axisAt, type Axis } from './axes.ts';
import { Ladder, type RailMark } from './Ladder.tsx';
import { domainOf, makeScale } from './scale.ts';
import { Strip, type StripPoint, type StripTurn } from './Strip.tsx';

export interface PictureProps {
  readonly family: Family;
  readonly plan: Plan;
  readonly job?: JobView | undefined;
  readonly live?: LiveSession | undefined;
  readonly gauge?: Gauge | undefined;
  /** The next reading as it is expected, canonical. */
  readonly expected?: { readonly low: number; readonly high: number } | undefined;
  readonly compact?: boolean;
  /** In planning: a mark was moved to a value. */
  readonly onMove?: (setting: string, value: number) => void;
  /** Marks that stand where they may not. */
  readonly forbidden?: ReadonlySet<string>;
}

/** The one picture: the ladder, and what the pressure did, on one vertical scale; a ladder for each where there are several to plan. */
export function Picture(props: PictureProps) {
  const { family, plan, job, live, compact = false, onMove } = props;
  const [ref, { width, height }] = useSize<HTMLDivElement>();
  const axes = useMemo(() => axesOf(family, plan, family.ladder(plan, job)), [family, plan, job]);
  const looked = axisAt(axes, family, job, live?.slot);
  // In planning all of them stand side by side; in the work the one that is looked at, with its strip.
  const shown = onMove ? axes : looked ? [looked] : [];
  return (
    <div className={`picture${compact ? ' compact' : ''}${onMove ? ' planning' : ''}`} ref={ref}>
      {width > 0 &&
        shown.map((axis, i) => (
          <div key={axis.id} className="axis" style={{ left: (i * width) / shown.length }}>
            <OneAxis
              {...props}
              axis={axis}
              several={axes.length > 1}
              width={width / shown.length}
              height={height}
            />
          </div>
        ))}
    </div>
  );
}

interface OneAxisProps extends PictureProps {
  readonly axis: Axis;
  /** There are others: only what stands on this one is drawn. */
  readonly several: boolean;
  readonly width: number;
  readonly height: number;
}

function OneAxis({
  family,
  job,
  live,
  gauge,
  expected,
  compact = false,
  onMove,
  forbidden,
  axis,
  several,
  width,
  height,
}: OneAxisProps) {
  const { unit, factor } = axis;
  // Which of several axes a gauge belongs to is known only while it is read.
  const own = several && onMove ? undefined : gauge;
  const parts = useMemo(() => withSpine(axis.parts, own), [axis, own]);
  const drawn = useMemo(() => drawnOf(family, parts), [family, parts]);
  const points = useMemo(
    () => pointsOf(family, job, unit, drawn, several),
    [family, job, unit, drawn, several],
  );
  const turns = useMemo(() => turnsOf(job), [job]);
  const rails = useMemo(() => railsOf(family, job, drawn, several), [family, job, drawn, several]);
  const top = compact ? 10 : 16;
  const bottom = height - (compact ? 18 : 26);
  const spread = points.map((p) => p.p);
  const { lower, upper } = domainOf(parts, [...spread, ...rails.map((r) => r.value)], factor);
  const scale = makeScale(lower, upper, top, Math.max(bottom, top + 40));
  const ladderWidth = onMove || family.slots.length === 0 ? Math.max(120, width - 112) : compact ? 104 : 158;
  return (
    <>
      <Ladder
        family={family}
        parts={parts}
        rails={rails}
        scale={scale}
        unit={unit}
        factor={factor}
        width={width}
        height={height}
        axis={ladderWidth}
        compact={compact}
        onMove={onMove}
        forbidden={forbidden}
      />
      {!onMove && family.slots.length > 0 && (
        <Strip
          scale={scale}
          left={ladderWidth}
          width={width - ladderWidth}
          height={height}
          live={live}
          slot={pressureSlot(family, live)}
          offset={job?.zero(pressureSlot(family, live))?.offset ?? 0}
          points={points}
          turns={turns}
          expected={expected}
          compact={compact}
          say={(v) => short(fromCanonical(v, unit))}
        />
      )}
    </>
  );
}

/** The place that the strip draws: the one being watched, unless a thermometer is in it. */
function pressureSlot(family: Family, live: LiveSession | undefined): string {
  const pressures = family.slots.filter((s) => s.dimension !== 'temperature');
  return (pressures.find((s) => s.id === live?.slot) ?? pressures[0])?.id ?? '';
}

/** The gauge's own useful range as a shaded spine: 25 to 75 % of its scale [ASME B40.100 advice, from memory]. */
function withSpine(parts: readonly LadderPart[], gauge: Gauge | undefined): readonly LadderPart[] {
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

interface Drawn {
  /** Settings that stand on it in any way. */
  readonly settings: ReadonlySet<string>;
  /** Settings that have a mark. */
  readonly marks: ReadonlySet<string>;
  /** The places that anything drawn is read in: their readings stand on this ladder, others do not. */
  readonly places: ReadonlySet<string>;
}

function drawnOf(family: Family, parts: readonly LadderPart[]): Drawn {
  const all = new Set(parts.flatMap((p) => ('setting' in p ? [p.setting] : [])));
  return {
    settings: all,
    marks: new Set(parts.flatMap((p) => (p.part === 'mark' ? [p.setting] : []))),
    places: new Set(family.settings.filter((s) => all.has(s.id)).map((s) => s.slot)),
  };
}

function pointsOf(
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

function turnsOf(job: JobView | undefined): readonly StripTurn[] {
  if (!job) return [];
  return job.state.turns.map((t) => ({ order: t.order, t: t.body.t_s, label: shorter(t.body.text) }));
}

/** As-found marks for the left rail and as-left marks for the right one. */
function railsOf(
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

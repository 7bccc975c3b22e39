import type { Family } from '@firm-needle/core/family';
import type { Gauge } from '@firm-needle/core/gauge';
import {
  axesOf,
  axisAt,
  domainOf,
  drawnOf,
  makeScale,
  pointsOf,
  railsOf,
  turnsOf,
  withSpine,
  type Axis,
} from '@firm-needle/core/picture';
import type { JobView, Plan } from '@firm-needle/core/procedure';
import { fromCanonical, short } from '@firm-needle/core/quantity';
import { useMemo } from 'react';
import type { LiveSession } from '../../live/liveSession.ts';
import { useSize } from '../useSize.ts';
import { Ladder } from './Ladder.tsx';
import { Strip } from './Strip.tsx';

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

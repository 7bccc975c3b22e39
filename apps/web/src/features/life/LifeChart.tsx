import { decimalsFor, figure, fromCanonical, symbolOf } from '@firm-needle/core/quantity';
import { format } from 'date-fns';
import {
  Area,
  ComposedChart,
  Line,
  ReferenceArea,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import type { Life } from '@firm-needle/contract';
import { chartOf, type SettingStory } from './lives.ts';

const HEIGHT = 150;
const soft = { fill: 'var(--ink-soft)', fontSize: 13 };

/** One setting over all visits on its own scale: found open, left full, what came between dotted, what is to come shaded. */
export default function LifeChart({
  story,
  from,
  until,
  devices,
  last,
}: {
  story: SettingStory;
  from: string;
  until: string;
  devices: Life['devices'];
  /** The lowest chart carries the dates. */
  last: boolean;
}) {
  const { life, limits, target } = story;
  const shown = (v: number): number => fromCanonical(v, life.unit);
  const data = chartOf(story, until);
  const edges = [limits.lower, limits.upper, target].flatMap((v) => (v === undefined ? [] : [shown(v)]));
  // The shade may be wider than the page: the marks and the limits are what is looked at.
  const values = [
    ...edges,
    ...data.flatMap((d) => [d.found, d.left].flatMap((v) => (v === undefined ? [] : [v]))),
  ];
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const room = (high - low || Math.abs(high) || 1) * 0.25;
  const digits = decimalsFor(life.step);
  return (
    <figure className="life-chart">
      <figcaption>
        <strong>{life.title}</strong>{' '}
        <span className="figure">
          {target === undefined ? '' : figure(shown(target), digits)} {symbolOf(life.unit)}
        </span>
      </figcaption>
      <ResponsiveContainer width="100%" height={last ? HEIGHT + 24 : HEIGHT}>
        <ComposedChart
          accessibilityLayer={false}
          data={[...data]}
          margin={{ top: 6, right: 18, bottom: 0, left: 0 }}
        >
          <ReferenceArea
            y1={limits.lower === undefined ? low - room : shown(limits.lower)}
            y2={limits.upper === undefined ? high + room : shown(limits.upper)}
            fill="var(--in)"
            fillOpacity={0.14}
          />
          {devices.slice(1).map((d) => (
            <ReferenceLine
              key={d.id}
              x={Date.parse(d.fittedOn)}
              stroke="var(--near)"
              strokeWidth={2}
              label={{ value: 'new device', position: 'insideTopLeft', fill: 'var(--near)', fontSize: 13 }}
            />
          ))}
          <XAxis
            dataKey="t"
            type="number"
            scale="time"
            domain={[Date.parse(from), Date.parse(until)]}
            tickFormatter={(t: number) => format(t, 'MMM yyyy')}
            tick={last ? soft : false}
            height={last ? 24 : 2}
            stroke="var(--line)"
            allowDataOverflow
          />
          <YAxis
            domain={[low - room, high + room]}
            ticks={[...new Set(edges.length > 0 ? edges : [low, high])].sort((a, b) => a - b)}
            tickFormatter={(v: number) => figure(v, digits)}
            tick={soft}
            width={58}
            stroke="var(--line)"
            allowDataOverflow
          />
          <Area
            dataKey="shade"
            stroke="none"
            fill="var(--ink)"
            fillOpacity={0.12}
            isAnimationActive={false}
            connectNulls
          />
          <Line
            dataKey="went"
            stroke="var(--ink)"
            strokeDasharray="3 4"
            strokeWidth={1.5}
            dot={false}
            isAnimationActive={false}
          />
          <Line
            dataKey="found"
            stroke="none"
            dot={{ r: 5, fill: 'var(--card)', stroke: 'var(--ink)', strokeWidth: 2 }}
            isAnimationActive={false}
          />
          <Line
            dataKey="left"
            stroke="none"
            dot={{ r: 4.5, fill: 'var(--ink)', stroke: 'var(--ink)' }}
            isAnimationActive={false}
          />
        </ComposedChart>
      </ResponsiveContainer>
    </figure>
  );
}

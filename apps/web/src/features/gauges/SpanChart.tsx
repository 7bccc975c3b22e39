import { errorLimit, type FoundError } from '@firm-needle/core/gauge';
import { fromCanonical, intervalFromCanonical } from '@firm-needle/core/quantity';
import {
  CartesianGrid,
  ErrorBar,
  Line,
  LineChart,
  ReferenceArea,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import type { GaugeHistory } from '@firm-needle/contract';

interface Row {
  readonly at: number;
  readonly error: number;
  readonly U: number;
}

/** The error of a gauge along its scale, rising (solid) and falling (dashed), within what its class permits there. */
export default function SpanChart({ gauge, errors }: { gauge: GaugeHistory; errors: readonly FoundError[] }) {
  const { unit, lower, upper, accuracy } = gauge;
  const rows = (way: FoundError['way']): Row[] =>
    errors
      .filter((e) => e.way === way)
      .map((e) => ({
        at: fromCanonical(e.at, unit),
        error: intervalFromCanonical(e.error, unit),
        U: intervalFromCanonical(e.U, unit),
      }))
      .sort((a, b) => a.at - b.at);
  const all = [...rows('up'), ...rows('down'), ...rows('steady')];
  const span = upper - lower;
  const [q1, q3] = [lower + span / 4, upper - span / 4];
  const middle = errorLimit(accuracy, (lower + upper) / 2, lower, upper);
  const ends = errorLimit(accuracy, upper, lower, upper);
  const top = Math.max(ends * 1.3, ...all.map((r) => (Math.abs(r.error) + r.U) * 1.05));
  const soft = { fill: 'var(--ink-soft)', fontSize: 13 };
  const dot = { r: 4, fill: 'var(--card)', stroke: 'var(--ink)', strokeWidth: 2 };
  const line = (way: FoundError['way'], dash?: string) => (
    <Line
      data={rows(way)}
      dataKey="error"
      stroke="var(--ink)"
      strokeWidth={2}
      {...(dash ? { strokeDasharray: dash } : {})}
      dot={dot}
      isAnimationActive={false}
    >
      {way !== 'down' && <ErrorBar dataKey="U" width={7} strokeWidth={1.2} stroke="var(--ink-soft)" />}
    </Line>
  );
  const permitted = (x1: number, x2: number, e: number) => (
    <ReferenceArea x1={x1} x2={x2} y1={-e} y2={e} fill="var(--in)" fillOpacity={0.12} ifOverflow="hidden" />
  );
  return (
    <ResponsiveContainer width="100%" height={260}>
      <LineChart accessibilityLayer={false} margin={{ top: 10, right: 24, bottom: 4, left: 4 }}>
        <CartesianGrid stroke="var(--line-faint)" vertical={false} />
        {permitted(lower, q1, ends)}
        {permitted(q1, q3, middle)}
        {permitted(q3, upper, ends)}
        <ReferenceLine y={0} stroke="var(--ink)" />
        <XAxis
          dataKey="at"
          type="number"
          domain={[lower, upper]}
          ticks={[0, 0.2, 0.4, 0.6, 0.8, 1].map((k) => Number((lower + k * span).toPrecision(6)))}
          tick={soft}
          stroke="var(--line)"
          allowDuplicatedCategory={false}
        />
        <YAxis
          domain={[-top, top]}
          ticks={[-ends, 0, ends]}
          tickFormatter={(v: number) => v.toFixed(2).replace('-', '−')}
          width={56}
          tick={soft}
          stroke="var(--line)"
        />
        {line('up')}
        {line('down', '6 4')}
        {line('steady')}
      </LineChart>
    </ResponsiveContainer>
  );
}

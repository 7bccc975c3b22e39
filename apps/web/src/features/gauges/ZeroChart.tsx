import { fromCanonical } from '@firm-needle/core/quantity';
import { format, parseISO } from 'date-fns';
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceArea,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import type { GaugeHistory } from '@firm-needle/contract';

/** The gauge's zeros over time, between the lines beyond which it is unfit. */
export default function ZeroChart({ gauge }: { gauge: GaugeHistory }) {
  const limit = fromCanonical(gauge.limit_Pa, gauge.unit);
  const points = gauge.zeros.map((z) => ({
    t: parseISO(z.at).getTime(),
    zero: fromCanonical(z.before_Pa, gauge.unit),
  }));
  const top = Math.max(limit * 1.3, ...points.map((p) => Math.abs(p.zero) * 1.1));
  const soft = { fill: 'var(--ink-soft)', fontSize: 13 };
  return (
    <ResponsiveContainer width="100%" height={240}>
      <LineChart accessibilityLayer={false} data={points} margin={{ top: 10, right: 24, bottom: 4, left: 4 }}>
        <CartesianGrid stroke="var(--line-faint)" vertical={false} />
        <ReferenceArea y1={-limit} y2={limit} fill="var(--in)" fillOpacity={0.12} />
        <ReferenceLine y={0} stroke="var(--ink)" />
        <ReferenceLine y={limit} stroke="var(--ink)" strokeDasharray="5 4" />
        <ReferenceLine y={-limit} stroke="var(--ink)" strokeDasharray="5 4" />
        <XAxis
          dataKey="t"
          type="number"
          domain={['dataMin', 'dataMax']}
          scale="time"
          tickFormatter={(t: number) => format(t, 'MMM yyyy')}
          tick={soft}
          stroke="var(--line)"
        />
        <YAxis
          domain={[-top, top]}
          ticks={[-limit, 0, limit]}
          tickFormatter={(v: number) => v.toFixed(2).replace('-', '−')}
          width={56}
          tick={soft}
          stroke="var(--line)"
        />
        <Line
          dataKey="zero"
          stroke="var(--ink)"
          strokeWidth={2}
          dot={{ r: 4, fill: 'var(--card)', stroke: 'var(--ink)', strokeWidth: 2 }}
          isAnimationActive={false}
        />
      </LineChart>
    </ResponsiveContainer>
  );
}

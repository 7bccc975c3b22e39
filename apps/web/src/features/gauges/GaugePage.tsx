import Button from '@mui/material/Button';
import { classText, figure, fromCanonical, isOverdue, rangeText, spanOf } from '@firm-needle/core';
import { format, parseISO } from 'date-fns';
import { lazy, Suspense, useState } from 'react';
import { Link, useParams } from 'react-router';
import { useGaugeQuery } from '../../store/api.ts';
import { useMe } from '../../store/me.ts';
import type { GaugeHistory } from '../../store/types.ts';
import { Failed, Loading, problemOf } from '../../ui/States.tsx';
import { GaugeDialog } from './GaugeDialog.tsx';
import { KIND } from './words.ts';
import './gauges.css';

const ZeroChart = lazy(() => import('./ZeroChart.tsx'));

/** One gauge: what it is, what its zero has done, and when it is expected to leave its limit. */
export function GaugePage() {
  const { id = '' } = useParams();
  const me = useMe();
  const gauge = useGaugeQuery(id);
  const [editing, setEditing] = useState(false);
  if (gauge.isLoading) return <Loading what="the gauge" />;
  if (!gauge.data) return <Failed problem={problemOf(gauge.error)} retry={() => void gauge.refetch()} />;
  const g = gauge.data;
  const overdue = isOverdue(g, format(new Date(), 'yyyy-MM-dd'));
  return (
    <>
      <div className="page-head">
        <h1>Gauge {g.label}</h1>
        <span className="soft">{g.owner}</span>
        <span className="grow" />
        {me.role !== 'reader' && <Button onClick={() => setEditing(true)}>Correct it</Button>}
      </div>
      <dl className="gauge-facts">
        <Fact title="Range" value={rangeText(g)} />
        <Fact title="Kind" value={KIND[g.kind] ?? g.kind} />
        <Fact title="Accuracy" value={classText(g.accuracy)} />
        <Fact
          title="Readable to"
          value={`${figure(fromCanonical(spanOf(g).readableStep, g.unit), 2)} ${g.unit}`}
        />
        <Fact title="Serial" value={g.serial ?? '–'} />
        <Fact
          title="Certificate until"
          value={g.due ? `${format(parseISO(g.due), 'd MMM yyyy')}${overdue ? ', overdue' : ''}` : '–'}
        />
      </dl>
      <h2 className="gauge-sub">Zero, as it was found at each job</h2>
      <p className="gauge-drift">{driftText(g)}</p>
      {g.zeros.length > 0 && (
        <div className="gauge-chart" role="img" aria-label={`${g.zeros.length} zeros. ${driftText(g)}`}>
          <Suspense fallback={<Loading what="the chart" />}>
            <ZeroChart gauge={g} />
          </Suspense>
        </div>
      )}
      {g.zeros.length > 0 && (
        <table className="gauge-zeros">
          <thead>
            <tr>
              <th>Day</th>
              <th>Zero</th>
              <th>Handling</th>
              <th>Job</th>
            </tr>
          </thead>
          <tbody>
            {[...g.zeros].reverse().map((z, i) => (
              <tr key={i}>
                <td>{format(parseISO(z.at), 'd MMM yyyy')}</td>
                <td className="figure">
                  {figure(fromCanonical(z.before_Pa, g.unit), 2)} {g.unit}
                </td>
                <td>{z.handling}</td>
                <td>
                  <Link to={`/jobs/${z.job}/sheet`}>sheet</Link>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {editing && <GaugeDialog gauge={g} onClose={() => setEditing(false)} />}
    </>
  );
}

const Fact = ({ title, value }: { title: string; value: string }) => (
  <div>
    <dt>{title}</dt>
    <dd className="figure">{value}</dd>
  </div>
);

function driftText(g: GaugeHistory): string {
  if (g.zeros.length === 0) return 'It has not been zeroed in a signed job yet.';
  const limit = `${figure(fromCanonical(g.limit_Pa, g.unit), 2)} ${g.unit}`;
  if (!g.drift) return `Too few zeros to see a drift; beyond ± ${limit} it is unfit.`;
  const rate = `${figure(fromCanonical(g.drift.perYear, g.unit), 2)} ± ${figure(fromCanonical(2 * g.drift.error, g.unit), 2)} ${g.unit} a year`;
  return g.drift.leaves
    ? `It drifts ${rate} and leaves ± ${limit} about ${format(parseISO(g.drift.leaves), 'MMMM yyyy')}.`
    : `Its zero moves ${rate}: no sure drift. Beyond ± ${limit} it is unfit.`;
}

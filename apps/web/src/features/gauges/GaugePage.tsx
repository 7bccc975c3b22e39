import Button from '@mui/material/Button';
import { isOverdue } from '@firm-needle/core/family';
import { classText, dimensionOf, hysteresisOf, rangeText, spanOf } from '@firm-needle/core/gauge';
import { figure, fromCanonical, intervalFromCanonical, symbolOf } from '@firm-needle/core/quantity';
import { format, parseISO } from 'date-fns';
import { lazy, Suspense, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { useGaugeControlMutation, useGaugeQuery } from '../../store/api.ts';
import { useMe } from '../../store/me.ts';
import type { GaugeHistory } from '@firm-needle/contract';
import { Failed, Loading, problemOf } from '../../ui/States.tsx';
import { GaugeDialog } from './GaugeDialog.tsx';
import { KIND, STANDING } from './words.ts';
import './gauges.css';

const ZeroChart = lazy(() => import('./ZeroChart.tsx'));
const SpanChart = lazy(() => import('./SpanChart.tsx'));

/** One gauge: what it is, whether it is fit, its errors along the scale, what its zero has done and where that leads. */
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
        {me.role !== 'reader' && dimensionOf(g) === 'pressure' && <CheckIt gauge={g} />}
      </div>
      {g.standing && g.standing.state !== 'fit' && (
        <p className="caution">
          <strong>
            {STANDING[g.standing.state][0]?.toUpperCase()}
            {STANDING[g.standing.state].slice(1)} since {format(parseISO(g.standing.day), 'd MMM yyyy')}.
          </strong>{' '}
          {g.standing.because}
        </p>
      )}
      <dl className="gauge-facts">
        <Fact title="Range" value={rangeText(g)} />
        <Fact title="Kind" value={KIND[g.kind] ?? g.kind} />
        <Fact title="Accuracy" value={classText(g.accuracy)} />
        <Fact
          title="Readable to"
          value={`${figure(intervalFromCanonical(spanOf(g).readableStep, g.unit), 2)} ${symbolOf(g.unit)}`}
        />
        <Fact title="Serial" value={g.serial ?? '–'} />
        <Fact
          title={g.certificate ? `Certificate ${g.certificate}, until` : 'Certificate until'}
          value={g.due ? `${format(parseISO(g.due), 'd MMM yyyy')}${overdue ? ', overdue' : ''}` : '–'}
        />
      </dl>
      {g.raises && <p className="soft gauge-drift">Its screw raised the needle {g.raises} the last time.</p>}
      <Spans gauge={g} />
      {dimensionOf(g) === 'pressure' && <Zeros gauge={g} />}
      {editing && <GaugeDialog gauge={g} onClose={() => setEditing(false)} />}
    </>
  );
}

/** Opens the gauge's own control; it is made when it is first asked for. */
function CheckIt({ gauge }: { gauge: GaugeHistory }) {
  const [make, state] = useGaugeControlMutation();
  const navigate = useNavigate();
  const open = async (): Promise<void> => {
    const made = gauge.control ?? (await make(gauge.id)).data;
    if (made) void navigate(`/controls/${made.id}`);
  };
  return (
    <>
      <Button variant="contained" disabled={state.isLoading} onClick={() => void open()}>
        Check this gauge
      </Button>
      {state.error !== undefined && (
        <span className="caution" role="alert">
          {problemOf(state.error)?.detail}
        </span>
      )}
    </>
  );
}

/** The newest span check as a curve, and the earlier ones by their day. */
function Spans({ gauge: g }: { gauge: GaugeHistory }) {
  const [newest] = g.spans;
  const [shown, setShown] = useState(newest?.job);
  const span = g.spans.find((s) => s.job === shown) ?? newest;
  if (!span)
    return dimensionOf(g) === 'pressure' ? (
      <p className="soft gauge-drift">Its span was not checked yet.</p>
    ) : null;
  const most = span.errors.reduce((a, b) => (Math.abs(b.error) > Math.abs(a.error) ? b : a));
  const hysteresis = hysteresisOf(span.errors);
  const said = (pa: number): string => `${figure(intervalFromCanonical(pa, g.unit), 2)} ${symbolOf(g.unit)}`;
  const words = `Largest error ${said(most.error)} ± ${said(most.U)} at ${figure(fromCanonical(most.at, g.unit), 1)} ${symbolOf(g.unit)}${hysteresis === undefined ? '' : `; hysteresis ${said(Math.abs(hysteresis))}`}.`;
  return (
    <>
      <h2 className="gauge-sub">Error along the scale, {format(parseISO(span.at), 'd MMM yyyy')}</h2>
      <p className="gauge-drift">
        {words}{' '}
        {span.errors.some((e) => e.way === 'down') &&
          'Solid rising, dashed falling; the shade is what its class permits.'}
      </p>
      <div className="gauge-chart span" role="img" aria-label={words}>
        <Suspense fallback={<Loading what="the chart" />}>
          <SpanChart gauge={g} errors={span.errors} />
        </Suspense>
      </div>
      <p className="gauge-spans">
        {g.spans.map((s) => (
          <button key={s.job} type="button" aria-pressed={s.job === span.job} onClick={() => setShown(s.job)}>
            {format(parseISO(s.at), 'd MMM yyyy')}
          </button>
        ))}
        <Link to={`/jobs/${span.job}/sheet`}>its sheet</Link>
      </p>
    </>
  );
}

/** Its zeros over time, and where they lead. */
function Zeros({ gauge: g }: { gauge: GaugeHistory }) {
  return (
    <>
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
                  {figure(fromCanonical(z.before_Pa, g.unit), 2)} {symbolOf(g.unit)}
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
  const limit = `${figure(fromCanonical(g.limit_Pa, g.unit), 2)} ${symbolOf(g.unit)}`;
  if (!g.drift) return `Too few zeros to see a drift; beyond ± ${limit} it is unfit.`;
  const rate = `${figure(fromCanonical(g.drift.perYear, g.unit), 2)} ± ${figure(fromCanonical(2 * g.drift.error, g.unit), 2)} ${symbolOf(g.unit)} a year`;
  return g.drift.leaves
    ? `It drifts ${rate} and leaves ± ${limit} about ${format(parseISO(g.drift.leaves), 'MMMM yyyy')}.`
    : `Its zero moves ${rate}: no sure drift. Beyond ± ${limit} it is unfit.`;
}

import { outcomeSaid } from '@firm-needle/core/family';
import type { Control, Life } from '@firm-needle/contract';
import Button from '@mui/material/Button';
import { format, parseISO } from 'date-fns';
import { lazy, Suspense, useState } from 'react';
import { Link, useParams } from 'react-router';
import { v7 as uuid } from 'uuid';
import { LifePhotos } from './LifePhotos.tsx';
import LearnedTurns from '../../planning/LearnedTurns.tsx';
import { useControlQuery, useFitDeviceMutation, useLifeQuery } from '../../store/api.ts';
import { useMe } from '../../store/me.ts';
import { useFamily } from '../../sync/useJob.ts';
import { RecordDialog, type Fields } from '../../ui/RecordDialog.tsx';
import { Failed, Loading, problemOf } from '../../ui/States.tsx';
import { sayDrift, storiesOf, untilOf } from './lives.ts';
import './life.css';

const LifeChart = lazy(() => import('./LifeChart.tsx'));
const day = (iso: string): string => format(parseISO(iso), 'd MMM yyyy');

/** A control's life: its settings over its visits, how they wander, when it is due and why. */
export function LifePage() {
  const { id = '' } = useParams();
  const control = useControlQuery(id);
  const life = useLifeQuery(id);
  if (control.isLoading || life.isLoading) return <Loading what="its life" />;
  if (!control.data || !life.data)
    return (
      <Failed
        problem={problemOf(control.error ?? life.error)}
        retry={() => {
          void control.refetch();
          void life.refetch();
        }}
      />
    );
  return <TheLife control={control.data} life={life.data} />;
}

function TheLife({ control, life }: { control: Control; life: Life }) {
  const may = useMe().role !== 'reader';
  const family = useFamily(control.available ? control.family : undefined);
  const [fitting, setFitting] = useState(false);
  const stories = storiesOf(life, control.plan);
  const until = untilOf(life, control.due);
  const from = life.settings.flatMap((s) => s.points.map((p) => p.day)).sort()[0] ?? until;
  const begin = new Date(Date.parse(from) - 30 * 86400e3).toISOString().slice(0, 10);
  const [first, ...more] = life.reasons;
  return (
    <>
      <div className="page-head">
        <h1>{control.name}</h1>
        <span className="soft">
          <Link to={`/sites/${control.site.id}`}>{control.site.name}</Link> · {control.equipment.name}
        </span>
        <p className="life-next">
          {first ? (
            <>
              <strong>Next {day(first.day)}</strong>, {first.because}
              {more.map((r) => (
                <span key={r.kind} className="soft">
                  {' '}
                  · {r.because}, {day(r.day)}
                </span>
              ))}
            </>
          ) : (
            'No date is kept for it.'
          )}
        </p>
      </div>
      <div className="life">
        <section className="life-picture" aria-label="Its settings over its visits">
          {stories.length === 0 && (
            <p className="soft">
              Nothing was measured and signed here yet: the first signed job begins its life.
            </p>
          )}
          <Suspense fallback={<Loading what="the chart" />}>
            {stories.map((s, i) => (
              <LifeChart
                key={s.life.setting}
                story={s}
                from={begin}
                until={until}
                devices={life.devices}
                last={i === stories.length - 1}
              />
            ))}
          </Suspense>
          {stories.length > 0 && (
            <p className="soft life-key">
              open mark: as found · full mark: as left · dotted: what the time between did · shade: where it
              will be found, 95 %
            </p>
          )}
        </section>
        <section className="life-side" aria-label="What it says">
          {may && (
            <p className="life-acts">
              <Link className="as-button" to={`/controls/${control.id}`}>
                Plan, or start a job
              </Link>
              <Button onClick={() => setFitting(true)}>A new device was fitted</Button>
            </p>
          )}
          {stories.length > 0 && (
            <div className="life-card">
              <h2>Drift</h2>
              <dl>
                {stories.map((s) => (
                  <div key={s.life.setting}>
                    <dt>{s.life.title}</dt>
                    <dd>{sayDrift(s)}</dd>
                  </div>
                ))}
              </dl>
            </div>
          )}
          {family && control.device && (
            <div className="life-card">
              <LearnedTurns family={family} control={control} />
              <p className="soft">
                {control.device.label}, fitted {day(control.device.fittedOn)}
              </p>
            </div>
          )}
          {life.gauges.length > 0 && (
            <div className="life-card">
              <h2>Gauges that measured it</h2>
              <p>
                {life.gauges.map((g, i) => (
                  <span key={g.id}>
                    {i > 0 && ' · '}
                    <Link to={`/gauges/${g.id}`}>{g.label}</Link> {g.jobs === 1 ? 'once' : `${g.jobs} times`}
                  </span>
                ))}
              </p>
            </div>
          )}
          <div className="life-card">
            <h2>Jobs</h2>
            {control.jobs.length === 0 && <p className="soft">None yet.</p>}
            <ul className="plain">
              {control.jobs.map((j) => (
                <li key={j.id}>
                  <Link to={j.signedAt ? `/jobs/${j.id}/sheet` : `/jobs/${j.id}`}>
                    {day(j.signedAt ?? j.openedAt)}
                  </Link>{' '}
                  {j.signedAt && family && j.outcome ? outcomeSaid(family, j.outcome, j.rows) : 'open'}
                  {j.proved === false && ', not proved'}
                </li>
              ))}
            </ul>
          </div>
          <LifePhotos control={control.id} may={may} />
          {life.findings.length > 0 && (
            <div className="life-card">
              <h2>Findings</h2>
              <ul className="plain">
                {life.findings.slice(0, 8).map((f) => (
                  <li key={`${f.job} ${f.message}`}>
                    <Link to={`/jobs/${f.job}/sheet`}>{day(f.at)}</Link> {f.message}
                  </li>
                ))}
              </ul>
            </div>
          )}
          {life.notes.length > 0 && (
            <div className="life-card">
              <h2>Notes</h2>
              <ul className="plain">
                {life.notes.slice(0, 8).map((n, i) => (
                  <li key={i}>
                    <Link to={`/jobs/${n.job}/sheet`}>{day(n.at)}</Link> {n.text}
                  </li>
                ))}
              </ul>
            </div>
          )}
        </section>
      </div>
      {fitting && <NewDevice control={control.id} onClose={() => setFitting(false)} />}
    </>
  );
}

function NewDevice({ control, onClose }: { control: string; onClose: () => void }) {
  const [fit] = useFitDeviceMutation();
  const [id] = useState(() => uuid());
  const keep = async (f: Fields) =>
    problemOf(
      (await fit({ control, id, body: { label: (f['label'] ?? '').trim(), fittedOn: f['fittedOn'] ?? '' } }))
        .error,
    );
  return (
    <RecordDialog
      title="A new device"
      fields={[
        { name: 'label', label: 'What it is, from its label', needed: 'Type what stands on it.', wide: true },
        { name: 'fittedOn', label: 'Fitted on', kind: 'day', needed: 'Choose the day.' },
      ]}
      values={{ label: '', fittedOn: format(new Date(), 'yyyy-MM-dd') }}
      version={0}
      onKeep={keep}
      keep="It is fitted"
      onClose={onClose}
      also={
        <p className="record-wide soft">
          What a turn does and how it drifts begin again with it. Its plan and all that was signed stay.
        </p>
      }
    />
  );
}

import {
  exerciseOf,
  levelOf,
  type Debrief,
  type DebriefLine,
  type Exercise,
  type Luck,
  type PartId,
  type RunRecord,
} from '@firm-needle/core/practice';
import type { Problem } from '@firm-needle/contract';
import { loadFamily, loadKit } from '@firm-needle/families';
import Button from '@mui/material/Button';
import { format } from 'date-fns';
import { useEffect, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { practiceHost } from '../../practice/host.ts';
import { beginRun, sendRuns } from '../../practice/runs.ts';
import { usePracticeRunQuery, usePracticeRunsQuery, useSharePracticeRunMutation } from '../../store/api.ts';
import { useMe } from '../../store/me.ts';
import { withDb } from '../../sync/db.ts';
import { Failed, Loading, NOT_HERE, partMissing, problemOf } from '../../ui/States.tsx';
import { Replay } from './Replay.tsx';
import { clock, kindTitle } from '../../practice/kinds.ts';
import '../../practice/practice.css';
import '../../practice/debrief.css';

const TITLES: Readonly<Record<PartId, string>> = {
  conclusion: 'Conclusion',
  order: 'Order',
  adjusting: 'Adjusting',
  readings: 'Readings',
  highest: 'Highest',
  verdicts: 'Verdicts',
  time: 'Time',
};

/** The run that is told: from this device, else from the server. */
function useRecord(id: string): {
  readonly record?: RunRecord;
  readonly person?: string;
  readonly missing: boolean;
  readonly problem: ReturnType<typeof problemOf>;
} {
  const [here, setHere] = useState<RunRecord | null>();
  useEffect(() => {
    void withDb((db) => db.get('practice', id)).then((kept) => setHere(kept?.record ?? null));
  }, [id]);
  const server = usePracticeRunQuery(id, { skip: here !== null });
  const record = here ?? server.data?.record;
  return {
    ...(record ? { record } : {}),
    ...(server.data ? { person: server.data.person.name } : {}),
    missing: here === null && server.isError,
    problem: problemOf(server.error),
  };
}

const NOT_TOLD: Problem = {
  status: 422,
  code: 'not-told',
  detail: 'This run cannot be told: what it was drawn from, or its log, was changed.',
  remedy: 'Begin another run.',
};

/** What a run came to, line by line. */
export function DebriefPage() {
  const { id = '' } = useParams();
  const me = useMe();
  const { record, person, missing, problem } = useRecord(id);
  const [told, setTold] = useState<{ readonly debrief: Debrief; readonly ex: Exercise }>();
  const [luck, setLuck] = useState<Luck | null>();
  const [failed, setFailed] = useState<Problem>();
  useEffect(() => {
    if (!record) return;
    let wanted = true;
    setTold(undefined);
    setLuck(undefined);
    setFailed(undefined);
    void sendRuns(me.id);
    const host = practiceHost();
    Promise.all([host.debrief(record), loadFamily(record.family), loadKit(record.family)])
      .then(async ([debrief, family, kit]) => {
        if (!wanted) return;
        setTold({ debrief, ex: exerciseOf(family, kit, record.variant) });
        // The run is told without it, too.
        const found = await host.luck(record).catch(() => null);
        if (wanted) setLuck(found);
      })
      .catch((e: unknown) => wanted && setFailed(partMissing(e) ? NOT_HERE : NOT_TOLD));
    return () => {
      wanted = false;
    };
  }, [record, me.id]);
  if (missing) return <Failed problem={problem} />;
  if (failed) return <Failed problem={failed} />;
  if (!record || !told) return <Loading what="what was so" />;
  return <Told id={id} record={record} person={person} {...told} luck={luck} />;
}

function Told({
  id,
  record,
  person,
  debrief,
  ex,
  luck,
}: {
  id: string;
  record: RunRecord;
  person: string | undefined;
  debrief: Debrief;
  ex: Exercise;
  luck: Luck | null | undefined;
}) {
  const me = useMe();
  const navigate = useNavigate();
  const [share] = useSharePracticeRunMutation();
  const own = usePracticeRunsQuery().data?.items.find((r) => r.id === id);
  const lesson = debrief.next.lesson;
  const lessonTitle = ex.family.rig.faults.find((f) => f.id === lesson)?.title;
  const [notBegun, setNotBegun] = useState(false);
  const again = (sealed?: string): void => {
    setNotBegun(false);
    const { family, variant, level, help } = record;
    void beginRun(me.id, me.name, {
      kind: sealed ? 'run' : 'lesson',
      family,
      variant,
      level,
      help,
      ...(sealed ? { sealed } : lesson ? { lesson } : {}),
    }).then(
      (run) => void navigate(`/practice/runs/${run}`),
      () => setNotBegun(true),
    );
  };
  return (
    <article className="debrief">
      <div className="page-head">
        <h1>
          <span className="practice-mark">PRACTICE</span>{' '}
          <span className="practice-name">{record.variant}</span>
        </h1>
        <span className="soft">
          {[
            kindTitle(record.family),
            levelOf(record.level).title.toLowerCase(),
            `${record.kind} of ${format(new Date(record.startedAt), 'd MMM')}`,
            ...(person ? [person] : []),
          ].join(' · ')}
        </span>
      </div>
      <div className="debrief-places">
        <div className="debrief-told">
          <p className="debrief-sentence">
            <strong className={`practice-word ${debrief.word.split(/[ ,]/)[0] ?? ''}`}>
              {capital(debrief.word)}
              {debrief.unlucky ? ', unlucky' : ''}.
            </strong>{' '}
            {debrief.sentence}
          </p>
          <Replay ex={ex} debrief={debrief} />
          <div className="acts debrief-acts">
            {lesson && (
              <Button className="primary" variant="contained" onClick={() => again()}>
                {lessonTitle ?? lesson}, as a lesson
              </Button>
            )}
            {record.kind !== 'test' && <Button onClick={() => again(record.sealed)}>Same seed again</Button>}
            {notBegun && <Failed problem={NOT_HERE} />}
            {own && record.kind !== 'test' && (
              <Button onClick={() => void share(id)} disabled={own.shared}>
                {own.shared ? 'Shown to your supervisor' : 'Show it to your supervisor'}
              </Button>
            )}
            <Link to="/practice">Practice</Link>
          </div>
          <section>
            <h2>What was so</h2>
            <ul>
              {debrief.truth.map((t) => (
                <li key={t}>{t}</li>
              ))}
            </ul>
          </section>
          {debrief.met.length > 0 && (
            <section>
              <h2>Where it showed</h2>
              <ul>
                {debrief.met.map(({ shown, how }) => (
                  <li key={shown.fault}>
                    <strong>{ex.family.rig.faults.find((f) => f.id === shown.fault)?.title}</strong>
                    {shown.title
                      ? `: ${shown.knowable ? 'first' : 'most'} at ${shown.title.toLowerCase()}, ${shown.with ?? ''} where ${shown.without ?? ''} would stand without it`
                      : ': nowhere'}
                    {shown.d < 99 && shown.d > 0 ? ` (${shown.d} times its ±)` : ''}. <em>{capital(how)}.</em>
                  </li>
                ))}
              </ul>
            </section>
          )}
          {debrief.acts.length > 0 && (
            <section>
              <h2>Safety</h2>
              <ul>
                {debrief.acts.map((a) => (
                  <li key={a.text}>
                    {a.severity === 3 ? <strong>Grave: {a.text}</strong> : a.text}
                    {a.t !== undefined && <span className="soft"> at {clock(a.t)}</span>}
                  </li>
                ))}
              </ul>
            </section>
          )}
          {(debrief.broken.length > 0 || debrief.early.length > 0) && (
            <section>
              <h2>Order and readings</h2>
              <ul>
                {debrief.broken.map((b) => (
                  <li key={b}>Not kept: {b}.</li>
                ))}
                {debrief.early.map((e) => (
                  <li key={e}>{e}</li>
                ))}
              </ul>
            </section>
          )}
        </div>
        <aside className="debrief-parts" aria-label="Parts">
          <dl>
            <Line
              title="Safety"
              text={debrief.acts.length === 0 ? 'nothing' : plural(debrief.acts.length)}
              score={debrief.safety}
            />
            {debrief.lines.map((l) => (
              <Line
                key={l.id}
                title={TITLES[l.id]}
                text={l.given ? `${l.text} · given by the help` : l.text}
                {...(l.score === undefined || l.given || (l.id === 'time' && record.kind !== 'test')
                  ? {}
                  : { score: l.score })}
                formula={FORMULAS[l.id]}
              />
            ))}
          </dl>
          {debrief.k !== undefined && (
            <p className="debrief-sum">
              <span>Sum</span> <strong className="figure">{debrief.k}</strong>
            </p>
          )}
          <p>
            <strong>Next</strong> {debrief.next.text}
          </p>
          {own && own.looks.length > 0 && (
            <p className="soft">
              Looked at by {own.looks.map((l) => `${l.by} on ${format(new Date(l.at), 'd MMM')}`).join(', ')}.
            </p>
          )}
          {own?.unfair && <p>Its draw was called unfair: {own.unfair}</p>}
          {debrief.sure && (
            <p className="soft">
              You were {Math.round(100 * debrief.sure.c)} % sure, and{' '}
              {debrief.sure.right ? 'right' : 'not right'}.
            </p>
          )}
          <p className="soft" role="status">
            {luck
              ? luckSaid(luck)
              : luck === null
                ? 'Luck: it could not be worked out here.'
                : 'Luck: working the same draw on fifty other installations …'}
          </p>
          <details>
            <summary>How it is reckoned</summary>
            <p className="soft">
              Safety is a gate and never averaged: 0 with anything grave, else 100 less 25 and 5 for each
              lesser act. The sum is 0.35 conclusion, 0.2 order, 0.15 adjusting, 0.15 readings, 0.1 highest,
              0.05 verdicts
              {record.kind === 'test' ? ', and 0.05 of time out of the conclusion’s' : ''}; what never arose
              or was given away drops out. Under 75 it is rough. Nothing lifts what was dangerous.
            </p>
          </details>
        </aside>
      </div>
    </article>
  );
}

const FORMULAS: Readonly<Record<PartId, string>> = {
  conclusion: 'half the outcome, half the findings: twice the hits over what was said and what was there',
  order: 'pairs kept over pairs met, by their weight',
  adjusting: 'moves that would do, and one, over yours and one',
  readings: 'firm counts one, early nothing, or a half where it had nearly settled',
  highest: 'what was left to the end, over what the script left',
  verdicts: 'right over all',
  time: 'one and a half times the script’s hands over yours',
};

function Line({
  title,
  text,
  score,
  formula,
}: {
  title: string;
  text: string;
  score?: DebriefLine['score'];
  formula?: string;
}) {
  return (
    <div className="debrief-line" title={formula}>
      <dt>{title}</dt>
      <dd className="soft">{text}</dd>
      <dd className="figure">{score ?? '–'}</dd>
    </div>
  );
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
const plural = (n: number): string => `${n} ${n === 1 ? 'thing' : 'things'}`;

const luckSaid = ({ of, right, here, hard }: Luck): string =>
  `Luck: ${hard ? 'a hard draw' : 'an ordinary draw'}. The scripted hand comes to what is right in ${right} of ${of} like it${here ? '' : ', and not on this one'}.`;

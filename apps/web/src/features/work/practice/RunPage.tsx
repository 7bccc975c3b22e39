import {
  exerciseOf,
  levelOf,
  sparesOf,
  type Exercise,
  type Hurt,
  type Said,
} from '@firm-needle/core/practice';
import { offerPicked } from '@firm-needle/core/procedure';
import type { Family } from '@firm-needle/core/family';
import { loadKit } from '@firm-needle/families';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { Navigate, useParams } from 'react-router';
import { PracticeContext } from '../../../practice/context.ts';
import { PracticeSession } from '../../../practice/practiceSession.ts';
import { usePracticeSource, type PracticeLive } from './usePracticeSource.ts';
import { useMe } from '../../../store/me.ts';
import type { LogSession } from '../../../sync/logSession.ts';
import { jobNow, useOpen, type OpenJob } from '../../../sync/useJob.ts';
import { Failed, Loading } from '../../../ui/States.tsx';
import { useNoRepeat } from '../../../ui/useKeys.ts';
import type { Actions } from '../useActions.ts';
import { Workplace } from '../Workplace.tsx';
import { FinishFace } from './FinishFace.tsx';
import { PickFace } from './PickFace.tsx';
import { PracticeBench } from './PracticeBench.tsx';
import { kindTitle } from '../../../practice/kinds.ts';
import '../../../practice/practice.css';

/** So far a lesson goes back at once, s. */
const BACK_S = 10;

/** The job with the step that was picked at hand; with none where nothing was. */
function picked(job: OpenJob, key: string | undefined): OpenJob {
  const offered =
    key === undefined ? undefined : offerPicked(job.family.procedure(job.view.plan), job.view, key);
  if (!offered?.now)
    return {
      ...job,
      offered: { ...job.offered, now: undefined, missing: [], permit: undefined },
      together: [],
      cautions: [],
    };
  return { ...job, offered, together: [offered.now], cautions: [...(offered.now.step.cautions ?? [])] };
}

function useExercise(family: Family | undefined, variant: string | undefined): Exercise | undefined {
  const [ex, setEx] = useState<Exercise>();
  useEffect(() => {
    if (family && variant !== undefined)
      void loadKit(family.meta.id).then((kit) => setEx(exerciseOf(family, kit, variant)));
  }, [family, variant]);
  return ex;
}

/** One run of practice: the places of a job, with what helps given away only as far as was chosen. */
export function RunPage() {
  const { id = '' } = useParams();
  const me = useMe();
  useNoRepeat();
  const session = useMemo(() => new PracticeSession(id, me.id), [id, me.id]);
  useEffect(() => session.open(), [session]);
  const base = useOpen(session);
  const record = session.kept?.record;
  const { live, reopen } = usePracticeSource(base, record);
  const ex = useExercise(base?.family, record?.variant);
  const [pick, setPick] = useState<string>();
  const [signing, setSigning] = useState(false);
  const [stayed, setStayed] = useState<Hurt>();
  const help = record?.help ?? 'full';
  const picks = help === 'no-next' || help === 'bare';
  const last = session.log.events.at(-1)?.body;
  const lastKey = last && 'at' in last ? last.at?.key : undefined;
  const count = session.log.events.length;
  useEffect(() => {
    // What was picked is done: the next is to be picked.
    setPick((key) => (key === lastKey ? undefined : key));
    setStayed(undefined);
  }, [lastKey, count]);
  const jobAt = useCallback(
    (s: LogSession, family: Family): OpenJob | undefined => {
      const job = jobNow(s, family);
      return job && picks ? picked(job, pick) : job;
    },
    [picks, pick],
  );
  const job = useMemo(() => (base && picks ? picked(base, pick) : base), [base, picks, pick]);
  if (record?.endedAt) return <Navigate to={`/practice/runs/${id}/debrief`} replace />;
  if (session.loaded && !record)
    return (
      <Failed
        problem={{
          status: 404,
          code: 'not-found',
          detail: 'This run is not on this device: a run is worked where it was begun.',
          remedy: 'Go back to Practice and begin another.',
        }}
      />
    );
  if (!job || !record) return <Loading what="the run" />;
  const deeds = async () => (await live?.rig.deeds()) ?? [];
  // Whoever moved it, a step or a hand on the bench: there a run ends. In a lesson it was not done.
  if (live)
    live.rig.onHurt = (hurt) => {
      if (record.kind === 'lesson') setStayed(hurt);
      else void over({ hurt });
    };
  const over = async (how: { said?: Said; hurt?: Hurt }): Promise<void> =>
    session.end({ ...how, deeds: await deeds() });
  const step = job.offered.now?.step;
  const signed = job.view.state.signed !== undefined;
  const face = (actions: Actions) => {
    if (signed || signing || (!picks && !step))
      return (
        <FinishFace
          job={job}
          actions={actions}
          onSaid={(said) => over({ said })}
          onBack={picks && !signed ? () => setSigning(false) : undefined}
        />
      );
    return picks && !step ? (
      <PickFace job={job} onPick={setPick} onSign={() => setSigning(true)} />
    ) : undefined;
  };
  return (
    <PracticeContext value={{ help, ...(step ? { title: step.title } : {}) }}>
      <Workplace
        job={job}
        live={live}
        onPort={undefined}
        practice={{
          jobAt,
          head: (
            <h1 className="work-title practice-head">
              <span className="practice-mark">PRACTICE</span>
              <span className="practice-name">{record.variant}</span>
              <span className="soft">
                {' '}
                · {levelOf(record.level).title.toLowerCase()} · {record.kind}
              </span>
            </h1>
          ),
          told: (
            <Told
              story={session.kept?.story ?? []}
              lesson={lessonOf(job, record.lesson)}
              kind={record.family}
            />
          ),
          ...(picks
            ? { walk: <Taken job={job} onBack={pick ? () => setPick(undefined) : undefined} /> }
            : {}),
          face,
          bench: (follow, onFollow) =>
            live && (
              <PracticeBench
                job={job}
                ex={ex}
                live={live}
                kind={record.kind}
                follow={follow}
                onFollow={picks ? undefined : onFollow}
                stayed={stayed?.text}
                onBack={() => void live.rig.back(BACK_S).then((went) => went && reopen())}
              />
            ),
          spare: (actions, close) =>
            ex && <Spare job={job} ex={ex} actions={actions} live={live} onClose={close} />,
        }}
      />
    </PracticeContext>
  );
}

const lessonOf = (job: OpenJob, lesson: string | undefined): string | undefined =>
  job.family.rig.faults.find((f) => f.id === lesson)?.title;

/** What one was told before one came. */
function Told({
  story,
  lesson,
  kind,
}: {
  story: readonly string[];
  lesson: string | undefined;
  kind: string;
}) {
  return (
    <section className="practice-told" aria-label="What you are told">
      <p className="eyebrow">{kindTitle(kind)} · you are told</p>
      {lesson && (
        <p>
          <strong>A lesson: {lesson.toLowerCase()}.</strong>
        </p>
      )}
      {story.map((line) => (
        <p key={line}>“{line}”</p>
      ))}
    </section>
  );
}

/** What was taken so far, where the order is one’s own. */
function Taken({ job, onBack }: { job: OpenJob; onBack: (() => void) | undefined }) {
  const taken = [...job.view.state.taken.entries()]
    .flatMap(([key, passes]) => [...passes.values()].flat().map((k) => ({ key, order: k.order })))
    .sort((a, b) => a.order - b.order);
  const titles = new Map(job.offered.walk.map((i) => [i.step.key, i.step.title]));
  return (
    <>
      {onBack && (
        <Button size="small" variant="text" onClick={onBack}>
          Another step
        </Button>
      )}
      <ol className="walk-steps practice-taken">
        {taken.map(({ key, order }) => (
          <li key={order} className="walk-step done">
            <span className="walk-line">{titles.get(key) ?? key.replace(/^renew:/, '')}</span>
          </li>
        ))}
      </ol>
    </>
  );
}

/** The gauge on the shelf: a sound one, which costs its zero and its time. */
function Spare({
  job,
  ex,
  actions,
  live,
  onClose,
}: {
  job: OpenJob;
  ex: Exercise;
  actions: Actions;
  live: PracticeLive | undefined;
  onClose: () => void;
}) {
  const step = job.offered.now?.step;
  const slot = step && 'slot' in step ? step.slot : (job.family.slots[0]?.id ?? '');
  const fitted = job.view.gauge(slot);
  const first = job.view.started.gauges[slot];
  const spare = sparesOf(ex)[slot];
  const back = fitted?.id === spare?.id;
  const other = back ? first : spare;
  const take = async (): Promise<void> => {
    if (!other) return;
    if (await actions.gauge(slot, other, back ? 'the first one again' : 'the one from the shelf'))
      live?.rig.fit(slot, back ? 0 : 1);
    onClose();
  };
  return (
    <Dialog open onClose={onClose}>
      <DialogTitle>Another gauge</DialogTitle>
      <DialogContent>
        <p>
          {fitted?.label} hangs there. {other?.label} lies on the shelf: same scale, its zero is to be read
          anew.
        </p>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
        <Button variant="contained" disabled={!other} onClick={() => void take()}>
          Take {other?.label}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

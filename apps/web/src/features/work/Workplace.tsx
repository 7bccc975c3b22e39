import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { rangeText, shownStep } from '@firm-needle/core/gauge';
import { showWithUnit } from '@firm-needle/core/quantity';
import { traceKindOf } from '@firm-needle/families';
import { useState, type ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { BytePort } from '../../live/serialSource.ts';
import { useAppDispatch, useAppSelector } from '../../store/index.ts';
import { tabbed, type Tab } from '../../store/ui.ts';
import type { HolderKnown, OpenJob } from '../../sync/useJob.ts';
import { Reckoner } from '../../reckoner/Reckoner.tsx';
import { Brand } from '../../ui/Brand.tsx';
import { Shortcuts } from '../../ui/Shortcuts.tsx';
import { SyncStatus } from '../../ui/SyncStatus.tsx';
import { UserMenu } from '../../ui/UserMenu.tsx';
import { useWide } from '../../ui/useWide.ts';
import { ReasonDialog } from '../../ui/ReasonDialog.tsx';
import { CorrectDialog, LeaveDialog } from './Dialogs.tsx';
import { GaugeDialog } from './GaugeDialog.tsx';
import { PlanDialog } from './PlanDialog.tsx';
import { PhotoDialog } from '../../photos/PhotoDialog.tsx';
import { Side } from './Side.tsx';
import { TraceDialog } from './TraceDialog.tsx';
import { useActions, type Actions, type JobAt } from './useActions.ts';
import type { Live } from './useLiveSource.ts';
import { useWakeLock } from './useWakeLock.ts';
import { Walk } from './Walk.tsx';
import { Centre, type Asking } from './Centre.tsx';

export interface WorkplaceProps {
  readonly job: OpenJob;
  readonly live: Live | undefined;
  /** While it is being asked who holds the job, a press waits for the answer. */
  readonly holderKnown?: HolderKnown;
  /** Given while a serial gauge waits to be connected. */
  readonly onPort: ((port: BytePort) => void) | undefined;
  /** What stands otherwise in practice. */
  readonly practice?: PracticePlaces;
}

/** What a run of practice puts in the places of a job. */
export interface PracticePlaces {
  /** How the job stands with the step that was picked. */
  readonly jobAt: JobAt;
  readonly head: ReactNode;
  /** Over the walk: what one was told. */
  readonly told: ReactNode;
  /** In place of the walk, where one picks the steps oneself. */
  readonly walk?: ReactNode;
  face(actions: Actions): ReactNode;
  bench(follow: boolean, onFollow: (follow: boolean) => void): ReactNode;
  /** The gauge is changed for the one on the shelf. */
  spare(actions: Actions, close: () => void): ReactNode;
}

export function Workplace({ job, live, holderKnown, onPort, practice }: WorkplaceProps) {
  const wide = useWide();
  const [params] = useSearchParams();
  const visit = params.get('visit') ?? undefined;
  const tab = useAppSelector((s) => s.ui.tab);
  const dispatch = useAppDispatch();
  const actions = useActions(job, live, holderKnown, practice?.jobAt);
  const [asking, setAsking] = useState<Asking>();
  const [dropped, setDropped] = useState<File>();
  useWakeLock();
  const { view, offered } = job;
  const done = offered.walk.filter((i) => i.status === 'done' || i.status === 'skipped').length;
  const show = (t: Tab): boolean => wide || tab === t;
  return (
    <div
      className={`work${wide ? ' wide' : ''}`}
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        const [file] = e.dataTransfer.files;
        // A dialog that is open takes what is dropped on it itself.
        if (!file || asking || practice || !traceKindOf(job.family.meta.id)) return;
        setDropped(file);
        setAsking('trace');
      }}
    >
      <header className="top">
        <Link to="/" className="brand" aria-label="Firm Needle, today">
          <Brand />
          {wide && <strong>Firm Needle</strong>}
        </Link>
        {practice?.head ?? (
          <h1 className="work-title">
            {wide && <span className="soft">{view.started.site.name} / </span>}
            {view.started.control.name}
          </h1>
        )}
        <span className="grow" />
        {wide && <GaugeLine job={job} />}
        <SyncStatus short={!wide} />
        {wide && <UserMenu />}
      </header>
      {show('walk') && (
        <nav className="walk" aria-label="Walk" tabIndex={0}>
          {practice?.told}
          {practice?.walk ?? (
            <Walk job={job} visit={visit} onCorrect={(item) => setAsking({ correct: item })} />
          )}
        </nav>
      )}
      {show('work') && (
        <Centre
          job={job}
          live={live}
          actions={actions}
          asked={asking !== undefined}
          onAsk={setAsking}
          onPort={onPort}
          face={practice?.face(actions)}
          told={!wide && view.state.order <= 1 ? practice?.told : undefined}
          {...(practice ? { bench: practice.bench } : {})}
        />
      )}
      {show('sheet') && <Side job={job} />}
      {!wide && (
        <nav className="tabs" aria-label="Places of the job">
          {(['walk', 'work', 'sheet'] as const).map((t) => (
            <button
              key={t}
              type="button"
              aria-current={tab === t ? 'page' : undefined}
              onClick={() => dispatch(tabbed(t))}
            >
              {t === 'walk'
                ? practice?.walk
                  ? 'Told'
                  : `Walk ${done}/${offered.walk.length}`
                : t === 'work'
                  ? 'Work'
                  : 'Sheet'}
            </button>
          ))}
        </nav>
      )}
      {asking === 'leave' && (
        <LeaveDialog job={job} onClose={() => setAsking(undefined)} onLeave={actions.leave} />
      )}
      {asking === 'note' && (
        <ReasonDialog
          title="Add a note"
          text="It stands on the sheet."
          act="Keep the note"
          onClose={() => setAsking(undefined)}
          onGive={actions.note}
        />
      )}
      {asking === 'photo' && (
        <PhotoDialog
          title="A photo of the work"
          onKeep={actions.photo}
          onClose={() => setAsking(undefined)}
        />
      )}
      {typeof asking === 'object' && 'skip' in asking && (
        <ReasonDialog
          title="I cannot do this step"
          text="Say why; it stands on the sheet."
          act="Skip the step"
          onClose={() => setAsking(undefined)}
          onGive={(text) => actions.skip(asking.skip, text)}
        />
      )}
      {asking === 'reckon' && (
        <Dialog open onClose={() => setAsking(undefined)} fullWidth maxWidth="md">
          <DialogTitle>Reckoner</DialogTitle>
          <DialogContent>
            <Reckoner
              onUse={(text) => void actions.note(text).then((kept) => kept && setAsking(undefined))}
            />
          </DialogContent>
        </Dialog>
      )}
      {asking === 'trace' && (
        <TraceDialog
          job={job}
          actions={actions}
          file={dropped}
          onClose={() => {
            setAsking(undefined);
            setDropped(undefined);
          }}
        />
      )}
      {asking === 'gauge' && practice?.spare(actions, () => setAsking(undefined))}
      {asking === 'gauge' && !practice && (
        <GaugeDialog
          job={job}
          slot={offered.now && 'slot' in offered.now.step ? offered.now.step.slot : ''}
          onClose={() => setAsking(undefined)}
          onChange={(slot, gauge, reason) =>
            void actions.gauge(slot, gauge, reason).then((kept) => kept && setAsking(undefined))
          }
        />
      )}
      {asking === 'plan' && (
        <PlanDialog job={job} onChange={actions.replan} onClose={() => setAsking(undefined)} />
      )}
      {typeof asking === 'object' && 'correct' in asking && (
        <CorrectDialog
          job={job}
          item={asking.correct}
          onCorrect={actions.correct}
          onClose={() => setAsking(undefined)}
        />
      )}
      <Shortcuts />
    </div>
  );
}

function GaugeLine({ job }: { job: OpenJob }) {
  const step = job.offered.now?.step;
  const slot = step && 'slot' in step ? step.slot : (job.family.slots[0]?.id ?? '');
  const gauge = job.view.gauge(slot);
  if (!gauge) return null;
  const zero = job.view.zero(slot);
  return (
    <span className="soft gauge-line">
      Gauge {gauge.label}, {rangeText(gauge)}
      {zero &&
        `, zero ${showWithUnit(zero.offset, { unit: gauge.unit, step: Math.min(0.1, shownStep(gauge)) })} ${Math.abs(zero.offset) > 0 ? 'carried' : ''}`}
    </span>
  );
}

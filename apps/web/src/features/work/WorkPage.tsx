import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { besideAt, predicted } from '@firm-needle/core/family';
import { rangeText, shownStep } from '@firm-needle/core/gauge';
import { skippable, type JobView, type Step, type WalkItem } from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';
import { traceKindOf } from '@firm-needle/families';
import { useEffect, useMemo, useRef, useState, type MouseEvent } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import type { BytePort } from '../../live/serialSource.ts';
import { SOURCES } from '../../live/source.ts';
import { knownPort } from '../../live/webSerial.ts';
import { useAppDispatch, useAppSelector } from '../../store/index.ts';
import { useMe } from '../../store/me.ts';
import { shortcutsShown, tabbed, type Tab } from '../../store/ui.ts';
import { deviceId } from '../../sync/db.ts';
import { useJob, type OpenJob } from '../../sync/useJob.ts';
import { Reckoner } from '../../reckoner/Reckoner.tsx';
import { Brand } from '../../ui/Brand.tsx';
import { Cautions } from '../../ui/Caution.tsx';
import { Picture } from '../../ui/picture/Picture.tsx';
import { Shortcuts } from '../../ui/Shortcuts.tsx';
import { Failed, Loading } from '../../ui/States.tsx';
import { SyncStatus } from '../../ui/SyncStatus.tsx';
import { UserMenu } from '../../ui/UserMenu.tsx';
import { useWide } from '../../ui/useWide.ts';
import { Bench } from './Bench.tsx';
import { CorrectDialog, LeaveDialog, ReasonDialog } from './Dialogs.tsx';
import { Face } from './Face.tsx';
import { GaugeDialog } from './GaugeDialog.tsx';
import { DeviceDialog, DevicePanel, TurnButton, useDrawn } from './Drawn.tsx';
import { LiveNeedle, NeedleSlot, TurnSlot } from './NextMoveCard.tsx';
import { Side } from './Side.tsx';
import { TraceDialog } from './TraceDialog.tsx';
import { lastEntry, useActions, type Actions } from './useActions.ts';
import { useLiveSource, type Live } from './useLiveSource.ts';
import { useWakeLock } from './useWakeLock.ts';
import { useWatch } from './useWatch.ts';
import { onControl, typing } from '../../ui/keys.ts';
import { useKeys, useNoRepeat } from '../../ui/useKeys.ts';
import { Connect } from './Connect.tsx';
import { SetAside } from './SetAside.tsx';
import { TimeLimits } from './TimeLimits.tsx';
import { Walk } from './Walk.tsx';

/** One job: Walk, Work and Sheet, side by side or as tabs. */
export function WorkPage() {
  const { id = '' } = useParams();
  const me = useMe();
  const { job, missing, asking } = useJob(id, me.id);
  useNoRepeat();
  const [port, setPort] = useState<BytePort>();
  const live = useLiveSource(job?.family, job?.view, port);
  const serial = job?.view.started.source === SOURCES.serial;
  useEffect(() => {
    // After a reload the browser still knows the gauge that was chosen.
    if (serial) void knownPort().then((known) => known && setPort(known));
  }, [serial]);
  const navigate = useNavigate();
  const signed = job?.view.state.signed !== undefined;
  const [wasOpen, setWasOpen] = useState(false);
  useEffect(() => {
    if (job && !signed) setWasOpen(true);
    // Signing ends the work and shows what was signed.
    if (signed && wasOpen) void navigate(`/jobs/${id}/sheet`);
  }, [job, signed, wasOpen, id, navigate]);
  if (missing)
    return (
      <Failed
        problem={{
          status: 404,
          code: 'not-found',
          detail: 'This job is not on this device, and the server does not have it or cannot be reached.',
          remedy: 'Go back to today and choose it again.',
        }}
      />
    );
  if (!job) return <Loading what="the job" />;
  return <Workplace job={job} live={live} asking={asking} onPort={serial && !port ? setPort : undefined} />;
}

type Asking =
  | 'leave'
  | 'trace'
  | 'note'
  | 'reckon'
  | 'gauge'
  | { readonly correct: WalkItem }
  | { readonly skip: WalkItem }
  | undefined;

interface WorkplaceProps {
  readonly job: OpenJob;
  readonly live: Live | undefined;
  /** It is being asked who holds the job. */
  readonly asking: boolean;
  /** Given while a serial gauge waits to be connected. */
  readonly onPort: ((port: BytePort) => void) | undefined;
}

function Workplace({ job, live, asking: askingHolder, onPort }: WorkplaceProps) {
  const wide = useWide();
  const [params] = useSearchParams();
  const visit = params.get('visit') ?? undefined;
  const tab = useAppSelector((s) => s.ui.tab);
  const dispatch = useAppDispatch();
  const actions = useActions(job, live, askingHolder);
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
        if (!file || asking || !traceKindOf(job.family.meta.id)) return;
        setDropped(file);
        setAsking('trace');
      }}
    >
      <header className="top">
        <Link to="/" className="brand" aria-label="Today">
          <Brand />
          {wide && <strong>Firm Needle</strong>}
        </Link>
        <h1 className="work-title">
          {wide && <span className="soft">{view.started.site.name} / </span>}
          {view.started.control.name}
        </h1>
        <span className="grow" />
        {wide && <GaugeLine job={job} />}
        <SyncStatus short={!wide} />
        {wide && <UserMenu />}
      </header>
      {show('walk') && <Walk job={job} visit={visit} onCorrect={(item) => setAsking({ correct: item })} />}
      {show('work') && (
        <Centre
          job={job}
          live={live}
          actions={actions}
          asked={asking !== undefined}
          onAsk={setAsking}
          onPort={onPort}
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
              {t === 'walk' ? `Walk ${done}/${offered.walk.length}` : t === 'work' ? 'Work' : 'Sheet'}
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
      {asking === 'gauge' && (
        <GaugeDialog
          job={job}
          slot={offered.now && 'slot' in offered.now.step ? offered.now.step.slot : ''}
          onClose={() => setAsking(undefined)}
          onChange={(slot, gauge, reason) =>
            void actions.gauge(slot, gauge, reason).then((kept) => kept && setAsking(undefined))
          }
        />
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

interface CentreProps {
  readonly job: OpenJob;
  readonly live: Live | undefined;
  readonly actions: Actions;
  /** A dialog is open. */
  readonly asked: boolean;
  readonly onAsk: (asking: Asking) => void;
  readonly onPort: ((port: BytePort) => void) | undefined;
}

/** A button pressed with the mouse does not take the keys from the face. */
function keepFocus(e: MouseEvent): void {
  if (onControl(e.target) && !typing(e.nativeEvent)) e.preventDefault();
}

/** The place of the gauge that a step is about: the one that it reads, or that shows what it turns. */
function placeOf(view: JobView, step: Step | undefined): string | undefined {
  if (!step) return undefined;
  if ('slot' in step) return step.slot;
  if (step.kind === 'observe') return step.watches;
  const moved = step.kind === 'turn' ? view.adjuster(step.adjuster).prior.moves[0]?.setting : undefined;
  return (moved !== undefined && view.setting(moved).slot) || undefined;
}

function Centre({ job, live, actions, asked, onAsk, onPort }: CentreProps) {
  const wide = useWide();
  const dispatch = useAppDispatch();
  const [follow, setFollow] = useState(true);
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  /** The whole device is shown, over everything. */
  const [whole, setWhole] = useState(false);
  const { family, view, offered } = job;
  const item = offered.now;
  const step = item?.step;
  const slot = placeOf(view, step) ?? live?.session.slot ?? family.slots[0]?.id ?? '';
  const gauge = view.gauge(slot);
  useWatch(job, live, slot);
  const blocked = offered.missing.length > 0;
  // With hands that follow, the rig's taps are moved as the sentence asks when the step appears.
  useEffect(() => {
    if (!follow || !live || !step || blocked || step.kind === 'confirm') return;
    for (const [handle, value] of Object.entries(step.hands ?? {})) live.rig?.set(handle, value);
  }, [follow, live, step, item?.pass, blocked]);
  const held = view.state.holder !== deviceId() && !view.state.signed;
  const undo = lastEntry(job) && !view.state.signed && !held ? () => void actions.undo() : undefined;
  useKeys({ u: undo });
  const face = useRef<HTMLDivElement>(null);
  // The keys belong to the face: what was pressed for another one, or opened a dialog, keeps no hold of Enter.
  useEffect(() => setWhole(false), [step?.key, item?.pass]);
  useEffect(() => {
    if (!asked && !whole && !face.current?.contains(document.activeElement))
      face.current?.focus({ preventScroll: true });
  }, [asked, whole, step?.key, item?.pass]);
  const expected = useMemo(() => {
    if (step?.kind === 'read') return predicted(family, view, step.setting);
    if (step?.kind === 'turn') {
      const advice = view.advice(step.adjuster);
      return advice.stop === null ? advice.expect[0] : undefined;
    }
    return undefined;
  }, [family, view, step]);
  const many = job.cautions.length > 2 && !blocked;
  const drawn = useDrawn(job);
  const typing = !live && step?.kind === 'read' && !blocked && !held;
  const zero = view.zero(slot)?.offset ?? 0;
  const setting = step?.kind === 'read' ? step.setting : undefined;
  const needle = live && (
    <LiveNeedle
      live={live}
      gauge={gauge}
      zero={zero}
      {...(setting ? { beside: (pa: number) => besideAt(family, view, setting, pa) } : {})}
    />
  );
  return (
    <main className="centre" aria-label="Work" onMouseDown={keepFocus}>
      {!wide && !many && needle}
      {many ? (
        <div className="centre-cautions">
          <Cautions all={family.cautions} keys={job.cautions} />
        </div>
      ) : (
        !(typing && !wide) && (
          <div className="centre-picture">
            <Picture
              family={family}
              plan={view.plan}
              job={view}
              live={live?.session}
              gauge={gauge}
              expected={expected}
              compact={!wide}
            />
            {wide && <DevicePanel drawn={drawn} />}
          </div>
        )
      )}
      <SetAside job={job} actions={actions} held={held} />
      {actions.trouble && (
        <p className="caution trouble" role="alert">
          <span>{actions.trouble.text}</span>{' '}
          <Button size="small" variant="text" onClick={actions.dismiss}>
            Understood
          </Button>
        </p>
      )}
      <div className="face" ref={face} tabIndex={-1} aria-busy={actions.settling}>
        <TimeLimits job={job} live={live} item={item} actions={actions} />
        <NeedleSlot value={wide && needle ? needle : null}>
          <TurnSlot
            value={!wide && drawn.turn ? <TurnButton drawn={drawn} onOpen={() => setWhole(true)} /> : null}
          >
            <Face
              job={job}
              live={live}
              actions={actions}
              held={held}
              apart={many}
              onStop={() => onAsk('leave')}
            />
          </TurnSlot>
        </NeedleSlot>
      </div>
      {onPort && <Connect onPort={onPort} />}
      <div className="centre-foot">
        {undo && (
          <Button size="small" variant="text" onClick={undo}>
            Undo last {wide && <kbd>U</kbd>}
          </Button>
        )}
        <Button size="small" variant="text" aria-haspopup="dialog" onClick={() => setWhole(true)}>
          Device
        </Button>
        <Button size="small" variant="text" aria-haspopup="menu" onClick={(e) => setMenu(e.currentTarget)}>
          More
        </Button>
        <Menu
          anchorEl={menu}
          open={menu !== null}
          onClose={() => setMenu(null)}
          onClick={() => setMenu(null)}
        >
          <MenuItem onClick={() => onAsk('note')}>Add a note</MenuItem>
          <MenuItem onClick={() => onAsk('reckon')}>Reckoner</MenuItem>
          {traceKindOf(family.meta.id) && (
            <MenuItem onClick={() => onAsk('trace')}>Read a logger’s file</MenuItem>
          )}
          <MenuItem onClick={() => onAsk('gauge')}>Change the gauge</MenuItem>
          {step && skippable(step) && (
            <MenuItem disabled={!item} onClick={() => item && onAsk({ skip: item })}>
              I cannot do this step
            </MenuItem>
          )}
          <MenuItem onClick={() => onAsk('leave')}>End the job here</MenuItem>
          <MenuItem onClick={() => dispatch(shortcutsShown(true))}>Keys</MenuItem>
        </Menu>
      </div>
      {whole && <DeviceDialog drawn={drawn} onClose={() => setWhole(false)} />}
      {live?.rig && (
        <Bench family={family} live={live} rig={live.rig} item={item} follow={follow} onFollow={setFollow} />
      )}
    </main>
  );
}

import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { besideAt, predicted } from '@firm-needle/core/family';
import { skippable, type JobView, type Step, type WalkItem } from '@firm-needle/core/procedure';
import { traceKindOf } from '@firm-needle/families';
import { useEffect, useMemo, useRef, useState, type MouseEvent, type ReactNode } from 'react';
import type { BytePort } from '../../live/serialSource.ts';
import { useAppDispatch } from '../../store/index.ts';
import { shortcutsShown } from '../../store/ui.ts';
import { deviceId } from '../../sync/db.ts';
import { type OpenJob } from '../../sync/useJob.ts';
import { Cautions } from '../../ui/Caution.tsx';
import { Picture } from '../../ui/picture/Picture.tsx';
import { useWide } from '../../ui/useWide.ts';
import { Bench } from './Bench.tsx';
import { Face } from './Face.tsx';
import { DeviceDialog, DevicePanel, TurnButton, useDrawn } from './Drawn.tsx';
import { LiveNeedle, NeedleSlot, TurnSlot } from './NextMoveCard.tsx';
import { lastEntry, type Actions } from './useActions.ts';
import { type Live } from './useLiveSource.ts';
import { useWatch } from './useWatch.ts';
import { onControl, typing } from '../../ui/keys.ts';
import { useKeys } from '../../ui/useKeys.ts';
import { Connect } from './Connect.tsx';
import { SetAside } from './SetAside.tsx';
import { TimeLimits } from './TimeLimits.tsx';
import { usePractised } from '../../practice/context.ts';

/** What is asked about the job, over everything. */
export type Asking =
  | 'leave'
  | 'trace'
  | 'note'
  | 'photo'
  | 'reckon'
  | 'gauge'
  | 'plan'
  | { readonly correct: WalkItem }
  | { readonly skip: WalkItem }
  | undefined;

interface CentreProps {
  readonly job: OpenJob;
  readonly live: Live | undefined;
  readonly actions: Actions;
  /** A dialog is open. */
  readonly asked: boolean;
  readonly onAsk: (asking: Asking) => void;
  readonly onPort: ((port: BytePort) => void) | undefined;
  /** In place of the face of a step: what is picked, or how it is signed in practice. */
  readonly face?: ReactNode;
  /** Over all: what one was told. */
  readonly told?: ReactNode;
  /** The bench of practice, in place of the usual one. */
  readonly bench?: (follow: boolean, onFollow: (follow: boolean) => void) => ReactNode;
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

/** The middle place: picture, device, needle, and the face of the present step. */
export function Centre({
  job,
  live,
  actions,
  asked,
  onAsk,
  onPort,
  face: own,
  told: story,
  bench,
}: CentreProps) {
  const wide = useWide();
  const dispatch = useAppDispatch();
  const practised = usePractised();
  const picks = practised?.help === 'no-next' || practised?.help === 'bare';
  // Who picks the steps works the taps as well.
  const [follow, setFollow] = useState(!picks);
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
  const told = !practised || practised.help === 'full';
  const expected = useMemo(() => {
    if (!told) return undefined;
    if (step?.kind === 'read') return predicted(family, view, step.setting);
    if (step?.kind === 'turn') {
      const advice = view.advice(step.adjuster);
      return advice.stop === null ? advice.expect[0] : undefined;
    }
    return undefined;
  }, [family, view, step, told]);
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
      {story}
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
            {own ?? (
              <Face
                job={job}
                live={live}
                actions={actions}
                held={held}
                apart={many}
                onStop={() => onAsk('leave')}
                onPlan={() => onAsk('plan')}
              />
            )}
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
          {!practised && <MenuItem onClick={() => onAsk('photo')}>Add a photo</MenuItem>}
          <MenuItem onClick={() => onAsk('reckon')}>Reckoner</MenuItem>
          {!practised && traceKindOf(family.meta.id) && (
            <MenuItem onClick={() => onAsk('trace')}>Read a logger’s file</MenuItem>
          )}
          <MenuItem onClick={() => onAsk('gauge')}>Change the gauge</MenuItem>
          {!practised && (
            <MenuItem disabled={held} onClick={() => onAsk('plan')}>
              Change the plan
            </MenuItem>
          )}
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
      {live?.rig && bench?.(follow, setFollow)}
      {live?.rig && !bench && (
        <Bench
          family={family}
          plan={view.plan}
          live={live}
          rig={live.rig}
          item={item}
          follow={follow}
          onFollow={setFollow}
        />
      )}
    </main>
  );
}

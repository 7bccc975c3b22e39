import Button from '@mui/material/Button';
import { sayAmount, sayStep } from '@firm-needle/core/family';
import { byQuantity, type Seek, type TurnStep } from '@firm-needle/core/procedure';
import { useEffect, useRef, useState } from 'react';
import { cue } from '../../../live/cues.ts';
import { useLive } from '../../../live/useLive.ts';
import { useAppSelector } from '../../../store/index.ts';
import { NextMoveCard } from '../NextMoveCard.tsx';
import { SETTLE_MS } from '../useActions.ts';
import type { FaceProps } from './types.ts';
import { useKeys } from '../../../ui/useKeys.ts';

/** How often it is looked whether a movement has settled. */
const LOOK_MS = 100;

/** One small movement after the other until the meter changes: counted here, so that eyes can stay on the meter. */
export function SeekFace({
  job,
  item,
  actions,
  step,
  live,
  seek,
  onStop,
}: FaceProps & { step: TurnStep; seek: Seek; onStop: () => void }) {
  useLive(live?.session, 80, () => `${live?.session.channels[seek.channel]}`);
  const sound = useAppSelector((s) => s.ui.sound);
  const [times, setTimes] = useState(0);
  const by = seek.by ?? 1;
  const count = times * by;
  const moved = useRef(-Infinity);
  const clock = (): number => (live?.rig ? live.session.time : performance.now() / 1000);
  const settling = clock() - moved.current < (seek.settles_s ?? 0);
  const [, look] = useState(0);
  useEffect(() => {
    if (!settling) return;
    const timer = setInterval(() => look((n) => n + 1), LOOK_MS);
    return () => clearInterval(timer);
  }, [settling]);
  const def = job.view.adjuster(step.adjuster);
  const way = def.ways[seek.way > 0 ? 0 : 1];
  const shown = live?.session.channels[seek.channel];
  const came = shown === seek.to;
  useEffect(() => {
    if (came) cue('caught', sound);
  }, [came, sound]);
  /** A press that comes twice was meant for the movement, not for what its button says once there is none left. */
  const pressed = useRef(-Infinity);
  const finish = (reached: boolean): void => {
    const amount = count * seek.way;
    void actions.sought(item, step.adjuster, amount, sayAmount(def, amount), reached);
  };
  const click = (): void => {
    if (settling) return;
    moved.current = clock();
    pressed.current = performance.now();
    live?.rig?.turn(step.adjuster, seek.way * by);
    setTimes(times + 1);
  };
  // So far as it is sought: it has not come, and no further movement is offered.
  const far = count >= seek.most && !came && !settling;
  const giveUp = (): void => {
    if (performance.now() - pressed.current > SETTLE_MS) finish(false);
  };
  const next = came ? () => finish(true) : far ? giveUp : click;
  useKeys({ ' ': next, Enter: () => (came || (!live && !far) ? finish(true) : next()) });
  const counted = (n: number): string => sayAmount(def, n * by * seek.way);
  const one = by === 1 ? `One ${def.unit} ${way}` : counted(1);
  return (
    <>
      <NextMoveCard move={sayStep(job.family, job.view, step)}>
        <p className="figure clock" role="status">
          {times === 0 && !byQuantity(def) ? `0 ${def.unit}s ${way}` : counted(times)}
        </p>
      </NextMoveCard>
      <div className="acts">
        <Button
          className={`primary${came ? ' ready' : ''}`}
          variant="contained"
          disabled={settling && !came}
          onClick={next}
        >
          {came
            ? `${seek.title} after ${counted(times)}`
            : settling
              ? 'Wait: settling'
              : far
                ? seek.ended
                : one}{' '}
          <kbd>Space</kbd>
        </Button>
        {shown === undefined && (
          <Button onClick={() => finish(true)}>
            {seek.title} <kbd>Enter</kbd>
          </Button>
        )}
        {times > 0 && !came && (
          <Button
            onClick={() => {
              live?.rig?.turn(step.adjuster, -seek.way * by);
              setTimes(times - 1);
            }}
          >
            One back
          </Button>
        )}
        {!far && (
          <Button onClick={() => finish(false)} disabled={came}>
            {seek.ended}
          </Button>
        )}
        <Button onClick={onStop}>Stop here</Button>
      </div>
    </>
  );
}

import Button from '@mui/material/Button';
import { sayMissing, sayStep } from '@firm-needle/core/family';
import type { ConfirmStep, CountStep, Missing, WaitStep } from '@firm-needle/core/procedure';
import { useEffect, useRef, useState } from 'react';
import { cue } from '../../../live/cues.ts';
import { useAppSelector } from '../../../store/index.ts';
import { Cautions } from '../../../ui/Caution.tsx';
import { NextMoveCard } from '../NextMoveCard.tsx';
import { SETTLE_MS } from '../useActions.ts';
import type { Live } from '../useLiveSource.ts';
import type { FaceProps } from './types.ts';
import { useKeys } from '../../../ui/useKeys.ts';

/** Do it, and say that it is done; what joins it is listed under it and answered by the same press. */
export function ConfirmFace({ job, actions, step }: FaceProps & { step: ConfirmStep }) {
  const [, ...more] = job.together;
  const done = (): void => void actions.allDone(job.together);
  useKeys({ Enter: done });
  return (
    <>
      <NextMoveCard move={sayStep(job.family, job.view, step)}>
        {more.length > 0 && (
          <ol className="move-more" start={2}>
            {more.map((i) => (
              <li key={i.step.key}>{sayStep(job.family, job.view, i.step).say}</li>
            ))}
          </ol>
        )}
      </NextMoveCard>
      <div className="acts">
        <Button className="primary" variant="contained" onClick={done}>
          {more.length === 0
            ? (step.act ?? 'Done')
            : more.length === 1
              ? 'Both done'
              : `All ${more.length + 1} done`}{' '}
          <kbd>Enter</kbd>
        </Button>
      </div>
    </>
  );
}

/** An interlock that is not satisfied: what is missing, and its own confirmation; never by the key that goes on. */
export function MissingFace({ job, item, actions, missing }: FaceProps & { missing: Missing }) {
  const done = (): void => void actions.renew(missing, item);
  useKeys({ i: done });
  return (
    <>
      <Cautions all={job.family.cautions} keys={missing.cautions} />
      <NextMoveCard move={sayMissing(missing)} always />
      <div className="acts">
        <Button
          className="primary"
          variant="contained"
          onClick={done}
          onKeyDown={(e) => e.key === 'Enter' && e.preventDefault()}
        >
          {missing.title} <kbd>I</kbd>
        </Button>
      </div>
    </>
  );
}

/** Seconds since a face appeared: on the live source's own clock, or on the monotonic clock where there is none. */
function useSeconds(key: string, live: Live | undefined): number {
  const [seconds, setSeconds] = useState(0);
  // Only a simulated source has a clock of its own that may be hurried; a silent gauge must not stop a wait.
  const session = live?.rig && live.session;
  useEffect(() => {
    const clock = (): number => (session ? session.time : performance.now() / 1000);
    let from = clock();
    setSeconds(0);
    const t = setInterval(() => {
      // A source that has not spoken yet has no clock to begin at.
      if (from === 0) from = clock();
      setSeconds(clock() - from);
    }, 250);
    return () => clearInterval(t);
  }, [key, session]);
  return seconds;
}

export function WaitFace({ job, item, actions, step, live }: FaceProps & { step: WaitStep }) {
  const sound = useAppSelector((s) => s.ui.sound);
  const seconds = useSeconds(`${item.step.key} ${item.pass}`, live);
  const over = seconds >= step.seconds;
  useEffect(() => {
    if (over) cue('timer', sound);
  }, [over, sound]);
  const done = (): void => void actions.done(item, { seconds });
  useKeys({ Enter: over ? done : undefined });
  return (
    <>
      <NextMoveCard move={sayStep(job.family, job.view, step)}>
        <p className="figure clock" role="timer">
          {clockText(Math.max(0, Math.ceil(step.seconds - seconds)))}
        </p>
      </NextMoveCard>
      <div className="acts">
        <Button className="primary" variant="contained" disabled={!over} onClick={done}>
          {over ? (
            <>
              Go on <kbd>Enter</kbd>
            </>
          ) : (
            'Wait'
          )}
        </Button>
      </div>
    </>
  );
}

/** `45 s`, `19:07`. */
export const clockText = (s: number): string =>
  s < 100 ? `${s} s` : `${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')}`;

export function CountFace({ job, item, actions, step }: FaceProps & { step: CountStep }) {
  const [count, setCount] = useState(0);
  const all = count >= step.times;
  const pressed = useRef(-Infinity);
  /** A second press within a moment is the same one: it neither counts nor ends. */
  const once = (act: () => void): void => {
    const now = performance.now();
    if (now - pressed.current < SETTLE_MS) return;
    pressed.current = now;
    act();
  };
  const one = (): void => once(() => setCount(count + 1));
  const done = (): void => once(() => void actions.done(item, { count }));
  useKeys({ ' ': all ? undefined : one, Enter: all ? done : undefined });
  return (
    <>
      <NextMoveCard move={sayStep(job.family, job.view, step)}>
        <p className="figure clock">
          {count} of {step.times}
        </p>
      </NextMoveCard>
      <div className="acts">
        <Button className="primary" variant="contained" onClick={all ? done : one}>
          {all ? 'Done' : 'Once'} <kbd>{all ? 'Enter' : 'Space'}</kbd>
        </Button>
      </div>
    </>
  );
}

export { useSeconds };

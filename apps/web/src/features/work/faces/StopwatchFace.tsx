import Button from '@mui/material/Button';
import { sayStep } from '@firm-needle/core/family';
import type { ObserveStep, Stopwatch } from '@firm-needle/core/procedure';
import { useEffect, useRef, useState } from 'react';
import { cue } from '../../../live/cues.ts';
import { useAppSelector } from '../../../store/index.ts';
import { NextMoveCard } from '../NextMoveCard.tsx';
import type { FaceProps } from './types.ts';
import { useKeys } from '../../../ui/useKeys.ts';

const TICK_MS = 50;

/** How long something takes, judged against its limit: started and stopped by hand, or stopped by what a live source shows. */
export function StopwatchFace({
  job,
  item,
  actions,
  step,
  live,
  watch,
}: FaceProps & { step: ObserveStep; watch: Stopwatch }) {
  const sound = useAppSelector((s) => s.ui.sound);
  const [from, setFrom] = useState<number>();
  const [seconds, setSeconds] = useState(0);
  const [stopped, setStopped] = useState<number>();
  const [came, never] = step.choices;
  const session = live?.rig && live.session;
  const clock = (): number => (session ? session.time : performance.now() / 1000);
  const read = useRef(clock);
  read.current = clock;
  const over = seconds > watch.limit_s;
  useEffect(() => {
    if (from === undefined || stopped !== undefined) return;
    const timer = setInterval(() => setSeconds(read.current() - from), TICK_MS);
    // A source that shows the contact stops the watch at the very block that it changed in.
    const end = live?.session.subscribe(() => {
      if (live.session.channels[watch.channel] === watch.to) setStopped(read.current() - from);
    });
    return () => {
      clearInterval(timer);
      end?.();
    };
  }, [from, stopped, live, watch]);
  useEffect(() => {
    if (over && stopped === undefined) cue('timer', sound);
  }, [over, stopped, sound]);
  useEffect(() => {
    if (stopped !== undefined) cue('caught', sound);
  }, [stopped, sound]);
  const start = (): void => {
    for (const [handle, value] of Object.entries(watch.hands)) live?.rig?.set(handle, value);
    setSeconds(0);
    setFrom(clock());
  };
  const keep = (s: number): void => {
    if (came) void actions.instead(item, came, undefined, Math.max(0, Math.round(s * 100) / 100));
  };
  const press =
    from === undefined ? start : () => (stopped === undefined ? keep(clock() - from) : keep(stopped));
  useKeys({ ' ': press });
  const shown = stopped ?? seconds;
  return (
    <>
      <NextMoveCard move={sayStep(job.family, job.view, step)}>
        <p className={`figure stopwatch${shown > watch.limit_s ? ' over' : ''}`} role="timer">
          {shown.toFixed(1)} s <span className="soft">of {watch.limit_s} s</span>
        </p>
      </NextMoveCard>
      <div className="acts">
        <Button
          className={`primary${stopped !== undefined ? ' ready' : ''}`}
          variant="contained"
          onClick={press}
        >
          {from === undefined
            ? watch.start
            : stopped === undefined
              ? watch.title
              : `${watch.title}: ${stopped.toFixed(1)} s`}{' '}
          <kbd>Space</kbd>
        </Button>
        {from !== undefined && stopped === undefined && never && (
          <Button onClick={() => actions.instead(item, never, undefined, seconds)}>{never.title}</Button>
        )}
      </div>
    </>
  );
}

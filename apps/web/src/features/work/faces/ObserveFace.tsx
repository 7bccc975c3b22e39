import Button from '@mui/material/Button';
import { sayStep } from '@firm-needle/core/family';
import type { Choice, ObserveStep } from '@firm-needle/core/procedure';
import { Keypad } from '../../../ui/Keypad.tsx';
import { shownAs } from '@firm-needle/core/gauge';
import { useEffect, useState } from 'react';
import { cue } from '../../../live/cues.ts';
import { useAppSelector } from '../../../store/index.ts';
import { NextMoveCard } from '../NextMoveCard.tsx';
import { useSeconds } from './simple.tsx';
import { letter } from '../../../ui/keys.ts';
import { DisplayFace } from './DisplayFace.tsx';
import { StopwatchFace } from './StopwatchFace.tsx';
import type { FaceProps } from './types.ts';
import { usePractised } from '../../../practice/context.ts';
import { useKeys } from '../../../ui/useKeys.ts';

/** Look, and choose what was seen; the advised answer first, and a clock where watching takes time. */
export function ObserveFace(props: FaceProps & { step: ObserveStep }) {
  const { step } = props;
  if (step.stopwatch) return <StopwatchFace {...props} watch={step.stopwatch} />;
  return step.shows ? <DisplayFace {...props} display={step.shows} /> : <LookFace {...props} />;
}

function LookFace({ job, item, actions, step, live }: FaceProps & { step: ObserveStep }) {
  const sound = useAppSelector((s) => s.ui.sound);
  const seconds = useSeconds(`${step.key} ${item.pass}`, live);
  const watch = step.seconds;
  const left = watch === undefined ? 0 : Math.max(0, Math.ceil(watch - seconds));
  const over = watch !== undefined && left === 0;
  useEffect(() => {
    if (over) cue('timer', sound);
  }, [over, sound]);
  const practised = usePractised();
  // In practice answers are one’s own: none is marked, and their order says nothing.
  const advised = practised ? undefined : step.choices.find((c) => c.advised?.(job.view));
  const ordered = [...step.choices].sort((a, b) => Number(b === advised) - Number(a === advised));
  const [typing, setTyping] = useState<Choice>();
  const gauge = step.watches === undefined ? undefined : job.view.gauge(step.watches);
  const answer = (c: Choice): void => {
    const t = watch && seconds;
    if (!c.withPressure || !gauge || step.watches === undefined)
      return void actions.instead(item, c, undefined, t);
    // What stands there goes with the answer: off a live gauge at once, off any other typed.
    const p = live?.session.now(step.watches)?.p;
    if (p === undefined) setTyping(c);
    else void actions.instead(item, c, shownAs(gauge, p), t);
  };
  const ready = advised !== undefined && left === 0;
  const keyOf = (c: Choice, i: number): string => (c === advised && ready ? 'Enter' : letter(i));
  // While a pressure is typed, keys are the pad's alone.
  useKeys(
    typing
      ? {}
      : {
          Enter: ready ? () => answer(advised) : undefined,
          ...Object.fromEntries(ordered.map((c, i) => [letter(i).toLowerCase(), () => answer(c)])),
        },
  );
  if (typing && gauge)
    return (
      <Keypad
        title={`${typing.title}: at what pressure?`}
        say={sayStep(job.family, job.view, step).say}
        gauge={gauge}
        family={job.family}
        job={job.view}
        onKeep={({ text, unit, value }) =>
          void actions.instead(item, typing, { text, unit, value }, watch && seconds)
        }
        onCancel={() => setTyping(undefined)}
      />
    );
  return (
    <>
      <NextMoveCard move={sayStep(job.family, job.view, step)}>
        {watch !== undefined && (
          <p className="figure clock" role="timer">
            {left > 0
              ? `${left} s to watch${live ? ' (or step the bench’s clock)' : ''}; an answer before that stands as early`
              : 'Watched long enough'}
          </p>
        )}
      </NextMoveCard>
      <div className="acts">
        {ordered.map((c, i) => (
          <Button
            key={c.code}
            className={c === advised ? 'primary' : ''}
            variant={c === advised ? 'contained' : 'outlined'}
            aria-keyshortcuts={keyOf(c, i)}
            onClick={() => answer(c)}
          >
            {c.title} <kbd aria-hidden>{keyOf(c, i)}</kbd>
          </Button>
        ))}
      </div>
    </>
  );
}

import Button from '@mui/material/Button';
import { shownAs } from '@firm-needle/core/gauge';
import { sayStep } from '@firm-needle/core/family';
import { instrumentOf, type Choice, type Display, type ObserveStep } from '@firm-needle/core/procedure';
import { useState } from 'react';
import { useLive } from '../../../live/useLive.ts';
import { Keypad } from '../../../ui/Keypad.tsx';
import { NextMoveCard } from '../NextMoveCard.tsx';
import type { FaceProps } from './types.ts';
import { letter } from '../../../ui/keys.ts';
import { useSeconds } from './simple.tsx';
import { useKeys } from '../../../ui/useKeys.ts';

/** A figure read off something that is no gauge of ours: a drive's display, a tachometer. */
export function DisplayFace({
  job,
  item,
  actions,
  step,
  live,
  display,
}: FaceProps & { step: ObserveStep; display: Display }) {
  useLive(live?.session, 300);
  const seconds = useSeconds(`${step.key} ${item.pass}`, live);
  const left = Math.max(0, Math.ceil((step.seconds ?? 0) - seconds));
  const shown = live?.session.channels[display.channel];
  const [typing, setTyping] = useState(false);
  const instrument = instrumentOf(display);
  const [choice, ...others] = step.choices;
  const answer = (c: Choice): void => void actions.instead(item, c);
  const other = others.map((c, i) => (
    <Button key={c.code} aria-keyshortcuts={letter(i + 1)} onClick={() => answer(c)}>
      {c.title} <kbd aria-hidden>{letter(i + 1)}</kbd>
    </Button>
  ));
  const value = shown === undefined ? undefined : shownAs(instrument, shown);
  const take = value && choice && left === 0 ? () => void actions.instead(item, choice, value) : undefined;
  const keypad = typing || value === undefined;
  useKeys({
    Enter: keypad ? undefined : take,
    ...Object.fromEntries(
      others.map((c, i) => [letter(i + 1).toLowerCase(), keypad ? undefined : () => answer(c)]),
    ),
  });
  return (
    <>
      <NextMoveCard move={sayStep(job.family, job.view, step)}>
        {left > 0 && (
          <p className="figure clock" role="timer">
            {left} s to watch
          </p>
        )}
      </NextMoveCard>
      {keypad ? (
        <>
          <Keypad
            title={display.title}
            say={sayStep(job.family, job.view, step).say}
            gauge={instrument}
            from="read off it"
            family={job.family}
            job={job.view}
            onKeep={({ text, unit, value: typed }) =>
              choice && void actions.instead(item, choice, { text, unit, value: typed })
            }
            onCancel={() => setTyping(false)}
          />
          {others.length > 0 && <div className="acts">{other}</div>}
        </>
      ) : (
        <div className="acts">
          <Button className="primary" variant="contained" disabled={!take} onClick={take}>
            {display.title} {value?.text} <kbd>Enter</kbd>
          </Button>
          <Button onClick={() => setTyping(true)}>Type it</Button>
          {other}
        </div>
      )}
    </>
  );
}

import Button from '@mui/material/Button';
import { sayStep } from '@firm-needle/core/family';
import { shownAs, spanOf, zeroLimit, type Gauge } from '@firm-needle/core/gauge';
import type { AsTyped, ZeroStep } from '@firm-needle/core/procedure';
import { useState } from 'react';
import { useLive } from '../../../live/useLive.ts';
import { asShown, Keypad } from '../../../ui/Keypad.tsx';
import { NextMoveCard } from '../NextMoveCard.tsx';
import { ownReading } from '../useWatch.ts';
import type { FaceProps } from './types.ts';
import { useKeys } from '../../../ui/useKeys.ts';

/** Typing the zero as it reads, the zero before the needle was set, or what it shows once set. */
type Typing = 'carried' | 'before' | 'after';

/** A gauge open to air: what it shows is carried as a correction, or the needle is set and read once more. */
export function ZeroFace({ job, item, live, actions, step }: FaceProps & { step: ZeroStep }) {
  const gauge = job.view.gauge(step.slot);
  const now = ownReading(
    useLive(live?.session, 80, (n) => {
      const own = n && ownReading(n, item, step.slot);
      return own && gauge ? `${asShown(gauge, own.p)} ${own.firmness.state}` : '';
    }),
    item,
    step.slot,
  );
  const [typing, setTyping] = useState<Typing>();
  /** What it showed before the screw was touched. */
  const [before, setBefore] = useState<AsTyped>();
  const shown = gauge && now ? shownAs(gauge, now.p) : undefined;
  const firm = live === undefined || now?.firmness.state === 'firm';
  const carry = (): void => {
    if (gauge && shown) void actions.zero(item, step.slot, shown, undefined);
    else if (gauge && !live) void actions.zero(item, step.slot, shownAs(gauge, 0), undefined);
  };
  const set = (): void => {
    if (!live) return setTyping('before');
    if (!shown) return;
    setBefore(shown);
    live.rig?.zero(step.slot);
  };
  const keepSet = (): void => {
    if (before && shown) void actions.zero(item, step.slot, before, shown);
  };
  useKeys({
    z: typing ? undefined : before ? keepSet : carry,
    a: typing || before || !firm ? undefined : set,
    k: typing ? undefined : () => setTyping(before ? 'after' : 'carried'),
  });
  if (!gauge) return null;
  if (typing)
    return (
      <Keypad
        key={typing}
        title={TITLES[typing]}
        say={typing === 'carried' ? sayStep(job.family, job.view, step).say : undefined}
        gauge={gauge}
        family={job.family}
        job={job.view}
        {...(typing === 'before' ? {} : { zeroOf: step.slot })}
        initial={typing === 'after' ? '0' : ''}
        keepLabel={
          typing === 'carried' ? 'Carry it as a correction' : typing === 'before' ? 'Now set it' : 'Keep it'
        }
        onKeep={(t) => {
          const value: AsTyped = { text: t.text, unit: t.unit, value: t.value };
          if (typing === 'carried') return void actions.zero(item, step.slot, value, undefined);
          if (typing === 'after' && before) return void actions.zero(item, step.slot, before, value);
          setBefore(value);
          setTyping('after');
        }}
        onCancel={() => {
          setTyping(undefined);
          if (!live) setBefore(undefined);
        }}
      />
    );
  if (before && live)
    return (
      <>
        <NextMoveCard
          move={{
            say: `The screw was turned until the needle of ${gauge.label} rests as near zero as it will.`,
            why: `It showed ${before.text} before. What it shows now is kept beside that.`,
          }}
        >
          {shown && firm && <Unfit gauge={gauge} value={shown.value} set />}
        </NextMoveCard>
        <div className="acts">
          <Button className="primary" variant="contained" disabled={!firm} onClick={keepSet}>
            {firm && shown ? `It now shows ${asShown(gauge, shown.value)}, keep it` : 'Wait: settling'}{' '}
            <kbd>Z</kbd>
          </Button>
          <Button onClick={() => setTyping('after')}>Type it</Button>
        </div>
      </>
    );
  const off = shown !== undefined && Math.abs(shown.value) > spanOf(gauge).readableStep / 4;
  const setFirst = step.adjust === true && (off || !live);
  return (
    <>
      <NextMoveCard move={sayStep(job.family, job.view, step)}>
        {shown && <Unfit gauge={gauge} value={shown.value} />}
      </NextMoveCard>
      <div className="acts">
        <Button
          className={setFirst ? '' : 'primary'}
          variant={setFirst ? 'outlined' : 'contained'}
          disabled={!firm}
          onClick={carry}
        >
          {!live
            ? 'It reads zero'
            : firm && shown
              ? `Zero ${asShown(gauge, shown.value)}, carry it`
              : 'Wait: settling'}{' '}
          <kbd>Z</kbd>
        </Button>
        <Button
          className={setFirst ? 'primary' : ''}
          variant={setFirst ? 'contained' : 'outlined'}
          disabled={!firm}
          aria-keyshortcuts="A"
          onClick={set}
        >
          I set it to zero <kbd aria-hidden>A</kbd>
        </Button>
        <Button onClick={() => setTyping('carried')}>{live ? 'Type it' : 'It reads otherwise'}</Button>
      </div>
    </>
  );
}

const TITLES: Readonly<Record<Typing, string>> = {
  carried: 'Zero as it reads',
  before: 'Zero before it is set',
  after: 'What it shows once set',
};

function Unfit({ gauge, value, set = false }: { gauge: Gauge; value: number; set?: boolean }) {
  if (Math.abs(value) <= zeroLimit(gauge)) return null;
  return (
    <p className="caution">
      <strong>Too far off zero for this gauge.</strong>{' '}
      {set
        ? 'A pointer that will not come to zero is bent, or the movement is worn: the gauge is unfit.'
        : 'Set it to zero if it can be; otherwise use another gauge.'}
    </p>
  );
}

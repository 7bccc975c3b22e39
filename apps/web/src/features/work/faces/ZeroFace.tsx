import Button from '@mui/material/Button';
import { sayStep, zeroLimit, type ZeroStep } from '@firm-needle/core';
import { useState } from 'react';
import { useLive } from '../../../live/useLive.ts';
import { asShown, Keypad } from '../../../ui/Keypad.tsx';
import { NextMoveCard } from '../NextMoveCard.tsx';
import { shownAs } from '../useActions.ts';
import { ownReading } from '../useWatch.ts';
import type { FaceProps } from './types.ts';
import { useKeys } from './useKeys.ts';

/** A gauge open to air: what it shows is carried as a correction, or the needle is set to zero. */
export function ZeroFace({ job, item, live, actions, step }: FaceProps & { step: ZeroStep }) {
  const now = ownReading(useLive(live?.session), item, step.slot);
  const [typing, setTyping] = useState<'carried' | 'adjusted'>();
  const gauge = job.view.gauge(step.slot);
  const shown = gauge && now ? shownAs(gauge, now.p) : undefined;
  const take = (handling: 'carried' | 'adjusted'): void => {
    if (gauge && shown) actions.zero(item, gauge, step.slot, shown, handling);
    else if (!live) setTyping(handling);
  };
  useKeys({
    z: typing ? undefined : () => take('carried'),
    k: typing ? undefined : () => setTyping('carried'),
  });
  if (!gauge) return null;
  if (typing)
    return (
      <Keypad
        title={typing === 'carried' ? 'Zero as it reads' : 'Zero before it was set'}
        gauge={gauge}
        family={job.family}
        job={job.view}
        keepLabel={typing === 'carried' ? 'Carry it as a correction' : 'The needle is set to zero'}
        onKeep={(t) =>
          actions.zero(item, gauge, step.slot, { text: t.text, unit: t.unit, value: t.value }, typing)
        }
        onCancel={() => setTyping(undefined)}
      />
    );
  const limit = zeroLimit(gauge);
  const unfit = shown !== undefined && Math.abs(shown.value) > limit;
  const firm = live === undefined || now?.firmness.state === 'firm';
  return (
    <>
      <NextMoveCard move={sayStep(job.family, job.view, step)}>
        {unfit && (
          <p className="caution">
            <strong>Too far off zero for this gauge.</strong> Set it to zero if it can be; otherwise use
            another gauge.
          </p>
        )}
      </NextMoveCard>
      <div className="acts">
        <Button className="primary" variant="contained" disabled={!firm} onClick={() => take('carried')}>
          {shown
            ? firm
              ? `Zero ${asShown(gauge, shown.value)}, carry it`
              : 'Wait: settling'
            : 'Type the zero'}{' '}
          <kbd>Z</kbd>
        </Button>
        <Button onClick={() => take('adjusted')}>I set it to zero</Button>
        {shown && <Button onClick={() => setTyping('carried')}>Type it</Button>}
      </div>
    </>
  );
}

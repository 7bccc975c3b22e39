import type { NextMove } from '@firm-needle/core/family';
import { dimensionOf, spanOf, type Gauge } from '@firm-needle/core/gauge';
import { symbolOf } from '@firm-needle/core/quantity';
import { createContext, use, type ReactNode } from 'react';
import type { LiveNow } from '../../live/liveSession.ts';
import { asShown } from '../../ui/Keypad.tsx';

/** On a wide screen the needle stands in the card of the next move. */
export const NeedleSlot = createContext<ReactNode>(null);

/** The sentence that is always there: what to do, what to expect, why. */
export function NextMoveCard({ move, children }: { move: NextMove; children?: ReactNode }) {
  const needle = use(NeedleSlot);
  return (
    <div className={`move${needle ? ' with-needle' : ''}`}>
      <div className="move-words">
        <p className="move-say" aria-live="polite">
          {move.say} {move.amount && <strong>{move.amount}.</strong>}
          {move.expect && <span className="move-expect"> {move.expect}</span>}
        </p>
        {move.why && <p className="move-why soft">{move.why}</p>}
        {children}
      </div>
      {needle}
    </div>
  );
}

const STATE = { moving: 'moving', settling: 'settling', firm: 'firm' } as const;

/** The live reading in large figures, with its state in words. */
export function Needle({
  now,
  gauge,
  zero,
}: {
  now: LiveNow | undefined;
  gauge: Gauge | undefined;
  zero: number;
}) {
  if (!now || !gauge) return null;
  const { state, firmFor_s, creep } = now.firmness;
  const off = dimensionOf(gauge) === 'pressure' && Math.abs(zero) > spanOf(gauge).readableStep / 4;
  return (
    <div className="needle" aria-label={`${asShown(gauge, now.p)} ${gauge.unit}, ${STATE[state]}`}>
      <span className="figure needle-value">{asShown(gauge, now.p)}</span>
      <span className="needle-words figure">
        {symbolOf(gauge.unit)}
        <br />
        <span className={`needle-state ${state}`}>
          {state === 'firm' ? `firm ${Math.max(1, Math.round(firmFor_s))} s` : STATE[state]}
        </span>
        {creep !== undefined && now.wanted === 'firm' && <span className="needle-state"> creeping</span>}
      </span>
      {off && <span className="needle-zero soft">less zero {asShown(gauge, now.p - zero)}</span>}
    </div>
  );
}

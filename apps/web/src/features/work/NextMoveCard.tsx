import type { NextMove } from '@firm-needle/core/family';
import { dimensionOf, spanOf, type Gauge } from '@firm-needle/core/gauge';
import { symbolOf } from '@firm-needle/core/quantity';
import { createContext, use, type ReactNode } from 'react';
import type { LiveNow } from '../../live/liveSession.ts';
import { useLive } from '../../live/useLive.ts';
import { usePractised, type Practised } from '../../practice/context.ts';
import { asShown } from '../../ui/Keypad.tsx';
import type { Live } from './useLiveSource.ts';

/** On a wide screen the needle stands in the card of the next move. */
export const NeedleSlot = createContext<ReactNode>(null);

/** In the hand, a turn is drawn small beside its sentence. */
export const TurnSlot = createContext<ReactNode>(null);

/** The sentence that is always there: what to do, what to expect, why. */
export function NextMoveCard({
  move: whole,
  always = false,
  children,
}: {
  move: NextMove;
  /** It is said whatever the help: an interlock. */
  always?: boolean;
  children?: ReactNode;
}) {
  const practised = usePractised();
  const move = always ? whole : withHelp(whole, practised);
  const needle = use(NeedleSlot);
  const turn = use(TurnSlot);
  return (
    <div className={`move${needle ? ' with-needle' : ''}${turn ? ' with-turn' : ''}`}>
      {turn}
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

/** What of a sentence practice gives away: what stops a hand is said at every help. */
function withHelp(move: NextMove, practised: Practised | undefined): NextMove {
  if (!practised || practised.help === 'full') return move;
  const { amount: _amount, expect: _expect, why, ...rest } = move;
  if (practised.help !== 'bare') return { ...rest, ...(why && !move.amount ? { why } : {}) };
  return { ...rest, say: practised.title ?? move.say };
}

interface NeedleProps {
  readonly live: Live;
  readonly gauge: Gauge | undefined;
  readonly zero: number;
  /** What a pressure is in another quantity of the trade, in words. */
  readonly beside?: (pa: number) => string | undefined;
}

/** The live reading in large figures, with its state in words; drawn anew only when one of them changes. */
export function LiveNeedle({ live, gauge, zero, beside }: NeedleProps) {
  const shows = (now: LiveNow | undefined): string => (now && gauge ? JSON.stringify(shown(now, gauge)) : '');
  const now = useLive(live.session, 80, shows);
  const bare = usePractised()?.help === 'bare';
  if (!now || !gauge) return null;
  const { figure, words, state, creeping } = shown(now, gauge);
  const besides = beside?.(now.p - zero);
  const off = dimensionOf(gauge) === 'pressure' && Math.abs(zero) > spanOf(gauge).readableStep / 4;
  return (
    <div className="needle" aria-label={`${figure} ${gauge.unit}${bare ? '' : `, ${state}`}`}>
      <span className="figure needle-value">{figure}</span>
      <span className="needle-words figure">
        {symbolOf(gauge.unit)}
        <br />
        {!bare && <span className={`needle-state ${state}`}>{words}</span>}
        {creeping && !bare && <span className="needle-state"> creeping</span>}
      </span>
      {besides && <span className="needle-beside figure">{besides}</span>}
      {off && <span className="needle-zero soft">less zero {asShown(gauge, now.p - zero)}</span>}
    </div>
  );
}

/** What is drawn of a reading. */
function shown({ p, firmness: { state, firmFor_s, creep }, wanted }: LiveNow, gauge: Gauge) {
  return {
    figure: asShown(gauge, p),
    state,
    words: state === 'firm' ? `firm ${Math.max(1, Math.round(firmFor_s))} s` : state,
    creeping: creep !== undefined && wanted === 'firm',
  };
}

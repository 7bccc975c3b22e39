import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import {
  drawingSaid,
  drawnTurn,
  sayAmount,
  touchedBy,
  type Drawing,
  type DrawnPart,
  type DrawnTurn,
} from '@firm-needle/core/family';
import { byQuantity, type AdjusterDef, type Step, type TurnStep } from '@firm-needle/core/procedure';
import { useMemo } from 'react';
import type { OpenJob } from '../../sync/useJob.ts';
import { DeviceDrawing } from '../../ui/drawing/DeviceDrawing.tsx';
import { TurnDrawing } from '../../ui/drawing/TurnDrawing.tsx';
import { usePractised } from '../../practice/context.ts';
import { advisedOf } from './advised.ts';

/** The device of a job, what the present step touches of it, and how it is moved. */
export interface Drawn {
  readonly drawing: Drawing;
  readonly lit: readonly DrawnPart[];
  readonly turn?: { readonly drawn: DrawnTurn; readonly words: string; readonly seen: string | undefined };
  /** For who cannot see it. */
  readonly said: string;
}

/** How far a turn goes; of a search its first movement, for nobody knows how many it takes. */
const amountOf = (job: OpenJob, step: TurnStep): number | undefined =>
  step.seek ? step.seek.way * (step.seek.by ?? 1) : advisedOf(job, step);

export function useDrawn(job: OpenJob): Drawn {
  const { family, view, offered } = job;
  const drawing = useMemo(() => family.drawing(view.plan), [family, view.plan]);
  const step = offered.now?.step;
  const [missing] = offered.missing;
  const practised = usePractised();
  const told = !practised || practised.help === 'full';
  return useMemo(() => {
    // What an interlock asks for comes before the step itself.
    const touching: Step | undefined = missing
      ? {
          kind: 'confirm',
          key: missing.fact,
          title: missing.title,
          say: missing.say,
          hands: missing.hands ?? {},
        }
      : step;
    const lit = touchedBy(drawing, touching);
    const def = !missing && step?.kind === 'turn' ? view.adjuster(step.adjuster) : undefined;
    const amount = def && step?.kind === 'turn' ? amountOf(job, step) : undefined;
    if (!def || amount === undefined || !told) return { drawing, lit, said: drawingSaid(drawing, lit) };
    return {
      drawing,
      lit,
      turn: { drawn: drawnTurn(def, amount), words: wordsOf(def, amount, step), seen: seenOf(def) },
      said: drawingSaid(drawing, lit, { def, amount }),
    };
  }, [drawing, step, missing, view, job, told]);
}

const wordsOf = (def: AdjusterDef, amount: number, step: Step | undefined): string =>
  step?.kind === 'turn' && step.seek ? def.ways[amount >= 0 ? 0 : 1] : sayAmount(def, amount);
const seenOf = (def: AdjusterDef): string | undefined => (byQuantity(def) ? undefined : def.seenFrom);

/** The movement, and in words beside it how far, which way, and seen from where. */
const TurnSaid = ({ drawn, words, seen }: NonNullable<Drawn['turn']>) => (
  <div className="device-turn">
    <TurnDrawing turn={drawn} />
    <p className="figure">
      <strong>{words}</strong>
      {seen && <span className="soft">{seen}</span>}
    </p>
  </div>
);

/** Beside the picture on a wide screen: the turn, where there is one, over the device. */
export function DevicePanel({ drawn: { drawing, lit, turn, said } }: { drawn: Drawn }) {
  return (
    <figure className="device-panel">
      {turn && <TurnSaid {...turn} />}
      <div className="device-art">
        {/* Where a step touches nothing of it, it is there to find one’s way. */}
        <DeviceDrawing drawing={drawing} lit={lit} named={lit.length === 0} said={said} />
      </div>
    </figure>
  );
}

/** The whole drawing with every name, behind one tap. */
export function DeviceDialog({
  drawn: { drawing, lit, turn, said },
  onClose,
}: {
  drawn: Drawn;
  onClose: () => void;
}) {
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>{drawing.title}</DialogTitle>
      <DialogContent>
        <figure className="device-whole">
          <DeviceDrawing drawing={drawing} lit={lit} named said={said} />
          {turn && <TurnSaid {...turn} />}
          <figcaption className="soft">
            {capitalised(drawing.seen)}. What this step touches is inked.
          </figcaption>
        </figure>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}

const capitalised = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** In the hand: the turn, small, beside its sentence; a tap opens the whole. */
export const TurnButton = ({ drawn, onOpen }: { drawn: Drawn; onOpen: () => void }) =>
  drawn.turn ? (
    <button type="button" className="turn-button" aria-label="Show the device" onClick={onOpen}>
      <TurnDrawing turn={drawn.turn.drawn} />
    </button>
  ) : null;

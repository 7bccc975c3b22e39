import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { checkTurn, sayAmount, sayStep } from '@firm-needle/core/family';
import { byQuantity, type AdjusterDef, type TurnStep } from '@firm-needle/core/procedure';
import { parseNumber, toCanonical } from '@firm-needle/core/quantity';
import type { Refusal } from '@firm-needle/core/result';
import { useState } from 'react';
import { NextMoveCard } from '../NextMoveCard.tsx';
import { advisedOf } from '../advised.ts';
import { SeekFace } from './SeekFace.tsx';
import type { FaceProps } from './types.ts';
import { usePractised } from '../../../practice/context.ts';
import { useKeys } from '../../../ui/useKeys.ts';

/** Turn as advised, or by an amount of one's own that is checked against the relief first. */
export function TurnFace(props: FaceProps & { step: TurnStep; onStop: () => void }) {
  const { step } = props;
  return step.seek ? <SeekFace {...props} seek={step.seek} /> : <MeasuredTurn {...props} />;
}

function MeasuredTurn({
  job,
  item,
  actions,
  step,
  onStop,
}: FaceProps & { step: TurnStep; onStop: () => void }) {
  const practised = usePractised();
  // How far is one’s own to say where nothing gives it away; back to a mark is no figure.
  const mine = practised !== undefined && practised.help !== 'full' && !step.amount;
  const [own, setOwn] = useState(mine);
  const def = job.view.adjuster(step.adjuster);
  const move = sayStep(job.family, job.view, step);
  const advised = advisedOf(job, step);
  const turned = (): void => {
    if (advised !== undefined)
      void actions.turn(item, step.adjuster, advised, sayAmount(def, advised), advised);
  };
  useKeys({ t: own || advised === undefined ? undefined : turned });
  return (
    <>
      <NextMoveCard move={move} />
      {own ? (
        <OwnAmount
          job={job}
          item={item}
          actions={actions}
          live={undefined}
          step={step}
          onBack={mine ? onStop : () => setOwn(false)}
        />
      ) : (
        <div className="acts">
          {advised !== undefined && (
            <Button className="primary" variant="contained" onClick={turned}>
              {VERB[def.kind]}
              {done(sayAmount(def, advised)).replace(/ turns?/, '')} <kbd>T</kbd>
            </Button>
          )}
          {move.stop === undefined && <Button onClick={() => setOwn(true)}>Other amount</Button>}
          <Button onClick={onStop}>Stop here</Button>
        </div>
      )}
    </>
  );
}

/** What was done, before the amount; air says it itself. */
const VERB: Readonly<Record<AdjusterDef['kind'], string>> = {
  air: '',
  scale: 'Moved ',
  turn: 'Turned ',
  click: 'Turned ',
  shim: 'Changed ',
};
const done = (amount: string): string => amount.replace(/^add /, 'Added ').replace(/^bleed /, 'Bled ');

function OwnAmount({ job, item, actions, step, onBack }: FaceProps & { step: TurnStep; onBack: () => void }) {
  const def = job.view.adjuster(step.adjuster);
  const [text, setText] = useState('');
  const [way, setWay] = useState(0);
  const [refusal, setRefusal] = useState<Refusal>();
  const take = (): void => {
    const n = parseNumber(text);
    if (!n.ok) return setRefusal(n.refusal);
    const size = byQuantity(def) ? toCanonical(Math.abs(n.value), def.unit) : Math.abs(n.value);
    const amount = way === 0 ? size : -size;
    const checked = checkTurn(job.view, step.adjuster, amount);
    if (!checked.ok) return setRefusal(checked.refusal);
    void actions.turn(item, step.adjuster, amount, sayAmount(def, amount), advisedOf(job, step));
  };
  return (
    <div className="own-amount">
      <ToggleButtonGroup
        exclusive
        value={way}
        onChange={(_, v: number | null) => v !== null && setWay(v)}
        aria-label="Which way"
      >
        {def.ways.map((w, i) => (
          <ToggleButton key={w} value={i}>
            {w}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <TextField
        autoFocus
        size="small"
        label={byQuantity(def) ? `How much, ${def.unit}` : `How many ${def.unit}s`}
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setRefusal(undefined);
        }}
        onKeyDown={(e) => e.key === 'Enter' && take()}
        error={refusal !== undefined}
        helperText={
          refusal
            ? `${refusal.message} ${refusal.bound ? `Bound: ${refusal.bound}.` : ''} ${refusal.remedy ?? ''}`
            : 'such as 3/4 or 1 1/4'
        }
      />
      <div className="acts">
        <Button className="primary" variant="contained" onClick={take}>
          {byQuantity(def) ? 'Done' : 'Turned it'}
        </Button>
        <Button onClick={onBack}>Back</Button>
      </div>
    </div>
  );
}

import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { outcomesOf, typeReading } from '@firm-needle/core/family';
import type { LeaveOutcome } from '@firm-needle/core/entries';
import type { WalkItem } from '@firm-needle/core/procedure';
import { useState } from 'react';
import { usePractised } from '../../practice/context.ts';
import { Ask, Why } from '../../ui/Ask.tsx';
import { useKeeping } from '../../ui/ReasonDialog.tsx';
import type { Actions } from './useActions.ts';
import type { OpenJob } from '../../sync/useJob.ts';

/** Leaving early: the outcome and why; the restore steps still follow. */
export function LeaveDialog({
  job,
  onLeave,
  onClose,
}: {
  job: OpenJob;
  onLeave: (outcome: LeaveOutcome, reason: string) => Promise<boolean>;
  onClose: () => void;
}) {
  const keeping = useKeeping(onClose);
  const practised = usePractised();
  const advised = job.family.recommend(job.view);
  const [outcome, setOutcome] = useState<LeaveOutcome>(
    practised || advised.outcome === 'set' ? 'unfinished' : advised.outcome,
  );
  const [reason, setReason] = useState('');
  return (
    <Ask
      title="End the job here"
      onClose={onClose}
      acts={
        <Button
          variant="contained"
          disabled={reason.trim() === '' || keeping.busy}
          onClick={() => keeping.run(() => onLeave(outcome, reason.trim()))}
        >
          End it here
        </Button>
      }
    >
      <p>The steps that make the site safe again still follow.</p>
      <TextField
        select
        fullWidth
        margin="dense"
        label="How it ends"
        value={outcome}
        onChange={(e) => setOutcome(e.target.value as LeaveOutcome)}
      >
        {outcomesOf(job.family)
          .filter(([code]) => code !== 'set')
          .map(([code, title]) => (
            <MenuItem key={code} value={code}>
              {title}
            </MenuItem>
          ))}
      </TextField>
      <Why value={reason} onChange={setReason} />
    </Ask>
  );
}

/** Correct or withdraw a reading that was taken; the original stays in the record. */
export function CorrectDialog({
  job,
  item,
  onCorrect,
  onClose,
}: {
  job: OpenJob;
  item: WalkItem;
  onCorrect: Actions['correct'];
  onClose: () => void;
}) {
  const taken = item.taken.at(-1);
  const body = taken?.body.kind === 'read' ? taken.body : undefined;
  const [text, setText] = useState(body?.value.text ?? '');
  const [reason, setReason] = useState('');
  const [wrong, setWrong] = useState<string>();
  const keeping = useKeeping(onClose);
  if (!taken || !body) return null;
  const gauge = job.view.gauge(body.slot, taken.order);
  const keep = (): void => {
    if (!gauge) return;
    const typed = typeReading(gauge, text);
    if (!typed.ok) return setWrong(`${typed.refusal.message} ${typed.refusal.remedy ?? ''}`);
    const { text: said, unit, value } = typed.value;
    keeping.run(() => onCorrect(taken.id, reason.trim(), { text: said, unit, value }));
  };
  return (
    <Ask
      title={`Correct: ${item.step.title}`}
      onClose={onClose}
      acts={
        <>
          {' '}
          <Button
            disabled={reason.trim() === ''}
            onClick={() => keeping.run(() => onCorrect(taken.id, reason.trim(), undefined))}
          >
            Withdraw it
          </Button>
          <Button variant="contained" disabled={reason.trim() === ''} onClick={keep}>
            Correct it
          </Button>
        </>
      }
    >
      <p>
        It was recorded as {body.value.text} {body.value.unit}. The first value stays in the record beside the
        correction.
      </p>
      <TextField
        fullWidth
        margin="dense"
        label={`As read on ${gauge?.label ?? 'the gauge'}, ${body.value.unit}`}
        value={text}
        onChange={(e) => setText(e.target.value)}
        error={wrong !== undefined}
        helperText={wrong}
      />
      <Why value={reason} onChange={setReason} />
    </Ask>
  );
}

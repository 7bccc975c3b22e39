import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { outcomesOf, typeReading } from '@firm-needle/core/family';
import type { Outcome, WalkItem } from '@firm-needle/core/procedure';
import { useState } from 'react';
import type { OpenJob } from '../../sync/useJob.ts';

/** Asks for a reason; nothing happens without one. */
export function ReasonDialog({
  title,
  text,
  act,
  onGive,
  onClose,
}: {
  title: string;
  text: string;
  act: string;
  onGive: (reason: string) => void;
  onClose: () => void;
}) {
  const [reason, setReason] = useState('');
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <DialogTitle>{title}</DialogTitle>
      <DialogContent>
        <p>{text}</p>
        <TextField
          autoFocus
          fullWidth
          multiline
          label="In a few words"
          value={reason}
          onChange={(e) => setReason(e.target.value)}
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Back</Button>
        <Button variant="contained" disabled={reason.trim() === ''} onClick={() => onGive(reason.trim())}>
          {act}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** Leaving early: the outcome and why; the restore steps still follow. */
export function LeaveDialog({
  job,
  onLeave,
  onClose,
}: {
  job: OpenJob;
  onLeave: (outcome: Outcome, reason: string) => void;
  onClose: () => void;
}) {
  const advised = job.family.recommend(job.view);
  const [outcome, setOutcome] = useState<Outcome>(advised.outcome === 'set' ? 'unfinished' : advised.outcome);
  const [reason, setReason] = useState('');
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <DialogTitle>End the job here</DialogTitle>
      <DialogContent>
        <p>The steps that make the site safe again still follow.</p>
        <TextField
          select
          fullWidth
          margin="dense"
          label="How it ends"
          value={outcome}
          onChange={(e) => setOutcome(e.target.value as Outcome)}
        >
          {outcomesOf(job.family)
            .filter(([code]) => code !== 'set')
            .map(([code, title]) => (
              <MenuItem key={code} value={code}>
                {title}
              </MenuItem>
            ))}
        </TextField>
        <TextField
          fullWidth
          margin="dense"
          multiline
          label="Why"
          value={reason}
          onChange={(e) => setReason(e.target.value)}
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Back</Button>
        <Button
          variant="contained"
          disabled={reason.trim() === ''}
          onClick={() => onLeave(outcome, reason.trim())}
        >
          End it here
        </Button>
      </DialogActions>
    </Dialog>
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
  onCorrect: ReturnType<typeof import('./useActions.ts').useActions>['correct'];
  onClose: () => void;
}) {
  const taken = item.taken.at(-1);
  const body = taken?.body.kind === 'read' ? taken.body : undefined;
  const [text, setText] = useState(body?.value.text ?? '');
  const [reason, setReason] = useState('');
  const [wrong, setWrong] = useState<string>();
  if (!taken || !body) return null;
  const gauge = job.view.gauge(body.slot, taken.order);
  const keep = (): void => {
    if (!gauge) return;
    const typed = typeReading(gauge, text);
    if (!typed.ok) return setWrong(`${typed.refusal.message} ${typed.refusal.remedy ?? ''}`);
    onCorrect(taken.id, reason.trim(), {
      text: typed.value.text,
      unit: typed.value.unit,
      value: typed.value.value,
    });
    onClose();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <DialogTitle>Correct: {item.step.title}</DialogTitle>
      <DialogContent>
        <p>
          It was recorded as {body.value.text} {body.value.unit}. The first value stays in the record beside
          the correction.
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
        <TextField
          fullWidth
          margin="dense"
          label="Why"
          value={reason}
          onChange={(e) => setReason(e.target.value)}
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Back</Button>
        <Button
          disabled={reason.trim() === ''}
          onClick={() => {
            onCorrect(taken.id, reason.trim(), undefined);
            onClose();
          }}
        >
          Withdraw it
        </Button>
        <Button variant="contained" disabled={reason.trim() === ''} onClick={keep}>
          Correct it
        </Button>
      </DialogActions>
    </Dialog>
  );
}

import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { outcomesOf } from '@firm-needle/core/family';
import type { Outcome } from '@firm-needle/core/procedure';
import { useEffect, useState } from 'react';
import { useMe } from '../../../store/me.ts';
import type { OpenJob } from '../../../sync/useJob.ts';
import type { Actions } from '../useActions.ts';
import { useKeys } from '../../../ui/useKeys.ts';

/** Longer than a double tap, ms. */
const TAP_MS = 500;

/** The end: how the job came out, and a signature that freezes it. */
export function SignFace({ job, actions }: { job: OpenJob; actions: Actions }) {
  const me = useMe();
  const recommended = job.family.recommend(job.view);
  const [outcome, setOutcome] = useState<Outcome>(
    job.view.state.leaving?.body.outcome ?? recommended.outcome,
  );
  const missing = outcome === 'set' ? job.family.unproved(job.view) : [];
  // A second tap meant for the last step must not sign.
  const [ready, setReady] = useState(false);
  useEffect(() => {
    const t = setTimeout(() => setReady(true), TAP_MS);
    return () => clearTimeout(t);
  }, []);
  const open = ready && missing.length === 0;
  const sign = (): void => void actions.sign(outcome, me.name);
  useKeys({ s: open ? sign : undefined });
  return (
    <>
      <div className="move">
        <p className="move-say">
          All steps done. <strong>{recommended.because}</strong>
        </p>
        <ToggleButtonGroup
          exclusive
          value={outcome}
          onChange={(_, v: Outcome | null) => v && setOutcome(v)}
          aria-label="Outcome"
        >
          {outcomesOf(job.family).map(([code, title]) => (
            <ToggleButton key={code} value={code}>
              {title}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        {missing.map((m) => (
          <p key={m.code} className="caution" role="alert">
            <strong>{m.message}</strong> {m.remedy}
          </p>
        ))}
        <p className="move-why soft">
          Signing freezes the readings, verdicts and the rule they were judged by. Notes may still follow.
        </p>
      </div>
      <div className="acts">
        <Button className="primary" variant="contained" disabled={!open} onClick={sign}>
          Sign as {me.name} <kbd>S</kbd>
        </Button>
      </div>
    </>
  );
}

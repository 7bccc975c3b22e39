import { outcomesOf } from '@firm-needle/core/family';
import { SURENESS, type Said } from '@firm-needle/core/practice';
import type { Outcome } from '@firm-needle/core/procedure';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useState } from 'react';
import { useMe } from '../../../store/me.ts';
import type { OpenJob } from '../../../sync/useJob.ts';
import type { Actions } from '../useActions.ts';

const MOST = 2;

/** The end of a run: how it came out, what was wrong, and how sure one is. Nothing here is marked as advised. */
export function FinishFace({
  job,
  actions,
  onSaid,
  onBack,
}: {
  job: OpenJob;
  actions: Actions;
  onSaid: (said: Said) => Promise<void>;
  onBack?: (() => void) | undefined;
}) {
  const me = useMe();
  const { family, view } = job;
  const signed = view.state.signed?.body.outcome;
  const [outcome, setOutcome] = useState<Outcome | undefined>(signed ?? view.state.leaving?.body.outcome);
  const [faults, setFaults] = useState<readonly string[]>([]);
  const [other, setOther] = useState<'nothing' | 'cannot'>();
  const [sure, setSure] = useState<number>();
  const [busy, setBusy] = useState(false);
  const missing = outcome === 'set' ? family.unproved(view) : [];
  const named = faults.length > 0 || other !== undefined;
  const open = outcome !== undefined && named && sure !== undefined && missing.length === 0 && !busy;
  const toggle = (id: string): void => {
    setOther(undefined);
    setFaults(faults.includes(id) ? faults.filter((f) => f !== id) : [...faults, id].slice(-MOST));
  };
  const end = async (): Promise<void> => {
    if (!outcome || sure === undefined) return;
    setBusy(true);
    const kept = signed !== undefined || (await actions.sign(outcome, me.name));
    if (kept) await onSaid({ faults, sure, ...(other === 'cannot' ? { cannotTell: true } : {}) });
    setBusy(false);
  };
  const all = [...family.rig.faults].sort((a, b) => a.title.localeCompare(b.title));
  return (
    <>
      <div className="move practice-finish">
        <p className="move-say">How did it end?</p>
        <ToggleButtonGroup
          exclusive
          value={outcome ?? null}
          disabled={signed !== undefined}
          onChange={(_, v: Outcome | null) => v && setOutcome(v)}
          aria-label="Outcome"
        >
          {outcomesOf(family).map(([code, title]) => (
            <ToggleButton key={code} value={code}>
              {title}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <p className="move-say">What was wrong? At most two.</p>
        <div className="practice-faults" role="group" aria-label="What was wrong">
          {all.map((f) => (
            <button
              key={f.id}
              type="button"
              className="bench-handle"
              aria-pressed={faults.includes(f.id)}
              onClick={() => toggle(f.id)}
            >
              {f.title}
            </button>
          ))}
          {(
            [
              ['nothing', 'Nothing wrong'],
              ['cannot', 'Cannot be told with this gauge'],
            ] as const
          ).map(([id, title]) => (
            <button
              key={id}
              type="button"
              className="bench-handle"
              aria-pressed={other === id}
              onClick={() => {
                setFaults([]);
                setOther(id);
              }}
            >
              {title}
            </button>
          ))}
        </div>
        <ToggleButtonGroup
          exclusive
          value={sure ?? null}
          onChange={(_, v: number | null) => v !== null && setSure(v)}
          aria-label="How sure"
        >
          {SURENESS.map(({ c, title }) => (
            <ToggleButton key={c} value={c}>
              {title}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        {missing.map((m) => (
          <p key={m.code} className="caution" role="alert">
            <strong>{m.message}</strong> {m.remedy}
          </p>
        ))}
      </div>
      <div className="acts">
        <Button className="primary" variant="contained" disabled={!open} onClick={() => void end()}>
          Sign, and see what was so
        </Button>
        {onBack && <Button onClick={onBack}>Back</Button>}
      </div>
    </>
  );
}

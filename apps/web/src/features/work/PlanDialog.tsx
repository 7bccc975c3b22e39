import Button from '@mui/material/Button';
import { replan } from '@firm-needle/core/family';
import { kindOpen, type PlannedBody } from '@firm-needle/core/procedure';
import { useState } from 'react';
import type { OpenJob } from '../../sync/useJob.ts';
import { PlanChoices } from '../../planning/PlanChoices.tsx';
import { PlanFigures } from '../../planning/PlanFigures.tsx';
import { Plate } from '../../planning/Plate.tsx';
import { usePlan } from '../../planning/usePlan.ts';
import { Ask, Why } from '../../ui/Ask.tsx';
import '../../planning/plan.css';

interface Props {
  readonly job: OpenJob;
  /** Resolves to whether it was kept: only then does the dialog close. */
  readonly onChange: (plan: PlannedBody) => Promise<boolean>;
  readonly onClose: () => void;
}

/** The plan changed in the middle of a job: by the book that was opened, or as the device turned out to be. */
export function PlanDialog({ job, onChange, onClose }: Props) {
  const { family, view } = job;
  const { site } = view.started;
  const planning = usePlan(family, { plan: view.plan, site }, site.barometer_Pa);
  const [reason, setReason] = useState('');
  const [refused, setRefused] = useState<string>();
  const [busy, setBusy] = useState(false);
  const change = async (): Promise<void> => {
    const made = replan(family, view, planning.draft, reason);
    if (!made.ok) return setRefused(`${made.refusal.message} ${made.refusal.remedy ?? ''}`.trim());
    setBusy(true);
    const kept = await onChange(made.value);
    setBusy(false);
    if (kept) onClose();
    else setRefused('It was not kept. Look at the job, and try again.');
  };
  const pushed = refused ?? planning.pushed?.message;
  return (
    <Ask
      title="Change the plan"
      onClose={onClose}
      wide
      acts={
        <Button
          variant="contained"
          disabled={!planning.changed || reason.trim() === '' || busy}
          onClick={() => void change()}
        >
          Change it
        </Button>
      }
    >
      <p>
        What was found stays judged by the plan it was found under. Once this job is proved, the control is
        planned so.
      </p>
      <div className="plan-side">
        {kindOpen(view.state) && <PlanChoices family={family} planning={planning} />}
        <PlanFigures family={family} planning={planning} />
        <Plate family={family} planning={planning} editable={!family.plateOf} />
      </div>
      {pushed && (
        <p className="caution" role="alert">
          {pushed}
        </p>
      )}
      <Why value={reason} onChange={setReason} />
    </Ask>
  );
}

import { pickable, type Step } from '@firm-needle/core/procedure';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { OpenJob } from '../../../sync/useJob.ts';

const PHASES: Readonly<Record<string, string>> = {
  found: 'as found',
  left: 'as left',
  adjust: 'while setting',
};

/** A step as one picks it: its name, and where several have one, what tells them apart. */
export const stepName = (step: Step, all: readonly Step[]): string =>
  step.phase && all.some((s) => s !== step && s.title === step.title)
    ? `${step.title}, ${PHASES[step.phase] ?? step.phase}`
    : step.title;

/** All steps by alphabet: which comes next is one’s own to say. */
export function PickFace({
  job,
  onPick,
  onSign,
}: {
  job: OpenJob;
  onPick: (key: string) => void;
  onSign: () => void;
}) {
  const [find, setFind] = useState('');
  const all = pickable(job.family.procedure(job.view.plan), job.view);
  const named = all
    .map((s) => ({ step: s, name: stepName(s, all) }))
    .filter(({ name }) => name.toLowerCase().includes(find.trim().toLowerCase()))
    .sort((a, b) => a.name.localeCompare(b.name) || a.step.key.localeCompare(b.step.key));
  // What several are called is one name; the first of them is taken.
  const shown = named.filter(({ name }, i) => named.findIndex((n) => n.name === name) === i);
  return (
    <div className="practice-pick">
      <p className="move-say">What comes next?</p>
      <div className="practice-pick-head">
        <TextField
          size="small"
          label="Find a step"
          value={find}
          onChange={(e) => setFind(e.target.value)}
          autoFocus
          onKeyDown={(e) => {
            e.stopPropagation();
            const [first] = shown;
            if (e.key === 'Enter' && first) onPick(first.step.key);
          }}
        />
        <Button className="primary" variant="contained" onClick={onSign}>
          Sign
        </Button>
      </div>
      <ul aria-label="Steps by alphabet">
        {shown.map(({ step, name }) => (
          <li key={step.key}>
            <button type="button" className="bench-handle" onClick={() => onPick(step.key)}>
              {name}
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

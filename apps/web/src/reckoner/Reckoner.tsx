import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { SUMS } from './sums.ts';
import { type Sum } from './answer.ts';
import './reckoner.css';

interface ReckonerProps {
  /** Inside a job: takes an answer into it. */
  readonly onUse?: (text: string) => void;
}

/** The sums of the trade, worked as one types; needs neither a job nor a signal. */
export function Reckoner({ onUse }: ReckonerProps) {
  return (
    <div className="reckoner">
      {SUMS.map((s) => (
        <SumCard key={s.id} sum={s} onUse={onUse} />
      ))}
    </div>
  );
}

function SumCard({ sum, onUse }: { sum: Sum; onUse: ((text: string) => void) | undefined }) {
  const [inputs, setInputs] = useState<Readonly<Record<string, string>>>(
    Object.fromEntries(sum.fields.map((f) => [f.id, f.start])),
  );
  const answer = sum.answer(inputs);
  const [main, ...rest] = answer.ok ? answer.value : [];
  return (
    <section className="sum" aria-labelledby={`sum-${sum.id}`}>
      <h2 id={`sum-${sum.id}`}>{sum.title}</h2>
      <div className="sum-fields">
        {sum.fields.map((f) => (
          <TextField
            key={f.id}
            size="small"
            label={f.label}
            value={inputs[f.id] ?? ''}
            helperText={f.hint}
            select={f.options !== undefined}
            onChange={(e) => setInputs({ ...inputs, [f.id]: e.target.value })}
            slotProps={{ htmlInput: { autoComplete: 'off', className: f.options ? undefined : 'figure' } }}
          >
            {f.options?.map((o) => (
              <MenuItem key={o.value} value={o.value}>
                {o.title}
              </MenuItem>
            ))}
          </TextField>
        ))}
      </div>
      <div className="sum-answer" aria-live="polite">
        {main && (
          <p className="sum-main">
            <span className="soft">{main.label}</span> <span className="figure">{main.value}</span>
          </p>
        )}
        {rest.length > 0 && (
          <dl className={rest.length > 4 ? 'many' : ''}>
            {rest.map((l) => (
              <div key={l.label}>
                <dt>{l.label}</dt>
                <dd className="figure">{l.value}</dd>
              </div>
            ))}
          </dl>
        )}
        {!answer.ok && (
          <p className="caution">
            <strong>{answer.refusal.message}</strong> {answer.refusal.bound && `${answer.refusal.bound}.`}{' '}
            {answer.refusal.remedy}
          </p>
        )}
      </div>
      <p className="sum-source soft">{sum.source}</p>
      {onUse && main && (
        <Button
          size="small"
          onClick={() =>
            onUse(
              `${sum.title}: ${sum.fields
                .map((f) => inputs[f.id])
                .filter(Boolean)
                .join(', ')} gives ${main.label} ${main.value}`,
            )
          }
        >
          Put it in the job
        </Button>
      )}
    </section>
  );
}

import Button from '@mui/material/Button';
import type { Family } from '@firm-needle/core/family';
import { fromCanonical, short, symbolOf } from '@firm-needle/core/quantity';
import { useState } from 'react';
import type { Planning } from './usePlan.ts';
import { Typed } from './Typed.tsx';

/** The equipment's plate, drawn as a rating plate; typed into where it is wrong or empty. */
export function Plate({
  family,
  planning,
  editable,
}: {
  family: Family;
  planning: Planning;
  editable: boolean;
}) {
  const missing = family.plate.some((p) => p.required && !planning.draft.plate[p.id]);
  const [editing, setEditing] = useState(missing);
  return (
    <section className="plate" aria-label="Rating plate">
      <header>
        <h2 className="eyebrow">Rating plate</h2>
        {editable && (
          <Button size="small" variant="text" onClick={() => setEditing(!editing)}>
            {editing ? 'Done' : 'Correct it'}
          </Button>
        )}
      </header>
      {editing ? (
        <div className="plate-fields">
          {family.plate.map((p) => {
            const v = planning.draft.plate[p.id];
            return (
              <Typed
                key={p.id}
                label={p.title}
                unit={symbolOf(p.unit)}
                shown={v ? short(fromCanonical(v.value, p.unit)) : ''}
                hint={p.hint ?? (p.required ? 'needed' : 'if known')}
                onType={(text) => planning.typeOnPlate(p.id, text)}
              />
            );
          })}
        </div>
      ) : (
        <dl>
          {family.plate.map((p) => {
            const v = planning.draft.plate[p.id];
            return (
              <div key={p.id}>
                <dt>{p.title}</dt>
                <dd className="figure">
                  {v ? `${short(fromCanonical(v.value, p.unit)).replace('-', '−')} ${symbolOf(p.unit)}` : '–'}
                </dd>
              </div>
            );
          })}
        </dl>
      )}
    </section>
  );
}

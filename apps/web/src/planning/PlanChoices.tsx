import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { choicesFor, schoolOf, type Family } from '@firm-needle/core/family';
import type { Planning } from './usePlan.ts';

interface ChooseProps {
  readonly label: string;
  readonly value: string;
  readonly options: readonly { readonly id: string; readonly title: string }[];
  readonly onChoose: (id: string) => void;
  readonly because?: string | undefined;
}

/** One of a few, by name. */
function Choose({ label, value, options, onChoose, because }: ChooseProps) {
  return (
    <TextField
      select
      size="small"
      label={label}
      value={value}
      helperText={because}
      onChange={(e) => onChoose(e.target.value)}
    >
      {options.map((o) => (
        <MenuItem key={o.id} value={o.id}>
          {o.title}
        </MenuItem>
      ))}
    </TextField>
  );
}

/** What of a plan is no number: its variant, the school of practice, what the family asks beside them, the occasion of the job. */
export function PlanChoices({
  family,
  planning,
  occasion,
}: {
  family: Family;
  planning: Planning;
  /** Why the control is worked on; not asked where it stands already. */
  occasion?: { readonly id: string; readonly choose: (id: string) => void };
}) {
  const { plan, choose } = planning;
  const occasions = family.occasions ?? [];
  return (
    <div className="plan-choices">
      <Choose
        label={family.variantsAre}
        value={plan.variant}
        options={family.variants}
        onChoose={(variant) => choose({ variant })}
      />
      <Choose
        label="School of practice"
        value={plan.school}
        options={family.schools}
        because={schoolOf(family, plan.school).because}
        onChoose={(school) => choose({ school })}
      />
      {choicesFor(family, plan).map((c) => (
        <Choose
          key={c.id}
          label={c.title}
          value={plan.choices?.[c.id] ?? c.options[0]?.id ?? ''}
          options={c.options}
          onChoose={(id) => choose({ choices: { ...plan.choices, [c.id]: id } })}
        />
      ))}
      {occasion && occasions.length > 1 && (
        <Choose label="Occasion" value={occasion.id} options={occasions} onChoose={occasion.choose} />
      )}
    </div>
  );
}

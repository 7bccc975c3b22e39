import { findUnit, unitsOf } from '@firm-needle/core/quantity';
import { CHANNELS, choiceOf, guessColumns, unitOfHeading, type ColumnChoice } from '@firm-needle/core/trace';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';

interface Props {
  readonly rows: readonly (readonly string[])[];
  readonly onChoose: (choice: ColumnChoice) => void;
}

const SHOWN_ROWS = 7;
const ROLES = ['time', 'pressure', ...CHANNELS] as const;
type Role = (typeof ROLES)[number] | '';
const TITLES: Readonly<Record<Exclude<Role, ''>, string>> = {
  time: 'Time',
  pressure: 'Pressure',
  contact: 'Contact',
  pump: 'Pump',
  flow: 'Flow',
  trigger: 'Trigger',
};

/** The first rows of a file, each column under what it is; guessed where it can be. */
export function MapColumns({ rows, onChoose }: Props) {
  const columns = Math.max(0, ...rows.map((r) => r.length));
  // With a unit lent to it the guess says the rest, also where the heading names none.
  const guess = guessColumns(rows, 'kPa');
  const guessed = guess.ok ? choiceOf(guess.value) : undefined;
  const named = guessed && rows.some((r) => unitOfHeading(r[guessed.pressure] ?? '') !== undefined);
  const [roles, setRoles] = useState<readonly Role[]>(() =>
    Array.from({ length: columns }, (_, i) => {
      if (i === guessed?.time) return 'time';
      if (i === guessed?.pressure) return 'pressure';
      return CHANNELS.find((c) => guessed?.states[c] === i) ?? '';
    }),
  );
  const [unit, setUnit] = useState(named ? (guessed?.unit ?? '') : '');
  const at = (role: Role): number => roles.indexOf(role);
  const set = (i: number, role: Role): void =>
    setRoles((all) => all.map((r, k) => (k === i ? role : r === role ? '' : r)));
  const ready = at('time') >= 0 && at('pressure') >= 0 && findUnit(unit) !== undefined;
  return (
    <section className="trace-map" aria-label="Columns of the file">
      <h2>What are its columns?</h2>
      <div className="trace-map-scroll">
        <table>
          <thead>
            <tr>
              {roles.map((role, i) => (
                <th key={i} scope="col">
                  <TextField
                    select
                    size="small"
                    label={`Column ${i + 1}`}
                    value={role}
                    onChange={(e) => set(i, e.target.value as Role)}
                  >
                    <MenuItem value="">
                      <em>Nothing</em>
                    </MenuItem>
                    {ROLES.map((r) => (
                      <MenuItem key={r} value={r}>
                        {TITLES[r]}
                      </MenuItem>
                    ))}
                  </TextField>
                  {role === 'pressure' && (
                    <TextField
                      select
                      size="small"
                      label="Its unit"
                      value={unit}
                      error={unit === ''}
                      onChange={(e) => setUnit(e.target.value)}
                    >
                      {unitsOf('pressure')
                        .filter((u) => u.kind !== 'difference')
                        .map((u) => (
                          <MenuItem key={u.id} value={u.id}>
                            {u.id}
                          </MenuItem>
                        ))}
                    </TextField>
                  )}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.slice(0, SHOWN_ROWS).map((r, k) => (
              <tr key={k}>
                {roles.map((role, i) => (
                  <td key={i} className={`figure${role === '' ? ' soft' : ''}`}>
                    {r[i] ?? ''}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="trace-open">
        <Button
          variant="contained"
          disabled={!ready}
          onClick={() =>
            onChoose({
              time: at('time'),
              pressure: at('pressure'),
              unit,
              states: Object.fromEntries(CHANNELS.flatMap((c) => (at(c) >= 0 ? [[c, at(c)]] : []))),
            })
          }
        >
          Read it with these columns
        </Button>
        <span className="soft">
          {ready
            ? 'Files with the same heading will be read so from now on.'
            : 'Choose the column of times, that of pressures, and its unit.'}
        </span>
      </div>
    </section>
  );
}

import { findUnit, parseNumber, unitsOf } from '@firm-needle/core/quantity';
import {
  CHANNELS,
  choiceOf,
  guessColumns,
  headingOf,
  unitOfHeading,
  type ColumnChoice,
  type DayOrder,
  type PressureBasis,
  type Said,
  type TimeUnit,
} from '@firm-needle/core/trace';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';

interface Props {
  readonly rows: readonly (readonly string[])[];
  /** What parts the cells, where somebody said. */
  readonly delimiter?: string | undefined;
  readonly onSplit: (delimiter: string | undefined) => void;
  readonly onChoose: (choice: ColumnChoice) => void;
}

const SHOWN_ROWS = 7;
const LENT: readonly Said[] = [
  {},
  { order: 'dmy' },
  { decimal: '.' },
  { unit: 'kPa' },
  { unit: 'kPa', order: 'dmy' },
  { unit: 'kPa', order: 'dmy', decimal: '.' },
];
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
export function MapColumns({ rows, delimiter, onSplit, onChoose }: Props) {
  const columns = Math.max(0, ...rows.map((r) => r.length));
  const [first, setFirst] = useState('');
  const line = parseNumber(first);
  const wrongLine =
    first !== '' &&
    !(line.ok && Number.isInteger(line.value) && line.value >= 1 && line.value <= rows.length);
  const header = first !== '' && line.ok && !wrongLine ? line.value - 1 : undefined;
  // With a unit lent to it the guess says the rest, also where the heading names none.
  const heading = headingOf(rows, header);
  // What the file leaves open is lent to the guess, no more of it than it needs: the rest it says itself.
  const tried = LENT.map((said) => guessColumns(rows, said));
  const asked = tried.slice(0, 3).find((g) => g.ok);
  const guess = tried.find((g) => g.ok) ?? tried[tried.length - 1];
  const guessed = guess?.ok ? choiceOf(guess.value) : undefined;
  const named = guessed && unitOfHeading(heading[guessed.pressure] ?? '') !== undefined;
  const [roles, setRoles] = useState<readonly Role[]>(() =>
    Array.from({ length: columns }, (_, i) => {
      if (i === guessed?.time) return 'time';
      if (i === guessed?.pressure) return 'pressure';
      return CHANNELS.find((c) => guessed?.states[c] === i) ?? '';
    }),
  );
  const [unit, setUnit] = useState(named || asked?.ok ? (guessed?.unit ?? '') : '');
  const at = (role: Role): number => roles.indexOf(role);
  const set = (i: number, role: Role): void =>
    setRoles((all) => all.map((r, k) => (k === i ? role : r === role ? '' : r)));
  const [basis, setBasis] = useState<PressureBasis | ''>('');
  const [order, setOrder] = useState<DayOrder | ''>('');
  const [decimal, setDecimal] = useState<'.' | ',' | ''>('');
  const [timeUnit, setTimeUnit] = useState<TimeUnit | ''>('');
  const [air, setAir] = useState('');
  const hPa = parseNumber(air);
  const wrongAir = air !== '' && !(hPa.ok && hPa.value >= 500 && hPa.value <= 1100);
  const ready =
    !wrongAir && !wrongLine && at('time') >= 0 && at('pressure') >= 0 && findUnit(unit) !== undefined;
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
      <div className="trace-map-how">
        <Choice
          label="Counted from"
          value={basis}
          onChange={setBasis}
          all={[
            ['', 'as it says'],
            ['gauge', 'the air outside'],
            ['absolute', 'nothing: absolute'],
            ['vacuum', 'the air, downward: vacuum'],
          ]}
        />
        <Choice
          label="Dates"
          value={order}
          onChange={setOrder}
          all={[
            ['', 'as they say'],
            ['dmy', 'day before month'],
            ['mdy', 'month before day'],
          ]}
        />
        <Choice
          label="Decimal mark"
          value={decimal}
          onChange={setDecimal}
          all={[
            ['', 'as they say'],
            ['.', 'a point'],
            [',', 'a comma'],
          ]}
        />
        <Choice
          label="Times in"
          value={timeUnit}
          onChange={setTimeUnit}
          all={[
            ['', 'as they say'],
            ['s', 'seconds'],
            ['ms', 'thousandths of a second'],
            ['min', 'minutes'],
            ['h', 'hours'],
            ['d', 'days'],
          ]}
        />
        <Choice
          label="Parted by"
          value={delimiter ?? ''}
          onChange={(by) => onSplit(by === '' ? undefined : by)}
          all={[
            ['', 'what was found'],
            [',', 'commas'],
            [';', 'semicolons'],
            ['\t', 'tabs'],
            ['|', 'bars'],
            [' ', 'spaces'],
          ]}
        />
        <TextField
          size="small"
          label="First reading in line"
          value={first}
          onChange={(e) => setFirst(e.target.value)}
          error={wrongLine}
          helperText={wrongLine ? `one of the ${rows.length} that were looked at` : 'as it was found'}
        />
        <TextField
          size="small"
          label="Air outside, hPa"
          value={air}
          onChange={(e) => setAir(e.target.value)}
          error={wrongAir}
          helperText={wrongAir ? 'between 500 and 1100 hPa' : 'taken off absolute pressures'}
        />
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
              ...(basis ? { basis } : {}),
              ...(order ? { order } : {}),
              ...(decimal ? { decimal } : {}),
              ...(timeUnit ? { timeUnit } : {}),
              ...(delimiter === undefined ? {} : { delimiter }),
              ...(header === undefined ? {} : { header }),
              ...(hPa.ok && air !== '' ? { ambient: 100 * hPa.value } : {}),
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

/** One of a few ways to read it; the first is as the file itself says. */
const Choice = <T extends string>({
  label,
  value,
  onChange,
  all,
}: {
  label: string;
  value: T;
  onChange: (value: T) => void;
  all: readonly (readonly [T, string])[];
}) => (
  <TextField
    select
    size="small"
    label={label}
    value={value}
    onChange={(e) => onChange(e.target.value as T)}
    slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
  >
    {all.map(([v, title]) => (
      <MenuItem key={v} value={v}>
        {title}
      </MenuItem>
    ))}
  </TextField>
);

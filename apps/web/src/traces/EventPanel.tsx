import {
  figure,
  fromCanonical,
  intervalFromCanonical,
  parseNumber,
  symbolOf,
  toCanonical,
} from '@firm-needle/core/quantity';
import { originOf, type CorrectedEvent, type EventCorrection } from '@firm-needle/core/trace';
import { timeText, typedTime, type TimeScale } from '@firm-needle/core/picture';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useEffect, useState } from 'react';
import { titleOf } from './figures.ts';

interface Props {
  readonly events: readonly CorrectedEvent[];
  readonly selected: CorrectedEvent | undefined;
  readonly unit: string;
  readonly times: TimeScale;
  readonly from: number;
  readonly to: number;
  readonly onSelect: (e: CorrectedEvent) => void;
  readonly onCorrect: (c: EventCorrection) => void;
}

/** One event after the other: where it stands, how sure, and what a person has to say of it. */
export function EventPanel({ events, selected, unit, times, from, to, onSelect, onCorrect }: Props) {
  const [editing, setEditing] = useState<'move' | 'add' | 'remove'>();
  useEffect(() => setEditing(undefined), [selected]);
  if (events.length === 0) return null;
  const at = selected ? events.indexOf(selected) : -1;
  const step = (by: number): void => {
    const next = events[(at + by + events.length) % events.length];
    if (next) onSelect(next);
  };
  const said = (value: number): string => `${figure(fromCanonical(value, unit), 2)} ${symbolOf(unit)}`;
  return (
    <section className="trace-event" aria-label="Events">
      <div className="trace-tools">
        <Button size="small" onClick={() => step(-1)}>
          Event before
        </Button>
        <Button size="small" onClick={() => step(1)}>
          Next event
        </Button>
        <Button size="small" onClick={() => setEditing('add')}>
          Add one
        </Button>
        {selected ? (
          <span className="trace-event-said" role="status">
            <strong>{titleOf(selected.kind)}</strong> {said(selected.p)} ±{' '}
            {figure(intervalFromCanonical(2 * selected.u, unit), 2)} at {timeText(selected.t, times)}{' '}
            <span className="soft">
              ({at + 1} of {events.length}
              {selected.correction && `, by hand: ${selected.correction.why}`})
            </span>
          </span>
        ) : (
          <span className="soft">{events.length} events found; touch one to see it or to correct it.</span>
        )}
      </div>
      {selected && !editing && (
        <div className="trace-tools">
          <Button size="small" onClick={() => setEditing('move')}>
            It stands elsewhere
          </Button>
          <Button size="small" onClick={() => setEditing('remove')}>
            It was none
          </Button>
        </div>
      )}
      {editing && (
        <Say
          key={`${editing} ${selected?.t ?? ''}`}
          editing={editing}
          kinds={[...new Set(events.map((e) => e.kind))]}
          selected={editing === 'add' ? undefined : selected}
          unit={unit}
          times={times}
          from={from}
          to={to}
          onCancel={() => setEditing(undefined)}
          onCorrect={(c) => {
            setEditing(undefined);
            onCorrect(c);
          }}
        />
      )}
    </section>
  );
}

interface SayProps {
  readonly editing: 'move' | 'add' | 'remove';
  readonly kinds: readonly string[];
  readonly selected: CorrectedEvent | undefined;
  readonly unit: string;
  readonly times: TimeScale;
  readonly from: number;
  readonly to: number;
  readonly onCancel: () => void;
  readonly onCorrect: (c: EventCorrection) => void;
}

function Say({ editing, kinds, selected, unit, times, from, to, onCancel, onCorrect }: SayProps) {
  const [kind, setKind] = useState(selected?.kind ?? kinds[0] ?? '');
  const [time, setTime] = useState(selected ? timeText(selected.t, times).replace(/ s$/, '') : '');
  const [pressure, setPressure] = useState(selected ? fromCanonical(selected.p, unit).toFixed(2) : '');
  const [why, setWhy] = useState('');
  const t = typedTime(time, times, from, to);
  const p = parseNumber(pressure);
  const timed = !Number.isNaN(t);
  const ready = why.trim() !== '' && (editing === 'remove' || (timed && p.ok));
  const found = selected && originOf(selected);
  return (
    <form
      className="trace-say"
      onSubmit={(e) => {
        e.preventDefault();
        if (!ready) return;
        onCorrect({
          kind,
          ...(found === undefined ? {} : { found_s: found }),
          ...(editing !== 'remove' && timed && p.ok ? { t, p: toCanonical(p.value, unit) } : {}),
          why: why.trim(),
        });
      }}
    >
      {editing === 'add' && (
        <TextField
          select
          size="small"
          label="What happened"
          value={kind}
          onChange={(e) => setKind(e.target.value)}
        >
          {kinds.map((k) => (
            <MenuItem key={k} value={k}>
              {titleOf(k)}
            </MenuItem>
          ))}
        </TextField>
      )}
      {editing !== 'remove' && (
        <>
          <TextField
            size="small"
            label={times === 'elapsed' ? 'Time, s' : 'Time'}
            value={time}
            error={time !== '' && !timed}
            helperText={time !== '' && !timed ? `${timeText(from, times)} to ${timeText(to, times)}` : ' '}
            onChange={(e) => setTime(e.target.value)}
          />
          <TextField
            size="small"
            label={`Pressure, ${symbolOf(unit)}`}
            value={pressure}
            error={pressure !== '' && !p.ok}
            helperText=" "
            onChange={(e) => setPressure(e.target.value)}
          />
        </>
      )}
      <TextField
        size="small"
        label="Why"
        value={why}
        helperText="What was found stays beside it."
        onChange={(e) => setWhy(e.target.value)}
      />
      <Button type="submit" size="small" variant="contained" disabled={!ready}>
        Keep the correction
      </Button>
      <Button size="small" onClick={onCancel}>
        Leave it
      </Button>
    </form>
  );
}

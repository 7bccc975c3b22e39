import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { format, parseISO } from 'date-fns';
import { useState } from 'react';
import { useCalendarsQuery, useMakeCalendarMutation, useWithdrawCalendarMutation } from '../../store/api.ts';
import { useMe } from '../../store/me.ts';
import { problemOf } from '../../ui/States.tsx';

/** Addresses under which a calendar program reads visits and due dates; each is shown once, and can be withdrawn. */
export function Calendars() {
  const me = useMe();
  const open = useCalendarsQuery();
  const [make, making] = useMakeCalendarMutation();
  const [withdraw] = useWithdrawCalendarMutation();
  const [made, setMade] = useState<{ id: string; url: string }>();
  const problem = problemOf(making.error ?? open.error);
  const start = async (own: boolean): Promise<void> => {
    const answer = await make(own);
    if (answer.data)
      setMade({ id: answer.data.id, url: `${location.origin}/api/v1/calendar/${answer.data.token}.ics` });
  };
  return (
    <section aria-label="Calendar" className="calendar">
      <h2 className="eyebrow">In your calendar</h2>
      <p className="soft">
        A calendar program that is given such an address shows what it tells, and keeps it up to date. Whoever
        has the address reads it: withdraw it when it is not used.
      </p>
      {made && (
        <TextField
          size="small"
          fullWidth
          label="The address, shown this once"
          value={made.url}
          slotProps={{
            htmlInput: {
              readOnly: true,
              onFocus: (e: React.FocusEvent<HTMLInputElement>) => e.target.select(),
            },
          }}
        />
      )}
      {problem && (
        <p className="caution" role="alert">
          {problem.detail} {problem.remedy}
        </p>
      )}
      <p className="calendar-acts">
        {me.role !== 'reader' && (
          <Button disabled={making.isLoading} onClick={() => void start(true)}>
            My visits
          </Button>
        )}
        {me.role === 'supervisor' && (
          <Button disabled={making.isLoading} onClick={() => void start(false)}>
            All visits, and what is due
          </Button>
        )}
      </p>
      <ul className="sessions" aria-label="Calendar addresses">
        {open.data?.map((c) => (
          <li key={c.id}>
            <span>
              <strong>{c.own ? 'My visits' : 'All visits, and what is due'}</strong>
              <br />
              <span className="soft">since {format(parseISO(c.createdAt), 'd MMM yyyy, HH:mm')}</span>
            </span>
            <Button
              onClick={() => {
                if (made?.id === c.id) setMade(undefined);
                void withdraw(c.id);
              }}
            >
              Withdraw
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

import { PASSWORD_LENGTH } from '@firm-needle/core/formats';
import type { PasswordForm } from '@firm-needle/contract';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { format, parseISO } from 'date-fns';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { useChangePasswordMutation, useEndSessionMutation, useSessionsQuery } from '../../store/api.ts';
import { Calendars } from './Calendars.tsx';
import { useMe } from '../../store/me.ts';
import { Failed, Loading, problemOf } from '../../ui/States.tsx';
import '../people/people.css';

/** One's own account: a new password, and where one is signed in. */
export function AccountPage() {
  const me = useMe();
  return (
    <>
      <div className="page-head">
        <h1>{me.name}</h1>
        <span className="soft">
          {me.organisation.name} · signs in as {me.login}
        </span>
      </div>
      <div className="account">
        <Password />
        <Sessions />
        <Calendars />
      </div>
    </>
  );
}

type Asked = PasswordForm & { again: string };

function Password() {
  const [change, state] = useChangePasswordMutation();
  const [done, setDone] = useState(false);
  const { register, handleSubmit, formState, getValues, reset } = useForm<Asked>();
  const problem = problemOf(state.error);
  const wrong = (field: string): string | undefined =>
    problem?.errors?.find((e) => e.field === field)?.message;
  const submit = async ({ current, next }: Asked): Promise<void> => {
    setDone(false);
    const answer = await change({ current, next });
    if (answer.error) return;
    reset({ current: '', next: '', again: '' });
    setDone(true);
  };
  const field = (name: keyof Asked, label: string, rule: object, auto: string) => (
    <TextField
      size="small"
      type="password"
      label={label}
      autoComplete={auto}
      {...register(name, rule)}
      error={formState.errors[name] !== undefined || wrong(name) !== undefined}
      helperText={formState.errors[name]?.message ?? wrong(name)}
    />
  );
  return (
    <section aria-label="Password">
      <h2 className="eyebrow">A new password</h2>
      <form onSubmit={(e) => void handleSubmit(submit)(e)} noValidate>
        {field(
          'current',
          'Password now',
          { required: 'Type the one you signed in with.' },
          'current-password',
        )}
        {field(
          'next',
          'New password',
          {
            required: 'Type a new one.',
            minLength: {
              value: PASSWORD_LENGTH.from,
              message: `At least ${PASSWORD_LENGTH.from} characters.`,
            },
          },
          'new-password',
        )}
        {field(
          'again',
          'Once more',
          { validate: (v: string) => v === getValues('next') || 'The two are not the same.' },
          'new-password',
        )}
        {problem && !problem.errors?.length && (
          <p className="caution" role="alert">
            {problem.detail} {problem.remedy}
          </p>
        )}
        {done && <p role="status">Changed. Everywhere else you are signed out.</p>}
        <Button type="submit" variant="contained" disabled={state.isLoading}>
          Change it
        </Button>
      </form>
    </section>
  );
}

function Sessions() {
  const sessions = useSessionsQuery();
  const [end] = useEndSessionMutation();
  if (sessions.isLoading) return <Loading what="your sessions" />;
  if (!sessions.data)
    return <Failed problem={problemOf(sessions.error)} retry={() => void sessions.refetch()} />;
  const when = (at: string | null): string => (at ? format(parseISO(at), 'd MMM yyyy, HH:mm') : 'not known');
  return (
    <section aria-label="Where you are signed in">
      <h2 className="eyebrow">Where you are signed in</h2>
      <ul className="sessions">
        {sessions.data.map((s) => (
          <li key={s.id}>
            <span>
              <strong>{s.current ? 'This browser' : 'Another browser'}</strong>
              <br />
              <span className="soft">
                since {when(s.createdAt)} · seen {when(s.seenAt)}
              </span>
            </span>
            {!s.current && (
              <Button size="small" onClick={() => void end(s.id)}>
                End it
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

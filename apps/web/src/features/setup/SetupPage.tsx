import { PASSWORD_LENGTH } from '@firm-needle/core/formats';
import type { SetupForm } from '@firm-needle/contract';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useForm } from 'react-hook-form';
import { Navigate, useNavigate } from 'react-router';
import { api, useBeginMutation, useSetupQuery } from '../../store/api.ts';
import { useAppDispatch } from '../../store/index.ts';
import { stay } from '../../store/leaving.ts';
import { Brand } from '../../ui/Brand.tsx';
import { Loading, problemOf } from '../../ui/States.tsx';
import '../sign-in/sign-in.css';

type Asked = SetupForm & { again: string };

/** The first page of an empty installation: the firm, and who runs it. */
export function SetupPage() {
  const state = useSetupQuery();
  const [begin, began] = useBeginMutation();
  const { register, handleSubmit, formState, getValues } = useForm<Asked>();
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  if (state.isLoading) return <Loading what="the first page" />;
  if (state.data && !state.data.needed && !began.data) return <Navigate to="/sign-in" replace />;
  const problem = problemOf(began.error);
  const wrong = (field: string): string | undefined =>
    problem?.errors?.find((e) => e.field === field)?.message;
  const submit = async ({ firm, name, login, password }: Asked): Promise<void> => {
    const me = await begin({
      firm: firm.trim(),
      name: name.trim(),
      login: login.trim().toLowerCase(),
      password,
    });
    if (!me.data) return;
    stay();
    await dispatch(api.util.upsertQueryData('me', undefined, me.data));
    void navigate('/sites', { replace: true });
  };
  const field = (name: keyof Asked, label: string, rule: object, hint?: string, type = 'text') => (
    <TextField
      label={label}
      fullWidth
      type={type}
      autoComplete={type === 'password' ? 'new-password' : 'off'}
      {...register(name, rule)}
      error={formState.errors[name] !== undefined || wrong(name) !== undefined}
      helperText={formState.errors[name]?.message ?? wrong(name) ?? hint}
    />
  );
  return (
    <main className="setup">
      <section aria-label="A firm of your own">
        <div className="sign-in-brand">
          <Brand size={44} />
          <h1>A firm of your own</h1>
        </div>
        <p className="soft">
          Nothing is here yet. Name the firm and whoever runs its book: they enter the people, the sites and
          the gauges. This page is shown once.
        </p>
        <form onSubmit={(e) => void handleSubmit(submit)(e)} noValidate>
          {field(
            'firm',
            'Name of the firm',
            { required: 'Type the name on your sheets.' },
            'stands on every sheet',
          )}
          {field('name', 'Your name', { required: 'Type your name: it stands under what you sign.' })}
          {field(
            'login',
            'Name to sign in with',
            { required: 'Type one, in small letters.' },
            'small letters and digits',
          )}
          {field(
            'password',
            'Password',
            {
              required: 'Type a password.',
              minLength: {
                value: PASSWORD_LENGTH.from,
                message: `At least ${PASSWORD_LENGTH.from} characters.`,
              },
            },
            'ten characters or more; a few words do well',
            'password',
          )}
          {field(
            'again',
            'The password once more',
            { validate: (v: string) => v === getValues('password') || 'The two are not the same.' },
            undefined,
            'password',
          )}
          {problem && !problem.errors?.length && (
            <p className="caution" role="alert">
              <strong>{problem.detail}</strong> {problem.remedy}
            </p>
          )}
          <Button type="submit" variant="contained" fullWidth disabled={began.isLoading}>
            Begin
          </Button>
        </form>
      </section>
    </main>
  );
}

import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useForm } from 'react-hook-form';
import { Navigate, useLocation, useNavigate } from 'react-router';
import { api, useSetupQuery, useSignInMutation } from '../../store/api.ts';
import { useAppDispatch } from '../../store/index.ts';
import { stay } from '../../store/leaving.ts';
import { Brand } from '../../ui/Brand.tsx';
import { problemOf } from '../../ui/States.tsx';
import './sign-in.css';

interface Fields {
  login: string;
  password: string;
}

export function SignInPage() {
  const [signIn, state] = useSignInMutation();
  const { register, handleSubmit, formState } = useForm<Fields>();
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const from = (useLocation().state as { from?: string } | null)?.from ?? '/';
  const setup = useSetupQuery();
  const problem = problemOf(state.error);
  const submit = async (fields: Fields): Promise<void> => {
    const me = await signIn(fields);
    if (!me.data) return;
    stay();
    await dispatch(api.util.upsertQueryData('me', undefined, me.data));
    void navigate(from, { replace: true });
  };
  if (setup.data?.needed) return <Navigate to="/setup" replace />;
  return (
    <main className="sign-in">
      <section className="sign-in-card" aria-label="Sign in">
        <div className="sign-in-middle">
          <div className="sign-in-brand">
            <Brand size={44} />
            <h1>Firm Needle</h1>
          </div>
          <p className="soft">Set it, prove it, sign for it.</p>
          <form onSubmit={(e) => void handleSubmit(submit)(e)} noValidate>
            <TextField
              label="Name"
              fullWidth
              autoFocus
              autoComplete="username"
              {...register('login', { required: 'Type your sign-in name.' })}
              error={!!formState.errors.login}
              helperText={formState.errors.login?.message}
            />
            <TextField
              label="Password"
              type="password"
              fullWidth
              autoComplete="current-password"
              {...register('password', { required: 'Type your password.' })}
              error={!!formState.errors.password}
              helperText={formState.errors.password?.message}
            />
            {problem && (
              <p className="caution" role="alert">
                <strong>{problem.detail}</strong> {problem.remedy}
              </p>
            )}
            <Button type="submit" variant="contained" fullWidth disabled={state.isLoading}>
              {state.isLoading ? 'Signing in …' : 'Sign in'}
            </Button>
          </form>
        </div>
        {setup.data?.demo && (
          <p className="sign-in-demo soft">
            Demo on the invented island of Ostrey: <kbd>marrable</kbd> with <kbd>ostrey-demo</kbd> is a
            technician; <kbd>lowmarch</kbd> supervises; <kbd>observatory</kbd> may only look.
          </p>
        )}
      </section>
      <SignInLadder />
    </main>
  );
}

/** A still of the one picture, so that the first screen already says what the work is. */
function SignInLadder() {
  return (
    <svg
      className="sign-in-picture"
      viewBox="0 0 420 560"
      aria-hidden="true"
      preserveAspectRatio="xMidYMid slice"
    >
      <path d="M120 0v560" stroke="var(--ink)" strokeWidth="2" />
      {Array.from({ length: 29 }, (_, i) => (
        <path
          key={i}
          d={`M${i % 4 === 0 ? 102 : 111} ${i * 20}h${i % 4 === 0 ? 18 : 9}`}
          stroke="var(--ink)"
          strokeWidth={i % 4 === 0 ? 2 : 1}
        />
      ))}
      <rect x="120" y="142" width="300" height="36" fill="var(--in-wash)" />
      <rect x="120" y="362" width="300" height="36" fill="var(--in-wash)" />
      <path d="M60 160h70M60 380h70" stroke="var(--in)" strokeWidth="3" />
      <path d="M66 160h-6v220h6" fill="none" stroke="var(--ink)" strokeWidth="2" />
      <path
        d="M134 250C160 330 176 380 190 428 230 360 262 290 286 216c18 6 34 10 52 10 14 60 26 108 40 158 14-60 26-120 42-224"
        fill="none"
        stroke="var(--ink)"
        strokeWidth="2.5"
        strokeLinejoin="round"
      />
      <g fill="var(--panel)" stroke="var(--ink)" strokeWidth="2.5">
        <circle cx="190" cy="428" r="6" />
        <circle cx="286" cy="216" r="6" />
        <circle cx="378" cy="384" r="6" />
      </g>
      <path d="M122 160l20-12v24z" fill="var(--needle)" />
      <path d="M146 160h274" stroke="var(--needle)" strokeDasharray="3 5" strokeWidth="1.5" />
    </svg>
  );
}

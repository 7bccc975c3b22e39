import { beforeEach, describe, expect, it } from '@jest/globals';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { Route, Routes } from 'react-router';
import { leave } from '../../store/leaving.ts';
import { drawn, ME } from '../../testing.tsx';
import { refusal, serverThat } from '../../testingServer.ts';
import { SignInPage } from './SignInPage.tsx';

interface Says {
  readonly needed?: boolean;
  readonly demo?: boolean;
  readonly signIn?: ReturnType<typeof refusal> | undefined;
}
const page = ({ needed = false, demo = false, ...over }: Says = {}, from?: string) => {
  const asked = serverThat((method, path) =>
    path === '/setup'
      ? { data: { needed, demo } }
      : method === 'POST' && path === '/auth/sign-in'
        ? 'signIn' in over
          ? over.signIn
          : { data: ME }
        : refusal(404, 'Nothing is there.'),
  );
  drawn(
    <Routes>
      <Route path="/sign-in" element={<SignInPage />} />
      <Route path="/setup" element={<h1>First of all</h1>} />
      <Route path="/" element={<h1>Today</h1>} />
      <Route path="/gauges" element={<h1>Gauges</h1>} />
    </Routes>,
    ME,
    // Where somebody wanted to go.
    { pathname: '/sign-in', ...(from ? { state: { from } } : {}) },
  );
  return asked;
};
const type = (login: string, password: string): void => {
  fireEvent.change(screen.getByLabelText('Name'), { target: { value: login } });
  fireEvent.change(screen.getByLabelText('Password'), { target: { value: password } });
  fireEvent.click(screen.getByRole('button', { name: 'Sign in' }));
};
const signIns = (asked: ReturnType<typeof serverThat>): unknown[] =>
  asked.filter(([m, p]) => m === 'POST' && p === '/auth/sign-in').map(([, , body]) => body);

beforeEach(() => localStorage.clear());

describe('signing in', () => {
  it('asks for both before it asks the server', async () => {
    const asked = page();
    type('', '');
    expect(await screen.findByText('Type your sign-in name.')).toBeTruthy();
    expect(screen.getByText('Type your password.')).toBeTruthy();
    expect(signIns(asked)).toEqual([]);
  });

  it('goes where one wanted to go, else to the day, and ends a leaving that was never told', async () => {
    leave();
    const asked = page({}, '/gauges');
    type('quill', 'a password');
    expect(await screen.findByRole('heading', { name: 'Gauges' })).toBeTruthy();
    expect(signIns(asked)).toEqual([{ login: 'quill', password: 'a password' }]);
    expect(Object.keys(localStorage)).toEqual([]);
  });

  it('says what was wrong and what to do, and keeps what was typed', async () => {
    page({ signIn: refusal(401, 'Name or password is wrong.') });
    type('quill', 'another');
    expect((await screen.findByRole('alert')).textContent).toContain('Name or password is wrong.');
    expect(screen.getByLabelText<HTMLInputElement>('Name').value).toBe('quill');
    expect(screen.queryByRole('heading', { name: 'Today' })).toBeNull();
  });

  it('says so where there is no connection', async () => {
    page({ signIn: undefined });
    type('quill', 'a password');
    expect((await screen.findByRole('alert')).textContent).not.toBe('');
    await waitFor(() => expect(screen.getByRole('button', { name: 'Sign in' })).toBeTruthy());
  });

  it('names the demo’s people where there is one, and nobody where there is none', async () => {
    page({ demo: true });
    expect(await screen.findByText('lowmarch')).toBeTruthy();
  });

  it('goes to the first set-up where nobody can sign in yet', async () => {
    page({ needed: true });
    expect(await screen.findByRole('heading', { name: 'First of all' })).toBeTruthy();
  });
});

import { describe, expect, it } from '@jest/globals';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { drawn } from '../../testing.tsx';
import { refusal, serverThat } from '../../testingServer.ts';
import { AccountPage } from './AccountPage.tsx';

const SESSIONS = [
  {
    id: 'aaaa',
    agent: 'One',
    createdAt: '2031-01-05T08:00:00.000Z',
    seenAt: '2031-01-06T09:30:00.000Z',
    current: true,
  },
  { id: 'bbbb', agent: null, createdAt: '2031-01-01T08:00:00.000Z', seenAt: null, current: false },
];
function page(answer: (path: string) => ReturnType<typeof refusal> | undefined = () => undefined) {
  const asked = serverThat((method, path) => {
    if (method === 'GET') return path === '/auth/sessions' ? { data: SESSIONS } : undefined;
    return answer(path) ?? { data: null };
  });
  drawn(<AccountPage />);
  return asked;
}
const type = (label: string, text: string): void => {
  fireEvent.change(screen.getByLabelText(label), { target: { value: text } });
};
const change = (): void => void fireEvent.click(screen.getByRole('button', { name: 'Change it' }));

describe('an account', () => {
  it('shows where it is signed in, and ends another session but not this one', async () => {
    const asked = page();
    expect(await screen.findByText('This browser')).toBeTruthy();
    expect(screen.getByText(/seen not known/)).toBeTruthy();
    const end = screen.getAllByRole('button', { name: 'End it' });
    expect(end).toHaveLength(1);
    fireEvent.click(end[0] as HTMLElement);
    await waitFor(() => expect(asked.map(([m, p]) => `${m} ${p}`)).toContain('DELETE /auth/sessions/bbbb'));
    // And the list is asked for anew.
    await waitFor(() =>
      expect(asked.filter(([m, p]) => m === 'GET' && p === '/auth/sessions')).toHaveLength(2),
    );
  });

  it('changes its password when the new one is long enough and typed twice alike, and says so', async () => {
    const asked = page();
    await screen.findByText('This browser');
    type('Password now', 'the old one');
    type('New password', 'short');
    type('Once more', 'shorter');
    change();
    expect(await screen.findByText('At least 10 characters.')).toBeTruthy();
    expect(screen.getByText('The two are not the same.')).toBeTruthy();
    expect(asked.some(([m]) => m === 'POST')).toBe(false);
    type('New password', 'four dry socks');
    type('Once more', 'four dry socks');
    change();
    expect(await screen.findByText(/Changed\./)).toBeTruthy();
    expect(asked.find(([m]) => m === 'POST')).toEqual([
      'POST',
      '/auth/password',
      { current: 'the old one', next: 'four dry socks' },
    ]);
    expect((screen.getByLabelText('New password') as HTMLInputElement).value).toBe('');
  });

  it('is told at its field that the old one was wrong', async () => {
    page(() => refusal(422, 'current', [{ field: 'current', message: 'That is not your password now.' }]));
    await screen.findByText('This browser');
    type('Password now', 'guess');
    type('New password', 'four dry socks');
    type('Once more', 'four dry socks');
    change();
    expect(await screen.findByText('That is not your password now.')).toBeTruthy();
    expect(screen.queryByText(/Changed\./)).toBeNull();
  });
});

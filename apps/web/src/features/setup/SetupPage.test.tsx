import { describe, expect, it } from '@jest/globals';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { Route, Routes } from 'react-router';
import { drawn, ME } from '../../testing.tsx';
import { refusal, serverThat } from '../../testingServer.ts';
import { SetupPage } from './SetupPage.tsx';

const pages = (
  <Routes>
    <Route path="/setup" element={<SetupPage />} />
    <Route path="/sign-in" element={<p>Sign in here</p>} />
    <Route path="/sites" element={<p>The sites</p>} />
  </Routes>
);
const type = (label: string, text: string): void => {
  fireEvent.change(screen.getByLabelText(label), { target: { value: text } });
};
const fill = (again = 'three wet boots'): void => {
  type('Name of the firm', ' Kiln Works ');
  type('Your name', 'Ada Mills');
  type('Name to sign in with', 'Ada');
  type('Password', 'three wet boots');
  type('The password once more', again);
};
const begin = (): void => void fireEvent.click(screen.getByRole('button', { name: 'Begin' }));

describe('the first page', () => {
  it('makes the firm and its supervisor, who is in by it', async () => {
    const asked = serverThat((method) => ({
      data: method === 'POST' ? { ...ME, role: 'supervisor' } : { needed: true, demo: false },
    }));
    drawn(pages, ME, '/setup');
    await screen.findByLabelText('Name of the firm');
    fill();
    begin();
    expect(await screen.findByText('The sites')).toBeTruthy();
    expect(asked.find(([m]) => m === 'POST')).toEqual([
      'POST',
      '/setup',
      { firm: 'Kiln Works', name: 'Ada Mills', login: 'ada', password: 'three wet boots' },
    ]);
  });

  it('sends nothing before all of it is there and the password was typed twice alike', async () => {
    const asked = serverThat(() => ({ data: { needed: true, demo: false } }));
    drawn(pages, ME, '/setup');
    await screen.findByLabelText('Name of the firm');
    begin();
    expect(await screen.findByText('Type the name on your sheets.')).toBeTruthy();
    fill('another');
    begin();
    expect(await screen.findByText('The two are not the same.')).toBeTruthy();
    expect(asked.filter(([m]) => m === 'POST')).toEqual([]);
  });

  it('shows what the server finds wrong at its field', async () => {
    serverThat((method) =>
      method === 'POST'
        ? refusal(422, 'login', [{ field: 'login', message: 'is made of small letters' }])
        : { data: { needed: true, demo: false } },
    );
    drawn(pages, ME, '/setup');
    await screen.findByLabelText('Name of the firm');
    fill();
    begin();
    expect(await screen.findByText('is made of small letters')).toBeTruthy();
    expect((screen.getByLabelText('Name of the firm') as HTMLInputElement).value).toBe(' Kiln Works ');
  });

  it('is shown once: where there is a firm one signs in', async () => {
    serverThat(() => ({ data: { needed: false, demo: false } }));
    drawn(pages, ME, '/setup');
    await waitFor(() => expect(screen.getByText('Sign in here')).toBeTruthy());
  });
});

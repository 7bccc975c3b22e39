import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { Link, MemoryRouter, Route, Routes } from 'react-router';
import { Boundary } from './Boundary.tsx';
import { useLoaded } from './useLoaded.ts';

let load: () => Promise<string>;
function Loaded({ of }: { of: string | undefined }) {
  return <p>{useLoaded(() => load(), of) ?? 'loading'}</p>;
}
const pages = (of: string | undefined = 'a') =>
  render(
    <MemoryRouter initialEntries={['/work?visit=7']}>
      <Link to="/other">another page</Link>
      <Boundary also={<p>its log</p>}>
        <Routes>
          <Route path="/work" element={<Loaded of={of} />} />
          <Route path="/other" element={<p>the other</p>} />
        </Routes>
      </Boundary>
    </MemoryRouter>,
  );

beforeEach(() => void jest.spyOn(console, 'error').mockImplementation(() => undefined));
afterEach(() => void jest.restoreAllMocks());

describe('what is loaded', () => {
  it('is there once it has come, and nothing is loaded where nothing is wanted', async () => {
    load = jest.fn(async () => 'here it is');
    const { unmount } = pages();
    expect(screen.getByText('loading')).toBeTruthy();
    expect(await screen.findByText('here it is')).toBeTruthy();
    unmount();
    load = jest.fn(async () => 'unwanted');
    render(<Loaded of={undefined} />);
    await act(async () => undefined);
    expect(load).not.toHaveBeenCalled();
  });

  it('is never that of the key before, however late it comes', async () => {
    const answers: ((s: string) => void)[] = [];
    load = () => new Promise((r) => answers.push(r));
    const { rerender } = render(<Loaded of="a" />);
    rerender(<Loaded of="b" />);
    await act(async () => answers[0]?.('of a'));
    expect(screen.getByText('loading')).toBeTruthy();
    await act(async () => answers[1]?.('of b'));
    expect(screen.getByText('of b')).toBeTruthy();
    rerender(<Loaded of="c" />);
    expect(screen.getByText('loading')).toBeTruthy();
  });
});

describe('a page that cannot be drawn', () => {
  it('says what failed, that nothing is lost, and what is at hand; trying again tries again', async () => {
    load = () => Promise.reject(new Error('No family is called "pump-9".'));
    pages();
    const alert = await screen.findByRole('alert');
    expect(alert.textContent).toContain('Nothing that was entered is lost');
    expect(alert.textContent).toContain('No family is called "pump-9".');
    expect(alert.textContent).toContain('its log');
    load = async () => 'it works';
    fireEvent.click(screen.getByRole('button', { name: 'Try again' }));
    expect(await screen.findByText('it works')).toBeTruthy();
  });

  it.each([
    'Failed to fetch dynamically imported module: /assets/plan-1.js',
    'error loading dynamically imported module',
    'Importing a module script failed.',
    'Unable to preload CSS for /assets/work-1.css',
  ])('for want of a part of the app is loaded anew, at its own address: %s', async (message) => {
    load = () => Promise.reject(new TypeError(message));
    pages();
    const anew = await screen.findByRole('link', { name: 'Load it anew' });
    expect(anew.getAttribute('href')).toBe('/work?visit=7');
    expect(screen.queryByRole('button', { name: 'Try again' })).toBeNull();
    expect(screen.getByRole('alert').textContent).toContain('updated meanwhile');
  });

  it('does not keep one from another page', async () => {
    load = () => Promise.reject(new Error('broken'));
    pages();
    await screen.findByRole('alert');
    fireEvent.click(screen.getByRole('link', { name: 'another page' }));
    await waitFor(() => expect(screen.getByText('the other')).toBeTruthy());
    expect(screen.queryByRole('alert')).toBeNull();
  });
});

import 'fake-indexeddb/auto';
import { afterEach, describe, expect, it } from '@jest/globals';
import { fireEvent, screen, within } from '@testing-library/react';
import { Route, Routes, useLocation } from 'react-router';
import { drawn, ME } from '../testing.tsx';
import { Shell } from './Shell.tsx';

const Where = () => <p data-testid="where">{useLocation().pathname}</p>;
const shell = (me = ME): void => {
  drawn(
    <Routes>
      <Route element={<Shell />}>
        <Route path="*" element={<Where />} />
      </Route>
    </Routes>,
    me,
  );
};
const usual = globalThis.matchMedia;
const wide = (is: boolean): void => {
  globalThis.matchMedia = ((query: string) => ({ ...usual(query), matches: is })) as typeof matchMedia;
};
afterEach(() => {
  globalThis.matchMedia = usual;
});
const places = (): readonly (string | null)[] =>
  within(screen.getByRole('navigation', { name: 'Places' }))
    .getAllByRole('link')
    .map((a) => a.textContent);

describe('the places', () => {
  it('are all in the bar where it is wide', () => {
    wide(true);
    shell();
    expect(places()).toEqual(['Today', 'Due', 'Sites', 'Gauges', 'Reckoner', 'Traces', 'Practice', 'People']);
    expect(screen.queryByRole('button', { name: 'More' })).toBeNull();
  });

  it('are four and More on a phone, and none is out of reach', async () => {
    wide(false);
    shell();
    expect(places()).toEqual(['Today', 'Due', 'Sites', 'Gauges']);
    const more = screen.getByRole('button', { name: 'More' });
    fireEvent.click(more);
    expect((await screen.findAllByRole('menuitem')).map((m) => m.textContent)).toEqual([
      'Reckoner',
      'Traces',
      'Practice',
      'People',
      'Your account',
    ]);
    fireEvent.click(screen.getByRole('menuitem', { name: 'Traces' }));
    expect(screen.getByTestId('where').textContent).toBe('/traces');
    expect(screen.getByRole('button', { name: 'More', hidden: true }).className).toMatch(/active/);
  });

  it('of a customer’s account are without the firm’s people', () => {
    wide(true);
    shell({ ...ME, role: 'reader' });
    expect(places()).not.toContain('People');
  });
});

describe('the search', () => {
  it('opens by its button and by its key, but not while something is typed', async () => {
    wide(true);
    shell();
    fireEvent.keyDown(document.body, { key: '/' });
    expect(await screen.findByRole('combobox', { name: 'Find anything' })).toBeTruthy();
    fireEvent.keyDown(screen.getByRole('combobox'), { key: '/' });
    expect(screen.getAllByRole('combobox')).toHaveLength(1);
  });
});

import { describe, expect, it } from '@jest/globals';
import { fireEvent, screen, within } from '@testing-library/react';
import { drawn } from '../../testing.tsx';
import { controlOf, equipmentOf, siteOf } from '../../testingBook.ts';
import { serverThat } from '../../testingServer.ts';
import { SitesPage } from './SitesPage.tsx';

const SITES = [
  siteOf(
    's1',
    'Mill House',
    [
      equipmentOf('e1', 'Upper well', [controlOf('c1', 'Pump switch', { due: '2031-04-05' })]),
      equipmentOf('e2', 'Boiler', [controlOf('c2', 'Operating control', { family: 'steam-control' })]),
    ],
    { altitude_m: 45, notes: 'Key at the gate.' },
  ),
  siteOf('s2', 'Sail loft', [
    equipmentOf('e3', 'Compressor', [controlOf('c3', 'Air supply', { family: 'air-supply' })]),
    equipmentOf('e4', 'Something', [controlOf('c4', 'Of no known kind', { family: 'never-heard-of' })]),
  ]),
];

const shown = (): readonly (string | null)[] =>
  screen.queryAllByRole('heading', { level: 2 }).map((h) => h.textContent);
const find = (text: string): void => {
  fireEvent.change(screen.getByRole('textbox', { name: /Find a site/ }), { target: { value: text } });
};

describe('the sites', () => {
  it('stand with their controls, each opened by its name, its date beside it', async () => {
    serverThat(() => ({ data: { items: SITES, next: null } }));
    drawn(<SitesPage />);
    await screen.findByRole('heading', { name: 'Mill House' });
    expect(shown()).toEqual(['Mill House', 'Sail loft']);
    expect(screen.getByRole('link', { name: 'Pump switch' }).getAttribute('href')).toBe('/controls/c1');
    expect(screen.getByText('due 5 Apr 2031')).toBeTruthy();
    expect(screen.getByText('Key at the gate.')).toBeTruthy();
  });

  it('say of a kind that this version does not know that it cannot be opened', async () => {
    serverThat(() => ({ data: { items: SITES, next: null } }));
    drawn(<SitesPage />);
    const row = (await screen.findByText(/Of no known kind/)).closest('li');
    if (!row) throw new Error('no row');
    expect(within(row).queryByRole('link')).toBeNull();
    expect(within(row).getByText('not in this version yet')).toBeTruthy();
  });

  it('are searched by site, equipment and control, whatever the case; what matches not at all says so', async () => {
    serverThat(() => ({ data: { items: SITES, next: null } }));
    drawn(<SitesPage />);
    await screen.findByRole('heading', { name: 'Mill House' });
    find('  BOILER ');
    expect(shown()).toEqual(['Mill House']);
    expect(screen.queryByRole('link', { name: 'Pump switch' })).toBeNull();
    expect(screen.getByRole('link', { name: 'Operating control' })).toBeTruthy();
    find('sail');
    expect(shown()).toEqual(['Sail loft']);
    expect(screen.getByRole('link', { name: 'Air supply' })).toBeTruthy();
    find('pump sw');
    expect(screen.getAllByRole('link').map((l) => l.textContent)).toEqual([
      'In and out',
      'Mill House',
      'Pump switch',
    ]);
    find('(*');
    expect(shown()).toEqual([]);
    expect(screen.getByText(/Nothing here is called “\(\*”/)).toBeTruthy();
    find('');
    expect(shown()).toHaveLength(2);
  });

  it('that could not be had are asked for again by hand', async () => {
    let there = false;
    serverThat(() => (there ? { data: { items: SITES, next: null } } : undefined));
    drawn(<SitesPage />);
    const again = await screen.findByRole('button', { name: /again/i });
    expect(screen.getByText(/No connection/)).toBeTruthy();
    there = true;
    fireEvent.click(again);
    expect(await screen.findByRole('heading', { name: 'Sail loft' })).toBeTruthy();
  });
});

import { describe, expect, it } from '@jest/globals';
import { fireEvent, screen, within } from '@testing-library/react';
import type { Site } from '@firm-needle/contract';
import { drawn } from '../../testing.tsx';
import { serverThat } from '../../testingServer.ts';
import { SitesPage } from './SitesPage.tsx';

const control = (id: string, name: string, family = 'well-switch', due: string | null = null) => ({
  id,
  name,
  family,
  due,
  story: null,
  months: null,
  lawMonths: null,
  lawBy: null,
  customerDay: null,
  version: 1,
  retired: false,
});
const BARE = {
  customer: null,
  address: null,
  contact: null,
  access: null,
  hazards: null,
  unit: null,
  version: 1,
  retired: false,
} as const;
const PLAIN = { maker: null, model: null, serial: null, made: null, version: 1, retired: false } as const;
const SITES: readonly Site[] = [
  {
    ...BARE,
    id: 's1',
    name: 'Mill House',
    altitude_m: 45,
    notes: 'Key at the gate.',
    equipment: [
      {
        ...PLAIN,
        id: 'e1',
        name: 'Upper well',
        notes: null,
        controls: [control('c1', 'Pump switch', 'well-switch', '2031-04-05')],
      },
      {
        ...PLAIN,
        id: 'e2',
        name: 'Boiler',
        notes: null,
        controls: [control('c2', 'Operating control', 'steam-control')],
      },
    ],
  },
  {
    ...BARE,
    id: 's2',
    name: 'Sail loft',
    altitude_m: 8,
    notes: null,
    equipment: [
      {
        ...PLAIN,
        id: 'e3',
        name: 'Compressor',
        notes: null,
        controls: [control('c3', 'Air supply', 'air-supply')],
      },
      {
        ...PLAIN,
        id: 'e4',
        name: 'Something',
        notes: null,
        controls: [control('c4', 'Of no known kind', 'never-heard-of')],
      },
    ],
  },
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
    expect(screen.getAllByRole('link').map((l) => l.textContent)).toEqual(['Mill House', 'Pump switch']);
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

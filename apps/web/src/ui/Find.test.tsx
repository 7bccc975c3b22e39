import 'fake-indexeddb/auto';
import { describe, expect, it, jest } from '@jest/globals';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { Route, Routes, useLocation } from 'react-router';
import type { Hit } from '@firm-needle/contract';
import { drawn } from '../testing.tsx';
import { serverThat } from '../testingServer.ts';
import { Find } from './Find.tsx';

const HITS: readonly Hit[] = [
  { kind: 'site', id: 's1', title: 'Mill House', beside: 'Mill Company' },
  { kind: 'control', id: 'c1', title: 'Mill pump', beside: 'Mill House · Well' },
  { kind: 'finding', id: 'j1', title: 'The mill’s tank is waterlogged', beside: 'Mill House' },
];
const Where = () => <output>{useLocation().pathname}</output>;

function open(answer: (path: string) => { data: unknown } | undefined) {
  const asked = serverThat((_, path) => answer(path));
  const onClose = jest.fn();
  drawn(
    <>
      <Find onClose={onClose} />
      <Routes>
        <Route path="*" element={<Where />} />
      </Routes>
    </>,
  );
  return { asked, onClose };
}
const type = (text: string): void => {
  fireEvent.change(screen.getByRole('combobox'), { target: { value: text } });
};
const press = (key: string): void => void fireEvent.keyDown(screen.getByRole('combobox'), { key });
const at = (): string | null => document.querySelector('output')?.textContent ?? null;

describe('finding anything', () => {
  it('asks once the typing has settled, from two letters on', async () => {
    const { asked } = open((path) => (path.startsWith('/search') ? { data: HITS } : undefined));
    type('m');
    await new Promise((r) => setTimeout(r, 260));
    expect(asked).toEqual([]);
    for (const t of ['mi', 'mil', 'mill']) type(t);
    await screen.findAllByRole('option');
    expect(asked.map(([, path]) => path)).toEqual(['/search?q=mill']);
    expect(screen.getAllByRole('option').map((o) => o.getAttribute('aria-selected'))).toEqual([
      'true',
      'false',
      'false',
    ]);
  });

  it('is worked by the arrows and Enter, and opens what it is', async () => {
    const { onClose } = open((path) => (path.startsWith('/search') ? { data: HITS } : undefined));
    type('mill');
    await screen.findAllByRole('option');
    press('ArrowUp');
    press('ArrowDown');
    press('ArrowDown');
    press('ArrowDown');
    expect(screen.getAllByRole('option')[2]?.getAttribute('aria-selected')).toBe('true');
    press('Enter');
    expect(onClose).toHaveBeenCalled();
    expect(at()).toBe('/jobs/j1/sheet');
  });

  it('opens what is pressed, and nothing where nothing was found', async () => {
    open((path) => (path.startsWith('/search') ? { data: path.includes('mill') ? HITS : [] } : undefined));
    type('zzz');
    expect(await screen.findByText('Nothing here is called “zzz”.')).toBeTruthy();
    press('Enter');
    expect(at()).toBe('/');
    type('mill');
    fireEvent.click(await screen.findByText('Mill pump'));
    expect(at()).toBe('/controls/c1');
  });

  it('looks with no signal through the sites that this device keeps', async () => {
    const site = {
      id: 's1',
      name: 'Mill House',
      customer: null,
      equipment: [
        { id: 'e1', name: 'Upper well', serial: 'D 77', controls: [{ id: 'c1', name: 'Pump switch' }] },
      ],
    };
    open((path) => (path.startsWith('/sites') ? { data: { items: [site], next: null } } : undefined));
    type('pump');
    await waitFor(() => expect(screen.getAllByRole('option')).toHaveLength(1));
    expect(screen.getByText(/No connection/)).toBeTruthy();
    type('d 77');
    fireEvent.click(await screen.findByText('Upper well'));
    expect(at()).toBe('/sites/s1');
  });
});

import { describe, expect, it } from '@jest/globals';
import type { ImportState } from '@firm-needle/contract';
import { fireEvent, screen } from '@testing-library/react';
import { drawn, ME } from '../../testing.tsx';
import { refusal, serverThat } from '../../testingServer.ts';
import { ExchangePage } from './ExchangePage.tsx';

const BOSS = { ...ME, role: 'supervisor' as const };
const STATE: ImportState = {
  id: 'i',
  name: 'round.csv',
  state: 'ready',
  lines: 4,
  counts: { new: 1, known: 1, refused: 2, sites: 1, equipment: 0, controls: 0 },
  said: ['Columns that are not read: colour.'],
  problem: null,
};

/** A server that reads files in so. */
function server(over: Partial<ImportState> = {}, dossier: unknown = {}) {
  let state: ImportState = { ...STATE, ...over };
  return serverThat((method, path) => {
    if (path.startsWith('/sites')) return { data: { items: [], next: null } };
    if (path === '/dossiers') return dossier as { data: unknown };
    if (path.endsWith('/take')) return { data: (state = { ...state, state: 'done' }) };
    if (path.includes('/lines'))
      return {
        data: {
          items: [
            {
              line: 3,
              fate: 'refused',
              message: 'kind: not known',
              cells: { site: 'Heron', control: 'Kettle' },
            },
          ],
          next: null,
        },
      };
    if (path.startsWith('/imports')) return { data: state };
    return method === 'GET' ? { data: [] } : undefined;
  });
}
const choose = async (name: string): Promise<void> => {
  const file = new File(['site\nx'], name);
  fireEvent.change(await screen.findByLabelText('File to read in'), { target: { files: [file] } });
};

describe('in and out', () => {
  it('gives everybody the tables, and only a supervisor files to read in', async () => {
    server();
    const { unmount } = drawn(<ExchangePage />);
    expect(screen.getByRole('link', { name: 'Readings' }).getAttribute('href')).toBe(
      '/api/v1/export/readings.csv',
    );
    expect(screen.queryByLabelText('File to read in')).toBeNull();
    unmount();
    drawn(<ExchangePage />, BOSS);
    expect(await screen.findByLabelText('File to read in')).toBeTruthy();
  });

  it('says what a table would make and which lines cannot be taken, before anything is taken in', async () => {
    const asked = server();
    drawn(<ExchangePage />, BOSS);
    await choose('round.csv');
    expect(
      (await screen.findByText(/It would make 1 site, 0 pieces of equipment, 0 controls/)).textContent,
    ).toMatch(/^round\.csv: 4 lines\./);
    expect(screen.getByText('Columns that are not read: colour.')).toBeTruthy();
    expect(await screen.findByRole('cell', { name: 'Heron · Kettle' })).toBeTruthy();
    expect(asked.some(([, path]) => path.endsWith('/take'))).toBe(false);
    fireEvent.click(screen.getByRole('button', { name: 'Take in 1 line, leave 2 out' }));
    expect(await screen.findByText(/Taken in: 1 site/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^Take in/ })).toBeNull();
  });

  it('says why a file was not read in, and that the book is as it was', async () => {
    server({ state: 'failed', problem: 'Near line 3 (byte 40) the file is not UTF-8.' });
    drawn(<ExchangePage />, BOSS);
    await choose('round.csv');
    expect((await screen.findByRole('alert')).textContent).toMatch(/not UTF-8\. The book is as it was/);
  });

  it('takes a dossier at once, says what came, and what of it is judged otherwise; or why it was refused', async () => {
    server({}, { data: { site: 's', name: 'Heron', jobs: 3, events: 90, differ: 1 } });
    const { unmount } = drawn(<ExchangePage />, BOSS);
    await choose('heron-dossier.json');
    expect((await screen.findByRole('link', { name: 'Heron' })).getAttribute('href')).toBe('/sites/s');
    expect(screen.getByText(/with 3 jobs and 90 entries; every chain holds/).textContent).toMatch(
      /1 signed results? would be judged otherwise/,
    );
    unmount();
    server({}, refusal(422, 'The record of job j was changed at entry 4.'));
    drawn(<ExchangePage />, BOSS);
    await choose('heron-dossier.json');
    expect(await screen.findByRole('alert')).toBeTruthy();
  });
});

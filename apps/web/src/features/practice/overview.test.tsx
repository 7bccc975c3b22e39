import 'fake-indexeddb/auto';
import { describe, expect, it } from '@jest/globals';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import type { PracticeOverview, PracticeRun } from '@firm-needle/contract';
import { drawn, ME } from '../../testing.tsx';
import { refusal, serverThat } from '../../testingServer.ts';
import { OverviewPage } from './OverviewPage.tsx';
import { RunsList } from './RunsList.tsx';
import { TEST } from './testing.ts';
import type { Run } from './useRuns.ts';

const BOSS = { ...ME, role: 'supervisor' as const };
const run = (id: string, name: string, over: Partial<PracticeRun> = {}): PracticeRun => ({
  id,
  person: { id: name, name },
  kind: 'test',
  family: 'well-switch',
  variant: 'well switch',
  level: 4,
  help: 'bare',
  startedAt: '2030-01-02T08:00:00.000Z',
  endedAt: '2030-01-02T09:00:00.000Z',
  word: 'sound',
  unlucky: false,
  k: 90,
  sentence: 'Nothing was wrong.',
  missed: [],
  grave: 0,
  sure: { c: 0.75, right: true },
  test: 't1',
  shared: false,
  unfair: null,
  looks: [],
  ...over,
});
const OVERVIEW: PracticeOverview = {
  rows: [
    {
      person: { id: 'a', name: 'A. One' },
      family: 'well-switch',
      last: '2030-01-02T09:00:00.000Z',
      runs: 7,
      highest: 2,
      grave: 1,
      tests: [{ day: '2030-01-02T09:00:00.000Z', word: 'not yet' }],
      missed: { fault: 'low-well', times: 3, of: 7 },
    },
  ],
  teach: null,
};

const page = (runs: readonly PracticeRun[], overview: PracticeOverview | undefined = OVERVIEW) => {
  const asked = serverThat((method, path) =>
    path === '/practice/overview'
      ? overview
        ? { data: overview }
        : refusal(403, 'Only a supervisor may do that.')
      : path.startsWith('/practice/runs?shown')
        ? { data: { items: runs, next: null } }
        : path === '/practice/tests' && method === 'GET'
          ? { data: { items: [{ ...TEST, ended: 2 }], next: null } }
          : { data: TEST },
  );
  drawn(<OverviewPage />, BOSS);
  return asked;
};

describe('what a supervisor sees', () => {
  it('is counts by name, in words, and no rank', async () => {
    page([]);
    const row = await screen.findByRole('row', { name: /A\. One/ });
    for (const text of ['Well pump switch and tank', '7', 'usual', '1'])
      expect(within(row).getAllByText(text).length).toBeGreaterThan(0);
    await waitFor(() => expect(row.textContent).toContain('low well, 3 of 7'));
    expect(screen.queryByRole('columnheader', { name: /rank|place|%/i })).toBeNull();
    expect(screen.getByRole('link', { name: 'As CSV' }).getAttribute('href')).toContain('overview.csv');
  });

  it('puts one draw side by side where several worked it, and leaves out what was unfair', async () => {
    page([
      run('r1', 'B. Two', { k: 61, word: 'not yet', missed: ['low-well'] }),
      run('r2', 'A. One'),
      run('r3', 'C. Three', { unfair: 'too dark' }),
      run('r4', 'D. Four', { kind: 'run', test: null, shared: true }),
    ]);
    const beside = await screen.findByRole('region', { name: 'One draw side by side' });
    expect(
      within(beside)
        .getAllByRole('rowheader')
        .map((h) => h.textContent),
    ).toEqual(['A. One', 'B. Two']);
    await waitFor(() => expect(beside.textContent).toContain('low well'));
    expect(screen.getByText('unfair draw: too dark')).toBeTruthy();
  });

  it('calls a draw unfair with its reason, and sets a test for everybody', async () => {
    const asked = page([run('r1', 'B. Two')]);
    fireEvent.click(await screen.findByRole('button', { name: 'Unfair draw' }));
    fireEvent.change(screen.getByLabelText(/In a few words/), { target: { value: 'the lamp was out' } });
    fireEvent.click(screen.getByRole('button', { name: 'Say so' }));
    await waitFor(() =>
      expect(asked).toContainEqual(['POST', '/practice/runs/r1/unfair', { reason: 'the lamp was out' }]),
    );
    const set = await screen.findByRole('region', { name: 'Set a test' }, { timeout: 5000 });
    await waitFor(() => expect(within(set).getByText('well switch')).toBeTruthy());
    fireEvent.click(within(set).getByRole('button', { name: 'Set it for everybody' }));
    await waitFor(() =>
      expect(
        asked.some(
          ([m, p, b]) =>
            m === 'PUT' &&
            p.startsWith('/practice/tests/') &&
            (b as { family: string; level: number }).family === 'well-switch' &&
            (b as { level: number }).level === 4,
        ),
      ).toBe(true),
    );
    expect(await within(set).findByText('It is set.')).toBeTruthy();
  });

  it('is refused in words to whoever may not', async () => {
    serverThat(() => refusal(403, 'Only a supervisor may do that.'));
    drawn(<OverviewPage />, ME);
    expect(await screen.findByText('Only a supervisor may do that.')).toBeTruthy();
  });
});

describe('one’s own runs', () => {
  const own = (n: number, over: Partial<Run> = {}): Run => ({
    id: `r${n}`,
    kind: 'run',
    family: 'well-switch',
    variant: 'well switch',
    level: 1,
    startedAt: `2030-01-0${(n % 9) + 1}T08:00:00.000Z`,
    over: true,
    missed: [],
    waits: false,
    ...over,
  });
  it('are gone on with where they are open, and say where one waits or was refused', () => {
    const all = [
      own(1, { over: false }),
      own(2, { waits: true }),
      own(3, { waits: true, refused: 'It was changed.' }),
    ];
    drawn(<RunsList runs={{ all, again: () => undefined }} />);
    expect(screen.getByRole('heading', { name: 'Go on' })).toBeTruthy();
    expect(screen.getByText('waits for a signal')).toBeTruthy();
    expect(screen.getByText('It was changed.')).toBeTruthy();
    // How sure one was is told of ten at least.
    expect(screen.queryByText(/How sure you were/)).toBeNull();
  });

  it('tell how sure one was against how right, from ten on', () => {
    const all = Array.from({ length: 10 }, (_, n) =>
      own(n, { word: 'sound', k: 90, sure: { c: 0.75, right: n < 5 } }),
    );
    drawn(<RunsList runs={{ all, again: () => undefined }} />);
    // (0.25² + 0.75²) / 2
    expect(screen.getByText(/over the last 10: 0\.31/)).toBeTruthy();
  });
});

// Where one chooses what to practise: what an address may ask for, and what happens where something cannot be had.
import 'fake-indexeddb/auto';
import { beforeAll, beforeEach, describe, expect, it, jest } from '@jest/globals';
import type { PracticeTest } from '@firm-needle/contract';
import { HELP_SAID, LEVELS } from '@firm-needle/core/practice';
import { families, loadKit } from '@firm-needle/families';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { Route, Routes, useParams } from 'react-router';
import type { Chosen } from '../../practice/runs.ts';
import { withDb } from '../../sync/db.ts';
import { drawn, ME, openJob } from '../../testing.tsx';
import { refusal, serverThat } from '../../testingServer.ts';
import type { PracticePage as PageOf } from './PracticePage.tsx';
import { TEST } from './testing.ts';

/** What the worker draws, or why it cannot. */
let draw: (chosen: Chosen) => Promise<unknown>;
const asked: Chosen[] = [];
jest.mock('../../practice/host.ts', () => ({
  practiceHost: () => ({
    draw: (chosen: Chosen) => {
      asked.push(chosen);
      return draw(chosen);
    },
  }),
}));
let PracticePage: typeof PageOf;
beforeAll(async () => {
  ({ PracticePage } = await import('./PracticePage.tsx'));
});

const KINDS = families();
let tests: readonly PracticeTest[] = [];
let startTest: () => { status?: number; data: unknown };

beforeEach(async () => {
  await withDb((db) => db.clear('practice'));
  asked.length = 0;
  tests = [];
  startTest = () => ({ data: {} });
  const { started } = (await openJob()).view;
  draw = async () => ({ sealed: 'sealed', started, story: ['It is due.'] });
  serverThat((method, path) => {
    if (path.startsWith('/practice/tests'))
      return method === 'GET' ? { data: { items: tests, next: null } } : startTest();
    return path.startsWith('/practice/runs') ? { data: { items: [], next: null } } : undefined;
  });
});

const Begun = () => <p>run {useParams()['id']}</p>;
const open = (search = '', me = ME) =>
  drawn(
    <Routes>
      <Route path="/practice" element={<PracticePage />} />
      <Route path="/practice/runs/:id" element={<Begun />} />
    </Routes>,
    me,
    `/practice${search}`,
  );
const begin = (): Promise<HTMLElement> =>
  waitFor(() => {
    const button = screen.getByRole('button', { name: /^Begin( the lesson)?$/ });
    expect((button as HTMLButtonElement).disabled).toBe(false);
    return button;
  });
const chosenIn = (name: string): string => screen.getByRole('combobox', { name }).textContent ?? '';
const runsKept = () => withDb((db) => db.getAll('practice'));

describe('what is chosen', () => {
  it('is the first kind at the first level with all the help, and begins with a record on this device', async () => {
    open();
    fireEvent.click(await begin());
    const said = await screen.findByText(/^run /);
    const [kept, ...others] = await runsKept();
    expect(others).toEqual([]);
    expect(said.textContent).toBe(`run ${kept?.id}`);
    expect(kept?.record).toMatchObject({ kind: 'run', family: KINDS[0]?.id, level: 1, sealed: 'sealed' });
    expect(kept?.record.lesson).toBeUndefined();
    expect(kept?.story).toEqual(['It is due.']);
  });

  it('may be asked for by an address: kind, installation, level and lesson', async () => {
    const { variants } = await loadKit('well-switch');
    open(
      `?family=well-switch&variant=${encodeURIComponent(variants[0]?.name ?? '')}&level=2&lesson=low-precharge`,
    );
    fireEvent.click(await begin());
    await screen.findByText(/^run /);
    expect(asked).toMatchObject([
      {
        kind: 'lesson',
        family: 'well-switch',
        variant: variants[0]?.name,
        level: 2,
        lesson: 'low-precharge',
      },
    ]);
  });

  it.each([
    ['a kind that is not there', '?family=steam-engine'],
    ['a level that is not there', '?level=9'],
    ['a level that is no number', '?level=hard'],
    ['an installation of another kind', '?family=well-switch&variant=nonsense'],
    ['a lesson that the kind does not have', '?family=well-switch&lesson=nonsense'],
  ])('is what there is where the address asks for %s', async (_, search) => {
    open(search);
    const button = await begin();
    expect(button.textContent).toBe('Begin');
    expect(chosenIn('What is hidden')).toBe('Hidden, as in life');
    fireEvent.click(button);
    await screen.findByText(/^run /);
    const [chosen] = asked;
    expect(KINDS.map((k) => k.id)).toContain(chosen?.family);
    expect(LEVELS.map((l) => l.id)).toContain(chosen?.level);
    expect((await loadKit(chosen?.family ?? '')).variants.map((v) => v.name)).toContain(chosen?.variant);
    expect(chosen?.lesson).toBeUndefined();
  });

  it('has no more help than its level allows', async () => {
    open();
    await begin();
    const helps = (): readonly string[] =>
      within(screen.getByRole('group', { name: 'Help' }))
        .getAllByRole('radio')
        .map((r) => r.closest('label')?.querySelector('strong')?.textContent ?? '');
    expect(helps()).toContain(HELP_SAID.full.title);
    const top = LEVELS.at(-1);
    fireEvent.click(screen.getByRole('radio', { name: new RegExp(`^${top?.title}`) }));
    expect(helps()).not.toContain(HELP_SAID.full.title);
    fireEvent.click(await begin());
    await screen.findByText(/^run /);
    expect(asked[0]?.help).not.toBe('full');
    expect(asked[0]?.level).toBe(top?.id);
  });

  it('is left to chance on request, and is no lesson then', async () => {
    open('?family=well-switch&lesson=low-precharge');
    await begin();
    fireEvent.click(screen.getByRole('button', { name: 'Surprise me' }));
    await screen.findByText(/^run /);
    expect(asked).toMatchObject([{ kind: 'run' }]);
    expect(asked[0]?.lesson).toBeUndefined();
  });
});

describe('what cannot be drawn', () => {
  it.each(['Begin', 'Surprise me'])(
    'is said after %s, keeps nothing, and may be tried again',
    async (name) => {
      const works = draw;
      draw = () => Promise.reject(new Error('no worker'));
      open();
      await begin();
      fireEvent.click(screen.getByRole('button', { name }));
      expect((await screen.findByRole('alert')).textContent).toContain('not on this device');
      expect(await runsKept()).toEqual([]);
      draw = works;
      fireEvent.click(await begin());
      await screen.findByText(/^run /);
      expect(await runsKept()).toHaveLength(1);
    },
  );
});

describe('a test that was set', () => {
  it('is drawn from its own seal, counted, and begun', async () => {
    tests = [{ ...TEST, note: 'Before Friday.' }];
    open();
    expect(await screen.findByText(/set by A Supervisor/)).toBeTruthy();
    expect(screen.getByText(/Before Friday/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Begin: one try, no pause' }));
    await screen.findByText(/^run /);
    expect(asked).toMatchObject([{ kind: 'test', sealed: 'ab', test: 't1', level: 4, help: 'bare' }]);
  });

  it('that the server does not let begin is forgotten here, and says why', async () => {
    tests = [TEST];
    startTest = () => refusal(409, 'You had your try.');
    open();
    fireEvent.click(await screen.findByRole('button', { name: 'Begin: one try, no pause' }));
    expect(await screen.findByText('You had your try.')).toBeTruthy();
    expect(await runsKept()).toEqual([]);
  });

  it('that cannot be drawn here is not counted, and says so', async () => {
    tests = [TEST];
    draw = () => Promise.reject(new Error('no worker'));
    let counted = 0;
    startTest = () => ({ data: counted++ });
    open();
    const button = await screen.findByRole('button', { name: 'Begin: one try, no pause' });
    fireEvent.click(button);
    expect(await screen.findByText(/Your try was not counted/)).toBeTruthy();
    expect(counted).toBe(0);
    expect((button as HTMLButtonElement).disabled).toBe(false);
  });

  it('leads to its run while that is open, and to what it came to once it is over', async () => {
    tests = [
      { ...TEST, id: 't1', mine: { run: 'r1', word: null } },
      { ...TEST, id: 't2', mine: { run: 'r2', word: 'sound' } },
    ];
    open();
    expect((await screen.findByRole('link', { name: 'begun' })).getAttribute('href')).toBe(
      '/practice/runs/r1',
    );
    expect(screen.getByRole('link', { name: 'sound' }).getAttribute('href')).toBe(
      '/practice/runs/r2/debrief',
    );
    expect(screen.queryByRole('button', { name: /one try/ })).toBeNull();
  });
});

it('what everybody practised is shown to supervisors alone', async () => {
  const { unmount } = open();
  await begin();
  expect(screen.queryByRole('link', { name: 'What everybody practised' })).toBeNull();
  unmount();
  open('', { ...ME, role: 'supervisor' });
  expect(await screen.findByRole('link', { name: 'What everybody practised' })).toBeTruthy();
});

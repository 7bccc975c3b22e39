// What a run came to, drawn: on a run by the script and on one that went wrong, as the core tells both.
import 'fake-indexeddb/auto';
import { afterEach, beforeAll, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { Route, Routes } from 'react-router';
import type { PracticeRun, WholePracticeRun } from '@firm-needle/contract';
import {
  debriefOf,
  drawFrom,
  exerciseOf,
  scriptedRecord,
  sealed,
  type Debrief,
  type Draw,
  type Exercise,
  type Luck,
  type RunRecord,
} from '@firm-needle/core/practice';
import { loadFamily, loadKit } from '@firm-needle/families';
import { withDb } from '../../sync/db.ts';
import { drawn, ME } from '../../testing.tsx';
import { refusal, serverThat } from '../../testingServer.ts';
import type { DebriefPage as PageOf } from './DebriefPage.tsx';
import { Replay } from './Replay.tsx';

const FAMILY = 'well-switch';
let ex: Exercise;
let draw: Draw;
let record: RunRecord;
let debrief: Debrief;
/** What the worker says; it is the core's own unless a test says otherwise. */
let told: (r: RunRecord) => Promise<Debrief>;
let luck: Luck | undefined;
jest.mock('../../practice/host.ts', () => ({
  practiceHost: () => ({
    debrief: (r: RunRecord) => told(r),
    luck: () => (luck ? Promise.resolve(luck) : Promise.reject(new Error('no luck'))),
  }),
}));
let DebriefPage: typeof PageOf;

beforeAll(async () => {
  const kit = await loadKit(FAMILY);
  ex = exerciseOf(await loadFamily(FAMILY), kit, kit.variants[0]?.name ?? '');
  const text = sealed({ seed: 41, level: 1, lesson: 'low-precharge' });
  draw = drawFrom(ex, { seed: 41, level: 1, lesson: 'low-precharge' });
  const run = scriptedRecord(ex, draw, {
    id: 'r1',
    kind: 'run',
    sealed: text,
    endedAt: '2030-01-01T09:00:00Z',
  });
  // The screen writes with each entry when it was on the installation's own clock; the script has one clock for both.
  const events = run.events.map((e) => ({
    ...e,
    body: { ...e.body, t_s: e.mono / 1000 },
  })) as RunRecord['events'];
  record = { ...run, events };
  debrief = debriefOf(ex, draw, record);
  ({ DebriefPage } = await import('./DebriefPage.tsx'));
}, 60_000);
beforeEach(() => {
  told = (r) => Promise.resolve(r.help === record.help ? debrief : debriefOf(ex, draw, r));
  luck = { of: 50, right: 44, here: true, hard: false };
  globalThis.ResizeObserver = class {
    observe = (): void => undefined;
    unobserve = (): void => undefined;
    disconnect = (): void => undefined;
  };
});
afterEach(async () => {
  jest.useRealTimers();
  await withDb((db) => db.clear('practice'));
});

const own = (over: Partial<PracticeRun> = {}): PracticeRun =>
  ({ id: 'r1', shared: false, looks: [], unfair: null, ...over }) as unknown as PracticeRun;
const page = (whole: WholePracticeRun | undefined, mine: readonly PracticeRun[] = []) => {
  const asked = serverThat((method, path) =>
    path === '/practice/runs' && method === 'GET'
      ? { data: { items: mine, next: null } }
      : path === '/practice/runs/r1' && method === 'GET'
        ? whole
          ? { data: whole }
          : refusal(404, 'There is no such run.')
        : { data: own({ shared: true }) },
  );
  drawn(
    <Routes>
      <Route path="/practice/runs/:id" element={<DebriefPage />} />
    </Routes>,
    ME,
    '/practice/runs/r1',
  );
  return asked;
};
const keep = (r = record): Promise<unknown> =>
  withDb((db) => db.put('practice', { id: 'r1', user: 'u', record: r, story: [], sent: 1 }));

describe('a debrief', () => {
  it('tells a run of this device line by line, with its sum, and what was so', async () => {
    await keep();
    page(undefined, [own()]);
    const parts = await screen.findByRole('complementary', { name: 'Parts' });
    expect(document.querySelector('.debrief-sentence')?.textContent).toBe(`Sound. ${debrief.sentence}`);
    for (const l of debrief.lines) {
      const line = within(parts).getByText(l.text).closest('.debrief-line');
      expect(line?.querySelector('.figure')?.textContent).toBe(
        l.score === undefined || l.id === 'time' ? '–' : String(l.score),
      );
    }
    expect(document.querySelector('.debrief-sum .figure')?.textContent).toBe(String(debrief.k));
    for (const t of debrief.truth) expect(screen.getByText(t)).toBeTruthy();
    const [met] = debrief.met;
    const title = ex.family.rig.faults.find((f) => f.id === 'low-precharge')?.title ?? '';
    expect(met?.shown.fault).toBe('low-precharge');
    expect(screen.getByText(title).closest('li')?.textContent).toContain(met?.shown.title?.toLowerCase());
    expect(await within(parts).findByText(/an ordinary draw.*right in 44 of 50 like it\.$/)).toBeTruthy();
  });

  it('is shown to a supervisor with one press, and says who looked and that its draw was called unfair', async () => {
    await keep();
    const asked = page(undefined, [
      own({
        unfair: 'too dark',
        looks: [{ by: 'B. Boss', at: '2030-01-03T08:00:00Z' }],
      } as Partial<PracticeRun>),
    ]);
    fireEvent.click(await screen.findByRole('button', { name: 'Show it to your supervisor' }));
    await waitFor(() =>
      expect(asked.some(([m, p]) => m === 'POST' && p === '/practice/runs/r1/share')).toBe(true),
    );
    expect(screen.getByText(/Looked at by B\. Boss on 3 Jan/)).toBeTruthy();
    expect(screen.getByText('Its draw was called unfair: too dark')).toBeTruthy();
  });

  it('is had from the server where it is not here, with its person, and another’s is not shown on', async () => {
    luck = { of: 50, right: 3, here: false, hard: true };
    page({ record, person: { id: 'x', name: 'C. Other' } } as unknown as WholePracticeRun);
    expect(await screen.findByText(/C\. Other/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: /supervisor/ })).toBeNull();
    expect(await screen.findByText(/a hard draw.*and not on this one\.$/)).toBeTruthy();
  });

  it('of a test is not worked again, and what help gave away has no figure', async () => {
    await keep({ ...record, kind: 'test', help: 'full', test: 't' } as RunRecord);
    page(undefined, [own()]);
    const parts = await screen.findByRole('complementary', { name: 'Parts' });
    expect(screen.queryByRole('button', { name: 'Same seed again' })).toBeNull();
    expect(screen.queryByRole('button', { name: /supervisor/ })).toBeNull();
    const given = within(parts).getAllByText(/given by the help$/);
    expect(given.length).toBeGreaterThan(0);
    for (const g of given)
      expect(g.closest('.debrief-line')?.querySelector('.figure')?.textContent).toBe('–');
  });

  it('of what hurt somebody says so first, however the rest was done', async () => {
    told = () =>
      Promise.resolve({
        ...debrief,
        word: 'dangerous',
        safety: 0,
        acts: [
          { severity: 3, t: 65, text: 'The cover was opened live.' },
          { severity: 1, text: 'No tag.' },
        ],
      });
    await keep();
    page(undefined, [own()]);
    const grave = await screen.findByText('Grave: The cover was opened live.');
    expect(grave.closest('li')?.textContent).toContain('at 1:05');
    const parts = screen.getByRole('complementary', { name: 'Parts' });
    expect(within(parts).getByText('2 things').closest('.debrief-line')?.textContent).toBe('Safety2 things0');
  });

  it('that is not there, or was changed, is said to be', async () => {
    page(undefined);
    expect(await screen.findByText('There is no such run.')).toBeTruthy();
    told = () => Promise.reject(new Error('not of this draw'));
    await keep();
    page(undefined);
    expect(await screen.findByText(/This run cannot be told/)).toBeTruthy();
  });

  it('whose parts cannot be fetched is not said to have been changed; and it is told without its luck', async () => {
    told = () => Promise.reject(new TypeError('Failed to fetch dynamically imported module: /assets/x.js'));
    await keep();
    page(undefined);
    expect(await screen.findByText(/is not on this device and cannot be fetched now/)).toBeTruthy();
    expect(screen.queryByText(/was changed/)).toBeNull();
    cleanup();
    told = () => Promise.resolve(debrief);
    luck = undefined;
    page(undefined);
    expect(await screen.findByText('Luck: it could not be worked out here.')).toBeTruthy();
    expect(screen.getByText(debrief.sentence)).toBeTruthy();
  });
});

describe('the replay', () => {
  const figure = (d: Debrief = debrief) => render(<Replay ex={ex} debrief={d} />);
  const at = (): string => screen.getByRole('status').textContent ?? '';

  it('tells every moment of the run in words, in its order', () => {
    const { container } = figure();
    const words = [...container.querySelectorAll('.replay-words li')].map((li) => li.textContent);
    expect(words.length).toBeGreaterThan(5);
    expect(words).toHaveLength(debrief.moments.length);
    debrief.moments.forEach((m, i) => expect(words[i]).toContain(m.text));
    expect(debrief.moments.map((m) => m.t)).toEqual(
      [...debrief.moments.map((m) => m.t)].sort((a, b) => a - b),
    );
  });

  it('is gone through by its moments, back to its beginning and on to its end', () => {
    const { container } = figure();
    const readings = (): number => container.querySelectorAll('.replay-reading').length;
    const all = readings();
    expect(all).toBeGreaterThan(2);
    const back = screen.getByRole('button', { name: 'The moment before' });
    for (let i = 0; i < debrief.moments.length + 2; i++) fireEvent.click(back);
    expect(at()).toMatch(/^0:00/);
    expect(readings()).toBe(0);
    let seen = 0;
    for (let i = 0; i < debrief.moments.length + 2; i++) {
      fireEvent.click(screen.getByRole('button', { name: 'The next moment' }));
      expect(readings()).toBeGreaterThanOrEqual(seen);
      seen = readings();
    }
    expect(seen).toBe(all);
  });

  it('plays from the beginning, eight times as fast, and stands still at its end', () => {
    jest.useFakeTimers();
    const end = debrief.strip.t.at(-1) ?? 0;
    figure();
    const playing = (): string[] =>
      ['‖', '1×', '8×'].filter(
        (name) => screen.getByRole('button', { name }).getAttribute('aria-pressed') === 'true',
      );
    expect(playing()).toEqual(['‖']);
    fireEvent.click(screen.getByRole('button', { name: '8×' }));
    act(() => void jest.advanceTimersByTime(10_000));
    expect(playing()).toEqual(['8×']);
    expect(at()).toMatch(/^1:(19|20)/);
    act(() => void jest.advanceTimersByTime((end / 8) * 1000 + 1000));
    expect(playing()).toEqual(['‖']);
  });

  it('draws the needle and the truth, and the script’s run beside them where it is asked for', () => {
    figure();
    expect(screen.getAllByRole('img')).toHaveLength(1);
    const [mine] = screen.getAllByRole('img');
    for (const line of ['.replay-shown', '.replay-truth'])
      expect(mine?.querySelector(line)?.getAttribute('d')).toMatch(/^M[\d.]/);
    const button = screen.getByRole('button', { name: 'With the script’s run' });
    fireEvent.click(button);
    expect(screen.getAllByRole('img').map((i) => i.getAttribute('aria-label'))).toEqual([
      'your run: thin line the truth, thick line the needle',
      'the script on the same draw: thin line the truth, thick line the needle',
    ]);
    expect(screen.getByRole('button', { name: 'Mine alone' }).getAttribute('aria-pressed')).toBe('true');
  });

  it('says so where nothing went on long enough', () => {
    figure({ ...debrief, strip: { t: [0], places: {} } });
    expect(screen.getByText('Nothing went on long enough to draw.')).toBeTruthy();
  });
});

import 'fake-indexeddb/auto';
import { describe, expect, it } from '@jest/globals';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import type { Visit, VisitControl } from '@firm-needle/contract';
import { addDays, format } from 'date-fns';
import { drawn } from '../../testing.tsx';
import { serverThat } from '../../testingServer.ts';
import { deviceDb } from '../../sync/db.ts';
import { outbox } from '../../sync/outbox.ts';
import { TodayPage } from './TodayPage.tsx';

const on = (days: number): string => format(addDays(new Date(), days), 'yyyy-MM-dd');
const control = (id: string, over: Partial<VisitControl> = {}): VisitControl => ({
  id,
  name: `Control ${id}`,
  family: 'well-switch',
  available: true,
  equipment: 'A well',
  story: null,
  job: null,
  ...over,
});
const visit = (
  id: string,
  day: string,
  controls: readonly VisitControl[],
  purpose: string | null = null,
): Visit => ({
  id,
  day,
  purpose,
  site: { id: `s${id}`, name: `Site ${id}`, altitude_m: 1240 },
  technician: null,
  technicianId: 't',
  stop: 1,
  packed: [],
  version: 1,
  controls,
});
const job = (id: string, signedAt: string | null = null) => ({ id, signedAt, outcome: null, proved: null });

function day(visits: readonly Visit[]) {
  const asked = serverThat((_, path) =>
    path.startsWith('/visits?')
      ? { data: { items: visits, next: null } }
      : path.startsWith('/gauges?')
        ? { data: { items: [], next: null } }
        : undefined,
  );
  drawn(<TodayPage />);
  return asked;
}
const card = (name: string): HTMLElement => screen.getByRole('region', { name });

describe('the day', () => {
  it('has today’s visit first, then what was left open, then what comes; what is past and done is gone', async () => {
    day([
      visit('next', on(3), [control('c1')]),
      visit('later', on(9), [control('c2')]),
      visit('now', on(0), [control('c3')], 'Yearly look'),
      visit('open', on(-5), [control('c4', { job: job('j4') })]),
      visit('done', on(-6), [control('c5', { job: job('j5', '2030-01-01T00:00:00.000Z') })]),
      visit('missed', on(-7), [control('c6')]),
    ]);
    await screen.findByRole('region', { name: 'Site next' });
    expect(screen.getAllByRole('region').map((r) => r.getAttribute('aria-label'))).toEqual([
      'Site now',
      'Site open',
      'Site later',
      'Site next',
    ]);
    expect(within(card('Site now')).getByText('Yearly look')).toBeTruthy();
    expect(within(card('Site now')).getByText(/nobody yet · 1\s240 m/)).toBeTruthy();
    expect(screen.getByText('Left open')).toBeTruthy();
    expect(screen.getByText('Coming')).toBeTruthy();
  });

  it('leads to the control, to the job that is open, or to its sheet', async () => {
    day([
      visit('v', on(0), [
        control('new'),
        control('open', { job: job('j1') }),
        control('done', { job: job('j2', '2030-01-01T00:00:00.000Z') }),
        control('unknown', { family: 'never-heard-of', available: false }),
      ]),
    ]);
    await screen.findByRole('region', { name: 'Site v' });
    const to = (name: RegExp): string | null => screen.getByRole('link', { name }).getAttribute('href');
    expect(to(/Control new.*to do/)).toBe('/controls/new?visit=v');
    expect(to(/Control open.*open, go on/)).toBe('/jobs/j1?visit=v');
    expect(to(/Control done.*signed/)).toBe('/jobs/j2/sheet');
    expect(screen.queryByRole('link', { name: /Control unknown/ })).toBeNull();
    expect(screen.getByText('not in this version yet')).toBeTruthy();
  });

  it('says what to carry for today alone: each tool once', async () => {
    day([visit('now', on(0), [control('c1'), control('c2')]), visit('next', on(2), [control('c3')])]);
    await screen.findByRole('region', { name: 'Site now' });
    const carry = await within(card('Site now')).findByRole('group', { name: 'Carry' });
    const carried = within(carry)
      .getAllByRole('button')
      .map((b) => b.textContent);
    expect(carried.length).toBeGreaterThan(2);
    expect(new Set(carried).size).toBe(carried.length);
    await screen.findByRole('region', { name: 'Site next' });
    expect(within(card('Site next')).queryByRole('group')).toBeNull();
  });

  it('lets nothing below come before what to carry has, so that it does not move away under a finger', async () => {
    const held: (() => void)[] = [];
    day([visit('now', on(0), [control('c1')]), visit('next', on(2), [control('c3')])]);
    const answer = globalThis.fetch;
    globalThis.fetch = (async (...asked: Parameters<typeof fetch>) => {
      if (String(asked[0]).includes('/gauges?')) await new Promise<void>((r) => held.push(r));
      return answer(...asked);
    }) as typeof fetch;
    await screen.findByRole('region', { name: 'Site now' });
    await waitFor(() => expect(held.length).toBeGreaterThan(0));
    expect(screen.queryByRole('region', { name: 'Site next' })).toBeNull();
    held.forEach((go) => go());
    await screen.findByRole('group', { name: 'Carry' });
    expect(await screen.findByRole('region', { name: 'Site next' })).toBeTruthy();
  });

  it('does not wait for ever: over a line that never answers the rest comes after a while', async () => {
    day([visit('now', on(0), [control('c1')]), visit('next', on(2), [control('c3')])]);
    const answer = globalThis.fetch;
    globalThis.fetch = ((...asked: Parameters<typeof fetch>) =>
      String(asked[0]).includes('/gauges?')
        ? new Promise(() => undefined)
        : answer(...asked)) as typeof fetch;
    await screen.findByRole('region', { name: 'Site now' });
    expect(await screen.findByRole('region', { name: 'Site next' }, { timeout: 8000 })).toBeTruthy();
    expect(screen.queryByRole('group', { name: 'Carry' })).toBeNull();
  });

  it('ticks off what is packed, on this device first, and takes it back', async () => {
    const { id } = { id: '00000000-0000-4000-8000-000000000001' };
    day([{ ...visit(id, on(0), [control('c1')]), packed: [] }]);
    outbox.use('u');
    const carry = await screen.findByRole('group', { name: 'Carry' });
    const [first, second] = within(carry).getAllByRole('button');
    if (!first || !second) throw new Error('nothing to carry');
    const kept = async () => (await deviceDb()).getAll('puts');
    fireEvent.click(first);
    fireEvent.click(second);
    expect(first.getAttribute('aria-pressed')).toBe('true');
    await waitFor(async () =>
      expect((await kept()).map((p) => [p.path, p.body])).toEqual([
        [`/visits/${id}/packed`, { items: [first.textContent, second.textContent] }],
      ]),
    );
    fireEvent.click(first);
    await waitFor(async () => expect((await kept())[0]?.body).toEqual({ items: [second.textContent] }));
    outbox.use(undefined);
    await (await deviceDb()).clear('puts');
  });

  it('says so where no visit is planned', async () => {
    day([visit('next', on(2), [control('c1')])]);
    expect(await screen.findByText(/No visit is planned for today/)).toBeTruthy();
    expect(screen.getByRole('region', { name: 'Site next' })).toBeTruthy();
  });

  it('can be asked for again where the visits could not be had', async () => {
    serverThat(() => undefined);
    drawn(<TodayPage />);
    expect(await screen.findByText(/No connection/)).toBeTruthy();
    expect(screen.getByRole('button', { name: /again/i })).toBeTruthy();
  });
});

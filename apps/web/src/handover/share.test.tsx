import 'fake-indexeddb/auto';
import { afterEach, describe, expect, it, jest } from '@jest/globals';
import type { SharedLink } from '@firm-needle/contract';
import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { deviceDb } from '../sync/db.ts';
import { outbox } from '../sync/outbox.ts';
import { drawn, ME } from '../testing.tsx';
import { eventOf, took } from '../testingOutbox.ts';
import { refusal, serverThat } from '../testingServer.ts';
import { ShareDialog } from './ShareDialog.tsx';

const DAY_MS = 86_400_000;
const inDays = (n: number): string => new Date(Date.now() + n * DAY_MS).toISOString();
const link = (id: string, over: Partial<SharedLink> = {}): SharedLink => ({
  id,
  createdAt: inDays(-3),
  by: `maker of ${id}`,
  expiresAt: inDays(10),
  withdrawnAt: null,
  opened: 0,
  ...over,
});

/** A server with links to one sheet, that makes and withdraws them. */
const shared = (links: SharedLink[] = []) =>
  serverThat((method, path, body) => {
    if (method === 'GET') return { data: [...links] };
    if (method === 'POST') {
      links.push(link('new', { expiresAt: inDays((body as { days: number }).days) }));
      return { data: { id: 'new', token: 'tok-1', expiresAt: inDays(30) } };
    }
    const i = links.findIndex((l) => path.includes(l.id));
    if (links[i]) links[i] = { ...links[i], withdrawnAt: inDays(0) };
    return { status: 204, data: undefined };
  });
const open = () => drawn(<ShareDialog job="j1" title="Borehole switch" onClose={() => undefined} />);
const clipboard = (writeText: (text: string) => Promise<void>): void =>
  void Object.defineProperty(navigator, 'clipboard', { configurable: true, value: { writeText } });
const made = async (): Promise<void> => {
  fireEvent.click(await screen.findByRole('button', { name: 'Make the link' }));
  await screen.findByLabelText('The link, shown this once');
};

afterEach(() => {
  Reflect.deleteProperty(navigator, 'clipboard');
  Reflect.deleteProperty(navigator, 'share');
});

describe('a link for the customer', () => {
  it('is made for as long as was chosen, shown once, and copied', async () => {
    const asked = shared();
    const copied: string[] = [];
    clipboard(async (text) => void copied.push(text));
    open();
    fireEvent.mouseDown(screen.getByRole('combobox', { name: 'It expires after' }));
    fireEvent.click(await screen.findByRole('option', { name: '90 days' }));
    await made();
    expect(asked.find(([method]) => method === 'POST')?.[2]).toMatchObject({ days: 90 });
    fireEvent.click(screen.getByRole('button', { name: 'Copy' }));
    expect(await screen.findByRole('button', { name: 'Copied' })).toBeTruthy();
    expect(copied).toEqual([`${location.origin}/shared/tok-1`]);
  });

  it.each([
    ['forbids it', () => Promise.reject(new DOMException('no', 'NotAllowedError'))],
    ['has no clipboard', undefined],
  ])('says how to copy it by hand where the browser %s', async (_, write) => {
    shared();
    if (write) clipboard(write);
    open();
    await made();
    fireEvent.click(screen.getByRole('button', { name: 'Copy' }));
    expect((await screen.findByRole('alert')).textContent).toContain('copy it by hand');
    expect(screen.getByRole('button', { name: 'Copy' })).toBeTruthy();
  });

  it('goes by the device’s own sharing where there is one, and a hand that changes its mind is no error', async () => {
    shared();
    const share = jest.fn((_: unknown) => Promise.reject(new DOMException('changed', 'AbortError')));
    Object.defineProperty(navigator, 'share', { configurable: true, value: share });
    open();
    await made();
    fireEvent.click(screen.getByRole('button', { name: 'Share' }));
    await act(async () => undefined);
    expect(share).toHaveBeenCalledWith({
      title: 'Borehole switch',
      url: `${location.origin}/shared/tok-1`,
    });
    expect(screen.queryByRole('alert')).toBeNull();
  });

  it('that cannot be made says why, and may be asked for again', async () => {
    serverThat((method) => (method === 'GET' ? { data: [] } : refusal(409, 'The sheet is not signed.')));
    open();
    fireEvent.click(await screen.findByRole('button', { name: 'Make the link' }));
    expect((await screen.findByRole('alert')).textContent).toContain('The sheet is not signed.');
    expect(screen.getByRole('button', { name: 'Make the link' })).toBeTruthy();
    expect(screen.queryByLabelText('The link, shown this once')).toBeNull();
  });
});

describe('links that were made', () => {
  it('say whether they still stand and how often they were opened; only one that stands is withdrawn', async () => {
    shared([
      link('a', { opened: 1 }),
      link('b', { expiresAt: inDays(-1), opened: 4 }),
      link('c', { withdrawnAt: inDays(-2) }),
    ]);
    open();
    const rows = await waitFor(() => {
      const all = within(screen.getByRole('list', { name: 'Links to this sheet' })).getAllByRole('listitem');
      expect(all).toHaveLength(3);
      return all;
    });
    expect(rows[0]?.textContent).toMatch(/maker of a: reads until .* Opened once\./);
    expect(rows[1]?.textContent).toMatch(/maker of b: expired on .* Opened 4 times\./);
    expect(rows[2]?.textContent).toMatch(/maker of c: withdrawn on [^.]*\.$/);
    expect(screen.getAllByRole('button', { name: 'Withdraw' })).toHaveLength(1);
  });

  it('are not shown any more once the new one is withdrawn', async () => {
    const asked = shared();
    open();
    await made();
    fireEvent.click(await screen.findByRole('button', { name: 'Withdraw' }));
    expect(await screen.findByText(/withdrawn on/)).toBeTruthy();
    expect(screen.queryByLabelText('The link, shown this once')).toBeNull();
    expect(asked.filter(([m]) => m === 'DELETE')).toHaveLength(1);
  });
});

describe('a link to what was signed a moment ago', () => {
  const keep = async (): Promise<void> => {
    const event = eventOf('e1', 'j1');
    await (await deviceDb()).put('events', { id: 'e1', job: 'j1', user: ME.id, seq: null, sent: 0, event });
    outbox.use(ME.id);
  };
  afterEach(async () => {
    outbox.use(undefined);
    await (await deviceDb()).clear('events');
  });

  it('is made once the server has all of the job', async () => {
    const asked = serverThat((method, path, body) => {
      if (path === '/jobs/j1/events') return { data: took(body) };
      return method === 'POST'
        ? { data: { id: 'new', token: 'tok-1', expiresAt: inDays(30) } }
        : { data: [] };
    });
    await keep();
    open();
    await made();
    const posts = asked.filter(([method]) => method === 'POST').map(([, path]) => path);
    expect(posts.indexOf('/jobs/j1/events')).toBe(0);
    expect(posts).toHaveLength(2);
  });

  it('is not made of half a job: why is said, and it is tried again by a press', async () => {
    let signal = false;
    const asked = serverThat((method, path, body) => {
      if (method === 'GET') return { data: [] };
      if (!signal && path === '/jobs/j1/events') return undefined;
      if (path === '/jobs/j1/events') return { data: took(body) };
      return { data: { id: 'new', token: 'tok-1', expiresAt: inDays(30) } };
    });
    await keep();
    open();
    fireEvent.click(await screen.findByRole('button', { name: 'Make the link' }));
    expect((await screen.findByRole('alert')).textContent).toContain('does not have all of this job yet');
    expect(asked.some(([method, path]) => method === 'POST' && path.includes('share'))).toBe(false);
    signal = true;
    await made();
    expect(screen.queryByRole('alert')).toBeNull();
  });
});

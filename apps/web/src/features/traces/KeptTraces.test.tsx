import 'fake-indexeddb/auto';
import { describe, expect, it } from '@jest/globals';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import type { ListedTrace } from '@firm-needle/contract';
import { drawn } from '../../testing.tsx';
import { serverThat } from '../../testingServer.ts';
import { KeptTraces } from './KeptTraces.tsx';

const trace = (i: number, over: Partial<ListedTrace> = {}): ListedTrace => ({
  id: `00000000-0000-7000-8000-${String(i).padStart(12, '0')}`,
  name: `log ${i}.csv`,
  kind: 'cycles',
  unit: 'bar',
  channels: [],
  samples: 1200 + i,
  from_s: 0,
  to_s: 5400,
  offset_s: 0,
  controlId: null,
  jobId: null,
  place: null,
  createdAt: '2031-02-03T10:00:00.000Z',
  ...over,
});

/** A server that keeps so many. */
const keeping = (all: readonly ListedTrace[]) =>
  serverThat((_, path) => {
    const asked = new URL(path, 'http://here');
    const q = asked.searchParams.get('q') ?? '';
    const limit = Number(asked.searchParams.get('limit'));
    const found = all.filter((t) => `${t.name} ${t.place ?? ''}`.includes(q));
    return { data: { items: found.slice(0, limit), next: found.length > limit ? 'more' : null } };
  });

describe('kept traces', () => {
  it('say how long they are and where they were recorded, and lead to themselves', async () => {
    keeping([
      trace(1, { place: 'Mill House · Mill pump' }),
      trace(2, { to_s: 95 }),
      trace(3, { to_s: 90_000 }),
    ]);
    drawn(<KeptTraces openId={trace(2).id} />);
    const links = await screen.findAllByRole('link');
    expect(links.map((l) => l.textContent)).toEqual([
      'log 1.csvMill House · Mill pump90 min, 1,201 samples, kept 3 Feb 2031',
      'log 2.csvby itself95 s, 1,202 samples, kept 3 Feb 2031',
      'log 3.csvby itself25.0 h, 1,203 samples, kept 3 Feb 2031',
    ]);
    expect(links.map((l) => l.getAttribute('aria-current'))).toEqual([null, 'true', null]);
    expect(links[0]?.getAttribute('href')).toBe(`/traces/${trace(1).id}`);
  });

  it('are found by a few letters once the typing has settled; none of a name is said', async () => {
    const asked = keeping([trace(1, { place: 'Mill House · Mill pump' }), trace(2)]);
    drawn(<KeptTraces openId={undefined} />);
    await screen.findAllByRole('link');
    const field = screen.getByRole('searchbox', { name: 'Find by name or place' });
    for (const value of ['M', 'Mi', 'Mill & Co']) fireEvent.change(field, { target: { value } });
    await screen.findByText('None of this name or from such a place.');
    expect(asked.map(([, path]) => path)).toEqual(['/traces?limit=20', '/traces?limit=20&q=Mill%20%26%20Co']);
    fireEvent.change(field, { target: { value: 'Mill' } });
    await waitFor(() => expect(screen.getAllByRole('link')).toHaveLength(1));
  });

  it('go on as far as the server gives, and then by letters', async () => {
    keeping(Array.from({ length: 300 }, (_, i) => trace(i)));
    drawn(<KeptTraces openId={undefined} />);
    for (const n of [20, 60, 180, 200]) {
      await waitFor(() => expect(screen.getAllByRole('link')).toHaveLength(n));
      const older = screen.queryByRole('button', { name: 'Older ones' });
      if (n < 200) fireEvent.click(older as HTMLElement);
      else expect(older).toBeNull();
    }
    expect(screen.getByText('Older ones are found by a few letters.')).toBeTruthy();
  });

  it('are nothing where none is kept, and a sentence where there is no server', async () => {
    keeping([]);
    const { container, unmount } = drawn(<KeptTraces openId={undefined} />);
    await waitFor(() => expect(container.querySelector('section')).toBeNull());
    unmount();
    serverThat(() => undefined);
    drawn(<KeptTraces openId={undefined} />);
    await screen.findByText(/no connection to it/);
  });
});

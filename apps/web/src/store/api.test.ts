import { afterEach, describe, expect, it } from '@jest/globals';
import { configureStore } from '@reduxjs/toolkit';
import type { Problem } from '@firm-needle/contract';
import { refusal, serverThat } from '../testingServer.ts';
import { api } from './api.ts';

const store = () =>
  configureStore({
    reducer: { [api.reducerPath]: api.reducer },
    middleware: (base) => base().concat(api.middleware),
  });
const was = globalThis.fetch;
afterEach(() => {
  globalThis.fetch = was;
});

describe('a list', () => {
  it('is read to its end, page after page, in its order', async () => {
    const pages: Record<string, { items: { id: string }[]; next: string | null }> = {
      '/gauges?limit=200': { items: [{ id: 'a' }, { id: 'b' }], next: 'b&c' },
      '/gauges?limit=200&after=b%26c': { items: [{ id: 'c' }], next: null },
    };
    const asked = serverThat((_, path) => ({ data: pages[path] }));
    const { data } = await store().dispatch(api.endpoints.gauges.initiate());
    expect(data?.items.map((g) => g.id)).toEqual(['a', 'b', 'c']);
    expect(data?.next).toBeNull();
    expect(asked.map(([, path]) => path)).toEqual(Object.keys(pages));
  });

  it('that never ends is not read for ever', async () => {
    let n = 0;
    const asked = serverThat(() => ({ data: { items: [{ id: String(++n) }], next: String(n) } }));
    const { data } = await store().dispatch(api.endpoints.gauges.initiate());
    expect(data?.items).toHaveLength(100);
    expect(asked).toHaveLength(100);
  });

  it('with a page that is refused is no list: half of one would be taken for all of it', async () => {
    serverThat((_, path) =>
      path.includes('after')
        ? refusal(503, 'The record store is away.')
        : { data: { items: [{ id: 'a' }], next: 'a' } },
    );
    const { data, error } = await store().dispatch(api.endpoints.gauges.initiate());
    expect(data).toBeUndefined();
    expect(error as Problem).toMatchObject({ status: 503, detail: 'The record store is away.' });
  });
});

describe('what is changed here and now', () => {
  const save = () =>
    store().dispatch(api.endpoints.linkControl.initiate({ control: 'c', role: 'limit', to: null }));

  it('is asked of the server as it is', async () => {
    const asked = serverThat(() => ({ data: { role: 'limit', to: null } }));
    expect('error' in (await save())).toBe(false);
    expect(asked).toEqual([['PUT', '/controls/c/links/limit', { to: null }]]);
  });

  it('is not said to be kept where nothing could be sent', async () => {
    serverThat(() => undefined);
    const { error } = await save();
    expect((error as Problem).detail).toMatch(/not sent, and is not kept/);
  });

  it('is refused in the server’s own words', async () => {
    serverThat(() => refusal(422, 'That control cannot be it.'));
    const { error } = await save();
    expect((error as Problem).detail).toBe('That control cannot be it.');
  });
});

describe('a control', () => {
  it('that an older server answered, or this device kept, has no links rather than none to read', async () => {
    serverThat(() => ({ data: { id: 'c', name: 'A control', jobs: [] } }));
    const { data } = await store().dispatch(api.endpoints.control.initiate('c'));
    expect(data?.links).toEqual([]);
  });

  it('has the links that it has', async () => {
    const links = [{ role: 'limit', to: null, could: [] }];
    serverThat(() => ({ data: { id: 'c', name: 'A control', jobs: [], links } }));
    const { data } = await store().dispatch(api.endpoints.control.initiate('c'));
    expect(data?.links).toEqual(links);
  });
});

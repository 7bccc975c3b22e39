import 'fake-indexeddb/auto';
import { afterEach, describe, expect, it } from '@jest/globals';
import { families } from '@firm-needle/families';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { Route, Routes, useParams } from 'react-router';
import type { Site } from '@firm-needle/contract';
import { drawn, ME } from '../../testing.tsx';
import { refusal, serverThat } from '../../testingServer.ts';
import { deviceDb, inOrderMade } from '../../sync/db.ts';
import { outbox } from '../../sync/outbox.ts';
import { KindsPage } from './KindsPage.tsx';

const SITE = {
  id: '00000000-0000-4000-8000-000000000001',
  name: 'Mill',
  altitude_m: 3,
  equipment: [{ id: '00000000-0000-4000-8000-000000000002', name: 'Well', controls: [] }],
} as unknown as Site;
const Opened = () => <p>Opened {useParams()['id']}</p>;

function page(
  at: string,
  answer: (path: string) => ReturnType<typeof refusal> | 'gone' | undefined = () => undefined,
) {
  const asked = serverThat((method, path) => {
    if (method === 'PUT') {
      const said = answer(path);
      return said === 'gone' ? undefined : (said ?? { data: { id: 'x', version: 1 } });
    }
    return path.startsWith('/sites') ? { data: { items: [SITE], next: null } } : undefined;
  });
  drawn(
    <Routes>
      <Route path="/new-control" element={<KindsPage />} />
      <Route path="/controls/:id" element={<Opened />} />
    </Routes>,
    ME,
    at,
  );
  return asked;
}
const puts = (asked: ReturnType<typeof page>) => asked.filter(([m]) => m === 'PUT');
const dialog = () => within(screen.getByRole('dialog'));
const keep = (): void => void fireEvent.click(dialog().getByRole('button', { name: 'Go on to its plate' }));
const choose = async (kind: RegExp): Promise<void> => {
  fireEvent.click(await screen.findByRole('button', { name: kind }));
};

afterEach(async () => {
  outbox.use(undefined);
  await new Promise((r) => setTimeout(r, 30));
  await (await deviceDb()).clear('puts');
});

describe('the kinds of control', () => {
  it('are all there with a drawing, but for gauges, which are entered with the gauges', async () => {
    page('/new-control');
    await screen.findByRole('button', { name: /^Washer unloader/ });
    const wanted = families().filter((f) => !f.subject);
    expect(screen.getAllByRole('button')).toHaveLength(wanted.length);
    for (const f of wanted) expect(screen.getByText(f.title)).toBeTruthy();
    expect(document.querySelectorAll('svg.device')).toHaveLength(wanted.length);
    expect(screen.getByRole('link', { name: 'Gauges' }).getAttribute('href')).toBe('/gauges');
  });

  it('make a control on the equipment one came from, and go on to its plate', async () => {
    const asked = page(`/new-control?equipment=${SITE.equipment[0]?.id}`);
    expect(await screen.findByText('Mill · Well')).toBeTruthy();
    await choose(/^Well pump switch/);
    keep();
    expect(await dialog().findByText('Type what it is called there.')).toBeTruthy();
    fireEvent.change(dialog().getByLabelText('Name of the control'), { target: { value: ' Pump switch ' } });
    keep();
    await screen.findByText(/^Opened/);
    const [[, path, body] = []] = puts(asked);
    expect(path).toMatch(/^\/controls\/[\da-f-]{36}$/);
    expect(body).toEqual({
      version: 1,
      equipmentId: SITE.equipment[0]?.id,
      name: 'Pump switch',
      family: 'well-switch',
    });
    expect(screen.getByText(`Opened ${path?.split('/')[2]}`)).toBeTruthy();
  });

  it('make the equipment first where it is new as well', async () => {
    const asked = page(`/new-control?site=${SITE.id}`);
    await choose(/^Steam boiler control/);
    fireEvent.change(dialog().getByLabelText('Name of the control'), { target: { value: 'Operating' } });
    fireEvent.mouseDown(dialog().getByLabelText('On'));
    fireEvent.click(await screen.findByRole('option', { name: 'other equipment, named below' }));
    keep();
    expect(await dialog().findByText('Type what the other equipment is called.')).toBeTruthy();
    fireEvent.change(dialog().getByLabelText('Name of the other equipment'), { target: { value: 'Boiler' } });
    keep();
    await screen.findByText(/^Opened/);
    const made = puts(asked);
    expect(made.map(([, path]) => path.split('/')[1])).toEqual(['equipment', 'controls']);
    expect(made[0]?.[2]).toEqual({ version: 1, siteId: SITE.id, name: 'Boiler' });
    expect(made[1]?.[2]).toMatchObject({ equipmentId: made[0]?.[1].split('/')[2], family: 'steam-control' });
  });

  it('stay open with what the server finds wrong', async () => {
    page(`/new-control?equipment=${SITE.equipment[0]?.id}`, () =>
      refusal(422, 'equipmentId', [{ field: 'equipment', message: 'Well was retired.' }]),
    );
    await choose(/^Well pump switch/);
    fireEvent.change(dialog().getByLabelText('Name of the control'), { target: { value: 'x' } });
    keep();
    expect(await dialog().findByText('Well was retired.')).toBeTruthy();
  });

  it('keep nothing that the server failed over: it would stand before all that comes later', async () => {
    outbox.use('u');
    page(`/new-control?equipment=${SITE.equipment[0]?.id}`, () =>
      refusal(500, 'Something failed on the server.'),
    );
    await choose(/^Well pump switch/);
    fireEvent.change(dialog().getByLabelText('Name of the control'), { target: { value: 'x' } });
    keep();
    expect(await dialog().findByText(/Something failed on the server/)).toBeTruthy();
    expect(await (await deviceDb()).count('puts')).toBe(0);
  });

  it.each([
    ['no connection', 'gone' as const],
    [
      'a server without its record store',
      {
        status: 503,
        data: {
          type: 'urn:firm-needle:store-down',
          status: 503,
          code: 'store-down',
          detail: 'The record store is away.',
        },
      },
    ],
  ])('with %s keep it on this device, in its order, and go on', async (_, trouble) => {
    outbox.use('u');
    page(`/new-control?site=${SITE.id}`, () => trouble);
    await choose(/^Well pump switch/);
    fireEvent.change(dialog().getByLabelText('Name of the control'), { target: { value: 'Lower switch' } });
    fireEvent.mouseDown(dialog().getByLabelText('On'));
    fireEvent.click(await screen.findByRole('option', { name: 'other equipment, named below' }));
    fireEvent.change(dialog().getByLabelText('Name of the other equipment'), {
      target: { value: 'Lower well' },
    });
    keep();
    await screen.findByText(/^Opened/);
    await waitFor(async () => {
      const kept = inOrderMade(await (await deviceDb()).getAll('puts'));
      expect(kept.map((p) => p.path.split('/')[1])).toEqual(['equipment', 'controls']);
      expect(kept.every((p) => p.user === 'u')).toBe(true);
    });
  });
});

import 'fake-indexeddb/auto';
import { describe, expect, it } from '@jest/globals';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { Route, Routes } from 'react-router';
import type { ControlForm, Site, SiteForm } from '@firm-needle/contract';
import { drawn, ME } from '../../testing.tsx';
import { controlOf, equipmentOf, siteOf } from '../../testingBook.ts';
import { refusal, serverThat } from '../../testingServer.ts';
import { SitePage } from './SitePage.tsx';

const MILL = siteOf(
  's1',
  'Mill House',
  [
    equipmentOf(
      'e1',
      'Upper well',
      [controlOf('c1', 'Pump switch', { due: '2031-04-05', months: 6, version: 4 })],
      {
        maker: 'Dunlarch',
        serial: 'D 1',
        made: 2016,
      },
    ),
    equipmentOf('e2', 'Bench', [
      controlOf('c2', 'Gauge W-1', { family: 'gauge-check' }),
      controlOf('c3', 'Odd', { family: 'never-heard-of' }),
    ]),
  ],
  {
    altitude_m: 45,
    notes: 'Key at the gate.',
    customer: 'Mill Company',
    address: 'Mill Lane 1',
    contact: 'The miller',
    access: 'Ring twice.',
    hazards: 'Wet stairs.',
    unit: 'bar',
    version: 3,
  },
);
const OLD: Site = {
  ...MILL,
  equipment: [
    ...MILL.equipment,
    equipmentOf('e9', 'Old boiler', [controlOf('c9', 'Old control', { retired: true })], { retired: true }),
  ],
};

function page(
  answer: (path: string, body: unknown) => ReturnType<typeof refusal> | undefined = () => undefined,
  me = ME,
  at = '/sites/s1',
) {
  const asked = serverThat((method, path, body) => {
    if (method === 'PUT') return answer(path, body) ?? { data: { id: 'x', version: 9 } };
    if (path.startsWith('/sites?limit=200&retired')) return { data: { items: [OLD], next: null } };
    if (path.startsWith('/sites')) return { data: { items: [MILL], next: null } };
    return undefined;
  });
  drawn(
    <Routes>
      <Route path="/sites/:id" element={<SitePage />} />
    </Routes>,
    me,
    at,
  );
  return asked;
}
const puts = (asked: ReturnType<typeof page>) =>
  asked.filter(([m]) => m === 'PUT').map(([, path, body]) => [path, body] as const);
const dialog = () => within(screen.getByRole('dialog'));

describe('a site', () => {
  it('says who it belongs to, how to get in, what is dangerous there, and what stands there', async () => {
    page();
    expect(await screen.findByRole('heading', { name: 'Mill House' })).toBeTruthy();
    expect(screen.getByText('Mill Company · 45 m · bar')).toBeTruthy();
    expect(screen.getByText(/Wet stairs\./).textContent).toMatch(/Hazards there/);
    for (const text of ['Mill Lane 1', 'The miller', 'Ring twice.', 'Key at the gate.'])
      expect(screen.getByText(text)).toBeTruthy();
    expect(screen.getByText('Dunlarch · serial D 1 · 2016')).toBeTruthy();
    expect(screen.getByText('due 5 Apr 2031')).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Life of Pump switch' }).getAttribute('href')).toBe(
      '/controls/c1/life',
    );
  });

  it('offers no change of a gauge’s control, nor of a kind that is not known here', async () => {
    page();
    await screen.findByRole('heading', { name: 'Mill House' });
    expect(screen.getByRole('button', { name: 'Change Pump switch' })).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Change Gauge W-1' })).toBeNull();
    expect(screen.getByText(/not in this version yet/)).toBeTruthy();
    expect(screen.queryByRole('link', { name: 'Odd' })).toBeNull();
  });

  it('is looked at and not touched by a customer’s account', async () => {
    page(undefined, { ...ME, role: 'reader' });
    await screen.findByRole('heading', { name: 'Mill House' });
    expect(screen.queryAllByRole('button', { name: /Change|New equipment|Copy|Another/ })).toEqual([]);
    expect(screen.queryByRole('link', { name: 'New control on it' })).toBeNull();
  });

  it('is changed as a whole: what was left empty is none, what was not touched stays', async () => {
    const asked = page();
    fireEvent.click((await screen.findAllByRole('button', { name: 'Change' }))[0] as HTMLElement);
    fireEvent.change(dialog().getByLabelText('Contact'), { target: { value: '' } });
    fireEvent.change(dialog().getByLabelText('Height above the sea, m'), { target: { value: '45,5' } });
    fireEvent.click(dialog().getByRole('button', { name: 'Keep the site' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(puts(asked)).toEqual([
      [
        '/sites/s1',
        {
          version: 4,
          name: 'Mill House',
          altitude_m: 45.5,
          customer: 'Mill Company',
          address: 'Mill Lane 1',
          contact: null,
          access: 'Ring twice.',
          hazards: 'Wet stairs.',
          unit: 'bar',
          notes: 'Key at the gate.',
          retired: false,
        } satisfies SiteForm,
      ],
    ]);
  });

  it('is retired only when asked twice, and stays where work is open on it', async () => {
    const asked = page(() => refusal(409, 'A job is open on Pump switch.'));
    fireEvent.click((await screen.findAllByRole('button', { name: 'Change' }))[0] as HTMLElement);
    fireEvent.click(dialog().getByRole('button', { name: 'Retire the site' }));
    expect(puts(asked)).toEqual([]);
    fireEvent.click(dialog().getByRole('button', { name: /its records stay/ }));
    expect(await dialog().findByText(/A job is open on Pump switch/)).toBeTruthy();
    expect(puts(asked)[0]?.[1]).toMatchObject({ version: 4, retired: true });
  });

  it('that somebody retired meanwhile is not taken back unseen', async () => {
    const current = { ...MILL, version: 7, retired: true };
    const asked = page((_, body) =>
      (body as SiteForm).version < 8
        ? {
            status: 409,
            data: { type: 'urn:firm-needle:moved-on', status: 409, code: 'moved-on', detail: 'x', current },
          }
        : undefined,
    );
    fireEvent.click((await screen.findAllByRole('button', { name: 'Change' }))[0] as HTMLElement);
    fireEvent.click(dialog().getByRole('button', { name: 'Keep the site' }));
    expect(await dialog().findByText('theirs: retired · yours: in use')).toBeTruthy();
    fireEvent.click(dialog().getByRole('button', { name: 'Take theirs' }));
    fireEvent.click(dialog().getByRole('button', { name: 'Keep the site' }));
    await waitFor(() => expect(puts(asked)).toHaveLength(2));
    expect(puts(asked)[1]?.[1]).toMatchObject({ version: 8, retired: true });
  });

  it('shows what was retired when that is asked for, and takes it back', async () => {
    const asked = page();
    fireEvent.click(await screen.findByRole('button', { name: 'Show what was retired, too' }));
    expect(await screen.findByRole('heading', { name: 'Old boiler' })).toBeTruthy();
    const old = within(screen.getByRole('region', { name: 'Old boiler' }));
    expect(old.getAllByText(/· retired/).length).toBeGreaterThan(0);
    expect(old.queryByRole('link', { name: 'New control on it' })).toBeNull();
    fireEvent.click(old.getByRole('button', { name: 'Change' }));
    fireEvent.click(dialog().getByRole('button', { name: 'Take it back' }));
    await waitFor(() =>
      expect(puts(asked)[0]).toMatchObject(['/equipment/e9', { retired: false, version: 2 }]),
    );
  });

  it('that is not there says so', async () => {
    page(undefined, ME, '/sites/nowhere');
    expect(await screen.findByText(/There is no such site here/)).toBeTruthy();
  });
});

describe('what stands at a site', () => {
  it('gets new equipment under an id of its own, once', async () => {
    const asked = page();
    fireEvent.click(await screen.findByRole('button', { name: 'New equipment' }));
    fireEvent.click(dialog().getByRole('button', { name: 'Keep the equipment' }));
    expect(await dialog().findByText('Type what it is called there.')).toBeTruthy();
    fireEvent.change(dialog().getByLabelText('Name of the equipment'), { target: { value: ' Lower well ' } });
    fireEvent.change(dialog().getByLabelText('Year'), { target: { value: '1200' } });
    fireEvent.click(dialog().getByRole('button', { name: 'Keep the equipment' }));
    expect(await dialog().findByText('At least 1850.')).toBeTruthy();
    fireEvent.change(dialog().getByLabelText('Year'), { target: { value: '2019' } });
    fireEvent.click(dialog().getByRole('button', { name: 'Keep the equipment' }));
    await waitFor(() => expect(puts(asked)).toHaveLength(1));
    const [path, body] = puts(asked)[0] ?? [];
    expect(path).toMatch(/^\/equipment\/[\da-f-]{36}$/);
    expect(body).toMatchObject({ version: 1, siteId: 's1', name: 'Lower well', made: 2019, serial: null });
  });

  it('moves a control to other equipment of the site, with when it comes round again', async () => {
    const asked = page();
    fireEvent.click(await screen.findByRole('button', { name: 'Change Pump switch' }));
    expect((dialog().getByLabelText('Months between checks') as HTMLInputElement).value).toBe('6');
    fireEvent.change(dialog().getByLabelText('Months set by law or insurer'), { target: { value: '12' } });
    fireEvent.change(dialog().getByLabelText('By whom'), { target: { value: 'the insurer' } });
    fireEvent.mouseDown(dialog().getByLabelText('On'));
    fireEvent.click(await screen.findByRole('option', { name: 'Bench' }));
    fireEvent.click(dialog().getByRole('button', { name: 'Keep the control' }));
    await waitFor(() => expect(puts(asked)).toHaveLength(1));
    expect(puts(asked)[0]).toEqual([
      '/controls/c1',
      {
        version: 5,
        equipmentId: 'e2',
        family: 'well-switch',
        name: 'Pump switch',
        story: null,
        months: 6,
        lawMonths: 12,
        lawBy: 'the insurer',
        customerDay: null,
        retired: false,
      } satisfies ControlForm,
    ]);
  });

  it('is duplicated: another control like it, and the whole set-up as another site', async () => {
    const asked = page();
    const another = await screen.findByRole('button', { name: 'Another like it: Pump switch' });
    fireEvent.click(another);
    // A hand that presses twice makes one.
    fireEvent.click(another);
    await waitFor(() => expect(puts(asked)).toHaveLength(1));
    expect(puts(asked)[0]?.[0]).toMatch(/^\/controls\/[\da-f-]{36}\/copy$/);
    expect(puts(asked)[0]?.[1]).toEqual({ from: 'c1', name: 'Pump switch 2' });
    fireEvent.click(screen.getByRole('button', { name: 'Copy its set-up' }));
    await waitFor(() => expect(puts(asked)).toHaveLength(2));
    expect(puts(asked)[1]?.[1]).toEqual({ from: 's1', name: 'Mill House (copy)' });
  });

  it('that could not be duplicated says why', async () => {
    page((path) => (path.endsWith('/copy') ? refusal(403, 'Your account may look, not change.') : undefined));
    fireEvent.click(await screen.findByRole('button', { name: 'Copy its set-up' }));
    expect((await screen.findByRole('alert')).textContent).toMatch(/may look, not change/);
  });
});

import 'fake-indexeddb/auto';
import { describe, expect, it } from '@jest/globals';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import type { DueItem, Person, PlannedVisit, VisitForm } from '@firm-needle/contract';
import { drawn, ME } from '../../testing.tsx';
import { controlOf, equipmentOf, siteOf } from '../../testingBook.ts';
import { serverThat, refusal } from '../../testingServer.ts';
import { duration, mondayOf, plusDays, today } from './days.ts';
import { DuePage, formOf } from './DuePage.tsx';
import { withAlong } from './VisitDialog.tsx';

const soon = plusDays(today(), 3);
const item = (id: string, name: string, site: string, day: string, over: Partial<DueItem> = {}): DueItem => ({
  id,
  name,
  family: 'well-switch',
  equipment: 'Well',
  site: { id: site, name: `Site ${site}`, altitude_m: 3 },
  day,
  reasons: [{ kind: 'rule', day, because: 'yearly' }],
  visit: null,
  ...over,
});
const DUE: readonly DueItem[] = [
  item('c1', 'Upper switch', 's1', plusDays(today(), -4), {
    reasons: [
      { kind: 'doubt', day: plusDays(today(), -4), because: 'gauge in doubt: W-1' },
      { kind: 'rule', day: plusDays(today(), 100), because: 'yearly' },
      { kind: 'drift', day: plusDays(today(), 900), because: 'drifts far off' },
    ],
  }),
  item('c2', 'Lower switch', 's1', plusDays(today(), 20)),
  item('c3', 'Barn switch', 's2', plusDays(today(), 30), {
    visit: { id: 'v9', day: soon, technician: 'B. Other' },
  }),
];
const person = (id: string, name: string, permits: readonly string[] = []): Person => ({
  id,
  name,
  role: 'technician',
  permits: permits.map((p) => ({ id: p })),
  siteId: null,
  disabled: false,
  version: 1,
});
const SITE = siteOf('s1', 'Site s1', [
  equipmentOf('e1', 'Well', [controlOf('c1', 'Upper switch'), controlOf('c2', 'Lower switch')]),
]);
const VISIT: PlannedVisit = {
  id: 'v1',
  day: today(),
  purpose: 'Yearly',
  site: SITE,
  technician: 'A. One',
  technicianId: 'p1',
  stop: 2,
  packed: [],
  version: 6,
  minutes: 95,
  controls: [
    {
      id: 'c2',
      name: 'Lower switch',
      family: 'well-switch',
      available: true,
      equipment: 'Well',
      story: null,
      job: null,
    },
  ],
};

function book(answer: (body: VisitForm) => ReturnType<typeof refusal> | undefined = () => undefined) {
  const asked = serverThat((method, path, body) => {
    if (method === 'PUT') return answer(body as VisitForm) ?? { data: { id: 'x', version: 7 } };
    if (path.startsWith('/due')) return { data: { items: DUE, next: null } };
    if (path.startsWith('/sites')) return { data: { items: [SITE], next: null } };
    if (path.startsWith('/visits/week'))
      return {
        data: {
          from: mondayOf(today()),
          people: [person('p1', 'A. One', ['mains']), person('p2', 'B. Other')],
          visits: [VISIT],
        },
      };
    if (path.startsWith('/gauges')) return { data: { items: [], next: null } };
    return undefined;
  });
  drawn(<DuePage />);
  return asked;
}
const list = async () => within(await screen.findByRole('region', { name: 'What is due' }));
const names = (l: Awaited<ReturnType<typeof list>>): readonly (string | null)[] =>
  l.getAllByRole('link').map((a) => a.textContent);

describe('what is due', () => {
  it('is listed by day with its reason; overdue is said; what lies far off is not', async () => {
    book();
    const l = await list();
    expect(names(l)).toEqual(['Upper switch', 'Lower switch', 'Barn switch']);
    expect(l.getByText(/overdue/)).toBeTruthy();
    expect(l.getByText(/gauge in doubt: W-1/).textContent).toMatch(/yearly/);
    expect(l.queryByText(/drifts far off/)).toBeNull();
    expect(l.getByText(/planned .*B\. Other/)).toBeTruthy();
    // What is planned is not planned twice.
    expect(l.getAllByRole('button', { name: /^Plan/ })).toHaveLength(2);
  });

  it('is grouped by site, and by reason with the worst first', async () => {
    book();
    const l = await list();
    fireEvent.click(l.getByRole('button', { name: 'by site' }));
    expect(l.getAllByRole('heading').map((h) => h.textContent)).toEqual(['Site s1', 'Site s2']);
    fireEvent.click(l.getByRole('button', { name: 'by reason' }));
    expect(l.getAllByRole('heading').map((h) => h.textContent)).toEqual([
      'A gauge in doubt',
      'The usual interval',
    ]);
    expect(names(l)[0]).toBe('Upper switch');
  });

  it('takes along what else of the site is due soon and not planned yet', () => {
    expect(withAlong(['c1'], 's1', today(), DUE)).toEqual(['c1', 'c2']);
    expect(withAlong(['c2'], 's1', today(), DUE)).toEqual(['c2', 'c1']);
    expect(withAlong([], 's2', today(), DUE)).toEqual([]);
    expect(withAlong(['c1'], 's1', plusDays(today(), -100), DUE)).toEqual(['c1']);
  });
});

describe('a visit', () => {
  it('is planned from what is due: who, when, in which order, and what permit is missing', async () => {
    const asked = book();
    fireEvent.click((await list()).getByRole('button', { name: 'Plan Upper switch' }));
    const d = within(await screen.findByRole('dialog'));
    await waitFor(() => expect(d.queryByText(/lacks a permit/)).toBeNull());
    fireEvent.mouseDown(d.getByLabelText('Who goes'));
    fireEvent.click(await screen.findByRole('option', { name: 'B. Other' }));
    expect(await d.findByText(/B\. Other lacks a permit/)).toBeTruthy();
    fireEvent.click(d.getByRole('button', { name: 'Lower switch earlier' }));
    fireEvent.change(d.getByLabelText('Day'), { target: { value: soon } });
    fireEvent.click(d.getByRole('button', { name: 'Plan it' }));
    await waitFor(() => expect(asked.some(([m]) => m === 'PUT')).toBe(true));
    expect(asked.find(([m]) => m === 'PUT')?.[2]).toEqual({
      version: 1,
      siteId: 's1',
      technicianId: 'p2',
      day: soon,
      stop: 1,
      purpose: null,
      controls: ['c2', 'c1'],
    });
  });

  it('that the server refuses stays open with what is wrong', async () => {
    book(() => refusal(422, 'day: is past', [{ field: 'day', message: '2001-01-01 is past.' }]));
    fireEvent.click((await list()).getByRole('button', { name: 'Plan Upper switch' }));
    const d = within(await screen.findByRole('dialog'));
    fireEvent.change(d.getByLabelText('Day'), { target: { value: '2001-01-01' } });
    fireEvent.click(d.getByRole('button', { name: 'Plan it' }));
    expect(await d.findByText('2001-01-01 is past.')).toBeTruthy();
  });

  it('that somebody else moved meanwhile says where it stands now, and goes over it only when that is wanted', async () => {
    const current = { day: soon, technicianId: 'p2', stop: 2, version: 9, cancelled: null };
    const asked = book((body) =>
      body.version < 10
        ? {
            status: 409,
            data: { type: 'urn:firm-needle:moved-on', status: 409, code: 'moved-on', detail: 'x', current },
          }
        : undefined,
    );
    fireEvent.click(await screen.findByRole('button', { name: /Site s1.*Lower switch/ }));
    const d = within(await screen.findByRole('dialog'));
    fireEvent.click(d.getByRole('button', { name: 'Keep the visit' }));
    expect(await d.findByText('theirs: B. Other · yours: A. One')).toBeTruthy();
    expect(d.getByText(`theirs: ${soon} · yours: ${today()}`)).toBeTruthy();
    fireEvent.click(d.getByRole('button', { name: 'Keep mine over it' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    const puts = asked.filter(([m]) => m === 'PUT').map(([, , body]) => body as VisitForm);
    expect(puts.map((p) => [p.version, p.technicianId])).toEqual([
      [7, 'p1'],
      [10, 'p1'],
    ]);
  });

  it('goes to nobody for nothing, and is cancelled with a reason alone', async () => {
    const asked = book();
    fireEvent.click(await screen.findByRole('button', { name: /Site s1.*Lower switch/ }));
    const d = within(await screen.findByRole('dialog'));
    const lower = d.getByRole('checkbox', { name: /Lower switch/ });
    fireEvent.click(lower);
    expect((d.getByRole('button', { name: 'Keep the visit' }) as HTMLButtonElement).disabled).toBe(true);
    fireEvent.click(lower);
    fireEvent.click(d.getByRole('button', { name: 'Cancel the visit' }));
    const sure = d.getByRole('button', { name: 'Cancel it with that reason' });
    expect((sure as HTMLButtonElement).disabled).toBe(true);
    fireEvent.change(d.getByLabelText('Why it is cancelled'), { target: { value: ' Flooded. ' } });
    fireEvent.click(sure);
    await waitFor(() =>
      expect(asked.find(([m]) => m === 'PUT')?.[2]).toMatchObject({
        version: 7,
        cancelled: 'Flooded.',
        controls: ['c2'],
      }),
    );
  });

  it('that stands is the form that changes it', () => {
    expect(formOf(VISIT, { day: '2031-01-01' })).toEqual({
      version: 7,
      siteId: 's1',
      technicianId: 'p1',
      day: '2031-01-01',
      stop: 2,
      purpose: 'Yearly',
      controls: ['c2'],
    });
  });
});

describe('the week', () => {
  it('is nobody’s who may only look', async () => {
    serverThat((_, path) =>
      path.startsWith('/due')
        ? { data: { items: DUE, next: null } }
        : path.startsWith('/sites')
          ? { data: { items: [SITE], next: null } }
          : undefined,
    );
    drawn(<DuePage />, { ...ME, role: 'reader' });
    const l = await list();
    expect(l.queryByRole('button', { name: /^Plan/ })).toBeNull();
    expect(screen.queryByText(/Week of/)).toBeNull();
  });

  it('says how long a visit takes as people say it', () => {
    expect([5, 60, 95, 125, 480].map(duration)).toEqual(['5 min', '1 h', '1 h 35', '2 h 05', '8 h']);
  });

  it('begins on a Monday', () => {
    expect(mondayOf('2031-01-01')).toBe('2030-12-30');
    expect(mondayOf('2030-12-30')).toBe('2030-12-30');
    expect(mondayOf('2031-01-05')).toBe('2030-12-30');
  });
});

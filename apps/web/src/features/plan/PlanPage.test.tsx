import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { Route, Routes, useParams } from 'react-router';
import type { Control, FirmGauge } from '@firm-needle/contract';
import { drawn, ME, openJob, WATER } from '../../testing.tsx';
import { refusal, serverThat } from '../../testingServer.ts';
import { deviceDb, inOrderMade } from '../../sync/db.ts';
import { outbox } from '../../sync/outbox.ts';
import { PlanPage } from './PlanPage.tsx';

globalThis.ResizeObserver ??= class {
  observe() {}
  unobserve() {}
  disconnect() {}
};

let control: Control;
const gauge = (over: Partial<FirmGauge>): FirmGauge => ({ ...WATER, owner: null, ...over }) as FirmGauge;
const GAUGES: readonly FirmGauge[] = [
  gauge({}),
  gauge({ id: 'a', label: 'T-2', upper: 60, medium: 'air' }),
  gauge({
    id: 'r',
    label: 'T-9',
    division: 0.5,
    accuracy: { standard: 'stated', percentOfSpan: 0.1 },
    retired: true,
  }),
];
const Worked = () => <p>Working {useParams()['id']}</p>;

beforeEach(async () => {
  const { view } = await openJob();
  control = {
    id: '00000000-0000-4000-8000-00000000000c',
    name: 'Pump switch',
    family: 'well-switch',
    available: true,
    due: '2031-04-05',
    reasons: [{ kind: 'rule', day: '2031-04-05', because: 'yearly' }],
    story: null,
    months: null,
    lawMonths: null,
    lawBy: null,
    customerDay: null,
    version: 1,
    retired: false,
    equipment: { id: 'e', name: 'Well', notes: null },
    site: { id: 's', name: 'Mill', altitude_m: 300 },
    gauge: null,
    plan: { ...view.plan, version: 3 },
    links: [],
    device: null,
    jobs: [],
  };
  outbox.use('u');
});
afterEach(async () => {
  outbox.use(undefined);
  await new Promise((r) => setTimeout(r, 30));
  const db = await deviceDb();
  await db.clear('puts');
  await db.clear('events');
});

function page(
  answer: (path: string, body: unknown) => ReturnType<typeof refusal> | 'gone' | undefined,
  me = ME,
) {
  const asked = serverThat((method, path, body) => {
    if (method === 'PUT') {
      const said = answer(path, body);
      if (said === 'gone') return undefined;
      if (!said && path.includes('/plans/')) {
        const kept = body as { version: number; plan: NonNullable<Control['plan']> };
        control = { ...control, plan: { ...kept.plan, version: kept.version } };
      }
      return said ?? { data: { id: 'x', version: 4 } };
    }
    if (path === `/controls/${control.id}`) return { data: control };
    if (path.startsWith('/gauges')) return { data: { items: GAUGES, next: null } };
    return undefined;
  });
  drawn(
    <Routes>
      <Route path="/controls/:id" element={<PlanPage />} />
      <Route path="/jobs/:id" element={<Worked />} />
    </Routes>,
    me,
    `/controls/${control.id}`,
  );
  return asked;
}
const cutIn = async (): Promise<HTMLInputElement> =>
  (await screen.findByLabelText('Cut-in')) as HTMLInputElement;
const type = async (text: string): Promise<void> => {
  const field = await cutIn();
  fireEvent.change(field, { target: { value: text } });
  fireEvent.keyDown(field, { key: 'Enter' });
};
const keepButton = () => screen.queryByRole('button', { name: 'Keep the plan' });

describe('a plan at the desk', () => {
  it('says when the control is due and why, and has nothing to keep before it is changed', async () => {
    page(() => undefined);
    expect((await cutIn()).value).toBe('43');
    expect(screen.getByText(/Next 5 Apr 2031: yearly/)).toBeTruthy();
    expect(keepButton()).toBeNull();
    expect(screen.getByRole('link', { name: 'Its life' }).getAttribute('href')).toBe(
      `/controls/${control.id}/life`,
    );
  });

  it('is kept as the next version, and is what is planned from then on', async () => {
    const asked = page(() => undefined);
    await type('44.5');
    fireEvent.click(await screen.findByRole('button', { name: 'Keep the plan' }));
    await waitFor(() => expect(keepButton()).toBeNull());
    const puts = asked.filter(([m]) => m === 'PUT');
    expect(puts).toHaveLength(1);
    expect(puts[0]?.[1]).toMatch(/\/plans\/[\da-f-]{36}$/);
    expect(puts[0]?.[2]).toMatchObject({ version: 4 });
    await waitFor(async () => expect((await cutIn()).value).toBe('44.5'));
    await type('45');
    fireEvent.click(await screen.findByRole('button', { name: 'Keep the plan' }));
    await waitFor(() => expect(asked.filter(([m]) => m === 'PUT')).toHaveLength(2));
    expect(asked.filter(([m]) => m === 'PUT')[1]?.[2]).toMatchObject({ version: 5 });
  });

  it('that somebody else was quicker with says so, and keeps what was typed', async () => {
    page(() => refusal(409, 'The plan is at version 4; this one was made from version 3.'));
    await type('44.5');
    fireEvent.click(await screen.findByRole('button', { name: 'Keep the plan' }));
    expect((await screen.findByText(/The plan is at version 4/)).className).toMatch(/caution/);
    expect((await cutIn()).value).toBe('44.5');
  });

  it('without a server is kept on this device and sent later', async () => {
    page(() => 'gone');
    await type('44.5');
    fireEvent.click(await screen.findByRole('button', { name: 'Keep the plan' }));
    expect(await screen.findByText(/kept on this device/)).toBeTruthy();
    const [put] = await (await deviceDb()).getAll('puts');
    expect(put).toMatchObject({ user: 'u', body: { version: 4 } });
  });

  it('is not kept where it is forbidden: a place over the relief pushes back', async () => {
    const asked = page(() => undefined);
    await type('79');
    expect((await cutIn()).value).toBe('79');
    expect(keepButton()).toBeNull();
    expect(asked.some(([m]) => m === 'PUT')).toBe(false);
  });
});

describe('a job from it', () => {
  it('never offers a gauge that was retired', async () => {
    page(() => undefined);
    await cutIn();
    const gauges = within(await screen.findByRole('region', { name: 'Plan in figures' }));
    expect(gauges.getAllByText(/T-1/).length).toBeGreaterThan(0);
    expect(gauges.queryByText(/T-9/)).toBeNull();
  });

  it('takes the changed plan along, before the job that is worked by it', async () => {
    page(() => 'gone');
    await type('44.5');
    fireEvent.click(screen.getByRole('button', { name: /Start the job/ }));
    expect(await screen.findByText(/^Working/)).toBeTruthy();
    const kept = inOrderMade(await (await deviceDb()).getAll('puts'));
    expect(kept.map((p) => p.path.replace(/[\da-f-]{36}/g, '#'))).toEqual(['/controls/#/plans/#', '/jobs/#']);
    expect((await (await deviceDb()).getAll('events')).map((e) => e.event.body.kind)).toEqual(['started']);
  });

  it('is no business of a customer’s account', async () => {
    page(() => undefined, { ...ME, role: 'reader' });
    await cutIn();
    expect(screen.queryByRole('button', { name: /Start the job/ })).toBeNull();
    expect(screen.getByText('Your account may look, not work.')).toBeTruthy();
  });
});

import 'fake-indexeddb/auto';
import { describe, expect, it } from '@jest/globals';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { Route, Routes } from 'react-router';
import type { Control, Life } from '@firm-needle/contract';
import { toCanonical } from '@firm-needle/core/quantity';
import { drawn, ME } from '../../testing.tsx';
import { refusal, serverThat } from '../../testingServer.ts';
import { LifePage } from './LifePage.tsx';

const psi = (n: number): number => toCanonical(n, 'psi');
const CONTROL = {
  id: 'c1',
  name: 'Pump switch',
  family: 'well-switch',
  available: true,
  due: '2031-04-05',
  reasons: [],
  story: null,
  version: 1,
  retired: false,
  equipment: { id: 'e1', name: 'Well', notes: null },
  site: { id: 's1', name: 'Mill', altitude_m: 3 },
  gauge: null,
  plan: {
    version: 1,
    variant: '40-60',
    values: { cutIn: psi(43) },
    limits: { cutIn: { lower: psi(41), upper: psi(45) } },
    plate: {},
    given: [],
  },
  links: [],
  device: { id: 'd2', label: 'A new switch', fittedOn: '2029-02-01', learned: {}, rig: null },
  jobs: [
    {
      id: 'j3',
      openedAt: '2031-02-01T08:00:00Z',
      signedAt: null,
      visitId: null,
      outcome: null,
      proved: null,
      rows: [],
      turns: [],
    },
    {
      id: 'j2',
      openedAt: '2030-04-05T08:00:00Z',
      signedAt: '2030-04-05T09:00:00Z',
      visitId: null,
      outcome: 'set',
      proved: false,
      rows: [],
      turns: [],
    },
  ],
} as unknown as Control;
const LIFE: Life = {
  reasons: [
    { kind: 'law', day: '2031-04-05', because: 'yearly, by the insurer' },
    { kind: 'drift', day: '2033-01-05', because: 'Cut-in drifts' },
  ],
  settings: [
    {
      setting: 'cutIn',
      title: 'Cut-in',
      unit: 'psi',
      dimension: 'pressure',
      step: 0.5,
      points: [0.5, 0.52, 0.48, 0.5].map((d, i) => ({
        day: `${2027 + i}-04-05`,
        device: 'd2',
        job: `j${i}`,
        found: psi(43 + d),
        left: psi(43),
      })),
    },
  ],
  devices: [
    { id: 'd1', label: 'The first', fittedOn: '2020-01-01', removedOn: '2029-02-01' },
    { id: 'd2', label: 'A new switch', fittedOn: '2029-02-01', removedOn: null },
  ],
  gauges: [
    { id: 'g1', label: 'W-1', jobs: 3, last: '2030-04-05T09:00:00Z' },
    { id: 'g2', label: 'W-2', jobs: 1, last: '2027-04-05T09:00:00Z' },
  ],
  notes: [{ job: 'j2', at: '2030-04-05T09:00:00Z', text: 'Key with the porter.' }],
  findings: [{ job: 'j2', at: '2030-04-05T09:00:00Z', message: 'The tank is waterlogged.' }],
};

function page(
  life: Life = LIFE,
  me = ME,
  answer: () => ReturnType<typeof refusal> | undefined = () => undefined,
) {
  const asked = serverThat((method, path) => {
    if (method === 'PUT') return answer() ?? { data: { id: 'x' } };
    if (path === '/controls/c1/life') return { data: life };
    if (path === '/controls/c1') return { data: CONTROL };
    return undefined;
  });
  drawn(
    <Routes>
      <Route path="/controls/:id/life" element={<LifePage />} />
    </Routes>,
    me,
    '/controls/c1/life',
  );
  return asked;
}

describe('a control’s life', () => {
  it('says when it is next, for which reason first, and the others after it', async () => {
    page();
    const next = await screen.findByText(/Next 5 Apr 2031/);
    expect(next.parentElement?.textContent).toMatch(/yearly, by the insurer.*Cut-in drifts, 5 Jan 2033/);
  });

  it('says how it drifts, which gauges measured it, which jobs there were and what they found', async () => {
    page();
    const drift = within(
      (await screen.findByRole('heading', { name: 'Drift' })).parentElement as HTMLElement,
    );
    expect(drift.getByText('Cut-in').nextSibling?.textContent).toMatch(
      /psi a year, from 3 times between visits/,
    );
    expect(screen.getByText(/W-1/).parentElement?.textContent).toBe('W-1 3 times');
    expect(screen.getByRole('link', { name: 'W-2' }).parentElement?.textContent).toMatch(/once/);
    const jobs = within((await screen.findByRole('heading', { name: 'Jobs' })).parentElement as HTMLElement);
    await waitFor(() => expect(jobs.getByText(/not proved/)).toBeTruthy());
    expect(jobs.getByRole('link', { name: '1 Feb 2031' }).getAttribute('href')).toBe('/jobs/j3');
    expect(jobs.getByRole('link', { name: '5 Apr 2030' }).getAttribute('href')).toBe('/jobs/j2/sheet');
    expect(screen.getByText(/waterlogged/)).toBeTruthy();
    expect(screen.getByText(/Key with the porter/)).toBeTruthy();
    expect(await screen.findByText(/None yet. One of the rating plate/)).toBeTruthy();
  });

  it('of which nothing was measured says what begins it', async () => {
    page({ ...LIFE, settings: [], gauges: [], findings: [], reasons: [] });
    expect(await screen.findByText(/the first signed job begins its life/)).toBeTruthy();
    expect(screen.getByText('No date is kept for it.')).toBeTruthy();
    expect(screen.queryByRole('heading', { name: 'Drift' })).toBeNull();
  });

  it('begins again with a new device, under an id of its own; what is wrong stays in the window', async () => {
    let refuse = true;
    const asked = page(LIFE, ME, () =>
      refuse
        ? refusal(422, 'fittedOn', [
            { field: 'fittedOn', message: 'The device before it was fitted on 2029-02-01.' },
          ])
        : undefined,
    );
    fireEvent.click(await screen.findByRole('button', { name: 'A new device was fitted' }));
    const d = within(screen.getByRole('dialog'));
    const fit = (): void => void fireEvent.click(d.getByRole('button', { name: 'It is fitted' }));
    fit();
    expect(await d.findByText('Type what stands on it.')).toBeTruthy();
    fireEvent.change(d.getByLabelText('What it is, from its label'), { target: { value: ' Third switch ' } });
    fireEvent.change(d.getByLabelText('Fitted on'), { target: { value: '2028-01-01' } });
    fit();
    expect(await d.findByText(/was fitted on 2029-02-01/)).toBeTruthy();
    refuse = false;
    fireEvent.change(d.getByLabelText('Fitted on'), { target: { value: '2031-03-01' } });
    fit();
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    const puts = asked.filter(([m]) => m === 'PUT');
    expect(puts).toHaveLength(2);
    // The same device, sent again.
    expect(puts[0]?.[1]).toBe(puts[1]?.[1]);
    expect(puts[1]?.[2]).toEqual({ label: 'Third switch', fittedOn: '2031-03-01' });
  });

  it('is looked at by a customer’s account, and no more', async () => {
    page(LIFE, { ...ME, role: 'reader' });
    await screen.findByText(/Next 5 Apr 2031/);
    expect(screen.queryByRole('button', { name: /fitted/ })).toBeNull();
  });
});

import { describe, expect, it } from '@jest/globals';
import type { FirmGauge, GaugeHistory } from '@firm-needle/contract';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { format, subDays } from 'date-fns';
import { Route, Routes } from 'react-router';
import { drawn, ME, psi, WATER } from '../../testing.tsx';
import { refusal, serverThat } from '../../testingServer.ts';
import { GaugePage } from './GaugePage.tsx';
import { GaugesPage } from './GaugesPage.tsx';

const day = (ago: number): string => format(subDays(new Date(), ago), 'yyyy-MM-dd');
const gauge = (over: Partial<FirmGauge>): FirmGauge => ({
  ...WATER,
  owner: null,
  retired: false,
  ...over,
});
const listed = (...items: readonly FirmGauge[]) =>
  serverThat((_, path) => (path.startsWith('/gauges') ? { data: { items, next: null } } : undefined));
const rowOf = async (label: string): Promise<HTMLElement> =>
  (await screen.findByRole('link', { name: label })).closest('tr') as HTMLElement;

describe('the firm’s gauges', () => {
  it('are overdue from the day after their date, and not on it', async () => {
    listed(
      gauge({ id: 'a', label: 'T-9', due: day(1) }),
      gauge({ id: 'b', label: 'T-8', due: day(0) }),
      gauge({ id: 'c', label: 'T-7', due: day(-1) }),
      gauge({ id: 'd', label: 'T-6' }),
    );
    drawn(<GaugesPage />);
    expect((await rowOf('T-9')).textContent).toContain('overdue');
    for (const label of ['T-8', 'T-7', 'T-6'])
      expect((await rowOf(label)).textContent).not.toContain('overdue');
    expect((await rowOf('T-6')).textContent).toContain('–');
  });

  it('say how their last check left them; one that is retired is no longer the firm’s and never overdue', async () => {
    const standing = (state: 'fit' | 'failed') => ({ state, day: '2030-01-02', because: 'so' });
    listed(
      gauge({ id: 'a', label: 'T-9', standing: standing('fit') }),
      gauge({ id: 'b', label: 'T-8', standing: standing('failed') }),
      gauge({ id: 'c', label: 'T-7', retired: true, due: day(400) }),
      gauge({ id: 'd', label: 'T-6' }),
    );
    drawn(<GaugesPage />);
    expect(within(await rowOf('T-9')).getByText('fit')).toBeTruthy();
    expect(within(await rowOf('T-8')).getByText('failed').tagName).toBe('STRONG');
    const retired = await rowOf('T-7');
    expect(retired.textContent).toContain('retired');
    expect(retired.textContent).not.toContain('overdue');
    expect(within(await rowOf('T-6')).getByText('none')).toBeTruthy();
    expect(screen.getByText('3 of the firm’s own')).toBeTruthy();
  });

  it('are added by who works, and not by who reads', async () => {
    listed(gauge({ label: 'T-9' }));
    const { unmount } = drawn(<GaugesPage />);
    expect(await screen.findByRole('button', { name: 'Add a gauge' })).toBeTruthy();
    unmount();
    drawn(<GaugesPage />, { ...ME, role: 'reader' });
    await rowOf('T-9');
    expect(screen.queryByRole('button', { name: 'Add a gauge' })).toBeNull();
  });

  it('say what to do while there are none, and why where they cannot be had', async () => {
    let there = false;
    serverThat(() =>
      there ? { data: { items: [], next: null } } : refusal(503, 'The server is being started.'),
    );
    drawn(<GaugesPage />);
    expect(await screen.findByText('The server is being started.')).toBeTruthy();
    there = true;
    fireEvent.click(screen.getByRole('button', { name: 'Try again' }));
    expect(await screen.findByText(/Enter your test gauges first/)).toBeTruthy();
  });
});

const history = (over: Partial<GaugeHistory> = {}): GaugeHistory => ({
  ...gauge({ id: 'g1', label: 'T-9' }),
  limit_Pa: psi(0.5),
  zeros: [],
  drift: null,
  control: null,
  spans: [],
  ...over,
});
const zeroOf = (n: number, at: string) => ({
  at: `${at}T08:00:00.000Z`,
  before_Pa: psi(n),
  after_Pa: 0,
  handling: 'reset',
  job: `j-${at}`,
});
const span = (
  job: string,
  at: string,
  ...errors: readonly (readonly [psi: number, error: number, way: 'up' | 'down'])[]
) => ({
  job,
  at: `${at}T12:00:00.000Z`,
  outcome: 'left-as-found' as const,
  errors: errors.map(([x, e, way]) => ({ at: psi(x), error: psi(e), U: psi(0.1), way })),
});
const page = (g: GaugeHistory, me = ME) => {
  const asked = serverThat((method, path) => {
    if (method === 'GET' && path === '/gauges/g1') return { data: g };
    if (method !== 'GET' && path === '/gauges/g1/control') return { data: { id: 'c9', due: null } };
    return undefined;
  });
  drawn(
    <Routes>
      <Route path="/gauges/:id" element={<GaugePage />} />
      <Route path="/controls/:id" element={<p>its control</p>} />
    </Routes>,
    me,
    '/gauges/g1',
  );
  return asked;
};

describe('one gauge', () => {
  it('has its zeros newest first, and does not see a drift in too few of them', async () => {
    page(history({ zeros: [zeroOf(0.2, '2030-01-02'), zeroOf(-0.4, '2030-02-03')] }));
    expect(
      await screen.findByText('Too few zeros to see a drift; beyond ± 0.50 psi it is unfit.'),
    ).toBeTruthy();
    const [, first, second] = screen.getAllByRole('row');
    expect(first?.textContent).toMatch(/^3 Feb 2030[−-]0.40 psireset/);
    expect(second?.textContent).toMatch(/^2 Jan 20300.20 psireset/);
    expect(
      within(first as HTMLElement)
        .getByRole('link')
        .getAttribute('href'),
    ).toBe('/jobs/j-2030-02-03/sheet');
  });

  it('says where a drift that is sure leads, and of one that is not that it is none', async () => {
    const drift = { perYear: psi(0.3), error: psi(0.05), n: 6 };
    const zeros = [zeroOf(0.1, '2030-01-02')];
    page(history({ zeros, drift: { ...drift, leaves: '2031-07-15' } }));
    expect(
      await screen.findByText('It drifts 0.30 ± 0.10 psi a year and leaves ± 0.50 psi about July 2031.'),
    ).toBeTruthy();
    document.body.innerHTML = '';
    page(history({ zeros, drift }));
    expect(await screen.findByText(/Its zero moves 0.30 ± 0.10 psi a year: no sure drift/)).toBeTruthy();
  });

  it('tells its largest error and its hysteresis, and shows an earlier check when that is asked for', async () => {
    page(
      history({
        spans: [
          span('j2', '2031-03-04', [20, 0.2, 'up'], [60, -0.9, 'up'], [60, -0.3, 'down']),
          span('j1', '2030-03-05', [20, 0.4, 'up']),
        ],
      }),
    );
    expect(
      await screen.findByText(/Largest error [−-]0.90 psi ± 0.10 psi at 60.0 psi; hysteresis 0.60 psi\./),
    ).toBeTruthy();
    expect(screen.getByText(/Solid rising, dashed falling/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: '5 Mar 2030' }));
    expect(screen.getByText(/Largest error 0.40 psi ± 0.10 psi at 20.0 psi\./)).toBeTruthy();
    expect(screen.queryByText(/Solid rising/)).toBeNull();
    expect(screen.getByRole('link', { name: 'its sheet' }).getAttribute('href')).toBe('/jobs/j1/sheet');
  });

  it('that failed its check says so over everything, with the day and the reason', async () => {
    page(history({ standing: { state: 'failed', day: '2030-05-06', because: 'Out by 3 psi at 60.' } }));
    const said = await screen.findByText('Failed since 6 May 2030.');
    expect(said.closest('.caution')?.textContent).toContain('Out by 3 psi at 60.');
  });

  it('is checked on a control of its own, made when it is first asked for', async () => {
    const asked = page(history());
    fireEvent.click(await screen.findByRole('button', { name: 'Check this gauge' }));
    expect(await screen.findByText('its control')).toBeTruthy();
    expect(asked.filter(([method]) => method !== 'GET')).toHaveLength(1);
  });

  it('that has one is not given another', async () => {
    const asked = page(history({ control: { id: 'c1', due: null } }));
    fireEvent.click(await screen.findByRole('button', { name: 'Check this gauge' }));
    expect(await screen.findByText('its control')).toBeTruthy();
    expect(asked.filter(([method]) => method !== 'GET')).toHaveLength(0);
  });

  it('stays where it is, and says why, where a control cannot be made', async () => {
    serverThat((method) => (method === 'GET' ? { data: history() } : refusal(409, 'It is retired.')));
    drawn(
      <Routes>
        <Route path="/gauges/:id" element={<GaugePage />} />
      </Routes>,
      ME,
      '/gauges/g1',
    );
    fireEvent.click(await screen.findByRole('button', { name: 'Check this gauge' }));
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('It is retired.'));
  });

  it('is neither corrected nor checked by who reads', async () => {
    page(history(), { ...ME, role: 'reader' });
    await screen.findByText('Gauge T-9');
    expect(screen.queryAllByRole('button')).toEqual([]);
  });
});

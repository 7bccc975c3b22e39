import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { analyse, type Analysis } from '@firm-needle/core/trace';
import { expectOk } from '@firm-needle/core/result';
import { drawn, psi } from '../testing.tsx';
import type { HowRead, TraceRead } from '../workers/trace.worker.ts';
import { TraceDesk } from './TraceDesk.tsx';
import type { OpenTrace } from './useTrace.ts';

const N = 1200;
const FROM = Date.UTC(2031, 1, 11, 10) / 1000;
const samples = {
  t: Float64Array.from({ length: N }, (_, i) => FROM + i),
  p: Float64Array.from({ length: N }, (_, i) => psi(50 + 8 * Math.sin(i / 40))),
  states: {},
};
const ANALYSIS: Analysis = expectOk(analyse(samples, 'cycles'));
const HOW: HowRead = {
  assumptions: [],
  pressure: 'Line (psi)',
  time: 'When',
  basis: 'gauge',
  clock: false,
  rows: N,
  lost: 0,
};
const READ: TraceRead = {
  samples: N,
  from: FROM,
  to: FROM + N - 1,
  low: psi(42),
  high: psi(58),
  problems: [],
  unit: 'psi',
  channels: [],
  how: HOW,
};
const ROWS = [
  ['When', 'Port'],
  ['0', '50'],
  ['1', '51'],
  ['2', '52'],
];

/** A trace as the hook has it; nothing open unless it is said. */
const trace = (over: Partial<OpenTrace> = {}): OpenTrace => ({
  id: 'a',
  name: undefined,
  kept: false,
  rows: [],
  read: undefined,
  analysis: undefined,
  corrections: [],
  refusal: undefined,
  progress: undefined,
  host: undefined,
  open: jest.fn<OpenTrace['open']>(),
  openKept: jest.fn<OpenTrace['openKept']>(),
  choose: jest.fn<OpenTrace['choose']>(),
  delimiter: undefined,
  split: jest.fn<OpenTrace['split']>(),
  correct: jest.fn<OpenTrace['correct']>(),
  cancel: jest.fn<OpenTrace['cancel']>(),
  ...over,
});
const host = { columns: () => Promise.resolve(new Float64Array()) } as unknown as OpenTrace['host'];
const opened = (how: Partial<HowRead> = {}, read: Partial<TraceRead> = {}): OpenTrace =>
  trace({
    name: 'day.csv',
    rows: ROWS,
    read: { ...READ, ...read, how: { ...HOW, ...how } },
    analysis: ANALYSIS,
    host,
  });
const show = async (t: OpenTrace): Promise<HTMLElement> => {
  const { container } = drawn(<TraceDesk trace={t} />);
  await act(() => Promise.resolve());
  return container;
};

/** Files that were put where the device keeps what is downloaded. */
const given: File[] = [];
beforeEach(() => {
  given.length = 0;
  URL.createObjectURL = (file) => {
    given.push(file as File);
    return 'blob:here';
  };
  URL.revokeObjectURL = () => undefined;
  jest.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(() => undefined);
  globalThis.ResizeObserver = class {
    observe = (): void => undefined;
    unobserve = (): void => undefined;
    disconnect = (): void => undefined;
  };
  // There is no paper to draw on here.
  jest.spyOn(HTMLCanvasElement.prototype, 'getContext').mockReturnValue(null);
});
afterEach(() => void jest.restoreAllMocks());

/** Text of a file; the simulated browser's own has no way to it but this. */
const textOf = (file: File): Promise<string> =>
  new Promise((resolve) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.readAsText(file);
  });

describe('the desk of a trace', () => {
  it('takes one file or several, chosen or dropped', async () => {
    const t = trace();
    const container = await show(t);
    const a = new File(['x'], 'a.csv');
    const b = new File(['x'], 'b.csv');
    fireEvent.change(screen.getByLabelText('Trace file'), { target: { files: [a, b] } });
    expect(t.open).toHaveBeenLastCalledWith([a, b]);
    fireEvent.drop(container.querySelector('.trace-desk') as Element, { dataTransfer: { files: [b] } });
    expect(t.open).toHaveBeenLastCalledWith([b]);
    expect(screen.getByLabelText('Trace file').getAttribute('accept')).toContain('.xlsx');
  });

  it('says how far it is, and is stopped with one press', async () => {
    const t = trace({ progress: 0.4 });
    await show(t);
    expect(screen.getByRole('progressbar').getAttribute('aria-valuenow')).toBe('40');
    fireEvent.click(screen.getByRole('button', { name: 'Stop reading' }));
    expect(t.cancel).toHaveBeenCalledTimes(1);
  });

  it('asks for the columns where that lifts what stands in the way, and only there', async () => {
    const wrong = { code: 'unit-missing', message: 'The column "Line" does not say its unit.' };
    const asked = trace({ name: 'day.csv', rows: ROWS, refusal: wrong });
    const { unmount } = drawn(<TraceDesk trace={asked} />);
    expect(screen.getByRole('alert').textContent).toContain('does not say its unit');
    const form = screen.getByRole('region', { name: 'Columns of the file' });
    fireEvent.mouseDown(within(form).getByRole('combobox', { name: 'Its unit' }));
    fireEvent.click(within(screen.getByRole('listbox')).getByText('bar'));
    fireEvent.click(screen.getByRole('button', { name: 'Read it with these columns' }));
    expect(asked.choose).toHaveBeenCalledWith(expect.objectContaining({ time: 0, pressure: 1, unit: 'bar' }));
    unmount();
    drawn(
      <TraceDesk
        trace={trace({ rows: ROWS, refusal: { code: 'line-long', message: 'It does not end.' } })}
      />,
    );
    expect(screen.queryByRole('region', { name: 'Columns of the file' })).toBeNull();
  });

  it('says what was taken as so, what was lost, and that absolute pressures are told over the air', async () => {
    await show(
      opened(
        { basis: 'absolute', lost: 7, assumptions: [{ about: 'ambient', said: 'As at sea level.' }] },
        { unit: 'psia', problems: [{ line: 12, message: '"OL" is not a pressure.' }] },
      ),
    );
    const how = document.querySelector('.trace-how') as HTMLElement;
    expect(how.textContent).toContain(
      'Line (psi) in psi, absolute: what is drawn and told is over the air outside',
    );
    expect(how.textContent).toContain('1,200 rows, 7 of them lost');
    expect(within(how).getByRole('list', { name: 'What was assumed' }).textContent).toBe('As at sea level.');
    // In the unit's sister over the air, never in the absolute one.
    const figures = document.querySelector('.trace-figures') as HTMLElement;
    expect(figures.textContent).toMatch(/Cut-in.*42\.0\d* ± 0\.0\d+ psi(?!a)/);
    expect(screen.getByText(/Line 12: "OL" is not a pressure\./)).toBeTruthy();
  });

  it('hands figures and events out as tables, in the unit that is shown', async () => {
    await show(opened());
    fireEvent.click(screen.getByRole('button', { name: 'Figures as CSV' }));
    await waitFor(() => expect(given).toHaveLength(1));
    fireEvent.click(screen.getByRole('button', { name: 'Events as CSV' }));
    await waitFor(() => expect(given).toHaveLength(2));
    expect(given.map((f) => f.name)).toEqual(['day figures.csv', 'day events.csv']);
    const [figures = '', events = ''] = await Promise.all(given.map(textOf));
    const cutIn =
      figures
        .split(/\r?\n/)
        .find((l) => l.startsWith('cutIn,'))
        ?.split(',') ?? [];
    expect(Number(cutIn[1])).toBeCloseTo(42, 1);
    expect(cutIn[2]).toBe('psi');
    const lines = events.trim().split(/\r?\n/);
    expect(lines[0]).toBe('event,t_s,time,p_psi,u_expanded_psi');
    const [kind, t, time] = lines[1]?.split(',') ?? [];
    const first = ANALYSIS.events[0];
    expect(kind).toBe(first?.kind);
    expect(Number(t)).toBeCloseTo(first?.t ?? NaN, 2);
    expect(Date.parse(`${time}Z`) / 1000).toBeCloseTo(first?.t ?? NaN, 2);
  });

  it('goes through its events in the time of day that its file says, and says what it found', async () => {
    const t = opened();
    await show(t);
    fireEvent.click(screen.getByRole('button', { name: 'Next event' }));
    expect(screen.getByRole('status').textContent).toMatch(/ at 11 Feb 2031, 10:\d\d:\d\d\.\d/);
    fireEvent.click(screen.getByRole('button', { name: 'It was none' }));
    fireEvent.change(screen.getByLabelText('Why'), { target: { value: 'a knock' } });
    fireEvent.click(screen.getByRole('button', { name: 'Keep the correction' }));
    expect(t.correct).toHaveBeenCalledWith(
      expect.objectContaining({ why: 'a knock', found_s: expect.any(Number) }),
    );
    expect(screen.getByText(/1,200 samples, \d+ cycles/)).toBeTruthy();
  });

  it('says where there is nothing to say', async () => {
    const still = expectOk(analyse({ ...samples, p: samples.p.map(() => psi(50)) }, 'cycles'));
    await show({ ...opened(), analysis: still });
    expect(screen.getByText(/shows nothing of this kind/)).toBeTruthy();
    for (const name of ['Figures as CSV', 'Events as CSV'])
      expect((screen.getByRole('button', { name }) as HTMLButtonElement).disabled).toBe(true);
  });
});

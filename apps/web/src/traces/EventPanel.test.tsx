import { describe, expect, it, jest } from '@jest/globals';
import { fireEvent, render, screen } from '@testing-library/react';
import { toCanonical } from '@firm-needle/core/quantity';
import type { CorrectedEvent, EventCorrection } from '@firm-needle/core/trace';
import { EventPanel } from './EventPanel.tsx';

const bar = (n: number): number => toCanonical(n, 'bar');
const at = (kind: string, t: number, p: number): CorrectedEvent =>
  ({ kind, t, p: bar(p), u: 1000 }) as unknown as CorrectedEvent;
const EVENTS = [at('cutIn', 10, 2.8), at('cutOut', 95.2, 4.1), at('cutIn', 140, 2.75)];
const button = (name: string): HTMLButtonElement => screen.getByRole('button', { name });
const type = (label: string, text: string): void => {
  fireEvent.change(screen.getByLabelText(label), { target: { value: text } });
};

function panel(selected?: CorrectedEvent) {
  const onSelect = jest.fn<(e: CorrectedEvent) => void>();
  const onCorrect = jest.fn<(c: EventCorrection) => void>();
  render(
    <EventPanel
      events={EVENTS}
      selected={selected}
      unit="bar"
      times="elapsed"
      from={0}
      to={150}
      onSelect={onSelect}
      onCorrect={onCorrect}
    />,
  );
  return { onSelect, onCorrect };
}

it('of a dated trace are said and typed as times of day', () => {
  const from = Date.UTC(2031, 5, 3, 7) / 1000;
  const dated: CorrectedEvent = { kind: 'cutIn', t: from + 90, p: 2.5e5, u: 500, ut: 0.1, from: 0, to: 1 };
  const onCorrect = jest.fn();
  const shared = { unit: 'bar', times: 'date', from, to: from + 600 } as const;
  render(
    <EventPanel events={[dated]} selected={dated} {...shared} onSelect={jest.fn()} onCorrect={onCorrect} />,
  );
  expect(screen.getByRole('status').textContent).toContain('at 3 Jun 2031, 07:01:30.0');
  fireEvent.click(screen.getByRole('button', { name: 'It stands elsewhere' }));
  const time = screen.getByLabelText('Time');
  fireEvent.change(time, { target: { value: '7:30' } });
  expect(screen.getByText('3 Jun 2031, 07:00:00.0 to 3 Jun 2031, 07:10:00.0')).toBeTruthy();
  fireEvent.change(time, { target: { value: '7:02' } });
  fireEvent.change(screen.getByLabelText('Why'), { target: { value: 'it clicked then' } });
  fireEvent.click(screen.getByRole('button', { name: 'Keep the correction' }));
  expect(onCorrect).toHaveBeenCalledWith(
    expect.objectContaining({ kind: 'cutIn', found_s: from + 90, t: from + 120 }),
  );
});

describe('the events of a trace', () => {
  it('are gone through one after the other, round and round', () => {
    const { onSelect } = panel(EVENTS[2]);
    expect(screen.getByRole('status').textContent).toMatch(
      /^Cut-in 2\.75 bar ± 0\.02 at 140\.0 s \(3 of 3\)$/,
    );
    fireEvent.click(button('Next event'));
    fireEvent.click(button('Event before'));
    expect(onSelect.mock.calls.map(([e]) => e)).toEqual([EVENTS[0], EVENTS[1]]);
  });

  it('are moved only with a reason, and only to where the trace is', () => {
    const { onCorrect } = panel(EVENTS[1]);
    fireEvent.click(button('It stands elsewhere'));
    expect(button('Keep the correction').disabled).toBe(true);
    type('Time, s', '151');
    type('Why', 'the contact is late');
    expect(screen.getByText('0.0 s to 150.0 s')).toBeTruthy();
    expect(button('Keep the correction').disabled).toBe(true);
    type('Time, s', '94');
    type('Pressure, bar', '4,05');
    fireEvent.click(button('Keep the correction'));
    expect(onCorrect).toHaveBeenCalledWith({
      kind: 'cutOut',
      found_s: 95.2,
      t: 94,
      p: expect.closeTo(bar(4.05), 3),
      why: 'the contact is late',
    });
  });

  it('were none, and one was not found: each is said with its reason', () => {
    const { onCorrect } = panel(EVENTS[0]);
    fireEvent.click(button('It was none'));
    type('Why', 'a door was slammed');
    fireEvent.click(button('Keep the correction'));
    expect(onCorrect).toHaveBeenLastCalledWith({ kind: 'cutIn', found_s: 10, why: 'a door was slammed' });
    fireEvent.click(button('Add one'));
    type('Time, s', '40');
    type('Pressure, bar', 'x');
    type('Why', 'seen');
    expect(button('Keep the correction').disabled).toBe(true);
    type('Pressure, bar', '3');
    fireEvent.click(button('Keep the correction'));
    expect(onCorrect).toHaveBeenLastCalledWith({
      kind: 'cutIn',
      t: 40,
      p: expect.closeTo(bar(3), 3),
      why: 'seen',
    });
    // What was begun may be let be.
    fireEvent.click(button('Add one'));
    fireEvent.click(button('Leave it'));
    expect(screen.queryByLabelText('Why')).toBeNull();
  });
});

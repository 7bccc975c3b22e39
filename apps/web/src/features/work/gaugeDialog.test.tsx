import { describe, expect, it, jest } from '@jest/globals';
import type { FirmGauge } from '@firm-needle/contract';
import type { Gauge } from '@firm-needle/core/gauge';
import { fireEvent, screen } from '@testing-library/react';
import { drawn, openJob, WATER } from '../../testing.tsx';
import { serverThat } from '../../testingServer.ts';
import { GaugeDialog } from './GaugeDialog.tsx';

const own = (over: Partial<FirmGauge>): FirmGauge => ({ ...WATER, owner: null, ...over });
const FIRMS = [
  own({}),
  own({ id: 'w2', label: 'T-3' }),
  own({ id: 'w3', label: 'T-4', due: '2020-01-31' }),
  own({ id: 'w4', label: 'T-5', standing: { state: 'failed', day: '2030-01-02', because: 'Out by 3 psi.' } }),
  own({ id: 'air', label: 'T-6', medium: 'air', upper: 60 }),
];

async function open(slot = 'system') {
  serverThat((_, path) => (path.startsWith('/gauges') ? { data: { items: FIRMS, next: null } } : undefined));
  const onChange = jest.fn<(slot: string, gauge: Gauge, reason: string) => void>();
  drawn(<GaugeDialog job={await openJob()} slot={slot} onChange={onChange} onClose={() => undefined} />);
  return onChange;
}
const choicesOf = async (name: string): Promise<readonly string[]> => {
  fireEvent.mouseDown(screen.getByRole('combobox', { name }));
  return (await screen.findAllByRole('option')).map((o) => o.textContent ?? '');
};
const choose = async (name: string, option: RegExp): Promise<void> => {
  await choicesOf(name);
  fireEvent.click(await screen.findByRole('option', { name: option }));
};
const change = (): HTMLButtonElement => screen.getByRole('button', { name: 'Change it' });
const why = (text: string): void => {
  fireEvent.change(screen.getByRole('textbox'), { target: { value: text } });
};

describe('another gauge in mid-job', () => {
  it('is chosen from those that are not in that place already', async () => {
    await open();
    expect(screen.getByRole('combobox', { name: 'Where' }).textContent).toContain('T-1');
    const offered = await choicesOf('The new gauge');
    expect(offered.some((o) => o.startsWith('T-1,'))).toBe(false);
    expect(offered[0]).toMatch(/^T-3, 0–100 psi/);
  });

  it('wants a reason, and is not changed for one of blanks', async () => {
    const onChange = await open();
    expect(change().disabled).toBe(true);
    await choose('The new gauge', /^T-3/);
    expect(change().disabled).toBe(true);
    why('   ');
    expect(change().disabled).toBe(true);
    why(' its glass broke ');
    fireEvent.click(change());
    expect(onChange).toHaveBeenCalledTimes(1);
    expect(onChange.mock.calls[0]?.[0]).toBe('system');
    expect(onChange.mock.calls[0]?.[1]).toMatchObject({ id: 'w2', label: 'T-3' });
    expect(onChange.mock.calls[0]?.[2]).toBe('its glass broke');
  });

  it.each([
    [/^T-4/, 'T-4 was due on 2020-01-31.'],
    [/^T-5/, 'T-5 failed its check on 2030-01-02: Out by 3 psi.'],
  ])('that is in doubt says so before it is taken: %s', async (label, doubt) => {
    await open();
    await choose('The new gauge', label);
    expect(await screen.findByText(doubt)).toBeTruthy();
  });

  it('is forgotten where the place is changed: what is right for water is not for air', async () => {
    const onChange = await open();
    await choose('The new gauge', /^T-3/);
    why('mixed up');
    await choose('Where', /T-2/);
    expect(screen.getByRole('combobox', { name: 'The new gauge' }).textContent).not.toContain('T-3');
    expect(change().disabled).toBe(true);
    expect(onChange).not.toHaveBeenCalled();
  });
});

import { describe, expect, it, jest } from '@jest/globals';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import type { FirmGauge } from '@firm-needle/contract';
import { drawn, WATER } from '../../testing.tsx';
import { refusal, serverThat } from '../../testingServer.ts';
import { GaugeDialog } from './GaugeDialog.tsx';

const OWN: FirmGauge = {
  ...WATER,
  id: 'g1',
  label: 'W-3',
  serial: 'S-77',
  due: '2031-04-05',
  owner: 'A Firm',
  accuracy: { standard: 'stated', percentOfSpan: 0.3 },
};
const field = (name: string): HTMLInputElement => screen.getByRole('textbox', { name });
const type = (name: string, text: string): void => {
  fireEvent.change(field(name), { target: { value: text } });
};
const keep = (): void => {
  fireEvent.click(screen.getByRole('button', { name: 'Keep the gauge' }));
};
const open = (gauge?: FirmGauge) => {
  const onClose = jest.fn();
  drawn(<GaugeDialog gauge={gauge} onClose={onClose} />);
  return onClose;
};

describe('a gauge as its dial describes it', () => {
  it('is sent as numbers, with what was left empty left out, and the dialog closes', async () => {
    const asked = serverThat(() => ({ data: { id: 'new' } }));
    const onClose = open();
    type('Label on its back', '  W-9 ');
    type('Scale to', '1,6');
    type('Accuracy', '1.6');
    keep();
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(asked).toHaveLength(1);
    const [method, path, body] = asked[0] ?? [];
    expect([method, /^\/gauges\/[\da-f-]{36}$/.test(String(path))]).toEqual(['PUT', true]);
    expect(body).toEqual({
      label: 'W-9',
      kind: 'bourdon',
      unit: 'psi',
      lower: 0,
      upper: 1.6,
      division: 1,
      readable: 0.5,
      accuracy: '1.6',
      medium: 'water',
    });
  });

  it('shows what is known of it, and is kept under its own id', async () => {
    const asked = serverThat(() => ({ data: { id: 'g1' } }));
    open(OWN);
    expect(screen.getByRole('heading', { name: 'Gauge W-3' })).toBeTruthy();
    expect(['Accuracy', 'Serial', 'Certificate until', 'Owner'].map((n) => field(n).value)).toEqual([
      '0.3 %',
      'S-77',
      '2031-04-05',
      'A Firm',
    ]);
    type('Serial', 'S-78');
    keep();
    await waitFor(() => expect(asked).toHaveLength(1));
    expect(asked[0]?.[1]).toBe('/gauges/g1');
    expect(asked[0]?.[2]).toMatchObject({ serial: 'S-78', due: '2031-04-05', accuracy: '0.3 %' });
  });

  it('is not sent while something is missing or no number; each field says so itself', async () => {
    const asked = serverThat(() => ({ data: {} }));
    open();
    type('Scale to', 'a hundred');
    type('Smallest division', '');
    keep();
    await waitFor(() => expect(screen.getAllByText('This is needed.').length).toBe(2));
    expect(field('Scale to').getAttribute('aria-invalid')).toBe('true');
    expect(field('Serial').getAttribute('aria-invalid')).toBe('false');
    expect(asked).toEqual([]);
  });

  it('stands as it was typed where the server refuses it: what, where, and the dialog stays', async () => {
    serverThat(() =>
      refusal(422, 'The gauge contradicts itself.', [
        { field: 'upper', message: 'It ends below where it begins.' },
      ]),
    );
    const onClose = open(OWN);
    type('Scale to', '-5');
    keep();
    expect((await screen.findByRole('alert')).textContent).toContain('The gauge contradicts itself.');
    expect(screen.getByText('It ends below where it begins.')).toBeTruthy();
    expect(field('Scale to').value).toBe('-5');
    expect(onClose).not.toHaveBeenCalled();
  });

  it('is not said to be kept where there is no connection', async () => {
    serverThat(() => undefined);
    const onClose = open(OWN);
    keep();
    expect((await screen.findByRole('alert')).textContent).toMatch(/not sent, and is not kept/);
    expect(onClose).not.toHaveBeenCalled();
  });

  it('asks for the water only of a tube that holds some, and offers temperatures to a thermometer', () => {
    serverThat(() => ({ data: {} }));
    open();
    const choose = (label: string, option: string): void => {
      fireEvent.mouseDown(screen.getByRole('combobox', { name: label }));
      fireEvent.click(within(screen.getByRole('listbox')).getByRole('option', { name: option }));
    };
    const units = (): readonly (string | null)[] => {
      fireEvent.mouseDown(screen.getByRole('combobox', { name: 'Unit' }));
      const list = within(screen.getByRole('listbox')).getAllByRole('option');
      const all = list.map((o) => o.textContent);
      fireEvent.click(list[0] as HTMLElement);
      return all;
    };
    expect(screen.queryByRole('textbox', { name: 'Water in it, °C' })).toBeNull();
    expect(units()).toContain('psi');
    choose('Kind', 'U-tube');
    expect(field('Water in it, °C').value).toBe('');
    choose('Kind', 'thermometer');
    expect(screen.getByRole('combobox', { name: 'Unit' }).textContent).toBe('°C');
    expect(screen.queryByRole('textbox', { name: 'Water in it, °C' })).toBeNull();
    expect(units()).toEqual(expect.arrayContaining(['°C', '°F']));
  });

  it.each([0.1, 0.04])(
    'keeps how finely it is read, also where that is %d of a division',
    async (readable) => {
      const asked = serverThat(() => ({ data: { id: 'g1' } }));
      open({ ...OWN, readable });
      expect(screen.getByRole('combobox', { name: 'Readable to' }).textContent).toBe(
        `${readable} of a division`,
      );
      keep();
      await waitFor(() => expect(asked).toHaveLength(1));
      expect(asked[0]?.[2]).toMatchObject({ readable });
    },
  );
});

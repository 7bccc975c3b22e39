import { afterEach, describe, expect, it, jest } from '@jest/globals';
import { act, fireEvent, renderHook, screen, waitFor, within } from '@testing-library/react';
import type { Control } from '@firm-needle/contract';
import { loadFamily } from '@firm-needle/families';
import { usePlan } from '../../planning/usePlan.ts';
import { drawn, psi } from '../../testing.tsx';
import { Beside, linksOf } from './Beside.tsx';

const SITE = { altitude_m: 0 };
const OVER = {
  control: 'lim',
  name: 'Red limit',
  values: { cutOut: psi(7.5) },
  signed: { at: '2031-02-03T10:00:00.000Z', outcome: 'set' as const, proved: true },
};
const control = (links: Control['links']): Control => ({ id: 'me', links }) as unknown as Control;
const answer = (status: number, data: object): Response =>
  ({ ok: status < 400, status, redirected: false, json: () => Promise.resolve(data) }) as unknown as Response;
const COULD = [
  { id: 'lim', name: 'Red limit', equipment: 'Boiler' },
  { id: 'two', name: 'Spare limit', equipment: 'Boiler' },
];

async function beside(links: Control['links'], { editable = true, variant = 'sub' } = {}) {
  const family = await loadFamily('steam-control');
  const { result } = renderHook(() => usePlan(family, { site: SITE }));
  act(() => result.current.choose({ variant }));
  act(() => void result.current.typeOnPlate('limit', '9 psi'));
  const on = control(links);
  const show = () => <Beside family={family} control={on} planning={result.current} editable={editable} />;
  const view = drawn(show());
  return { result, again: () => (view.unmount(), drawn(show())) };
}

afterEach(() => {
  jest.restoreAllMocks();
});

describe('who stands beside a control', () => {
  it('is named with how it last ended; where the plate says otherwise, one press takes it over', async () => {
    const { result, again } = await beside([{ role: 'limit', to: OVER, could: COULD }]);
    expect(screen.getByRole('link', { name: 'Red limit' }).getAttribute('href')).toBe('/controls/lim');
    expect(screen.getByText(/set and proved on 2031-02-03/)).toBeTruthy();
    expect(screen.getByText(/Red limit, is planned at 7.5 psi; the plate here says 9 psi/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Take it over' }));
    expect(result.current.plan.plate['limit']?.value).toBeCloseTo(psi(7.5), 6);
    again();
    expect(screen.queryByText(/the plate here says/)).toBeNull();
  });

  it('is chosen by name, and sent; what the server refuses is said', async () => {
    const asked: unknown[] = [];
    const refused = {
      type: 'urn:firm-needle:x',
      status: 422,
      code: 'x',
      detail: 'That control cannot be it.',
      remedy: 'Choose another.',
    };
    const answers = [() => answer(200, { role: 'limit', to: 'two' }), () => answer(422, refused)];
    globalThis.fetch = jest.fn((url: unknown, init?: RequestInit) => {
      asked.push([url, init?.method, init?.body]);
      const next = answers.shift();
      return next ? Promise.resolve(next()) : Promise.reject(new TypeError('offline'));
    }) as unknown as typeof fetch;
    await beside([{ role: 'limit', to: null, could: COULD }]);
    const choose = (name: RegExp): void => {
      fireEvent.mouseDown(screen.getByRole('combobox', { name: 'Limit control of this boiler' }));
      fireEvent.click(within(screen.getByRole('listbox')).getByRole('option', { name }));
    };
    choose(/Spare limit/);
    await waitFor(() => expect(asked).toHaveLength(1));
    expect(asked[0]).toEqual(['/api/v1/controls/me/links/limit', 'PUT', '{"to":"two"}']);
    await waitFor(() => expect(screen.getByRole('combobox').getAttribute('aria-disabled')).not.toBe('true'));
    choose(/Red limit/);
    expect((await screen.findByRole('alert')).textContent).toMatch(/cannot be it\. Choose another\./);
    // Off the net it is not kept, and nobody says that it is.
    choose(/Red limit/);
    await waitFor(() => expect(screen.getByRole('alert').textContent).toMatch(/not sent, and is not kept/));
  });

  it('is told where nobody can, cannot be changed by who may only look, and is not asked where the plan has no such role', async () => {
    const first = await beside([{ role: 'limit', to: null, could: [] }]);
    expect(screen.getByText('No control of this site can stand there yet.')).toBeTruthy();
    first.again().unmount();
    await beside([{ role: 'limit', to: OVER, could: COULD }], { editable: false });
    expect(screen.getByRole('combobox').getAttribute('aria-disabled')).toBe('true');
    expect(screen.queryByRole('button', { name: 'Take it over' })).toBeNull();
  });

  it('is not asked for a plan that has no such role', async () => {
    await beside([{ role: 'limit', to: OVER, could: COULD }], { variant: 'limit' });
    expect(screen.queryByRole('combobox')).toBeNull();
  });

  it('goes with the job that is started, but for the places that are empty', () => {
    expect(
      linksOf(
        control([
          { role: 'limit', to: OVER, could: [] },
          { role: 'other', to: null, could: COULD },
        ]),
      ),
    ).toEqual({ limit: OVER });
  });
});

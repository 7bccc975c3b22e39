import { describe, expect, it } from '@jest/globals';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import type { Me, Person, PersonForm } from '@firm-needle/contract';
import { drawn, ME } from '../../testing.tsx';
import { refusal, serverThat } from '../../testingServer.ts';
import { PeoplePage } from './PeoplePage.tsx';

const BOSS: Me = { ...ME, role: 'supervisor' };
const person = (id: string, name: string, over: Partial<Person> = {}): Person => ({
  id,
  login: name.split(' ')[0]?.toLowerCase() ?? '',
  name,
  role: 'technician',
  permits: [],
  siteId: null,
  disabled: false,
  version: 2,
  ...over,
});
const PEOPLE: readonly Person[] = [
  person('p1', 'Ada Mills', {
    role: 'supervisor',
    permits: [{ id: 'gas' }, { id: 'mains', until: '2020-01-31' }],
  }),
  person('p2', 'Ben Odd', { disabled: true }),
  person('p3', 'Mill office', { role: 'reader', siteId: 's1' }),
];
function page(
  me = BOSS,
  answer: (body: PersonForm) => ReturnType<typeof refusal> | undefined = () => undefined,
) {
  const asked = serverThat((method, path, body) => {
    if (method === 'PUT') return answer(body as PersonForm) ?? { data: { id: 'x', version: 3 } };
    if (path.startsWith('/people')) return { data: { items: PEOPLE, next: null } };
    if (path.startsWith('/sites'))
      return { data: { items: [{ id: 's1', name: 'Mill House', equipment: [] }], next: null } };
    return undefined;
  });
  drawn(<PeoplePage />, me);
  return asked;
}
const sent = (asked: ReturnType<typeof page>): unknown => asked.find(([m]) => m === 'PUT')?.[2];

describe('the people', () => {
  it('stand with what they are, what they hold and what has ended', async () => {
    page();
    expect(await screen.findByText('Ada Mills')).toBeTruthy();
    expect(screen.getByText('2 with an account')).toBeTruthy();
    expect(screen.getByText(/ended 31 Jan 2020/)).toBeTruthy();
    expect(screen.getByText(/disabled · signs in as ben/)).toBeTruthy();
    expect(screen.getByText(/customer’s account .* Mill House/)).toBeTruthy();
  });

  it('are changed by nobody but a supervisor', async () => {
    page(ME);
    await screen.findByText('Ada Mills');
    expect(screen.queryByRole('button', { name: /Add|Change/ })).toBeNull();
  });

  it('are added with permits until a day, and a password to begin with', async () => {
    const asked = page();
    fireEvent.click(await screen.findByRole('button', { name: 'Add a person' }));
    const d = within(screen.getByRole('dialog'));
    fireEvent.change(d.getByLabelText('Name'), { target: { value: ' Cy Vane ' } });
    fireEvent.change(d.getByLabelText('Signs in as'), { target: { value: 'Cy' } });
    fireEvent.click(d.getByRole('button', { name: 'Keep the person' }));
    expect(await d.findByText('Type one to begin with.')).toBeTruthy();
    fireEvent.change(d.getByLabelText('First password'), { target: { value: 'four dry socks' } });
    fireEvent.click(d.getByLabelText('Licensed for gas'));
    fireEvent.change(d.getByLabelText('Licensed for gas until'), { target: { value: '2031-05-01' } });
    fireEvent.click(d.getByLabelText('May work on mains enclosures'));
    fireEvent.click(d.getByLabelText('May work on mains enclosures'));
    fireEvent.click(d.getByRole('button', { name: 'Keep the person' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(sent(asked)).toEqual({
      version: 1,
      name: 'Cy Vane',
      role: 'technician',
      login: 'cy',
      permits: [{ id: 'gas', until: '2031-05-01' }],
      siteId: null,
      disabled: false,
      password: 'four dry socks',
    });
  });

  it('are disabled on keeping, not before; and an untouched password is not sent', async () => {
    const asked = page();
    fireEvent.click(await screen.findByRole('button', { name: 'Change Ada Mills' }));
    const d = within(screen.getByRole('dialog'));
    fireEvent.click(d.getByRole('button', { name: 'Disable the account' }));
    expect(sent(asked)).toBeUndefined();
    fireEvent.click(d.getByRole('button', { name: 'Keep the person' }));
    await waitFor(() => expect(sent(asked)).toMatchObject({ version: 3, disabled: true }));
    expect(sent(asked)).not.toHaveProperty('password');
  });

  it('keep their last supervisor: what the server says stands in the window', async () => {
    page(BOSS, () => refusal(409, 'Ada Mills is the only supervisor left.'));
    fireEvent.click(await screen.findByRole('button', { name: 'Change Ada Mills' }));
    const d = within(screen.getByRole('dialog'));
    fireEvent.click(d.getByRole('button', { name: 'Keep the person' }));
    expect((await d.findByRole('alert')).textContent).toMatch(/only supervisor left/);
  });

  it('that somebody else changed meanwhile show it, permits and account as well; theirs taken over is theirs whole', async () => {
    const theirs = { ...PEOPLE[0], version: 5, disabled: true, permits: [{ id: 'fire' }] };
    const asked = page(BOSS, (body) =>
      body.version < 6
        ? {
            status: 409,
            data: {
              type: 'urn:firm-needle:moved-on',
              status: 409,
              code: 'moved-on',
              detail: 'x',
              current: theirs,
            },
          }
        : undefined,
    );
    fireEvent.click(await screen.findByRole('button', { name: 'Change Ada Mills' }));
    const d = within(screen.getByRole('dialog'));
    fireEvent.click(d.getByRole('button', { name: 'Keep the person' }));
    expect(
      await d.findByText(/theirs: May impair and test fire protection · yours: Licensed for gas, May work/),
    ).toBeTruthy();
    expect(d.getByText('theirs: disabled · yours: in use')).toBeTruthy();
    fireEvent.click(d.getByRole('button', { name: 'Take theirs' }));
    fireEvent.click(d.getByRole('button', { name: 'Keep the person' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(asked.filter(([m]) => m === 'PUT')[1]?.[2]).toMatchObject({
      version: 6,
      disabled: true,
      permits: [{ id: 'fire' }],
    });
  });
});

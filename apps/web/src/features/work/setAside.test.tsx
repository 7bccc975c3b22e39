import { describe, expect, it, jest } from '@jest/globals';
import { NOT_HELD, type JobEvent, type SetAside as Aside } from '@firm-needle/core/procedure';
import { fireEvent, screen, within } from '@testing-library/react';
import { drawn, openJob, reading } from '../../testing.tsx';
import type { OpenJob } from '../../sync/useJob.ts';
import { SetAside } from './SetAside.tsx';
import type { Actions } from './useActions.ts';

/** Something set aside, as a device may have sent it. */
const aside = (
  id: string,
  body: unknown,
  reason: string = NOT_HELD,
  wall = '2030-01-01T08:15:00',
): Aside => ({
  event: { id, wall, body } as unknown as JobEvent,
  reason,
});
async function shown(all: readonly Aside[], { held = false, signed = false } = {}) {
  const job = await openJob();
  const view = Object.create(job.view, {
    state: { value: { ...job.view.state, aside: all, ...(signed ? { signed: {} } : {}) } },
  }) as OpenJob['view'];
  const adopt = jest.fn(async (_: string) => true);
  drawn(<SetAside job={{ ...job, view }} actions={{ adopt } as unknown as Actions} held={held} />);
  return adopt;
}
const rows = (): readonly string[] => screen.getAllByRole('listitem').map((li) => li.textContent ?? '');
const MALFORMED = 'It does not fit its kind.';

describe('entries that do not count', () => {
  it('are nothing on the screen while there are none', async () => {
    await shown([]);
    expect(document.querySelector('.aside')).toBeNull();
  });

  it('are told in words, each with its time and its reason', async () => {
    await shown([
      aside('a', reading('cutIn', 38, 'found-cut-in', 'found', '1')),
      aside('b', { kind: 'turn', text: '½ turn clockwise' }),
      aside('c', { kind: 'observe', answer: 'holds' }),
      aside('d', { kind: 'note', text: 'x'.repeat(200) }),
      aside('e', { kind: 'photo', text: 'the plate' }),
      aside('f', { kind: 'done' }),
    ]);
    expect(screen.getByText('6 entries are set aside: kept, and not counted')).toBeTruthy();
    expect(rows()[0]).toMatch(/^08:15 Cut-in 38 psi /);
    expect(rows()[0]).toContain(NOT_HELD);
    expect(rows()[1]).toContain('½ turn clockwise');
    expect(rows()[2]).toContain('answer: holds');
    expect(rows()[3]).toContain(`note: ${'x'.repeat(80)} `);
    expect(rows()[4]).toContain('photo: the plate');
    expect(rows()[5]).toContain('done');
  });

  it.each([
    ['no body', undefined],
    ['a body that is text', 'reading'],
    ['a kind that is a number', { kind: 7, value: null }],
    ['a reading without a value', { kind: 'read', setting: 'nonsense' }],
    ['a value that is no object', { kind: 'read', setting: 4, value: 'high' }],
  ])('are shown all the same with %s', async (_, body) => {
    await shown([aside('a', body, MALFORMED, 'not a time')]);
    expect(rows()[0]).toMatch(/^– /);
    expect(rows()[0]).toContain(MALFORMED);
  });

  it('of a device that had lost the job are let count one by one; what is malformed never is', async () => {
    const adopt = await shown([
      aside('a', { kind: 'note', text: 'first' }),
      aside('b', { kind: 'note', text: 'second' }),
      aside('c', { kind: 'note' }, MALFORMED),
    ]);
    const [, second, third] = screen.getAllByRole('listitem');
    fireEvent.click(within(second as HTMLElement).getByRole('button', { name: 'Let it count' }));
    expect(adopt.mock.calls).toEqual([['b']]);
    expect(within(third as HTMLElement).queryByRole('button')).toBeNull();
  });

  it.each([
    ['by a device that does not have the job', { held: true }],
    ['once the job is signed', { signed: true }],
  ])('are not let count %s', async (_, how) => {
    await shown([aside('a', { kind: 'note', text: 'late' })], how);
    expect(screen.queryByRole('button', { name: 'Let it count' })).toBeNull();
    expect(document.querySelector('details')?.open).toBe(false);
  });
});

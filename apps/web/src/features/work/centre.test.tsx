// The middle of the working screen: what may be asked of the job there, and which presses it takes.
import { afterEach, describe, expect, it, jest } from '@jest/globals';
import { act, cleanup, fireEvent, screen, within } from '@testing-library/react';
import type { JobBody } from '@firm-needle/core/procedure';
import { deviceId } from '../../sync/db.ts';
import type { OpenJob } from '../../sync/useJob.ts';
import { AT_THE_NUT, drawn, FOUND, openJob, OPENED } from '../../testing.tsx';
import { Centre, type Asking } from './Centre.tsx';
import type { Actions } from './useActions.ts';

const press = (key: string): void => act(() => void fireEvent.keyDown(document.body, { key }));

/** Every action answers that it was kept; what was asked of it is told. */
function handsOf(over: Partial<Actions> = {}) {
  const done: string[] = [];
  const actions = new Proxy({ settling: false, trouble: undefined, ...over } as Actions, {
    get: (own, name: string) =>
      name in own
        ? own[name as keyof Actions]
        : async (): Promise<boolean> => {
            done.push(name);
            return true;
          },
  });
  return { actions, done };
}

async function at(
  bodies: readonly JobBody[],
  how: { holder?: string; actions?: Partial<Actions>; asked?: boolean } = {},
) {
  const opened = await openJob(bodies);
  // What the tests' events were written by is this device, unless it is said to be another.
  const state = { ...opened.view.state, holder: how.holder ?? deviceId() };
  const view = Object.create(opened.view, { state: { value: state } }) as OpenJob['view'];
  const { actions, done } = handsOf(how.actions);
  const onAsk = jest.fn<(asking: Asking) => void>();
  const screenOf = (asked: boolean) => (
    <Centre
      job={{ ...opened, view }}
      live={undefined}
      actions={actions}
      asked={asked}
      onAsk={onAsk}
      onPort={undefined}
    />
  );
  drawn(screenOf(how.asked ?? false));
  return { job: opened, onAsk, done };
}
const menu = async (): Promise<HTMLElement> => {
  fireEvent.click(screen.getByRole('button', { name: 'More' }));
  return screen.findByRole('menu');
};
const entriesOf = async (): Promise<readonly string[]> =>
  within(await menu())
    .getAllByRole('menuitem')
    .map((i) => i.textContent ?? '');

afterEach(() => void jest.restoreAllMocks());

describe('what may be asked of a job', () => {
  it.each([
    ['Add a note', 'note'],
    ['Add a photo', 'photo'],
    ['Reckoner', 'reckon'],
    ['Read a logger’s file', 'trace'],
    ['Change the gauge', 'gauge'],
    ['Change the plan', 'plan'],
    ['End the job here', 'leave'],
  ] as const)('%s', async (name, asking) => {
    const { onAsk } = await at(OPENED);
    fireEvent.click(within(await menu()).getByRole('menuitem', { name }));
    expect(onAsk.mock.calls).toEqual([[asking]]);
  });

  it('is not its plan on a device that does not have it', async () => {
    await at(OPENED, { holder: 'their-tablet' });
    const item = within(await menu()).getByRole('menuitem', { name: 'Change the plan' });
    expect(item.getAttribute('aria-disabled')).toBe('true');
  });

  it('is to pass a step over only where a conclusion does not hang on it', async () => {
    const { job, onAsk } = await at(FOUND);
    expect(job.offered.now?.step.key).toBe('rest');
    fireEvent.click(within(await menu()).getByRole('menuitem', { name: 'I cannot do this step' }));
    expect(onAsk.mock.calls[0]?.[0]).toMatchObject({ skip: { step: { key: 'rest' } } });
  });

  it('is never to pass over the cautions', async () => {
    await at([]);
    expect(await entriesOf()).not.toContain('I cannot do this step');
  });
});

describe('the last entry', () => {
  it('is taken back by its button and by U', async () => {
    const { done } = await at(OPENED);
    fireEvent.click(screen.getByRole('button', { name: /^Undo last/ }));
    press('u');
    expect(done).toEqual(['undo', 'undo']);
  });

  it('is not taken back where there is none, nor by a device that does not have the job', async () => {
    const { done } = await at([]);
    expect(screen.queryByRole('button', { name: /^Undo last/ })).toBeNull();
    press('u');
    cleanup();
    const theirs = await at(OPENED, { holder: 'their-tablet' });
    expect(screen.queryByRole('button', { name: /^Undo last/ })).toBeNull();
    press('u');
    expect([...done, ...theirs.done]).toEqual([]);
  });
});

describe('a press', () => {
  it('that could not be entered is said where it was made, until it is understood', async () => {
    const dismiss = jest.fn();
    await at(OPENED, { actions: { trouble: { kind: 'not-kept', text: 'There is no room left.' }, dismiss } });
    const alert = screen.getByRole('alert');
    expect(alert.textContent).toContain('There is no room left.');
    fireEvent.click(within(alert).getByRole('button', { name: 'Understood' }));
    expect(dismiss).toHaveBeenCalledTimes(1);
  });

  it('is taken by no face that has just appeared: it says that it is busy', async () => {
    await at(OPENED, { actions: { settling: true } });
    expect(document.querySelector('.face')?.getAttribute('aria-busy')).toBe('true');
  });

  it('of Enter belongs to the face, but not while something is asked over it', async () => {
    await at([]);
    expect(document.activeElement?.closest('.face')).not.toBeNull();
    (document.activeElement as HTMLElement).blur();
    cleanup();
    await at([], { asked: true });
    expect(document.activeElement?.closest('.face')).toBeNull();
  });
});

it('cautions stand over the first step, all of them, and beside the step that they guard afterwards', async () => {
  const { job } = await at([]);
  const all = document.querySelectorAll('.caution').length;
  expect(all).toBeGreaterThanOrEqual(job.cautions.length);
  expect(job.cautions.length).toBeGreaterThan(2);
  cleanup();
  const nut = await at(AT_THE_NUT);
  expect(nut.job.offered.now?.step.kind).toBe('turn');
  for (const key of nut.job.cautions) {
    const text = nut.job.family.cautions.find((c) => c.key === key)?.text ?? '?';
    expect(document.body.textContent).toContain(text);
  }
});

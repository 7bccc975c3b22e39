import { describe, expect, it, jest } from '@jest/globals';
import { act, fireEvent, screen } from '@testing-library/react';
import type { Catch } from '@firm-needle/core/procedure';
import { toCanonical } from '@firm-needle/core/quantity';
import { LiveSession } from '../../../live/liveSession.ts';
import { FakeSource } from '../../../live/testing.ts';
import { done, drawn, openJob, zeroed } from '../../../testing.tsx';
import { Face } from '../Face.tsx';
import type { Actions } from '../useActions.ts';
import { useWatch } from '../useWatch.ts';
import type { OpenJob } from '../../../sync/useJob.ts';
import type { Live } from '../useLiveSource.ts';

const psi = (n: number): number => toCanonical(n, 'psi');
const press = (key: string): void => act(() => void fireEvent.keyDown(document.body, { key }));

/** A face as the page has it: the session watches for what the step asks. */
function Watched({ job, live, actions }: { job: OpenJob; live: Live; actions: Actions }) {
  useWatch(job, live, 'system');
  return (
    <Face
      job={job}
      live={live}
      actions={actions}
      held={false}
      onStop={() => undefined}
      onPlan={() => undefined}
    />
  );
}

async function atTheNeedle(wanted?: Catch) {
  const opened = await openJob([
    done('cautions', { cautions: 'read' }),
    zeroed('system', 'zero-system'),
    zeroed('air', 'zero-air'),
    done('fit-gauge', { gauge: 'fitted', power: 'on', house: 'open', drain: 'closed' }),
  ]);
  const now = opened.offered.now;
  expect(now?.step.key).toBe('found-cut-in');
  // The same step, were it read at the click.
  const job =
    wanted && now?.step.kind === 'read'
      ? { ...opened, offered: { ...opened.offered, now: { ...now, step: { ...now.step, catch: wanted } } } }
      : opened;
  const source = new FakeSource();
  const live: Live = { session: new LiveSession(source) };
  const read = jest.fn<Actions['read']>(async () => true);
  drawn(<Watched job={job} live={live} actions={{ read, settling: false } as unknown as Actions} />);
  const give = (seconds: number, p: (t: number) => number, running: boolean | 'untold' = false): void =>
    act(() => source.give(seconds, p, running));
  return { give, read };
}

describe('a reading from a live needle', () => {
  it('is not taken by the key of a button that waits; early is a press of its own', async () => {
    const { give, read } = await atTheNeedle();
    give(6, (t) => psi(60 - t));
    await screen.findByRole('button', { name: /Watching for the lowest/ });
    press(' ');
    expect(read).not.toHaveBeenCalled();
    await screen.findByRole('button', { name: /early/ });
    press('e');
    expect(read.mock.calls[0]?.[3]).toMatchObject({ state: 'early' });
  });

  it('is taken where it was caught, by the key on its button, and is then not early', async () => {
    const { give, read } = await atTheNeedle();
    give(10, (t) => psi(50 - t));
    give(6, (t) => psi(40 + 2 * t), true);
    await screen.findByRole('button', { name: /Take cut-in/ });
    expect(screen.queryByRole('button', { name: /early/ })).toBeNull();
    press('e');
    expect(read).not.toHaveBeenCalled();
    press(' ');
    expect(read.mock.calls[0]?.[3]).toMatchObject({ state: 'caught' });
    expect(Number(read.mock.calls[0]?.[2].text)).toBeCloseTo(40, 0);
  });

  it('at the click is taken where the source saw it, though the pressure went on', async () => {
    const { give, read } = await atTheNeedle('starts');
    give(6, (t) => psi(50 - t));
    expect(
      (await screen.findByRole<HTMLButtonElement>('button', { name: /Waiting for the click/ })).disabled,
    ).toBe(true);
    press(' ');
    expect(read).not.toHaveBeenCalled();
    give(6, (t) => psi(44 - t), true);
    await screen.findByRole('button', { name: /Take cut-in 4/ });
    press(' ');
    expect(read.mock.calls[0]?.[3]).toMatchObject({ state: 'caught' });
    // It fell on to 38; it started at 44.
    expect(Number(read.mock.calls[0]?.[2].text)).toBeCloseTo(44, 0);
  });

  it('at a click that nothing but an ear tells is what stands as the key is pressed, and not early', async () => {
    const { give, read } = await atTheNeedle('starts');
    give(6, (t) => psi(50 - t), 'untold');
    const button = await screen.findByRole<HTMLButtonElement>('button', { name: /Take cut-in as it clicks/ });
    expect(button.disabled).toBe(false);
    expect(screen.queryByRole('button', { name: /early/ })).toBeNull();
    press(' ');
    expect(read.mock.calls[0]?.[3]).toMatchObject({ state: 'caught' });
    expect(Number(read.mock.calls[0]?.[2].text)).toBeCloseTo(44, 0);
  });
});

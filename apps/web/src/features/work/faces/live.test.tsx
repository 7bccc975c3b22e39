import { describe, expect, it, jest } from '@jest/globals';
import { act, fireEvent, screen } from '@testing-library/react';
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
  return <Face job={job} live={live} actions={actions} held={false} onStop={() => undefined} />;
}

async function atTheNeedle() {
  const job = await openJob([
    done('cautions', { cautions: 'read' }),
    zeroed('system', 'zero-system'),
    zeroed('air', 'zero-air'),
    done('fit-gauge', { gauge: 'fitted', power: 'on', house: 'open', drain: 'closed' }),
  ]);
  expect(job.offered.now?.step.key).toBe('found-cut-in');
  const source = new FakeSource();
  const live: Live = { session: new LiveSession(source) };
  const read = jest.fn<Actions['read']>(async () => true);
  drawn(<Watched job={job} live={live} actions={{ read, settling: false } as unknown as Actions} />);
  const give = (seconds: number, p: (t: number) => number, running = false): void =>
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
});

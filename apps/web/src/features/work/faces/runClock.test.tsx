import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, cleanup, fireEvent, screen } from '@testing-library/react';
import type { JobBody } from '@firm-needle/core/procedure';
import { drawn, OPENED, openJob, reading } from '../../../testing.tsx';
import { Face } from '../Face.tsx';
import type { Actions } from '../useActions.ts';

const CUT_IN = reading('cutIn', 43, 'found-cut-in', 'found', '1.1');

describe('a run that nobody but a hand times', () => {
  const read = jest.fn<Actions['read']>(async () => true);
  let now = Date.UTC(2030, 0, 1, 9);
  const face = async (bodies: readonly JobBody[]): Promise<void> => {
    const job = await openJob(bodies);
    const actions = { read, settling: false } as unknown as Actions;
    drawn(
      <Face
        job={job}
        live={undefined}
        actions={actions}
        held={false}
        onStop={() => undefined}
        onPlan={() => undefined}
      />,
    );
  };
  const button = (name: string | RegExp): HTMLElement => screen.getByRole('button', { name });
  const type = async (text: string): Promise<void> => {
    for (const key of [...text, 'Enter']) act(() => void fireEvent.keyDown(document.body, { key }));
    await act(async () => undefined);
    expect(read).toHaveBeenCalledTimes(1);
  };

  beforeEach(() => {
    localStorage.clear();
    read.mockClear();
    jest.spyOn(Date, 'now').mockImplementation(() => now);
  });
  afterEach(() => void jest.restoreAllMocks());

  it('starts where the pump starts, outlasts the page, and goes with the reading at which it stops', async () => {
    await face(OPENED);
    fireEvent.click(button('It starts: time it'));
    cleanup();
    now += 84_300;
    await face([...OPENED, CUT_IN]);
    expect(button('It stops: run time 84 s')).toBeTruthy();
    fireEvent.click(button(/^It stops/));
    now += 9000;
    await type('63');
    expect(read.mock.calls[0]?.[2].text).toBe('63');
    expect(read.mock.calls[0]?.[3]).toMatchObject({ state: 'typed', since_s: 84.3 });
    // Kept with the reading, it is not there for the next one.
    cleanup();
    await face([...OPENED, CUT_IN]);
    expect(screen.queryByRole('button', { name: /run time/ })).toBeNull();
  });

  it('is not kept where it was not stopped, was given up, or began too long ago', async () => {
    await face(OPENED);
    fireEvent.click(button('It starts: time it'));
    cleanup();
    now += 60_000;
    await face([...OPENED, CUT_IN]);
    await type('63');
    expect(read.mock.calls[0]?.[3]?.since_s).toBeUndefined();
    cleanup();
    localStorage.setItem('firm-needle.run.j', JSON.stringify({ from: now - 4_000_000, to: now }));
    await face([...OPENED, CUT_IN]);
    expect(screen.queryByRole('button', { name: /run time/ })).toBeNull();
  });

  it('gives no time where the clock was set back meanwhile', async () => {
    await face(OPENED);
    fireEvent.click(button('It starts: time it'));
    cleanup();
    now -= 30_000;
    await face([...OPENED, CUT_IN]);
    expect(screen.queryByRole('button', { name: /run time/ })).toBeNull();
    await type('63');
    expect(read.mock.calls[0]?.[3]?.since_s).toBeUndefined();
  });

  it.each(['{"from":1e99}', '[]', 'null', '{"from":"x"}', '7'])(
    'is none where %s is stored',
    async (text) => {
      localStorage.setItem('firm-needle.run.j', text);
      await face([...OPENED, CUT_IN]);
      expect(screen.queryByRole('button', { name: /run time/ })).toBeNull();
    },
  );

  it('survives what is stored and is no run', async () => {
    localStorage.setItem('firm-needle.run.j', '{"from":"x"');
    await face([...OPENED, CUT_IN]);
    expect(screen.queryByRole('button', { name: /run time/ })).toBeNull();
  });
});

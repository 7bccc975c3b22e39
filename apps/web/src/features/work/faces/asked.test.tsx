import { describe, expect, it, jest } from '@jest/globals';
import { act, cleanup, fireEvent, screen } from '@testing-library/react';
import { entries } from '@firm-needle/core/entries';
import { done, drawn, FOUND, openJob, reading } from '../../../testing.tsx';
import type { OpenJob } from '../../../sync/useJob.ts';
import { Face } from '../Face.tsx';
import type { Actions } from '../useActions.ts';

const button = (name: string | RegExp): HTMLElement => screen.getByRole('button', { name });
const type = (text: string): void => {
  for (const key of [...text, 'Enter']) act(() => void fireEvent.keyDown(document.body, { key }));
};

function face(job: OpenJob) {
  const instead = jest.fn<Actions['instead']>(async () => true);
  const leaveNear = jest.fn<Actions['leaveNear']>(async () => true);
  const actions = { instead, leaveNear, settling: false } as unknown as Actions;
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
  return { instead, leaveNear };
}

describe('what is asked at a step', () => {
  it('a look that carries a pressure has it typed where no gauge is live', async () => {
    const job = await openJob(FOUND);
    expect(job.offered.now?.step.key).toBe('rest');
    const { instead } = face(job);
    fireEvent.click(button(/^It falls/));
    // Not entered yet: at what pressure?
    expect(instead).not.toHaveBeenCalled();
    expect(screen.getByRole('heading', { name: 'It falls: at what pressure?' })).toBeTruthy();
    type('51.5');
    expect(instead.mock.calls[0]?.[1].code).toBe('falls');
    expect(instead.mock.calls[0]?.[2]).toMatchObject({ text: '51.5', unit: 'psi' });
    cleanup();
    // Watched long enough, Enter would say that it holds: on the pad it keeps what was typed, and nothing else.
    const again = await openJob(FOUND);
    jest.useFakeTimers();
    const watched = face(again);
    act(() => void jest.advanceTimersByTime(61_000));
    expect(button('It holds').getAttribute('aria-keyshortcuts')).toBe('Enter');
    fireEvent.click(button(/^It falls/));
    type('52');
    jest.useRealTimers();
    expect(watched.instead.mock.calls.map((c) => [c[1].code, c[2]?.text])).toEqual([['falls', '52']]);
    cleanup();
    const other = face(await openJob(FOUND));
    fireEvent.click(button(/^It holds/));
    expect(other.instead.mock.calls[0]?.[2]).toBeUndefined();
  });

  it('what is seen before a gauge goes on is a button beside it, and what happens instead is in its menu', async () => {
    const job = await openJob([
      ...FOUND,
      { kind: 'observe', answer: 'holds', at: { key: 'rest', pass: '1' } },
      done('found-drain', { power: 'off', house: 'closed', drain: 'open' }),
    ]);
    expect(job.offered.now?.step.key).toBe('found-precharge');
    face(job);
    // Typed by the keypad: cancelled, the rest of the face is there.
    act(() => void fireEvent.keyDown(document.body, { key: 'Escape' }));
    expect(button('Water comes out')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Something else' })).toBeNull();
  });

  it('a figure that cannot be read off has its other answer', async () => {
    const job = await openJob([
      ...FOUND,
      { kind: 'observe', answer: 'holds', at: { key: 'rest', pass: '1' } },
      done('found-drain', { power: 'off', house: 'closed', drain: 'open' }),
      reading('precharge', 41, 'found-precharge', 'found', '1'),
      { kind: 'observe', answer: 'adjust', at: { key: 'decide', pass: '1' } },
      done('cover-off', { cover: 'off', power: 'dead' }, '1.1'),
      done('mark', undefined, '1.1'),
    ]);
    expect(job.offered.now?.step.key).toBe('rated-in');
    const { instead } = face(job);
    fireEvent.click(button('Cannot be read'));
    expect(instead.mock.calls[0]?.[1].code).toBe('none');
    cleanup();
    const typed = face(job);
    type('40');
    expect(typed.instead.mock.calls[0]?.[1].code).toBe('shows');
    expect(typed.instead.mock.calls[0]?.[2]).toMatchObject({ text: '40', unit: 'psi' });
  });

  it('what stands near its limit may be left so, wherever the walk stands; else nothing of that is offered', async () => {
    const sure = await openJob(FOUND);
    face(sure);
    expect(screen.queryByRole('button', { name: 'Leave it, near its limit' })).toBeNull();
    cleanup();
    // Whether one more movement is worth its while is the core's to say.
    const near = {
      ...sure,
      view: Object.assign(Object.create(sure.view), { refines: () => true }) as typeof sure.view,
    };
    const { leaveNear } = face(near);
    fireEvent.click(button('Leave it, near its limit'));
    const item = sure.offered.now;
    if (!item) throw new Error('Nothing is offered.');
    expect(leaveNear.mock.calls[0]?.[0]).toBe(item);
    expect(entries.leftNear(sure.view, item).body).toMatchObject({ answer: 'left-near', at: { pass: '1' } });
  });
});

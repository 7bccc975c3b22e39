import { afterEach, describe, expect, it, jest } from '@jest/globals';
import { act, fireEvent, screen } from '@testing-library/react';
import type { CountStep, ObserveStep, TurnStep } from '@firm-needle/core/procedure';
import { drawn, openJob } from '../../../testing.tsx';
import type { Actions } from '../useActions.ts';
import { SETTLE_MS } from '../useActions.ts';
import { SeekFace } from './SeekFace.tsx';
import { CountFace } from './simple.tsx';
import { StopwatchFace } from './StopwatchFace.tsx';

const SEEK = {
  channel: 'contact',
  to: 1,
  title: 'It closes',
  way: -1,
  most: 3,
  ended: 'End of the wheel, nothing',
} as const;
const TURN: TurnStep = {
  kind: 'turn',
  key: 'seek',
  title: 'Seek',
  say: 'Turn until it closes.',
  adjuster: 'range',
  seek: SEEK,
};
const WATCH = {
  channel: 'contact',
  to: 0,
  title: 'It opens',
  limit_s: 4,
  start: 'All pumps off',
  hands: { tap: 0 },
  most_s: 20,
} as const;
const LOOK: ObserveStep = {
  kind: 'observe',
  key: 'watch',
  title: 'Watch',
  say: 'Start the stopwatch.',
  choices: [
    { code: 'opened', title: 'It opened' },
    { code: 'stays', title: 'It stays closed' },
  ],
  stopwatch: WATCH,
};

afterEach(() => {
  jest.restoreAllMocks();
});

const button = (name: string | RegExp): HTMLElement => screen.getByRole('button', { name });
const press = (name: string | RegExp): void => act(() => void fireEvent.click(button(name)));

async function parts() {
  const job = await openJob([]);
  const item = job.offered.now;
  if (!item) throw new Error('nothing offered');
  const acts = { sought: jest.fn(), instead: jest.fn(), done: jest.fn() };
  return { job, item, acts, actions: acts as unknown as Actions };
}

describe('clicks that are counted on the screen', () => {
  const face = async () => {
    const p = await parts();
    drawn(<SeekFace {...p} step={TURN} live={undefined} seek={SEEK} onStop={jest.fn()} />);
    return p;
  };

  it('counts each way and keeps the count once it closes', async () => {
    const { acts, item } = await face();
    for (let i = 0; i < 3; i++) press(/^One turn counter-clockwise/);
    press('One back');
    expect(screen.getByRole('status').textContent).toBe('2 turns counter-clockwise');
    press(/^It closes/);
    expect(acts.sought).toHaveBeenCalledWith(item, 'range', -2, '2 turns counter-clockwise', true);
  });

  it('counts no farther than the wheel goes, and says that nothing came', async () => {
    const { acts, item } = await face();
    for (let i = 0; i < 3; i++) press(/^One turn counter-clockwise/);
    // What was the next movement now says that nothing came.
    expect(screen.queryByRole('button', { name: /^One turn counter-clockwise/ })).toBeNull();
    // A last movement pressed twice is not the word that nothing came.
    press(/^End of the wheel, nothing/);
    expect(acts.sought).not.toHaveBeenCalled();
    const now = jest.spyOn(performance, 'now').mockReturnValue(performance.now() + SETTLE_MS + 50);
    press(/^End of the wheel, nothing/);
    now.mockRestore();
    expect(acts.sought).toHaveBeenCalledWith(item, 'range', -3, '3 turns counter-clockwise', false);
  });
});

describe('something done so many times', () => {
  const COUNT: CountStep = {
    kind: 'count',
    key: 'cycle',
    title: 'Cycle',
    say: 'Open and shut it.',
    times: 3,
  };
  const key = (name: string): void => act(() => void fireEvent.keyDown(document.body, { key: name }));
  let clock = 1000;
  const later = (): void => void (clock += SETTLE_MS + 1);
  const face = async () => {
    jest.spyOn(performance, 'now').mockImplementation(() => clock);
    const p = await parts();
    drawn(<CountFace {...p} step={COUNT} live={undefined} />);
    return p;
  };

  it('is counted by the key on its button, and kept by the one that stands there then', async () => {
    const { acts, item } = await face();
    for (let i = 0; i < 3; i++) {
      expect(button('Once Space')).toBeTruthy();
      key('Enter');
      key(' ');
      later();
    }
    key(' ');
    expect(acts.done).not.toHaveBeenCalled();
    later();
    expect(button('Done Enter')).toBeTruthy();
    key('Enter');
    expect(acts.done.mock.calls).toEqual([[item, { count: 3 }]]);
  });

  it('counts a bouncing press once, and is not ended by it', async () => {
    const { acts } = await face();
    for (let i = 0; i < 3; i++) {
      for (let bounce = 0; bounce < 3; bounce++) press(/^Once|^Done/);
      expect(screen.getByText(`${i + 1} of 3`)).toBeTruthy();
      later();
    }
    expect(acts.done).not.toHaveBeenCalled();
    press(/^Done/);
    expect(acts.done).toHaveBeenCalledTimes(1);
  });
});

describe('a stopwatch', () => {
  it('is started with what starts it, stopped by hand, and keeps its seconds', async () => {
    const now = jest.spyOn(performance, 'now').mockReturnValue(50_000);
    const { acts, item, ...p } = await parts();
    drawn(<StopwatchFace {...p} item={item} step={LOOK} live={undefined} watch={WATCH} />);
    expect(screen.queryByRole('button', { name: 'It stays closed' })).toBeNull();
    press(/^All pumps off/);
    now.mockReturnValue(52_340);
    press(/^It opens/);
    expect(acts.instead).toHaveBeenCalledWith(item, LOOK.choices[0], undefined, 2.34);
    now.mockRestore();
  });

  it('takes an answer for what never came', async () => {
    const { acts, item, ...p } = await parts();
    drawn(<StopwatchFace {...p} item={item} step={LOOK} live={undefined} watch={WATCH} />);
    press(/^All pumps off/);
    press('It stays closed');
    expect(acts.instead.mock.calls[0]?.[1]).toBe(LOOK.choices[1]);
  });
});

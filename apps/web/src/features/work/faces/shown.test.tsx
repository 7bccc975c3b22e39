import { describe, expect, it, jest } from '@jest/globals';
import { act, fireEvent, screen } from '@testing-library/react';
import type { ObserveStep, TimeLimit, TurnStep } from '@firm-needle/core/procedure';
import { toCanonical } from '@firm-needle/core/quantity';
import { done, drawn, openJob } from '../../../testing.tsx';
import { TimeLimits } from '../TimeLimits.tsx';
import type { Actions } from '../useActions.ts';
import { DisplayFace } from './DisplayFace.tsx';
import { SeekFace } from './SeekFace.tsx';

const DISPLAY = {
  channel: 'speed',
  title: 'Tachometer shows',
  unit: 'rpm',
  step: 1,
  lower: 0,
  upper: 6000,
} as const;
const LOOK: ObserveStep = {
  kind: 'observe',
  key: 'speed',
  title: 'Speed',
  say: 'Read the tachometer.',
  choices: [{ code: 'shows', title: 'Tachometer shows' }],
  shows: DISPLAY,
};
const button = (name: string | RegExp): HTMLElement => screen.getByRole('button', { name });
const press = (name: string | RegExp): void => act(() => void fireEvent.click(button(name)));

async function parts() {
  const job = await openJob([]);
  const item = job.offered.now;
  if (!item) throw new Error('nothing offered');
  const acts = { instead: jest.fn(), sought: jest.fn(), renew: jest.fn() };
  return { job, item, acts, actions: acts as unknown as Actions };
}

describe('a figure read off a display', () => {
  it('is typed where nothing shows it, in its own unit and inside its reach', async () => {
    const { acts, item, ...p } = await parts();
    drawn(<DisplayFace {...p} item={item} step={LOOK} live={undefined} display={DISPLAY} />);
    const type = (digits: string): void => {
      for (const d of digits) press(d);
    };
    type('9999');
    press('Keep');
    expect(screen.getByRole('alert').textContent).toContain('0–6000 rpm');
    for (let i = 0; i < 4; i++) press('erase');
    type('1764');
    press('Keep');
    expect(acts.instead).toHaveBeenCalledWith(item, LOOK.choices[0], {
      text: '1764',
      unit: 'rpm',
      value: toCanonical(1764, 'rpm'),
    });
  });
});

describe('a screw sought by parts of a turn', () => {
  const step: TurnStep = {
    kind: 'turn',
    key: 'down',
    title: 'Down',
    say: 'Turn until it runs.',
    adjuster: 'range',
    seek: {
      channel: 'discharge',
      to: 1,
      title: 'Water runs',
      way: -1,
      by: 1 / 16,
      most: 0.25,
      ended: 'Still dry',
    },
  };

  it('counts them, goes no farther than it may, and keeps the sum', async () => {
    const { acts, item, ...p } = await parts();
    if (!step.seek) throw new Error();
    drawn(<SeekFace {...p} item={item} step={step} live={undefined} seek={step.seek} onStop={jest.fn()} />);
    expect(screen.getByRole('status').textContent).toBe('0 turns counter-clockwise');
    for (let i = 0; i < 3; i++) press(/^1\/16 turn counter-clockwise|^⅛|^3\/16/);
    expect(screen.getByRole('status').textContent).toBe('3/16 turn counter-clockwise');
    press(/^Water runs/);
    expect(acts.sought).toHaveBeenCalledWith(item, 'range', -3 / 16, '3/16 turn counter-clockwise', true);
  });
});

describe('what must not last', () => {
  const LIMIT: TimeLimit = {
    key: 'open',
    during: { drain: 'open' },
    seconds: 60,
    title: 'Drain open',
    ends: { fact: 'drain', wanted: 'closed' },
  };
  const begun = Date.UTC(2030, 0, 1, 8, 1);

  const shown = async (after_s: number) => {
    const { acts, item, actions } = await parts();
    const job = await openJob([done('found-drain', { drain: 'open' })]);
    const now = jest.spyOn(Date, 'now').mockReturnValue(begun + after_s * 1000);
    drawn(
      <TimeLimits
        job={{ ...job, family: { ...job.family, timeLimits: [LIMIT] } }}
        live={undefined}
        item={item}
        actions={actions}
      />,
    );
    now.mockRestore();
    return { acts, item };
  };

  it('says its time while it lasts', async () => {
    await shown(42);
    expect(screen.getByRole('timer').textContent).toBe('Drain open 42 s of 60 s');
    expect(screen.queryByRole('button')).toBeNull();
  });

  it('says what ends it once its time is over, and takes that it is ended', async () => {
    const { acts, item } = await shown(75);
    expect(screen.getByRole('alert').textContent).toContain('Close the drain valve.');
    press('Drain closed');
    expect(acts.renew).toHaveBeenCalledWith(
      expect.objectContaining({ fact: 'drain', wanted: 'closed' }),
      item,
    );
  });

  it('is not there while nothing lasts', async () => {
    const { item, actions, job } = await parts();
    drawn(
      <TimeLimits
        job={{ ...job, family: { ...job.family, timeLimits: [LIMIT] } }}
        live={undefined}
        item={item}
        actions={actions}
      />,
    );
    expect(screen.queryByRole('timer')).toBeNull();
  });
});

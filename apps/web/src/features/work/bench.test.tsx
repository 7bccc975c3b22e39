// The simulated installation's own taps, clock and meters, and what eyes see on it.
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { LiveSession } from '../../live/liveSession.ts';
import type { WorkableSource } from '../../live/source.ts';
import { FakeSource } from '../../live/testing.ts';
import { drawn, FOUND, openJob, OPENED, psi } from '../../testing.tsx';
import type { OpenJob } from '../../sync/useJob.ts';
import { Bench, inSight, SPEEDS } from './Bench.tsx';

/** A rig of which a test says what is seen on it; taps stay where they are put. */
class FakeRig extends FakeSource implements WorkableSource {
  positions: Record<string, number> = {};
  readonly speeds: number[] = [];
  readonly asked: string[] = [];
  sees = '';
  set(handle: string, value: number): void {
    this.positions = { ...this.positions, [handle]: value };
  }
  turn(): void {}
  fit(): void {}
  zero(): void {}
  async answer(key: string): Promise<string> {
    this.asked.push(key);
    return this.sees;
  }
  setSpeed(speed: number): void {
    this.speeds.push(speed);
  }
  hold(): void {}
  async advance(): Promise<void> {}
}

const METER = { channel: 'pump', title: 'Motor', shows: ['still', 'running'] } as const;

let rig: FakeRig;
let job: OpenJob;
const onFollow = jest.fn<(follow: boolean) => void>();
async function bench(bodies = OPENED, follow = true) {
  job = await openJob(bodies);
  rig = new FakeRig();
  const live = { session: new LiveSession(rig), rig };
  const { family, view, offered } = job;
  drawn(
    <Bench
      family={{ ...family, rig: { ...family.rig, meters: [METER] } }}
      plan={view.plan}
      live={live}
      rig={rig}
      item={offered.now}
      follow={follow}
      onFollow={onFollow}
    />,
  );
  return live;
}
const seconds = (n: number, running = false): Promise<void> =>
  act(async () => {
    rig.give(n, () => psi(50), running);
    await jest.advanceTimersByTimeAsync(400);
  });

beforeEach(() => {
  onFollow.mockClear();
  jest.useFakeTimers({ doNotFake: ['queueMicrotask', 'setImmediate'] });
});
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});

describe('a bench', () => {
  it('puts each tap in its next place, and after its last in its first', async () => {
    await bench();
    const [handle] = job.family.rig.handles;
    if (!handle) throw new Error('no handle');
    const places = handle.positions.map((p) => p.title.toLowerCase());
    const button = (): HTMLElement => screen.getByRole('button', { name: new RegExp(`^${handle.title}: `) });
    const start = handle.positions.findIndex((p) => p.value === 0);
    for (let i = 1; i <= places.length; i++) {
      fireEvent.click(button());
      const at = handle.positions[(start + i) % places.length];
      expect(rig.positions[handle.id]).toBe(at?.value);
      await seconds(1);
      expect(button().textContent).toBe(`${handle.title}: ${at?.title.toLowerCase()}`);
    }
  });

  it('runs its clock as fast as is chosen, and never at no speed', async () => {
    await bench();
    for (const s of [60, 4]) fireEvent.click(screen.getByRole('button', { name: `${s} times` }));
    // Pressed once more, the same speed stays.
    fireEvent.click(screen.getByRole('button', { name: '4 times' }));
    expect(rig.speeds).toEqual([60, 4]);
    expect(SPEEDS).toContain(1);
  });

  it('shows its meters as they stand', async () => {
    await bench();
    const shown = (): string => document.querySelector('.bench-meter')?.textContent ?? '';
    await seconds(2, false);
    expect(shown()).toBe('Motor: still');
    await seconds(2, true);
    expect(shown()).toBe('Motor: running');
  });

  it('is worked by hand or follows the steps, as one says', async () => {
    await bench(OPENED, false);
    fireEvent.click(screen.getByRole('button', { name: 'hands by me' }));
    expect(onFollow.mock.calls).toEqual([[true]]);
  });
});

describe('what is to be seen', () => {
  it('of a look shows itself once it was watched long enough by the rig’s own clock, and not before', async () => {
    const live = await bench(FOUND);
    const step = job.offered.now?.step;
    expect(step?.kind).toBe('observe');
    const sight = step && inSight(step);
    expect(sight?.seconds).toBeGreaterThan(5);
    rig.sees = sight?.choices[0]?.code ?? '';
    await seconds((sight?.seconds ?? 0) - 2);
    expect(rig.asked).toEqual([]);
    expect(screen.queryByText(/^You would see/)).toBeNull();
    await seconds(3);
    expect(live.session.time).toBeGreaterThan(sight?.seconds ?? Infinity);
    expect(screen.getByText(`You would see: ${sight?.choices[0]?.title.toLowerCase()}`)).toBeTruthy();
  });

  it('is nothing where the rig sees what is no answer to the step', async () => {
    await bench(FOUND);
    rig.sees = 'something else';
    await seconds(1000);
    expect(rig.asked.length).toBeGreaterThan(0);
    expect(screen.queryByText(/^You would see/)).toBeNull();
  });

  it('is never what was asked for at the step before, however late that is answered', async () => {
    const now = (await openJob(FOUND)).offered.now;
    const step = now?.step;
    if (!now || step?.kind !== 'observe') throw new Error('no look');
    const answers: ((code: string) => void)[] = [];
    rig = new FakeRig();
    rig.answer = () => new Promise((r) => answers.push(r));
    const live = { session: new LiveSession(rig), rig };
    const { family, view } = job;
    const at = (item: typeof now) => (
      <Bench
        family={family}
        plan={view.plan}
        live={live}
        rig={rig}
        item={item}
        follow={true}
        onFollow={onFollow}
      />
    );
    const { seconds: _, ...atOnce } = step;
    const { rerender } = render(at({ ...now, step: { ...atOnce, key: 'before' } as typeof step }));
    expect(answers).toHaveLength(1);
    rerender(at({ ...now, step: { ...atOnce, key: 'after' } as typeof step }));
    await act(async () => answers[0]?.(step.choices[0]?.code ?? ''));
    expect(screen.queryByText(/^You would see/)).toBeNull();
    await act(async () => answers[1]?.(step.choices[0]?.code ?? ''));
    expect(screen.getByText(/^You would see/)).toBeTruthy();
  });

  it('beside a reading is what comes in its place before any figure, and of a step without one nothing', async () => {
    const { offered } = await openJob(OPENED);
    const read = offered.now?.step;
    if (read?.kind !== 'read') throw new Error('no reading');
    const before = (read.instead ?? []).filter((c) => c.before);
    expect(inSight(read)?.choices ?? []).toEqual(before);
    const { instead: _, ...plain } = read;
    expect(inSight(plain as typeof read)).toBeUndefined();
    const first = (await openJob([])).offered.now?.step;
    expect(first?.kind).toBe('confirm');
    expect(first && inSight(first)).toBeUndefined();
  });
});

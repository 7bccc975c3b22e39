import { describe, expect, it } from '@jest/globals';
import { LiveSession, type Watch } from './liveSession.ts';
import { FakeSource } from './testing.ts';

const watch = (wanted: Watch['wanted'], key = wanted): Watch => ({
  key,
  slot: 'system',
  wanted,
  window_s: 3,
  resolution: 500,
  noise: 50,
});

describe('a live session', () => {
  it('has nothing to say before it is told what to watch', () => {
    const source = new FakeSource();
    const live = new LiveSession(source);
    source.give(5, () => 3e5);
    expect(live.now()).toBeUndefined();
    expect(live.ring('system').length).toBe(100);
  });

  it('becomes firm, and starts afresh with another watch', () => {
    const source = new FakeSource();
    const live = new LiveSession(source);
    live.watch(watch('firm'));
    source.give(8, () => 3e5);
    expect(live.now()).toMatchObject({
      p: 3e5,
      key: 'firm',
      firmness: { state: 'firm' },
      caught: { how: 'firm' },
    });
    live.watch(watch('low'));
    expect(live.now()?.caught).toBeUndefined();
    expect(live.now()?.key).toBe('low');
  });

  it('goes on with the watch it has when asked for the same again', () => {
    const source = new FakeSource();
    const live = new LiveSession(source);
    live.watch(watch('low'));
    source.give(20, (t) => 4e5 - 5000 * t);
    source.give(10, (t) => 3e5 + 5000 * t, true);
    live.watch(watch('low'));
    expect(live.now()?.caught?.p).toBeCloseTo(3e5, -3);
  });

  it('measures from one turning point to the opposite, never to the same', () => {
    const live = new LiveSession(new FakeSource());
    expect(live.sinceOpposite('low', 100)).toBeUndefined();
    expect(live.sinceOpposite('high', 195)).toBe(95);
    expect(live.sinceOpposite('high', 300)).toBeUndefined();
    expect(live.sinceOpposite('low', 9000)).toBeUndefined();
  });

  it('begins with what was kept of its trace, tells its listeners, and closes its source', () => {
    const source = new FakeSource();
    const live = new LiveSession(source, [
      ['system', -2, 1e5],
      ['system', -1, 1.1e5],
    ]);
    expect(live.ring('system').at(0)).toEqual({ t: -2, p: 1e5 });
    let told = 0;
    const stop = live.subscribe(() => told++);
    source.give(1, () => 1e5);
    stop();
    source.give(1, () => 1e5);
    expect(told).toBe(1);
    live.close();
    expect(source.closed).toBe(true);
  });
});

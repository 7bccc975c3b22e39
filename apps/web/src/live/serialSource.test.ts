/** @jest-environment node */
import { describe, expect, it } from '@jest/globals';
import { LiveSession } from './liveSession.ts';
import { SerialSource, type BytePort } from './serialSource.ts';
import type { LiveBlock } from './source.ts';

const PSI = 6894.757293168361;

/** A cable that a test holds the other end of. */
class Cable implements BytePort {
  closed = false;
  private out: ReadableStreamDefaultController<Uint8Array> | undefined;
  readonly readable = new ReadableStream<Uint8Array>({ start: (c) => void (this.out = c) });

  async say(text: string): Promise<void> {
    this.out?.enqueue(new TextEncoder().encode(text));
    await new Promise((r) => setTimeout(r, 5));
  }

  async pull(): Promise<void> {
    this.out?.error(new Error('pulled out'));
    await new Promise((r) => setTimeout(r, 5));
  }

  close(): Promise<void> {
    this.closed = true;
    return Promise.resolve();
  }
}

const listening = (timed = false) => {
  const cable = new Cable();
  let now = 100;
  const source = new SerialSource(
    'serial gauge',
    cable,
    'system',
    { unit: 'psi', ambient: 101325, timed },
    () => now,
  );
  const blocks: LiveBlock[] = [];
  source.onBlock((b) => blocks.push(b));
  return { cable, source, blocks, at: (t: number) => (now = t) };
};

describe('a serial gauge on its cable', () => {
  it('gives what its lines say, when they arrive, however they are cut', async () => {
    const { cable, blocks, at } = listening();
    await cable.say('43.');
    expect(blocks).toHaveLength(0);
    at(101);
    await cable.say('2 psi\r\n43.4 psi\r\n');
    expect([...(blocks[0]?.gauges['system'] ?? [])].map((p) => p / PSI)).toEqual([
      expect.closeTo(43.2, 9),
      expect.closeTo(43.4, 9),
    ]);
    // Two lines at one moment still follow each other.
    expect([...(blocks[0]?.t ?? [])]).toEqual([101, expect.closeTo(101.001, 9)]);
  });

  it('takes the times of a gauge that sends them', async () => {
    const { cable, blocks } = listening(true);
    await cable.say('12.40 43.2 psi\r\n12.50 43.3 psi\r\n');
    expect([...(blocks[0]?.t ?? [])]).toEqual([12.4, 12.5]);
  });

  it('counts what is no reading and goes on', async () => {
    const { cable, source, blocks } = listening();
    await cable.say('OVER\r\n43.2\r\n');
    expect(source.skipped).toBe(1);
    expect(blocks).toHaveLength(1);
  });

  it('ends quietly when the cable is pulled, with what was read kept', async () => {
    const { cable, source } = listening();
    const session = new LiveSession(source);
    session.watch({ key: 'k', slot: 'system', wanted: 'firm', window_s: 3, resolution: 500, noise: 50 });
    await cable.say('43.2 psi\r\n');
    await cable.pull();
    expect((session.now()?.p ?? 0) / PSI).toBeCloseTo(43.2, 9);
    expect(session.gives('system')).toBe(true);
    expect(session.gives('air')).toBe(false);
  });

  it('lets go of its port when it is closed', async () => {
    const { cable, source } = listening();
    source.close();
    await new Promise((r) => setTimeout(r, 5));
    expect(cable.closed).toBe(true);
  });
});

describe('a live trace', () => {
  it('is looked through as it fills: cut-in and cut-out, with samples about them', async () => {
    const { cable, source } = listening(true);
    const session = new LiveSession(source, [], 'cycles');
    session.watch({ key: 'k', slot: 'system', wanted: 'low', window_s: 3, resolution: 500, noise: 50 });
    let text = '';
    for (let i = 0; i < 3000; i++) {
      const x = (i / 10) % 100;
      const p = x < 60 ? 55 - x / 3 : 35 + (x - 60) / 2;
      text += `${(i / 10).toFixed(1)} ${p.toFixed(2)} psi\n`;
    }
    await cable.say(text);
    const events = session.events();
    const cutIns = events.filter((e) => e.kind === 'cutIn');
    expect(cutIns.map((e) => e.p / PSI)).toEqual([
      expect.closeTo(35, 1),
      expect.closeTo(35, 1),
      expect.closeTo(35, 1),
    ]);
    expect(events.some((e) => e.kind === 'cutOut')).toBe(true);
    const about = session.excerpt('system', cutIns[1]?.t ?? 0, 15, 60);
    expect(about.length).toBeGreaterThan(30);
    expect(about.length).toBeLessThanOrEqual(60);
    expect(Math.min(...about.map(([, p]) => p)) / PSI).toBeCloseTo(35, 0);
  });
});

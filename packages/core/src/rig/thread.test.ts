import { describe, expect, it } from '@jest/globals';
import { BaseRig, type RigOptions, type RigState, type Thread } from './index.js';

interface State extends RigState {
  at: number;
}

/** A screw and nothing else. */
class ScrewRig extends BaseRig<State> {
  protected s: State;
  readonly channels = {};
  constructor(
    options: Partial<RigOptions>,
    private readonly thread: Thread,
  ) {
    super({ seed: 1, ambient: 101325, faults: [], ...options } as RigOptions, 1);
    this.s = this.begin({ at: 0, handles: {} });
  }
  step(dt: number): void {
    this.s.time += dt;
  }
  gauge(): number {
    return this.s.at;
  }
  turn(adjuster: string, amount: number): void {
    this.s.at += this.carried(adjuster, amount, this.thread);
  }
  answer(): string {
    return '';
  }
  truth(): Readonly<Record<string, number>> {
    return { at: this.s.at, size: this.size };
  }
}
const screw = (thread: Partial<Thread> = {}): ScrewRig =>
  new ScrewRig({}, { play: 0.1, travel: 3, ...thread });

describe('a screw as metal', () => {
  it('bites at once the way it was last turned, and the other way once its play is taken up', () => {
    const rig = screw();
    rig.turn('nut', 0.5);
    expect(rig.gauge()).toBeCloseTo(0.5, 12);
    rig.turn('nut', -0.06);
    expect(rig.gauge()).toBeCloseTo(0.5, 12);
    rig.turn('nut', -0.14);
    expect(rig.gauge()).toBeCloseTo(0.4, 12);
    // And up again: the play is on the other side now.
    rig.turn('nut', 0.1);
    expect(rig.gauge()).toBeCloseTo(0.4, 12);
    rig.turn('nut', 0.2);
    expect(rig.gauge()).toBeCloseTo(0.6, 12);
  });

  it('comes back to where it was found only as near as its play lets it', () => {
    const rig = screw();
    rig.turn('nut', 1);
    rig.turn('nut', -1);
    expect(rig.gauge()).toBeCloseTo(0.1, 12);
  });

  it('ends, and does not go farther however it is turned', () => {
    const rig = screw();
    rig.turn('nut', 2.5);
    rig.turn('nut', 2);
    expect(rig.gauge()).toBeCloseTo(3, 12);
    rig.turn('nut', -7);
    expect(rig.gauge()).toBeCloseTo(-2.9, 12);
  });

  it('keeps what it knows of each screw apart, and outlasts being kept and restored', () => {
    const rig = screw();
    rig.turn('a', 1);
    rig.turn('b', -1);
    const kept = rig.snapshot();
    const other = screw();
    other.restore(JSON.parse(JSON.stringify(kept)));
    for (const r of [rig, other]) {
      r.turn('a', -0.05);
      r.turn('b', -0.5);
    }
    expect(other.gauge()).toBeCloseTo(rig.gauge(), 12);
    expect(rig.gauge()).toBeCloseTo(1 - 0.9 - 0.5, 12);
  });

  it('is as large in its faults as it is told', () => {
    expect(screw().truth()['size']).toBe(1);
    expect(new ScrewRig({ size: 1.5 }, { play: 0, travel: 1 }).truth()['size']).toBe(1.5);
  });
});

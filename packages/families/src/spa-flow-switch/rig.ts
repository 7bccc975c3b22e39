import { BaseRig, rigOf, type RigState, type RigOptions } from '@firm-needle/core/rig';
import { parts } from './parts.js';

const FAULTS = {
  'dirty-filter': 'Dirty filter',
  'shut-valve': 'Valve nearly shut',
  'air-lock': 'Air lock',
  'stuck-closed': 'Stuck closed',
  'drifted-high': 'Drifted: opens while running',
  'drifted-low': 'Drifted: closed while off',
  'slow-decay': 'Pressure decays slowly',
};

/** Pressure of the water standing above the heater, Pa. */
const STANDING = 600;
const RISE_S = 0.8;
/** How uneven moving water is, with air in the pump and without, of what it adds; and standing water, Pa. */
const SURGES = 0.2;
const EVEN = 0.006;
const STILL = 6;

interface State extends RigState {
  /** Pressure in the heater, Pa. */
  p: number;
  /** What the switch feels of it at this moment, Pa. */
  felt: number;
  wheel: number;
  closed: boolean;
}

/** A heater with its pump, and a switch whose spring a wheel loads: closes above one pressure, opens below a lower one. */
class SpaRig extends BaseRig<State> {
  private readonly low: number;
  private readonly high: number;
  private readonly decay: number;
  private readonly perClick: number;
  private readonly play: number;
  private readonly asFound: number;
  protected s: State;

  constructor(options: RigOptions) {
    super(options, 0x1);
    const { random } = this;
    const { own } = this;
    const between = (r: typeof random, a: number, b: number): number => a + (b - a) * r.next();
    const has = (fault: keyof typeof FAULTS): boolean => this.has(fault);
    this.low = between(random, 6500, 9000);
    this.high = this.low * between(random, 2.2, 3);
    this.decay = has('slow-decay') ? between(random, 9, 12) * this.size : between(random, 0.5, 0.8);
    this.perClick = between(own, 220, 300);
    this.play = between(own, 500, 800);
    // Closing pressure as found, by what drifted.
    this.asFound = has('drifted-high')
      ? this.low + between(random, 2, 8) * this.size * this.perClick
      : has('drifted-low')
        ? STANDING + this.play - between(random, 2, 6) * this.size * this.perClick
        : (this.low + STANDING + this.play) / 2;
    this.s = this.begin({
      p: STANDING,
      felt: STANDING,
      wheel: 0,
      closed: has('stuck-closed'),
      handles: { power: 1, pump: 0, filter: 0, valves: 0, prime: 0 },
    });
  }

  get channels(): Readonly<Record<string, number>> {
    const running = this.s.handles['power'] === 1 && (this.s.handles['pump'] ?? 0) > 0;
    return { contact: this.s.closed ? 1 : 0, pump: running ? 1 : 0 };
  }

  step(dt: number): void {
    const { s } = this;
    s.time += dt;
    const target = this.target();
    s.p += ((target - s.p) * dt) / ((target > s.p ? RISE_S : this.decay) + dt);
    // Moving water is never quite even; with air in the pump it surges.
    const running = target > STANDING;
    const uneven = running ? (this.throttled() === 'air' ? SURGES : EVEN) * (target - STANDING) : STILL;
    s.felt = s.p + uneven * this.noise.normal();
    if (this.has('stuck-closed')) return;
    const closes = this.asFound + s.wheel * this.perClick;
    if (!s.closed && s.felt >= closes) s.closed = true;
    else if (s.closed && s.felt <= closes - this.play) s.closed = false;
  }

  gauge(): number {
    return this.s.p;
  }

  turn(adjuster: string, amount: number): void {
    if (adjuster === 'wheel') this.s.wheel += amount;
  }

  answer(stepKey: string): string {
    const contact = this.s.closed ? 'closed' : 'open';
    switch (stepKey) {
      case 'symptom':
        return this.has('stuck-closed') || this.has('drifted-low')
          ? 'stopped'
          : this.sound
            ? 'nothing'
            : this.has('drifted-high')
              ? 'never'
              : 'running';
      case 'before':
      case 'before-wheel':
        return 'good';
      case 'message':
        return 'clears';
      case 'cause':
        return this.throttled() ?? 'none';
      case 'heats':
        return this.has('stuck-closed') ? 'not' : 'runs';
      default:
        return contact;
    }
  }

  truth(): Readonly<Record<string, number>> {
    const edge = (p: number): number => (p - this.asFound) / this.perClick;
    return {
      closes: edge(this.flowing(1)),
      opens: edge(STANDING + this.play),
      wheel: this.s.wheel,
      delay: this.decay,
    };
  }

  /** What holds the flow back, where something still does. */
  private throttled(): 'filter' | 'valve' | 'air' | undefined {
    const { handles } = this.s;
    if (this.has('dirty-filter') && handles['filter'] !== 1) return 'filter';
    if (this.has('shut-valve') && handles['valves'] !== 1) return 'valve';
    if (this.has('air-lock') && handles['prime'] !== 1) return 'air';
    return undefined;
  }

  private flowing(speed: number): number {
    const full = speed === 2 ? this.high : this.low;
    const part = { filter: 0.22, valve: 0.2, air: 0.1 };
    const held = this.throttled();
    return held ? STANDING + (full - STANDING) * Math.max(0.04, 1 - (1 - part[held]) * this.size) : full;
  }

  private target(): number {
    const { power, pump } = this.s.handles;
    return power === 1 && (pump ?? 0) > 0 ? this.flowing(pump ?? 0) : STANDING;
  }
}

export const spaFlowSwitchRig = rigOf(parts, FAULTS, SpaRig, {
  drives: { channel: 'pump', stop: 'Switch the pump off' },
  meters: [{ channel: 'contact', title: 'Meter', shows: ['open', 'continuity'] }],
  scenarios: [],
  noise: () => ({}),
});

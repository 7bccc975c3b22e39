import {
  BaseRig,
  rigOf,
  hand,
  type RigState,
  type RigOptions,
  spreadFactor,
  type Thread,
} from '@firm-needle/core/rig';
import { isElectric, MARGIN, parts, psi, USUAL_PER_TURN } from './parts.js';

const FAULTS = {
  'small-margin': 'Margin too small',
  'set-low': 'Set below the system',
  'set-high': 'Set above the rating',
  'seat-debris': 'Debris in the seat',
  'wrong-spring': 'Wrong spring',
  'blocked-sensing': 'Blocked sensing line',
  'spring-end': 'Pilot at its end',
  overspeed: 'Overspeed governor',
  'gauge-on-cover': 'Gauge on the cover',
};

const NOISE = psi(0.15);
/** A pump falls by this part of its net churn at its rated flow, with the square of the flow. */
const DROOP = 0.35;
/** Flows as parts of the rated one: the test header as it is opened, the whole relief, a weep. */
const HEADER = 0.8;
const RELIEF = 1.4;
const WEEP = 0.006;
/** Flow that is seen at the outlet. */
const SEEN = 0.004;
const SPEED_S = 1.5;
/** Opens fast, closes slowly: part of its travel a second, at most and for a psi. */
const OPENS = { most: 1, perPsi: 0.1 } as const;
const CLOSES = { most: 0.12, perPsi: 0.1 } as const;
/** Cover pressure as a part of the system's while it is open. */
const COVER = 0.55;

interface State extends RigState {
  turned: number;
  raised: number;
  speed: number;
  travel: number;
  pressure: number;
  highest: number;
}

interface Build {
  readonly net: number;
  readonly suction: number;
  readonly governed: number;
  readonly fast: number;
  readonly set: number;
  readonly perTurn: number;
  readonly blowdown: number;
  /** The pilot goes no lower than this, Pa. */
  readonly least: number;
  readonly thread: Thread;
}

/** A pump curve with speed, a test header, a relief whose pilot holds the pressure upstream, and its cover. */
class ReliefRig extends BaseRig<State> {
  private readonly build: Build;
  protected override readonly zeroErrors: Readonly<Record<string, number>>;
  protected s: State;

  constructor(options: RigOptions) {
    super(options, 0x3d4d51cb);
    const { plan } = options;
    const { random } = this;
    const { own } = this;
    const has = (fault: keyof typeof FAULTS): boolean => this.has(fault);
    const plate = (id: string, otherwise: number): number => plan.plate[id]?.value ?? otherwise;
    const most = plate('suctionMost', 0);
    const least = Math.min(most, plate('suctionLeast', Math.max(0, most - psi(15))));
    const suction = least + (most - least) * (0.2 + 0.6 * random.next());
    const net = plate('churn', psi(120)) * (0.99 + 0.02 * random.next());
    const normal = net + most;
    const off = psi(0.5) * Math.max(-1, Math.min(1, random.normal()));
    const rating = plate('rating', psi(175));
    const set = has('small-margin')
      ? normal + MARGIN - (MARGIN - psi(3 + 4 * random.next())) * this.size
      : has('set-low')
        ? net + suction - psi(3 + 4 * random.next()) * this.size
        : has('set-high')
          ? rating + psi(4 + 8 * random.next()) * this.size
          : normal + MARGIN + off;
    const table = plate('perTurn', USUAL_PER_TURN) * spreadFactor(own, 0.05);
    this.build = {
      net,
      suction,
      governed: plate('speed', 1760 / 60),
      fast:
        has('overspeed') && !isElectric(plan)
          ? 1 + (0.07 + 0.04 * random.next()) * this.size
          : 1 + 0.004 * random.normal(),
      set,
      perTurn: table * (has('wrong-spring') ? (random.next() < 0.5 ? 0.5 : 1.7) : 1),
      blowdown: psi(1.5 + 1.5 * random.next()),
      thread: { play: 0.015 * own.next(), travel: 12 },
      least: has('spring-end') ? net + suction + psi(3 + 3 * random.next()) : 0,
    };
    this.zeroErrors = { system: psi(0.3) * random.normal(), suction: psi(0.12) * random.normal() };
    this.s = this.begin({
      turned: 0,
      raised: 0,
      speed: 0,
      travel: 0,
      pressure: suction,
      highest: 0,
      handles: { gauges: 0, pump: 0, header: 0, at: has('gauge-on-cover') ? 0 : 1, sensing: 0 },
    });
  }

  get channels(): Readonly<Record<string, number>> {
    return {
      pump: this.s.speed > 0.5 ? 1 : 0,
      discharge: this.relieved() > SEEN ? 1 : 0,
      speed: this.s.speed * this.build.governed,
    };
  }

  step(dt: number): void {
    const { s, build: b } = this;
    s.time += dt;
    const target = s.handles['pump'] === 1 ? b.fast + s.raised : 0;
    s.speed += ((target - s.speed) * dt) / (SPEED_S + dt);
    const flow = HEADER * (s.handles['header'] ?? 0) + this.relieved();
    s.pressure = Math.max(0, b.suction + b.net * s.speed ** 2 * (1 - DROOP * flow * flow));
    s.highest = Math.max(s.highest, s.pressure);
    const over = this.sensed() - this.opens() + (s.travel > 0 ? b.blowdown : 0);
    const { most, perPsi } = over > 0 ? OPENS : CLOSES;
    const rate = Math.max(-most, Math.min(most, (perPsi * over) / psi(1)));
    s.travel = Math.max(0, Math.min(1, s.travel + rate * dt));
  }

  gauge(slot: string): number {
    const p = this.s.handles['gauges'] !== 1 ? 0 : slot === 'suction' ? this.build.suction : this.shown();
    return this.needle(slot, p, NOISE);
  }

  override set(handle: string, value: number): void {
    super.set(handle, value);
    if (handle === 'speed') this.s.raised = value;
  }

  turn(adjuster: string, amount: number): void {
    if (adjuster === 'pilot') this.s.turned += this.carried('pilot', amount, this.build.thread);
    else this.s.raised += amount;
  }

  answer(stepKey: string): string {
    const { handles } = this.s;
    if (stepKey.startsWith('dry-')) return this.relieved() > SEEN ? 'runs' : 'dry';
    switch (stepKey) {
      case 'where':
        return 'upstream';
      case 'spring':
        return this.has('wrong-spring') ? 'other' : 'listed';
      case 'trace':
        return handles['at'] === 1 ? 'upstream' : 'cover';
      case 'why-dry':
        return this.blocked() ? 'sensing' : this.has('spring-end') ? 'end' : 'none';
      default:
        return '';
    }
  }

  truth(): Readonly<Record<string, number>> {
    const { suction, blowdown, perTurn } = this.build;
    // What the pump makes at the speed that it runs at.
    const net = this.build.net * this.build.fast ** 2;
    const opening = this.opens();
    return { opening, reseat: opening - blowdown, net, suction, perTurn, highest: this.s.highest };
  }

  /** Where the pilot opens it now, Pa. */
  private opens(): number {
    return Math.max(this.build.least, this.build.set + this.build.perTurn * this.s.turned);
  }

  private blocked(): boolean {
    return this.has('blocked-sensing') && this.s.handles['sensing'] !== 1;
  }

  private sensed(): number {
    return this.blocked() ? 0 : this.s.pressure;
  }

  /** Flow out of the relief, of the rated one. */
  private relieved(): number {
    const { travel, pressure } = this.s;
    const root = Math.sqrt(Math.max(0, pressure) / (this.build.net + this.build.suction));
    return root * (RELIEF * travel + (this.has('seat-debris') ? WEEP : 0));
  }

  /** What stands at the point that the system gauge is on. */
  private shown(): number {
    const { pressure, travel, handles } = this.s;
    if (handles['at'] === 1 || travel === 0) return pressure;
    return pressure * (COVER - 0.2 * travel);
  }
}
/** Speed over the governed one, second by second: up by a quarter of a per cent at a time, and down. */
const UP = Array.from({ length: 41 }, (_, i) => 0.0025 * i);
const RAMP = [...UP, ...[...UP].reverse()];

export const fireReliefRig = rigOf(parts, FAULTS, ReliefRig, {
  drives: { channel: 'pump', stop: 'Stop the pump' },
  meters: [{ channel: 'discharge', title: 'Relief outlet', shows: ['Dry', 'Running'] }],
  scenarios: [
    {
      id: 'overspeeds',
      title: 'At churn, run up slowly past its opening and down again, five times',
      slot: 'system',
      hands: [
        hand(0, 'gauges', 1),
        hand(0, 'pump', 1),
        ...Array.from({ length: 5 }, (_, k) =>
          RAMP.map((part, i) => hand(30 + 90 * k + i, 'speed', part)),
        ).flat(),
      ],
    },
  ],
  noise: () => ({ system: NOISE, suction: NOISE }),
});

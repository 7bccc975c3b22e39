import { BaseRig, rigOf, hand, type RigState, type RigOptions } from '@firm-needle/core/rig';
import { CHARGE_PART, parts, psi, SWITCH_RULE_UNDER, USUAL_DROP } from './parts.js';
import { held, pressureWith, waterAt, type Vessel } from '../shared/vessel.js';

const FAULTS = {
  'set-low': 'Set point changed',
  'low-precharge': 'Waterlogged tank',
  'charged-as-switch': 'Charged by the switch’s rule',
  'ruptured-bladder': 'Ruptured bladder',
  'sensor-offset': 'Sensor off',
  leak: 'Leak',
  'air-in-line': 'Air in the sensor line',
  'high-gain': 'Gain too high',
  'low-well': 'Low well',
};

const NOISE = { system: psi(0.05), air: psi(0.03) } as const;
/** The sensor's own lag, and with air in its line, s. */
const SENSOR_S = 0.05;
const AIRY_S = 4;
/** The pump follows its speed with this lag, s. */
const PUMP_S = 0.3;
/** Crossover of the loop as it should be, rad/s, and the part of its gain that integrates, 1/s. */
const CROSSOVER = 7.5;
const INTEGRAL = 0.25;
const RAMP = 0.8;
/** Flow below which the drive goes to sleep, of the most it can give, and for how long, s. */
const SLEEP_FLOW = 0.02;
const SLEEP_AFTER_S = 8;
const LEAK = 0.045;

interface State extends RigState {
  water: number;
  speed: number;
  command: number;
  sum: number;
  sensed: number;
  idle_s: number;
  asleep: 0 | 1;
  precharge: number;
  set: number;
  lifted: boolean;
  highest: number;
}

interface Build {
  readonly ambient: number;
  readonly volume: number;
  /** Most flow at the set point, m³/s; part of full speed that only holds the set point. */
  readonly most: number;
  readonly shutOff: number;
  /** Part of its flow that the well still gives. */
  readonly yields: number;
  readonly lag: number;
  readonly offset: number;
  readonly drop: number;
  readonly gain: number;
  readonly planned: number;
  readonly relief: number;
  readonly bladder: boolean;
}

/** A pump whose speed a PI loop holds to one pressure, a small bladder tank, taps, and the drive's own sensor. */
class DriveRig extends BaseRig<State> {
  private readonly build: Build;
  protected override readonly zeroErrors: Readonly<Record<string, number>>;
  protected s: State;

  constructor(options: RigOptions) {
    super(options, 0x2c1b3c6d);
    const { plan, ambient } = options;
    const { random } = this;
    const has = (fault: keyof typeof FAULTS): boolean => this.has(fault);
    const planned = plan.values['setPoint'] ?? psi(60);
    const charge = plan.values['precharge'] ?? CHARGE_PART * planned;
    const volume = plan.plate['tankVolume']?.value ?? 0.008;
    const drop = plan.plate['drop']?.value ?? USUAL_DROP;
    // A pump that fits its tank: the whole tank in some twenty seconds.
    const most = volume / 20;
    const burst = has('ruptured-bladder');
    // What a change of flow does to a tank that is charged as it should be.
    const stiffness = (planned + ambient) ** 2 / ((charge + ambient) * volume);
    const side = random.next() < 0.5 ? -1 : 1;
    this.build = {
      ambient,
      volume: volume * (burst ? 0.15 : 1),
      most,
      shutOff: planned * (1.7 + 0.2 * random.next()),
      yields: has('low-well') ? 1 - this.size * (0.46 + 0.04 * random.next()) : 1,
      lag: has('air-in-line') ? AIRY_S : SENSOR_S,
      offset: has('sensor-offset')
        ? side * psi(4 + 2 * random.next()) * this.size
        : psi(0.25) * random.normal(),
      drop,
      gain: (CROSSOVER / (stiffness * most)) * (has('high-gain') ? 7 : 1),
      planned,
      relief: plan.plate['relief']?.value ?? planned * 1.4,
      bladder: !burst,
    };
    this.zeroErrors = { system: psi(0.12) * random.normal(), air: psi(0.08) * random.normal() };
    const off = psi(Math.max(-0.5, Math.min(0.5, 0.25 * random.normal())));
    const precharge = burst
      ? 0
      : has('low-precharge')
        ? charge * Math.max(0.02, 1 - this.size * (0.92 + 0.05 * random.next()))
        : has('charged-as-switch')
          ? planned - SWITCH_RULE_UNDER - (random.next() < 0.5 ? drop : 0) + off
          : charge + off;
    this.s = this.begin({
      water: 0,
      speed: 0,
      command: 0,
      sum: 0,
      sensed: planned,
      idle_s: 0,
      asleep: 1,
      precharge,
      set: planned - (has('set-low') ? psi(5 + 3 * random.next()) * this.size : 0),
      lifted: false,
      highest: 0,
      handles: { power: 1, tap: 0, house: 1, drain: 0, gauge: 0, airGauge: 0, bleed: 0 },
    });
    this.s.water = waterAt(this.tank(), Math.max(this.s.set - psi(1), precharge + psi(0.5)));
    this.s.sensed = this.pressure() + this.build.offset;
  }

  get channels(): Readonly<Record<string, number>> {
    return {
      pump: this.s.speed > 0.01 ? 1 : 0,
      display: this.s.sensed,
      programmed: this.s.set,
      relief: this.s.lifted ? 1 : 0,
      asleep: this.s.asleep,
    };
  }

  step(dt: number): void {
    const { s, build: b } = this;
    const { power, house, tap, drain, bleed } = s.handles as Record<string, number>;
    s.time += dt;
    const p = this.pressure();
    const lag = this.has('air-in-line') && bleed !== 1 ? b.lag : SENSOR_S;
    s.sensed += ((p + b.offset - s.sensed) * dt) / (lag + dt);
    if (power !== 1) {
      s.command = 0;
      s.sum = 0;
      s.asleep = 0;
      s.idle_s = 0;
    } else if (s.asleep === 1) {
      s.command = 0;
      if (s.sensed < s.set - b.drop) {
        s.asleep = 0;
        s.idle_s = 0;
        s.sum = this.holding(s.set);
      }
    } else this.govern(dt);
    s.speed += ((s.command - s.speed) * dt) / (PUMP_S + dt);
    const root = Math.sqrt(Math.max(0, p) / b.planned);
    let flow = this.given(p);
    const idle = flow < SLEEP_FLOW * b.most;
    s.idle_s =
      idle && power === 1 && s.asleep === 0 && Math.abs(s.sensed - s.set) < psi(2) ? s.idle_s + dt : 0;
    if (s.idle_s > SLEEP_AFTER_S) s.asleep = 1;
    flow -= (house ?? 0) * (tap ?? 0) * b.most * 0.6 * root;
    flow -= (drain ?? 0) * b.most * 1.2 * root;
    if (this.has('leak')) flow -= LEAK * b.most * root;
    if (p > b.relief) s.lifted = true;
    else if (p < 0.9 * b.relief) s.lifted = false;
    if (s.lifted) flow -= b.most * 8 * Math.max(0, p / b.relief - 0.88);
    s.water = held(this.tank(), s.water + flow * dt);
    s.highest = Math.max(s.highest, p);
  }

  gauge(slot: string): number {
    const vented = this.s.handles[slot === 'air' ? 'airGauge' : 'gauge'] !== 1;
    const p = vented ? 0 : slot === 'air' ? this.airPressure() : this.pressure();
    return this.needle(slot, p, slot === 'air' ? NOISE.air : NOISE.system);
  }

  turn(adjuster: string, amount: number): void {
    if (adjuster === 'keys') this.s.set += amount;
    else if (adjuster === 'air')
      this.s.precharge = Math.max(0, this.s.precharge + amount * (1 + 0.02 * this.noise.normal()));
  }

  answer(stepKey: string): string {
    switch (stepKey.replace(/^(found|left|end)-/, '')) {
      case 'held':
      case 'full':
        return 'hunts';
      case 'sleep':
        return this.s.asleep === 1 ? 'sleeps' : 'runs';
      case 'at-most':
        return this.s.command > 0.98 ? 'yes' : 'no';
      case 'why-hunts':
        return this.has('air-in-line') && this.s.handles['bleed'] !== 1 ? 'air' : 'none';
      case 'precharge':
        return this.build.bladder ? 'air' : 'water';
      case 'own':
        return Math.abs(this.s.sensed - this.s.set) > psi(1) ? 'differs' : 'on';
      case 'dry-run':
        return 'on';
      case 'why-runs':
        return 'leak';
      case 'wake':
        return 'no-wake';
      default:
        return 'tight';
    }
  }

  truth(): Readonly<Record<string, number>> {
    const { set, precharge, highest } = this.s;
    const held = set - this.build.offset;
    return { setPoint: held, precharge, highest, wake: held - this.build.drop, offset: this.build.offset };
  }

  private tank(): Vessel {
    return { volume: this.build.volume, ambient: this.build.ambient, precharge: this.s.precharge };
  }

  private pressure(): number {
    return pressureWith(this.tank(), this.s.water);
  }

  private airPressure(): number {
    return this.s.water > 0 ? this.pressure() : this.s.precharge;
  }

  /** Part of full speed at which a pressure is held and nothing flows. */
  private holding(p: number): number {
    return Math.sqrt(Math.max(0, p) / this.build.shutOff);
  }

  /** What the pump gives at its speed against a pressure, m³/s: none below the speed that only holds it. */
  private given(p: number): number {
    const least = this.holding(p);
    const room = Math.max(0.05, 1 - this.holding(this.build.planned));
    return this.s.speed <= least ? 0 : (this.build.yields * this.build.most * (this.s.speed - least)) / room;
  }

  private govern(dt: number): void {
    const { s, build: b } = this;
    const room = Math.max(0.05, 1 - this.holding(b.planned));
    const error = s.set - s.sensed;
    const gain = b.gain * room;
    const wanted = s.sum + gain * error;
    // The integral stands still while the speed is at an end.
    if ((wanted < 1 || error < 0) && (wanted > 0 || error > 0)) s.sum += gain * INTEGRAL * error * dt;
    s.sum = Math.max(0, Math.min(1, s.sum));
    const target = Math.max(0, Math.min(1, wanted));
    s.command += Math.max(-RAMP * dt, Math.min(RAMP * dt, target - s.command));
  }
}

export const wellDriveRig = rigOf(parts, FAULTS, DriveRig, {
  drives: { channel: 'pump', stop: 'Stop the drive' },
  meters: [{ channel: 'asleep', title: 'Drive', shows: ['Awake', 'Asleep'] }],
  scenarios: [
    {
      id: 'sleeps',
      title: 'A trickle, nothing, and again: it wakes and goes to sleep',
      slot: 'system',
      hands: [
        hand(0, 'gauge', 1),
        ...Array.from({ length: 8 }, (_, i) => [
          hand(120 * i, 'tap', 0.1),
          hand(120 * i + 50, 'tap', 0),
        ]).flat(),
      ],
    },
    {
      id: 'draws',
      title: 'A trickle, full draw, nothing, and again',
      slot: 'system',
      hands: [
        hand(0, 'gauge', 1),
        ...Array.from({ length: 6 }, (_, i) => [
          hand(180 * i, 'tap', 0.1),
          hand(180 * i + 60, 'tap', 1),
          hand(180 * i + 120, 'tap', 0),
        ]).flat(),
      ],
    },
  ],
  noise: () => NOISE,
});

import {
  BaseRig,
  rigOf,
  spreadFactor,
  type RigOptions,
  type RigState,
  type Thread,
} from '@firm-needle/core/rig';
import { inches, parts, read } from './parts.js';

const FAULTS = {
  'supply-high': 'Supply regulator set high',
  'pipe-small': 'Pipe too small',
  'supply-seat': 'Supply regulator does not shut',
  seat: 'Appliance regulator does not shut',
  vent: 'Vent of the regulator blocked',
  'manifold-off': 'Manifold set elsewhere',
  'low-dial': 'Low-gas dial off',
  'high-dial': 'High-gas dial off',
  'air-dial': 'Combustion air dial off',
  'main-dial': 'Main air dial off',
  'fan-dirty': 'Fan or filter dirty',
  'welded-low': 'Low-gas switch welded',
  'welded-high': 'High-gas switch welded',
  'air-stuck': 'Combustion air switch stuck made',
  'loose-dial': 'Low-gas dial loose',
  water: 'Water in the tubing',
  'port-leaks': 'A joint bubbles',
  'gas-about': 'Gas leaks in the room',
  'burns-badly': 'Burns badly',
  'zero-off': 'Gas manometer zero off',
};

const NOISE = { gas: inches(0.02), air: inches(0.012) };
/** What a hand lets down, of what stands there and at least, a second; what a bulb raises. */
const BLEEDS = 0.02;
const BLEEDS_LEAST = inches(0.03);
const BULB = inches(0.16);
const LETS = 0.05;
const SAFEGUARD_S = 3;
const PULSE_HZ = 7;

interface State extends RigState {
  /** Gauge, Pa: at the appliance, after its regulator, and in the air tube. */
  supply: number;
  after: number;
  tube: number;
  /** What the supply and the appliance regulator are set to, Pa. */
  supplySet: number;
  afterSet: number;
  /** Where the switches really trip, Pa. */
  low: number;
  high: number;
  air: number;
  main: number;
  /** Where each trips this once. */
  lowNow: number;
  highNow: number;
  airNow: number;
  mainNow: number;
  /** Where the dials stand. */
  dials: Record<string, number>;
  latched: 0 | 1;
  contacts: [number, number, number, number];
  /** What was to be brought to its point stood open from the start. */
  barred: 0 | 1;
  /** Which switch was watched last, for what it trips at is drawn anew. */
  watched: number;
  out: number;
  metered: number;
  lastTube: number;
}

/** A supply regulator, a pipe, an appliance regulator, a burner that takes by the root of its pressure, a fan, four switches. */
class GasRig extends BaseRig<State> {
  private readonly droop: number;
  private readonly rise: number;
  private readonly pipe: number;
  private readonly afterDroop: number;
  private readonly afterRise: number;
  private readonly lag: number;
  private readonly fan: number;
  private readonly mainFan: number;
  private readonly nominal: number;
  private readonly nominalSupply: number;
  private readonly gains: Readonly<Record<string, number>>;
  private readonly creeps: number;
  private readonly waterHead: number;
  private readonly turnS: number;
  private readonly lowBefore: boolean;
  private readonly highBefore: boolean;
  private readonly behind: boolean;
  private readonly bare: boolean;
  private readonly thread: Thread;
  protected override readonly knocked: Readonly<Record<string, number>>;
  protected s: State;

  constructor(options: RigOptions) {
    super(options, 0x1b873593);
    const { plan } = options;
    const { random, own, size } = this;
    const { v, choice } = read(plan);
    const has = (fault: keyof typeof FAULTS): boolean => this.has(fault);
    const between = (a: number, b: number): number => a + (b - a) * random.next();
    const side = (): number => (random.normal() < 0 ? -1 : 1);
    this.lowBefore = choice.lowTap === 'before';
    this.highBefore = choice.highTap === 'before';
    this.behind = choice.lockTap === 'behind' && plan.variant === 'train';
    this.bare = plan.variant === 'furnace';
    const rest = v.static ?? inches(12);
    this.nominal = v.manifold ?? inches(3.5);
    this.nominalSupply = rest;
    this.droop = inches(0.2 + 0.4 * own.next());
    this.rise = inches(0.3 + 0.6 * own.next());
    this.pipe = inches(0.2 + 0.3 * own.next()) + (has('pipe-small') ? inches(between(2.6, 3.4)) * size : 0);
    this.afterDroop = inches(0.05 + 0.15 * own.next());
    this.afterRise = inches(0.4 + 0.6 * own.next());
    this.lag = 0.3 + 0.5 * own.next();
    const proves = v.airTrip ?? inches(0.5);
    this.fan = has('fan-dirty')
      ? proves * (1 + between(0.04, 0.09) / size)
      : Math.max(proves * (1.9 + 0.5 * own.next()), inches(0.6));
    this.mainFan = (v.mainTrip ?? inches(1)) * (1.7 + 0.4 * own.next());
    this.gains = {
      supply: inches(1.4) * spreadFactor(own, 0.3),
      appliance: inches(0.8) * spreadFactor(own, 0.35),
      low: spreadFactor(own, 0.06),
      high: spreadFactor(own, 0.06),
      air: spreadFactor(own, 0.06),
      main: spreadFactor(own, 0.06),
    };
    this.creeps = inches(between(0.25, 0.5) / 60) * size;
    this.waterHead = inches(between(0.5, 1.1)) * size * side();
    this.turnS = between(30, 45);
    this.thread = { play: 0.04 * own.next(), travel: 9 };
    const high = has('supply-high') ? inches(between(2.2, 3.4)) * size : inches(0.12) * random.normal();
    const off = has('manifold-off')
      ? inches(between(0.7, 1.2)) * size * side()
      : inches(0.06) * random.normal();
    const gas = (fault: 'low-dial' | 'high-dial'): number =>
      has(fault) ? inches(between(1.3, 1.7)) * size * side() : inches(0.1) * random.normal();
    const air = (fault: 'air-dial' | 'main-dial'): number =>
      has(fault) ? -inches(between(0.26, 0.34)) * size : inches(0.02) * random.normal();
    const [low, lift, fan, main] = [
      v.lowGas ?? inches(2),
      v.highGas ?? inches(8),
      v.airTrip ?? inches(0.5),
      v.mainTrip ?? inches(1),
    ];
    // What a dial says and what it does differ by its own offset, which nobody put there.
    const claims = {
      low: inches(0.4) * own.normal(),
      high: inches(0.4) * own.normal(),
      air: inches(0.08) * own.normal(),
      main: inches(0.08) * own.normal(),
    };
    this.s = this.begin({
      supply: rest,
      after: this.nominal + this.afterRise,
      tube: 0,
      supplySet: rest - this.rise + high,
      afterSet: this.nominal + this.afterDroop + off,
      low: Math.max(inches(0.3), low + gas('low-dial')),
      high: lift + gas('high-dial'),
      air: Math.max(inches(0.08), fan + air('air-dial')),
      main: Math.max(inches(0.1), main + air('main-dial')),
      lowNow: low,
      highNow: lift,
      airNow: fan,
      mainNow: main,
      dials: {
        low: low + claims.low,
        high: lift + claims.high,
        air: fan + claims.air,
        main: main + claims.main,
      },
      latched: 0,
      contacts: [1, 1, 1, 1],
      barred: 0,
      watched: 0,
      out: 0,
      metered: 0,
      lastTube: 0,
      handles: {
        power: 1,
        cock: 1,
        burner: 0,
        stage: 0,
        ports: 0,
        input: 0,
        valve: 0,
        bleed: 0,
        bulb: 0,
        fan: 0,
        tube: 0,
        let: 0,
        meter: 0,
        dial: 0,
        blown: 0,
        vent: 0,
      },
    });
    this.s.supply = this.atRest();
    this.s.after = this.s.afterSet + this.afterRise;
    const zero = has('zero-off') ? inches(between(0.3, 0.6)) * size * side() : 0;
    this.knocked = zero === 0 ? {} : { gas: zero };
    this.draw();
  }

  /** A hand begins to bring a switch to its point: what stands there was filled, reset or made tight before. */
  override set(handle: string, value: number): void {
    super.set(handle, value);
    if (value !== 1 || !['bleed', 'bulb', 'let'].includes(handle)) return;
    const { s } = this;
    const lock = s.afterSet + this.afterRise;
    if (handle === 'bleed') {
      s.supply = Math.max(s.supply, this.atRest());
      if (!this.behind) s.after = Math.max(s.after, lock);
      // What is open then is raised by the bulb until it closes, so far as that may be.
      const closes = Math.min(s.low + inches(this.has('loose-dial') ? 3 : 0.6), 1.5 * lock);
      if (this.lowBefore) s.supply = Math.max(s.supply, closes);
      else s.after = Math.max(s.after, closes);
      s.contacts[0] = 1;
    } else if (handle === 'bulb') {
      s.supply = Math.min(s.supply, this.atRest());
      s.after = Math.min(s.after, lock);
      s.latched = 0;
    } else {
      s.tube = s.handles['tube'] === 2 ? this.mainFan : this.fan;
      s.contacts[s.handles['tube'] === 2 ? 3 : 2] = 1;
    }
    this.draw();
    s.barred = this.open(handle) ? 1 : 0;
  }

  /** Whether what this hand is about to bring to its point stands open already. */
  private open(handle: string): boolean {
    const { s } = this;
    // So near its point it opens as a hand touches it.
    const [gas, air] = [inches(0.12), inches(0.03)];
    if (handle === 'bleed')
      return !this.has('welded-low') && (this.lowBefore ? s.supply : s.after) < s.lowNow + gas;
    if (handle === 'bulb')
      return !this.has('welded-high') && (this.highBefore ? s.supply : s.after) > s.highNow - gas;
    return s.handles['tube'] === 2
      ? this.mainFan < s.mainNow + air
      : !this.has('air-stuck') && this.fan < s.airNow + air;
  }

  private atRest(): number {
    return this.s.supplySet + this.rise;
  }

  /** Where supply and manifold come to stand at such a fire. */
  private burning(low = false): { readonly supply: number; readonly after: number } {
    const { s } = this;
    let q = low ? 0.55 : 1;
    let supply = 0;
    let after = 0;
    for (let i = 0; i < 60; i++) {
      supply = Math.max(0, s.supplySet - this.droop * q - this.pipe * q * q);
      const wanted =
        (low ? 0.45 : 1) * s.afterSet - this.afterDroop * q + 0.03 * (supply - this.nominalSupply);
      // Starved, it passes what is there less what it takes open.
      after = Math.max(0, Math.min(wanted, supply - inches(0.4) * q * q));
      q += 0.4 * (Math.sqrt(after / this.nominal) - q);
    }
    return { supply, after };
  }

  /** Whether it would light: enough gas, and every switch made as it burns. */
  private lights(): boolean {
    const { s } = this;
    const { supply, after } = this.burning();
    if (after < inches(0.5)) return false;
    if (this.bare) return true;
    const lowTap = this.lowBefore ? supply : after;
    const highTap = this.highBefore ? Math.max(supply, this.atRest()) : after;
    return lowTap > s.low && highTap < s.high && this.fan > s.air && this.mainFan > s.main;
  }

  private get burns(): boolean {
    const { handles: h, out } = this.s;
    return h['burner'] === 1 && h['cock'] === 1 && h['power'] === 1 && out < SAFEGUARD_S && this.lights();
  }

  get channels(): Readonly<Record<string, number>> {
    const { s } = this;
    const watched = s.handles['meter'] ?? 0;
    return {
      contact: watched === 0 ? 0 : (s.contacts[watched - 1] ?? 0),
      flame: this.burns && s.handles['valve'] !== 1 ? 1 : 0,
      meterTurn: s.metered >= 1 ? 1 : 0,
      lowDial: s.dials['low'] ?? 0,
      highDial: s.dials['high'] ?? 0,
      airDial: s.dials['air'] ?? 0,
      mainDial: s.dials['main'] ?? 0,
    };
  }

  step(dt: number): void {
    const { s } = this;
    const h = s.handles;
    s.time += dt;
    const flows = this.burns && h['valve'] !== 1;
    s.out = h['burner'] === 1 && h['valve'] === 1 ? s.out + dt : h['burner'] === 1 ? s.out : 0;
    if (h['burner'] === 0) s.out = 0;
    this.gas(dt, flows);
    this.airs(dt);
    s.metered =
      h['dial'] === 1 && flows
        ? s.metered + (dt / this.turnS) * Math.sqrt(Math.max(0, s.after) / this.nominal)
        : h['dial'] === 1
          ? s.metered
          : 0;
    this.switches();
  }

  private gas(dt: number, flows: boolean): void {
    const { s } = this;
    const h = s.handles;
    const near = (from: number, to: number, tau: number): number => from + ((to - from) * dt) / (tau + dt);
    if (flows) {
      const at = this.burning(h['stage'] === 1);
      s.supply = near(s.supply, at.supply, this.lag);
      const slow = this.has('vent') && h['vent'] !== 1;
      s.after = near(
        s.after,
        at.after + (slow ? inches(0.35) * Math.sin(s.time / 2.3) : 0),
        slow ? 9 : this.lag,
      );
      return;
    }
    if (h['cock'] === 1) {
      // With nothing drawn a regulator only lets in: what is trapped stays.
      const [rest, lock] = [this.atRest(), s.afterSet + this.afterRise];
      if (s.supply < rest) s.supply = near(s.supply, rest, this.lag);
      else if (this.has('supply-seat')) s.supply = Math.min(rest + inches(8), s.supply + this.creeps * dt);
      const open = !this.behind || (h['valve'] === 1 && h['burner'] === 1 && s.out < SAFEGUARD_S);
      if (!open) s.after = near(s.after, 0, 0.8);
      else if (s.after < Math.min(lock, s.supply))
        s.after = near(s.after, Math.min(lock, s.supply), 0.5 + this.lag);
      else if (this.has('seat')) s.after = Math.min(s.supply, s.after + this.creeps * dt);
    }
    if (h['bleed'] === 1 && h['meter'] === 0) {
      // Nothing is watched: it is let down altogether.
      s.supply = near(s.supply, 0, 0.6);
      s.after = near(s.after, 0, 0.6);
    } else if (h['bleed'] === 1) {
      s.supply = Math.max(0, s.supply - (BLEEDS * s.supply + BLEEDS_LEAST) * dt);
      s.after = Math.max(0, s.after - (BLEEDS * s.after + BLEEDS_LEAST) * dt);
    }
    if (h['bulb'] === 1) {
      if (this.highBefore) s.supply += BULB * dt;
      else s.after += BULB * dt;
    }
  }

  /** The tube of a switch stands at what the fan gives, or goes down as it is let. */
  private airs(dt: number): void {
    const { s } = this;
    const h = s.handles;
    const tube = h['tube'] ?? 0;
    const gives = h['fan'] !== 1 || h['power'] !== 1 || tube === 0 ? 0 : tube === 1 ? this.fan : this.mainFan;
    if (tube !== s.lastTube) {
      s.tube = gives;
      s.lastTube = tube;
    }
    if (h['let'] === 1) s.tube = Math.max(0, s.tube - (LETS * s.tube + inches(0.004)) * dt);
    else s.tube += ((gives - s.tube) * dt) / (0.8 + dt);
  }

  private switches(): void {
    const { s } = this;
    const h = s.handles;
    const watched = h['meter'] ?? 0;
    if (watched !== s.watched) {
      s.watched = watched;
      this.draw();
    }
    const low = this.lowBefore ? s.supply : s.after;
    const high = this.highBefore ? s.supply : s.after;
    const made = (was: number, p: number, trip: number, resets: number): number =>
      was === 1 ? (p < trip ? 0 : 1) : p > trip + resets ? 1 : 0;
    const [c0, , c2, c3] = s.contacts;
    if (h['bulb'] !== 1 && high < s.high - inches(0.3)) s.latched = 0;
    if (high > s.highNow && !this.has('welded-high')) s.latched = 1;
    const tube = h['tube'] ?? 0;
    s.contacts = [
      this.has('welded-low') ? 1 : made(c0, low, s.lowNow, inches(0.3)),
      s.latched === 1 ? 0 : 1,
      // What is not made as it stands opens at once.
      this.has('air-stuck') ? 1 : made(c2, tube === 1 ? s.tube : this.fan, s.airNow, inches(0.05)),
      made(c3, tube === 2 ? s.tube : this.mainFan, s.mainNow, inches(0.05)),
    ];
  }

  gauge(slot: string): number {
    const { s } = this;
    const h = s.handles;
    const wet = this.has('water') && h['blown'] !== 1;
    if (slot === 'air') {
      if (h['tube'] === 0) return this.needle('air', 0, NOISE.air);
      // Air pulses as the blades pass.
      const pulse = h['let'] === 1 ? 0 : inches(0.008) * Math.sin(2 * Math.PI * PULSE_HZ * s.time);
      return this.needle('air', s.tube + pulse, NOISE.air);
    }
    if (h['ports'] !== 1) return this.needle('gas', 0, NOISE.gas);
    const p = h['input'] === 1 ? s.after : s.supply;
    return this.needle('gas', Math.max(0, p + (wet ? this.waterHead : 0)), NOISE.gas);
  }

  turn(adjuster: string, amount: number): void {
    const { s, gains } = this;
    const g = (key: string): number => gains[key] ?? 1;
    if (adjuster === 'supply') s.supplySet += this.carried(adjuster, amount, this.thread) * g('supply');
    else if (adjuster === 'appliance')
      s.afterSet += this.carried(adjuster, amount, this.thread) * g('appliance');
    else {
      const key = adjuster.replace('Dial', '') as 'low' | 'high' | 'air' | 'main';
      s.dials[key] = (s.dials[key] ?? 0) + amount;
      s[key] = Math.max(inches(0.02), s[key] + amount * g(key));
    }
    s.supplySet = Math.max(0, s.supplySet);
    s.afterSet = Math.max(0, s.afterSet);
    this.draw();
  }

  answer(stepKey: string): string {
    const { s } = this;
    const at = (step: string): boolean => stepKey === step || stepKey.endsWith(`-${step}`);
    if (stepKey === 'sniff') return this.has('gas-about') ? 'gas' : 'none';
    if (stepKey === 'soap') {
      // Made again once, it is tight.
      const bubbles = this.has('port-leaks') && s.screws['joint'] === undefined;
      if (bubbles) s.screws['joint'] = { turned: 0, carried: 0 };
      return bubbles ? 'bubbles' : 'tight';
    }
    const wet = this.has('water') && s.handles['blown'] !== 1;
    if (at('static')) return this.has('supply-seat') ? 'creeps' : wet ? 'water' : '';
    if (at('lock-up')) return this.has('seat') ? 'creeps' : '';
    if (at('manifold')) return this.has('vent') && s.handles['vent'] !== 1 ? 'slow' : '';
    if (stepKey.endsWith('supply') && !stepKey.startsWith('book') && !stepKey.startsWith('cap'))
      return this.lights() ? '' : 'no-light';
    // What is open as it stands is not brought to its point.
    if (/-(low-gas|high-gas|air-trip|main-trip)$/.test(stepKey)) return s.barred === 1 ? 'not-made' : 'never';
    if (stepKey === 'relight') return this.has('burns-badly') ? 'bad' : 'good';
    if (stepKey === 'hose') return this.has('air-stuck') ? 'runs-on' : 'works';
    return '';
  }
  truth(): Readonly<Record<string, number>> {
    const { s } = this;
    const { supply, after } = this.burning();
    return {
      static: this.atRest(),
      supplyFlow: supply,
      manifold: after,
      lockUp: s.afterSet + this.afterRise,
      rise: s.afterSet + this.afterRise - after,
      lowGas: s.low,
      highGas: s.high,
      airTrip: s.air,
      mainTrip: s.main,
      airNormal: this.fan,
    };
  }

  private draw(): void {
    const { s, noise } = this;
    const loose = this.has('loose-dial') ? inches(0.75) * this.size : 0;
    s.lowNow = Math.max(inches(0.1), s.low + inches(0.05) * noise.normal() + loose * noise.normal());
    s.highNow = s.high + inches(0.05) * noise.normal();
    s.airNow = Math.max(inches(0.02), s.air + inches(0.01) * noise.normal());
    s.mainNow = Math.max(inches(0.02), s.main + inches(0.01) * noise.normal());
  }
}

export const burnerGasRig = rigOf(parts, FAULTS, GasRig, {
  drives: { channel: 'contact', stop: 'Let it down' },
  meters: [
    { channel: 'contact', title: 'Contact watched', shows: ['open', 'closed'] },
    { channel: 'flame', title: 'Flame', shows: ['none', 'burns'] },
  ],
  scenarios: [
    {
      id: 'fires',
      title: 'Fired and stopped, after the regulator',
      slot: 'gas',
      hands: [
        { at_s: 0, handle: 'ports', value: 1 },
        { at_s: 0, handle: 'input', value: 1 },
        ...[20, 160, 300].flatMap((t) => [
          { at_s: t, handle: 'burner', value: 1 },
          { at_s: t + 80, handle: 'burner', value: 0 },
        ]),
      ],
    },
  ],
  noise: () => NOISE,
});

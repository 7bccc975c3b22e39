import { BaseRig, rigOf, type RigOptions } from '@firm-needle/core/rig';
import { FAULTS, hiddenIn, type Device, type State } from './hidden.js';
import { inches, parts } from './parts.js';

const NOISE = { gas: inches(0.02), air: inches(0.012) };
/** What a hand lets down, of what stands there and at least, a second; what a bulb raises. */
const BLEEDS = 0.02;
const BLEEDS_LEAST = inches(0.03);
const BULB = inches(0.16);
const LETS = 0.05;
const SAFEGUARD_S = 3;
const PULSE_HZ = 7;

/** A supply regulator, a pipe, an appliance regulator, a burner that takes by the root of its pressure, a fan, four switches. */
class GasRig extends BaseRig<State> {
  private readonly k: Device;
  protected override readonly knocked: Readonly<Record<string, number>>;
  protected s: State;

  constructor(options: RigOptions) {
    super(options, 0x1b873593);
    const { random, own, size } = this;
    const { device, state, zero } = hiddenIn(options.plan, {
      random,
      own,
      size,
      has: (fault) => this.has(fault),
    });
    this.k = device;
    this.s = this.begin(state);
    this.knocked = zero === 0 ? {} : { gas: zero };
    this.draw();
  }

  /** A hand begins to bring a switch to its point: what stands there was filled, reset or made tight before. */
  override set(handle: string, value: number): void {
    super.set(handle, value);
    // Opened again, its safeguard is reset by the book.
    if (handle === 'valve' && value === 0) this.s.out = 0;
    if (value !== 1 || !['bleed', 'bulb', 'let'].includes(handle)) return;
    const { s } = this;
    const lock = s.afterSet + this.k.afterRise;
    if (handle === 'bleed') {
      s.supply = Math.max(s.supply, this.atRest());
      if (!this.k.behind) s.after = Math.max(s.after, lock);
      // What is open then is raised by the bulb until it closes, so far as that may be.
      const closes = Math.min(s.low + inches(this.has('loose-dial') ? 3 : 0.6), 1.5 * lock);
      if (this.k.lowBefore) s.supply = Math.max(s.supply, closes);
      else s.after = Math.max(s.after, closes);
      s.contacts[0] = 1;
    } else if (handle === 'bulb') {
      s.supply = Math.min(s.supply, this.atRest());
      s.after = Math.min(s.after, lock);
      s.latched = 0;
    } else {
      s.tube = s.handles['tube'] === 2 ? this.k.mainFan : this.k.fan;
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
      return !this.has('welded-low') && (this.k.lowBefore ? s.supply : s.after) < s.lowNow + gas;
    if (handle === 'bulb')
      return !this.has('welded-high') && (this.k.highBefore ? s.supply : s.after) > s.highNow - gas;
    return s.handles['tube'] === 2
      ? this.k.mainFan < s.mainNow + air
      : !this.has('air-stuck') && this.k.fan < s.airNow + air;
  }

  private atRest(): number {
    return this.s.supplySet + this.k.rise;
  }

  /** Where supply and manifold come to stand at such a fire. */
  private burning(low = false): { readonly supply: number; readonly after: number } {
    const { s } = this;
    let q = low ? 0.55 : 1;
    let supply = 0;
    let after = 0;
    for (let i = 0; i < 60; i++) {
      supply = Math.max(0, s.supplySet - this.k.droop * q - this.k.pipe * q * q);
      const wanted =
        (low ? 0.45 : 1) * s.afterSet - this.k.afterDroop * q + 0.03 * (supply - this.k.nominalSupply);
      // Starved, it passes what is there less what it takes open.
      after = Math.max(0, Math.min(wanted, supply - inches(0.4) * q * q));
      q += 0.4 * (Math.sqrt(after / this.k.nominal) - q);
    }
    return { supply, after };
  }

  /** Whether it would light: enough gas, and every switch made as it burns. */
  private lights(): boolean {
    const { s } = this;
    const { supply, after } = this.burning();
    if (after < inches(0.5)) return false;
    if (this.k.bare) return true;
    const lowTap = this.k.lowBefore ? supply : after;
    const highTap = this.k.highBefore ? Math.max(supply, this.atRest()) : after;
    return lowTap > s.low && highTap < s.high && this.k.fan > s.air && this.k.mainFan > s.main;
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
        ? s.metered + (dt / this.k.turnS) * Math.sqrt(Math.max(0, s.after) / this.k.nominal)
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
      s.supply = near(s.supply, at.supply, this.k.lag);
      const slow = this.has('vent') && h['vent'] !== 1;
      s.after = near(
        s.after,
        at.after + (slow ? inches(0.35) * Math.sin(s.time / 2.3) : 0),
        slow ? 9 : this.k.lag,
      );
      return;
    }
    if (h['cock'] === 1) {
      // With nothing drawn a regulator only lets in: what is trapped stays.
      const [rest, lock] = [this.atRest(), s.afterSet + this.k.afterRise];
      if (s.supply < rest) s.supply = near(s.supply, rest, this.k.lag);
      else if (this.has('supply-seat')) s.supply = Math.min(rest + inches(8), s.supply + this.k.creeps * dt);
      const open = !this.k.behind || (h['valve'] === 1 && h['burner'] === 1 && s.out < SAFEGUARD_S);
      if (!open) s.after = near(s.after, 0, 0.8);
      else if (s.after < Math.min(lock, s.supply))
        s.after = near(s.after, Math.min(lock, s.supply), 0.5 + this.k.lag);
      else if (this.has('seat')) s.after = Math.min(s.supply, s.after + this.k.creeps * dt);
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
      if (this.k.highBefore) s.supply += BULB * dt;
      else s.after += BULB * dt;
    }
  }

  /** The tube of a switch stands at what the fan gives, or goes down as it is let. */
  private airs(dt: number): void {
    const { s } = this;
    const h = s.handles;
    const tube = h['tube'] ?? 0;
    const gives =
      h['fan'] !== 1 || h['power'] !== 1 || tube === 0 ? 0 : tube === 1 ? this.k.fan : this.k.mainFan;
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
    const low = this.k.lowBefore ? s.supply : s.after;
    const high = this.k.highBefore ? s.supply : s.after;
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
      this.has('air-stuck') ? 1 : made(c2, tube === 1 ? s.tube : this.k.fan, s.airNow, inches(0.05)),
      made(c3, tube === 2 ? s.tube : this.k.mainFan, s.mainNow, inches(0.05)),
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
    return this.needle('gas', Math.max(0, p + (wet ? this.k.waterHead : 0)), NOISE.gas);
  }

  turn(adjuster: string, amount: number): void {
    const {
      s,
      k: { gains },
    } = this;
    const g = (key: string): number => gains[key] ?? 1;
    if (adjuster === 'supply') s.supplySet += this.carried(adjuster, amount, this.k.thread) * g('supply');
    else if (adjuster === 'appliance')
      s.afterSet += this.carried(adjuster, amount, this.k.thread) * g('appliance');
    else {
      const key = adjuster.replace('Dial', '') as 'low' | 'high' | 'air' | 'main';
      s.dials[key] = (s.dials[key] ?? 0) + amount;
      s[key] = Math.max(inches(0.02), s[key] + amount * g(key));
    }
    s.supplySet = Math.max(0, s.supplySet);
    s.afterSet = Math.max(0, s.afterSet);
    this.draw();
  }

  /** What is seen at a gas switch whose dial is about to be run. */
  private standing(low: boolean): string {
    const { s } = this;
    if ((s.handles['input'] === 1 ? s.after : s.supply) < inches(0.3)) return 'none';
    return s.contacts[low ? 0 : 1] === 0 ? 'open' : 'stands';
  }

  answer(stepKey: string): string {
    if (stepKey.endsWith('Dial-stands')) return this.standing(stepKey.startsWith('low'));
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
      lockUp: s.afterSet + this.k.afterRise,
      rise: s.afterSet + this.k.afterRise - after,
      lowGas: s.low,
      highGas: s.high,
      airTrip: s.air,
      mainTrip: s.main,
      airNormal: this.k.fan,
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

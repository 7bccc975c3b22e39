import {
  BaseRig,
  rigOf,
  spreadFactor,
  type RigOptions,
  type RigState,
  type Thread,
} from '@firm-needle/core/rig';
import { ounces, parts, psi, read, VALVE } from './parts.js';

const FAULTS = {
  'set-high': 'Pointer far too high',
  'other-kind': 'Marked otherwise than planned',
  coarse: 'Coarse: a wide differential',
  'sticky-reset': 'Does not close again',
  tilted: 'Mercury bulb, hung off its mark',
  'siphon-blocked': 'Siphon blocked',
  'siphon-dry': 'Siphon dry',
  welded: 'Contact welded',
  oversized: 'Boiler fires far too much',
  'matched-load': 'The load takes all the steam',
  'by-passed': 'Wired past the control',
  'gauge-zero-off': 'Gauge zero off',
};

/** A hand that pumps slowly, one that lets down, and what a joint loses, Pa/s. */
const SQUEEZES = psi(0.06);
const LETS_DOWN = psi(0.035);
const LEAKS = psi(0.003);
/** Water and iron of a house boiler answer a surplus by this, and lose by that, Pa/s: 1 psi in 60 to 105 s up, in 17 to 29 s down. */
const RISES = psi(1 / 80);
const FALLS = psi(1 / 23);
const RELIGHTS_S = 38;
/** The heat in the metal carries it on for so long. */
const METAL_S = 9;
const SIPHON_S = 1;
/** The least that a coarse one holds between its points, Pa. */
const COARSE = psi(2.8);
const BOUNCE = psi(0.02);
const STILL = psi(0.003);

interface State extends RigState {
  /** On the hand pump, at the boiler, and as the element feels it, Pa. */
  pumped: number;
  boiler: number;
  sensed: number;
  contact: 0 | 1;
  /** What the burner adds just now, of all it can. */
  heat: number;
  relight: number;
  main: number;
  diff: number;
  outNow: number;
  inNow: number;
  /** It closed as it was let down, and the hand holds it there. */
  held: boolean;
}

/** So little is no steam, Pa. */
const NOTHING = psi(0.1);

/** A boiler with its heat in metal and water, a siphon, and a snap or mercury control whose screws move pointers. */
class SteamRig extends BaseRig<State> {
  private readonly subtracts: boolean;
  private readonly isLimit: boolean;
  private readonly ounces: boolean;
  private readonly mainGain: number;
  private readonly diffGain: number;
  private readonly mainErr: number;
  private readonly diffErr: number;
  private readonly jitter: number;
  private readonly thread: Thread;
  private readonly tilt: number;
  private readonly most: number;
  private readonly mercury: boolean;
  private readonly condenses: number;
  protected override readonly knocked: Readonly<Record<string, number>> = {};
  protected override readonly zeroErrors: Readonly<Record<string, number>>;
  protected s: State;

  constructor(options: RigOptions) {
    super(options, 0x3c6ef372);
    const { plan } = options;
    const { random, own, size } = this;
    const { v, plate } = read(plan);
    const has = (fault: keyof typeof FAULTS): boolean => this.has(fault);
    const between = (a: number, b: number): number => a + (b - a) * random.next();
    this.isLimit = plan.variant === 'limit';
    this.ounces = plan.variant === 'ounce';
    this.subtracts = (plan.variant === 'add') === has('other-kind') || this.isLimit || this.ounces;
    const small = this.ounces;
    const unit = small ? ounces(1) : psi(0.12);
    this.mainGain = spreadFactor(own, 0.1);
    this.diffGain = spreadFactor(own, 0.12);
    const [out, low] = [v.cutOut ?? psi(1.5), v.cutIn ?? psi(0.5)];
    // Where it acts as it was found, before what is wrong with it.
    const at = {
      out: out + unit * 0.6 * random.normal(),
      in: low + unit * (small ? 0.4 : 1) * Math.abs(random.normal()),
    };
    if (!small) at.in = Math.min(at.in, low + psi(0.3));
    // One that is coarse was set so that it closes at all.
    if (has('coarse') && this.subtracts && !this.isLimit)
      at.out = at.in + COARSE * (small ? 0.3 : 1) * (0.6 + 0.4 * size);
    const main = this.subtracts ? at.out : at.in;
    this.mainErr = psi(small ? 0.03 : 0.25) * own.normal();
    this.diffErr = psi(small ? 0.02 : 0.1) * own.normal();
    this.jitter = has('coarse') ? psi(0.1) : small ? ounces(0.12) : psi(0.03);
    this.thread = { play: psi(0.05) * own.next(), travel: psi(20) };
    this.mercury = has('tilted') || (this.sound && random.next() < 0.2);
    this.tilt = has('tilted') ? (small ? ounces(2) : psi(0.6)) * size * (random.next() < 0.5 ? -1 : 1) : 0;
    this.most = Math.min(
      plate.element ?? plate.mainHigh ?? psi(10),
      (options.gauges?.['test']?.upper ?? Infinity) *
        psi(1) *
        (options.gauges?.['test']?.unit === 'inH2O' ? 0.0361 : 1) *
        0.98,
    );
    // What condenses, of what is fired: a matched load takes all of it just under the cut-out.
    this.condenses = has('oversized') ? 0.35 / size : 1;
    const high = has('set-high') ? between(3, 5.5) * psi(1) * size * (small ? 0.2 : 1) : 0;
    const misread = has('other-kind') && !this.isLimit && !small;
    const diff = has('coarse') ? (small ? ounces(3) : psi(0.8)) : Math.max(psi(0.05), at.out - at.in);
    this.s = this.begin({
      pumped: 0,
      boiler: at.in + (at.out - at.in) / 2,
      sensed: 0,
      contact: 1,
      heat: 0,
      relight: 0,
      // Somebody who took it for the other kind set its pointers by that.
      main: (misread ? out : main) / this.mainGain - this.mainErr + high,
      diff: (diff - this.diffErr) / this.diffGain,
      outNow: 0,
      inNow: 0,
      held: false,
      handles: { power: 1, call: 0, control: 0, pump: 0, siphon: 0, hang: 0, cock: 0, button: 0 },
    });
    this.zeroErrors = { test: psi(0.01) * random.normal() };
    if (has('gauge-zero-off'))
      this.knocked = { test: psi(between(0.12, 0.2)) * size * (random.next() < 0.5 ? -1 : 1) };
    this.draw();
  }

  get channels(): Readonly<Record<string, number>> {
    const { s } = this;
    return {
      contact: s.contact,
      burner: this.firing() ? 1 : 0,
      'main-pointer': Math.max(0, s.main),
      'diff-pointer': Math.max(0, s.diff),
      rise: Math.round(psi(1) / this.rising()),
      fall: Math.round(psi(1) / this.falling()),
    };
  }

  step(dt: number): void {
    const { s } = this;
    const { control, pump, siphon } = s.handles as Record<string, number>;
    s.time += dt;
    if (control === 1) {
      if (pump === 1 && s.contact === 1) s.pumped = Math.min(this.most, s.pumped + SQUEEZES * dt);
      else if (pump === -1 && !s.held) s.pumped -= LETS_DOWN * dt;
      else if (pump === -2) s.pumped = 0;
      else s.pumped -= LEAKS * dt;
      s.pumped = Math.max(0, s.pumped);
      s.sensed = s.pumped;
    } else if (!this.has('siphon-blocked') || siphon === 1)
      s.sensed += ((s.boiler - s.sensed) * dt) / (SIPHON_S + dt);
    s.relight = this.calling() ? s.relight + dt : 0;
    s.heat += (((this.firing() ? 1 : 0) - s.heat) * dt) / (METAL_S + dt);
    s.boiler = Math.max(0, s.boiler + (s.heat * (this.rising() + this.falling()) - this.falling()) * dt);
    // A load that takes all: it stands where what is fired condenses.
    if (this.has('matched-load')) s.boiler = Math.min(s.boiler, s.inNow + 0.6 * (s.outNow - s.inNow));
    if (this.has('welded')) s.contact = 1;
    else if (s.contact === 1 && s.sensed >= s.outNow) {
      s.contact = 0;
      this.draw();
    } else if (s.contact === 0 && !this.isLimit && s.sensed <= s.inNow) {
      s.contact = 1;
      s.held = true;
      this.draw();
    }
  }

  override set(handle: string, value: number): void {
    super.set(handle, value);
    if (handle === 'hang') this.draw();
    if (handle === 'button' && value === 1) this.press();
    if (handle !== 'pump') return;
    this.s.held = false;
    if (value === -2) this.s.pumped = this.s.sensed = 0;
  }

  /** A limit closes by its button alone, where the pressure has fallen. */
  private press(): void {
    const { s } = this;
    if (this.isLimit && !this.has('sticky-reset') && s.sensed < s.outNow) s.contact = 1;
  }

  gauge(slot: string): number {
    const { control, cock } = this.s.handles as Record<string, number>;
    const p = control === 1 ? this.s.pumped : cock === 1 ? this.s.boiler : 0;
    return this.needle(slot, p, cock === 1 && control !== 1 ? BOUNCE : STILL);
  }

  turn(adjuster: string, amount: number): void {
    const { s } = this;
    const moved = this.carried(adjuster, amount, this.thread);
    if (adjuster === 'main' || adjuster === 'mainLow' || adjuster === 'mainOunce') s.main += moved;
    else s.diff += moved;
    s.diff = Math.max(0, s.diff);
    this.draw();
  }

  answer(stepKey: string): string {
    const { s } = this;
    const cleared = s.handles['siphon'] === 1;
    switch (stepKey) {
      case 'marking':
        return this.isLimit ? 'limit' : this.subtracts ? 'sub' : 'add';
      case 'inside':
        return this.mercury ? 'mercury' : 'snap';
      case 'plumb':
        return this.has('tilted') ? 'off' : 'on';
      case 'siphon':
        return this.has('siphon-blocked') ? 'blocked' : this.has('siphon-dry') ? 'dry' : 'clear';
      case 'lead':
      case 'end-lead':
      case 'live-lead':
        return this.has('by-passed') ? 'lights' : 'out';
      case 'found-button':
      case 'set-button':
        return this.has('sticky-reset') ? 'stays' : 'closes';
      case 'live':
        return this.has('by-passed') || this.has('welded') || (this.has('siphon-blocked') && !cleared)
          ? 'runs-on'
          : this.has('matched-load')
            ? 'met'
            : this.has('sticky-reset')
              ? 'no-start'
              : this.has('oversized')
                ? 'short'
                : 'both';
      case 'found-trip':
      case 'set-trip':
        return s.contact === 1 ? 'full' : s.sensed <= 0 && s.inNow <= 0 ? 'stays-open' : '';
      case 'live-trip':
      case 'live-set-trip':
        if (s.contact === 0 && s.sensed <= NOTHING) return 'stays-open';
        return this.has('matched-load') ? 'met' : 'full';
      default:
        if (!stepKey.endsWith('-reset')) return '';
        if (stepKey.startsWith('live')) return this.has('by-passed') ? 'fires-on' : 'stays-open';
        return s.contact === 1 ? 'not-open' : 'stays-open';
    }
  }

  truth(): Readonly<Record<string, number>> {
    const { out, low } = this.points();
    return { cutOut: out, cutIn: low, main: this.s.main, diff: this.s.diff };
  }

  /** Where it acts as it stands, without its scatter. */
  private points(): { readonly out: number; readonly low: number } {
    const { s } = this;
    const tilt = s.handles['hang'] === 1 ? 0 : this.tilt;
    const main = (s.main + this.mainErr) * this.mainGain + tilt;
    let diff = Math.max(0, s.diff * this.diffGain + this.diffErr);
    if (this.has('coarse')) diff = Math.max(diff, COARSE * (this.ounces ? 0.3 : 1) * (0.6 + 0.4 * this.size));
    const out = this.subtracts ? main : main + diff;
    const stuck = this.has('sticky-reset') ? psi(10) : 0;
    return { out, low: (this.subtracts ? main - diff : main) - stuck };
  }

  /** Draws where it acts the next time. */
  private draw(): void {
    const { out, low } = this.points();
    this.s.outNow = out + this.jitter * this.noise.normal();
    this.s.inNow = Math.min(this.s.outNow - psi(0.01), low + this.jitter * this.noise.normal());
  }

  private calling(): boolean {
    const { power, call } = this.s.handles;
    return power === 1 && call === 1 && (this.s.contact === 1 || this.has('by-passed'));
  }

  private firing(): boolean {
    return this.calling() && this.s.relight >= RELIGHTS_S && this.s.boiler < VALVE;
  }

  private rising(): number {
    return this.condenses < 1 ? RISES / (0.6 * this.condenses) : RISES;
  }

  private falling(): number {
    return FALLS * Math.min(1, this.condenses + 0.4);
  }
}

export const steamControlRig = rigOf(parts, FAULTS, SteamRig, {
  drives: { channel: 'contact', stop: 'Switch the burner off' },
  meters: [{ channel: 'contact', title: 'Meter', shows: ['open', 'continuity'] }],
  scenarios: [
    {
      id: 'cycles',
      title: 'The boiler by itself',
      slot: 'test',
      hands: [
        { at_s: 0, handle: 'cock', value: 1 },
        { at_s: 0, handle: 'power', value: 1 },
        { at_s: 0, handle: 'call', value: 1 },
      ],
    },
  ],
  noise: (plan) => ({ test: plan.school === 'boiler' ? BOUNCE : STILL }),
});

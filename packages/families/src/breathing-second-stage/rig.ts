// A hose under pressure, a seat on an orifice, a lever under a diaphragm, a case that is drawn from. Its figures are its own.
import {
  BaseRig,
  hand,
  rigOf,
  spreadFactor,
  type RigOptions,
  type RigState,
  type Thread,
} from '@firm-needle/core/rig';
import { inches, isFixed, parts, psi, read } from './parts.js';

const FAULTS = {
  stiff: 'Opens stiff',
  light: 'Opens light',
  'free-flow': 'Orifice too far out: leaks at rest',
  'cut-seat': 'Cut seat',
  'high-ip': 'Line too high',
  'creeping-ip': 'Line creeps',
  'lever-low': 'Lever low',
  'bent-lever': 'Bent lever',
  'case-leak': 'Exhaust valve leaks',
  'case-gone': 'Case does not hold',
  sticky: 'Poppet sticks',
  cracked: 'Cracked',
};

const NOISE = { suction: inches(0.008), ip: psi(0.12) };
const RAMP = inches(0.35);
const FLOWS_S = 2;
/** A tongue and a syringe are no machine. */
const DRAW_SD = inches(0.025);
const CLOSES_S = 0.05;
/** A seat seals as long as it would take so much suction to lift it. */
const SEALS = inches(0.35);
/** By so much the nut lets the lever fall short, turns, before the purge is weak. */
const WEAK = 0.9;
const BLOWN = inches(0.3);

interface State extends RigState {
  ip: number;
  /** Suction in its case, Pa. */
  p: number;
  opened: number;
  /** Its orifice and its nut, turns in from where they were found. */
  z: number;
  n: number;
  cut: number;
  crept: number;
  /** This draw's own resistance, Pa. */
  hung: number;
  blown: number;
  side: 1 | -1;
}

class SecondRig extends BaseRig<State> {
  private readonly base: number;
  private readonly gain: number;
  private readonly line: number;
  private readonly follow: number;
  private readonly play: number;
  private readonly cutAt: number;
  private readonly sticks: number;
  private readonly thread: Thread;
  private readonly nominal: number;
  protected s: State;

  constructor(options: RigOptions) {
    super(options, 0x3c6ef372);
    const { plan } = options;
    const { random, own, size } = this;
    const { v, plate } = read(plan);
    const has = (fault: keyof typeof FAULTS): boolean => this.has(fault);
    const between = (a: number, b: number): number => a + (b - a) * random.next();
    const target = v.effort ?? inches(1.4);
    const half =
      ((plate.effortMost ?? target + inches(0.2)) - (plate.effortLeast ?? target - inches(0.2))) / 2;
    this.nominal = ((plate.ipLeast ?? psi(130)) + (plate.ipMost ?? psi(140))) / 2;
    this.line =
      this.nominal +
      psi(1) * Math.max(-1, Math.min(1, random.normal())) +
      (has('high-ip') ? (plate.ipMost ?? psi(140)) - this.nominal + psi(between(5, 8)) * size : 0);
    this.follow = plan.variant === 'adjustable-balanced' ? 0.003 : 0.024;
    this.gain = inches(0.58) * spreadFactor(own, 0.45);
    const off = has('stiff')
      ? half + inches(between(0.3, 0.6)) * size
      : has('light')
        ? -(half + inches(between(0.15, 0.3)) * size)
        : 0;
    const freeByLever = has('free-flow') && isFixed(plan);
    this.base =
      has('free-flow') && !freeByLever
        ? SEALS - inches(between(0.12, 0.3)) * size
        : Math.max(SEALS + inches(0.05), target + off + 0.15 * half * random.normal());
    this.cutAt = has('cut-seat') ? inches(between(2.6, 3.4)) : 0;
    this.play = freeByLever
      ? -between(0.15, 0.4)
      : has('lever-low')
        ? between(1.1, 1.6)
        : between(0.42, 0.55);
    this.sticks = has('sticky') ? inches(between(0.22, 0.32)) * size : 0;
    this.thread = { play: 0.02 * own.next(), travel: 4 };
    this.s = this.begin({
      ip: 0,
      p: 0,
      opened: -1,
      z: 0,
      n: 0,
      cut: 0,
      crept: 0,
      hung: 0,
      blown: 0,
      side: random.next() < 0.5 ? 1 : -1,
      handles: {
        supply: 0,
        bleed: 1,
        relief: 0,
        shutoff: 0,
        purge: 0,
        thumb: 0,
        draw: 0,
        side: 0,
        case: 0,
        tool: 0,
      },
    });
  }

  get channels(): Readonly<Record<string, number>> {
    // As it is heard with the purge let go.
    return { hiss: this.flows() ? 1 : 0, ip: this.s.ip };
  }

  step(dt: number): void {
    const { s } = this;
    const { supply, bleed, draw, shutoff, thumb } = s.handles;
    s.time += dt;
    const on = supply === 1 && bleed === 0;
    s.crept = on && this.has('creeping-ip') ? Math.min(psi(14), s.crept + (psi(9) / 60) * dt) : 0;
    const opens = s.opened >= 0;
    const goal = on ? this.line + s.crept - (opens ? psi(4) : 0) - (thumb === 1 ? psi(7) : 0) : 0;
    s.ip += ((goal - s.ip) * dt) / (0.12 + dt);
    if (shutoff === 1 && thumb === 1 && on) this.blow();
    if (draw !== 1) s.opened = -1;
    if (draw === 1) this.drawOn(dt);
    else if (draw === 2) {
      const most = inches(1.2);
      s.p =
        s.handles['case'] === 1 || !this.leaks()
          ? Math.min(most, s.p + RAMP * dt)
          : Math.max(0, Math.min(most, s.p + RAMP * dt) * (1 - 0.2 * dt));
    } else s.p += (-s.p * dt) / (0.3 + dt);
  }

  gauge(slot: string): number {
    if (slot === 'ip') return this.needle('ip', this.s.ip, NOISE.ip);
    return this.needle(
      'suction',
      (this.s.handles['shutoff'] === 1 ? this.s.p : 0) + this.s.blown,
      NOISE.suction,
    );
  }

  override set(handle: string, value: number): void {
    const { s } = this;
    if (handle === 'purge') {
      if (value > 0 && s.handles['shutoff'] === 1 && s.ip > psi(5)) this.blow();
      s.handles['purge'] = 0;
      return;
    }
    if (handle === 'supply' && value === 1 && s.handles['shutoff'] === 1 && s.handles['supply'] !== 1)
      this.blow();
    if (handle === 'draw' && value === 1) {
      s.opened = -1;
      s.p = 0;
      s.side = s.side === 1 ? -1 : 1;
      s.hung = DRAW_SD * this.noise.normal() + this.sticks * s.side * (0.7 + 0.3 * this.noise.next());
    }
    super.set(handle, value);
  }

  turn(adjuster: string, amount: number): void {
    const { s } = this;
    if (adjuster === 'orifice') {
      // Turned on its seat, its edge cuts it.
      if (s.handles['thumb'] !== 1 && s.ip > psi(5)) s.cut += inches(0.3) * Math.abs(amount);
      s.z += this.carried('orifice', amount, this.thread);
    }
    if (adjuster === 'nut') s.n += amount;
  }

  answer(stepKey: string): string {
    const key = stepKey.replace(/^(found|first|left|adjust)-/, '');
    const { handles } = this.s;
    switch (key) {
      case 'look':
        return this.has('cracked') ? 'cracked' : 'sound';
      case 'case':
      case 'case-again':
        return this.leaks() && (handles['case'] !== 1 || this.has('case-gone')) ? 'sinks' : 'holds';
      case 'case-which':
        return this.has('case-gone') ? 'none' : 'exhaust';
      case 'ip':
        return this.has('creeping-ip') ? 'climbs' : '';
      case 'listen':
        return this.hisses()
          ? 'hisses'
          : this.has('creeping-ip')
            ? 'late'
            : this.slack() > WEAK
              ? 'weak'
              : 'silent';
      case 'ip-risen':
        return this.has('creeping-ip') ? 'risen' : 'same';
      case 'silent':
        return this.hisses() ? 'hisses' : 'silent';
      case 'strong':
        return this.hisses() ? 'hisses' : this.slack() > WEAK ? 'weak' : 'yes';
      case 'back-up':
        return 'same';
      default:
        return '';
    }
  }

  truth(): Readonly<Record<string, number>> {
    return {
      effort: this.effort(this.line),
      ip: this.line,
      perTurn: this.gain,
      blown: this.s.blown,
      cut: this.s.cut,
    };
  }

  private drawOn(dt: number): void {
    const { s } = this;
    if (s.opened >= 0) {
      s.opened += dt;
      s.p += ((0.45 * this.effort(s.ip) - s.p) * dt) / (CLOSES_S + dt);
      if (s.opened > FLOWS_S) {
        s.handles['draw'] = 0;
        s.opened = -1;
      }
      return;
    }
    const leak = this.leaks() && s.handles['case'] !== 1 ? 0.3 : 0;
    s.p += (RAMP - leak * s.p) * dt;
    if (s.handles['side'] !== 1 && s.handles['supply'] === 1 && s.p >= this.effort(s.ip) + s.hung)
      s.opened = 0;
    if (s.p > inches(6)) s.handles['draw'] = 0;
  }

  private effort(ip: number): number {
    const { s } = this;
    const free = Math.min(0, this.slack());
    return (
      this.base +
      this.gain * s.z -
      this.follow * (ip - this.nominal) * (inches(1) / psi(1)) -
      inches(0.08) * s.n +
      inches(1.5) * free
    );
  }

  /** How far the lever stands from its diaphragm, turns of its nut; under nothing it is pressed. */
  private slack(): number {
    return this.play - this.s.n + (isBent(this) ? 3 : 0) + 0.35 * this.s.z;
  }

  private hisses(): boolean {
    return this.s.handles['thumb'] !== 1 && this.flows();
  }

  /** It leaks at rest. */
  private flows(): boolean {
    const { s } = this;
    if (s.handles['supply'] !== 1) return false;
    return this.effort(s.ip) - s.cut - this.cutAt < SEALS || this.slack() < 0;
  }

  private leaks(): boolean {
    return this.has('case-leak') || this.has('case-gone');
  }

  private blow(): void {
    this.s.blown = BLOWN;
  }

  bent(): boolean {
    return this.has('bent-lever');
  }
}
const isBent = (rig: { bent(): boolean }): boolean => rig.bent();

export const breathingSecondStageRig = rigOf(parts, FAULTS, SecondRig, {
  scenarios: [
    {
      id: 'draws',
      title: 'Eight draws',
      slot: 'suction',
      hands: [
        hand(0, 'relief', 1),
        hand(1, 'bleed', 0),
        hand(1, 'supply', 1),
        hand(6, 'shutoff', 1),
        ...Array.from({ length: 8 }, (_, i) => hand(10 + 14 * i, 'draw', 1)),
      ],
    },
  ],
  noise: () => NOISE,
});

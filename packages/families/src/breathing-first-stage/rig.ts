// A bottle, a bench, a chamber on a spring, a seat that closes by it, a relief. None of its figures is the procedure's own.
import {
  BaseRig,
  hand,
  rigOf,
  spreadFactor,
  type RigOptions,
  type RigState,
  type Thread,
} from '@firm-needle/core/rig';
import { isBalanced, isIndustrial, isPiston, parts, psi, read } from './parts.js';

const FAULTS = {
  'set-low': 'Set too low',
  worn: 'Seat bedded deep: stands high',
  'seat-leaks': 'Leaking seat',
  'seat-failed': 'Failed seat',
  sticks: 'It sticks',
  balance: 'Balance seal gone',
  filter: 'Blocked filter',
  'supply-short': 'Bottle valve half open',
  joint: 'Loose hose joint',
  'inner-leak': 'Leak inside',
  'relief-early': 'Relief opens early',
  'fresh-seat': 'Fresh seat beds in',
  'wrong-spring': 'Spring of another kind',
  wet: 'Wet inside',
};

const NOISE = psi(0.12);
const FILLS_S = 0.4;
/** A seat comes to rest by so much in about so long. */
const SETTLES_S = 26;
const HELD_S = 2.2;
const BEDS_N = 140;
const LOW = psi(310);
const FULL = psi(2950);
/** A failed seat lets the whole bottle by, Pa a second. */
const RUNS = psi(420);
/** What a joint lets out is as much as a seat may let in, Pa a second. */
const JOINT = psi(3) / 60;

interface State extends RigState {
  p: number;
  /** Since it was last purged or filled, s, and what leaked in since, Pa. */
  rest: number;
  leaked: number;
  cycles: number;
  /** Where friction left it, Pa. */
  hung: number;
  side: 1 | -1;
  /** What screw or pack added, Pa. */
  set: number;
  lifted: 0 | 1;
}

class StageRig extends BaseRig<State> {
  private readonly base: number;
  private readonly gain: number;
  /** Full supply over low, Pa. */
  private readonly apart: number;
  private readonly settles: number;
  private readonly beds: number;
  private readonly dips: number;
  private readonly leak: number;
  private readonly friction: number;
  private readonly opens: { readonly own: number; readonly other: number };
  private readonly thread: Thread;
  private readonly industrial: boolean;
  private readonly lockRise: number;
  protected s: State;

  constructor(options: RigOptions) {
    super(options, 0x2b7e1516);
    const { plan } = options;
    const { random, own, size } = this;
    const { v, plate } = read(plan);
    const has = (fault: keyof typeof FAULTS): boolean => this.has(fault);
    const between = (a: number, b: number): number => a + (b - a) * random.next();
    this.industrial = isIndustrial(plan);
    const target = v.ipFull ?? v.delivery ?? psi(130);
    const usual =
      { diaphragm: 0, 'diaphragm-unbalanced': -18, piston: 4, 'piston-unbalanced': 24 }[
        plan.variant as 'piston'
      ] ?? 0;
    this.apart =
      psi(usual) * (1 + 0.06 * own.normal()) +
      (isBalanced(plan) ? psi(0.5) * own.normal() : 0) +
      (has('balance') && isBalanced(plan) ? psi(13 + 6 * random.next()) * size : 0);
    const off =
      has('set-low') || has('wrong-spring')
        ? -psi(between(11, 17)) * size
        : has('worn')
          ? psi(between(11, 17)) * size
          : 0;
    this.beds = has('fresh-seat') ? psi(between(1, 2)) * size : 0;
    // Where the pack of the other end of the window was left: a psi or so beside its target.
    this.base = target + off + psi(0.5) * random.normal();
    const usualGain = isPiston(plan) ? 0.19 : 22;
    this.gain =
      psi(usualGain) * spreadFactor(own, isPiston(plan) ? 0.25 : 0.4) * (has('wrong-spring') ? 0.02 : 1);
    this.settles = psi(between(0.2, 0.9)) + (has('fresh-seat') ? psi(1) : 0);
    this.dips =
      psi(between(9, 17)) +
      (has('filter') || has('supply-short') ? psi(between(26, 40)) * Math.max(1, size) : 0);
    this.leak = has('seat-leaks') ? (psi(between(2.5, 8)) * size) / 60 : 0;
    this.friction = has('sticks') ? psi(between(3.5, 5)) * size : psi(0.15);
    const relief = plate.relief ?? psi(170);
    this.opens = {
      own: has('relief-early')
        ? Math.min(target, target - this.apart) - psi(between(4, 8)) * size
        : relief * between(0.97, 1.01),
      other: relief * between(0.98, 1.01),
    };
    this.thread = { play: 0.05 * own.next(), travel: isPiston(plan) ? 400 : 3.5 + own.next() };
    this.lockRise = 0.06 + 0.1 * random.next();
    this.s = this.begin({
      p: 0,
      rest: 0,
      leaked: 0,
      cycles: 0,
      hung: 0,
      side: random.next() < 0.5 ? 1 : -1,
      set: 0,
      lifted: 0,
      handles: { supply: 0, bleed: 1, purge: 0, relief: 0, joints: 0, valve: 0, cap: 1, knob: 0, cock: 0 },
    });
  }

  get channels(): Readonly<Record<string, number>> {
    return { relief: this.s.lifted };
  }

  step(dt: number): void {
    const { s } = this;
    s.time += dt;
    s.rest += dt;
    if (s.handles['purge'] === 1 && s.rest > HELD_S) this.set('purge', 0);
    const { supply = 0, bleed, purge, knob, cock } = s.handles;
    const on = supply > 0;
    const failed = this.has('seat-failed');
    const joint = this.has('joint') && s.handles['joints'] !== 1 ? JOINT : 0;
    let goal: number;
    if (bleed === 1) goal = on ? psi(15) : 0;
    else if (!on) {
      // Shut in: it stands, but for what a joint lets out.
      if (purge !== 1) s.p = Math.max(0, s.p - joint * dt);
      goal = purge === 1 ? 0 : s.p;
    } else if (this.industrial) {
      const passes = failed || this.has('seat-leaks');
      s.leaked = cock === 1 ? 0 : s.leaked + (failed ? RUNS / 40 : this.leak) * dt;
      goal =
        cock === 1
          ? knob === 1
            ? this.closes()
            : 0
          : (knob === 1 ? this.closes() * (1 + this.lockRise) : 0) + (passes ? s.leaked : 0);
    } else if (failed) {
      s.leaked += RUNS * (supply / 2) * dt;
      goal = this.closes() + s.leaked;
    } else {
      s.leaked =
        purge === 1 ? 0 : Math.max(0, s.leaked + (this.leak * (supply === 1 ? LOW / FULL : 1) - joint) * dt);
      goal = this.closes() - (purge === 1 ? this.dip() : 0) + s.leaked;
    }
    s.p += ((goal - s.p) * dt) / (FILLS_S + dt);
    const opens =
      s.handles['relief'] === 2 ? this.opens.other : s.handles['relief'] === 1 ? this.opens.own : Infinity;
    s.lifted = s.p > opens || (s.lifted === 1 && s.p > 0.95 * opens) ? 1 : 0;
    if (s.p > opens) {
      s.p = opens;
      s.leaked = Math.min(s.leaked, Math.max(0, opens - this.closes()) + psi(1));
    }
  }

  gauge(slot: string): number {
    return this.needle(slot, this.s.p, NOISE);
  }

  override set(handle: string, value: number): void {
    const { s } = this;
    const was = s.handles[handle] ?? 0;
    if (handle === 'purge' && value !== 1) {
      // Let go, or so many times: what friction held is freed, and comes to rest anew.
      if (was === 1 || value > 1) this.freed(Math.max(1, value));
      s.handles['purge'] = 0;
      return;
    }
    super.set(handle, value);
    if (handle === 'purge') s.rest = 0;
    if (handle === 'supply' && value > was) [s.rest, s.leaked] = [0, 0];
    if (handle === 'bleed' && value === 1) s.leaked = 0;
  }

  turn(adjuster: string, amount: number): void {
    if (adjuster === 'screw') this.s.set += this.gain * this.carried('screw', amount, this.thread);
    if (adjuster === 'pack') this.s.set += this.gain * amount;
  }

  answer(stepKey: string): string {
    const key = stepKey.replace(/^(found|first|left|adjust|settle)-/, '');
    switch (key) {
      case 'look':
        return this.has('wet') ? 'wet' : 'clean';
      case 'low-up':
      case 'low-up-again':
      case 'full-up':
      case 'full-up-again':
      case 'rise-up':
      case 'rise-up-again':
        return this.has('seat-failed') ? 'ran' : this.s.lifted === 1 ? 'hisses' : 'stands';
      case 'soap':
      case 'soap-again':
        return this.has('inner-leak')
          ? 'holes'
          : this.has('joint') && this.s.handles['joints'] !== 1
            ? 'joint'
            : 'tight';
      case 'sag':
        return this.has('supply-short') ? 'sags' : 'holds';
      case 'delivered':
        return this.s.lifted === 1 ? 'hisses' : '';
      case 'locked':
      case 'low':
      case 'low-again':
      case 'low-more':
      case 'full':
      case 'again-full':
      case 'stood':
        return this.s.lifted === 1 ? 'hisses' : this.leak > 0 ? 'rises' : 'never';
      case 'rises':
      case 'stands':
        return this.leak > 0 ? 'rises' : 'stands';
      case 'open':
        return this.has('seat-failed') ? 'climbs' : 'nothing';
      default:
        return '';
    }
  }

  truth(): Readonly<Record<string, number>> {
    const at = (supply: number): number => this.closesAt(supply) + this.settles * 0.32;
    const ipFull = at(2);
    return {
      ipFull,
      ipLow: at(1),
      dip: this.dip(),
      perTurn: this.gain,
      relief: this.s.handles['relief'] === 2 ? this.opens.other : this.opens.own,
      delivery: ipFull,
      locked: ipFull * (1 + this.lockRise),
    };
  }

  /** Purged: it comes to rest anew, a little elsewhere. */
  private freed(times: number): void {
    const { s } = this;
    s.cycles += times;
    s.rest = 0;
    s.leaked = 0;
    // What sticks hangs to one side, then to the other.
    s.side = s.side === 1 ? -1 : 1;
    s.hung = this.friction * s.side * (0.7 + 0.3 * this.noise.next());
  }

  private dip(): number {
    const short = this.has('supply-short') && this.s.handles['valve'] === 1;
    return short ? psi(12) : this.dips;
  }

  private closes(): number {
    const { s } = this;
    return (
      this.closesAt(s.handles['supply'] ?? 0) + s.hung + this.settles * (1 - Math.exp(-s.rest / SETTLES_S))
    );
  }

  private closesAt(supply: number): number {
    const { s } = this;
    const bar = supply === 2 ? FULL : LOW;
    return (
      this.base +
      s.set +
      (this.apart * (bar - FULL)) / (FULL - LOW) +
      this.beds * (1 - Math.exp(-s.cycles / BEDS_N))
    );
  }
}

export const breathingFirstStageRig = rigOf(parts, FAULTS, StageRig, {
  scenarios: [
    {
      id: 'purges',
      title: 'Purged at full supply',
      slot: 'ip',
      hands: [
        hand(0, 'relief', 1),
        hand(1, 'bleed', 0),
        hand(1, 'supply', 2),
        ...Array.from({ length: 8 }, (_, i) => [
          hand(20 + 20 * i, 'purge', 1),
          hand(24 + 20 * i, 'purge', 0),
        ]).flat(),
      ],
    },
  ],
  noise: () => ({ ip: NOISE, outlet: NOISE }),
});

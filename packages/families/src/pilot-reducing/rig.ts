import {
  BaseRig,
  rigOf,
  type RigOptions,
  type RigState,
  spreadFactor,
  STILL,
  type Swinging,
  swingOn,
  swungTo,
  type Thread,
} from '@firm-needle/core/rig';
import { parts, psi } from './parts.js';

const FAULTS = {
  'set-low': 'Set too low',
  'trapped-air': 'Trapped air',
  'low-flow': 'Too little drawn',
  'shut-cock': 'Pilot cock shut',
  'blocked-strainer': 'Blocked strainer',
  'torn-diaphragm': 'Torn diaphragm',
  'seat-debris': 'Debris in the seat',
};

const NOISE = psi(0.06);
const LAG_S = 2.2;
const HUNT = psi(3);
const HUNT_HZ = 0.35;
/** A seat that does not seal lets the outlet rise by this, Pa/s. */
const CREEP = psi(0.12);

interface State extends RigState, Swinging {
  /** How far a valve whose pilot is cut off has wandered, Pa. */
  stray: number;
  p: number;
  turned: number;
  crept: number;
}

/** A pilot, a cover that fills through a restriction, a seat, a draw; what holds up the cover holds up the valve. */
class ReducingRig extends BaseRig<State> {
  private readonly supply: number;
  private readonly perTurn: number;
  private readonly asFound: number;
  private readonly rise: number;
  /** It gives way by this from least to all of the flow, Pa. */
  private readonly droop: number;
  private readonly thread: Thread;
  protected override readonly zeroErrors: Readonly<Record<string, number>>;
  private readonly noisy: boolean;
  protected s: State;

  constructor(options: RigOptions) {
    super(options, 0x7f4a7c15);
    const { plan } = options;
    const { random } = this;
    const { own } = this;
    const has = (fault: keyof typeof FAULTS): boolean => this.has(fault);
    const target = plan.values['flowing'] ?? psi(50);
    this.supply = (plan.plate['supply']?.value ?? psi(90)) * (0.98 + 0.04 * random.next());
    this.perTurn = parts.screw('pilot').prior.perTurn * spreadFactor(own, 0.45);
    const low =
      has('set-low') || has('shut-cock') || has('blocked-strainer')
        ? psi(4 + 5 * random.next()) * this.size
        : 0;
    this.asFound = target - low + psi(0.3) * Math.max(-1, Math.min(1, random.normal()));
    this.rise = psi(3.5 + 2.5 * random.next());
    this.zeroErrors = { outlet: psi(0.15) * random.normal(), inlet: psi(0.3) * random.normal() };
    this.noisy = random.next() < 0.3;
    this.thread = { play: 0.02 * own.next(), travel: 6 + 4 * own.next() };
    this.droop = psi(0.2 + 0.5 * random.next());
    this.s = this.begin({
      ...STILL,
      stray: 0,
      p: 0,
      turned: 0,
      crept: 0,
      handles: { gauges: 0, inlet: 0, draw: 0, cocks: 0, strainer: 0, bleed: 0, closing: 0 },
    });
  }

  get channels(): Readonly<Record<string, number>> {
    return { flow: (this.s.handles['draw'] ?? 0) > 0 ? 1 : 0 };
  }

  step(dt: number): void {
    const { s } = this;
    s.time += dt;
    const shut = s.handles['draw'] === 0;
    s.crept = shut && this.has('seat-debris') && s.handles['inlet'] === 1 ? s.crept + CREEP * dt : 0;
    swingOn(s, dt, HUNT_HZ, 3, this.noise);
    if (this.held() && s.handles['inlet'] === 1)
      s.stray += (-s.stray * dt) / 40 + psi(0.05) * Math.sqrt(dt) * this.noise.normal();
    s.p += ((this.target() - s.p) * dt) / (LAG_S + dt);
  }

  gauge(slot: string): number {
    const p =
      this.s.handles['gauges'] !== 1
        ? 0
        : slot === 'inlet'
          ? this.s.handles['inlet'] === 1
            ? this.supply
            : 0
          : this.s.p;
    return this.needle(slot, p, NOISE);
  }

  override set(handle: string, value: number): void {
    super.set(handle, value);
    // A second draw that was found stays at hand.
    if (handle === 'draw' && value === 2) this.s.handles['second'] = 1;
  }

  turn(adjuster: string, amount: number): void {
    if (adjuster === 'pilot') this.s.turned += this.carried('pilot', amount, this.thread);
    if (adjuster === 'closing') this.s.handles['closing'] = (this.s.handles['closing'] ?? 0) + amount;
  }

  answer(stepKey: string): string {
    if (stepKey.endsWith('flowing')) return 'hunts';
    if (stepKey.endsWith('lock-up')) return 'creeps';
    switch (stepKey.replace(/^(found|adjust)-why/, 'why')) {
      case 'why-hunts':
        return this.has('trapped-air') && this.s.handles['bleed'] !== 1
          ? 'air'
          : this.has('low-flow') && this.s.handles['second'] !== 1
            ? 'flow'
            : 'none';
      case 'why-still':
        return this.has('shut-cock') && this.s.handles['cocks'] !== 1
          ? 'cock'
          : this.has('blocked-strainer') && this.s.handles['strainer'] !== 1
            ? 'strainer'
            : 'none';
      case 'creep':
      case 'found-creep':
        return this.has('seat-debris') ? 'rises' : 'stands';
      case 'cycled':
        return this.noisy && (this.s.handles['closing'] ?? 0) > -0.5 ? 'hammer' : 'quiet';
      default:
        return '';
    }
  }

  truth(): Readonly<Record<string, number>> {
    const flowing = this.governed();
    return { flowing, lockUp: flowing + this.rise, rise: this.rise, supply: this.supply };
  }

  /** The pilot's word does not come through to the cover. */
  private held(): boolean {
    const { handles } = this.s;
    return (
      (this.has('shut-cock') && handles['cocks'] !== 1) ||
      (this.has('blocked-strainer') && handles['strainer'] !== 1)
    );
  }

  private governed(): number {
    if (this.has('torn-diaphragm')) return this.supply - psi(2);
    return Math.max(
      0,
      Math.min(this.supply - psi(1.5), this.asFound + this.perTurn * (this.held() ? 0 : this.s.turned)),
    );
  }

  private target(): number {
    const { inlet, draw, second, bleed } = this.s.handles;
    if (inlet !== 1) return 0;
    if (draw === 0) return Math.min(this.supply, this.governed() + this.rise + this.s.crept);
    const swings = (this.has('trapped-air') && bleed !== 1) || (this.has('low-flow') && second !== 1);
    // The valve's own lag makes little of a fast swing; what is seen is as high as this.
    const swing = swings ? 5 * HUNT * this.size * swungTo(this.s) : 0;
    return this.governed() + swing + this.s.stray - this.droop * ((draw ?? 1) - 1);
  }
}

export const pilotReducingRig = rigOf(parts, FAULTS, ReducingRig, {
  scenarios: [
    {
      id: 'draws',
      title: 'Draw opened and shut',
      slot: 'outlet',
      hands: [
        { at_s: 0, handle: 'gauges', value: 1 },
        { at_s: 0, handle: 'inlet', value: 1 },
        ...Array.from({ length: 12 }, (_, i) => ({ at_s: 60 * i, handle: 'draw', value: (i + 1) % 2 })),
      ],
    },
  ],
  noise: () => ({ outlet: NOISE, inlet: NOISE }),
});

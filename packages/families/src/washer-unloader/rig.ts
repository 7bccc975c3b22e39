import type { Plan } from '@firm-needle/core/procedure';
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
  'worn-nozzle': 'Worn nozzle',
  'slipping-belt': 'Slipping belt',
  'air-in-inlet': 'Air in the inlet',
  'leaking-check': 'Leaking check seat',
  'sticking-piston': 'Sticking piston',
  'wrong-spring': 'Wrong spring',
};

const NOISE = psi(6);
const LAG_S = 0.3;
/** A swing of air in the inlet: height and rate. */
const SWING = psi(220);
const SWING_HZ = 0.7;
/** What leaks away of what is trapped until the pump is loaded again. */
const CYCLE = psi(600);

/** What a released trigger throws up beside what stays, of the step that stays, and how soon it is gone. */
const PEAK = 0.45;
const PEAK_S = 0.8;
/** Strokes of the pump, of the pressure that they make. */
const STROKES = 0.0015;
/** A check that leaks lets what is trapped back in such a time. */
const BLEEDS_S = 40;

const INCH = 0.0254;

/** A nozzle passes what its number says at 4000 psi, and as the root of the pressure. */
const throughNozzle = (flow: number, number: number): number =>
  number > 0 ? psi(4000) * (flow / number) ** 2 : 0;

interface State extends RigState, Swinging {
  /** What the released trigger still throws up beside what stays, Pa, and when it was released. */
  peak: number;
  released: number;
  p: number;
  turned: number;
  /** How far the trapped pressure has bled, Pa. */
  bled: number;
}

/** A positive-displacement pump on a nozzle, its unloader on a spring, a hose that takes pressure, a check that traps it. */
class WasherRig extends BaseRig<State> {
  private readonly perTurn: number;
  private readonly asFound: number;
  private readonly full: number;
  private readonly spring: number;
  private readonly spike: number;
  private readonly loss: number;
  private readonly thread: Thread;
  protected override readonly zeroErrors: Readonly<Record<string, number>>;
  protected s: State;

  constructor(options: RigOptions) {
    super(options, 0x3c6ef372);
    const { plan } = options;
    const { random } = this;
    const { own } = this;
    const has = (fault: keyof typeof FAULTS): boolean => this.has(fault);
    const head = plan.values['head'] ?? psi(2000);
    const { prior } = parts.screw('handle');
    this.perTurn = prior.perTurn * spreadFactor(own, 0.3);
    const below =
      has('set-low') || has('worn-nozzle') || has('slipping-belt') || has('wrong-spring')
        ? psi(450 + 350 * random.next()) * this.size
        : 0;
    this.asFound = head - below + psi(20) * Math.max(-1, Math.min(1, random.normal()));
    const flow = (plan.plate['flow']?.value ?? 2e-4) * (has('slipping-belt') ? 1 - 0.22 * this.size : 1);
    const nozzle = (plan.plate['nozzle']?.value ?? 2e-4) * (has('worn-nozzle') ? 1 + 0.3 * this.size : 1);
    const nominal = throughNozzle(flow, nozzle);
    // What is worn or slips leaves the machine short of its working pressure, whatever its nozzle could.
    this.full =
      has('worn-nozzle') || has('slipping-belt')
        ? Math.min(nominal, head - psi(220 + 80 * random.next()) * this.size)
        : Math.max(nominal, head * 1.02);
    this.spring = has('wrong-spring') ? head - psi(250 + 100 * random.next()) * this.size : Infinity;
    this.spike =
      psi(310 + 70 * random.next()) +
      (has('sticking-piston') ? psi(290 + 80 * random.next()) * this.size : 0);
    this.loss = this.lostOn(plan, Math.min(flow, nozzle * Math.sqrt(head / psi(4000))));
    this.thread = { play: 0.02 * own.next(), travel: 5 + 3 * own.next() };
    this.zeroErrors = { test: psi(8) * random.normal() };
    this.s = this.begin({
      ...STILL,
      peak: 0,
      released: 0,
      p: 0,
      turned: 0,
      bled: 0,
      handles: { engine: 0, trigger: 1, nozzle: 1 },
    });
  }

  /** What hose and coil take of the pressure with water moving, Pa. */
  private lostOn({ variant, plate }: Plan, flow: number): number {
    if (variant === 'at-head') return 0;
    const bore = plate['hoseBore']?.value ?? INCH * (this.random.next() < 0.5 ? 0.375 : 0.3125);
    const speed = flow / (0.7854 * bore * bore);
    // Turbulent in a smooth bore, Blasius' power of the Reynolds number; fittings and curls as some lengths more.
    const friction = 0.316 / Math.sqrt(Math.sqrt((speed * bore) / 1.0e-6));
    const hose =
      ((friction * (plate['hose']?.value ?? 0)) / bore) *
      499 *
      speed *
      speed *
      (1 + 0.1 * this.random.next());
    const coil = plate['coil']?.value ?? psi(50 + 70 * this.random.next());
    return hose + (variant === 'at-gun-coil' ? coil : 0);
  }

  get channels(): Readonly<Record<string, number>> {
    return { pump: this.s.handles['engine'] ?? 0, trigger: this.s.handles['trigger'] ?? 0 };
  }

  step(dt: number): void {
    const { s } = this;
    s.time += dt;
    const trapped = s.handles['trigger'] !== 1;
    if (!trapped) s.bled = 0;
    else if (this.has('leaking-check')) s.bled = s.bled > CYCLE ? 0 : s.bled + (CYCLE / 9) * dt;
    const target = this.target();
    s.peak *= Math.exp(-dt / PEAK_S);
    swingOn(s, dt, SWING_HZ, 2, this.noise);
    // What is trapped stays when the engine stops, unless the check lets it back.
    if (s.handles['engine'] !== 1 && trapped) {
      if (this.has('leaking-check')) s.p *= Math.exp(-dt / BLEEDS_S);
      return;
    }
    s.p += ((target - s.p) * dt) / (LAG_S + dt);
  }

  gauge(): number {
    const { p, peak, handles } = this.s;
    // Three plungers are felt while water moves.
    const strokes =
      handles['engine'] === 1 && handles['trigger'] === 1 ? STROKES * p * this.noise.normal() : 0;
    const risen = 1 - Math.exp((this.s.released - this.s.time) / LAG_S);
    return this.needle('test', p + peak * risen + strokes, NOISE);
  }

  override set(handle: string, value: number): void {
    const released = handle === 'trigger' && this.s.handles['trigger'] === 1 && value !== 1;
    super.set(handle, value);
    if (!released || this.s.handles['engine'] !== 1) return;
    this.s.peak = PEAK * this.spike;
    this.s.released = this.s.time;
  }

  turn(adjuster: string, amount: number): void {
    if (adjuster === 'handle') this.s.turned += this.carried('handle', amount, this.thread);
  }

  answer(stepKey: string): string {
    if (stepKey.endsWith('working')) return 'hunts';
    if (stepKey.endsWith('trapped')) return 'bleeds';
    if (stepKey === 'holds') return this.has('leaking-check') ? 'falls' : 'holds';
    if (stepKey === 'repeats') return this.has('leaking-check') ? 'cycles' : 'repeats';
    return '';
  }

  truth(): Readonly<Record<string, number>> {
    const head = Math.min(this.opens(), this.full);
    return {
      head,
      working: head - this.loss,
      trapped: this.opens() + this.spike,
      spike: this.opens() + this.spike - head,
      full: this.full,
    };
  }

  /** Pressure at which the unloader opens, Pa at the head. */
  private opens(): number {
    return Math.min(this.spring, this.asFound + this.perTurn * this.s.turned);
  }

  private target(): number {
    const { engine, trigger, nozzle } = this.s.handles;
    if (engine !== 1) return 0;
    if (trigger !== 1) return this.opens() + this.spike - this.s.bled;
    if (nozzle !== 1) return psi(40);
    const swing = this.has('air-in-inlet') ? SWING * this.size * swungTo(this.s) : 0;
    return Math.min(this.opens(), this.full) - this.loss + swing;
  }
}

export const washerUnloaderRig = rigOf(parts, FAULTS, WasherRig, {
  drives: { channel: 'pump', stop: 'Release the trigger' },
  scenarios: [
    {
      id: 'trigger',
      title: 'Trigger pulled and released',
      slot: 'test',
      hands: [
        { at_s: 0, handle: 'engine', value: 1 },
        ...Array.from({ length: 12 }, (_, i) => ({ at_s: 20 * (i + 1), handle: 'trigger', value: i % 2 })),
      ],
    },
  ],
  noise: () => ({ test: NOISE }),
});

import type { Plan } from '@firm-needle/core/procedure';
import { saturationPressure } from '@firm-needle/core/reckon';
import { BaseRig, hand, rigOf, type RigOptions, type RigState } from '@firm-needle/core/rig';
import { parts } from './parts.js';
import { fluidOf, POINTS } from './points.js';
import { permitted, scaleOf } from './scale.js';

const FAULTS = {
  'zero-off': 'Zero off',
  'bent-pointer': 'Bent pointer',
  'sprung-tube': 'Sprung tube',
  sticky: 'Sticking movement',
  'air-in-hose': 'Air in the hose',
  sun: 'Cylinder in the sun',
};

/** The liquid of a standing cylinder follows its surroundings this slowly, s. */
const CYLINDER_LAG_S = 1800;
/** The needle follows the pressure, s. */
const NEEDLE_LAG_S = 0.3;
/** A thermometer follows what it touches, s. */
const PROBE_LAG_S = 2;
const SUN_K = 14;
/** Share of the air in the hose that one bleed leaves. */
const BLEED_LEAVES = 0.12;
const BLEED_LEAVES_AIR_IN_HOSE = 0.38;
const AIR_PA = 14_000;
const AIR_PA_MUCH = 75_000;

interface State extends RigState {
  /** Temperature of the liquid, K. */
  liquid: number;
  /** Partial pressure of air in the hose, Pa. */
  air: number;
  /** True pressure at the port, Pa. */
  pressure: number;
  /** What the movement shows before noise, Pa; play is what friction holds back. */
  shown: number;
  played: number;
  probe: number;
  screw: number;
}

/** A gauge with its faults, a cylinder of refrigerant that comes to rest slowly, a hose with air in it, a hand pump, a better gauge. */
class GaugeRig extends BaseRig<State> {
  private readonly span: number;
  private readonly lower: number;
  private readonly division: number;
  private readonly fluid: string | undefined;
  private readonly ambient: number;
  private readonly room: number;
  private readonly zeroError: number;
  private readonly slope: number;
  private readonly friction: number;
  private readonly reference: number;
  private readonly thermometer: number;
  private readonly raises: string;
  protected s: State;

  constructor(options: RigOptions) {
    super(options, 0x2545f491);
    const { ambient, plan } = options;
    const { random } = this;
    const scale = scaleOf(plan.plate) ?? { lower: 0, span: 1e6 };
    this.span = scale.span;
    this.lower = scale.lower;
    this.division = plan.plate['division']?.value ?? scale.span / 100;
    this.fluid = fluidOf(plan);
    this.ambient = ambient;
    const has = (fault: keyof typeof FAULTS): boolean => this.has(fault);
    const sign = random.next() < 0.5 ? -1 : 1;
    const limit = permitted(plan.plate, scale.lower + scale.span / 2) || scale.span * 0.02;
    this.room = 289 + 9 * random.next();
    this.zeroError = has('bent-pointer')
      ? sign * Math.max(3.2 * this.division, 2 * limit)
      : has('zero-off')
        ? sign * (1.2 + 0.6 * random.next()) * this.division
        : has('sprung-tube')
          ? 1.4 * this.division
          : clamp(0.3 * random.normal()) * 0.5 * this.division;
    // A sprung tube gives more than it should, the more the higher: well past its class.
    this.slope = has('sprung-tube')
      ? Math.max(0.05, (4 * limit) / scale.span) * (1 + 0.3 * random.next())
      : (clamp(0.35 * random.normal()) * 0.4 * limit) / scale.span;
    this.friction = has('sticky') ? 1.6 * this.division : has('sprung-tube') ? 0.4 * limit : 0.1 * limit;
    this.reference = (clamp(0.4 * random.normal()) * 0.15 * limit) / scale.span;
    this.thermometer = 0.12 * clamp(random.normal());
    this.raises = random.next() < 0.6 ? 'clockwise' : 'counter-clockwise';
    this.s = this.begin({
      liquid: this.room + (has('sun') ? 6 : 0.3 * clamp(random.normal())),
      air: has('air-in-hose') ? AIR_PA_MUCH : AIR_PA,
      pressure: 0,
      shown: 0,
      played: 0,
      probe: this.room,
      screw: 0,
      handles: { port: 0, valve: 0, pump: 0, place: has('sun') ? 1 : 0, probe: 0 },
    });
  }

  get channels(): Readonly<Record<string, number>> {
    return {};
  }

  step(dt: number): void {
    const { s } = this;
    s.time += dt;
    const around = this.airTemperature() + (s.handles['place'] === 1 ? SUN_K : 0);
    s.liquid += ((around - s.liquid) * dt) / CYLINDER_LAG_S;
    const target = this.portPressure();
    const lag = s.handles['port'] === 2 ? 1.2 : 0.4;
    s.pressure += ((target - s.pressure) * dt) / (lag + dt);
    const wanted = s.pressure * (1 + this.slope);
    // Play: the movement follows only when friction is overcome; a tap frees most of it.
    s.played = Math.min(wanted + this.friction / 2, Math.max(wanted - this.friction / 2, s.played));
    s.shown += ((s.played - s.shown) * dt) / (NEEDLE_LAG_S + dt);
    s.probe += ((this.touched() - s.probe) * dt) / (PROBE_LAG_S + dt);
  }

  gauge(slot: string): number {
    if (slot === 'thermometer') return this.s.probe + this.thermometer + 0.02 * this.noise.normal();
    const noise = NOISE_PART * this.division * this.noise.normal();
    if (slot === 'reference') return this.s.pressure * (1 + this.reference) + noise;
    return this.s.shown + this.zeroError + this.s.screw + noise;
  }

  override actual(): number {
    return this.s.pressure;
  }

  override set(handle: string, value: number): void {
    const { s } = this;
    if (handle === 'bleed') {
      // A moment's opening, not a place to stand.
      if (value === 1) s.air *= this.has('air-in-hose') ? BLEED_LEAVES_AIR_IN_HOSE : BLEED_LEAVES;
    } else if (handle === 'tap') {
      if (value === 1) s.played += (s.pressure * (1 + this.slope) - s.played) * 0.6;
    } else if (handle === 'screw') {
      if (value === 1) s.screw += this.saturated(s.liquid) - (s.shown + this.zeroError + s.screw);
    } else super.set(handle, value);
  }

  override zero(slot: string): void {
    if (slot !== 'test') return;
    const wanted = -(this.zeroError + this.s.shown);
    // A pointer that is bent meets the end of its screw before it meets zero.
    const reach = this.has('bent-pointer') ? 0.25 * Math.abs(this.zeroError) : Infinity;
    this.s.screw = Math.max(-reach, Math.min(reach, wanted));
  }

  turn(): void {
    // Nothing is turned by measure on a gauge.
  }

  answer(stepKey: string): string {
    if (stepKey === 'tap') return this.has('sticky') ? 'moves' : 'still';
    if (stepKey === 'way') return this.raises;
    return '';
  }

  truth(): Readonly<Record<string, number>> {
    const { screw, liquid } = this.s;
    return { zero: this.zeroError + screw, slope: this.slope, liquid, friction: this.friction };
  }

  private airTemperature(): number {
    return this.room + 0.1 * Math.sin(this.s.time / 700);
  }

  /** The surface lies between the liquid and what is around it. */
  private touched(): number {
    const { liquid, handles } = this.s;
    if (handles['probe'] !== 1) return this.airTemperature();
    const around = this.airTemperature() + (handles['place'] === 1 ? SUN_K : 0);
    return liquid + 0.08 * (around - liquid);
  }

  private saturated(T: number): number {
    const p = this.fluid === undefined ? undefined : saturationPressure(this.fluid, T);
    return p?.ok ? p.value.bubble - this.ambient : 0;
  }

  private portPressure(): number {
    const { handles, liquid, air } = this.s;
    if (handles['port'] === 1 && handles['valve'] === 1) return this.saturated(liquid) + air;
    if (handles['port'] === 2) {
      const part = handles['pump'] ?? 0;
      // The hand stops where the better gauge shows the point.
      return part === 0 ? 0 : (this.lower + part * this.span) / (1 + this.reference);
    }
    return 0;
  }
}

const NOISE_PART = 0.02;
const clamp = (x: number): number => Math.max(-2, Math.min(2, x));

export const gaugeCheckRig = rigOf(parts, FAULTS, GaugeRig, {
  scenarios: [
    {
      id: 'pump-up',
      title: 'Pumped up by its points and let down',
      slot: 'test',
      hands: [
        hand(0, 'port', 2),
        ...POINTS.map((p, i) => hand(20 * (i + 1), 'pump', p.part)),
        hand(20 * (POINTS.length + 1), 'pump', 0),
      ],
    },
  ],
  noise: (plan: Plan) => {
    const pressure = NOISE_PART * (plan.plate['division']?.value ?? 1000);
    return { test: pressure, reference: pressure, thermometer: 0.02 };
  },
});

import {
  BaseRig,
  rigOf,
  hand,
  type RigState,
  type RigOptions,
  spreadFactor,
  type Thread,
} from '@firm-needle/core/rig';
import { parts, psi } from './parts.js';
import { held, pressureWith, waterAt, type Vessel } from '../shared/vessel.js';

const FAULTS = {
  'low-precharge': 'Low precharge',
  'ruptured-bladder': 'Ruptured bladder',
  'drifted-switch': 'Drifted switch',
  'narrowed-differential': 'Narrowed differential',
  'blocked-tube': 'Blocked sensing tube',
  'welded-contacts': 'Welded contacts',
  'low-well': 'Low well',
  'leaking-check-valve': 'Leaking check valve',
  'gauge-zero-off': 'Water gauge zero off',
};

const NOISE = { system: psi(0.05), air: psi(0.03) } as const;
const LAG_S = 0.12;
const RUN_UP_S = 0.25;
/** What a stopped column throws up at the tank, and for how long; and what of the pump is felt in the line. */
const SURGE = psi(0.25);
const SURGE_S = 0.12;
const RIPPLE = psi(0.12);
const RIPPLE_HZ = 6.3;
const BLOCKED_LAG_S = 14;

/** Everything of the rig that moves or was drawn: plain data, so that it can be kept and restored. */
interface State extends RigState {
  /** Water in the tank, m³; negative while the pipes alone hold pressure. */
  water: number;
  sensed: number;
  contact: 0 | 1;
  lifted: boolean;
  lifts: number;
  highest: number;
  precharge: number;
  cutIn: number;
  cutOut: number;
  jitterIn: number;
  jitterOut: number;
  /** Of its full speed. */
  speed: number;
  /** What the column of water that was stopped still throws up, Pa. */
  surge: number;
}

/** Constants of this one installation, drawn from the seed. */
interface Build {
  readonly ambient: number;
  readonly tank: number;
  readonly pumpFlow: number;
  readonly shutOff: number;
  readonly relief: number;
  readonly lag: number;
  readonly leak: number;
  readonly perTurn: Readonly<Record<string, number>>;
  readonly thread: Thread;
  readonly bladder: boolean;
  /** The lower of the pair that is printed inside its cover, Pa. */
  readonly rated: number;
  readonly jitter: number;
}

/** A borehole pump, its tank (Boyle), pressure switch with hysteresis and lag, relief valve, house draw and leak. */
class WellRig extends BaseRig<State> {
  private readonly build: Build;
  protected override readonly zeroErrors: Readonly<Record<string, number>>;
  protected override readonly knocked: Readonly<Record<string, number>> = {};
  protected s: State;

  constructor(options: RigOptions) {
    super(options, 0x5bd1e995);
    const { values, plate } = options.plan;
    const has = (fault: keyof typeof FAULTS): boolean => this.has(fault);
    const planned = {
      cutIn: values['cutIn'] ?? psi(40),
      cutOut: values['cutOut'] ?? psi(60),
      precharge: values['precharge'] ?? psi(38),
    };
    const relief = plate['relief']?.value ?? psi(75);
    const draw = (id: string): number => {
      const prior = parts.adjusters.find((a) => a.id === id)?.prior;
      return prior ? prior.perTurn * spreadFactor(this.own, Math.min(prior.spread, 0.45)) : 0;
    };
    const perTurn = { range: draw('range'), differential: draw('differential') };
    const offset = has('drifted-switch')
      ? -psi(4 + 2.5 * this.random.next()) * this.size
      : psi(Math.max(-0.7, Math.min(0.7, 0.35 * this.random.normal())));
    const narrow = has('narrowed-differential')
      ? psi(7 + 3 * this.random.next()) * this.size
      : psi(0.2 * this.random.normal());
    const burst = has('ruptured-bladder');
    const precharge = burst
      ? 0
      : has('low-precharge')
        ? planned.precharge * (1 - this.size * (0.4 + 0.2 * this.random.next()))
        : planned.precharge + psi(Math.max(-0.5, Math.min(0.5, 0.25 * this.random.normal())));
    this.build = {
      ambient: options.ambient,
      tank: (plate['tankVolume']?.value ?? 0.12) * (burst ? 0.12 : 1),
      pumpFlow: (plate['pumpFlow']?.value ?? 5e-4) * (0.97 + 0.06 * this.random.next()),
      shutOff: has('low-well') ? planned.cutOut - psi(5 + 3 * this.random.next()) * this.size : relief * 1.45,
      relief,
      lag: has('blocked-tube') ? BLOCKED_LAG_S * this.size : LAG_S,
      leak: has('leaking-check-valve') ? (4e-6 + 4e-6 * this.random.next()) * this.size : 0,
      perTurn,
      thread: { play: 0.1 * this.own.next(), travel: 9 + 5 * this.own.next() },
      bladder: !burst,
      rated: psi(10 * Math.round(planned.cutIn / psi(10))),
      jitter: has('blocked-tube') ? psi(3.2) * this.size : psi(0.12),
    };
    this.zeroErrors = { system: psi(0.12 * this.random.normal()), air: psi(0.08 * this.random.normal()) };
    if (has('gauge-zero-off'))
      this.knocked = {
        system: psi(1.9 + 0.8 * this.random.next()) * this.size * (this.random.next() < 0.5 ? -1 : 1),
      };
    const cutOut = planned.cutOut + offset - narrow;
    this.s = this.begin({
      water: 0,
      sensed: 0,
      contact: 0,
      lifted: false,
      lifts: 0,
      highest: 0,
      precharge,
      cutIn: planned.cutIn + offset,
      cutOut,
      jitterIn: 0,
      jitterOut: 0,
      speed: 0,
      surge: 0,
      handles: { power: 1, tap: 0, house: 1, drain: 0, gauge: 0, airGauge: 0 },
    });
    this.s.water = waterAt(
      this.tank(),
      Math.min(planned.cutIn + offset + psi(8), cutOut - psi(2), this.build.shutOff - psi(3)),
    );
    this.s.sensed = this.pressure();
  }

  get channels(): Readonly<Record<string, number>> {
    const { rated } = this.build;
    return {
      pump: this.running() ? 1 : 0,
      contact: this.s.contact,
      relief: this.s.lifted ? 1 : 0,
      'rated-in': rated,
      'rated-out': rated + psi(20),
    };
  }

  step(dt: number): void {
    const s = this.s;
    const b = this.build;
    const p = this.pressure();
    s.time += dt;
    s.sensed += ((p - s.sensed) * dt) / (b.lag + dt);
    if (this.has('welded-contacts')) s.contact = 1;
    else if (s.contact === 0 && s.sensed <= s.cutIn + s.jitterIn) {
      s.contact = 1;
      s.jitterOut = this.noise.normal() * b.jitter;
    } else if (s.contact === 1 && s.sensed >= s.cutOut + s.jitterOut) {
      s.contact = 0;
      s.jitterIn = this.noise.normal() * b.jitter;
    }
    if (p > b.relief && !s.lifted) {
      s.lifted = true;
      s.lifts++;
    } else if (p < 0.9 * b.relief) s.lifted = false;
    const h = s.handles;
    // It runs up and down in a moment, and the check valve shuts on what still comes.
    const was = s.speed;
    s.speed += (((this.running() ? 1 : 0) - s.speed) * dt) / (RUN_UP_S + dt);
    if (!this.running() && was > 0.5 && s.speed <= 0.5) s.surge = SURGE;
    s.surge *= Math.exp(-dt / SURGE_S);
    let flow = 0;
    if (s.speed > 0.02 && p < b.shutOff) {
      const r = p / b.shutOff;
      // Scaled so that the plate's flow is met near the middle of the usual pair.
      flow += s.speed * b.pumpFlow * 1.18 * Math.sqrt(1 - r * r);
    }
    if (!this.running()) flow -= p > 0 ? b.leak : 0;
    const root = Math.sqrt(Math.max(0, p) / 350000);
    flow -= (h['house'] ?? 0) * (h['tap'] ?? 0) * b.pumpFlow * 1.1 * root;
    flow -= (h['drain'] ?? 0) * b.pumpFlow * 3 * root;
    if (s.lifted) flow -= b.pumpFlow * 1.5 * Math.max(0, p / b.relief - 0.88) * 8;
    s.water = held(this.tank(), s.water + flow * dt);
    if (p > s.highest) s.highest = p;
  }

  gauge(slot: string): number {
    const vented = (this.s.handles[slot === 'air' ? 'airGauge' : 'gauge'] ?? 0) === 0;
    const p = vented ? 0 : slot === 'air' ? this.airPressure() : this.pressure();
    const noise = slot === 'air' ? NOISE.air : NOISE.system;
    // The pump is felt in the line while it runs.
    const felt =
      slot === 'air' || vented
        ? 0
        : this.s.surge + RIPPLE * this.s.speed * Math.sin(2 * Math.PI * RIPPLE_HZ * this.s.time);
    return this.needle(slot, p + felt, noise);
  }

  turn(adjuster: string, amount: number): void {
    const s = this.s;
    const per = this.build.perTurn[adjuster] ?? 0;
    const moved = adjuster === 'air' ? amount : this.carried(adjuster, amount, this.build.thread);
    if (adjuster === 'range') {
      s.cutIn += per * moved;
      s.cutOut += per * moved;
    } else if (adjuster === 'differential') s.cutOut = Math.max(s.cutIn + psi(2), s.cutOut + per * moved);
    else if (adjuster === 'air')
      s.precharge = Math.max(0, s.precharge + amount * (1 + 0.02 * this.noise.normal()));
  }

  answer(stepKey: string): string {
    switch (stepKey) {
      case 'rest':
        return this.build.leak > 0 ? 'falls' : 'holds';
      case 'found-precharge':
        return this.build.bladder ? 'air' : 'water';
      case 'found-cut-in':
        return this.has('welded-contacts') ? 'climbs' : this.running() ? 'still-runs' : 'no-start';
      default:
        if (stepKey.endsWith('-cut-in')) return this.running() ? 'still-runs' : 'no-start';
        if (!stepKey.endsWith('-cut-out') && stepKey !== 'end-again') return 'tight';
        if (this.s.lifted || this.has('welded-contacts')) return 'climbs';
        return this.running() ? 'stalls' : 'not-running';
    }
  }

  truth(): Readonly<Record<string, number>> {
    const { cutIn, cutOut, precharge, lifts, highest } = this.s;
    return {
      cutIn,
      cutOut,
      differential: cutOut - cutIn,
      precharge,
      relief: this.build.relief,
      perTurn: this.build.perTurn['range'] ?? 0,
      lifts,
      highest,
      zero: this.zeroOf('system'),
    };
  }

  private running(): boolean {
    return this.s.contact === 1 && (this.s.handles['power'] ?? 0) === 1;
  }

  private tank(): Vessel {
    return { volume: this.build.tank, ambient: this.build.ambient, precharge: this.s.precharge };
  }

  /** Water pressure, gauge Pa. */
  private pressure(): number {
    return pressureWith(this.tank(), this.s.water);
  }

  private airPressure(): number {
    return this.s.water > 0 ? this.pressure() : this.s.precharge;
  }
}

export const wellSwitchRig = rigOf(parts, FAULTS, WellRig, {
  drives: { channel: 'pump', stop: 'Stop the pump' },
  scenarios: [
    {
      id: 'cycles',
      title: 'Water drawn, the pump cycling',
      slot: 'system',
      hands: [hand(0, 'gauge', 1), hand(0, 'tap', 0.5)],
    },
    {
      id: 'drain-down',
      title: 'Two cycles, then drained with the pump locked off',
      slot: 'system',
      hands: [
        hand(0, 'gauge', 1),
        hand(0, 'tap', 0.5),
        hand(600, 'power', 0),
        hand(600, 'tap', 0),
        hand(600, 'house', 0),
        hand(605, 'drain', 1),
      ],
    },
  ],
  noise: () => NOISE,
});

import { BaseRig, rigOf, spreadFactor, type RigOptions, type Thread } from '@firm-needle/core/rig';
import { byWall, parts, psi, read } from './parts.js';
import type { State } from './physics.js';
import { FAULTS, CFM, LOSES, ROOM, MOTOR_S, SETTLES_S, CREEPS, FLUTTER, NOISE } from './physics.js';

/** A pump, a receiver whose gas warms and cools, a wall regulator with droop and supply effect, a hose, and what sits at the gun. */
class AirRig extends BaseRig<State> {
  private readonly volume: number;
  private readonly makes: number;
  private readonly needs: number;
  private readonly uses: number;
  private readonly hose: number;
  private readonly effect: number;
  private readonly droop: number;
  private readonly gunDroop: number;
  private readonly warms: number;
  private readonly cools: number;
  private readonly relief: number;
  private readonly gains: Readonly<Record<'wall' | 'gun' | 'valve' | 'range' | 'diff', number>>;
  private readonly middle: number;
  private readonly ambient: number;
  private readonly variant: string;
  private readonly throttles: boolean;
  private readonly thread: Thread = { play: 0.04, travel: 40 };
  protected override readonly knocked: Readonly<Record<string, number>>;
  protected s: State;

  constructor(options: RigOptions) {
    super(options, 0x2f6e2b1d);
    const { plan, ambient } = options;
    const { random, own, size } = this;
    const { v, plate } = read(plan);
    const has = (fault: keyof typeof FAULTS): boolean => this.has(fault);
    const between = (a: number, b: number): number => a + (b - a) * random.next();
    this.ambient = ambient;
    this.variant = plan.variant;
    this.throttles = plan.variant === 'valve' && !byWall(plan);
    const [cutIn, cutOut] = [v.cutIn ?? psi(90), v.cutOut ?? psi(130)];
    this.needs = plate.need ?? psi(40);
    this.uses = plate.uses ?? 9 * CFM;
    this.volume = plate.receiver ?? 0.25;
    this.relief = plate.relief ?? psi(150);
    const fad = plate.fad ?? 1.4 * this.uses;
    const worn = has('pump-worn')
      ? 1 - 0.4 * Math.min(1.4, Math.max(0.85, size))
      : has('small-receiver')
        ? 0.5
        : 1;
    this.makes = fad * between(0.94, 1.02) * worn;
    const bore = (plate.bore ?? 0.375 * 0.0254) / 0.0254 / 0.375;
    const length = (plate.hose ?? 50 * 0.3048) / 0.3048 / 50;
    const narrow = has('narrow-hose') ? 1 + 9 * size : 1;
    this.hose = (LOSES / 144) * (length / bore ** 5) * narrow * spreadFactor(own, 0.1);
    this.effect = 0.02 + 0.04 * own.next();
    this.droop = psi(3 + 4 * own.next());
    this.gunDroop = psi(1 + own.next());
    this.warms = 30 + 25 * own.next();
    this.cools = 120 + 100 * own.next();
    this.gains = {
      wall: psi(8) * spreadFactor(own, 0.3),
      gun: psi(6) * spreadFactor(own, 0.3),
      valve: spreadFactor(own, 0.35),
      range: psi(5) * spreadFactor(own, 0.3),
      diff: psi(4) * spreadFactor(own, 0.3),
    };
    const near = has('relief-near') ? 0.955 * this.relief - cutOut : 0;
    const narrowDiff = has('diff-narrow') ? (cutOut - cutIn) * (1 - 0.42 / size ** 0.5) : 0;
    const inSet = cutIn + psi(1.2) * random.normal() + (near > 0 ? near : 0) + Math.max(0, narrowDiff);
    const outSet = Math.max(inSet + psi(8), cutOut + psi(1.2) * random.normal() + Math.max(0, near));
    this.middle = (inSet + outSet) / 2;
    this.s = this.begin({
      tank: outSet - psi(3),
      wall: 0,
      gun: 0,
      flow: 0,
      gas: ROOM,
      contact: 0,
      runs: 0,
      waits: 0,
      wallSet: 0,
      gunSet: 0,
      valve: 1,
      inSet,
      outSet,
      inNow: inSet,
      outNow: outSet,
      marks: [],
      handles: { power: 0, drain: 0, trigger: 0, wide: 0, fitted: 0 },
    });
    this.place(plan, between);
    const zero = has('zero-off') ? psi(between(1, 2)) * size * (random.next() < 0.5 ? -1 : 1) : 0;
    this.knocked = zero === 0 ? {} : { gun: zero };
    this.draw();
  }

  /** Sets wall and gun so that they flow at what was planned, a little beside it, and then what is wrong with them. */
  private place(plan: RigOptions['plan'], between: (a: number, b: number) => number): void {
    const { s, random, size } = this;
    const { v } = read(plan);
    const fresh = this.has('wall-high') || this.has('wall-low');
    const wanted = {
      wall:
        (v.wallFlow ?? psi(70)) +
        (this.has('wall-high')
          ? Math.max(psi(10), s.inSet - (v.wallFlow ?? 0) + psi(between(4, 12))) * Math.max(0.8, size)
          : 0) -
        (this.has('wall-low') ? psi(between(22, 28)) * Math.max(0.8, size) : 0) +
        (fresh ? 0 : psi(1) * random.normal()),
      gun:
        (v.gunFlow ?? this.needs) +
        (this.has('gun-off')
          ? psi(between(6, 12)) * size * (random.next() < 0.5 ? -1 : 1)
          : psi(0.35) * random.normal()),
    };
    const alone = byWall(plan);
    s.gunSet = wanted.gun + this.gunDroop;
    s.valve = 1;
    // The wall is found by trying, as a hand would.
    let [low, high] = [psi(5), psi(250)];
    const target = alone ? wanted.gun + 0.6 * (wanted.wall - (v.wallFlow ?? wanted.wall)) : wanted.wall;
    for (let i = 0; i < 50; i++) {
      s.wallSet = (low + high) / 2;
      const at = this.steady();
      if ((alone ? at.gun : at.wall) < target) low = s.wallSet;
      else high = s.wallSet;
    }
    if (this.has('wall-high')) s.wallSet = wanted.wall + this.droop;
    if (!this.throttles) return;
    let [shut, open] = [0.02, 1];
    for (let i = 0; i < 50; i++) {
      s.valve = (shut + open) / 2;
      if (this.steady().gun < wanted.gun) shut = s.valve;
      else open = s.valve;
    }
  }

  /** Where wall and gun come to stand while it flows, the tank between its points. */
  private steady(tank = this.middle): { readonly wall: number; readonly gun: number } {
    let [gun, wall] = [this.needs, 0];
    for (let i = 0; i < 80; i++) {
      const flow = this.takes(gun);
      wall = this.wallAt(tank, flow);
      gun += 0.35 * (this.gunAt(wall, flow) - gun);
    }
    return { wall, gun };
  }

  /** What the gun takes at a pressure at its inlet: as through a nozzle. */
  private takes(gun: number): number {
    return (this.uses * (Math.max(0, gun) + this.ambient)) / (this.needs + this.ambient);
  }

  private wallAt(tank: number, flow: number): number {
    const { s } = this;
    const part = flow / this.uses;
    const holds = s.wallSet + this.effect * (this.middle - tank) - this.droop * part;
    return Math.max(0, Math.min(holds, tank - psi(5) * part * part));
  }

  private gunAt(wall: number, flow: number): number {
    const { s } = this;
    const q = flow / CFM;
    const square = ((wall + this.ambient) / psi(1)) ** 2 - this.hose * q * q;
    const inlet = Math.max(0, Math.sqrt(Math.max(0, square)) * psi(1) - this.ambient);
    if (s.handles['wide'] === 1 || this.variant === 'none') return inlet;
    if (this.variant === 'regulator') return Math.min(inlet, s.gunSet - (this.gunDroop * flow) / this.uses);
    const part = flow / this.uses;
    return Math.max(0, inlet - (psi(6) * part * part) / s.valve ** 2);
  }

  get channels(): Readonly<Record<string, number>> {
    const { s } = this;
    const minute = s.marks[0] ?? s.tank;
    return {
      motor: s.runs,
      trigger: s.handles['trigger'] ?? 0,
      relief: s.tank >= this.relief ? 1 : 0,
      fall: Math.max(0, minute - s.tank),
    };
  }

  step(dt: number): void {
    const { s } = this;
    const { power, drain, trigger } = s.handles as Record<string, number>;
    s.time += dt;
    if (s.contact === 0 && s.tank <= s.inNow && !this.has('no-start')) {
      s.contact = 1;
      this.draw();
    } else if (s.contact === 1 && s.tank >= s.outNow && !this.has('no-stop')) {
      s.contact = 0;
      this.draw();
    }
    s.waits = power === 1 && s.contact === 1 ? s.waits + dt : 0;
    s.runs = s.waits >= MOTOR_S ? 1 : 0;
    const drawn = trigger === 1 ? s.flow : 0;
    const bled = drain === 1 ? (power === 1 ? 5 : 14) * CFM * ((s.tank + this.ambient) / psi(105)) : 0;
    const leaks = this.has('leak') ? (psi(4.5) * this.size * this.volume) / this.ambient / 60 : 0;
    const fed = s.runs * this.makes * (1 - 0.0015 * (s.tank / psi(1) - 90));
    const was = s.gas;
    // What comes in is warm: it mixes with what is there.
    const mixes = (fed * this.ambient) / (this.volume * (s.tank + this.ambient));
    s.gas += ((ROOM + this.warms - s.gas) * mixes - (s.gas - ROOM) / this.cools) * dt;
    s.tank +=
      ((this.ambient / this.volume) * (fed - drawn - bled - leaks) * s.gas * dt) / ROOM +
      ((s.tank + this.ambient) / s.gas) * (s.gas - was);
    s.tank = Math.max(0, Math.min(s.tank, this.relief * 1.02));
    this.flowOn(dt, trigger === 1);
    if (Math.floor(s.time) !== Math.floor(s.time - dt)) {
      s.marks.push(s.tank);
      if (s.marks.length > 61) s.marks.shift();
    }
  }

  /** Wall and gun follow within a second; shut, the wall stands over what flows, and one that does not relieve never comes down. */
  private flowOn(dt: number, pulled: boolean): void {
    const { s } = this;
    const wantedFlow = pulled ? this.takes(s.gun) : 0;
    s.flow += ((wantedFlow - s.flow) * dt) / (SETTLES_S + dt);
    const wall = this.wallAt(s.tank, s.flow);
    const rises = wall > s.wall || pulled || !this.has('not-relieving');
    if (rises) s.wall += ((wall - s.wall) * dt) / (SETTLES_S + dt);
    if (this.has('creep') && !pulled)
      s.wall = Math.min(s.tank, Math.max(s.wall, wall) + CREEPS * this.size * dt);
    const gun = pulled
      ? this.gunAt(s.wall, s.flow)
      : this.variant === 'regulator'
        ? Math.min(s.gunSet, s.wall)
        : s.wall;
    s.gun += ((gun - s.gun) * dt) / (SETTLES_S + dt);
  }

  gauge(slot: string): number {
    const { s } = this;
    const { fitted } = s.handles as Record<string, number>;
    const p = slot === 'tank' ? s.tank : slot === 'wall' ? s.wall : fitted === 1 ? s.gun : 0;
    const flows = s.handles['trigger'] === 1 && slot !== 'tank';
    return this.needle(slot, p, flows ? FLUTTER : NOISE[slot as keyof typeof NOISE]);
  }

  turn(adjuster: string, amount: number): void {
    const { s } = this;
    const moved = this.carried(adjuster, amount, this.thread);
    if (adjuster === 'wall' || adjuster === 'wallAlone') s.wallSet += moved * this.gains.wall;
    else if (adjuster === 'gun') s.gunSet += moved * this.gains.gun;
    // Clockwise shuts it.
    else if (adjuster === 'valve')
      s.valve = Math.min(1, Math.max(0.03, s.valve * 0.8 ** (moved * this.gains.valve)));
    else if (adjuster === 'range') {
      s.inSet += moved * this.gains.range;
      s.outSet += moved * this.gains.range;
    } else s.outSet += moved * this.gains.diff;
    s.wallSet = Math.max(0, s.wallSet);
    this.draw();
  }

  answer(stepKey: string): string {
    const { s } = this;
    if (stepKey === 'look') return this.has('relief-stuck') ? 'relief-bad' : 'sound';
    if (stepKey === 'rest') return (this.channels['fall'] ?? 0) < psi(0.25) ? 'stands' : '';
    if (stepKey.endsWith('cut-in')) return s.runs === 1 ? 'still-runs' : 'no-start';
    // It stopped before anybody looked: there is nothing to be read of that.
    if (stepKey.endsWith('cut-out') && s.runs === 0 && s.contact === 0) return 'missed';
    if (stepKey.endsWith('cut-out'))
      return this.channels['relief'] === 1
        ? 'hisses'
        : s.runs === 1 && s.tank > 0.8 * this.relief
          ? 'no-stop'
          : 'stands';
    if (stepKey === 'pattern') return 'even';
    if (stepKey === 'wide' || stepKey === 'wide-wall') return 'swings';
    if (stepKey.endsWith('-gun') || stepKey.endsWith('-wall')) return 'starved';
    if (stepKey.endsWith('-sustained')) return s.runs === 1 || s.contact === 1 ? 'falling' : 'no-need';
    if (stepKey.endsWith('-swing')) {
      const [top, low] = [this.steady(s.outSet).gun, this.steady(s.inSet - psi(2)).gun];
      return top - low > psi(2) ? 'followed' : low - top > psi(2) ? 'against' : 'stood';
    }
    return stepKey.endsWith('-lock-up') && this.has('creep') ? 'creeps' : '';
  }

  truth(): Readonly<Record<string, number>> {
    const wide = this.s.handles['wide'] ?? 0;
    this.s.handles['wide'] = 0;
    const { wall, gun } = this.steady();
    this.s.handles['wide'] = wide;
    return { gunFlow: gun, wallFlow: wall, cutIn: this.s.inSet, cutOut: this.s.outSet, makes: this.makes };
  }

  private draw(): void {
    this.s.inNow = this.s.inSet + psi(0.6) * this.noise.normal();
    this.s.outNow = Math.max(this.s.inNow + psi(4), this.s.outSet + psi(0.6) * this.noise.normal());
  }
}

export const airSupplyRig = rigOf(parts, FAULTS, AirRig, {
  drives: { channel: 'motor', stop: 'Switch the motor off' },
  meters: [{ channel: 'motor', title: 'Motor', shows: ['still', 'running'] }],
  scenarios: [
    {
      id: 'cycles',
      title: 'Filled, and drawn from',
      slot: 'tank',
      hands: [
        { at_s: 0, handle: 'power', value: 1 },
        ...[10, 400, 800].flatMap((t) => [
          { at_s: t, handle: 'trigger', value: 1 },
          { at_s: t + 250, handle: 'trigger', value: 0 },
        ]),
      ],
    },
  ],
  noise: () => NOISE,
});

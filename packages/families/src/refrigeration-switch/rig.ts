import { BaseRig, rigOf, spreadFactor, type RigOptions, type Thread } from '@firm-needle/core/rig';
import { hasHigh, hasLow, highByItself, lowByKnob, parts, read } from './parts.js';
import { bar } from './bounds.js';
import {
  FAULTS,
  BOILS_OFF_S,
  PUMPS_S,
  SETTLES_S,
  CREEPS,
  LEAKS_IN,
  CRACK,
  OPEN,
  RISES,
  FALLS,
  FEEDS,
  BLEEDS,
  FEELS_S,
  HOSE_S,
  SHUT_S,
  TIMER_S,
  KNOB_S,
  NOISE,
  BOILS_K,
  SLOPE,
  STARVED,
  type State,
} from './machine.js';
import { floorOf } from './plan.js';
import { seen } from './seen.js';

/** A coil that boils, a compressor that sweeps, a condenser that is cooled, and a switch with two sides on them. */
class SwitchRig extends BaseRig<State> {
  private readonly ambient: number;
  private readonly runsAt: { readonly suction: number; readonly discharge: number };
  private readonly still: number;
  private readonly gain: { readonly range: number; readonly diff: number; readonly high: number };
  private readonly err: { readonly low: number; readonly diff: number; readonly high: number };
  private readonly thread: Thread = { play: 1 / 20, travel: 60 };
  private readonly reset: number;
  private readonly sticks: number;
  private readonly delay: number;
  private readonly nudge: Readonly<Record<'range' | 'diff' | 'high', number>>;
  private readonly sides: { readonly low: boolean; readonly high: boolean };
  private readonly auto: { readonly low: boolean; readonly high: boolean };
  private readonly most: number;
  private readonly planned: { readonly start: number; readonly diff: number; readonly high: number };
  protected override readonly knocked: Readonly<Record<string, number>>;
  protected s: State;

  constructor(options: RigOptions) {
    super(options, 0x51ed270b);
    const { plan, ambient } = options;
    const { random, own, size } = this;
    const { v, plate } = read(plan);
    const between = (a: number, b: number): number => a + (b - a) * random.next();
    const has = (fault: keyof typeof FAULTS): boolean => this.has(fault);
    this.ambient = ambient;
    this.sides = { low: hasLow(plan), high: hasHigh(plan) };
    this.auto = { low: !lowByKnob(plan), high: highByItself(plan) };
    const [start, stop] = [v.lpStart ?? bar(2), v.lpStop ?? bar(1)];
    const high = v.hpStop ?? bar(16);
    const boils = BOILS_K[plan.choices?.['refrigerant'] ?? ''] ?? 240;
    const at = (T: number): number => 101325 * Math.exp(SLOPE * (1 - boils / T)) - ambient;
    this.still = Math.max(start + bar(1.2), at(plate.room ?? 281));
    this.runsAt = {
      suction: plate.suction ?? start + bar(0.4),
      discharge: plate.discharge ?? Math.min(high - bar(4), 0.6 * high),
    };
    this.most = Math.min(plate.psHigh ?? Infinity, 0.9 * (plate.relief ?? Infinity));
    // What it was set to, a little beside the plan, and how its scales err.
    this.gain = {
      range: bar(0.7) * spreadFactor(own, 0.1),
      diff: bar(0.15) * spreadFactor(own, 0.13),
      high: bar(2.3) * spreadFactor(own, 0.1),
    };
    this.nudge = {
      range: (this.gain.range / 32) * (2 * own.next() - 1),
      diff: (this.gain.diff / 32) * (2 * own.next() - 1),
      high: (this.gain.high / 32) * (2 * own.next() - 1),
    };
    this.reset = (plate.hpDiff ?? bar(4)) + bar(0.2) * own.normal();
    this.sticks = has('wanders') ? bar(0.3) * size : 0;
    this.delay = has('timer') ? TIMER_S : (plate.delay ?? 0);
    const either = random.next() < 0.5 ? -1 : 1;
    const scale = {
      low: bar(0.1) * own.normal(),
      diff: bar(0.08) * own.normal(),
      high: bar(0.5) * own.normal(),
    };
    // A scale that is off: somebody set it to the plan by its pointer.
    const off = has('low-off') ? bar(between(0.45, 0.75)) * size * (stop > bar(1.2) ? either : 1) : 0;
    const wide = has('diff-wide') ? bar(between(0.45, 0.8)) * size : 0;
    const highOff = has('high-off') ? bar(between(1.8, 2.8)) * size * (random.next() < 0.6 ? -1 : 1) : 0;
    this.err = { low: scale.low + off, diff: scale.diff + wide, high: scale.high + highOff };
    const beside = (sd: number): number => bar(sd) * random.normal();
    this.planned = { start, diff: start - stop, high: high - bar(0.5) };
    this.s = this.begin({
      suction: this.still - bar(0.2),
      discharge: this.still,
      bottle: 0,
      shownLow: this.still - bar(0.2),
      shownHigh: this.still,
      feltLow: this.still - bar(0.2),
      feltHigh: this.still,
      liquid: 1,
      lowMade: 1,
      highMade: 1,
      runs: 0,
      waits: 0,
      shutIn: 0,
      pressed: 0,
      range:
        start +
        beside(0.05) -
        scale.low +
        (has('start-high') && this.auto.low ? this.still - start + bar(0.4) * size : 0),
      diff: this.spread(start, stop, floorOf(plan)) + beside(0.03) - scale.diff,
      // In the middle of what is allowed, so that nothing is just at its edge.
      high:
        high -
        bar(0.5) +
        beside(0.12) -
        scale.high -
        (has('high-low') ? Math.min(bar(4.3), 0.27 * high) * size : 0),
      startNow: 0,
      stopNow: 0,
      hung: 1,
      highNow: 0,
      handles: {
        power: 0,
        hoses: 0,
        liquid: 2,
        fan: 1,
        knobs: 0,
        port: 0,
        nitrogen: 0,
        plates: has('unlocked') ? 0 : 1,
        tube: 0,
        pointers: 0,
      },
    });
    const zero = has('zero-off') ? bar(between(0.15, 0.3)) * size * (random.next() < 0.5 ? -1 : 1) : 0;
    this.knocked = zero === 0 ? {} : this.sides.low ? { low: zero } : { high: 4 * zero };
    this.draw();
  }

  get channels(): Readonly<Record<string, number>> {
    const { s } = this;
    const port = s.handles['port'];
    const contact = port === 1 ? s.lowMade : port === 2 ? s.highMade : s.lowMade * s.highMade;
    return { contact, runs: s.runs, fan: s.handles['fan'] ?? 0 };
  }

  step(dt: number): void {
    const { s } = this;
    const { power, liquid, fan, port, knobs } = s.handles as Record<string, number>;
    s.time += dt;
    const fed = port !== 0;
    const calls = power === 1 && ((s.lowMade === 1 && s.highMade === 1) || this.has('by-passed'));
    s.waits = calls ? s.waits + dt : 0;
    s.runs = calls && s.waits >= this.delay ? 1 : 0;
    this.suck(dt, liquid ?? 0);
    this.squeeze(dt, fan === 1);
    if (fed) this.feed(dt, port === 1 ? 'low' : 'high');
    const lag = this.has('tube-blocked') && s.handles['tube'] !== 1 && !fed ? SHUT_S * this.size : FEELS_S;
    s.feltLow += (((port === 1 ? s.bottle : s.suction) - s.feltLow) * dt) / (lag + dt);
    s.shownLow += (((port === 1 ? s.bottle : s.suction) - s.shownLow) * dt) / (HOSE_S + dt);
    s.shownHigh += (((port === 2 ? s.bottle : s.discharge) - s.shownHigh) * dt) / (HOSE_S + dt);
    s.feltHigh += (((port === 2 ? s.bottle : s.discharge) - s.feltHigh) * dt) / (FEELS_S + dt);
    s.pressed = knobs === 1 ? s.pressed + dt : 0;
    this.act(knobs === 1);
    if (s.pressed > KNOB_S) s.handles['knobs'] = 0;
  }

  /** The low side: what boils, what is swept, what creeps or leaks back. */
  private suck(dt: number, liquid: number): void {
    const { s } = this;
    const vacuum = -0.75 * this.ambient;
    if (s.runs === 1) {
      s.liquid = liquid > 0 ? Math.min(1, s.liquid + dt / 4) : s.liquid - dt / BOILS_OFF_S;
      const wet = Math.max(0, s.liquid);
      const to = wet > 0 ? this.runsAt.suction * (this.has('low-charge') ? 0.75 : 1) : vacuum;
      const tau = wet > 0 ? SETTLES_S : PUMPS_S;
      s.suction += ((to - s.suction) * dt) / (tau + dt);
      if (liquid === 0 && this.has('valve-leaks'))
        s.suction += 0.35 * LEAKS_IN * dt * (s.suction < bar(0.3) ? 1 : 0.2);
    } else {
      const into =
        liquid === 2 ? OPEN : liquid === 1 ? CRACK : this.has('valve-leaks') ? LEAKS_IN * this.size : CREEPS;
      s.liquid = Math.min(1, Math.max(0, s.liquid) + (liquid > 0 ? dt / 20 : 0));
      s.suction = Math.min(this.still, s.suction + into * dt);
    }
  }

  /** The high side: heat in, air over it. */
  private squeeze(dt: number, cooled: boolean): void {
    const { s } = this;
    const usual = this.runsAt.discharge;
    if (s.runs === 0) s.discharge = Math.max(this.still, s.discharge - (cooled ? FALLS : FALLS / 4) * dt);
    else if (cooled)
      s.discharge += Math.sign(usual - s.discharge) * Math.min(FALLS * dt, Math.abs(usual - s.discharge));
    else {
      // One that is fouled loses its heat elsewhere before it comes to its stop.
      const ends = this.has('fouled-condenser') ? usual + 0.4 * (this.points().high - usual) : Infinity;
      s.discharge = Math.min(Math.max(ends, s.discharge - RISES * dt), s.discharge + RISES * dt);
    }
    // What is shut in fills the condenser.
    if (s.runs === 1 && this.floods) s.discharge += 2 * RISES * dt;
  }

  /** Its liquid is shut in, and has nowhere to go. */
  private get floods(): boolean {
    return this.has('no-receiver') && this.s.shutIn === 1 && this.s.handles['liquid'] === 0;
  }

  private feed(dt: number, side: 'low' | 'high'): void {
    const { s } = this;
    const hand = s.handles['nitrogen'] ?? 0;
    const made = side === 'low' ? s.lowMade : s.highMade;
    // The hand stops as the meter turns.
    if (hand === 1 && (side === 'low' ? made === 0 || !this.auto.low : made === 1))
      s.bottle = Math.min(side === 'low' ? this.still + bar(2) : this.most, s.bottle + FEEDS[side] * dt);
    else if (hand === -1 && made === 1) s.bottle = Math.max(0, s.bottle - BLEEDS[side] * dt);
    else if (hand === -2) s.bottle = 0;
  }

  private act(pressed: boolean): void {
    const { s } = this;
    if (s.lowMade === 1 && s.feltLow <= s.stopNow) {
      s.lowMade = 0;
      // For a start and the stop after it it hangs to one side, then to the other; what turns or nudges it is no act of its own.
      s.hung = s.hung === 1 ? -1 : 1;
      this.draw();
      // Open at this pressure it closes above it.
      s.startNow = Math.max(s.startNow, s.feltLow + bar(0.1));
    } else if (s.lowMade === 0 && s.feltLow >= s.startNow && (this.auto.low || pressed)) {
      s.lowMade = 1;
      this.draw();
    }
    if (this.has('high-welded')) s.highMade = 1;
    else if (s.highMade === 1 && s.feltHigh >= s.highNow) {
      s.highMade = 0;
      this.draw();
    } else if (s.highMade === 0 && !this.has('no-reset') && s.feltHigh <= s.highNow - this.reset) {
      if (this.auto.high || pressed || this.has('self-reset')) s.highMade = 1;
    }
    if (!this.sides.low) s.lowMade = 1;
    if (!this.sides.high) s.highMade = 1;
  }

  override set(handle: string, value: number): void {
    const was = this.position(handle);
    super.set(handle, value);
    const { s } = this;
    if (handle === 'liquid' && value === 0 && was !== 0) s.shutIn++;
    if (handle === 'port' && value !== was) {
      s.bottle = 0;
      if (value === 1) s.feltLow = 0;
      if (value === 1) s.lowMade = 0;
      if (value === 2) {
        s.feltHigh = 0;
        s.highMade = 1;
      }
    }
    if (handle === 'nitrogen' && value === -2) s.bottle = 0;
    // A plate that goes on nudges what it locks.
    if (handle === 'plates' && value === 1 && was === 0) {
      s.range += this.nudge.range;
      s.diff -= this.nudge.diff;
      s.high += this.nudge.high;
      this.draw();
    }
    if (handle === 'pointers' && value === 1 && was === 0) {
      s.range = this.planned.start;
      s.diff = this.planned.diff;
      s.high = this.planned.high;
      this.draw();
    }
  }

  gauge(slot: string): number {
    const { s } = this;
    const { hoses, port } = s.handles as Record<string, number>;
    const fed = (port === 1 && slot === 'low') || (port === 2 && slot === 'high');
    const p = !fed && hoses !== 1 ? 0 : slot === 'low' ? s.shownLow : s.shownHigh;
    const noise = slot === 'low' ? NOISE.low : NOISE.high;
    return this.needle(slot, p, fed || hoses !== 1 || s.runs === 0 ? noise / 4 : noise);
  }

  turn(adjuster: string, amount: number): void {
    const moved = this.carried(adjuster, amount, this.thread);
    if (adjuster === 'range') this.s.range += moved * this.gain.range;
    // Clockwise narrows.
    else if (adjuster === 'diff') this.s.diff -= moved * this.gain.diff;
    else this.s.high += moved * this.gain.high;
    this.draw();
  }

  answer(stepKey: string): string {
    return seen(stepKey, (fault) => this.has(fault), this.auto.high, this.s, this.floods);
  }

  truth(): Readonly<Record<string, number>> {
    const { start, stop, high } = this.points();
    return { lpStart: start, lpStop: stop, hpStop: high };
  }

  /** Where it acts as it stands, without its scatter. */
  private points(): { readonly start: number; readonly stop: number; readonly high: number } {
    const { s } = this;
    const start = s.range + this.err.low;
    return { start, stop: start - Math.max(bar(0.2), s.diff + this.err.diff), high: s.high + this.err.high };
  }

  /** What it was set to differ by. */
  private spread(start: number, stop: number, floor: number): number {
    if (this.has('diff-narrow')) return (start - stop) / (1 + 1.7 * this.size);
    return this.has('stop-low') ? start - floor + bar(0.05) : start - stop;
  }

  private draw(): void {
    const { start, stop, high } = this.points();
    const { s } = this;
    const hangs = s.hung * this.sticks * (1 + 0.3 * Math.abs(this.sticks > 0 ? this.noise.normal() : 0));
    const scatter = (sd: number): number => bar(sd) * this.noise.normal();
    this.s.startNow = start + scatter(0.03) + hangs;
    this.s.stopNow = Math.min(this.s.startNow - bar(0.1), stop + scatter(0.03) + hangs);
    this.s.highNow = high + scatter(0.12);
  }
}

export const refrigerationSwitchRig = rigOf(parts, FAULTS, SwitchRig, {
  drives: { channel: 'contact', stop: 'Stop it' },
  meters: [
    { channel: 'contact', title: 'Contact', shows: ['open', 'closed'] },
    { channel: 'runs', title: 'Compressor', shows: ['still', 'running'] },
  ],
  scenarios: [
    {
      id: 'cycles',
      title: 'Starved and fed again',
      slot: 'low',
      hands: [{ at_s: 0, handle: 'hoses', value: 1 }, { at_s: 0, handle: 'power', value: 1 }, ...STARVED],
    },
  ],
  noise: () => NOISE,
});

// Signals of every kind of trace with their truth, for tests and figures. Simple physics of its own, none of it shared with the
// rigs: what finds events here has not been fitted to what it is later used on.
import { seeded, type Random } from '../rig/random.js';
import type { TraceKind } from './analyse.js';
import { SampleStore, type Samples } from './samples.js';

export interface SignalOptions {
  readonly seed: number;
  readonly rate_hz: number;
  /** SD of the noise, Pa. */
  readonly noise: number;
  /** Step of the figures, Pa; 0 for none. */
  readonly step: number;
  /** Whether valves and checks slam. */
  readonly hammer?: boolean;
  /** Share of the time that is missing. */
  readonly gaps?: number;
  /** A contact, flow or trigger channel beside the pressure. */
  readonly channel?: boolean;
}

export interface TrueEvent {
  readonly kind: string;
  readonly t: number;
  readonly p: number;
}

export interface Signal {
  readonly kind: TraceKind;
  readonly samples: Samples;
  readonly events: readonly TrueEvent[];
  readonly figures: Readonly<Record<string, number>>;
}

const PSI = 6894.757293168361;
const STEP_S = 0.01;
export const EDGE_S = 12;

/** Writes samples of a true pressure as a logger would see them. */
class Logger {
  private readonly random: Random;
  private readonly store: SampleStore;
  private next = 0;
  private hole: readonly [number, number];
  readonly events: TrueEvent[] = [];
  private slam = 0;
  private slamAge = Infinity;

  constructor(
    private readonly o: SignalOptions,
    private readonly length_s: number,
    private readonly channel: string | undefined,
  ) {
    this.random = seeded(o.seed ^ 0x51ed270b);
    this.store = new SampleStore(channel ? [channel] : []);
    const width = (o.gaps ?? 0) * length_s;
    const from = (0.3 + 0.4 * this.random.next()) * length_s;
    this.hole = width > 0 ? [from, from + width] : [Infinity, Infinity];
  }

  event(kind: string, t: number, p: number): void {
    if (t < this.hole[0] - 4 / this.o.rate_hz || t > this.hole[1] + 4 / this.o.rate_hz)
      this.events.push({ kind, t, p });
  }

  /** A valve shut with a bang: a spike that rings out in a third of a second. */
  bang(height: number): void {
    if (!this.o.hammer) return;
    this.slam = height;
    this.slamAge = 0;
  }

  take(t: number, p: number, state: number): void {
    this.slamAge += STEP_S;
    if (t < this.next) return;
    this.next += 1 / this.o.rate_hz;
    if (t >= this.hole[0] && t < this.hole[1]) return;
    const ring =
      this.slamAge < 0.4
        ? this.slam * Math.exp(-this.slamAge / 0.08) * Math.cos(2 * Math.PI * this.slamAge * 6)
        : 0;
    const seen = p + ring + this.o.noise * this.random.normal();
    const { step } = this.o;
    this.store.push(
      t,
      step > 0 ? Math.round(seen / step) * step : seen,
      this.channel ? { [this.channel]: state } : {},
    );
  }

  done(kind: TraceKind, figures: Record<string, number>): Signal {
    // What the trace begins or ends on cannot be seen to turn.
    const seen = this.events.filter((e) => e.t > EDGE_S && e.t < this.length_s - EDGE_S);
    return { kind, samples: this.store.take(), events: seen, figures };
  }

  mean(kind: string): number {
    const list = this.events.filter((e) => e.kind === kind);
    return list.reduce((a, e) => a + e.p, 0) / list.length;
  }
}

/** A pump, a tank and a switch: draws come and go, the pump starts low and stops high. */
export function cycleSignal(o: SignalOptions): Signal {
  const random = seeded(o.seed);
  const between = (a: number, b: number): number => a + (b - a) * random.next();
  const length = Math.max(900, 40 / o.rate_hz);
  const log = new Logger(o, length, o.channel ? 'contact' : undefined);
  const ambient = 101325;
  const cutIn = between(25, 50) * PSI;
  const cutOut = cutIn + between(12, 28) * PSI;
  const precharge = cutIn - between(1, 4) * PSI;
  const tank = between(0.08, 0.3);
  const give = (tank * (precharge + ambient) * (1 / (cutIn + ambient) - 1 / (cutOut + ambient))) / 1;
  // A cycle lasts one to four minutes, so that even a sample every five seconds sees it.
  const pump = give / between(35, 90);
  let water = tank * (1 - (precharge + ambient) / (cutIn + between(3, 10) * PSI + ambient));
  let running = false;
  let draw = pump * between(0.3, 0.6);
  let change = between(20, 60);
  const jitter = 0.05 * PSI;
  let [low, high] = [cutIn, cutOut];
  const pressure = (): number => ((precharge + ambient) * tank) / (tank - water) - ambient;
  for (let t = 0; t < length; t += STEP_S) {
    if (t > change) {
      draw = running ? pump * between(0.1, 0.4) : pump * between(0.25, 0.7);
      change = t + between(30, 90);
    }
    const p = pressure();
    if (!running && p <= low) {
      running = true;
      draw = Math.min(draw, 0.4 * pump);
      high = cutOut + jitter * random.normal();
      log.event('cutIn', t, p);
    } else if (running && p >= high) {
      running = false;
      low = cutIn + jitter * random.normal();
      log.event('cutOut', t, p);
      log.bang(between(5, 18) * PSI);
    }
    water += ((running ? pump : 0) - draw) * STEP_S;
    log.take(t, p, running ? 1 : 0);
  }
  return log.done('cycles', { cutIn: log.mean('cutIn'), cutOut: log.mean('cutOut') });
}

/** A regulator: flowing and shut by turns, with droop, lock-up, a little creep, sometimes hunting. */
export function levelSignal(o: SignalOptions): Signal {
  const random = seeded(o.seed);
  const between = (a: number, b: number): number => a + (b - a) * random.next();
  const length = Math.max(600, 60 / o.rate_hz);
  const log = new Logger(o, length, o.channel ? 'flow' : undefined);
  const flowing = between(35, 60) * PSI;
  const lockUp = flowing + between(3, 8) * PSI;
  const creep = (random.next() < 0.4 ? between(0.005, 0.02) : 0) * PSI;
  const hunts = random.next() < 0.4 && o.rate_hz >= 2;
  const amplitude = hunts ? between(0.6, 1.5) * PSI : 0;
  const period = between(3, 7);
  let on = true;
  let since = 0;
  let next = between(60, 110);
  let p = flowing;
  for (let t = 0; t < length; t += STEP_S) {
    if (t > next) {
      on = !on;
      since = t;
      next = t + between(60, 110);
      log.event(on ? 'flowStart' : 'flowStop', t, p);
      if (!on) log.bang(between(4, 12) * PSI);
    }
    const goal = on ? flowing : lockUp + creep * (t - since);
    p += ((goal - p) * STEP_S) / (on ? 1.5 : 2.5);
    const wave = on ? amplitude * Math.sin((2 * Math.PI * t) / period) : 0;
    log.take(t, p + wave, on ? 1 : 0);
  }
  return log.done('levels', {
    flowing,
    lockUp,
    droop: lockUp - flowing,
    creepRate: creep,
    ...(hunts ? { huntAmplitude: amplitude, huntPeriod: period } : {}),
  });
}

/** An unloader: the trigger pulled and released, with a spike at every release. */
export function unloaderSignal(o: SignalOptions): Signal {
  const random = seeded(o.seed);
  const between = (a: number, b: number): number => a + (b - a) * random.next();
  const length = Math.max(240, 400 / o.rate_hz);
  const log = new Logger(o, length, o.channel ? 'trigger' : undefined);
  const working = between(1400, 3200) * PSI;
  const trapped = working + between(200, 420) * PSI;
  let on = true;
  const least = Math.max(15, 10 / o.rate_hz);
  let next = between(least, 2 * least);
  let p = working;
  for (let t = 0; t < length; t += STEP_S) {
    if (t > next) {
      on = !on;
      next = t + between(least, 2 * least);
      log.event(on ? 'pulled' : 'released', t, p);
      if (!on) log.bang(between(150, 300) * PSI);
    }
    p += (((on ? working : trapped) - p) * STEP_S) / 0.3;
    log.take(t, p, on ? 1 : 0);
  }
  return log.done('unloader', { working, trapped, spike: trapped - working });
}

/** A first stage purged now and then. */
export function dipSignal(o: SignalOptions): Signal {
  const random = seeded(o.seed);
  const between = (a: number, b: number): number => a + (b - a) * random.next();
  const length = Math.max(300, 100 / o.rate_hz);
  const log = new Logger(o, length, undefined);
  const lockUp = between(125, 150) * PSI;
  const dip = between(8, 25) * PSI;
  const creep = (random.next() < 0.3 ? between(0.002, 0.02) : 0) * PSI;
  let next = between(20, 40);
  let purging = 0;
  let since = 0;
  let p = lockUp;
  for (let t = 0; t < length; t += STEP_S) {
    if (t > next) {
      purging = t + between(2.5, 4) * Math.max(1, 2 / o.rate_hz);
      next = purging + between(25, 45);
      log.event('purge', t, lockUp - dip);
    }
    const open = t < purging;
    if (open) since = t;
    const goal = open ? lockUp - dip : lockUp + creep * (t - since);
    p += ((goal - p) * STEP_S) / (open ? 0.2 : 0.5);
    log.take(t, p, 0);
  }
  return log.done('dips', { lockUp, creepRate: creep, purgeDip: dip });
}

/** A second stage breathed from: suction rises to cracking, falls back while it flows, ends. */
export function crackingSignal(o: SignalOptions): Signal {
  const random = seeded(o.seed);
  const between = (a: number, b: number): number => a + (b - a) * random.next();
  const length = Math.max(120, 200 / o.rate_hz);
  const log = new Logger(o, length, undefined);
  const INH2O = 249.08891;
  const cracking = between(1.1, 1.8) * INH2O;
  let begin = 3;
  let now = cracking;
  let told = false;
  for (let t = 0; t < length; t += STEP_S) {
    const x = t - begin;
    let suction = 0;
    const RISE = Math.max(2.5, 12 / o.rate_hz);
    if (x > 0 && x < RISE) suction = (now * x) / RISE;
    else if (x >= RISE && x < RISE + 2) {
      if (!told) log.event('cracking', t, -now);
      told = true;
      suction = now * (0.55 + 0.45 * Math.exp(-(x - RISE) / 0.12));
    } else if (x >= RISE + 2 && x < RISE + 3) suction = now * 0.55 * (1 - (x - RISE - 2));
    else if (x >= RISE + 3) {
      begin = t + between(3, 5);
      now = cracking * (1 + 0.01 * random.normal());
      told = false;
    }
    log.take(t, -suction, 0);
  }
  return log.done('cracking', { cracking: -log.mean('cracking') });
}

/** A relief valve on a pressure that is raised and let down again. */
export function reliefSignal(o: SignalOptions): Signal {
  const random = seeded(o.seed);
  const between = (a: number, b: number): number => a + (b - a) * random.next();
  const length = Math.max(360, 120 / o.rate_hz);
  const log = new Logger(o, length, undefined);
  const opening = between(120, 180) * PSI;
  const reseat = opening - between(6, 14) * PSI;
  const base = reseat - between(30, 50) * PSI;
  const up = between(0.4, 1) * PSI * Math.min(1, o.rate_hz);
  let p = base;
  let open = false;
  let rising = true;
  let hold = 0;
  for (let t = 0; t < length; t += STEP_S) {
    if (!open && rising) {
      p += up * STEP_S;
      if (p >= opening) {
        open = true;
        log.event('opening', t, p);
      }
    } else if (open) {
      // It lets go faster than the pressure is raised, until it shuts.
      p -= up * 1.5 * STEP_S;
      if (p <= reseat) {
        open = false;
        log.event('reseat', t, p);
        rising = random.next() < 0.7;
        hold = t + between(5, 15);
      }
    } else {
      p = Math.max(base, p - up * 2 * STEP_S);
      if (t > hold && p <= base) rising = true;
    }
    log.take(t, p, 0);
  }
  return log.done('relief', { opening: log.mean('opening') });
}

export const SIGNALS: Readonly<Record<string, (o: SignalOptions) => Signal>> = {
  cycles: cycleSignal,
  levels: levelSignal,
  unloader: unloaderSignal,
  dips: dipSignal,
  cracking: crackingSignal,
  relief: reliefSignal,
};

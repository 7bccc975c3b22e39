// The turn advisor against simpler policies, on the same simulated devices: adjustments to land in the band, and reliefs reached.
import { round } from './technician.mjs';

const BAND = 1;
const NOISE = 0.4;
const RELIEF = 15;
const NAMEPLATE = 2.5;
const BACKLASH = 0.1;
const HAND = { quantum: 1 / 16, largest: 6 };
const MOST = 12;

/** Small, seeded, and the same for every policy. */
function generator(seed) {
  let s = seed >>> 0;
  const next = () => {
    s = (s + 0x6d2b79f5) >>> 0;
    let t = Math.imul(s ^ (s >>> 15), 1 | s);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  const normal = () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
  return { next, normal };
}

const byHand = (turns) =>
  Math.max(-HAND.largest, Math.min(HAND.largest, Math.round(turns / HAND.quantum) * HAND.quantum));

/** One device: log-normal change per turn, backlash of a reversed screw, a reading with noise. Psi, target at 0. */
class Device {
  constructor(seed, spread) {
    const r = generator(seed);
    this.gain = NAMEPLATE * Math.exp(spread * r.normal());
    this.at = -(3 + 7 * r.normal());
    this.noise = r;
    this.way = 0;
    this.lifted = false;
  }

  turn(amount) {
    const sign = Math.sign(amount);
    const slack = this.way !== 0 && sign !== this.way ? Math.min(BACKLASH, Math.abs(amount)) : 0;
    this.at += this.gain * (amount - sign * slack);
    this.way = sign;
    // Only a turn that raises it lifts the relief; some devices begin above it.
    if (this.at > RELIEF && amount > 0) this.lifted = true;
  }

  read() {
    return this.at + NOISE * this.noise.normal();
  }
}

/** A policy is asked for the next turn from the readings and turns so far; null ends it. */
const nameplate = () => ({ next: (y) => byHand(-y / NAMEPLATE) });

function secant(limited) {
  let last;
  let gain = NAMEPLATE;
  return {
    next(y, spread) {
      if (last && last.turns !== 0) {
        const g = (y - last.y) / last.turns;
        // A slope of the wrong sign or next to none is noise: keep what was.
        if (g > 0.2 * NAMEPLATE) gain = g;
      }
      let turns = byHand(-y / gain);
      if (limited) {
        // The same bound on the chance of reaching the relief, by the spread still believed.
        const sd = last ? Math.hypot(0.12, (NOISE * 1.5) / Math.max(1, Math.abs(last.turns) * gain)) : spread;
        const worst = gain * Math.exp(3.719 * sd);
        while (turns > 0 && y + turns * worst + 3.719 * NOISE > RELIEF) turns -= HAND.quantum;
      }
      last = { y, turns };
      return turns;
    },
  };
}

const oracle = (device) => ({ next: (y) => byHand(-y / device.gain) });

function advisor(core, spread) {
  const prior = {
    perTurn: NAMEPLATE,
    spread,
    backlash: 0.2,
    moves: [{ setting: 's', ratio: 1, ratioSpread: 0 }],
  };
  let belief = core.priorBelief(prior);
  const aim = { setting: 's', target: 0, lower: -BAND, upper: BAND, never: RELIEF };
  return {
    next(y) {
      belief = core.update(belief, { setting: 's', value: y, sd: NOISE });
      const a = core.advise(belief, [aim], HAND, { s: y });
      if (a.stop !== null) return null;
      belief = core.update(belief, { turn: a.turns });
      return a.turns;
    },
  };
}

function run(devices, spread, make) {
  const counts = [];
  let lifts = 0;
  let unsettled = 0;
  for (let i = 0; i < devices; i++) {
    const device = new Device(1000 + i, spread);
    const policy = make(device);
    let n = 0;
    let y = device.read();
    while (Math.abs(y) > BAND && n < MOST) {
      const turns = policy.next(y, spread);
      if (turns === null || turns === 0) break;
      device.turn(turns);
      n++;
      y = device.read();
    }
    if (Math.abs(y) > BAND) unsettled++;
    counts.push(n);
    if (device.lifted) lifts++;
  }
  counts.sort((a, b) => a - b);
  return {
    mean: round(counts.reduce((a, b) => a + b, 0) / devices, 4),
    median: counts[devices >> 1],
    p95: counts[Math.floor(devices * 0.95)],
    lifts,
    unsettled,
  };
}

export function advisorFigures(core, devices = 10000) {
  const out = { devices, band_psi: BAND, noise_psi: NOISE, relief_psi: RELIEF, spreads: {} };
  for (const spread of [0.4, 0.6]) {
    const row = {
      nameplate: run(devices, spread, nameplate),
      secant: run(devices, spread, () => secant(false)),
      limitedSecant: run(devices, spread, () => secant(true)),
      oracle: run(devices, spread, oracle),
      advisor: run(devices, spread, () => advisor(core, spread)),
    };
    row.overSecant = round(row.advisor.mean / row.secant.mean - 1);
    out.spreads[spread] = row;
  }
  return out;
}

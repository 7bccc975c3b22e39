// The turn advisor against simpler policies, on the same simulated devices: adjustments to land in the band, and reliefs reached.
import { round } from './technician.mjs';

const BAND = 1;
const NOISE = 0.4;
const RELIEF = 15;
const NAMEPLATE = 2.5;
const BACKLASH = 0.1;
const HAND = { quantum: 1 / 16, largest: 6 };
/** What the advisor is told of the largest movement: as the families have it. */
const SOFT = { quantum: 1 / 16, largest: 3 };
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
  constructor(
    seed,
    spread,
    { noise = NOISE, times = 1, from = (r) => -(3 + 7 * r.normal()), sign = 1 } = {},
  ) {
    const r = generator(seed);
    this.gain = sign * times * NAMEPLATE * Math.exp(spread * r.normal());
    this.at = from(r);
    this.random = r;
    this.noise = noise;
    this.way = 0;
    this.lifted = false;
  }

  turn(amount) {
    const sign = Math.sign(amount);
    const slack = this.way !== 0 && sign !== this.way ? Math.min(BACKLASH, Math.abs(amount)) : 0;
    this.at += this.gain * (amount - sign * slack);
    this.way = sign;
    // Only a turn that raises it lifts the relief; some devices begin above it.
    if (this.at > RELIEF && this.gain * amount > 0) this.lifted = true;
  }

  read() {
    return this.at + this.noise * this.random.normal();
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

function advisor(core, spread, { noise = NOISE, wrong = () => false, never = RELIEF } = {}) {
  const prior = {
    perTurn: NAMEPLATE,
    spread,
    backlash: 0.2,
    moves: [{ setting: 's', ratio: 1, ratioSpread: 0 }],
  };
  let belief = core.priorBelief(prior);
  let looks = 0;
  let again = false;
  const aim = { setting: 's', target: 0, lower: -BAND, upper: BAND, never };
  return {
    next(y) {
      // One look at another gauge: what was read is not what stands.
      const seen = wrong(looks++) ? y + 9 : y;
      belief = core.update(belief, { setting: 's', value: seen, sd: noise });
      const a = core.advise(belief, [aim], SOFT, { s: seen });
      if (a.stop === 'in-limits' && seen !== y) return 0;
      // What would end it is read once more first.
      if (a.stop !== null && !again) {
        again = true;
        return 0;
      }
      again = false;
      if (a.stop !== null) {
        this.stop = a.stop;
        return null;
      }
      belief = core.update(belief, { turn: a.turns });
      return a.turns;
    },
  };
}

function run(devices, spread, make, over) {
  const counts = [];
  let lifts = 0;
  let unsettled = 0;
  let condemned = 0;
  const stops = {};
  for (let i = 0; i < devices; i++) {
    const device = new Device(1000 + i, spread, over);
    const policy = make(device);
    let n = 0;
    let rests = 0;
    let y = device.read();
    while (Math.abs(y) > BAND && n < MOST) {
      const turns = policy.next(y, spread);
      if (turns === null) break;
      if (turns !== 0) {
        device.turn(turns);
        n++;
      } else if (++rests > MOST) break;
      y = device.read();
    }
    if (Math.abs(y) > BAND) stops[policy.stop ?? 'none'] = (stops[policy.stop ?? 'none'] ?? 0) + 1;
    if (['no-response', 'reversed'].includes(policy.stop)) condemned++;
    else if (Math.abs(y) > BAND) unsettled++;
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
    condemned,
    stops,
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
    // What the bound on the relief costs: the same advisor with none to mind, and how often it then lifts one.
    row.unbounded = run(devices, spread, () => advisor(core, spread, { never: Infinity }));
    row.overSecant = round(row.advisor.mean / row.secant.mean - 1);
    row.unboundedOverSecant = round(row.unbounded.mean / row.secant.mean - 1);
    row.overLimitedSecant = round(row.advisor.mean / row.limitedSecant.mean - 1);
    out.spreads[spread] = row;
  }
  return out;
}

/** Spread of a change that was learned on a device. */
const LEARNED = 0.1;

/**
 * What was learned is of another device: its change is so many times what was learned. And a reading taken on the wrong gauge, and a
 * screw that works the wrong way round, near the relief.
 */
export function learnedFigures(core, devices = 300) {
  const out = {};
  for (const times of [0.4, 1, 2.5])
    for (const noise of [0.1, 0.4])
      out[`${times} times what was learned, noise ${noise} psi`] = {
        secant: run(devices, LEARNED, () => secant(false), { times, noise }),
        advisor: run(devices, LEARNED, () => advisor(core, LEARNED, { noise }), { times, noise }),
      };
  for (const look of [1, 2])
    out[`look ${look + 1} at another gauge`] = run(devices, 0.4, () =>
      advisor(core, 0.4, { wrong: (n) => n === look }),
    );
  out['reversed, lowering from 8 under a relief at 15'] = run(devices, 0.4, () => advisor(core, 0.4), {
    sign: -1,
    from: (r) => 8 + 2 * r.normal(),
  });
  return out;
}

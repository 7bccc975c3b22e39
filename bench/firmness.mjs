// How often a needle is called firm while it still moves, and how late it is called firm once it stands.
import { round } from './technician.mjs';

const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];
const RATE_HZ = 20;
const LENGTH_S = 150;
const WINDOW_S = 3;

/**
 * A pressure that runs out into a level, log-uniform in how far and how slowly, sometimes over a creep, seen by a gauge with noise.
 * A declaration is false where the true slope times the window is over half a resolution at that instant.
 */
export function firmnessFigures(core, traces = 4000) {
  let [declared, falsely] = [0, 0];
  const delays = [];
  for (let seed = 1; seed <= traces; seed++) {
    const random = core.seeded(seed);
    const log = (a, b) => Math.exp(Math.log(a) + (Math.log(b) - Math.log(a)) * random.next());
    const resolution = 1;
    const noise = log(0.02, 0.5) * resolution;
    const height = log(0.5, 200) * resolution * (random.next() < 0.5 ? 1 : -1);
    const tau = log(0.3, 60);
    // Creep under lock-up; its rate too runs over three decades.
    const creep = random.next() < 0.4 ? log(1e-3, 1) * resolution : 0;
    const slope = (t) => Math.abs((-height / tau) * Math.exp(-t / tau) + creep);
    const detector = new core.FirmnessDetector({ window_s: WINDOW_S, resolution, noise });
    let [was, stood] = [false, undefined];
    let told = false;
    for (let i = 0; i < LENGTH_S * RATE_HZ; i++) {
      const t = i / RATE_HZ;
      const stands = slope(t) * WINDOW_S <= resolution / 2;
      if (stands) stood ??= t;
      else stood = undefined;
      detector.push(t, height * Math.exp(-t / tau) + creep * t + noise * random.normal());
      const firm = detector.get().state === 'firm';
      if (firm && !was) {
        declared++;
        if (!stands) falsely++;
        else if (!told && stood !== undefined) delays.push(t - stood);
        told = true;
      }
      was = firm;
    }
  }
  return {
    traces,
    declarations: declared,
    false: falsely,
    falseShare: round(falsely / declared, 5),
    bound: '<= 0.001',
    medianDelay_s: round(median(delays)),
    window_s: WINDOW_S,
  };
}

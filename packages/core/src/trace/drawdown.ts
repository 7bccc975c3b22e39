import { type TraceEvent, meanOf } from './events.js';
import { lineOf, kneeAt } from './knee.js';
import type { Grain } from './noise.js';
import { type Trace, MEASURED_FLOW, indexAt } from './samples.js';
import type { Extreme } from './swings.js';

/** Water given between cut-out and the next cut-in, from a flow channel whose unit is known; m³. */
export function drawdownOf(samples: Trace, events: readonly TraceEvent[]) {
  const flow = samples.states[MEASURED_FLOW];
  if (!flow) return undefined;
  const volumes: number[] = [];
  for (let i = 0; i < events.length - 1; i++) {
    const [a, b] = [events[i], events[i + 1]];
    if (a?.kind !== 'cutOut' || b?.kind !== 'cutIn') continue;
    let v = 0;
    for (let k = indexAt(samples.t, a.t) + 1; k < indexAt(samples.t, b.t); k++)
      v += (((flow[k] ?? 0) + (flow[k - 1] ?? 0)) / 2) * ((samples.t[k] ?? 0) - (samples.t[k - 1] ?? 0));
    volumes.push(v);
  }
  return meanOf(
    volumes,
    volumes.map((v) => 0.01 * v),
    'm3',
  );
}
/** Time in which an emptied tank's pressure is gone, s; and how much of it. */
const COLLAPSE_S = 0.6;
const COLLAPSE = 0.35;
/** The pressure from which a tank collapsed within a moment: where the line before it ends. */
function collapseOf(
  t: Float64Array,
  p: Float64Array,
  from: number,
  to: number,
  grain: Grain,
): TraceEvent | undefined {
  const m = Math.max(1, Math.round(COLLAPSE_S / grain.dt));
  let at = -1;
  let most = 0;
  for (let k = from; k + m <= Math.min(to + m, p.length - 1); k++) {
    const drop = (p[k] ?? 0) - (p[k + m] ?? 0);
    if (drop > most && drop > COLLAPSE * (p[k] ?? 0)) [most, at] = [drop, k];
  }
  if (at < 0) return undefined;
  const back = Math.max(5, Math.round(4 / grain.dt));
  const line = lineOf(t, p, Math.max(from, at - back), at, t[at] ?? 0);
  if (!line || Math.abs(line.slope) * (m * grain.dt) > 0.2 * most) return undefined;
  // On to the last sample that still stands on the line.
  const near = Math.max(5 * grain.sd, 3 * line.sd) + grain.step;
  let k = at;
  while (k < to && Math.abs((p[k + 1] ?? 0) - line.p - line.slope * ((t[k + 1] ?? 0) - (t[at] ?? 0))) < near)
    k++;
  const gone = ((t[k] ?? 0) + (t[k + 1] ?? 0)) / 2;
  return {
    kind: 'precharge',
    t: gone,
    p: line.p + line.slope * (gone - (t[at] ?? 0)),
    u: Math.hypot(line.up, grain.sd, (line.slope * grain.dt) / Math.sqrt(12)),
    ut: grain.dt / Math.sqrt(12),
    from: Math.max(from, at - back),
    to: k + 1,
  };
}
/**
 * Precharge from a tank drained to nothing: with a constant draw 1/(p + ambient) falls along a line until the water is gone and
 * the pressure collapses. The knee is the precharge. [Boyle]
 */
export function drainOf(
  { t, p }: Trace,
  grain: Grain,
  extremes: readonly Extreme[],
  ambient: number,
  main: number,
): TraceEvent | undefined {
  for (let i = 0; i < extremes.length - 1; i++) {
    const [top, bottom] = [extremes[i], extremes[i + 1]];
    if (top?.kind !== 'high' || bottom?.kind !== 'low') continue;
    const empty = Math.max(0.08 * top.p, 6 * grain.sd);
    if (bottom.p > empty || top.p - bottom.p < 0.5 * main) continue;
    const sudden = collapseOf(t, p, top.at, bottom.arrived, grain);
    if (sudden) return sudden;
    let from = top.at;
    while (from < bottom.arrived && (p[from] ?? 0) > top.p - 0.04 * (top.p - bottom.p)) from++;
    let to = from;
    while (to < bottom.arrived && (p[to] ?? 0) > Math.max(empty, 0.12 * top.p)) to++;
    const n = to - from;
    if (n < 8) continue;
    const y = new Float64Array(n);
    const x = new Float64Array(n);
    for (let k = 0; k < n; k++) {
      x[k] = t[from + k] ?? 0;
      y[k] = 1 / ((p[from + k] ?? 0) + ambient);
    }
    // The sample farthest from the chord is near the knee.
    const [x0, y0, x1, y1] = [x[0] ?? 0, y[0] ?? 0, x[n - 1] ?? 0, y[n - 1] ?? 0];
    let near = 0;
    let most = 0;
    for (let k = 0; k < n; k++) {
      const off = Math.abs((y[k] ?? 0) - y0 - ((y1 - y0) * ((x[k] ?? 0) - x0)) / (x1 - x0));
      if (off > most) [most, near] = [off, k];
    }
    const scale = (1 / ambient) ** 2 * grain.sd * 0.1;
    const knee = kneeAt(x, y, near, Math.max(0, near - 4 * (n - near)), n, scale);
    if (!knee || !(knee.after > 2.5 * Math.abs(knee.before))) continue;
    const pressure = 1 / knee.p - ambient;
    return {
      kind: 'precharge',
      t: knee.t,
      p: pressure,
      u: Math.hypot(knee.u * (pressure + ambient) ** 2, grain.sd / 2),
      ut: knee.ut,
      from,
      to,
    };
  }
  return undefined;
}

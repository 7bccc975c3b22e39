import { cleanSwings, meanOf, shown, type Cleaned, type Found, type TraceEvent } from './events.js';
import { cornerAt, unseen } from './corner.js';
import { kneeAt, lineOf, type Knee } from './knee.js';
import { middleLevel } from './middle.js';
import type { Grain } from './noise.js';
import { buildPyramid, extent } from './pyramid.js';
import { indexAt, type Trace } from './samples.js';
import { stepDoubt } from './stretches.js';
import { largestSwing, type Extreme } from './swings.js';

/** First stages: the pressure they stop at, how it creeps, how far it dips when purged. */
export function findDips(whole: Trace, all: Grain): Found {
  const { samples, grain, skipped } = underPressure(whole, all);
  const { t, p } = samples;
  const depth = Math.max(8 * grain.sd, 2.5 * grain.step, 0.25 * (grain.high - grain.low));
  const { extremes } = cleanSwings(samples, grain, depth);
  const lows = extremes.slice(1, -1).filter((e) => e.kind === 'low');
  const usual = middleLevel(p, [{ from: 0, to: p.length }]);
  // Where each dip begins: back from its bottom to the last sample near the pressure it is drawn from.
  const begins = lows.map((e) => {
    const edge = usual - Math.max(4 * grain.sd + grain.step, 0.06 * (usual - e.p));
    let i = e.at;
    while (i > 0 && (p[i - 1] ?? 0) < edge) i--;
    return i;
  });
  const rests: { begin: number; from: number; to: number }[] = [];
  // A trace that begins or ends in the middle of a purge: that is no rest.
  const stands = usual - Math.max(4 * grain.sd + grain.step, 0.06 * (usual - grain.low));
  const first = Math.max(
    0,
    p.findIndex((x) => x >= stands),
  );
  const last = p.findLastIndex((x) => x >= stands) + 1;
  const after = [first, ...lows.map((e) => e.at)];
  const before = [...begins, last < p.length ? last - 1 : p.length - 1];
  after.forEach((begin, i) => {
    const to = (before[i] ?? 0) - 1;
    const span = to - begin;
    // It comes back within the first part of a rest; what follows is standing, or creep.
    if (span >= 10)
      rests.push({ begin, from: begin + Math.ceil(span * (i === 0 && first === 0 ? 0 : 0.3)), to });
  });
  const lengths = rests.map((r) => r.to - r.begin).sort((a, b) => a - b);
  const usualRest = lengths[lengths.length >> 1] ?? 0;
  const lines = rests.flatMap((r) => {
    // A rest cut short by the trace's end has hardly come back yet.
    if (r.to - r.begin < 0.6 * usualRest) return [];
    const line = lineOf(t, p, r.from, r.to, t[r.begin] ?? 0);
    const level = middleLevel(p, [r]);
    return line && Math.abs(level - usual) < 0.3 * (grain.high - grain.low) + 8 * grain.sd
      ? [{ r, line }]
      : [];
  });
  const lockUp = meanOf(
    lines.map(({ line }) => line.p),
    lines.map(({ line }) => Math.hypot(line.up, grain.sd / Math.sqrt(line.n), grain.step / 12)),
    'Pa',
    stepDoubt(grain),
  );
  const events: TraceEvent[] = lows.flatMap((e, i) => {
    const begin = begins[i] ?? e.at;
    if (unseen(t, begin, begin, grain)) return [];
    // The bottom: the median of the lower part, so that one noisy sample does not decide it.
    const bottom: number[] = [];
    for (let k = begin; k < p.length && (k <= e.at || (p[k] ?? 0) < e.p + 0.4 * (usual - e.p)); k++)
      if ((p[k] ?? 0) < e.p + Math.max(0.1 * (usual - e.p), 5 * grain.sd)) bottom.push(p[k] ?? 0);
    bottom.sort((x, y) => x - y);
    return [
      {
        kind: 'purge',
        t: ((t[begin] ?? 0) + (t[begin - 1] ?? t[begin] ?? 0)) / 2,
        p: bottom[bottom.length >> 1] ?? e.p,
        u: Math.hypot(
          (1.25 * grain.sd) / Math.sqrt(Math.max(1, bottom.length)),
          grain.step / 6,
          0.004 * (usual - e.p),
        ),
        ut: grain.dt / 2,
        from: begin + skipped,
        to: e.at + 1 + skipped,
      },
    ];
  });
  return {
    cycles: [],
    events,
    figures: shown({
      lockUp,
      creepRate: meanOf(
        lines.map(({ line }) => line.slope),
        lines.map(({ line }) => line.uslope),
        'Pa/s',
      ),
      purgeDip:
        lockUp &&
        meanOf(
          events.map((e) => lockUp.value - e.p),
          events.map((e) => Math.hypot(e.u, lockUp.u)),
          'Pa',
          stepDoubt(grain),
        ),
    }),
  };
}

/** Part of what it stands at that a line which is filled, or bled, has passed. */
const FILLED = 0.8;

/** Without what stands before the line is filled and after it is bled: neither is a dip. */
function underPressure(
  samples: Trace,
  grain: Grain,
): { readonly samples: Trace; readonly grain: Grain; readonly skipped: number } {
  const { t, p } = samples;
  const filled = FILLED * middleLevel(p, [{ from: 0, to: p.length }]);
  const from = p.findIndex((x) => x >= filled);
  const to = p.findLastIndex((x) => x >= filled) + 1;
  if (!(filled > 0) || from < 0 || (from === 0 && to === p.length)) return { samples, grain, skipped: 0 };
  const part = p.subarray(from, to);
  const pyramid = buildPyramid(part);
  const [low, high] = extent(part, pyramid, 0, part.length);
  return {
    samples: { ...samples, t: t.subarray(from, to), p: part, pyramid },
    grain: { ...grain, low: Math.max(grain.low, low), high: Math.min(grain.high, high) },
    skipped: from,
  };
}

/** Second stages: the suction at which each breath opens the valve, just before it falls back. */
export function findCracking(samples: Trace, grain: Grain): Found {
  const { t, p } = samples;
  // Suction may be written as a negative pressure or as a positive one: it is the side that goes far from the middle.
  const middle = middleLevel(p, [{ from: 0, to: p.length }]);
  const sign = grain.high - middle >= middle - grain.low ? 1 : -1;
  const depth = Math.max(6 * grain.sd, 2.5 * grain.step, 0.08 * (grain.high - grain.low));
  const { extremes } = cleanSwings(samples, grain, depth, false);
  const rest = sign > 0 ? grain.low : grain.high;
  const far = 0.4 * Math.abs((sign > 0 ? grain.high : grain.low) - rest);
  const events: TraceEvent[] = [];
  let drawing = false;
  extremes.forEach((e, i) => {
    const away = (e.p - rest) * sign;
    if (away < far * 0.5) {
      drawing = false;
      return;
    }
    const isPeak = (e.kind === 'high') === sign > 0;
    // Only the first peak of a draw cracks the valve; what follows is flow.
    if (!isPeak || drawing || away < far || i === 0 || i === extremes.length - 1) return;
    drawing = true;
    if (unseen(t, e.at, e.at, grain)) return;
    // The rise is a line up to the moment the valve lets go, somewhere before the next sample.
    const from = Math.max(extremes[i - 1]?.at ?? 0, e.at - Math.max(4, Math.round(0.8 / grain.dt)));
    const line = lineOf(t, p, from, e.at + 1, (t[e.at] ?? 0) + grain.dt / 2);
    const straight = line !== undefined && Math.abs(line.p - e.p) < 0.15 * away;
    events.push({
      kind: 'cracking',
      t: (t[e.at] ?? 0) + grain.dt / 2,
      p: straight ? line.p : e.p,
      u: straight
        ? Math.hypot(
            line.up,
            grain.sd / Math.sqrt(line.n),
            (line.slope * grain.dt) / Math.sqrt(12),
            grain.step / 12,
          )
        : grain.sd,
      ut: grain.dt / 2,
      from,
      to: e.at + 1,
    });
  });
  return {
    cycles: [],
    events,
    figures: shown({
      cracking: meanOf(
        events.map((e) => Math.abs(e.p)),
        events.map((e) => e.u),
        'Pa',
      ),
    }),
  };
}

const eventOf = (
  kind: string,
  { t }: Trace,
  e: Extreme,
  knee: Knee | undefined,
  grain: Grain,
): TraceEvent => ({
  kind,
  t: knee?.t ?? t[e.at] ?? 0,
  p: knee?.p ?? e.p,
  u: Math.hypot(knee?.u ?? grain.sd, grain.step / 12),
  ut: knee?.ut ?? grain.dt / 2,
  from: e.arrived,
  to: e.at + 1,
});

/** Slopes differ this much where a fall has a corner in it. */
const CORNER = 1.2;

/** Where an open relief shut: the corner of the fall that follows, or its end where the pressure turns up again. */
function reseatOf(
  samples: Trace,
  top: Extreme,
  bottom: Extreme,
  next: Extreme | undefined,
  grain: Grain,
  holes: Cleaned['holes'],
  /** First sample of the fall. */
  begun: number,
): TraceEvent | undefined {
  const { t, p } = samples;
  const [from, to] = [Math.max(top.at, begun), bottom.arrived + 1];
  const [t0, p0, t1, p1] = [t[from] ?? 0, p[from] ?? 0, t[to - 1] ?? 0, p[to - 1] ?? 0];
  let near = from;
  let most = 0;
  for (let k = from; k < to; k++) {
    const off = Math.abs((p[k] ?? 0) - p0 - ((p1 - p0) * ((t[k] ?? 0) - t0)) / (t1 - t0));
    if (off > most) [most, near] = [off, k];
  }
  const knee = most > 4 * grain.sd + grain.step ? kneeAt(t, p, near, from, to, grain.sd, holes) : undefined;
  const [a, b] = [-(knee?.before ?? 0), -(knee?.after ?? 0)];
  if (knee && Math.min(a, b) > 0 && Math.max(a, b) > CORNER * Math.min(a, b))
    return eventOf('reseat', samples, { ...bottom, arrived: near, at: near }, knee, grain);
  if (!next) return undefined;
  return eventOf(
    'reseat',
    samples,
    bottom,
    cornerAt(samples, bottom, top.at, next.arrived, grain, holes),
    grain,
  );
}

/** Relief valves: where they open on a rise, and where they shut again. */
export function findRelief(samples: Trace, grain: Grain): Found {
  const depth = Math.max(8 * grain.sd, 2.5 * grain.step, 0.03 * (grain.high - grain.low));
  const { extremes, holes } = cleanSwings(samples, grain, depth);
  const main = largestSwing(extremes);
  const events: TraceEvent[] = [];
  extremes.forEach((e, i) => {
    const [before, after] = [extremes[i - 1], extremes[i + 1]];
    if (!before || !after || e.kind !== 'high') return;
    if (Math.min(e.p - before.p, e.p - after.p) < 0.04 * main || unseen(samples.t, e.arrived, e.at, grain))
      return;
    const knee = cornerAt(samples, e, before.at, after.arrived, grain, holes);
    const opened = knee && Math.abs(knee.p - e.p) < 0.1 * main ? knee : undefined;
    events.push(eventOf('opening', samples, e, opened, grain));
    const begun = opened ? indexAt(samples.t, opened.t) + 1 : e.at;
    const shut = reseatOf(samples, e, after, extremes[i + 2], grain, holes, begun);
    if (shut && !unseen(samples.t, shut.from, indexAt(samples.t, shut.t), grain)) events.push(shut);
  });
  const of = (kind: string) => {
    const list = events.filter((e) => e.kind === kind);
    return meanOf(
      list.map((e) => e.p),
      list.map((e) => e.u),
      'Pa',
    );
  };
  const [opening, reseat] = [of('opening'), of('reseat')];
  return {
    cycles: [],
    events,
    figures: shown({
      opening,
      reseat,
      blowdown:
        opening && reseat
          ? {
              value: opening.value - reseat.value,
              unit: 'Pa',
              u: Math.hypot(opening.u, reseat.u),
              n: Math.min(opening.n, reseat.n),
            }
          : undefined,
    }),
  };
}

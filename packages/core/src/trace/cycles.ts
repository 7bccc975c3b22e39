import { cleanSwings, meanOf, shown, type Cycle, type Found, type TraceEvent } from './events.js';
import { cornerAt, unseen } from './corner.js';
import { lineOf } from './knee.js';
import { standingSpan, type Grain } from './noise.js';
import { buildPyramid } from './pyramid.js';
import { stepDoubt } from './stretches.js';
import { indexAt, type Trace } from './samples.js';
import { largestSwing, sizesOf, Swings, type Extreme, type Hole } from './swings.js';
import { drainOf, drawdownOf } from './drawdown.js';

/** A damped needle shows the mean of this long on either side, s [common practice, no source]. */
const NEEDLE_S = 0.15;
/** A pressure that has stood at its height this long was cut out there, s. */
const STOOD_S = 6;
/** A vented gauge shows less than this part of what the trace reaches; connected it shows more than that, so soon, s. */
const VENTED = 0.05;
const CONNECTED = 0.3;
const CONNECTS_S = 1;
/** What a rise that ended may still go on with, as a part of how it came. */
const STOPS = 0.2;
const LEAST_SAMPLES = 4;
/** So many turns are looked at closely, on every scale; of more, as many spread over the trace, and the others on one scale. */
const CLOSELY = 400;

/**
 * Switch cycles: where the pressure turned up (cut-in) and down (cut-out), with times on and off; from a contact or pump channel
 * where there is one.
 * @param ambient Pa absolute, for a tank's drain-down
 */
export function findCycles(samples: Trace, grain: Grain, ambient = 101325): Found {
  const at = connectedAt(samples, grain);
  if (at === 0) return cyclesOf(samples, grain, ambient);
  const from = (list: Float64Array): Float64Array => list.subarray(at);
  const p = from(samples.p);
  const states = Object.fromEntries(Object.entries(samples.states).map(([k, list]) => [k, from(list)]));
  const found = cyclesOf({ t: from(samples.t), p, states, pyramid: buildPyramid(p) }, grain, ambient);
  return { ...found, events: found.events.map((e) => ({ ...e, from: e.from + at, to: e.to + at })) };
}

/** Where a gauge that was vented is connected: it leaves nothing and stands high in a moment. That jump is no turn of the pressure. */
function connectedAt({ t, p }: Trace, grain: Grain): number {
  const nothing = VENTED * grain.high;
  if (!(grain.high > 0) || Math.abs(p[0] ?? NaN) > nothing) return 0;
  let i = 0;
  while (i < p.length && (p[i] as number) <= nothing) i++;
  const soon = indexAt(t, (t[i] ?? Infinity) + CONNECTS_S);
  return soon < p.length && (p[soon] ?? 0) > CONNECTED * grain.high ? soon : 0;
}

function cyclesOf(samples: Trace, grain: Grain, ambient: number): Found {
  const range = grain.high - grain.low;
  const depth = Math.max(standingSpan(grain, samples.p.length), 2.5 * grain.step, 0.04 * range);
  const { extremes, spikes, holes } = cleanSwings(samples, grain, depth);
  const main = mainSwing(extremes);
  const turns = main > 0 ? kept(extremes, main, samples) : [];
  const contact = samples.states['contact'] ?? samples.states['pump'];
  const events = contact
    ? byContact(samples, contact, grain)
    : turnsAt(samples, turns, grain, holes, ambient);
  const cycles = paired(events);
  const drain = drainOf(samples, grain, extremes, ambient, main);
  const of = (kind: string): TraceEvent[] => events.filter((e) => e.kind === kind);
  const pressure = (kind: string) =>
    meanOf(
      of(kind).map((e) => e.p),
      of(kind).map((e) => e.u),
      'Pa',
      stepDoubt(grain),
    );
  const [cutIn, cutOut] = [pressure('cutIn'), pressure('cutOut')];
  const offs = cycles.flatMap((c) => (c.off_s === undefined ? [] : [c.off_s]));
  const starts = of('cutIn').map((e) => e.t);
  const periods = starts.slice(1).map((x, i) => x - (starts[i] ?? 0));
  const period = meanOf(periods, [], 's', grain.dt / 4);
  const time = (list: readonly number[]) => meanOf(list, [], 's', grain.dt / 4);
  return {
    events: [...events, ...spikes, ...(drain ? [drain] : [])].sort((a, b) => a.t - b.t),
    cycles,
    figures: shown({
      cutIn,
      cutOut,
      differential:
        cutIn && cutOut
          ? {
              value: cutOut.value - cutIn.value,
              unit: 'Pa',
              u: Math.hypot(cutIn.u, cutOut.u),
              n: Math.min(cutIn.n, cutOut.n),
            }
          : undefined,
      onTime: time(cycles.map((c) => c.on_s)),
      offTime: time(offs),
      cyclesPerHour: period && {
        value: 3600 / period.value,
        unit: '1/h',
        u: (3600 / period.value ** 2) * period.u,
        n: period.n,
      },
      precharge: drain && { value: drain.p, unit: 'Pa', u: drain.u, n: 1 },
      drawdown: drawdownOf(samples, events),
    }),
  };
}

/** The usual size of a swing: the (lower) median of those that are not small beside the largest: a gauge that was vented swings farther. */
function mainSwing(extremes: readonly Extreme[]): number {
  const most = largestSwing(extremes);
  const large = sizesOf(extremes)
    .filter((s) => s >= 0.2 * most)
    .sort();
  return large[(large.length - 1) >> 1] ?? 0;
}

/** Turns of the main size, the two ends left out, and of each side only those that stand where most of them do. */
function kept(extremes: readonly Extreme[], main: number, { t, p }: Trace): Extreme[] {
  const picked: Extreme[] = [];
  const swings = new Swings(0.5 * main, (e) => {
    const original = extremes[e.at];
    if (original) picked.push(original);
  });
  extremes.forEach((e, i) => swings.push(i, e.p));
  swings.finish();
  const inner = picked.filter((e) => e !== extremes[0] && e !== extremes.at(-1));
  const middleOf = (kind: Extreme['kind']): number => {
    const list = Float64Array.from(
      inner.filter((e) => e.kind === kind),
      (e) => e.p,
    ).sort();
    // Of an even number the higher middle: a tank drained to nothing is no cut-in.
    return list[list.length >> 1] ?? NaN;
  };
  const [low, high] = [middleOf('low'), middleOf('high')];
  const [first, last] = [extremes[0], extremes.at(-1)];
  // A pump that stopped and nothing drawn since: the pressure stands where it was cut out.
  const stood =
    last?.kind === 'high' &&
    (t[t.length - 1] ?? 0) - (t[last.arrived] ?? 0) > STOOD_S &&
    stops(t, p, last.arrived);
  return picked.filter((e) => {
    if (e === first || (e === last && !stood)) return false;
    const middle = e.kind === 'low' ? low : high;
    return Number.isNaN(middle) || Math.abs(e.p - middle) <= 0.3 * main;
  });
}

/** A rise that ends: it goes on far slower than it came. A slow ramp to the end of a trace was cut out nowhere. */
function stops(t: Float64Array, p: Float64Array, arrived: number): boolean {
  const after = p.length - arrived;
  const came = lineOf(t, p, Math.max(0, arrived - after), arrived, t[arrived] ?? 0);
  const goes = lineOf(t, p, arrived, p.length, t[arrived] ?? 0);
  return !came || !goes || Math.abs(goes.slope) < STOPS * Math.abs(came.slope);
}

/** Every turn that was seen; of very many only some closely. */
function turnsAt(
  trace: Trace,
  turns: readonly Extreme[],
  grain: Grain,
  holes: readonly Hole[],
  ambient: number,
): TraceEvent[] {
  const often = Math.max(1, Math.ceil(turns.length / CLOSELY));
  const out: TraceEvent[] = [];
  for (let i = 0; i < turns.length; i++) {
    const found = turnAt(trace, turns, i, grain, holes, ambient, i % often !== 0);
    if (found) out.push(found);
  }
  return out;
}

/** One turn, freed of noise and sampling by the lines on either side. */
function turnAt(
  trace: Trace,
  turns: readonly Extreme[],
  i: number,
  grain: Grain,
  holes: readonly Hole[],
  ambient: number,
  once: boolean,
): TraceEvent | undefined {
  const { t, p } = trace;
  const e = turns[i];
  if (!e) return undefined;
  const kind = e.kind === 'low' ? 'cutIn' : 'cutOut';
  const k = e.arrived;
  const before = turns[i - 1]?.at ?? Math.max(0, k - 4000);
  const after = turns[i + 1]?.arrived ?? Math.min(p.length - 1, k + 4000);
  const knee = cornerAt(trace, e, before, after, grain, holes, ambient, once);
  const at = knee ? indexAt(t, knee.t, k) : k;
  if (unseen(t, Math.min(at, e.at), Math.max(at, e.at), grain)) return undefined;
  const bent =
    knee && Math.abs(knee.p - e.p) < 0.25 * Math.abs((turns[i - 1]?.p ?? turns[i + 1]?.p ?? 0) - e.p);
  if (knee && bent)
    return {
      kind,
      t: knee.t,
      p: knee.p,
      u: Math.hypot(knee.u, grain.step / 12),
      ut: Math.max(knee.ut, grain.dt / 20),
      from: knee.from,
      to: knee.to,
    };
  // No two lines: as a damped needle would show it, and as sure as the samples about it agree.
  const near = p.subarray(
    indexAt(t, (t[e.at] ?? 0) - NEEDLE_S, e.at),
    indexAt(t, (t[e.at] ?? 0) + NEEDLE_S, e.at) + 1,
  );
  const seen = near.length > 2 ? near.reduce((sum, x) => sum + x, 0) / near.length : e.p;
  return {
    kind,
    t: t[e.at] ?? 0,
    p: seen,
    u: Math.hypot(grain.sd, Math.abs(seen - e.p), Math.abs((p[e.at] ?? 0) - (p[e.at - 1] ?? e.p)) / 2),
    ut: grain.dt / 2,
    from: e.arrived,
    to: e.at + 1,
  };
}

/** Turns by a contact or pump channel: the pressure where the line before the change arrives at it. */
function byContact(samples: Trace, contact: Float64Array, grain: Grain): TraceEvent[] {
  const { t, p } = samples;
  const out: TraceEvent[] = [];
  let last = 0;
  for (let i = 1; i < contact.length; i++) {
    const [was, is] = [contact[i - 1] ?? NaN, contact[i] ?? NaN];
    if (!(was >= 0.5) === !(is >= 0.5) || Number.isNaN(was) || Number.isNaN(is)) continue;
    const at = ((t[i - 1] ?? 0) + (t[i] ?? 0)) / 2;
    const halfGap = ((t[i] ?? 0) - (t[i - 1] ?? 0)) / 2;
    const back = Math.max(LEAST_SAMPLES + 1, Math.round(Math.min(6 / grain.dt, 0.3 * (i - last))));
    const from = Math.max(last, i - back);
    const line = lineOf(t, p, from, i, at);
    if (line)
      out.push({
        kind: is >= 0.5 ? 'cutIn' : 'cutOut',
        t: at,
        p: line.p,
        u: Math.hypot(
          Math.max(line.up, grain.sd / Math.sqrt(line.n)),
          (line.slope * halfGap) / Math.sqrt(3),
          grain.step / 12,
        ),
        ut: halfGap / Math.sqrt(3),
        from,
        to: i,
      });
    last = i;
  }
  return out;
}

function paired(events: readonly TraceEvent[]): Cycle[] {
  const out: Cycle[] = [];
  for (let i = 0; i < events.length - 1; i++) {
    const [a, b, c] = [events[i], events[i + 1], events[i + 2]];
    if (a?.kind !== 'cutIn' || b?.kind !== 'cutOut') continue;
    out.push({
      cutIn: a.p,
      cutOut: b.p,
      on_s: b.t - a.t,
      ...(c?.kind === 'cutIn' ? { off_s: c.t - b.t } : {}),
    });
  }
  return out;
}

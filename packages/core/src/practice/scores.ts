// What a run is measured by, part by part; every part 0 to 100.
import { spanOf } from '../gauge/index.js';
import { type AsTyped, type FoldedJob, type Outcome } from '../procedure/index.js';
import { fromCanonical, symbolOf } from '../quantity/index.js';
import type { Right, ScriptedJob } from '../script/index.js';
import { rightsOf } from './draw.js';
import type { Shown } from './reveal.js';
import type { Deed, Draw, Exercise, Said } from './run.js';
import type { Strip } from './watched.js';

/** A part of the debrief: `score` is absent where it never arose. */
export interface Part {
  readonly score?: number;
  readonly text: string;
}

const percent = (x: number): number => Math.max(0, Math.min(100, Math.round(100 * x)));
const count = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

/** Moves against the best possible: as many as the script on this draw, or as one who knows the device. */
export function adjusting(moves: number, best: number, byScript: number): Part {
  const n = Math.max(best, byScript);
  if (n === 0 && moves === 0) return { text: 'no turn, and none needed' };
  const said = `${count(moves, 'move')}, ${n === 0 ? 'none was needed' : `${n} would do`}`;
  const knowing = best < n ? `; ${count(best, 'move')} for one who knows it` : '';
  return { score: percent(moves <= n ? 1 : (n + 1) / (moves + 1)), text: said + knowing };
}

/** The fewest moves that leave every screw where the script left it, for one who knows what each does. */
export const fewest = (job: ScriptedJob): number =>
  job.view.rules.adjusters.filter((a) => Math.abs(job.view.netTurns(a.id)) > 1e-9).length;

/** A reading that was not firm: what it was taken at, and where it settled. */
export interface Early {
  readonly title: string;
  readonly taken: AsTyped;
  readonly settled: number;
  readonly t: number;
}

const nearest = (t: readonly number[], at: number): number => {
  let [lo, hi] = [0, t.length - 1];
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if ((t[mid] ?? 0) < at) lo = mid + 1;
    else hi = mid;
  }
  return lo;
};

/** So long a needle is given to settle after it was read early, s. */
const SETTLES_S = 20;

/** Firm or caught counts one; early nothing, or a half where it stood near where it settled. */
export function readings(
  view: FoldedJob,
  strip: Strip,
  deeds: readonly Deed[],
): Part & { readonly early: readonly Early[] } {
  const early: Early[] = [];
  let [sum, n, good] = [0, 0, 0];
  for (const { body } of view.state.reads) {
    if (body.bound) continue;
    n++;
    const place = strip.places[body.slot];
    const gauge = view.gauge(body.slot);
    const step = gauge ? spanOf(gauge).readableStep : 0;
    const at = (t: number): number => place?.shown[nearest(strip.t, t)] ?? NaN;
    if (body.state === 'firm' || body.state === 'caught') {
      [sum, good] = [sum + 1, good + 1];
      continue;
    }
    const t = body.t_s ?? NaN;
    const off = Number.isFinite(t) ? Math.abs(body.value.value - at(t)) : 0;
    if (body.state === 'typed') {
      // Typed off a needle that stands there: as good as what stands there.
      const right = !(off > step);
      [sum, good] = [sum + (right ? 1 : 0), good + (right ? 1 : 0)];
      if (right) continue;
    }
    const next = deeds.find((d) => d.t > t + 0.1)?.t ?? Infinity;
    const settled = at(Math.min(t + SETTLES_S, next - 0.5));
    if (body.state === 'early' && Math.abs(settled - body.value.value) <= step / 2) sum += 0.5;
    early.push({ title: view.setting(body.setting).title, taken: body.value, settled, t });
  }
  if (n === 0) return { text: 'none taken', early };
  return { score: percent(sum / n), text: `${good} of ${n} firm`, early };
}

/** The highest true pressure against where it must be stopped; the script's own on this draw is nobody's fault. */
export function highest(
  ex: Exercise,
  bounds: Readonly<Record<string, number>>,
  mine: Readonly<Record<string, number>>,
  script: Readonly<Record<string, number>>,
): Part {
  let worst: { readonly score: number; readonly text: string } | undefined;
  for (const [slot, stop] of Object.entries(bounds)) {
    const [top, ref] = [mine[slot], script[slot]];
    if (top === undefined || ref === undefined) continue;
    const gauge = ex.started.gauges[slot];
    const shown = (pa: number): string => (gauge ? sayPa(pa, gauge.unit) : '');
    const part = top <= ref * 1.02 ? 1 : stop > ref ? (stop - top) / (stop - ref) : 0;
    const score = percent(part);
    if (!worst || score < worst.score) worst = { score, text: `${shown(top)}; the end is ${shown(stop)}` };
  }
  return worst ?? { text: 'nothing here has an end' };
}

/** What the record calls in, near or out, against the truth. */
export function verdicts(
  ex: Exercise,
  view: FoldedJob,
  truth: Readonly<Record<string, number>>,
): Part & {
  /** Called in while it is out, and could be told. */
  readonly wronglyIn: readonly string[];
} {
  const wronglyIn: string[] = [];
  let [sum, n] = [0, 0];
  for (const [setting, is] of Object.entries(ex.kit.truths({ truth, view }))) {
    if (is === undefined || !Number.isFinite(is)) continue;
    const when = view.verdict(setting, 'left') ? 'left' : 'found';
    const word = view.verdict(setting, when)?.word;
    const U = view.figure(setting, when)?.budget.U;
    if (!word || U === undefined) continue;
    n++;
    const { lower = -Infinity, upper = Infinity } = view.limits(setting, 'left');
    const inside = is >= lower && is <= upper;
    const margin = Math.min(Math.abs(is - lower), Math.abs(is - upper));
    if (word === 'near') sum += margin <= U ? 1 : 0.5;
    else if ((word === 'in') === inside) sum += 1;
    else if (word === 'in' && margin >= 2 * U) wronglyIn.push(view.setting(setting).title);
  }
  return n === 0
    ? { text: 'none came to one', wronglyIn }
    : { score: percent(sum / n), text: `${Math.round(sum * 10) / 10} of ${n}`, wronglyIn };
}

const outcomes = (rights: readonly Right[]): readonly Outcome[] => rights.map(([o]) => o);
/** The graver outcome binds where two faults ask for two. */
const GRAVEST: readonly Outcome[] = ['replace', 'unfinished', 'restricted', 'set', 'left-as-found'];
/** What claims nothing is on the safe side of what does. */
const SAFE: readonly Outcome[] = ['replace', 'unfinished', 'restricted'];

/** Outcomes that are right for what was drawn. @param faults those that count: the knowable ones, or all */
export function accepted(ex: Exercise, faults: readonly string[]): readonly Outcome[] {
  if (faults.length === 0) return outcomes(rightsOf(ex, 'none'));
  const each = faults.map((f) => outcomes(rightsOf(ex, f)));
  const gravest = Math.min(...each.map((os) => Math.min(...os.map((o) => GRAVEST.indexOf(o)))));
  // Of two that can be set, or left, each alternative of either stands.
  return [...new Set(each.flat())].filter((o) => {
    const rank = GRAVEST.indexOf(o);
    return (
      rank === gravest ||
      each.some((os) => os.includes(o) && Math.min(...os.map((x) => GRAVEST.indexOf(x))) === gravest)
    );
  });
}

export interface Conclusion extends Part {
  readonly o: number;
  readonly f: number;
  readonly right: boolean;
  /** Hidden, knowable, and not said. */
  readonly missed: readonly string[];
  readonly hits: readonly string[];
  readonly accepts: readonly Outcome[];
}

/**
 * The outcome and the finding against the truth.
 * @param taken keys of the steps that were taken: a finding without the reading that shows it is a guess
 * @param script what the script concluded on this draw, where its verdicts are true
 */
export function conclusion(
  ex: Exercise,
  draw: Draw,
  shown: readonly Shown[],
  outcome: Outcome | undefined,
  said: Said | undefined,
  taken: ReadonlySet<string>,
  script: Outcome | undefined,
): Conclusion {
  const knowable = shown.filter((s) => s.knowable).map((s) => s.fault);
  // Who could not know a fault is right as if it were not there.
  const strict = accepted(ex, knowable);
  const accepts = [...new Set([...strict, ...accepted(ex, draw.faults)])];
  // Where nothing that could be known forbids it, what the script came to stands too.
  const forbids = knowable.length > 0 && strict.every((o) => SAFE.includes(o));
  if (script !== undefined && !forbids && !accepts.includes(script)) accepts.push(script);
  const o = outcome === undefined ? 0 : accepts.includes(outcome) ? 1 : SAFE.includes(outcome) ? 0.5 : 0;
  const claims = said?.faults ?? [];
  const hits = claims.filter((f) => draw.faults.includes(f));
  const missed = knowable.filter((f) => !claims.includes(f));
  const f = foundPart(said, draw, knowable, hits, shown, taken);
  const n = draw.faults.length;
  const saidOutcome =
    outcome === undefined ? 'not signed' : o === 1 ? 'right' : o > 0 ? 'the safe side' : 'wrong';
  const found =
    n === 0
      ? claims.length === 0
        ? 'nothing wrong, rightly'
        : 'something found where nothing is'
      : `${hits.length} of ${n} found`;
  return {
    o,
    f,
    right: o === 1 && missed.length === 0 && hits.length === claims.length,
    missed,
    hits,
    accepts,
    score: percent(0.5 * o + 0.5 * f),
    text: `${saidOutcome}; ${found}`,
  };
}

function foundPart(
  said: Said | undefined,
  draw: Draw,
  knowable: readonly string[],
  hits: readonly string[],
  shown: readonly Shown[],
  taken: ReadonlySet<string>,
): number {
  if (!said) return 0;
  const none = draw.faults.length === 0;
  if (said.cannotTell) return none ? 0.3 : knowable.length === 0 ? 1 : 0.3;
  if (said.faults.length === 0) return none ? 1 : knowable.length === 0 ? 0.7 : 0;
  if (none) return 0;
  // What could not be known is asked of nobody, and counts where it was said.
  const asked = new Set([...knowable, ...hits]);
  const guessed = hits.some((f) => {
    const step = shown.find((s) => s.fault === f)?.step;
    return step !== undefined && !taken.has(step);
  });
  return ((2 * hits.length) / (said.faults.length + asked.size)) * (guessed ? 0.6 : 1);
}

/** A pressure in a unit, to its usual place. */
export const sayPa = (pa: number, unit: string): string => {
  const inUnit = fromCanonical(pa, unit);
  return `${Math.abs(inUnit) < 10 ? inUnit.toFixed(2) : inUnit.toFixed(1)} ${symbolOf(unit)}`;
};

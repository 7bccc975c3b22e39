import type { JobView, Plan } from '@firm-needle/core/procedure';
import type { parts } from './parts.js';
import { foundReadings } from '../shared/found.js';
import { scattersSince } from '../shared/scatter.js';
import { told } from '../shared/seen.js';
import { FLOOR, MOST_MOVES, OUNCES_BELOW, psi, read } from './parts.js';

/** How its scales are marked: the main one is cut-out, or cut-in; in ounces; or it is a limit with a button. */
export type Kind = 'sub' | 'add' | 'ounce' | 'limit';
type Screw = (typeof parts.adjusters)[number]['id'];

export const answerAt = (job: JobView, key: string): string | undefined =>
  job.state.observations.findLast((o) => o.body.at.key === key)?.body.answer;
const orderOf = (job: JobView, key: string): number =>
  [...(job.state.taken.get(key)?.values() ?? [])].flat().at(-1)?.order ?? 0;

/** What its small print says it is; the plan, until that was read or where it cannot be. */
export function kind(job: JobView): Kind {
  const marked = answerAt(job, 'marking');
  if (marked === 'sub' && job.plan.variant === 'ounce') return 'ounce';
  return marked === undefined || marked === 'unread' ? (job.plan.variant as Kind) : (marked as Kind);
}
/** It is of another kind than it was planned as. */
export const misread = (job: JobView): boolean => kind(job) !== job.opening.variant;
export const isLimit = (job: JobView): boolean => kind(job) === 'limit';

export const floorOf = (plan: Pick<Plan, 'values' | 'plate' | 'choices'>): number => {
  const { v, plate } = read(plan);
  return plate.floor ?? ((v.cutOut ?? psi(1.5)) < OUNCES_BELOW ? FLOOR.ounces : FLOOR.pounds);
};

/** The settings that this kind is judged by. */
export const judged = (job: JobView): readonly string[] => (isLimit(job) ? ['cutOut'] : ['cutOut', 'cutIn']);

const tripAnswer = (job: JobView): string | undefined =>
  job.state.observations.findLast((o) => TRIPS.has(o.body.at.key))?.body.answer;
const TRIPS = new Set(['found-trip', 'set-trip', 'live-trip', 'live-set-trip']);
const RESETS = new Set(['found-reset', 'set-reset', 'live-reset', 'live-set-reset']);
const readAfter = (job: JobView, setting: string, order: number): boolean =>
  job.readings(setting).some((r) => r.kept.order > order);
const lastAt = (job: JobView, keys: ReadonlySet<string>, answer: string): number =>
  job.state.observations.findLast((o) => keys.has(o.body.at.key) && o.body.answer === answer)?.order ?? 0;

/** Still closed as far as it was brought; short of where it should open that says nothing. */
const fulls = (job: JobView) =>
  told(
    job.state.observations.filter(({ body }) => TRIPS.has(body.at.key) && body.answer === 'full'),
    ({ body }) => body.value === undefined || body.value.value >= (job.plan.limits['cutOut']?.lower ?? 0),
  );
/** Pumped as far as gauge and element go, and still closed; nothing was read since, nor was it seen to stay open. */
export const full = (job: JobView): boolean => {
  const at = fulls(job).at(-1)?.order ?? 0;
  return (
    at > Math.max(lastAt(job, TRIPS, 'stays-open'), lastAt(job, RESETS, 'stays-open')) &&
    !readAfter(job, 'cutOut', at)
  );
};
/** As far as it was pumped as found, where it had not opened there, Pa. */
export const pumpedTo = (job: JobView): number | undefined => fulls(job)[0]?.body.value?.value;
/** Let down to nothing, and still open, as it stands now. */
export const staysOpen = (job: JobView): boolean => {
  const at = Math.max(lastAt(job, RESETS, 'stays-open'), lastAt(job, TRIPS, 'stays-open'));
  const moved = Math.max(job.lastMove('cutIn'), levelled(job));
  return (at > moved && !readAfter(job, 'cutIn', at)) || answerAt(job, 'found-button') === 'stays';
};
/** It was not seen to close on the first letting down, whatever came of it later. */
export const stayedOpen = (job: JobView): boolean =>
  lastAt(job, RESETS, 'stays-open') > 0 ||
  lastAt(job, TRIPS, 'stays-open') > 0 ||
  answerAt(job, 'found-button') === 'stays';

/** It stays closed, though it was pumped past where its pointer stands: or somebody saw that it does. */
export function welded(job: JobView): boolean {
  if (tripAnswer(job) === 'welded') return true;
  const pointer = shownAt(job, 'main-pointer');
  if (job.plan.school === 'boiler') return false;
  const pumped = fulls(job).findLast((o) => o.body.value !== undefined);
  if (!full(job)) return false;
  // Where its screw was turned down already, it had its chance.
  if (job.state.turns.some((t) => t.order < (pumped?.order ?? 0))) return true;
  return (
    pointer !== undefined && pumped?.body.value !== undefined && pointer < pumped.body.value.value - MARGIN
  );
}
/** On its boiler it ran past where its pointer stands: siphon, tapping or contact, and nothing that a screw mends. */
export function runsPast(job: JobView): boolean {
  const pointer = pointerNow(job, 'main-pointer');
  const past = fulls(job).findLast((o) => o.body.at.key.startsWith('live'));
  if (!past || !full(job) || pointer === undefined) return false;
  return (
    job.state.turns.some((t) => t.order < past.order) || pointer < (past.body.value?.value ?? 0) - MARGIN
  );
}

/** A scale may err by so much, Pa [common practice, no source]. */
const MARGIN = psi(1.2);

/** A figure that was read off one of its pointers, Pa. */
export const shownAt = (job: JobView, key: string): number | undefined =>
  job.state.observations.findLast((o) => o.body.at.key === key)?.body.value?.value;

/** Where a pointer stands now: as it was read, and what it was turned since. */
export function pointerNow(job: JobView, key: 'main-pointer' | 'diff-pointer'): number | undefined {
  const at = shownAt(job, key);
  if (at === undefined) return undefined;
  return job.state.turns
    .filter((t) => (key === 'main-pointer' ? MAINS : DIFFS).has(t.body.adjuster))
    .reduce((sum, t) => sum + t.body.amount, at);
}
const MAINS: ReadonlySet<string> = new Set(['main', 'mainLow', 'mainOunce']);
const DIFFS: ReadonlySet<string> = new Set(['diff', 'wheel', 'diffOunce']);

export const tilted = (job: JobView): boolean => answerAt(job, 'plumb') === 'off';
export const hasMercury = (job: JobView): boolean => answerAt(job, 'inside') === 'mercury';
export const burnt = (job: JobView): boolean => answerAt(job, 'inside') === 'burnt';
/** It hangs tilted still. */
export const toLevel = (job: JobView): boolean => tilted(job) && levelled(job) === 0;
/** Held plumb since it was found tilted. */
export const levelled = (job: JobView): number => orderOf(job, 'level');

const MOST_FOUND = 5;
/** Two readings of each that agree, or five of them. */
export function foundEnough(job: JobView): boolean {
  if (welded(job) || stayedOpen(job) || byPassed(job) || fulls(job).length > 0) return true;
  const all = judged(job).map((s) => foundReadings(job, s).length);
  const enough = hasMercury(job) ? 3 : 2;
  return (
    all.every((n) => n >= MOST_FOUND) ||
    (all.every((n) => n >= enough) && judged(job).every((s) => job.proved(s)))
  );
}

/** Read often enough, and it never comes twice. */
export const scatters = (job: JobView): boolean =>
  judged(job).some((s) => {
    const moved = Math.max(job.lastMove(s), levelled(job));
    // So often, and never twice running: that is scatter too.
    return (
      scattersSince(job, s, moved) ||
      (job.readings(s).filter((r) => r.kept.order > moved).length >= OFTEN &&
        !(job.finds && !turned(job) ? job.proved(s) : proved(job)))
    );
  });
const OFTEN = 9;

/**
 * What its differential would be with its own screw at the low end, where that is still too wide: Pa. Unknown until both its pointers
 * and a pair were read.
 */
export function atItsLowest(job: JobView): { readonly out: number; readonly in: number } | undefined {
  if (isLimit(job) || unread(job)) return undefined;
  const [out, low] = [newest(job, 'cutOut'), staysOpen(job) ? 0 : newest(job, 'cutIn')];
  const pointer = pointerNow(job, 'diff-pointer');
  const from = read(job.plan).plate.diffLow;
  if (out === undefined || low === undefined || pointer === undefined || from === undefined) return undefined;
  const narrows = Math.max(0, pointer - from) * NARROWS;
  const least = out - low - narrows;
  const { cutOut, cutIn } = job.plan.limits;
  const widest = (cutOut?.upper ?? Infinity) - (cutIn?.lower ?? -Infinity);
  return least > widest ? { out: (cutIn?.lower ?? 0) + least, in: cutIn?.lower ?? 0 } : undefined;
}
/** A pointer may do so much more than it says. */
const NARROWS = 1.3;
const newest = (job: JobView, setting: string): number | undefined => job.readings(setting).at(-1)?.value;

export const decision = (job: JobView): 'adjust' | 'leave' | 'replace' | undefined => {
  const said = answerAt(job, 'decide');
  if (said !== undefined) return said as 'adjust' | 'leave' | 'replace';
  if (!foundEnough(job)) return undefined;
  // What the last zero moves a little is not asked about any more.
  const closing = orderOf(job, 'back') > 0 || orderOf(job, 'zero-test-again') > 0;
  return allInside(job) || closing ? (job.finds ? 'leave' : 'adjust') : undefined;
};

/** Nothing is out, and nothing else speaks against it. */
export const allInside = (job: JobView): boolean =>
  !full(job) &&
  !stayedOpen(job) &&
  !tilted(job) &&
  !burnt(job) &&
  !(hasMercury(job) && read(job.plan).choice.mercury === 'replace') &&
  judged(job).every((s) => (job.finds ? job.verdict(s, 'found')?.word === 'in' : job.landed(s)));

/** Which screw is turned next, of its kind; the main one first, for it moves both. */
export function screw(job: JobView): Screw {
  const k = kind(job);
  if (k === 'add') return job.rests('cutIn') ? 'wheel' : 'mainLow';
  if (k === 'ounce') return job.rests('cutOut') ? 'diffOunce' : 'mainOunce';
  return k === 'limit' || !job.rests('cutOut') ? 'main' : 'diff';
}

/** Its main screw, and the setting that the main pointer stands for. */
export const mainScrew = (job: JobView): 'main' | 'mainLow' | 'mainOunce' =>
  kind(job) === 'add' ? 'mainLow' : kind(job) === 'ounce' ? 'mainOunce' : 'main';
export const lead = (job: JobView): 'cutIn' | 'cutOut' => (kind(job) === 'add' ? 'cutIn' : 'cutOut');

/** A tilted one was held plumb, and not read since. */
const unreadLevel = (job: JobView): boolean =>
  levelled(job) > 0 && judged(job).some((s) => !readAfter(job, s, levelled(job)));
export const unread = (job: JobView): boolean => judged(job).some((s) => job.due(s)) || unreadLevel(job);
export const landed = (job: JobView): boolean => !unreadLevel(job) && judged(job).every((s) => job.landed(s));
export const rests = (job: JobView): boolean => !unreadLevel(job) && judged(job).every((s) => job.rests(s));

const moves = (job: JobView, id: Screw): number =>
  job.state.turns.filter((t) => t.body.adjuster === id).length;

/** Turning on is useless or unsafe: why. */
export function stuck(job: JobView): { readonly code: string; readonly because: string } | undefined {
  if (decision(job) !== 'adjust' || rests(job) || unread(job) || full(job) || staysOpen(job))
    return undefined;
  const id = screw(job);
  if (moves(job, id) >= MOST_MOVES)
    return {
      code: 'moves',
      because: `${job.adjuster(id).title}: moved ${MOST_MOVES} times, and it does not land.`,
    };
  const advice = job.advice(id);
  return advice.stop !== null && advice.stop !== 'not-read' && !landed(job)
    ? { code: advice.stop, because: advice.because }
    : undefined;
}

/** Above what was pumped: its screw comes down by its pointer before anything can be read. */
export const tooHigh = (job: JobView): boolean => decision(job) === 'adjust' && full(job) && !welded(job);

export const wantsTurn = (job: JobView): boolean =>
  decision(job) === 'adjust' &&
  !full(job) &&
  !rests(job) &&
  !unread(job) &&
  stuck(job) === undefined &&
  job.advice(screw(job)).stop === null;

export const turned = (job: JobView): boolean => job.state.turns.length > 0;
/** The driver was taken away and the case tapped after the last turn. */
export const tapped = (job: JobView): boolean => orderOf(job, 'tap') > (job.state.turns.at(-1)?.order ?? 0);

/** Once a screw was moved: three pairs that agree since the driver's last touch, else two. */
export const proved = (job: JobView): boolean => {
  const since = turned(job) ? orderOf(job, 'tap') : 0;
  const least = turned(job) || hasMercury(job) ? 3 : 2;
  return (
    (!turned(job) || tapped(job)) &&
    judged(job).every(
      (s) =>
        job.proved(s) &&
        (!turned(job) || job.agreeing(s).filter((r) => r.kept.order > since).length >= least),
    )
  );
};

/** It stays open as it stands now, turned down, hung plumb, or as it was: it is got back by its scale, where that has room, and otherwise not at all. */
export const lostReset = (job: JobView): boolean => staysOpen(job) && decision(job) === 'adjust';
const MOST_REGAINS = 4;
const regains = (job: JobView): number =>
  job.state.turns.filter((t) => t.body.at.key.startsWith('regain-')).length;

/** How far which screw is moved so that it closes again, Pa of its scale; undefined where it has no room, or was tried. */
export function regain(job: JobView): { readonly screw: Screw; readonly amount: number } | undefined {
  if (decision(job) !== 'adjust' || !lostReset(job) || regains(job) >= MOST_REGAINS) return undefined;
  const main = mainScrew(job);
  const { cutOut, cutIn } = job.plan.limits;
  const [out, back] = [job.readings('cutOut').at(-1), job.readings('cutIn').at(-1)];
  const widest = (cutOut?.upper ?? Infinity) - (cutIn?.lower ?? 0);
  if (kind(job) !== 'add' && out && back && out.value - back.value > widest) {
    const id = kind(job) === 'ounce' ? 'diffOunce' : 'diff';
    const { quantum } = job.adjuster(id);
    const room = (pointerNow(job, 'diff-pointer') ?? 0) - (read(job.plan).plate.diffLow ?? 0);
    const steps = Math.floor(Math.min(out.value - back.value - widest + 2 * quantum, room) / quantum);
    if (steps >= 1) return { screw: id, amount: -steps * quantum };
  }
  // By its scale it should stand there: up to what is planned, and where it was brought there already, farther by a cut-in.
  const read_ = job.readings(lead(job)).at(-1);
  const since = job.state.turns
    .filter((t) => t.body.adjuster === main && t.order > (read_?.kept.order ?? 0))
    .reduce((sum, t) => sum + t.body.amount, read_?.value ?? 0);
  const short = (job.plan.values[lead(job)] ?? 0) - since;
  const { quantum } = job.adjuster(main);
  // Nothing was ever read of it: half of what it was brought down by.
  const down = job.state.turns.findLast((t) => t.body.adjuster === main && t.body.amount < 0)?.body.amount;
  if (!read_ && down !== undefined)
    return { screw: main, amount: Math.max(1, Math.round(-down / 2 / quantum)) * quantum };
  const by = Math.max(short, job.plan.values['cutIn'] ?? 0, quantum);
  return { screw: main, amount: Math.round(by / quantum) * quantum };
}

export const hopeless = (job: JobView): boolean =>
  welded(job) ||
  scatters(job) ||
  atItsLowest(job) !== undefined ||
  stuck(job) !== undefined ||
  (lostReset(job) && regain(job) === undefined);

export function settled(job: JobView): boolean {
  const decided = decision(job);
  if (decided === undefined) return false;
  if (decided !== 'adjust') return true;
  return hopeless(job) || (rests(job) && proved(job));
}

export const siphon = (job: JobView): string | undefined => answerAt(job, 'siphon');

/** What its circuit did, wherever in the job it was tried. */
const circuit = (job: JobView): string | undefined =>
  job.state.observations.findLast((o) => ['lead', 'end-lead', 'live-lead'].includes(o.body.at.key))?.body
    .answer;

/** On its boiler the load keeps the pressure under its cut-out. */
export const loadTakesAll = (job: JobView): boolean =>
  job.state.observations.some((o) => o.body.answer === 'met' && o.body.at.key !== 'live');

/** It was seen to stop and start its burner, or its circuit was proved where the load took all. */
export const seenLive = (job: JobView): boolean => {
  const live = answerAt(job, 'live');
  return live === 'both' || live === 'short' || (live !== 'runs-on' && circuit(job) === 'out');
};
/** Fires without it. */
export const byPassed = (job: JobView): boolean =>
  circuit(job) === 'lights' || job.state.observations.some((o) => o.body.answer === 'fires-on');

/** It stays locked off at the end. */
export const leftOff = (job: JobView): boolean =>
  welded(job) ||
  runsPast(job) ||
  byPassed(job) ||
  answerAt(job, 'live') === 'runs-on' ||
  answerAt(job, 'inside') === 'burnt' ||
  siphon(job) === 'none' ||
  (decision(job) === 'replace' && (full(job) || staysOpen(job)));

/** So many times what condenses is fired, from how long the same rise and fall take [reckoned, ± 15 %]. */
export function firedOver(job: JobView): number | undefined {
  const [rise, fall] = [shownAt(job, 'rise'), shownAt(job, 'fall')];
  return rise && fall !== undefined ? 1 + fall / rise : undefined;
}

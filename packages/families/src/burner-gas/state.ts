import type { JobView } from '@firm-needle/core/procedure';
import { insidePlain } from '@firm-needle/core/verdict';
import { answerAt, firstSaid, lastSaid, lastSeen, takenAt } from '../shared/seen.js';
import {
  byFigure as byFigureOf,
  DIAL_MOVES,
  DOUBT,
  hasLockUp,
  hasManifold,
  MOST_DROOP,
  MOST_MOVES,
  parts,
  read,
  switchesOf,
  WIDE_OPEN,
  type SwitchSetting,
} from './parts.js';
import { divisionOf } from './plan.js';

export { answerAt };
export const { last } = parts;

export const DIALS = {
  lowGas: 'lowDial',
  highGas: 'highDial',
  airTrip: 'airDial',
  mainTrip: 'mainDial',
} as const satisfies Record<SwitchSetting, string>;
export type Screw = 'supply' | 'appliance' | (typeof DIALS)[SwitchSetting];

/** Gas where it should not be: cock shut, out, and called. */
export const leak = (job: JobView): boolean => answerAt(job, 'sniff') === 'gas';
/** A joint of our own, or of a port, bubbled and was made tight; or is not tight yet. */
export const bubbled = (job: JobView) =>
  firstSaid(job, 'soap', 'bubbles') ?? firstSaid(job, 'close', 'bubbles');
export const tight = (job: JobView): boolean => answerAt(job, 'soap') === 'tight';
export const supplyCreeps = (job: JobView) => firstSaid(job, 'static', 'creeps');
export const seat = (job: JobView) => firstSaid(job, 'lock-up', 'creeps');
export const noLight = (job: JobView) => lastSaid(job, 'supply', 'no-light');
export const vent = (job: JobView) => firstSaid(job, 'manifold', 'slow');
/** Slow still, though its vent was cleared. */
export const ventStays = (job: JobView): boolean => {
  const cleared = takenAt(job, 'vent-clear');
  return cleared > 0 && (lastSaid(job, 'manifold', 'slow')?.order ?? 0) > cleared;
};
export const water = (job: JobView) =>
  firstSaid(job, 'static', 'water') ?? firstSaid(job, 'air-normal', 'water');
const WELDS: Readonly<Record<SwitchSetting, readonly [step: string, code: 'welded' | 'air-stuck']>> = {
  lowGas: ['low-gas', 'welded'],
  highGas: ['high-gas', 'welded'],
  airTrip: ['air-trip', 'air-stuck'],
  mainTrip: ['main-trip', 'air-stuck'],
};
/** A switch that never opens, however far its pressure was brought. */
export const stuckSwitch = (
  job: JobView,
): { readonly setting: SwitchSetting; readonly code: 'welded' | 'air-stuck' } | undefined => {
  for (const setting of switchesOf(job.plan)) {
    const [step, code] = WELDS[setting];
    if (firstSaid(job, step, 'never')) return { setting, code };
  }
  return answerAt(job, 'hose') === 'runs-on' ? { setting: 'airTrip', code: 'air-stuck' } : undefined;
};
export const co = (job: JobView): boolean => answerAt(job, 'relight') === 'bad';
/** The plan is not what the book says. */
export const bookDiffers = (job: JobView): boolean =>
  job.state.observations.some((o) => o.body.at.key.startsWith('book') && o.body.answer === 'differs');

/** Nothing more is done on it as it stands. */
export const stopped = (job: JobView): boolean =>
  leak(job) ||
  supplyCreeps(job) !== undefined ||
  seat(job) !== undefined ||
  ventStays(job) ||
  stuckSwitch(job) !== undefined;

/** The supply stands over what the valve bears, so far as its manometer can tell: it is not fired so. */
export const over = (job: JobView): boolean => {
  const rest = last(job, 'static');
  const { ceiling } = read(job.plan).plate;
  return rest !== undefined && ceiling !== undefined && rest > ceiling - DOUBT / 2 && !job.unread('static');
};
export const wasOver = (job: JobView): number | undefined => {
  const { ceiling = Infinity } = read(job.plan).plate;
  return job.readings('static').find((r) => r.value > ceiling - DOUBT / 2)?.value;
};

/** What is planned and judged. */
export const judged = (job: JobView): readonly string[] => [
  'static',
  ...(hasManifold(job.plan) && !starved(job) ? ['manifold'] : []),
  ...(byFigureOf(job.plan) ? [] : switchesOf(job.plan)),
];
/** What was never had as it was found, because it was not fired: it is read once it may be. */
const had = (job: JobView, setting: string): boolean => job.readings(setting).length > 0;

export const droops = (job: JobView): number | undefined => {
  const [rest, fire] = [last(job, 'static'), last(job, 'supplyFlow')];
  if (rest === undefined || fire === undefined) return undefined;
  const { flowLeast } = read(job.plan).plate;
  const most = flowLeast === undefined ? MOST_DROOP : Math.max(0, rest - flowLeast);
  return rest - fire > most ? rest - fire : undefined;
};

/** Its regulator stands wide open: there is hardly more before it than after it, and the supply sags. */
export const starved = (job: JobView): boolean => {
  const [fire, after] = [last(job, 'supplyFlow'), last(job, 'manifold')];
  const { lower = -Infinity } = job.limits('manifold', 'left');
  return (
    droops(job) !== undefined &&
    fire !== undefined &&
    after !== undefined &&
    after < lower &&
    fire - after < WIDE_OPEN
  );
};

/** Least and most that a gas switch’s tap sees in normal use, as measured, Pa. */
export function normalAt(job: JobView, setting: 'lowGas' | 'highGas'): number | undefined {
  const { choice } = read(job.plan);
  const before = choice[setting === 'lowGas' ? 'lowTap' : 'highTap'] === 'before';
  if (setting === 'lowGas')
    return before ? last(job, 'supplyFlow') : least(last(job, 'manifold'), last(job, 'lowFire'));
  if (before) return last(job, 'static');
  // Behind the safety valves the tap sees nothing of what locks up.
  return choice.lockTap === 'before' ? (last(job, 'lockUp') ?? last(job, 'manifold')) : last(job, 'manifold');
}
const least = (...all: readonly (number | undefined)[]): number | undefined => {
  const known = all.flatMap((x) => (x === undefined ? [] : [x]));
  return known.length === 0 ? undefined : Math.min(...known);
};
/** How much a trip stands clear of normal use, and how much it should, Pa. */
export function marginOf(
  job: JobView,
  setting: SwitchSetting,
): { readonly has: number; readonly wants: number } | undefined {
  const trip = last(job, setting);
  const normal =
    setting === 'airTrip'
      ? last(job, 'airNormal')
      : setting === 'lowGas' || setting === 'highGas'
        ? normalAt(job, setting)
        : undefined;
  if (trip === undefined || normal === undefined) return undefined;
  const U = (job.figure(setting, 'left') ?? job.figure(setting, 'found'))?.budget.U ?? 0;
  return {
    has: setting === 'highGas' ? trip - normal : normal - trip,
    wants: divisionOf(job.plan, setting) / 2 + U,
  };
}

/** Where a dial’s own figure stands: as it was noted, and what it was moved by since. */
export function dialAt(job: JobView, setting: SwitchSetting): number | undefined {
  const seen = lastSeen(job, `${DIALS[setting]}-shows`);
  const shown = seen?.body.answer === 'shows' ? seen.body.value?.value : undefined;
  return seen === undefined || shown === undefined
    ? undefined
    : job.state.turns
        .filter((t) => t.body.adjuster === DIALS[setting] && t.order > seen.order)
        .reduce((sum, t) => sum + t.body.amount, shown);
}
/** Where a dial stood as it was noted, and what it tripped at then, Pa. */
export function dialOff(
  job: JobView,
  setting: SwitchSetting,
): { readonly shown: number; readonly trips: number } | undefined {
  const seen = lastSeen(job, `${DIALS[setting]}-shows`);
  const shown = seen?.body.answer === 'shows' ? seen.body.value?.value : undefined;
  const trips = job.figure(setting, 'found') ?? job.figure(setting, 'left');
  if (shown === undefined || !trips) return undefined;
  // What it tripped at as it was noted, not as it was left.
  const first = job.readings(setting)[0]?.value ?? trips.value;
  return Math.abs(shown - first) > divisionOf(job.plan, setting) / 2 + trips.budget.U
    ? { shown, trips: first }
    : undefined;
}

/** Nothing is out, and nothing could be brought more surely inside. */
export const allInside = (job: JobView): boolean =>
  !over(job) &&
  judged(job).every((x) =>
    job.finds
      ? had(job, x) && (job.verdict(x, 'found')?.word === 'in' || (plainly(job, x) && job.rests(x)))
      : job.landed(x),
  ) &&
  plainly(job, 'lockUp') &&
  (!byFigureOf(job.plan) || dialsDue(job).length === 0);
/** Inside as it was found, or never had. */
const plainly = (job: JobView, setting: string): boolean => {
  const f = job.figure(setting, 'found');
  return f === undefined || insidePlain(f.value, job.limits(setting, 'found'));
};

export const decision = (job: JobView): 'adjust' | 'leave' | 'replace' | undefined => {
  const said = answerAt(job, 'decide');
  if (said !== undefined) return said as 'adjust';
  if (stopped(job) || !foundDone(job)) return undefined;
  return allInside(job) ? (job.finds ? 'leave' : 'adjust') : undefined;
};
/** Everything was read that could be, as it stands. */
export const standsOpen = (job: JobView): SwitchSetting | undefined =>
  switchesOf(job.plan).find((x) => notMade(job, x));
export const foundDone = (job: JobView): boolean =>
  over(job) ||
  stopped(job) ||
  (judged(job).every((x) => had(job, x) || notMade(job, x) || (x === 'manifold' && cannotFire(job))) &&
    !switchesOf(job.plan).some((x) => tripDue(job, x)));
/** Open already as it stood: its trip lies above what normal use gives it, or for high gas below. */
export const notMade = (job: JobView, x: string): boolean => {
  const step = WELDS[x as SwitchSetting]?.[0];
  const said = step === undefined ? undefined : lastSaid(job, step, 'not-made');
  return (
    said !== undefined &&
    said.order > lastTurn(job, DIALS[x as SwitchSetting]) &&
    !job.readings(x).some((r) => r.kept.order > said.order)
  );
};
export const adjusting = (job: JobView): boolean => decision(job) === 'adjust';

export const turned = (job: JobView): boolean => job.state.turns.length > 0;
const movesOf = (job: JobView, id: Screw): number =>
  job.state.turns.filter((t) => t.body.adjuster === id).length;
const lastTurn = (job: JobView, id: Screw): number =>
  job.state.turns.findLast((t) => t.body.adjuster === id)?.order ?? 0;
const since = (job: JobView, setting: string, order: number): number =>
  job.readings(setting).filter((r) => r.kept.order > order).length;

/** A cap or cover back on is the lock: what proves comes after it. */
export const capped = (job: JobView, id: 'supply' | 'appliance'): boolean =>
  takenAt(job, `cap-${id}`) > lastTurn(job, id);
export const covered = (job: JobView): boolean =>
  takenAt(job, 'cover') > Math.max(0, ...Object.values(DIALS).map((d) => lastTurn(job, d)));

const ownRests = (job: JobView, setting: string): boolean => had(job, setting) && job.rests(setting);

/** It was not seen to burn since it would not light. */
export const cannotFire = (job: JobView): boolean => {
  const said = noLight(job)?.order ?? 0;
  return said > 0 && !job.readings('supplyFlow').some((r) => r.kept.order > said);
};
/** It may be fired: it never failed to light, or a dial was moved for that since. */
export const mayFire = (job: JobView): boolean =>
  !cannotFire(job) ||
  (covered(job) &&
    Math.max(0, ...Object.values(DIALS).map((d) => lastTurn(job, d))) > (noLight(job)?.order ?? 0) &&
    dialsDue(job).length === 0);

/**
 * A pressure that is out is read once more before a screw is moved for it, and so is one that a turn brought away from where it is
 * wanted; on until two are of one mind.
 */
export const inDoubt = (job: JobView, setting: 'static' | 'manifold'): boolean => {
  const id = setting === 'static' ? 'supply' : 'appliance';
  const wanted = job.plan.values[setting];
  if (wanted === undefined || !had(job, setting) || job.unread(setting) || job.rests(setting)) return false;
  const all = job.readings(setting);
  const here = all
    .filter((r) => r.kept.order > lastTurn(job, id) && r.kept.body.state !== 'early')
    .map((r) => r.value);
  const [newest] = here.slice(-1);
  if (newest === undefined) return true;
  if (here.length >= MOST_TRIPS) return false;
  if (job.advice(id).stop === 'not-read') return true;
  if (here.length > 1) return range(here.slice(-2)) > DOUBT;
  const before = all.findLast((r) => r.kept.order < lastTurn(job, id))?.value;
  return before === undefined || Math.abs(newest - wanted) > Math.abs(before - wanted);
};

/** Supply: where it should be, capped, and read since, at rest and at full fire. */
export const fireUnread = (job: JobView): boolean => job.unread('supplyFlow') || !had(job, 'supplyFlow');
export const staticUnread = (job: JobView): boolean =>
  job.unread('static') || (!over(job) && inDoubt(job, 'static'));
export const supplyUnread = (job: JobView): boolean => staticUnread(job) || (!over(job) && fireUnread(job));
export const supplyWants = (job: JobView): boolean => !over(job) && !ownRests(job, 'static');
export const supplyDone = (job: JobView): boolean =>
  !over(job) &&
  !supplyUnread(job) &&
  ownRests(job, 'static') &&
  (movesOf(job, 'supply') === 0 ||
    (capped(job, 'supply') &&
      since(job, 'static', takenAt(job, 'cap-supply')) > 0 &&
      since(job, 'supplyFlow', takenAt(job, 'cap-supply')) > 0));

export const manifoldUnread = (job: JobView): boolean =>
  hasManifold(job.plan) &&
  (job.unread('manifold') ||
    !had(job, 'manifold') ||
    (!starved(job) && inDoubt(job, 'manifold')) ||
    sinceSupply(job, 'manifold'));
/** The supply was moved since: what follows it is read anew. */
const sinceSupply = (job: JobView, setting: string): boolean =>
  movesOf(job, 'supply') > 0 && since(job, setting, lastTurn(job, 'supply')) === 0;
export const lockUpDue = (job: JobView): boolean =>
  hasLockUp(job.plan) &&
  (since(job, 'lockUp', lastTurn(job, 'appliance')) === 0 || sinceSupply(job, 'lockUp'));
export const manifoldDone = (job: JobView): boolean =>
  !hasManifold(job.plan) ||
  starved(job) ||
  (!manifoldUnread(job) &&
    ownRests(job, 'manifold') &&
    !lockUpDue(job) &&
    (movesOf(job, 'appliance') === 0 ||
      (capped(job, 'appliance') && since(job, 'manifold', takenAt(job, 'cap-appliance')) > 0)));

/** Dials whose trip is not where it should be; pressures they watch come first. */
export const dialsDue = (job: JobView): readonly SwitchSetting[] =>
  switchesOf(job.plan).filter((x) =>
    byFigureOf(job.plan)
      ? figureDue(job, x)
      : had(job, x) && !job.unread(x) && !job.rests(x) && !loose(job, x) && stuckDial(job, x) === undefined,
  );
const figureDue = (job: JobView, x: SwitchSetting): boolean => {
  const at = dialAt(job, x);
  const wanted = job.plan.values[x];
  return at === undefined || wanted === undefined
    ? lastSeen(job, `${DIALS[x]}-shows`) === undefined
    : Math.abs(at - wanted) > job.adjuster(DIALS[x]).quantum / 2;
};
export const byFigureOnly = (job: JobView): boolean => byFigureOf(job.plan);
/** How far a dial is moved by its own figure alone, Pa; undefined where it stands there, or cannot be read. */
export const byFigure = (job: JobView, x: SwitchSetting): number | undefined => {
  const [at, wanted] = [dialAt(job, x), job.plan.values[x]];
  if (at === undefined || wanted === undefined) return undefined;
  const { quantum } = job.adjuster(DIALS[x]);
  const by = Math.round((wanted - at) / quantum) * quantum;
  return by === 0 ? undefined : by;
};
export const noted = (job: JobView, x: SwitchSetting): boolean =>
  lastSeen(job, `${DIALS[x]}-shows`) !== undefined;
/** Trips of a switch since its dial was moved last, each waited for. */
const tripsNow = (job: JobView, x: SwitchSetting): readonly number[] =>
  job
    .readings(x)
    .filter((r) => r.kept.order > lastTurn(job, DIALS[x]) && r.kept.body.state !== 'early')
    .map((r) => r.value);
const range = (values: readonly number[]): number => Math.max(...values) - Math.min(...values);
/** What lies farthest off may have been read of another gauge. */
const nearest = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  return Math.min(range(sorted.slice(1)), range(sorted.slice(0, -1)));
};
/** Three trips of one dial, and it was not touched between them, that lie farther apart than it can be read. */
export const loose = (job: JobView, x: SwitchSetting): boolean => {
  const trips = tripsNow(job, x);
  return trips.length >= LOOSE_OF && nearest(trips) > LOOSE_PART * divisionOf(job.plan, x);
};
const LOOSE_OF = 3;
/** Part of a division that a sound dial’s trips stay within [assumed]. */
const LOOSE_PART = 0.75;
/**
 * Once where it stands inside; once more where it is out, was moved, or was not waited for, and on until two are of one mind: no dial is
 * moved for one reading, and none is signed on one.
 */
export const tripDue = (job: JobView, x: SwitchSetting): boolean => {
  if (byFigureOf(job.plan) || stopped(job) || notMade(job, x)) return false;
  const moved = movesOf(job, DIALS[x]) > 0;
  if (moved && (!covered(job) || loose(job, x))) return false;
  const all = job.readings(x).filter((r) => r.kept.order > lastTurn(job, DIALS[x])).length;
  if (all >= MOST_TRIPS) return false;
  const trips = tripsNow(job, x);
  if (trips.length === 0 || (!job.landed(x) && job.advice(DIALS[x]).stop === 'not-read')) return true;
  if (job.landed(x)) return moved ? !agrees(job, x) : !job.rests(x) && !ofOneMind(job, x, trips);
  return !ofOneMind(job, x, trips);
};
const MOST_TRIPS = 5;
const ofOneMind = (job: JobView, x: SwitchSetting, trips: readonly number[]): boolean =>
  trips.length > LOOSE_OF || (trips.length > 1 && range(trips.slice(-2)) <= divisionOf(job.plan, x) / 2);

/** Two trips since it was moved agree with each other and with what the dial was moved by; or three with each other. */
const agrees = (job: JobView, x: SwitchSetting): boolean => {
  const trips = tripsNow(job, x);
  const apart = divisionOf(job.plan, x) / 2;
  if (trips.length > LOOSE_OF) return true;
  if (trips.length === LOOSE_OF) return range(trips) <= apart;
  const turn = job.state.turns.findLast((t) => t.body.adjuster === DIALS[x]);
  const before = turn && job.readings(x).findLast((r) => r.kept.order < turn.order);
  const expected = before && turn ? [before.value + turn.body.amount] : [];
  return trips.length === 2 && range([...trips, ...expected]) <= apart;
};
export const switchesDone = (job: JobView): boolean =>
  switchesOf(job.plan).every((x) =>
    byFigureOf(job.plan)
      ? !figureDue(job, x)
      : had(job, x) && job.rests(x) && !tripDue(job, x) && (movesOf(job, DIALS[x]) === 0 || covered(job)),
  );
const stuckDial = (job: JobView, x: SwitchSetting) =>
  movesOf(job, DIALS[x]) >= DIAL_MOVES && !job.landed(x) && !job.unread(x) && !tripDue(job, x)
    ? {
        code: 'moves',
        because: `${job.adjuster(DIALS[x]).title}: moved ${DIAL_MOVES} times, and it does not land.`,
      }
    : undefined;

/** Turning on is useless or unsafe: why. */
export function stuck(job: JobView): { readonly code: string; readonly because: string } | undefined {
  if (!adjusting(job)) return undefined;
  for (const x of switchesOf(job.plan)) {
    if (tripDue(job, x)) continue;
    const dial = stuckDial(job, x);
    if (dial) return dial;
    if (loose(job, x))
      return {
        code: 'dial-loose',
        because: `${job.adjuster(DIALS[x]).title}: what was not touched trips elsewhere each time.`,
      };
  }
  for (const [id, setting, unread] of [
    ['supply', 'static', supplyUnread(job)],
    ['appliance', 'manifold', manifoldUnread(job)],
  ] as const) {
    if (unread || over(job) || !judged(job).includes(setting) || job.rests(setting)) continue;
    if (movesOf(job, id) >= MOST_MOVES && !job.landed(setting))
      return {
        code: 'moves',
        because: `${job.adjuster(id).title}: moved ${MOST_MOVES} times, and it does not land.`,
      };
    const advice = job.advice(id);
    if (advice.stop !== null && !job.landed(setting)) return { code: advice.stop, because: advice.because };
  }
  if (over(job) && movesOf(job, 'supply') >= MOST_MOVES)
    return {
      code: 'moves',
      because: `Supply screw: moved ${MOST_MOVES} times, and it still stands over what the valve bears.`,
    };
  return dialAdviceStops(job);
}
const dialAdviceStops = (job: JobView) => {
  if (byFigureOf(job.plan)) return undefined;
  for (const x of switchesOf(job.plan)) {
    if (!had(job, x) || job.unread(x) || job.rests(x) || job.landed(x) || tripDue(job, x)) continue;
    const advice = job.advice(DIALS[x]);
    if (advice.stop !== null) return { code: advice.stop, because: advice.because };
  }
  return undefined;
};
/** How far the supply comes down for a valve that must not see it, turns: at rest nothing else can be asked of it. */
export const backDown = (job: JobView): number => {
  const { prior, quantum, largest } = job.adjuster('supply');
  const [rest, wanted] = [last(job, 'static') ?? 0, job.plan.values['static'] ?? 0];
  const turns = Math.max(1, Math.round((rest - wanted) / prior.perTurn / quantum));
  return -Math.min(largest, turns * quantum);
};

/** Gas and fire are as they should be, or cannot be had until a dial is moved: the dials come next. */
export const pressuresDone = (job: JobView): boolean =>
  cannotFire(job) && !mayFire(job)
    ? !over(job) && !job.unread('static')
    : supplyDone(job) && manifoldDone(job);
export const turnsDials = (job: JobView): boolean =>
  dialsDue(job).some((x) => byFigureOf(job.plan) || notMade(job, x) || job.advice(DIALS[x]).stop === null) &&
  !switchesOf(job.plan).some((x) => tripDue(job, x));
/** What the fan gives was never had. */
export const airDue = (job: JobView): boolean => !had(job, 'airNormal');
export const wet = (job: JobView, which: 'gas' | 'air'): boolean => {
  const step = which === 'gas' ? 'static' : 'air-normal';
  return firstSaid(job, step, 'water') !== undefined && !had(job, which === 'gas' ? 'static' : 'airNormal');
};
export const closedTight = (job: JobView): boolean => answerAt(job, 'close') === 'tight';
/** A cap is due where its screw rests, and was turned and not capped since. */
export const capDue = (job: JobView, id: 'supply' | 'appliance'): boolean =>
  movesOf(job, id) > 0 &&
  !capped(job, id) &&
  (id === 'supply'
    ? !over(job) && !supplyUnread(job) && ownRests(job, 'static')
    : supplyDone(job) && !manifoldUnread(job) && ownRests(job, 'manifold'));
export const capOff = (job: JobView): boolean =>
  (['supply', 'appliance'] as const).some((id) => movesOf(job, id) > 0 && !capped(job, id));
/** The manifold stands where it should, its cap on. */
export const manifoldSet = (job: JobView): boolean =>
  !manifoldUnread(job) &&
  ownRests(job, 'manifold') &&
  (movesOf(job, 'appliance') === 0 || capped(job, 'appliance'));

export const proved = (job: JobView): boolean =>
  !cannotFire(job) && supplyDone(job) && manifoldDone(job) && switchesDone(job);
/** It would not light, and there is no dial left to move for that. */
export const neverLit = (job: JobView): boolean =>
  cannotFire(job) &&
  dialsDue(job).length === 0 &&
  !mayFire(job) &&
  !switchesOf(job.plan).some((x) => tripDue(job, x));
export const hopeless = (job: JobView): boolean =>
  stopped(job) || stuck(job) !== undefined || bookDiffers(job) || neverLit(job);

export function settled(job: JobView): boolean {
  const decided = decision(job);
  if (decided === undefined) return stopped(job);
  return decided !== 'adjust' || hopeless(job) || proved(job);
}
/** It stays shut at the end: what was found must not burn. */
export const leftShut = (job: JobView): boolean =>
  leak(job) ||
  supplyCreeps(job) !== undefined ||
  seat(job) !== undefined ||
  cannotFire(job) ||
  ventStays(job) ||
  stuckSwitch(job) !== undefined ||
  standsOpen(job) !== undefined ||
  over(job) ||
  job.unread('static') ||
  job.unread('manifold') ||
  switchesOf(job.plan).some(
    (x) => movesOf(job, DIALS[x]) > 0 && (job.unread(x) || loose(job, x)) && !byFigureOf(job.plan),
  );
export { firstSaid, lastSeen };

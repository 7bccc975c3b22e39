// The switches: what they trip at, where their dials stand, and which is moved next.
import type { JobView } from '@firm-needle/core/procedure';
import { answerAt, lastSaid, lastSeen, takenAt } from '../shared/seen.js';
import { DIAL_MOVES, DOUBT, RUNS_BY, switchesOf, toDial, untripped, type SwitchSetting } from './parts.js';
import { divisionOf } from './plan.js';
import { last, DIALS, WELDS, stopped, had, normalAt, movesOf, lastTurn, range, MOST_TRIPS } from './seen.js';

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

/** When it was last seen open already, since its dial was moved; 0 where it was not. */
const openAt = (job: JobView, x: string): number => {
  const step = WELDS[x as SwitchSetting]?.[0];
  const said = step === undefined ? undefined : lastSaid(job, step, 'not-made');
  return said !== undefined && said.order > lastTurn(job, DIALS[x as SwitchSetting]) ? said.order : 0;
};
/** Open already as it stood, and never tripped as it stands now: its trip lies beyond what normal use gives it. */
export const notMade = (job: JobView, x: string): boolean =>
  openAt(job, x) > 0 && !job.readings(x).some((r) => r.kept.order > lastTurn(job, DIALS[x as SwitchSetting]));

/** A switch that stands open as it is: what it watches is looked at before its dial. */
export const standsOpen = (job: JobView): SwitchSetting | undefined =>
  switchesOf(job.plan).find((x) => notMade(job, x));

export const covered = (job: JobView): boolean =>
  takenAt(job, 'cover') > Math.max(0, ...Object.values(DIALS).map((d) => lastTurn(job, d)));

/** Dials whose trip is not where it should be; pressures they watch come first. */
export const dialsDue = (job: JobView): readonly SwitchSetting[] =>
  switchesOf(job.plan).filter((x) =>
    untripped(job.plan, x)
      ? figureDue(job, x)
      : had(job, x) && !job.unread(x) && !job.rests(x) && !loose(job, x) && stuckDial(job, x) === undefined,
  );

/** What was read at its tap as its dial was run to it, Pa. */
export const stoodAt = (job: JobView, x: SwitchSetting): number | undefined => {
  const seen = lastSeen(job, `${DIALS[x]}-stands`)?.body;
  return (seen?.answer === 'stands' || seen?.answer === 'open') && seen.value
    ? job.corrected('gas', seen.value.value)
    : undefined;
};
const runOf = (job: JobView, x: SwitchSetting) =>
  job.state.turns.findLast((t) => t.body.at.key === `run-${DIALS[x]}`);

/** Its dial was run until it tripped, or to its end, or nothing stood at its tap to run it to. */
export const ran = (job: JobView, x: SwitchSetting): boolean =>
  runOf(job, x) !== undefined || answerAt(job, `${DIALS[x]}-stands`) === 'none';

/** By how much a dial shows more than it trips at, as it was run to what stood at its tap, Pa. */
export function dialError(job: JobView, x: SwitchSetting): number | undefined {
  const [run, stood, seen] = [runOf(job, x), stoodAt(job, x), lastSeen(job, `${DIALS[x]}-shows`)];
  const shown = seen?.body.answer === 'shows' ? seen.body.value?.value : undefined;
  return run?.body.reached !== true || stood === undefined || shown === undefined
    ? undefined
    : job.state.turns
        .filter((t) => t.body.adjuster === DIALS[x] && t.order > (seen?.order ?? 0) && t.order <= run.order)
        .reduce((sum, t) => sum + t.body.amount, shown) - stood;
}
/** What it tripped at as it was found, by its dial and that dial’s error, Pa. */
export const trippedAt = (job: JobView, x: SwitchSetting): number | undefined => {
  const shown = lastSeen(job, `${DIALS[x]}-shows`)?.body.value?.value;
  const error = dialError(job, x);
  return shown === undefined || error === undefined ? undefined : shown - error;
};

/**
 * How well a point is known that was carried by a dial from where it was proved, Pa, k = 2: a dial goes by a tenth more or less than it
 * shows, it was run in steps, and what stood was read by a manometer.
 */
export function carriedWithin(job: JobView, x: SwitchSetting): number {
  const [stood, wanted] = [stoodAt(job, x) ?? 0, job.plan.values[x] ?? 0];
  return 2 * Math.hypot(job.adjuster(DIALS[x]).prior.spread * (wanted - stood), RUNS_BY, DOUBT / 2);
}

/** Where its dial must stand, its error carried where that is known. */
export const wantedAt = (job: JobView, x: SwitchSetting): number | undefined => {
  const wanted = job.plan.values[x];
  return wanted === undefined ? undefined : wanted + (dialError(job, x) ?? 0);
};

const setByFigure = (job: JobView, x: SwitchSetting): boolean =>
  job.state.turns.some((t) => t.body.at.key === `figure-${DIALS[x]}`);

const figureDue = (job: JobView, x: SwitchSetting): boolean => {
  if (toDial(job.plan, x) && !ran(job, x)) return true;
  const at = dialAt(job, x);
  const wanted = wantedAt(job, x);
  return at === undefined || wanted === undefined
    ? lastSeen(job, `${DIALS[x]}-shows`) === undefined
    : // Once it stands, the zero at the end may say a little else of what stood there: that is no reason to open it again.
      Math.abs(at - wanted) > job.adjuster(DIALS[x]).quantum * (setByFigure(job, x) ? 1.5 : 0.5);
};

/** How far a dial is moved by its own figure alone, Pa; undefined where it stands there, or cannot be read. */
export const byFigure = (job: JobView, x: SwitchSetting): number | undefined => {
  const [at, wanted] = [dialAt(job, x), wantedAt(job, x)];
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
  if (untripped(job.plan, x) || stopped(job) || notMade(job, x)) return false;
  const moved = movesOf(job, DIALS[x]) > 0;
  if (moved && (!covered(job) || loose(job, x))) return false;
  const all = job.readings(x).filter((r) => r.kept.order > lastTurn(job, DIALS[x])).length;
  if (all >= MOST_TRIPS) return false;
  const trips = tripsNow(job, x);
  // So near normal use that it opens by itself: what it tripped at stands.
  if (trips.length > 0 && openAt(job, x) > 0) return false;
  if (trips.length === 0 || (!job.landed(x) && job.advice(DIALS[x]).stop === 'not-read')) return true;
  if (job.landed(x)) return moved ? !agrees(job, x) : !job.rests(x) && !ofOneMind(job, x, trips);
  return !ofOneMind(job, x, trips);
};

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
    untripped(job.plan, x)
      ? !figureDue(job, x)
      : had(job, x) && job.rests(x) && !tripDue(job, x) && (movesOf(job, DIALS[x]) === 0 || covered(job)),
  );

export const stuckDial = (job: JobView, x: SwitchSetting) =>
  !untripped(job.plan, x) &&
  movesOf(job, DIALS[x]) >= DIAL_MOVES &&
  !job.landed(x) &&
  !job.unread(x) &&
  !tripDue(job, x)
    ? {
        code: 'moves',
        because: `${job.adjuster(DIALS[x]).title}: moved ${DIAL_MOVES} times, and it does not land.`,
      }
    : undefined;

export const dialAdviceStops = (job: JobView) => {
  for (const x of switchesOf(job.plan)) {
    if (untripped(job.plan, x)) continue;
    if (!had(job, x) || job.unread(x) || job.rests(x) || job.landed(x) || tripDue(job, x)) continue;
    const advice = job.advice(DIALS[x]);
    if (advice.stop !== null) return { code: advice.stop, because: advice.because };
  }
  return undefined;
};

export const turnsDials = (job: JobView): boolean =>
  dialsDue(job).some((x) => untripped(job.plan, x) || job.advice(DIALS[x]).stop === null) &&
  !switchesOf(job.plan).some((x) => tripDue(job, x));

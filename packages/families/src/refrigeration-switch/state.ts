import { insidePlain } from '@firm-needle/core/verdict';
import type { JobView } from '@firm-needle/core/procedure';
import { hasHigh, hasLow, lowByKnob } from './parts.js';
import { LATE, MOST_MOVES, MOST_RISES } from './bounds.js';
import { foundReadings } from '../shared/found.js';
import { cycleOff, scattersSince } from '../shared/scatter.js';
import { answerAt, firstSaid, lastSaid, lastSeen, stepAt, takenAt, told } from '../shared/seen.js';
import { floorOf, most } from './plan.js';

export { answerAt };

export type Side = 'low' | 'high';
type Screw = 'range' | 'diff' | 'high';

const saidAt = (job: JobView, step: string, ...answers: readonly string[]): number =>
  lastSaid(job, step, ...answers)?.order ?? 0;

export const sides = (job: JobView): readonly Side[] => [
  ...(hasLow(job.plan) ? (['low'] as const) : []),
  ...(hasHigh(job.plan) ? (['high'] as const) : []),
];
/** The settings that a side is judged by: with a knob the low side’s start cannot be read. */
export const judgedOf = (job: JobView, side: Side): readonly string[] =>
  side === 'high' ? ['hpStop'] : lowByKnob(job.plan) ? ['lpStop'] : ['lpStart', 'lpStop'];
export const judged = (job: JobView): readonly string[] => sides(job).flatMap((s) => judgedOf(job, s));

const readAfter = (job: JobView, setting: string, order: number): boolean =>
  job.readings(setting).some((r) => r.kept.order > order);

/** Cleared in this job: what was read before says nothing of what it does now. */
export const cleared = (job: JobView): number =>
  answerAt(job, 'tube') === 'blocked' ? takenAt(job, 'tube') : 0;
const movedAt = (job: JobView, setting: string): number =>
  Math.max(job.lastMove(setting), setting === 'hpStop' ? 0 : cleared(job));

/** It ran on to the floor and was stopped by hand; it was not seen to stop since. */
export const ranOn = (job: JobView): boolean => {
  const on = saidAt(job, 'stop', 'ran-on', 'not-open');
  return on > cleared(job) && !readAfter(job, 'lpStop', on);
};
/** It was not made, as high as its pressure comes; nothing was seen of its start since. */
export const notMade = (job: JobView): boolean => {
  const not = notMades(job).at(-1)?.order ?? 0;
  return not > cleared(job) && !readAfter(job, lowByKnob(job.plan) ? 'lpStop' : 'lpStart', not);
};
export const firstRanOn = (job: JobView) => firstSaid(job, 'stop', 'ran-on', 'not-open');
/** Where its pressure was up: under its start nothing is to be made. The last one, or the first. */
const notMades = (job: JobView) =>
  job.state.observations.filter(
    (o) =>
      o.body.answer === 'not-made' &&
      (o.body.value === undefined || o.body.value.value > (job.plan.values['lpStart'] ?? 0)),
  );
export const firstNotMade = (job: JobView) => notMades(job)[0];
/** It did not stop at all as its high side was raised, by hand out; under where it should stop that says nothing. */
export const notStopped = (job: JobView) =>
  told(
    job.state.observations.filter(({ body }) => stepAt(body.at.key, 'high') && body.answer === 'not-stopped'),
    ({ body }) => body.value === undefined || body.value.value > (job.plan.limits['hpStop']?.lower ?? 0),
  )[0];
/** What the system would not be raised to. */
export const levelled = (job: JobView): boolean => {
  const lower = saidAt(job, 'high', 'levels');
  return lower > 0 && !readAfter(job, 'hpStop', lower);
};
export const pumpsBack = (job: JobView): boolean => saidAt(job, 'start', 'by-itself') > 0;

export const refuses = (job: JobView): boolean => answerAt(job, 'reset') === 'refuses';
export const resetItself = (job: JobView): boolean => saidAt(job, 'reset', 'self') > 0;
export const unlike = (job: JobView): boolean => saidAt(job, 'reset', 'unlike') > 0;
export const knobRefuses = (job: JobView): boolean => answerAt(job, 'knob') === 'refuses';
export const byPassed = (job: JobView): boolean => answerAt(job, 'circuit') === 'runs';
export const leaking = (job: JobView): boolean =>
  answerAt(job, 'off') === 'leaks' && answerAt(job, 'leak-again') !== 'tight';
export const leaked = (job: JobView): boolean => answerAt(job, 'off') === 'leaks';
export const unlocked = (job: JobView): boolean => answerAt(job, 'type') === 'unlocked';
/** It is not what was planned: nothing is turned on a guess. */
export const other = (job: JobView): 'other-type' | 'other-refrigerant' | undefined => {
  const seen = answerAt(job, 'type');
  // Planned anew since: as it is.
  if (seen === 'other-type') return job.plan.variant === job.opening.variant ? 'other-type' : undefined;
  if (seen === 'other-refrigerant')
    return job.plan.choices?.['refrigerant'] === job.opening.choices?.['refrigerant']
      ? 'other-refrigerant'
      : undefined;
  return undefined;
};

/** Its discharge climbed as its liquid was shut in, and the valve is not open again yet. */
export const climbing = (job: JobView): boolean => saidAt(job, 'stop', 'climbs') > takenAt(job, 'reopen');
export const climbed = (job: JobView): boolean => saidAt(job, 'stop', 'climbs') > 0;
/** As found it was stopped by hand, or stood open, and its knob was not pressed since. */
export const knobFirst = (job: JobView): boolean => {
  const stop = lastSeen(job, 'stop');
  return (
    stop !== undefined &&
    ['ran-on', 'not-made'].includes(stop.body.answer) &&
    stop.order > (lastSeen(job, 'knob')?.order ?? 0)
  );
};

/** Once it may have hung: it is tried once more before anything is made of it. */
const ranOnTwice = (job: JobView): boolean =>
  ranOn(job) &&
  (saidAt(job, 'stop', 'not-open') > movedAt(job, 'lpStop') ||
    job.state.observations.filter((o) => o.order > movedAt(job, 'lpStop') && o.body.answer === 'ran-on')
      .length > 1);
const MOST_FOUND = 5;
/** Stop, start, stop: the two stops agree, or there are five of them; or there is nothing more to be had. */
export function lowFound(job: JobView): boolean {
  if (!hasLow(job.plan) || turned(job) || ranOnTwice(job) || notMade(job) || knobRefuses(job)) return true;
  const n = foundReadings(job, 'lpStop').length;
  const started = lowByKnob(job.plan)
    ? answerAt(job, 'knob') !== undefined
    : foundReadings(job, 'lpStart').length > 0;
  return mixed(job) || (started && (n >= MOST_FOUND || (n >= 2 && job.proved('lpStop'))));
}
export const highFound = (job: JobView): boolean =>
  !hasHigh(job.plan) ||
  (turned(job) && !job.finds) ||
  notStopped(job) !== undefined ||
  levelled(job) ||
  (foundReadings(job, 'hpStop').length > 0 && answerAt(job, 'reset') !== undefined);
/** What its low side keeps from running is raised later. */
export const foundEnough = (job: JobView): boolean => lowFound(job) && (highFound(job) || notMade(job));

/** Both points lie beyond what was planned, each on its own side: it feels late, and no spindle mends that. */
export function late(job: JobView): boolean {
  if (!hasLow(job.plan) || answerAt(job, 'tube') !== undefined || (turned(job) && !fitted(job))) return false;
  const { lpStart, lpStop } = job.plan.values;
  const onBench = takenAt(job, 'fit');
  const [start, stop] = ['lpStart', 'lpStop'].map(
    (x) => job.readings(x).findLast((r) => r.kept.order > onBench)?.value,
  );
  const low = ranOn(job) || (stop !== undefined && stop < (lpStop ?? 0) - LATE);
  const up = notMade(job) || (start !== undefined && start > (lpStart ?? 0) + LATE);
  return low && (up || start === undefined);
}

/** Read often enough where it stands, and it never comes twice; or once it stopped, and once it ran on; or one cycle was quite another. */
export const scatters = (job: JobView): boolean =>
  mixed(job) ||
  cycleOff(
    job,
    ['lpStop', 'lpStart'],
    Math.max(movedAt(job, 'lpStop'), movedAt(job, 'lpStart'), takenAt(job, 'fit')),
  ) ||
  judged(job).some((x) => scattersSince(job, x, Math.max(movedAt(job, x), takenAt(job, 'fit'))));
const mixed = (job: JobView): boolean => {
  const from = Math.max(movedAt(job, 'lpStop'), takenAt(job, 'fit'));
  const on = job.state.observations.some((o) => o.order > from && o.body.answer === 'ran-on');
  return (
    on && job.readings('lpStop').some((r) => r.kept.order > from && r.value > floorOf(job.plan) + LATE / 2)
  );
};

/** The high stop may stand near what is wanted, as long as what is allowed lies surely over it. */
const nearEnough = (job: JobView, setting: string): boolean => {
  const f = job.figure(setting, 'found');
  return (
    setting === 'hpStop' &&
    f !== undefined &&
    insidePlain(f.value, job.limits(setting, 'found')) &&
    f.value + f.budget.U < most(job.plan)
  );
};
export const sideInside = (job: JobView, side: Side): boolean =>
  judgedOf(job, side).every((x) =>
    job.finds ? job.verdict(x, 'found')?.word === 'in' || nearEnough(job, x) : job.landed(x),
  );
export const allInside = (job: JobView): boolean =>
  !ranOn(job) &&
  !notMade(job) &&
  !knobRefuses(job) &&
  notStopped(job) === undefined &&
  !refuses(job) &&
  !resetItself(job) &&
  (levelled(job)
    ? sides(job).every((x) => x === 'high' || sideInside(job, x))
    : sides(job).every((x) => sideInside(job, x)));

export const decision = (job: JobView): 'adjust' | 'leave' | 'replace' | undefined => {
  // What is new is set until it lands; there is nothing to leave.
  if (!job.finds) return turned(job) || lockedAt(job) > 0 || foundEnough(job) ? 'adjust' : undefined;
  const asked = answerAt(job, 'decide');
  if (asked !== undefined) return asked as 'adjust' | 'leave' | 'replace';
  if (!foundEnough(job)) return undefined;
  const closing = takenAt(job, 'off') > 0 || sides(job).some((x) => takenAt(job, `zero-${x}-again`) > 0);
  return allInside(job) || closing ? 'leave' : undefined;
};
export const adjusting = (job: JobView): boolean => decision(job) === 'adjust';

export const turned = (job: JobView): boolean => job.state.turns.length > 0;
export const turnedSide = (job: JobView, side: Side): boolean =>
  job.state.turns.some((t) => (t.body.adjuster === 'high') === (side === 'high'));
/** The tube was cleared, and its points not read since. */
const unreadTube = (job: JobView): boolean =>
  cleared(job) > 0 && !ranOn(job) && judgedOf(job, 'low').some((x) => !readAfter(job, x, cleared(job)));
/** Something of this side was moved and not read since. */
export const dueSide = (job: JobView, side: Side): boolean =>
  (side === 'low' && unreadTube(job)) || judgedOf(job, side).some((x) => job.unread(x));
/** Turned by a count, to be seen at all: it stops, or it starts. */
export const blindLow = (job: JobView): boolean => ranOn(job) || notMade(job);
export const rests = (job: JobView): boolean =>
  !blindLow(job) &&
  !unreadTube(job) &&
  workSides(job).every((x) => judgedOf(job, x).every((y) => job.rests(y)));
/** The sides that are worked on: one that cannot be read on this system is not. */
export const workSides = (job: JobView): readonly Side[] =>
  sides(job).filter((x) => x === 'low' || !(levelled(job) || notStopped(job)));

/** The next spindle: range first, it carries both low points; then the differential; then the high side. */
export function screw(job: JobView): Screw | undefined {
  if (hasLow(job.plan)) {
    if (lowByKnob(job.plan)) {
      if (!job.rests('lpStop')) return 'range';
    } else {
      if (!job.rests('lpStart')) return 'range';
      if (!job.rests('lpStop')) return 'diff';
    }
  }
  return workSides(job).includes('high') && !job.rests('hpStop') ? 'high' : undefined;
}

const moves = (job: JobView, id: string): number =>
  job.state.turns.filter((t) => t.body.adjuster === id).length;

/** Turned blind by its usual rate until it stops, or starts: how far, in turns. Undefined where it was tried often enough. */
export function blind(
  job: JobView,
): { readonly screw: 'range' | 'diff'; readonly turns: number } | undefined {
  if (!adjusting(job) || !blindLow(job) || scatters(job)) return undefined;
  const { lpStart = 0, lpStop = 0 } = job.plan.values;
  if (notMade(job)) {
    if (moves(job, 'range') >= MOST_MOVES) return undefined;
    const seen =
      job.state.observations.findLast((o) => o.body.answer === 'not-made')?.body.value?.value ?? lpStart;
    const { prior, quantum } = job.adjuster('range');
    return {
      screw: 'range',
      turns: -Math.max(quantum, Math.round((seen - lpStart) / prior.perTurn / quantum) * quantum),
    };
  }
  const id = lowByKnob(job.plan) ? 'range' : 'diff';
  if (moves(job, id) >= MOST_MOVES) return undefined;
  const { prior, quantum, largest } = job.adjuster(id);
  const by = Math.max(lpStop - floorOf(job.plan), prior.perTurn);
  return {
    screw: id,
    turns: Math.min(largest, Math.max(quantum, Math.ceil(by / prior.perTurn / quantum) * quantum)),
  };
}

/** Turning on is useless or unsafe: why. */
export function stuck(job: JobView): { readonly code: string; readonly because: string } | undefined {
  if (!adjusting(job) || rests(job)) return undefined;
  if (blindLow(job))
    return blind(job)
      ? undefined
      : { code: 'moves', because: 'Turned as far as is sensible, and it is still not seen to act.' };
  if (workSides(job).some((x) => dueSide(job, x))) return undefined;
  const id = screw(job);
  if (id === undefined) return undefined;
  if (moves(job, id) >= MOST_MOVES)
    return {
      code: 'moves',
      because: `${job.adjuster(id).title}: moved ${MOST_MOVES} times, and it does not land.`,
    };
  const advice = job.advice(id);
  const landed = judged(job).every((x) => job.landed(x));
  return advice.stop !== null && advice.stop !== 'not-read' && !landed
    ? { code: advice.stop, because: advice.because }
    : undefined;
}

/** So often the high side was raised on the system. */
export const rises = (job: JobView): number =>
  job.state.reads.filter((r) => stepAt(r.body.at.key, 'high') && !/^[nb]-/.test(r.body.at.key)).length;
export const raisedEnough = (job: JobView): boolean =>
  job.plan.school === 'system' && rises(job) >= MOST_RISES;

export const wantsTurn = (job: JobView): boolean => {
  if (!adjusting(job) || blindLow(job) || rests(job) || stuck(job) !== undefined) return false;
  if (workSides(job).some((x) => dueSide(job, x))) return false;
  const id = screw(job);
  return id !== undefined && job.advice(id).stop === null;
};

/** Fitted to its pipe after it was set on the bench. */
export const fitted = (job: JobView): boolean => takenAt(job, 'fit') > 0;
/** When its plates went on, or it was fitted: what was read before may have been nudged since. */
const lockedAt = (job: JobView): number =>
  Math.max(takenAt(job, 'relock'), job.plan.school === 'system' ? takenAt(job, 'fit') : 0);
/** Plates went on again after the last turn. */
export const relocked = (job: JobView): boolean =>
  lockedAt(job) > (job.state.turns.at(-1)?.order ?? 0) && (job.finds || lockedAt(job) > 0);

/** Two that agree of what was moved, one of them since the plates went on: they may nudge a spindle. */
export const provedSide = (job: JobView, side: Side): boolean => {
  const since = turnedSide(job, side) || !job.finds ? lockedAt(job) : 0;
  return judgedOf(job, side).every(
    (x) => job.proved(x) && job.agreeing(x).some((r) => r.kept.order > Math.max(since, movedAt(job, x))),
  );
};
/** A side needs proof where it was moved, or where nothing counts as found. */
export const toProve = (job: JobView, side: Side): boolean =>
  (turnedSide(job, side) || !job.finds || (side === 'low' && cleared(job) > 0)) && !provedSide(job, side);
export const proved = (job: JobView): boolean =>
  ((!turned(job) && job.finds) || relocked(job)) && workSides(job).every((x) => !toProve(job, x));

export const hopeless = (job: JobView): boolean =>
  scatters(job) ||
  stuck(job) !== undefined ||
  notStopped(job) !== undefined ||
  refuses(job) ||
  resetItself(job) ||
  knobRefuses(job) ||
  (raisedEnough(job) && hasHigh(job.plan) && !provedSide(job, 'high'));

export function settled(job: JobView): boolean {
  const decided = decision(job);
  if (decided === undefined) return false;
  if (decided !== 'adjust') return true;
  return hopeless(job) || (rests(job) && proved(job));
}

/** Its high side may stop over what its parts allow, as it stands now. */
const stopsTooHigh = (job: JobView): boolean => {
  const f = job.figure('hpStop', 'left');
  return f !== undefined && f.value + f.budget.U > most(job.plan);
};

/** It is left locked off: also where something was turned and not seen to act since. */
export const leftOff = (job: JobView): boolean =>
  stopsTooHigh(job) ||
  (turned(job) && workSides(job).some((x) => dueSide(job, x))) ||
  byPassed(job) ||
  notStopped(job) !== undefined ||
  resetItself(job) ||
  knobRefuses(job) ||
  ranOn(job) ||
  (refuses(job) && decision(job) !== 'leave');

/** The high side waits while the low one is turned, unless it was moved itself. */
export const highTurn = (job: JobView): boolean =>
  dueSide(job, 'high') ||
  !hasLow(job.plan) ||
  (!blindLow(job) && judgedOf(job, 'low').every((x) => job.rests(x)));
/** A port was opened in this job. */
export const opened = (job: JobView): boolean => takenAt(job, 'isolate') > 0 || fitted(job);

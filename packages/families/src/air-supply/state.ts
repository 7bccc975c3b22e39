import type { JobView } from '@firm-needle/core/procedure';
import { insidePlain } from '@firm-needle/core/verdict';
import {
  atGun,
  byWall,
  COOLING,
  MOST_FALL,
  MOST_MOVES,
  MOST_RISE,
  OF_RELIEF,
  parts,
  psi,
  read,
  WATCH_S,
  WEAK,
} from './parts.js';
import { foundReadings } from '../shared/found.js';
import { answerAt, firstSaid, lastSaid, lastSeen, stepAt, takenAt } from '../shared/seen.js';
import { made } from './reckoned.js';
import { swung, ceiling, everFollowed, least, lost, windowEmpty } from './losses.js';
import { reliefBad, standsLow, ranOn, creeps, stopped, reliefHissed, noStop } from './compressor.js';

type Screw = 'wall' | 'wallAlone' | 'gun' | 'valve';

export { answerAt };
export const { last } = parts;

export const starved = (job: JobView): boolean =>
  firstSaid(job, 'gun', 'starved') !== undefined || firstSaid(job, 'sustained', 'falling') !== undefined;

/** Since it was last seen to stop, or was waited for in vain, more was drawn than it makes: the tank stands under its points. */
export const drawnDown = (job: JobView): boolean => {
  const drawn = Math.max(
    lastSaid(job, 'sustained', 'falling')?.order ?? 0,
    lastSaid(job, 'gun', 'starved')?.order ?? 0,
    takenAt(job, 'wide'),
  );
  return drawn > takenAt(job, 'cut-out');
};

/** The pressure at the gun at which its pattern was even, Pa; undefined where it was not tried. */
export const evenAt = (job: JobView): number | undefined => {
  const seen = lastSeen(job, 'pattern')?.body;
  return seen?.answer === 'even' && seen.value ? job.corrected('gun', seen.value.value) : undefined;
};

/** Where it stops was waited for twice, and both agree; or it was read, or missed, so often that it must be enough. */
export const stopsKnown = (job: JobView): boolean => {
  const n = foundReadings(job, 'cutOut').length;
  const missed = job.state.observations.filter(({ body }) => body.answer === 'missed').length;
  return n >= MOST_CUT_OUTS || n + missed >= MOST_TRIED || (n >= 2 && job.proved('cutOut'));
};
const MOST_CUT_OUTS = 3;
const MOST_TRIED = 5;

/** What it fell in the minute that it was watched, Pa; cooling is let have its part. */
export const fell = (job: JobView): number | undefined =>
  lastSeen(job, 'rest')?.body.answer === 'fell' ? lastSeen(job, 'rest')?.body.value?.value : undefined;
export const leaks = (job: JobView): boolean => ((fell(job) ?? 0) * 60) / WATCH_S > MOST_FALL + COOLING;

/** Part of its plate that the pump makes; undefined where either is not known. */
export function makes(job: JobView): number | undefined {
  const fed = made(job);
  const { fad } = read(job.plan).plate;
  return fed === undefined || fad === undefined ? undefined : fed / fad;
}
export const weak = (job: JobView): boolean => (makes(job) ?? 1) < WEAK || standsLow(job) !== undefined;
/** It starts oftener than it may. */
export const shortCycles = (job: JobView, when: 'found' | 'left'): boolean => {
  const f = job.figure('starts', when === 'found' && !job.finds ? 'left' : when);
  return f !== undefined && f.value - f.budget.U > (read(job.plan).plate.starts ?? 10);
};
/** Found stopping within a tenth of its relief. */
export const reliefNear = (job: JobView): boolean => {
  const { relief } = read(job.plan).plate;
  const out = job.figure('cutOut', 'found');
  return (
    ranOn(job) !== undefined || (relief !== undefined && out !== undefined && out.value > OF_RELIEF * relief)
  );
};

export const wallScrew = (job: JobView): 'wall' | 'wallAlone' =>
  atGun(job.plan) && !byWall(job.plan) ? 'wall' : 'wallAlone';
export const gunScrew = (job: JobView): 'gun' | 'valve' | undefined =>
  byWall(job.plan) ? undefined : atGun(job.plan) ? 'gun' : 'valve';

const found = (job: JobView, setting: string): boolean => {
  const f = job.figure(setting, 'found');
  return f !== undefined && insidePlain(f.value, job.limits(setting, 'found'));
};
/** Everything that was found stands where it should: the wall within its window, its own gauge is no better. */
export const allInside = (job: JobView): boolean =>
  !creeps(job) &&
  !reliefNear(job) &&
  !starved(job) &&
  (job.finds
    ? job.verdict('gunFlow', 'found')?.word === 'in' && found(job, 'wallFlow')
    : job.landed('gunFlow') && job.landed('wallFlow')) &&
  swung(job) !== 'followed' &&
  (!setsSwitch(job) ||
    // Outside by less than the tank's own gauge can tell: that it is wrong is not shown.
    ['cutIn', 'cutOut'].every((x) => (job.finds ? job.verdict(x, 'found')?.word !== 'out' : job.landed(x))));

export const foundEnough = (job: JobView): boolean =>
  stopped(job) ||
  creeps(job) ||
  answerAt(job, 'lock-up') !== undefined ||
  job.readings('wallLock').length > 0;

export const decision = (job: JobView): 'adjust' | 'leave' | 'replace' | undefined => {
  if (!job.finds && foundEnough(job)) return 'adjust';
  const asked = answerAt(job, 'decide');
  if (asked !== undefined) return asked as 'adjust' | 'leave' | 'replace';
  if (!foundEnough(job)) return undefined;
  return allInside(job) || takenAt(job, 'zero-gun-again') > 0 ? 'leave' : undefined;
};
export const adjusting = (job: JobView): boolean => decision(job) === 'adjust';
export const turned = (job: JobView): boolean => job.state.turns.length > 0;

/** Its switch is turned: where that was planned, or where it stops too near its relief. */
export const setsSwitch = (job: JobView): boolean =>
  job.plan.choices?.['switch'] === 'set' || reliefNear(job);
/** The nut of its switch that does not rest yet. */
export function nut(job: JobView): 'range' | 'diff' | undefined {
  if (!setsSwitch(job)) return undefined;
  if (job.plan.choices?.['switch'] !== 'set')
    return reliefHissed(job) || stillNear(job) ? 'range' : undefined;
  // Down first by its usual rate, where nothing could be read.
  if (reliefHissed(job)) return 'range';
  return !switchRests(job, 'cutIn', 'range')
    ? 'range'
    : !switchRests(job, 'cutOut', 'diff')
      ? 'diff'
      : undefined;
}
/** It may stay: for good, or since no turn would bring it nearer and the tank's own gauge does not show that it is wrong. */
const switchRests = (job: JobView, setting: 'cutIn' | 'cutOut', screw: 'range' | 'diff'): boolean =>
  job.rests(setting) ||
  (turned(job) &&
    !job.unread(setting) &&
    job.verdict(setting, 'left')?.word === 'near' &&
    job.advice(screw).stop !== null);
/** It is turned by a count, and not as the advisor says. */
export const blindNut = (job: JobView): boolean =>
  nut(job) === 'range' && (job.plan.choices?.['switch'] !== 'set' || reliefHissed(job));
/** That nut can be turned now. */
export const turnsNut = (job: JobView): boolean => {
  const id = nut(job);
  return id !== undefined && (blindNut(job) || job.advice(id).stop === null);
};
const stillNear = (job: JobView): boolean => {
  const { relief } = read(job.plan).plate;
  const out = last(job, 'cutOut');
  return relief !== undefined && out !== undefined && out > OF_RELIEF * relief;
};
/** Where it was stopped by hand it would have gone on. */
const FARTHER = 1.3;
/** How far the range nut comes down for a relief that is too near, turns: it is never guessed upward. */
export const backDown = (job: JobView): number => {
  const { prior, quantum } = job.adjuster('range');
  const out = last(job, 'cutOut') ?? ranOn(job)?.body.value?.value ?? read(job.plan).plate.relief ?? 0;
  const wanted = job.plan.values['cutOut'] ?? 0;
  return -Math.max(quantum, Math.round((FARTHER * (out - wanted)) / prior.perTurn / quantum) * quantum);
};

const moves = (job: JobView, id: string): number =>
  job.state.turns.filter((t) => t.body.adjuster === id).length;
const fixed = (job: JobView): readonly string[] => (byWall(job.plan) ? ['gunFlow'] : ['wallFlow', 'gunFlow']);
export const unread = (job: JobView): boolean =>
  job.unread('gunFlow') || (job.unread('wallFlow') && overWindow(job) === undefined);
/** It was read since it was moved last. */
const stoodSince = (job: JobView, setting: string): boolean => since(job, setting, job.lastMove(setting)) > 0;
/** The wall falls with the tank and stood over its window all the same: by how much over what is planned, Pa; it is set above that. */
export function overWindow(job: JobView): number | undefined {
  const seen = byWall(job.plan) ? undefined : lastSaid(job, 'wall', 'starved');
  const { upper = Infinity } = job.limits('wallFlow', 'left');
  const { wallFlow } = job.plan.values;
  if (!seen?.body.value || wallFlow === undefined || stoodSince(job, 'wallFlow')) return undefined;
  const stood = job.corrected('wall', seen.body.value.value);
  return seen.order > job.lastMove('wallFlow') && stood > upper ? stood - wallFlow : undefined;
}
/** Gun or wall was tried again and again since anything was turned, and never stood: nobody is asked for ever. */
export const neverStands = (job: JobView): boolean =>
  [
    ['gun', 'gunFlow'],
    ['wall', 'wallFlow'],
  ].some(
    ([step = '', setting = '']) =>
      !stoodSince(job, setting) &&
      job.state.observations.filter(
        ({ order, body }) =>
          stepAt(body.at.key, step) && body.answer === 'starved' && order > job.lastMove(setting),
      ).length >= MOST_STARVED,
  );
const MOST_STARVED = 4;

/** The wall stands in its window, and the gun does not follow the tank. */
const wallRests = (job: JobView): boolean =>
  byWall(job.plan) || (job.landed('wallFlow') && swung(job) !== 'followed' && !short(job));
export function screw(job: JobView): Screw | undefined {
  if (!wallRests(job)) return wallScrew(job);
  if (job.rests('gunFlow')) return undefined;
  return gunScrew(job) ?? wallScrew(job);
}
/** It is in its window as planned, and follows the tank all the same, or leaves the gun too little: by its usual rate, in turns. */
export function byCount(job: JobView): number | undefined {
  const [top, wall] = [ceiling(job), last(job, 'wallFlow')];
  const { prior, quantum, largest } = job.adjuster(wallScrew(job));
  const turns = (by: number): number =>
    Math.min(largest, Math.max(quantum, Math.round(by / prior.perTurn / quantum) * quantum));
  const over = overWindow(job);
  if (over !== undefined && !unread(job)) return -turns(over);
  if (wall === undefined || unread(job)) return undefined;
  if (byWall(job.plan)) {
    // It followed the tank, stands too high, and its knob shows nothing yet: it is still wide open.
    const [gun, wanted] = [last(job, 'gunFlow'), job.plan.values['gunFlow']];
    const { upper = Infinity } = job.limits('gunFlow', 'left');
    const mute = ['no-response', 'reversed'].includes(job.advice(wallScrew(job)).stop ?? '');
    return everFollowed(job) && mute && gun !== undefined && wanted !== undefined && gun > upper
      ? -turns(gun - wanted)
      : undefined;
  }
  if (!job.landed('wallFlow')) return undefined;
  if (swung(job) === 'followed' && top !== undefined) return -turns(Math.max(wall - top, psi(3)));
  if (!short(job)) return undefined;
  // Up only as far as the weakest part bears, were the knob twice as quick as usual.
  const stands = Math.max(last(job, 'wallLock') ?? 0, wall + MOST_RISE);
  const room = (read(job.plan).plate.rating ?? 0) - stands;
  const most = Math.floor(room / (2 * prior.perTurn) / quantum) * quantum;
  return most >= quantum ? Math.min(most, turns(least(job) - wall + psi(3))) : undefined;
}
/** The wall stands where it was planned, and the gun cannot have what it needs from it. */
const short = (job: JobView): boolean => {
  const wall = last(job, 'wallFlow');
  return wall !== undefined && lost(job) !== undefined && wall < least(job) - psi(2) && !windowEmpty(job);
};
export const rests = (job: JobView): boolean =>
  wallRests(job) && job.rests('gunFlow') && nut(job) === undefined;

export function stuck(job: JobView): { readonly code: string; readonly because: string } | undefined {
  if (adjusting(job) && pullsDiffer(job))
    return { code: 'unsteady', because: 'Pull by pull the gun stands elsewhere, and not always inside.' };
  if (!adjusting(job) || rests(job) || unread(job) || windowEmpty(job)) return undefined;
  const turning = nut(job) ?? screw(job);
  if (turning === undefined) return undefined;
  // What followed the tank is brought down to where its knob bites first.
  const most = everFollowed(job) ? 2 * MOST_MOVES : MOST_MOVES;
  if (moves(job, turning) >= most)
    return {
      code: 'moves',
      because: `${job.adjuster(turning).title}: moved ${most} times, and it does not land.`,
    };
  if (byCount(job) !== undefined || blindNut(job)) return undefined;
  const advice = job.advice(turning);
  return advice.stop !== null &&
    advice.stop !== 'not-read' &&
    ![...fixed(job), ...(turning === 'range' || turning === 'diff' ? ['cutIn', 'cutOut'] : [])].every((x) =>
      job.landed(x),
    )
    ? { code: advice.stop, because: advice.because }
    : undefined;
}

const settledAt = (job: JobView): number => takenAt(job, 'relock');
export const relocked = (job: JobView): boolean => settledAt(job) > (job.state.turns.at(-1)?.order ?? 0);
const since = (job: JobView, setting: string, order: number): number =>
  job.readings(setting).filter((r) => r.kept.order > order).length;
/** The gun, pull by pull, since the locks went on. */
const pulls = (job: JobView): readonly number[] =>
  job
    .readings('gunFlow')
    .filter((r) => r.kept.order > settledAt(job))
    .map((r) => r.value);
/** A tank that is full and one that is drawn from give it something else: so many pulls that all stand inside are enough. */
const ENOUGH_PULLS = 4;
const MOST_PULLS = 8;
const agreed = (job: JobView): boolean =>
  job.proved('gunFlow') ||
  (pulls(job).length >= ENOUGH_PULLS &&
    pulls(job).every((p) => insidePlain(p, job.limits('gunFlow', 'left'))));
/** Pulled again and again with the locks on, and it is never twice the same, nor always inside. */
export const pullsDiffer = (job: JobView): boolean =>
  relocked(job) && settledAt(job) > 0 && pulls(job).length >= MOST_PULLS && !agreed(job);

/** Gun twice over two pulls, wall, what is held, swing and standing, after the locks went on. */
export const proved = (job: JobView): boolean => {
  if (!turned(job) && job.finds) return true;
  const from = settledAt(job);
  const swing = lastSeen(job, 'swing');
  return (
    relocked(job) &&
    from > 0 &&
    since(job, 'gunFlow', from) >= 2 &&
    since(job, 'wallFlow', from) >= 1 &&
    since(job, 'wallLock', from) >= 1 &&
    swing !== undefined &&
    swing.order > from &&
    swing.body.answer !== 'followed' &&
    agreed(job)
  );
};
export const tooHighStanding = (job: JobView): boolean => {
  const [lock, flow] = [last(job, 'wallLock'), last(job, 'wallFlow')];
  return lock !== undefined && flow !== undefined && lock - flow > MOST_RISE;
};
export const hopeless = (job: JobView): boolean =>
  stopped(job) ||
  creeps(job) ||
  stuck(job) !== undefined ||
  (adjusting(job) && (windowEmpty(job) || neverStands(job)));

export function settled(job: JobView): boolean {
  const decided = decision(job);
  if (decided === undefined) return stopped(job);
  if (decided !== 'adjust') return true;
  return hopeless(job) || (rests(job) && proved(job));
}
/** It stays locked off: it was not seen to stop as it stands now, or what climbs at the wall would come over what the hose bears. */
export const leftOff = (job: JobView): boolean =>
  reliefBad(job) ||
  noStop(job) !== undefined ||
  reliefHissed(job) ||
  (ranOn(job) !== undefined && job.unread('cutOut')) ||
  (creeps(job) && (last(job, 'cutOut') ?? Infinity) > (read(job.plan).plate.rating ?? 0));

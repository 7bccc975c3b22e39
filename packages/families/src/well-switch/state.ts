import { foundReadings } from '../shared/found.js';
import { PRECHARGE_HALF_BAND } from '../shared/tank.js';
import { waterAtValve } from '../shared/soap.js';
import type { BudgetLine } from '@firm-needle/core/gauge';
import type { Corrected, JobView } from '@firm-needle/core/procedure';

/** Everything was read, stands inside its limits and repeats: there is nothing to decide. */
export const allInside = (job: JobView): boolean =>
  switchLanded(job) &&
  job.landed('precharge') &&
  !abnormal(job) &&
  !dripped(job) &&
  !waterAtValve(job) &&
  !unrepeatable(job) &&
  job.state.turns.length === 0;

/** What the technician decided after the as-found readings; what stands right is left without asking. */
export const decision = (job: JobView): string | undefined =>
  job.answer('decide') ?? (allInside(job) ? 'leave' : undefined);

/** The pump did not stop by its switch in the as-found cycles. */
export const climbs = (job: JobView): boolean =>
  job.answered('found-cut-out', 'climbs') || job.answered('found-cut-in', 'climbs');
export const stalls = (job: JobView): boolean => job.answered('found-cut-out', 'stalls');
export const noStart = (job: JobView): boolean => job.answered('found-cut-in', 'no-start');
/** The as-found cut-in step ended without a reading. */
export const noCutIn = (job: JobView): boolean => noStart(job) || job.answered('found-cut-in', 'climbs');
export const abnormal = (job: JobView): boolean => climbs(job) || stalls(job) || noStart(job);
/** The pair that is printed inside the cover, Pa: by the plate, or as read in this job. */
export function ratedPair(job: JobView): { readonly in?: number; readonly out?: number } {
  const one = (which: 'in' | 'out', plate: string): number | undefined =>
    job.plan.plate[plate]?.value ??
    job.state.observations.findLast((o) => o.body.at.key === `rated-${which}`)?.body.value?.value;
  const [low, high] = [one('in', 'ratedIn'), one('out', 'ratedOut')];
  return { ...(low === undefined ? {} : { in: low }), ...(high === undefined ? {} : { out: high }) };
}

/** It is on the plate, or was looked for once. */
export const ratedKnown = (job: JobView): boolean =>
  (job.plan.plate['ratedIn'] !== undefined && job.plan.plate['ratedOut'] !== undefined) ||
  job.answer('rated-out') !== undefined;

export { waterAtValve };
export const dripped = (job: JobView): boolean => {
  const last = [...job.state.observations].reverse().find((o) => o.body.answer === 'drips');
  return last !== undefined && !job.state.turns.some((t) => t.order > last.order);
};

/** Cut-in lies under the precharge: the tank is empty before the pump starts, and the pressure falls off a cliff. */
export function emptiesFirst(job: JobView): boolean {
  const cutIn = job.figure('cutIn', 'found');
  const precharge = job.figure('precharge', 'found');
  return cutIn !== undefined && precharge !== undefined && cutIn.value < precharge.value;
}

/**
 * Where cut-in lies when it was read on a tank that was empty by then: the pressure falls off a cliff while the pump runs up, so the
 * switch acted somewhere between the charge and what was read.
 */
export function meantCutIn(
  job: JobView,
  { value, kept }: Corrected,
): { value: number; sd: number } | undefined {
  const bled = job.state.turns.find((t) => t.body.adjuster === 'air')?.order ?? Infinity;
  const charge = job.figure('precharge', kept.order < bled ? 'found' : 'left')?.value;
  if (charge === undefined || !(value < charge)) return undefined;
  const half = (charge - value) / 2;
  return { value: value + half, sd: half };
}

/** As left the pump starts before the tank is empty. */
export function fillsAgain(job: JobView): boolean {
  const [cutIn, precharge] = [job.figure('cutIn', 'left'), job.figure('precharge', 'left')];
  const moved = job.lastMove('cutIn') > 0 || job.lastMove('precharge') > 0;
  return (
    moved &&
    !job.due('cutIn') &&
    !job.due('precharge') &&
    cutIn !== undefined &&
    precharge !== undefined &&
    cutIn.value > precharge.value
  );
}

/** The charge stands, out of its limits, where it would on a drive: 70 % of one of the points. */
export function chargedAsDrive(job: JobView): boolean {
  const precharge = job.figure('precharge', 'found');
  const { lower, upper } = job.opening.limits['precharge'] ?? {};
  if (!precharge || lower === undefined || upper === undefined) return false;
  if (precharge.value >= lower && precharge.value <= upper) return false;
  return ['cutIn', 'cutOut'].some(
    (s) => Math.abs(precharge.value - DRIVE_PART * (job.opening.values[s] ?? 0)) <= PRECHARGE_HALF_BAND,
  );
}
const DRIVE_PART = 0.7;

/** How fast the pressure fell with nothing drawn, Pa/s: from the cut-out before it to where it stood when that was said. */
export function fallAtRest(job: JobView): number | undefined {
  const seen = job.state.observations.findLast((o) => o.body.at.key === 'rest');
  const from = job.readings('cutOut').findLast((r) => r.kept.order < (seen?.order ?? 0));
  if (seen?.body.answer !== 'falls' || !seen.body.value || !from) return undefined;
  const seconds = (Date.parse(seen.wall) - Date.parse(from.kept.wall)) / 1000;
  const fell = from.value - job.corrected('system', seen.body.value.value, seen);
  return seconds >= SHORTEST_LOOK_S && fell > 0 ? fell / seconds : undefined;
}
const SHORTEST_LOOK_S = 20;

/** Every reading before the setting was first moved: also the last ones of a job in which nothing was turned. */
const unmoved = (job: JobView, setting: string): readonly number[] => {
  const first = job.state.turns.find((t) =>
    job.adjuster(t.body.adjuster).prior.moves.some((m) => m.setting === setting),
  );
  return job
    .readings(setting)
    .filter((r) => r.kept.order < (first?.order ?? Infinity) && r.kept.body.state !== 'early')
    .map((r) => r.value);
};

/** Nothing is condemned for one reading: of four the one that lies farthest from the middle may have been of another gauge. */
const scatters = (job: JobView, setting: string): boolean => {
  const found = [...unmoved(job, setting)].sort((a, b) => a - b);
  const apart = (values: readonly number[]): boolean =>
    (values.at(-1) ?? 0) - (values[0] ?? 0) > 2.5 * job.agreement(setting);
  if (!apart(found)) return false;
  return found.length < OF_ONE_MIND || (apart(found.slice(1)) && apart(found.slice(0, -1)));
};
const OF_ONE_MIND = 4;

/**
 * As-found points that scatter far more than a switch should: a blocked tube or burned contacts. Cut-in read on a tank
 * that empties first, every time, scatters by itself and proves nothing.
 */
export const unrepeatable = (job: JobView): boolean =>
  scatters(job, 'cutOut') || (scatters(job, 'cutIn') && !emptiesAlways(job));

/** Every as-found cut-in lies under the charge. */
function emptiesAlways(job: JobView): boolean {
  const precharge = job.figure('precharge', 'found');
  return precharge !== undefined && unmoved(job, 'cutIn').every((p) => p < precharge.value);
}

/** Enough as-found cycles to judge by: two, three where the first two look odd, up to five where they do not repeat. */
export const foundEnough = (job: JobView): boolean => {
  if (abnormal(job) || dripped(job) || refillTells(job)) return true;
  const n = Math.min(...['cutIn', 'cutOut'].map((s) => foundReadings(job, s).length));
  return n >= 2 && (!odd(job) || (n >= 3 && !unrepeatable(job)) || n >= MOST_FOUND);
};

const MOST_FOUND = 5;
const odd = (job: JobView): boolean =>
  scatters(job, 'cutIn') || scatters(job, 'cutOut') || job.verdict('differential', 'found')?.word === 'out';

/**
 * What was read stands right and agrees: the tank is drained for its charge in any case, and the refill brings the second cut-out.
 */
export const refillTells = (job: JobView): boolean =>
  foundReadings(job, 'cutIn').length === 2 &&
  foundReadings(job, 'cutOut').length === 1 &&
  switchLanded(job) &&
  job.proved('cutIn') &&
  !odd(job);

/** Which nut to turn next: range for cut-in (or both), differential where that school is practised. */
export function nut(job: JobView): 'range' | 'differential' {
  if (job.plan.school !== 'set-both') return 'range';
  return job.rests('cutIn') ? 'differential' : 'range';
}

export const switchLanded = (job: JobView): boolean => job.landed('cutIn') && job.landed('cutOut');
/** Both may be left where they stand. */
export const switchRests = (job: JobView): boolean => job.rests('cutIn') && job.rests('cutOut');
export const switchProved = (job: JobView): boolean => job.proved('cutIn') && job.proved('cutOut');

/** What did not land by then lands nowhere: it acts now here, now there. */
const MOST_MOVES = 8;
/**
 * A switch that was turned so often and does not land acts now here, now there: where it acts next is open by half of how far it lay
 * apart since it was first turned, wherever the last reading happens to lie.
 */
export function restless(job: JobView, setting: string, when: 'found' | 'left'): readonly BudgetLine[] {
  // What was read twice alike where it stands now repeats, however often it was turned to get there.
  if (when === 'found' || job.proved(setting)) return [];
  const turned = ['range', 'differential'].map((id) => job.state.turns.filter((t) => t.body.adjuster === id));
  const [first] = turned.find((turns) => turns.length >= MOST_MOVES) ?? [];
  if (!first) return [];
  const since = job
    .readings(setting)
    .filter((r) => r.kept.order > first.order)
    .map((r) => r.value);
  if (since.length < 2) return [];
  return [
    {
      name: 'sampling',
      because: 'it acts now here, now there, rectangular',
      u: (Math.max(...since) - Math.min(...since)) / 2 / Math.sqrt(3),
      dof: Infinity,
    },
  ];
}

/** Why turning on is useless or unsafe: the advisor says so, or it was turned so often. */
export function stuckBy(job: JobView): { readonly code: string; readonly because: string } | undefined {
  if (switchLanded(job) || decision(job) !== 'adjust') return undefined;
  if (job.due('cutOut') || job.due('cutIn')) return undefined;
  const id = nut(job);
  if (job.state.turns.filter((t) => t.body.adjuster === id).length >= MOST_MOVES)
    return { code: 'moves', because: `Turned ${MOST_MOVES} times, and it does not land.` };
  const advice = job.advice(id);
  return advice.stop === null || advice.stop === 'not-read'
    ? undefined
    : { code: advice.stop, because: advice.because };
}
export const stuck = (job: JobView): boolean => stuckBy(job) !== undefined;

/** The cut-out of the refill is not the one that was read before it: nothing ends on one reading, so it is read until two agree. */
export const endDiffers = (job: JobView): boolean => {
  const { length } = job.readings('cutOut').filter((r) => r.kept.order > job.lastMove('cutOut'));
  const again = job.readings('cutOut').filter((r) => r.kept.body.at.key === 'end-again').length;
  return !abnormal(job) && length > 1 && !job.proved('cutOut') && again < MOST_AGAIN;
};
const MOST_AGAIN = 3;

/** A nut was turned and the points were not read after it; a drip from the relief says enough to come down. */
export const unread = (job: JobView): boolean =>
  job.unread('cutOut') || (job.unread('cutIn') && !dripped(job));

export const wantsTurn = (job: JobView): boolean =>
  decision(job) === 'adjust' && !switchRests(job) && !stuck(job) && !unread(job) && !toReadAgain(job);

/** What was read does not fit what was turned: it is read once more before anything is concluded. */
export const toReadAgain = (job: JobView): boolean =>
  decision(job) === 'adjust' &&
  !switchLanded(job) &&
  !unread(job) &&
  !dripped(job) &&
  job.advice(nut(job)).stop === 'not-read';

/**
 * Whether the pressure will rise when the power comes on: the tank was drained, or the pump was stopped by hand after it had
 * started. Then cut-out is read first; otherwise water must be drawn to cut-in.
 */
export const riseFirst = (job: JobView): boolean =>
  refilling(job) || lastRead(job, 'cutIn') > lastRead(job, 'cutOut');

/** The tank was drained after cut-out was last read. */
export const refilling = (job: JobView): boolean => lastMade(job, 'drain', 'open') > lastRead(job, 'cutOut');

/** The pump was locked off after it was last seen to stop by its switch: it must be seen to run again before the end. */
export const toBeSeen = (job: JobView): boolean => lastMade(job, 'power', 'off') > lastRead(job, 'cutOut');

const lastRead = (job: JobView, setting: string): number => job.readings(setting).at(-1)?.kept.order ?? 0;

const lastMade = (job: JobView, fact: string, value: string): number => Math.max(0, ...job.made(fact, value));

/** It stays locked off at the end: what is to be replaced first, or a relief that dripped. */
export const leftOff = (job: JobView): boolean => climbs(job) || decision(job) === 'replace' || dripped(job);

/** The points are not known, do not fit, or were not yet met twice. */
export const toProve = (job: JobView): boolean =>
  unread(job) || toReadAgain(job) || (switchLanded(job) && !switchProved(job));

/** Cut-in moved after the precharge was last read, or the air itself was changed. */
export function prechargeDue(job: JobView): boolean {
  const moved = Math.max(job.lastMove('cutIn'), job.lastMove('precharge'));
  return moved > 0 && !job.readings('precharge').some((r) => r.kept.order > moved);
}

/** Lowering cut-in: the precharge comes down first, or the tank empties before the pump starts. */
export function bleedFirst(job: JobView): boolean {
  const target = job.plan.values['precharge'];
  const stands = job.figure('precharge', 'left')?.value;
  const upper = job.plan.limits['precharge']?.upper;
  return (
    wantsTurn(job) && target !== undefined && stands !== undefined && upper !== undefined && stands > upper
  );
}

export function settled(job: JobView): boolean {
  const decided = decision(job);
  if (decided === undefined) return false;
  // Left because it stands right: the second cut-out is still to come.
  if (decided !== 'adjust') return job.answer('decide') !== undefined || switchProved(job);
  return (
    stuck(job) ||
    (switchRests(job) &&
      switchProved(job) &&
      !prechargeDue(job) &&
      (job.landed('precharge') || waterAtValve(job)))
  );
}

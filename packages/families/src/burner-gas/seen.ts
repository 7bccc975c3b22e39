// What was seen and read so far, in whatever order: nothing is concluded here but what one answer says.
import type { JobView } from '@firm-needle/core/procedure';
import { answerAt, firstSaid, lastSaid, takenAt } from '../shared/seen.js';
import { DOUBT, MOST_DROOP, parts, read, switchesOf, WIDE_OPEN, type SwitchSetting } from './parts.js';

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

/** Slow, and its vent was not cleared yet. */
export const ventShut = (job: JobView): boolean =>
  vent(job) !== undefined && takenAt(job, 'vent-clear') === 0;

/** Slow still, though its vent was cleared. */
export const ventStays = (job: JobView): boolean => {
  const cleared = takenAt(job, 'vent-clear');
  return cleared > 0 && (lastSaid(job, 'manifold', 'slow')?.order ?? 0) > cleared;
};

export const water = (job: JobView) =>
  firstSaid(job, 'static', 'water') ?? firstSaid(job, 'air-normal', 'water');

export const WELDS: Readonly<Record<SwitchSetting, readonly [step: string, code: 'welded' | 'air-stuck']>> = {
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
    // Run to the end of its dial, and closed still.
    if (job.state.turns.some((t) => t.body.at.key === `run-${DIALS[setting]}` && t.body.reached === false))
      return { setting, code };
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

/** What was never had as it was found, because it was not fired: it is read once it may be. */
export const had = (job: JobView, setting: string): boolean => job.readings(setting).length > 0;

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

export const turned = (job: JobView): boolean => job.state.turns.length > 0;

export const movesOf = (job: JobView, id: Screw): number =>
  job.state.turns.filter((t) => t.body.adjuster === id).length;

export const lastTurn = (job: JobView, id: Screw): number =>
  job.state.turns.findLast((t) => t.body.adjuster === id)?.order ?? 0;

export const since = (job: JobView, setting: string, order: number): number =>
  job.readings(setting).filter((r) => r.kept.order > order).length;

/** What the fan gives was never had. */
export const airDue = (job: JobView): boolean => !had(job, 'airNormal');

export const wet = (job: JobView, which: 'gas' | 'air'): boolean => {
  const step = which === 'gas' ? 'static' : 'air-normal';
  return firstSaid(job, step, 'water') !== undefined && !had(job, which === 'gas' ? 'static' : 'airNormal');
};

export const closedTight = (job: JobView): boolean => answerAt(job, 'close') === 'tight';

export const range = (values: readonly number[]): number => Math.max(...values) - Math.min(...values);

export const MOST_TRIPS = 5;

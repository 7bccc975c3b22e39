import { dimensionOf } from '../gauge/index.js';
import { intervalToCanonical } from '../quantity/index.js';
import { seeded, type Random, type Worn } from '../rig/index.js';
import type { Right } from '../script/index.js';
import { levelOf, type Level, type LevelId } from './levels.js';
import { revealOf, scriptOn } from './reveal.js';
import type { Draw, Exercise } from './run.js';

/** What a draw is made from: all that is sealed. */
export interface Seed {
  readonly seed: number;
  readonly level: LevelId;
  /** A lesson is about this fault. */
  readonly lesson?: string;
}

/** A setting is found off this often, whatever else is wrong: so that *out* is no clue. */
const OFF = 0.4;
/** Sizes that are tried until what shows is what the level wants. */
const SIZES = [1, 0.75, 1.5, 0.5, 2] as const;
/** Smallest and largest error of slope of a worn gauge, as a part. */
const SLOPE = [0.02, 0.04] as const;
/** A worn gauge sticks by up to so many of its divisions. */
const STICKS = 0.5;

const tableOf = ({ kit, variant }: Exercise): Readonly<Record<string, readonly Right[]>> => ({
  ...kit.concludes,
  ...variant.concludes,
});

/** What is right to conclude of a fault on this installation. */
export const rightsOf = (ex: Exercise, fault: string): readonly Right[] => tableOf(ex)[fault] ?? [];

/** Faults that can be drawn here: those of which it is known what is right. */
export const drawable = (ex: Exercise): readonly string[] =>
  ex.family.rig.faults.map((f) => f.id).filter((f) => rightsOf(ex, f).length > 0);

/** A setting that is off and can be set: nothing is broken. */
const isOff = (ex: Exercise, fault: string): boolean => {
  const rights = rightsOf(ex, fault);
  return rights.every(([o]) => o === 'set') && rights.some(([, finding]) => finding === undefined);
};

/** Draws what is hidden: the same seed gives the same, for everybody. */
export function drawFrom(ex: Exercise, { seed, level: id, lesson }: Seed): Draw {
  const level = levelOf(id);
  const random = seeded(seed ^ 0x51ed);
  const faults = lesson ? [lesson] : faultsFrom(ex, level, random);
  const draw: Draw = {
    seed,
    level: id,
    faults,
    size: 1,
    worn: wornFrom(ex, level, random),
    overdue: level.overdue && random.next() < 0.5,
    story: storyFrom(ex, level, faults, random),
  };
  return { ...draw, size: sizeFor(ex, draw, level) };
}

function faultsFrom(ex: Exercise, level: Level, random: Random): readonly string[] {
  const all = drawable(ex);
  const off = all.filter((f) => isOff(ex, f));
  const broken = all.filter((f) => !isOff(ex, f));
  const [none, one] = level.faults;
  const x = 100 * random.next();
  const many = x < none ? 0 : x < none + one ? 1 : 2;
  const hidden: string[] = [];
  while (hidden.length < Math.min(many, broken.length)) {
    const f = pick(random, broken);
    if (f !== undefined && !hidden.includes(f)) hidden.push(f);
  }
  const drifted = random.next() < OFF ? pick(random, off) : undefined;
  // What is drawn alone is the one or two of the level: an off setting counts only where a family has nothing else.
  if (drifted !== undefined && (hidden.length < 2 || broken.length === 0)) hidden.push(drifted);
  return hidden;
}

function wornFrom(ex: Exercise, level: Level, random: Random): Readonly<Record<string, Worn>> {
  const either = (most: number): number => most * (2 * random.next() - 1);
  return Object.fromEntries(
    ex.family.slots.flatMap(({ id, underTest }) => {
      const gauge = ex.started.gauges[id];
      if (!gauge || underTest || dimensionOf(gauge) !== 'pressure') return [];
      const division = intervalToCanonical(gauge.division, gauge.unit);
      const [least, most] = SLOPE;
      const slope = (least + (most - least) * random.next()) * (random.next() < 0.5 ? -1 : 1);
      const worn: Worn = {
        zero: either(level.zero * division),
        slope: level.worn ? slope : 0,
        sticks: level.worn ? STICKS * division * random.next() : 0,
      };
      return [[id, worn]];
    }),
  );
}

/** Two or three sentences: what is true of it, and what leads elsewhere. */
function storyFrom(ex: Exercise, level: Level, faults: readonly string[], random: Random): readonly string[] {
  const { lines } = ex.kit.practice;
  const none = lines['none'];
  const out = [...faults.map((f) => lines[f]), ...(faults.length === 0 ? [none] : [])];
  const elsewhere = drawable(ex).filter((f) => !faults.includes(f));
  for (let i = 0; i < level.falseLeads; i++) {
    const lead = pick(random, elsewhere);
    // It stands anywhere: its place is no clue.
    if (lead !== undefined) out.splice(Math.floor(random.next() * (out.length + 1)), 0, lines[lead]);
  }
  return out.filter((x) => x !== undefined);
}

/** The size at which what is hidden shows as much as the level wants; the nearest where none does. */
function sizeFor(ex: Exercise, draw: Draw, level: Level): number {
  if (draw.faults.length === 0) return 1;
  const [least, most] = level.d;
  let best = { size: 1, off: Infinity };
  for (const size of SIZES) {
    const sized = { ...draw, size };
    const whole = scriptOn(ex, sized);
    const ds = draw.faults.map((f) => revealOf(ex, sized, f, whole).d);
    // What is plain to eye or ear is plain at every size.
    const off = Math.max(
      ...ds.map((d) =>
        d < least ? Math.log(least / Math.max(d, 0.1)) : d > most && d < 50 ? Math.log(d / most) : 0,
      ),
    );
    if (off < best.off) best = { size, off };
    if (off === 0) break;
  }
  return best.size;
}

function pick<T>(random: Random, all: readonly T[]): T | undefined {
  return all[Math.min(all.length - 1, Math.floor(random.next() * all.length))];
}

/** How often somebody met a family, and how often they missed what was there. */
export interface Tally {
  readonly runs: number;
  readonly misses: number;
}

/** No kind is proposed more often than this. */
const MOST_SHARE = 1 / 3;

/**
 * *Surprise me*: kinds that were missed often come up more often, none over a third.
 * @returns the share of each, in their order; together 1
 */
export function surpriseShares(met: readonly Tally[]): readonly number[] {
  let left = met.map(({ runs, misses }) => (1 + misses) / (1 + runs));
  const cap = Math.max(MOST_SHARE, 1 / met.length);
  for (let i = 0; i < met.length; i++) {
    const sum = left.reduce((a, b) => a + b, 0);
    const shares = left.map((w) => w / sum);
    if (shares.every((s) => s <= cap + 1e-12)) return shares;
    // What is over it is spread over the others, by their own weights.
    // To the rounding: what was brought to it before is not let go again.
    const fixed = shares.map((s) => s >= cap - 1e-12);
    const over = fixed.filter(Boolean).length * cap;
    const rest = shares.reduce((a, s, k) => a + (fixed[k] ? 0 : s), 0);
    left = shares.map((s, k) => (fixed[k] ? cap : ((1 - over) * s) / rest));
  }
  return left;
}

import {
  dimensionOf,
  rank,
  rankSurvivors,
  whatToBorrow,
  type Borrow,
  type Gauge,
  type Need,
  type Suitability,
} from '../gauge/index.js';
import { slotsOf, unitOf, type GaugeSlot, type Plan } from '../procedure/index.js';
import type { Family } from './contract.js';
import { gaugeDoubt } from './start.js';

/** What a gauge in a place must be able to tell under a plan, narrowest first; empty where nothing there has limits. */
export function needsOf(family: Family, plan: Plan, slot: GaugeSlot): readonly Need[] {
  const held = family.slots.filter((s) => s.underTest?.against === slot.id).map((s) => s.id);
  return family.settings
    .filter((s) => s.had === 'reading' && (s.slot === slot.id || held.includes(s.slot)))
    .flatMap((s) => {
      const { lower, upper } = plan.limits[s.id] ?? {};
      const target = plan.values[s.id];
      return lower === undefined || upper === undefined || target === undefined
        ? []
        : [
            {
              target,
              lower,
              upper,
              worst: family.worst(plan, slot.id),
              repeatability: s.repeatability,
              cycles: s.cycles,
              ...(slot.medium === 'any' ? {} : { medium: slot.medium }),
            },
          ];
    })
    .sort((a, b) => a.upper - a.lower - (b.upper - b.lower) || b.target - a.target);
}

/** The gauges that could go in one place, best first, and what to borrow where none of them can tell. */
export interface GaugeChoice {
  readonly slot: GaugeSlot;
  readonly ranked: readonly Suitability[];
  readonly borrow?: Borrow;
}

/**
 * Every place of a plan with the gauges at hand ranked for its narrowest need. A gauge that needs a reason (overdue, failed,
 * restricted) comes last, whatever it can tell; one under test is not ranked at all.
 * @param today ISO day; without it no gauge is held overdue
 * @param own the gauge that the control itself is, for the place under test
 */
export function chooseGauges(
  family: Family,
  plan: Plan,
  gauges: readonly Gauge[],
  today?: string,
  own?: Gauge,
): readonly GaugeChoice[] {
  return slotsOf(family, plan).map((slot): GaugeChoice => {
    if (slot.underTest) return { slot, ranked: own ? [asItIs(own, 'It is the one to be checked.')] : [] };
    const dimension = slot.dimension ?? 'pressure';
    const held = family.slots.some((s) => s.underTest?.against === slot.id);
    const fitting = gauges.filter(
      // A bench instrument stays at the bench: only a gauge under test is brought to it.
      (g) => dimensionOf(g) === dimension && g.id !== own?.id && (held || g.kind !== 'bench'),
    );
    const [need] = needsOf(family, plan, slot);
    const place = {
      worst: family.worst(plan, slot.id),
      ...(slot.medium === 'any' ? {} : { medium: slot.medium }),
    };
    const ranked = need
      ? rank(fitting, need)
      : dimension === 'pressure' && !held && place.worst > 0
        ? rankSurvivors(fitting, place)
        : fitting.map((g) => asItIs(g, ''));
    const sound = ranked.filter((r) => gaugeDoubt(r.gauge, today) === undefined);
    const doubtful = ranked.filter((r) => gaugeDoubt(r.gauge, today) !== undefined);
    const able = sound.some((r) => r.fitness === 'good' || r.fitness === 'usable');
    const setting = family.settings.find((s) => s.slot === slot.id)?.id ?? '';
    const borrow = need && !able ? whatToBorrow(need, unitOf(family, plan, setting)) : undefined;
    return { slot, ranked: [...sound, ...doubtful], ...(borrow ? { borrow } : {}) };
  });
}

/**
 * One gauge for each place: as chosen by hand, else the best that is not in another place already and can tell there; else the best.
 * @param chosen place → id of a gauge
 */
export function pickGauges(
  choices: readonly GaugeChoice[],
  chosen: Readonly<Record<string, string>> = {},
): Readonly<Record<string, Suitability>> {
  const by = (c: GaugeChoice): Suitability | undefined =>
    c.ranked.find((r) => r.gauge.id === chosen[c.slot.id]);
  const taken = new Set(choices.flatMap((c) => by(c)?.gauge.id ?? []));
  const out: Record<string, Suitability> = {};
  for (const c of choices) {
    const free = c.ranked.find(
      (r) => !taken.has(r.gauge.id) && (r.fitness === 'good' || r.fitness === 'usable'),
    );
    const picked = by(c) ?? free ?? c.ranked[0];
    if (!picked) continue;
    taken.add(picked.gauge.id);
    out[c.slot.id] = picked;
  }
  return out;
}

const asItIs = (gauge: Gauge, because: string): Suitability => ({
  gauge,
  fitness: 'usable',
  ratio: NaN,
  because,
});

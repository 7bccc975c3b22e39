// What was done that could have hurt somebody or something: never averaged.
import { spanOf } from '../gauge/index.js';
import { RENEW, stepsOf, type FoldedJob, type JobEvent } from '../procedure/index.js';
import { passed, positionsAt, saidBefore, stepsWith, takenIn, turnsOf } from './order.js';
import type { Deed, Exercise, Hurt } from './run.js';
import type { WatchedRig } from './watched.js';

export interface Act {
  readonly severity: 1 | 2 | 3;
  /** When, on the installation's own clock, s. */
  readonly t?: number;
  readonly text: string;
}

/** Beyond the bound for longer than a hand needs to stop it, s. */
const HAND_S = 3;
/** Words read in a second, by somebody who has met them before. */
const WORDS_S = 8;

/** What one deed on the bench goes past, as the handles stand; undefined where nothing does. */
export function harmOf(
  ex: Exercise,
  deed: Deed,
  positions: Readonly<Record<string, number>>,
  said: (fact: string) => string | undefined,
): Act | undefined {
  const { family } = ex;
  if (deed.do !== 'turn' && deed.do !== 'set') return undefined;
  const steps = deed.do === 'turn' ? turnsOf(ex, deed.id) : stepsWith(ex, deed.id, deed.value);
  if (steps.length === 0) return undefined;
  // Where one of the steps that do this is free to be done, so is the deed.
  const { access = [] } = ex.kit.practice;
  const ways = steps.map((s) =>
    passed(family, s, positions, said).filter((p) => !access.includes(p.fact) && !ownHand(ex, p.fact, deed)),
  );
  const best = ways.reduce((a, b) => (b.length < a.length ? b : a));
  if (best.length === 0) return undefined;
  const what =
    deed.do === 'turn'
      ? `${family.adjusters.find((a) => a.id === deed.id)?.title ?? deed.id} turned`
      : handleSaid(ex, deed.id, deed.value);
  const grave = best.some((p) => p.grave);
  return {
    severity: grave ? 3 : 2,
    t: deed.t,
    text: `${what} before this was so: ${best.map((p) => p.title.toLowerCase()).join(', ')}.`,
  };
}

/** Why a hand does not reach what it would turn, in words; undefined where it does. */
export function unreached(
  ex: Exercise,
  adjuster: string,
  positions: Readonly<Record<string, number>>,
  said: (fact: string) => string | undefined,
): string | undefined {
  const { access = [] } = ex.kit.practice;
  const closed = turnsOf(ex, adjuster).map((s) =>
    passed(ex.family, s, positions, said).filter((p) => access.includes(p.fact)),
  );
  if (closed.some((all) => all.length === 0)) return undefined;
  return closed[0]?.map((p) => p.title.toLowerCase()).join(', ');
}

/** A fact that this deed itself makes or breaks is no condition of it. */
const ownHand = ({ family }: Exercise, fact: string, deed: Deed): boolean =>
  deed.do === 'set' &&
  Object.values(family.facts[fact] ?? {}).some((def) => def.hands && deed.id in def.hands);

const handleSaid = ({ family }: Exercise, id: string, value: number): string => {
  const handle = family.rig.handles.find((h) => h.id === id);
  const at = handle?.positions.find((p) => p.value === value);
  return `${handle?.title ?? id}: ${(at?.title ?? String(value)).toLowerCase()},`;
};

/** The plain line with which a run ends where somebody would have been hurt. */
export const hurtBy = (act: Act | undefined): Hurt | undefined =>
  act?.severity === 3 ? { t: act.t ?? 0, text: act.text } : undefined;

interface Seen {
  readonly ex: Exercise;
  readonly view: FoldedJob;
  readonly events: readonly JobEvent[];
  readonly deeds: readonly Deed[];
  readonly start: Readonly<Record<string, number>>;
  readonly mine: WatchedRig;
  readonly script: WatchedRig;
  readonly scripted: FoldedJob;
  readonly bounds: Readonly<Record<string, number>>;
}

/** Everything of a run that was not as it should be, gravest first. */
export function actsOf(seen: Seen): readonly Act[] {
  // Nobody is blamed for what even the script does.
  const own = new Set(renewedActs(seen.ex, seen.scripted).map((a) => a.text));
  return [
    ...deedActs(seen),
    ...renewedActs(seen.ex, seen.view).filter((a) => !own.has(a.text)),
    ...pressureActs(seen),
    ...hasty(seen),
    ...cutShort(seen),
    ...notPutBack(seen),
  ].sort((a, b) => b.severity - a.severity);
}

function deedActs({ ex, view, deeds, start }: Seen): readonly Act[] {
  const acts = new Map<string, Act>();
  for (const deed of deeds) {
    if ((deed.do !== 'set' && deed.do !== 'turn') || !deed.bench) continue;
    const act = harmOf(ex, deed, positionsAt(start, deeds, deed.t - 1e-6), saidBefore(view, deed.t));
    if (act && !acts.has(act.text)) acts.set(act.text, act);
  }
  return [...acts.values()];
}

/**
 * What was made so because a step that one picked lacked it, before what itself must come first: supply opened for a reading, with
 * nothing in the line that opens.
 */
function renewedActs(ex: Exercise, view: FoldedJob): readonly Act[] {
  const steps = [...stepsOf(ex.family, ex.plan).values()];
  const { access = [] } = ex.kit.practice;
  const facts = new Map<string, string>();
  const acts = new Map<string, Act>();
  for (const body of takenIn(view)) {
    const sets = Object.entries(body.sets ?? {});
    for (const [fact, value] of body.at.key.startsWith(RENEW) ? sets : []) {
      // How the procedure itself first comes to it, and what it needs for that.
      const way = steps.find((s) => s.sets?.[fact] === value);
      const missing = passed(ex.family, way ?? {}, undefined, (f) => facts.get(f)).filter(
        (p) => !access.includes(p.fact),
      );
      const title = ex.family.facts[fact]?.[value]?.title ?? fact;
      const text = `${title} before this was so: ${missing.map((p) => p.title.toLowerCase()).join(', ')}.`;
      if (missing.some((p) => p.grave))
        acts.set(text, { severity: 3, ...(body.t_s === undefined ? {} : { t: body.t_s }), text });
    }
    for (const [fact, value] of sets) facts.set(fact, value);
  }
  return [...acts.values()];
}

function pressureActs({ ex, mine, script, bounds, view }: Seen): readonly Act[] {
  const acts: Act[] = [];
  if (mine.relieved !== undefined && script.relieved === undefined)
    acts.push({
      severity: 2,
      t: mine.relieved,
      text: 'The relief opened; worked in order it need not have.',
    });
  for (const slot of Object.keys(bounds)) {
    const over = (mine.beyond[slot] ?? 0) - (script.beyond[slot] ?? 0);
    if (over > HAND_S)
      acts.push({
        severity: 2,
        text: `${ex.family.slots.find((s) => s.id === slot)?.title ?? slot}: ${Math.round(over)} s beyond where it must be stopped.`,
      });
  }
  for (const { id, title } of ex.family.slots) {
    const gauge = view.gauge(id);
    if (!gauge) continue;
    const { upper } = spanOf(gauge);
    const [top, byScript] = [mine.highest[id] ?? 0, script.highest[id] ?? 0];
    if (top > upper * 1.02 && byScript <= upper * 1.02)
      acts.push({ severity: 2, text: `${title}: its needle went past its stop; it is bent.` });
  }
  return acts;
}

/** Cautions that were left sooner than they can be read. */
function hasty({ ex, events }: Seen): readonly Act[] {
  const steps = stepsOf(ex.family, ex.plan);
  const met = new Set<string>();
  const acts: Act[] = [];
  for (const [i, { body, mono }] of events.entries()) {
    const before = events[i - 1];
    if (!('at' in body) || !body.at || !before) continue;
    const cautions = (steps.get(body.at.key)?.cautions ?? []).filter((c) => !met.has(c));
    if (cautions.length === 0) continue;
    const words = cautions
      .map((c) => ex.family.cautions.find((x) => x.key === c)?.text ?? '')
      .join(' ')
      .split(/\s+/).length;
    for (const c of cautions) met.add(c);
    const took = (mono - before.mono) / 1000;
    const needed = Math.max(1, words / WORDS_S);
    if (took >= 0 && took < needed)
      acts.push({
        severity: 1,
        text: `Cautions of ${words} words left after ${took.toFixed(1)} s at ${steps.get(body.at.key)?.title.toLowerCase() ?? body.at.key}.`,
      });
  }
  return acts;
}

function cutShort({ ex, view }: Seen): readonly Act[] {
  const steps = stepsOf(ex.family, ex.plan);
  return view.state.observations.flatMap(({ body }) => {
    const step = steps.get(body.at.key);
    if (!body.early || step?.kind !== 'observe') return [];
    return [
      {
        severity: 1 as const,
        ...(body.t_s === undefined ? {} : { t: body.t_s }),
        text: `${step.title}: looked at for ${Math.round(body.seconds ?? 0)} s of ${step.seconds ?? 0} s.`,
      },
    ];
  });
}

/** Signed before it was put back. */
function notPutBack({ ex, view }: Seen): readonly Act[] {
  if (!view.state.signed) return [];
  const { restore } = ex.family.procedure(view.plan);
  const asked = restore.flatMap((n) => (n.kind === 'branch' || n.kind === 'until' ? [] : [n]));
  const left = asked.filter((s) => !view.state.taken.has(s.key));
  // A job that never began has nothing to put back.
  if (left.length === 0 || view.state.taken.size === 0) return [];
  return [
    {
      severity: 2,
      text: `Signed before it was put back: ${left.map((s) => s.title.toLowerCase()).join(', ')}.`,
    },
  ];
}

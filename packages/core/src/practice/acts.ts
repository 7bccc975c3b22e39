// What was done that could have hurt somebody or something: never averaged.
import { spanOf } from '../gauge/index.js';
import { stepsOf, type FoldedJob, type JobEvent } from '../procedure/index.js';
import type { Act } from './harm.js';
import type { Exercise } from './run.js';
import type { WatchedRig } from './watched.js';

/** Beyond the bound for longer than a hand needs to stop it, s. */
const HAND_S = 3;
/** Words read in a second, by somebody who has met them before. */
const WORDS_S = 8;

interface Seen {
  readonly ex: Exercise;
  readonly view: FoldedJob;
  readonly events: readonly JobEvent[];
  readonly mine: WatchedRig;
  readonly script: WatchedRig;
  readonly bounds: Readonly<Record<string, number>>;
}

/** Everything of a run that was not as it should be, gravest first. */
export function actsOf(seen: Seen): readonly Act[] {
  // Nobody is blamed for what even the script does.
  const own = new Set(seen.script.harm.map((a) => a.text));
  return [
    ...seen.mine.harm.filter((a) => !own.has(a.text)),
    ...pressureActs(seen),
    ...hasty(seen),
    ...cutShort(seen),
    ...notPutBack(seen),
  ].sort((a, b) => b.severity - a.severity);
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

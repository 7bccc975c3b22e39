// Where a hidden fault shows itself, found by twins: the same installation worked by the script with the fault and without it.
import { spanOf } from '../gauge/index.js';
import { stepsOf, type FoldedJob, type PlacedBody } from '../procedure/index.js';
import { ScriptedTechnician, type ScriptedJob } from '../script/index.js';
import { rigOfDraw, startedOn, type Draw, type Exercise } from './run.js';

/** A fault is knowable where a reading that the order of work asks for is shifted by this many of its own ±. */
export const KNOWABLE_D = 2;
/** What is seen, heard or felt at once counts as shifted by this much. */
const PLAIN_D = 99;

/** Where a fault shows first, to whoever takes all the steps in their order. */
export interface Shown {
  readonly fault: string;
  /** Its largest shift anywhere, in the ± of that reading. */
  readonly d: number;
  readonly knowable: boolean;
  /** The first step at which it could be known; the one with the largest shift where it could not. */
  readonly step?: string;
  readonly title?: string;
  /** What is read there with it and without it, as it is written down. */
  readonly with?: string;
  readonly without?: string;
}

/** A job by the script on what was drawn, with some of its faults. */
export const scriptOn = (ex: Exercise, draw: Draw, faults = draw.faults): ScriptedJob =>
  new ScriptedTechnician(ex.family, rigOfDraw(ex, draw, faults), startedOn(ex, draw), { goesOn: true }).run();

interface Taken {
  readonly key: string;
  readonly body: PlacedBody;
}

/** What was taken at every step, in the order of the work. */
function takenIn(job: ScriptedJob): ReadonlyMap<string, Taken> {
  const out = new Map<string, Taken>();
  for (const { body } of job.log.events)
    if ('at' in body && body.at && body.kind !== 'note' && body.kind !== 'photo')
      out.set(`${body.at.key} ${body.at.pass}`, { key: body.at.key, body });
  return out;
}

/** By how much two entries at one place differ, in the ± of what was read there. */
function apart(view: FoldedJob, a: PlacedBody, b: PlacedBody): number {
  if (a.kind !== b.kind) return a.kind === 'read' || b.kind === 'read' ? PLAIN_D : 0;
  if (a.kind === 'observe' && b.kind === 'observe') {
    if (a.answer !== b.answer) return PLAIN_D;
    const [s, t] = [a.seconds, b.seconds];
    // A hand on a stopwatch is good to a third of a second.
    return s === undefined || t === undefined ? 0 : Math.abs(s - t) / 0.6;
  }
  if (a.kind === 'read' && b.kind === 'read') {
    if (a.bound !== b.bound) return PLAIN_D;
    const when = a.at.phase === 'found' ? 'found' : 'left';
    const gauge = view.gauge(a.slot);
    const U = view.figure(a.setting, when)?.budget.U ?? 2 * (gauge ? spanOf(gauge).readableStep : Infinity);
    return Math.abs(a.value.value - b.value.value) / U;
  }
  if (a.kind === 'zero' && b.kind === 'zero') {
    const gauge = view.gauge(a.slot);
    return gauge ? Math.abs(a.before.value - b.before.value) / (2 * spanOf(gauge).readableStep) : 0;
  }
  return 0;
}

const said = (body: PlacedBody): string =>
  body.kind === 'read'
    ? `${body.value.text} ${body.value.unit}`
    : body.kind === 'zero'
      ? `${body.before.text} ${body.before.unit}`
      : body.kind === 'observe'
        ? body.answer
        : body.kind;

/** Where a fault of a draw shows. @param whole the script's job on all of it, where that is at hand */
export function revealOf(ex: Exercise, draw: Draw, fault: string, whole = scriptOn(ex, draw)): Shown {
  const without = takenIn(
    scriptOn(
      ex,
      draw,
      draw.faults.filter((f) => f !== fault),
    ),
  );
  const { view } = whole;
  const titles = new Map(stepTitles(ex));
  let best: { d: number; key: string; a: PlacedBody; b: PlacedBody } | undefined;
  for (const [place, { key, body }] of takenIn(whole)) {
    const twin = without.get(place);
    if (!twin) continue;
    const d = apart(view, body, twin.body);
    if (!best || d > best.d) best = { d, key, a: body, b: twin.body };
    if (d >= KNOWABLE_D) break;
  }
  if (!best || best.d === 0) return { fault, d: 0, knowable: false };
  return {
    fault,
    d: Math.min(PLAIN_D, Math.round(best.d * 10) / 10),
    knowable: best.d >= KNOWABLE_D,
    step: best.key,
    title: titles.get(best.key) ?? best.key,
    with: said(best.a),
    without: said(best.b),
  };
}

/** The title of every step of an exercise, by key. */
export function stepTitles(ex: Exercise): readonly (readonly [string, string])[] {
  return [...stepsOf(ex.family, ex.plan)].map(([key, step]) => [key, step.title] as const);
}

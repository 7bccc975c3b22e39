import {
  parseEvent,
  RENEW,
  type CorrectBody,
  type JobBody,
  type JobEvent,
  type PlacedBody,
} from './events.js';
import { emptyState, factsHold, type JobState, type Kept, type Moment } from './state.js';

/** Kinds that may follow a sign-off. */
const AFTER_SIGN = new Set(['note', 'countersign', 'take']);

/** What a family knows of an entry that the log alone does not: why it does not fit, or undefined where it does. */
export type Check = (state: JobState, body: JobBody) => string | undefined;

interface How {
  /** Written by a device that did not hold the job, and adopted since. */
  readonly adopted?: boolean;
  readonly check?: Check | undefined;
}

/**
 * Take one event into the state: constant time, total. Whatever comes that does not fit is set aside with a reason.
 * A correction is only noted here; its effect on what it corrects comes from a whole `fold`.
 */
export function apply(state: JobState, raw: unknown, how: How = {}): void {
  const parsed = parseEvent(raw);
  if (parsed.ok) return applyParsed(state, parsed.event, how);
  state.aside.push({ event: parsed.event, reason: parsed.reason });
}

function applyParsed(state: JobState, event: JobEvent, how: How): void {
  if (state.ids.has(event.id)) return;
  const reason = misfit(state, event, how);
  if (reason !== undefined) {
    state.aside.push({ event, reason });
    return;
  }
  state.ids.add(event.id);
  if (
    state.lastWall !== undefined &&
    state.lastDevice !== undefined &&
    state.facts.size > 0 &&
    !factsHold({ wall: state.lastWall, device: state.lastDevice }, event)
  ) {
    state.facts.clear();
    state.factsFrom.clear();
  }
  state.lastWall = event.wall;
  state.lastDevice = event.device;
  take(state, event, ++state.order);
}

/** Reason of entries that `adopt` lets count. */
export const NOT_HELD = 'Another device held the job; adopt it to let it count.';

function misfit(state: JobState, event: JobEvent, { adopted, check }: How): string | undefined {
  const { body } = event;
  if (event.job !== state.job) return 'It belongs to another job.';
  if (body.kind === 'started') return state.started ? 'The job was already started.' : undefined;
  if (!state.started) return 'The job was not started yet.';
  if (state.signed && !AFTER_SIGN.has(body.kind)) return 'The job was signed; it is frozen.';
  if (!adopted && !ANY_DEVICE.has(body.kind) && state.holder !== event.device) return NOT_HELD;
  if ('slot' in body && body.kind !== 'gauge' && !state.gauges.has(body.slot))
    return `No gauge is in the place "${body.slot}".`;
  if (body.kind === 'countersign' && !state.signed) return 'It is not signed yet.';
  if (body.kind === 'correct') return misfitOfCorrection(state, body);
  if (isPlaced(body) && isTaken(state, body)) return 'This step was taken already.';
  return check?.(state, body);
}

/** Kinds that a device may write without holding the job. */
const ANY_DEVICE = new Set(['take', 'adopt', 'countersign']);

const PLACED = new Set(['zero', 'read', 'observe', 'turn', 'done', 'skip']);
const isPlaced = (body: JobBody): body is PlacedBody => PLACED.has(body.kind);

/** Whether something stands at a place that one entry fills; a skip gives way to the real thing, and renewals repeat. */
function isTaken(state: JobState, { at, kind }: PlacedBody): boolean {
  if (at.key.startsWith(RENEW)) return false;
  const there = state.taken.get(at.key)?.get(at.pass);
  return there?.some((k) => kind === 'skip' || k.body.kind !== 'skip') ?? false;
}

function misfitOfCorrection(state: JobState, body: CorrectBody): string | undefined {
  if (!state.ids.has(body.corrects)) return 'It corrects an event that is not here.';
  return undefined;
}

function take(state: JobState, event: JobEvent, order: number): void {
  const keep = <B extends JobBody>(body: B): Kept<B> => ({
    id: event.id,
    order,
    wall: event.wall,
    author: event.author,
    device: event.device,
    body,
  });
  const { body } = event;
  switch (body.kind) {
    case 'started':
      state.started = keep(body);
      state.openingPlan = state.plan = body.plan;
      state.holder = event.device;
      state.permits = body.permits;
      for (const [slot, gauge] of Object.entries(body.gauges))
        state.gauges.set(slot, [{ gauge, from: order, head_m: body.heads_m?.[slot] ?? 0 }]);
      return;
    case 'planned':
      state.plan = body.plan;
      state.replans.push(keep(body));
      return;
    case 'gauge':
      state.gauges.set(body.slot, [
        ...(state.gauges.get(body.slot) ?? []),
        { gauge: body.gauge, from: order, head_m: body.head_m ?? 0, reason: body.reason },
      ]);
      return;
    case 'zero':
      listOf(state.zeros, body.slot).push(keep(body));
      return placed(state, keep(body));
    case 'read':
      state.reads.push(keep(body));
      return placed(state, keep(body));
    case 'observe':
      state.observations.push(keep(body));
      return placed(state, keep(body));
    case 'turn':
      state.turns.push(keep(body));
      return placed(state, keep(body));
    case 'done':
      return placed(state, keep(body));
    case 'skip':
      state.skips.push(keep(body));
      return placed(state, keep(body));
    case 'note':
      state.notes.push(keep(body));
      return;
    case 'photo':
      state.photos.push(keep(body));
      return;
    case 'take':
      state.holder = event.device;
      if (body.permits) state.permits = body.permits;
      return;
    case 'leave':
      state.leaving = keep(body);
      return;
    case 'sign':
      state.signed = keep(body);
      return;
    case 'countersign':
      state.countersigned = keep(body);
      return;
    case 'correct':
    case 'adopt':
      return;
  }
}

function placed(state: JobState, kept: Kept<PlacedBody>): void {
  const { at, sets } = kept.body;
  let passes = state.taken.get(at.key);
  if (!passes) state.taken.set(at.key, (passes = new Map()));
  listOf(passes, at.pass).push(kept);
  for (const [name, value] of Object.entries(sets ?? {})) {
    if (state.facts.get(name) !== value) state.factsFrom.set(name, momentOf(kept));
    state.facts.set(name, value);
  }
}

const momentOf = ({ wall, body }: Kept<PlacedBody>): Moment => ({
  wall,
  ...('t_s' in body && body.t_s !== undefined ? { t_s: body.t_s } : {}),
});

function listOf<T>(map: Map<string, T[]>, key: string): T[] {
  let list = map.get(key);
  if (!list) map.set(key, (list = []));
  return list;
}

/**
 * Fold a whole log in its order (the server's sequence, then what is unsent): corrections take their originals' places,
 * adopted events count where the adoption stands.
 */
export function fold(job: string, raw: readonly unknown[], check?: Check): JobState {
  const state = emptyState(job);
  const events: JobEvent[] = [];
  for (const r of raw) {
    const parsed = parseEvent(r);
    if (parsed.ok) events.push(parsed.event);
    else state.aside.push({ event: parsed.event, reason: parsed.reason });
  }
  if (!events.some((e) => e.body.kind === 'correct' || e.body.kind === 'adopt')) {
    for (const e of events) applyParsed(state, e, { check });
    return state;
  }
  const corrections = standing(job, events, check);
  const known = new Map(events.map((e) => [e.id, e]));
  for (const e of events) {
    const by = corrections.get(e.id);
    if (e.body.kind === 'correct' && state.ids.has(e.body.corrects)) {
      const wrong = unlike(known.get(e.body.corrects), e.body);
      if (wrong !== undefined) {
        state.aside.push({ event: e, reason: wrong });
        continue;
      }
    }
    if (by && !state.ids.has(e.id)) {
      state.corrections.push({ original: e, by });
      if (by.body.body) applyParsed(state, { ...e, body: by.body.body }, { check });
      // Withdrawn: it is known, and fills no place.
      else state.ids.add(e.id);
    } else applyParsed(state, e, { check });
    if (e.body.kind === 'adopt' && state.ids.has(e.id)) adopt(state, e.body.ids, check);
  }
  return state;
}

/**
 * The newest correction of every event that has one. Only those that fit count: not one after the sign-off, nor one by a device that
 * does not hold the job, nor one of what was itself set aside.
 */
function standing(
  job: string,
  events: readonly JobEvent[],
  check: Check | undefined,
): ReadonlyMap<string, JobEvent<CorrectBody>> {
  const known = new Map(events.map((e) => [e.id, e]));
  const corrections = new Map<string, JobEvent<CorrectBody>>();
  const dry = emptyState(job);
  for (const e of events) {
    applyParsed(dry, e, { check });
    if (e.body.kind === 'adopt' && dry.ids.has(e.id)) adopt(dry, e.body.ids, check);
    if (e.body.kind !== 'correct' || !dry.ids.has(e.id)) continue;
    const original = known.get(e.body.corrects);
    if (!original || unlike(original, e.body) !== undefined) continue;
    corrections.set(original.id, e as JobEvent<CorrectBody>);
    if (!e.body.body) free(dry, original);
  }
  return corrections;
}

/** What was withdrawn leaves its place, so that the step can be taken anew. */
function free(state: JobState, { id, body }: JobEvent): void {
  if (!isPlaced(body)) return;
  const passes = state.taken.get(body.at.key);
  const left = passes?.get(body.at.pass)?.filter((k) => k.id !== id) ?? [];
  if (left.length > 0) passes?.set(body.at.pass, left);
  else passes?.delete(body.at.pass);
}

/** Why a correction cannot take the place of what it corrects; undefined where it can. */
function unlike(original: JobEvent | undefined, { body }: CorrectBody): string | undefined {
  if (!original || original.body.kind === 'correct') return 'A correction cannot correct a correction.';
  if (!UNDOABLE.has(original.body.kind)) return `What was ${original.body.kind} is not corrected.`;
  if (!body) return undefined;
  if (body.kind !== original.body.kind) return 'A correction must be of the same kind as what it corrects.';
  if (!isPlaced(body) || !isPlaced(original.body)) return undefined;
  const [a, b] = [body.at, original.body.at];
  return a.key === b.key && a.pass === b.pass && a.phase === b.phase
    ? undefined
    : 'A correction stands at the place of what it corrects.';
}

/** Kinds of entries that may be corrected or withdrawn. */
const UNDOABLE = new Set<string>([...PLACED, 'note', 'photo', 'gauge', 'planned', 'leave']);

function adopt(state: JobState, ids: readonly string[], check: Check | undefined): void {
  const wanted = new Set(ids);
  const adopted = state.aside.filter((a) => wanted.has(a.event.id) && a.reason === NOT_HELD);
  const left = state.aside.filter((a) => !adopted.includes(a));
  state.aside.splice(0, state.aside.length, ...left);
  for (const a of adopted) apply(state, a.event, { adopted: true, check });
}

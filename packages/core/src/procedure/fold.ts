import type { Gauge } from '../gauge/index.js';
import type {
  AsTyped,
  CorrectBody,
  Facts,
  JobBody,
  JobEvent,
  LeaveBody,
  ObserveBody,
  Plan,
  ReadBody,
  SignBody,
  StartedBody,
  TurnBody,
  ZeroBody,
  Place,
  SkipBody,
  DoneBody,
  NoteBody,
  CountersignBody,
} from './events.js';

/** Facts are believed for this long without an event, ms. */
export const FACT_LAPSE_MS = 30 * 60 * 1000;

/** An event with the place it has in the fold's order. */
export interface Kept<B extends JobBody> {
  readonly id: string;
  readonly order: number;
  readonly wall: string;
  readonly author: string;
  readonly device: string;
  readonly body: B;
}

export interface SetAside {
  readonly event: JobEvent;
  readonly reason: string;
}

/** A gauge in a place, from one event on. */
export interface Mounted {
  readonly gauge: Gauge;
  readonly from: number;
  readonly head_m: number;
  /** Why it took the place of another. */
  readonly reason?: string;
}

/** When something was entered: by the device's wall clock, and by the live source's own where there was one. */
export interface Moment {
  readonly wall: string;
  readonly t_s?: number;
}

/** Everything that a job's log says, as it stands after the newest event. Mutated only by `apply`. */
export interface JobState {
  readonly job: string;
  order: number;
  started?: Kept<StartedBody>;
  openingPlan?: Plan;
  plan?: Plan;
  readonly gauges: Map<string, Mounted[]>;
  readonly zeros: Map<string, Kept<ZeroBody>[]>;
  readonly reads: Kept<ReadBody>[];
  readonly turns: Kept<TurnBody>[];
  readonly observations: Kept<ObserveBody>[];
  readonly skips: Kept<SkipBody>[];
  readonly notes: Kept<NoteBody>[];
  readonly corrections: { readonly original: JobEvent; readonly by: JobEvent<CorrectBody> }[];
  /** Step key → pass → the events taken there. */
  readonly taken: Map<string, Map<string, Kept<PlacedBody>[]>>;
  readonly facts: Map<string, string>;
  /** When each fact came to the value that it has. */
  readonly factsFrom: Map<string, Moment>;
  holder?: string;
  lastWall?: string;
  lastDevice?: string;
  leaving?: Kept<LeaveBody>;
  signed?: Kept<SignBody>;
  countersigned?: Kept<CountersignBody>;
  readonly aside: SetAside[];
  readonly ids: Set<string>;
}

export type PlacedBody = ZeroBody | ReadBody | ObserveBody | TurnBody | DoneBody | SkipBody;

/** The state of a job of which nothing is known yet. */
export const emptyState = (job: string): JobState => ({
  job,
  order: 0,
  gauges: new Map(),
  zeros: new Map(),
  reads: [],
  turns: [],
  observations: [],
  skips: [],
  notes: [],
  corrections: [],
  taken: new Map(),
  facts: new Map(),
  factsFrom: new Map(),
  aside: [],
  ids: new Set(),
});

/** Kinds that may follow a sign-off. */
const AFTER_SIGN = new Set(['note', 'countersign', 'take']);

/** Whether facts confirmed at `then` on one device still hold at `now` on another (or the same). */
export const factsHold = (
  then: { wall: string; device: string },
  now: { wall: string; device: string },
): boolean => then.device === now.device && Date.parse(now.wall) - Date.parse(then.wall) <= FACT_LAPSE_MS;

/**
 * Take one event into the state: constant time, total. An event that does not fit is set aside with a reason.
 * A correction is only noted here; its effect on what it corrects comes from a whole `fold`.
 */
export function apply(state: JobState, event: JobEvent, adopted = false): void {
  if (state.ids.has(event.id)) return;
  const reason = misfit(state, event, adopted);
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

function misfit(state: JobState, event: JobEvent, adopted: boolean): string | undefined {
  const { body } = event;
  if (event.job !== state.job) return 'It belongs to another job.';
  if (body.kind === 'started') return state.started ? 'The job was already started.' : undefined;
  if (!state.started) return 'The job was not started yet.';
  if (state.signed && !AFTER_SIGN.has(body.kind)) return 'The job was signed; it is frozen.';
  if (!adopted && body.kind !== 'take' && body.kind !== 'adopt' && body.kind !== 'countersign') {
    if (state.holder !== event.device) return 'Another device held the job; adopt it to let it count.';
  }
  if ('slot' in body && body.kind !== 'gauge' && !state.gauges.has(body.slot))
    return `No gauge is in the place "${body.slot}".`;
  if (body.kind === 'read' && !Number.isFinite(body.value.value)) return 'The reading is not a number.';
  if (body.kind === 'turn' && !Number.isFinite(body.amount)) return 'The amount turned is not a number.';
  if (body.kind === 'zero' && !(Number.isFinite(body.before.value) && Number.isFinite(body.after.value)))
    return 'The zero is not a number.';
  if (body.kind === 'countersign' && !state.signed) return 'It is not signed yet.';
  if (body.kind === 'correct') {
    if (!state.ids.has(body.corrects)) return 'It corrects an event that is not here.';
    if (body.body?.kind === 'correct') return 'A correction cannot correct a correction.';
  }
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
      for (const [slot, gauge] of Object.entries(body.gauges))
        state.gauges.set(slot, [{ gauge, from: order, head_m: body.heads_m?.[slot] ?? 0 }]);
      return;
    case 'planned':
      state.plan = body.plan;
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
    case 'take':
      state.holder = event.device;
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
export function fold(job: string, events: readonly JobEvent[]): JobState {
  const state = emptyState(job);
  if (!events.some((e) => e.body.kind === 'correct' || e.body.kind === 'adopt')) {
    for (const e of events) apply(state, e);
    return state;
  }
  const known = new Map(events.map((e) => [e.id, e]));
  const corrections = new Map<string, JobEvent<CorrectBody>>();
  const dry = emptyState(job);
  for (const e of events) {
    apply(dry, e);
    // Only a correction that fits counts: not one after the sign-off, nor one by a device that does not hold the job.
    if (e.body.kind === 'correct' && dry.ids.has(e.id)) {
      const original = known.get(e.body.corrects);
      if (original && original.body.kind !== 'correct' && sameKind(original, e.body))
        corrections.set(original.id, e as JobEvent<CorrectBody>);
    }
  }
  for (const e of events) {
    const by = corrections.get(e.id);
    if (e.body.kind === 'correct' && !sameKind(known.get(e.body.corrects), e.body)) {
      state.aside.push({ event: e, reason: 'A correction must be of the same kind as what it corrects.' });
      continue;
    }
    if (by) {
      state.corrections.push({ original: e, by });
      if (by.body.body) apply(state, { ...e, body: by.body.body });
      else state.ids.add(e.id);
    } else apply(state, e);
    if (e.body.kind === 'adopt') adopt(state, e.body.ids);
  }
  return state;
}

const sameKind = (original: JobEvent | undefined, c: CorrectBody): boolean =>
  original !== undefined && (c.body === undefined || c.body.kind === original.body.kind);

function adopt(state: JobState, ids: readonly string[]): void {
  const wanted = new Set(ids);
  const adopted = state.aside.filter((a) => wanted.has(a.event.id));
  const left = state.aside.filter((a) => !wanted.has(a.event.id));
  state.aside.splice(0, state.aside.length, ...left);
  for (const a of adopted) apply(state, a.event, true);
}

/** A growing log with its state: appends in constant time, folds anew only where a correction or adoption demands it. */
export class JobLog {
  private list: JobEvent[] = [];
  private folded: JobState;
  private bumped = 0;

  constructor(
    readonly job: string,
    events: readonly JobEvent[] = [],
  ) {
    this.list = [...events];
    this.folded = fold(job, this.list);
  }

  get events(): readonly JobEvent[] {
    return this.list;
  }

  get state(): JobState {
    return this.folded;
  }

  /** Grows with every change: what depends on the state can be kept until it moves. */
  get revision(): number {
    return this.bumped;
  }

  append(event: JobEvent): void {
    this.list.push(event);
    this.bumped++;
    if (event.body.kind === 'correct' || event.body.kind === 'adopt') this.folded = fold(this.job, this.list);
    else apply(this.folded, event);
  }

  /** Replace the whole log, for instance when the server's sequence differs from the local one. */
  replace(events: readonly JobEvent[]): void {
    this.list = [...events];
    this.bumped++;
    this.folded = fold(this.job, this.list);
  }
}

export type { AsTyped, Facts, Place };

// From a step and what the hand did to the entry in the log: the one place where it is written, for screens, scripts, seeds and tests.
import { sheetOf, type Family } from '../family/index.js';
import type { Gauge } from '../gauge/index.js';
import {
  isAdvised,
  LEFT_NEAR,
  placeOf,
  RENEW,
  type AsTyped,
  type Choice,
  type DoneBody,
  type Facts,
  type JobBody,
  type JobView,
  type LeaveBody,
  type Missing,
  type ObserveStep,
  type Outcome,
  type PhotoBody,
  type PlannedBody,
  type ReadBody,
  type ReadStep,
  type WalkItem,
} from '../procedure/index.js';
import { CORE_VERSION } from '../version.js';

/** Positions that handles of an installation are brought to. */
export type Hands = Readonly<Record<string, number>>;

/** An entry, and what the hand did to the installation in making it: a rig follows, a real one was moved already. */
export interface Entry {
  readonly body: JobBody;
  readonly hands: Hands;
  readonly turned?: { readonly adjuster: string; readonly amount: number };
}

/** When something was done, on the clock of a live source, s. */
export interface At {
  readonly t_s?: number;
}

const STILL: Hands = {};
const sets = (facts: Facts | undefined): { sets?: Facts } => (facts ? { sets: facts } : {});
const only = <K extends string, T>(key: K, value: T | undefined): { [k in K]?: T } =>
  value === undefined ? {} : ({ [key]: value } as { [k in K]?: T });
const entry = (body: JobBody, hands: Hands = STILL): Entry => ({ body, hands });

/** What hands do so that these facts hold. */
export const handsFor = (family: Pick<Family, 'facts'>, facts: Facts | undefined): Hands =>
  Object.assign({}, ...Object.entries(facts ?? {}).map(([f, to]) => family.facts[f]?.[to]?.hands ?? {}));

/** A confirmation, a wait, a count or a remark: it is done. */
export const done = (
  item: WalkItem,
  { count, seconds, t_s }: Pick<DoneBody, 'count' | 'seconds'> & At = {},
): Entry =>
  entry(
    {
      kind: 'done',
      at: placeOf(item),
      ...sets(item.step.sets),
      ...only('count', count),
      ...only('seconds', seconds),
      ...only('t_s', t_s),
    },
    item.step.hands,
  );

/** What a step lacked was made true. */
export const renewed = (item: Pick<WalkItem, 'pass'>, missing: Missing, { t_s }: At = {}): Entry =>
  entry(
    {
      kind: 'done',
      at: { key: `${RENEW}${missing.fact}=${missing.wanted}`, pass: item.pass },
      sets: { [missing.fact]: missing.wanted },
      ...only('t_s', t_s),
    },
    missing.hands,
  );

/** A zero carried as it is, or with what the needle showed once it was set. */
export const zeroed = (item: WalkItem, slot: string, before: AsTyped, after?: AsTyped): Entry =>
  entry({
    kind: 'zero',
    slot,
    before,
    after: after ?? before,
    handling: after ? 'adjusted' : 'carried',
    at: placeOf(item),
    ...sets(item.step.sets),
  });

export interface Reading extends Pick<ReadBody, 'state' | 'bound' | 'source' | 'trace' | 'excerpt'>, At {
  readonly value: AsTyped;
  readonly since_s?: number | undefined;
}

/** A reading of the step's setting on the gauge in its place. */
export const readingOf = (item: WalkItem, step: ReadStep, r: Reading): Entry =>
  entry({
    kind: 'read',
    setting: step.setting,
    slot: step.slot,
    value: r.value,
    state: r.state,
    at: placeOf(item),
    ...sets(step.sets),
    ...only('source', r.source),
    ...only('trace', r.trace),
    ...(r.excerpt?.length ? { excerpt: r.excerpt } : {}),
    ...only('bound', r.bound),
    ...only('t_s', r.t_s),
    ...only('since_s', r.since_s),
  });

/** A choice at an observation, or in place of a reading: the answer, what it says of a setting, and what it makes true. */
export function answered(
  family: Pick<Family, 'facts'>,
  item: WalkItem,
  choice: Choice,
  {
    value,
    seconds,
    t_s,
  }: At & { readonly value?: AsTyped | undefined; readonly seconds?: number | undefined } = {},
): Entry {
  const { step } = item;
  const made = choice.sets ?? step.sets;
  const watch = step.kind === 'observe' && !step.stopwatch ? step.seconds : undefined;
  return entry(
    {
      kind: 'observe',
      answer: choice.code,
      at: placeOf(item),
      ...only('value', value),
      ...only('seconds', seconds),
      ...(watch !== undefined && seconds !== undefined && seconds < watch - EARLY_S ? { early: true } : {}),
      ...only('bounds', choice.bounds),
      ...sets(made),
      ...only('t_s', t_s),
    },
    handsFor(family, choice.sets),
  );
}

/** A look that was ended this much before its time counts as watched to the end, s. */
const EARLY_S = 0.5;

export interface Turned extends At {
  readonly adjuster: string;
  /** Signed, in the adjuster's hand unit. */
  readonly amount: number;
  /** In words. */
  readonly text: string;
  readonly advised?: number | undefined;
  /** For a movement that sought something: whether it came. */
  readonly reached?: boolean | undefined;
}

/** An adjuster was moved. */
export const turned = (item: WalkItem, t: Turned): Entry => ({
  body: {
    kind: 'turn',
    adjuster: t.adjuster,
    amount: t.amount,
    text: t.text,
    at: placeOf(item),
    ...only('advised', t.advised),
    ...only('reached', t.reached),
    ...sets(item.step.sets),
    ...only('t_s', t.t_s),
  },
  hands: STILL,
  // What was sought was turned on the way there.
  ...(t.reached === undefined ? { turned: { adjuster: t.adjuster, amount: t.amount } } : {}),
});

export const skipped = (item: WalkItem, reason: string): Entry =>
  entry({ kind: 'skip', at: placeOf(item), reason });

export const noted = (text: string): Entry => entry({ kind: 'note', text });

/** A photo of this step, or of the whole where none is at hand. */
export const photographed = (photo: Omit<PhotoBody, 'kind' | 'at'>, item: WalkItem | undefined): Entry =>
  entry({ kind: 'photo', ...photo, ...(item ? { at: placeOf(item) } : {}) });

/** The plan is another from here on, as `replan` made it. */
export const replanned = (body: PlannedBody): Entry => entry(body);

export const changedGauge = (slot: string, gauge: Gauge, reason: string): Entry =>
  entry({ kind: 'gauge', slot, gauge, reason });

/** What stands near its limit is left so: instead of the turn at hand, or before the walk comes to it. */
export const leftNear = (job: JobView, item: WalkItem): Entry =>
  entry({
    kind: 'observe',
    answer: LEFT_NEAR,
    at:
      item.step.kind === 'turn' && isAdvised(item.step) && job.refines(item.step.adjuster)
        ? placeOf(item)
        : {
            key: LEFT_NEAR,
            pass: String(1 + job.state.observations.filter((o) => o.body.answer === LEFT_NEAR).length),
          },
  });

/** How a job may be left early: anything but set. */
export type LeaveOutcome = LeaveBody['outcome'];

export const left = (outcome: LeaveOutcome, reason: string): Entry =>
  entry({ kind: 'leave', outcome, reason });

/** The signature, with the result as it stands. */
export const signed = (family: Family, job: JobView, outcome: Outcome, by: string): Entry =>
  entry({ kind: 'sign', outcome, by, coreVersion: CORE_VERSION, result: sheetOf(family, job) });

/** This device holds the job from here on, and this person's permits bind. */
export const taken = (by: string, permits: readonly string[]): Entry => entry({ kind: 'take', by, permits });

/** The newest answer that a step offers with this code. */
export const choiceOf = (step: ObserveStep | ReadStep, code: string): Choice | undefined =>
  (step.kind === 'read' ? step.instead : step.choices)?.find((c) => c.code === code);

/** A mis-tap withdrawn; a screw that it turned goes back with it. */
export const withdrawn = (id: string, body: JobBody, reason = 'mis-tap'): Entry => ({
  body: { kind: 'correct', corrects: id, reason },
  hands: STILL,
  ...(body.kind === 'turn' ? { turned: { adjuster: body.adjuster, amount: -body.amount } } : {}),
});

/** A reading corrected to another value, or withdrawn. */
export const corrected = (id: string, body: JobBody, reason: string, value: AsTyped | undefined): Entry =>
  entry({
    kind: 'correct',
    corrects: id,
    reason,
    ...(value && body.kind === 'read' ? { body: { ...body, value } } : {}),
  });

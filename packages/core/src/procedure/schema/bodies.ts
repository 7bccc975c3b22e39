// One schema a kind of entry: its type, and what must hold for it to count.
import * as v from 'valibot';
import {
  asTypedSchema,
  gaugeSchema,
  most,
  number,
  planSchema,
  priorSchema,
  prose,
  recordOf,
  word,
  type Frozen,
} from './values.js';

export const PHASES = ['found', 'adjust', 'left'] as const;
export const OUTCOMES = ['set', 'left-as-found', 'restricted', 'replace', 'unfinished'] as const;

/** Where in the procedure an event stands: a stable step key, the pass of the loops around it, the phase. */
const place = v.object({
  key: word,
  pass: v.pipe(word, v.regex(/^\d+(\.\d+)*$/, 'is no pass')),
  phase: v.optional(v.picklist(PHASES, 'is no phase')),
});
const facts = recordOf(word);
const seconds = v.pipe(number, v.minValue(0, 'is below zero'));
const placed = {
  at: place,
  /** The live source's own clock when this was taken, s: its place on the strip. */
  t_s: v.optional(number),
  /** Facts that taking this step made true. */
  sets: v.optional(facts),
};

export const started = v.object({
  kind: v.literal('started'),
  family: word,
  familyVersion: number,
  coreVersion: word,
  mode: v.picklist(['work', 'practice'], 'is no mode'),
  site: v.object({
    id: word,
    name: word,
    altitude_m: v.pipe(number, v.minValue(-500, 'is below any site'), v.maxValue(9000, 'is above any site')),
    /** A barometer read on the day: it beats the altitude. Pa absolute. */
    barometer_Pa: v.optional(
      v.pipe(number, v.minValue(30_000, 'is no air'), v.maxValue(120_000, 'is no air')),
    ),
  }),
  control: v.object({ id: word, name: word, equipment: word }),
  technician: word,
  plan: planSchema,
  /** Why the control is worked on: in service, new. */
  occasion: v.optional(word),
  gauges: recordOf(gaugeSchema),
  /** How far each gauge hangs below the point that is meant, m: it reads that much water too high. */
  heads_m: v.optional(recordOf(number)),
  /** Why a gauge past its date, or one that failed its check, was used, by place. */
  gaugeReasons: v.optional(recordOf(prose)),
  rule: v.picklist(['guarded', 'simple'], 'is no rule'),
  priors: recordOf(priorSchema),
  permits: most(word, 100),
  /** The controls that stood beside it, by role, as the register had them when it was started. */
  links: v.optional(
    recordOf(
      v.object({
        control: word,
        name: word,
        values: recordOf(number),
        signed: v.optional(v.object({ at: word, outcome: word, proved: v.boolean() })),
      }),
    ),
  ),
  /** Named on the sheet where readings come from the simulated stand-in. */
  source: v.optional(word),
});

export const planned = v.object({ kind: v.literal('planned'), plan: planSchema, reason: prose });

export const gauge = v.object({
  kind: v.literal('gauge'),
  slot: word,
  gauge: gaugeSchema,
  reason: prose,
  /** How far it hangs below the point that is meant, m. */
  head_m: v.optional(number),
});

export const zero = v.object({
  kind: v.literal('zero'),
  ...placed,
  slot: word,
  before: asTypedSchema,
  after: asTypedSchema,
  handling: v.picklist(['carried', 'adjusted'], 'is no handling'),
});

export const read = v.object({
  kind: v.literal('read'),
  ...placed,
  setting: word,
  slot: word,
  value: asTypedSchema,
  /** The needle was beyond what could be read: the true value lies above or below. */
  bound: v.optional(v.picklist(['above', 'below'], 'is no side')),
  state: v.picklist(['firm', 'caught', 'early', 'typed'], 'is no state of a reading'),
  /** For a turning point after another: seconds since the opposite one, on the source's clock. */
  since_s: v.optional(seconds),
  /** Samples about it, s and raw Pa, at most 200. */
  excerpt: v.optional(most(v.tuple([number, number]), 200)),
  /** The recorded trace that it is a figure of: mean of `n` events, standard doubt `u` in Pa. */
  trace: v.optional(
    v.object({
      id: word,
      name: word,
      n: v.pipe(number, v.minValue(1, 'is none')),
      u: v.pipe(number, v.minValue(0, 'is below zero')),
    }),
  ),
  source: v.optional(v.picklist(['typed', 'simulated', 'live'], 'is no source')),
});

export const observe = v.object({
  kind: v.literal('observe'),
  ...placed,
  answer: word,
  seconds: v.optional(seconds),
  /** Answered before the time to watch was over. */
  early: v.optional(v.boolean('is neither yes nor no')),
  /** A pressure that belongs to the answer, such as where it stalled; raw Pa. */
  value: v.optional(asTypedSchema),
  /** What that pressure says of a setting. */
  bounds: v.optional(v.object({ setting: word, side: v.picklist(['above', 'below'], 'is no side') })),
});

export const turn = v.object({
  kind: v.literal('turn'),
  ...placed,
  adjuster: word,
  /** Signed, in the adjuster's own unit (turns, clicks, shims, or Pa for air); clockwise, in or added is positive. */
  amount: number,
  text: word,
  advised: v.optional(number),
  /** For a movement that sought something: whether it came. */
  reached: v.optional(v.boolean('is neither yes nor no')),
});

export const done = v.object({
  kind: v.literal('done'),
  ...placed,
  count: v.optional(number),
  seconds: v.optional(seconds),
});

export const skip = v.object({ kind: v.literal('skip'), ...placed, reason: prose });

/** The body that takes the original's place is read by its own schema. */
export const correct = v.object({
  kind: v.literal('correct'),
  /** The event corrected; never itself a correction. */
  corrects: word,
  reason: prose,
  body: v.optional(v.record(v.string(), v.unknown())),
});

export const note = v.object({ kind: v.literal('note'), text: prose, at: v.optional(place) });

/** The longest side of a photo as it is kept, pixels. */
export const PHOTO_SIDE = 1600;

/** A photo that was taken: its bytes travel by themselves, and are known by their hash. */
export const photo = v.object({
  kind: v.literal('photo'),
  /** SHA-256 of the bytes, in hexadecimal digits. */
  hash: v.pipe(v.string('is no text'), v.regex(/^[0-9a-f]{64}$/, 'is no SHA-256')),
  width: v.pipe(
    number,
    v.integer('is no whole number'),
    v.minValue(1, 'is none'),
    v.maxValue(PHOTO_SIDE, 'is too wide'),
  ),
  height: v.pipe(
    number,
    v.integer('is no whole number'),
    v.minValue(1, 'is none'),
    v.maxValue(PHOTO_SIDE, 'is too high'),
  ),
  /** What it shows. */
  text: v.pipe(v.string('is no text'), v.maxLength(400, 'is longer than 400 characters')),
  at: v.optional(place),
});

/** This device holds the job from here on. */
export const take = v.object({
  kind: v.literal('take'),
  reason: v.optional(prose),
  /** Who works from here on, and with which permits: stamped by the server from the session. */
  by: v.optional(word),
  permits: v.optional(most(word, 100)),
});

/** Events written by a device that did not hold the job count from here on. */
export const adopt = v.object({ kind: v.literal('adopt'), ids: most(word, 1000) });

/** The job is being left early (or ends without setting): restore steps follow, then sign-off. */
export const leave = v.object({
  kind: v.literal('leave'),
  outcome: v.picklist(
    OUTCOMES.filter((o) => o !== 'set'),
    'is no way to leave a job',
  ),
  reason: prose,
});

export const sign = v.object({
  kind: v.literal('sign'),
  outcome: v.picklist(OUTCOMES, 'is no outcome'),
  by: word,
  coreVersion: word,
  /** The result as judged at that moment; frozen. */
  result: v.unknown(),
});

export const countersign = v.object({ kind: v.literal('countersign'), by: word, text: v.optional(prose) });

/** Every kind of entry, by name. */
export const SCHEMAS = {
  started,
  planned,
  gauge,
  zero,
  read,
  observe,
  turn,
  done,
  skip,
  correct,
  note,
  photo,
  take,
  adopt,
  leave,
  sign,
  countersign,
} as const;

type Of<K extends keyof typeof SCHEMAS> = Frozen<v.InferOutput<(typeof SCHEMAS)[K]>>;

export type Place = Frozen<v.InferOutput<typeof place>>;
export type Phase = (typeof PHASES)[number];
export type Outcome = (typeof OUTCOMES)[number];
export type Facts = Readonly<Record<string, string>>;
export type AsTyped = Frozen<v.InferOutput<typeof asTypedSchema>>;
export type Plan = Frozen<v.InferOutput<typeof planSchema>>;
export type StartedBody = Of<'started'>;
export type PlannedBody = Of<'planned'>;
export type GaugeBody = Of<'gauge'>;
export type ZeroBody = Of<'zero'>;
export type ReadBody = Of<'read'>;
export type ObserveBody = Of<'observe'>;
export type TurnBody = Of<'turn'>;
export type DoneBody = Of<'done'>;
export type SkipBody = Of<'skip'>;
/** A body of the same kind takes the original's place; absent = withdrawn. */
export type CorrectBody = Omit<Of<'correct'>, 'body'> & { readonly body?: JobBody | undefined };
export type NoteBody = Of<'note'>;
export type PhotoBody = Of<'photo'>;
export type TakeBody = Of<'take'>;
export type AdoptBody = Of<'adopt'>;
export type LeaveBody = Of<'leave'>;
export type SignBody = Of<'sign'>;
export type CountersignBody = Of<'countersign'>;

export type JobBody =
  | StartedBody
  | PlannedBody
  | GaugeBody
  | ZeroBody
  | ReadBody
  | ObserveBody
  | TurnBody
  | DoneBody
  | SkipBody
  | CorrectBody
  | NoteBody
  | PhotoBody
  | TakeBody
  | AdoptBody
  | LeaveBody
  | SignBody
  | CountersignBody;

export type JobKind = JobBody['kind'];

/** Entries that stand at a step of the procedure. */
export type PlacedBody = ZeroBody | ReadBody | ObserveBody | TurnBody | DoneBody | SkipBody;

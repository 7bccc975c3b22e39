import * as v from 'valibot';
import type { ReadingState } from '../trace/index.js';
import { SCHEMAS, type CorrectBody, type JobBody, type JobKind } from './schema/bodies.js';

export type * from './schema/bodies.js';
export { OUTCOMES, PHOTO_SIDE } from './schema/bodies.js';
export { gaugeSchema, planSchema, saysItsValue } from './schema/values.js';
export type { ReadingState };

export const JOB_KINDS = Object.keys(SCHEMAS) as readonly JobKind[];

/** Prefix of the keys under which what a step lacks is renewed: taken as often as it lapses. */
export const RENEW = 'renew:';

/** Version of the payloads written by this code. */
export const PAYLOAD_VERSION = 1;

/** One entry of a job's log. Never edited. */
export interface JobEvent<B extends JobBody = JobBody> {
  /** UUIDv7 made on the device. */
  readonly id: string;
  readonly job: string;
  readonly version: number;
  /** The newest event the device knew of. */
  readonly after: string | null;
  readonly device: string;
  readonly author: string;
  /** Device wall time, ISO 8601. */
  readonly wall: string;
  /** Monotonic device time, ms. */
  readonly mono: number;
  readonly body: B;
}

const text = v.pipe(v.string('is no text'), v.minLength(1, 'is empty'), v.maxLength(100, 'is too long'));
const envelope = v.object({
  id: text,
  job: text,
  version: v.pipe(v.number('is no number'), v.integer('is no whole number'), v.minValue(1, 'is none')),
  after: v.nullish(v.string('is no text'), null),
  device: text,
  author: text,
  wall: v.pipe(
    v.string('is no text'),
    v.regex(/^\d{4}-\d{2}-\d{2}T/, 'is no time'),
    v.check((w) => Number.isFinite(Date.parse(w)), 'is no time'),
  ),
  mono: v.pipe(v.number('is no number'), v.finite('is not finite')),
  body: v.object({ kind: v.string('is no text') }),
});

/** Steps from one version of a payload to the next, by kind; the newest code reads every older version through them. */
type Upcast = (body: Readonly<Record<string, unknown>>) => Readonly<Record<string, unknown>>;
const UPCASTS: readonly Readonly<Partial<Record<JobKind, Upcast>>>[] = [];

/** An event read by its schemas, or what about it does not fit. */
export type Parsed =
  | { readonly ok: true; readonly event: JobEvent }
  | { readonly ok: false; readonly event: JobEvent; readonly reason: string };

const known = new WeakMap<object, Parsed>();

/**
 * Reads whatever came as an event: total. What it is not is said in words: `read.value.unit is no unit known here.`
 * The same object is read once.
 */
export function parseEvent(raw: unknown): Parsed {
  if (typeof raw !== 'object' || raw === null) return misread(raw, 'It is no event.');
  const before = known.get(raw);
  if (before) return before;
  const parsed = parseAnew(raw);
  known.set(raw, parsed);
  return parsed;
}

function parseAnew(raw: object): Parsed {
  const outer = v.safeParse(envelope, raw, { abortEarly: true });
  if (!outer.success) return misread(raw, said('event', outer.issues[0]));
  const event = outer.output;
  if (event.version > PAYLOAD_VERSION)
    return misread(
      raw,
      `It was written by a newer version (${event.version}); this one knows ${PAYLOAD_VERSION}.`,
    );
  const body = parseBody((raw as { body: Readonly<Record<string, unknown>> }).body, event.version);
  return body.ok
    ? { ok: true, event: { ...event, body: body.body } }
    : { ok: false, event: raw as JobEvent, reason: body.reason };
}

/** Reads a payload by the schema of its kind, brought up to the newest version first. */
export function parseBody(
  raw: Readonly<Record<string, unknown>>,
  version = PAYLOAD_VERSION,
): { readonly ok: true; readonly body: JobBody } | { readonly ok: false; readonly reason: string } {
  const kind = raw['kind'] as JobKind;
  if (typeof kind !== 'string' || !Object.hasOwn(SCHEMAS, kind))
    return { ok: false, reason: `"${String(kind).slice(0, 40)}" is no kind of event.` };
  let now = raw;
  for (let at = version; at < PAYLOAD_VERSION; at++) now = UPCASTS[at - 1]?.[kind]?.(now) ?? now;
  const read = v.safeParse(SCHEMAS[kind], now, { abortEarly: true });
  if (!read.success) return { ok: false, reason: said(kind, read.issues[0]) };
  if (read.output.kind !== 'correct') return { ok: true, body: read.output };
  const { body: inner, ...rest } = read.output;
  if (inner === undefined) return { ok: true, body: rest satisfies CorrectBody };
  const replaced = inner['kind'] === 'correct' ? undefined : parseBody(inner, version);
  if (!replaced) return { ok: false, reason: 'A correction cannot correct a correction.' };
  return replaced.ok ? { ok: true, body: { ...rest, body: replaced.body } } : replaced;
}

const said = (about: string, issue: v.BaseIssue<unknown>): string => {
  const path = [about, ...(issue.path ?? []).map((p) => String(p.key).slice(0, 40))].join('.');
  return `${path} ${/^(is|has|says) /.test(issue.message) ? issue.message : 'is not what it must be'}.`;
};

const misread = (raw: unknown, reason: string): Parsed => ({
  ok: false,
  event: (typeof raw === 'object' && raw !== null
    ? raw
    : { id: '', body: { kind: String(raw) } }) as JobEvent,
  reason,
});

import { entries, type Entry, type LeaveOutcome, type Reading } from '@firm-needle/core/entries';
import type { Gauge } from '@firm-needle/core/gauge';
import {
  checkOf,
  type AsTyped,
  type Choice,
  type JobEvent,
  type Missing,
  type Outcome,
  type PhotoBody,
  type PlannedBody,
  type ReadStep,
  type WalkItem,
} from '@firm-needle/core/procedure';
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { useMe } from '../../store/me.ts';
import { NotKept, type LogSession } from '../../sync/logSession.ts';
import { jobNow, type HolderKnown, type OpenJob } from '../../sync/useJob.ts';
import type { Family } from '@firm-needle/core/family';
import type { Live } from './useLiveSource.ts';

/** What stands between a press and its entry: shown where the press was made. */
export interface Trouble {
  readonly kind: 'not-kept' | 'moved-on';
  readonly text: string;
}

/** Everything that can be entered into a job, each as one event; resolves to whether it was kept. */
export interface Actions {
  done(item: WalkItem, extra?: { count?: number; seconds?: number }): Promise<boolean>;
  /** Confirmations that one press answers: an entry each, in their order. */
  allDone(items: readonly WalkItem[]): Promise<boolean>;
  renew(missing: Missing, item: WalkItem): Promise<boolean>;
  /** A zero carried as it is, or with what the needle showed once it was set. */
  zero(item: WalkItem, slot: string, before: AsTyped, after: AsTyped | undefined): Promise<boolean>;
  gauge(slot: string, gauge: Gauge, reason: string): Promise<boolean>;
  replan(plan: PlannedBody): Promise<boolean>;
  read(item: WalkItem, step: ReadStep, value: AsTyped, how: ReadHow): Promise<boolean>;
  instead(item: WalkItem, choice: Choice, value?: AsTyped, seconds?: number): Promise<boolean>;
  turn(
    item: WalkItem,
    adjuster: string,
    amount: number,
    text: string,
    advised: number | undefined,
  ): Promise<boolean>;
  /** Turned click by click until something came, or did not; the rig has been turned on the way. */
  sought(item: WalkItem, adjuster: string, amount: number, text: string, reached: boolean): Promise<boolean>;
  skip(item: WalkItem, reason: string): Promise<boolean>;
  note(text: string): Promise<boolean>;
  photo(photo: PhotoEntry): Promise<boolean>;
  leave(outcome: LeaveOutcome, reason: string): Promise<boolean>;
  /** What stands near its limit is left so. */
  leaveNear(item: WalkItem): Promise<boolean>;
  sign(outcome: Outcome, by: string): Promise<boolean>;
  take(): Promise<boolean>;
  /** Let an entry that was set aside count. */
  adopt(id: string): Promise<boolean>;
  /** Withdraw the newest entry of this device. */
  undo(): Promise<boolean>;
  correct(id: string, reason: string, value: AsTyped | undefined): Promise<boolean>;
  readonly trouble: Trouble | undefined;
  dismiss(): void;
  /** The face on screen takes no press: it has just appeared, or one made on it waits to hear who holds the job. */
  readonly settling: boolean;
}

/** A photo that this device keeps, as its entry names it. */
export type PhotoEntry = Omit<PhotoBody, 'kind' | 'at'>;
export type ReadHow = Omit<Reading, 'value' | 'source'>;

const UNDOABLE = new Set(['read', 'zero', 'observe', 'turn', 'done', 'skip', 'planned', 'photo']);

/** The newest entry that a mis-tap could have made. */
export const lastEntry = (job: OpenJob): JobEvent | undefined => {
  const { state } = job.view;
  const gone = new Set([
    ...state.corrections.map((c) => c.original.id),
    ...state.aside.map((a) => a.event.id),
  ]);
  return [...job.session.log.events].reverse().find((e) => UNDOABLE.has(e.body?.kind) && !gone.has(e.id));
};

/** Longer than a second press that was meant for the face before, ms. */
export const SETTLE_MS = 250;

/** What is asked for now, as one text: a press counts only for the face that it was made on. */
export const faceOf = ({ offered, together, view }: Pick<OpenJob, 'offered' | 'view' | 'together'>): string =>
  [
    together.map((i) => i.step.key).join('+') || 'end',
    offered.now?.pass ?? '',
    offered.missing[0]?.fact ?? '',
    offered.permit ?? '',
    view.state.leaving ? 'leaving' : '',
    view.state.signed ? 'signed' : '',
    view.state.holder ?? '',
  ].join(' ');

/** What to say where the job has moved on between the drawing of a face and the press on it. */
function movedOn(was: OpenJob, holder: string | undefined, now: OpenJob): string {
  // The log under a view grows in place: who held the job then is remembered apart.
  if (now.view.state.holder !== holder)
    return 'Another device has taken the job meanwhile. Nothing was entered.';
  const [lacking] = now.offered.missing;
  if (lacking && !was.offered.missing.some((m) => m.fact === lacking.fact))
    return `Nothing was entered: too long has passed, or the clock was set, since it was last sure. First: ${lacking.title.toLowerCase()}.`;
  return 'Nothing was entered: the job went on meanwhile, in another tab or on another device. Look again.';
}

/** How a job stands at this moment, as its screen shows it. */
export type JobAt = (session: LogSession, family: Family) => OpenJob | undefined;

const nobodyAsked: HolderKnown = () => undefined;

/** One entry at a time, only for the face it was made on, kept before the screen moves on; what fails is said and loses nothing. */
export function useActions(
  job: OpenJob,
  live: Live | undefined,
  holderKnown: HolderKnown = nobodyAsked,
  jobAt: JobAt = jobNow,
): Actions {
  const me = useMe();
  const [trouble, setTrouble] = useState<Trouble>();
  const [settling, setSettling] = useState(true);
  const [waiting, setWaiting] = useState(false);
  const busy = useRef(false);
  const left = useRef(false);
  const face = faceOf(job);
  const since = useRef(-Infinity);
  useLayoutEffect(() => {
    since.current = performance.now();
    setSettling(true);
    const timer = setTimeout(() => setSettling(false), SETTLE_MS);
    return () => clearTimeout(timer);
  }, [face]);
  useEffect(() => {
    left.current = false;
    return () => void (left.current = true);
  }, []);
  return useMemo(() => {
    const { session, family, view } = job;
    const { holder } = view.state;
    const time = (): { t_s?: number } => {
      const t_s = live?.session.now()?.t ?? (live?.rig && live.session.time);
      return t_s ? { t_s } : {};
    };
    /** @param onFace it belongs to the face on screen, and must not be entered on another */
    const enter = async (
      make: (at: { t_s?: number }) => Entry | readonly Entry[] | undefined,
      onFace = true,
    ): Promise<boolean> => {
      if (busy.current) return false;
      if (onFace && performance.now() - since.current < SETTLE_MS) return false;
      busy.current = true;
      const at = time();
      try {
        const known = onFace && holderKnown();
        if (known) {
          setWaiting(true);
          await known;
          setWaiting(false);
          if (left.current) return false;
        }
        if (onFace) {
          const now = jobAt(session, family);
          if (!now || faceOf(now) !== face) {
            setTrouble({
              kind: 'moved-on',
              text: now ? movedOn(job, holder, now) : 'The job cannot be read.',
            });
            session.touch();
            return false;
          }
        }
        const made = make(at);
        if (!made) return false;
        const all = [made].flat();
        const [first, ...more] = all.map((e) => e.body);
        if (!first) return false;
        for (const { body } of all) {
          const wrong = checkOf(family)(view.state, body);
          if (wrong !== undefined) throw new NotKept(`${wrong} Nothing was entered.`);
        }
        // The step that follows moves hands of its own: these come before it, a screw once it is in the record.
        for (const { hands } of all)
          for (const [handle, value] of Object.entries(hands)) live?.rig?.set(handle, value);
        await session.append(first, ...more);
        for (const { turned } of all) if (turned) live?.rig?.turn(turned.adjuster, turned.amount);
        setTrouble(undefined);
        return true;
      } catch (error) {
        setTrouble({
          kind: 'not-kept',
          text: error instanceof NotKept ? error.message : 'That could not be entered. Try it again.',
        });
        return false;
      } finally {
        busy.current = false;
      }
    };
    return {
      trouble,
      settling: settling || waiting,
      dismiss: () => setTrouble(undefined),
      done: (item, extra = {}) => enter((at) => entries.done(item, { ...extra, ...at })),
      allDone: (items) => enter((at) => items.map((item) => entries.done(item, at))),
      renew: (missing, item) => enter((at) => entries.renewed(item, missing, at)),
      gauge: (slot, gauge, reason) => enter(() => entries.changedGauge(slot, gauge, reason), false),
      replan: (plan) => enter(() => entries.replanned(plan), false),
      zero: (item, slot, before, after) =>
        enter((at) => {
          const made = entries.zeroed(item, slot, before, after);
          return { ...made, body: { ...made.body, ...at } as typeof made.body };
        }),
      read: (item, step, value, how) =>
        enter((at) =>
          entries.readingOf(item, step, {
            ...at,
            ...how,
            value,
            source: how.state === 'typed' ? 'typed' : live?.rig ? 'simulated' : 'live',
          }),
        ),
      instead: (item, choice, value, seconds) =>
        enter((at) => entries.answered(family, item, choice, { value, seconds, ...at })),
      turn: (item, adjuster, amount, text, advised) =>
        enter((at) => entries.turned(item, { adjuster, amount, text, advised, ...at })),
      sought: (item, adjuster, amount, text, reached) =>
        enter((at) => entries.turned(item, { adjuster, amount, text, reached, ...at })),
      skip: (item, reason) =>
        enter(() => {
          // The dialog stood open meanwhile: it was opened for this step and for no other.
          const now = jobAt(session, family)?.offered.now;
          if (now?.step.key !== item.step.key || now.pass !== item.pass)
            throw new NotKept('The job has left that step meanwhile. Nothing was skipped.');
          return entries.skipped(item, reason);
        }, false),
      note: (text) => enter(() => entries.noted(text), false),
      photo: (photo) => enter(() => entries.photographed(photo, job.offered.now), false),
      leave: (outcome, reason) => enter(() => entries.left(outcome, reason), false),
      leaveNear: (item) => enter(() => entries.leftNear(view, item)),
      sign: (outcome, by) => enter(() => entries.signed(family, view, outcome, by)),
      take: () => enter(() => entries.taken(me.name, me.permits)),
      adopt: (id) => enter(() => ({ body: { kind: 'adopt', ids: [id] }, hands: {} }), false),
      undo: () =>
        enter(() => {
          const last = lastEntry(job);
          return last && entries.withdrawn(last.id, last.body);
        }),
      correct: (id, reason, value) =>
        enter(() => {
          const original = session.log.events.find((e) => e.id === id);
          return original && entries.corrected(id, original.body, reason, value);
        }, false),
    };
  }, [job, live, face, me, trouble, settling, waiting, holderKnown, jobAt]);
}

import type { Family } from '@firm-needle/core/family';
import { together } from '@firm-needle/core/entries';
import {
  checkOf,
  FoldedJob,
  offer,
  type JobEvent,
  type Offer,
  type WalkItem,
} from '@firm-needle/core/procedure';
import { loadFamily } from '@firm-needle/families';
import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { useLoaded } from '../ui/useLoaded.ts';
import { deviceId } from './db.ts';
import { JobSession } from './jobSession.ts';
import type { LogSession } from './logSession.ts';

/** A job as the screens need it: its session, family, view and what is offered next. */
export interface OpenJob {
  readonly session: LogSession;
  readonly family: Family;
  readonly view: FoldedJob;
  readonly offered: Offer;
  /** What one press answers: the step at hand, and the confirmations that join it. */
  readonly together: readonly WalkItem[];
  /** The cautions that stand at them. */
  readonly cautions: readonly string[];
}

const RECHECK_MS = 60000;

/** Load a family's procedure and rig; undefined until it is here. @throws to the nearest boundary where it cannot be had */
export const useFamily = (id: string | undefined): Family | undefined =>
  useLoaded(() => loadFamily(id ?? ''), id);

/** A job as it stands at this very moment: its log, its family, and the clock; undefined before it was started. */
export function jobNow(session: LogSession, family: Family): OpenJob | undefined {
  session.judgeBy(checkOf(family));
  const { state } = session.log;
  if (!state.started || state.started.body.family !== family.meta.id) return undefined;
  const view = new FoldedJob(family, state, { wall: new Date().toISOString(), device: deviceId() });
  const offered = offer(family.procedure(view.plan), view);
  return { session, ...openAt(family, session.log.events, view, offered) };
}

/** What the screens are told of what is offered: what one press answers, and the cautions that stand there. */
export function openAt(
  family: Family,
  events: readonly JobEvent[],
  view: FoldedJob,
  offered: Offer,
): Omit<OpenJob, 'session'> {
  const all = together(family, events, view, offered);
  const cautions = [...new Set(all.flatMap((i) => i.step.cautions ?? []))];
  return { family, view, offered, together: all, cautions };
}

/** Open a job on this device. `missing` once everything was asked and the job is not to be had. */
export function useJob(
  jobId: string,
  user: string,
): { job: OpenJob | undefined; missing: boolean; holderKnown: HolderKnown } {
  const session = useMemo(() => new JobSession(jobId, user), [jobId, user]);
  const [asked, setAsked] = useState(false);
  useEffect(() => {
    setAsked(false);
    void session.open().finally(() => setAsked(true));
    return () => session.close();
  }, [session]);
  const job = useOpen(session);
  const holderKnown = useAskOnReturn(session);
  return { job, holderKnown, missing: asked && session.log.state.started === undefined };
}

/** What is open of a log, as the screens need it; undefined until its family is here. */
export function useOpen(session: LogSession): OpenJob | undefined {
  const [minute, setMinute] = useState(0);
  useEffect(() => {
    // Facts lapse with time: ask again now and then what is offered.
    const t = setInterval(() => setMinute((m) => m + 1), RECHECK_MS);
    return () => clearInterval(t);
  }, [session]);
  const revision = useSyncExternalStore(session.subscribe, session.getRevision);
  const family = useFamily(session.log.state.started?.body.family);
  return useMemo(
    () => family && jobNow(session, family),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- revision and minute stand for what the log holds
    [session, family, revision, minute],
  );
}

/** Longest that a press waits to hear who holds the job, ms: without a signal the work goes on. */
export const LONGEST_ASK_MS = 3000;

/** Resolves once it is known who holds the job; undefined where nobody is being asked. */
export type HolderKnown = () => Promise<void> | undefined;

/**
 * Asks who holds the job when this page is looked at again or the signal is back. Nothing is drawn anew for it: the press that
 * brought the page back may be the very one that is meant, and it waits for the answer.
 */
function useAskOnReturn(session: JobSession): HolderKnown {
  const asked = useRef<Promise<void>>(undefined);
  useEffect(() => {
    asked.current = undefined;
    const back = (): void => {
      if (document.hidden || !navigator.onLine || !session.loaded) return;
      const answer = session.ask().then(nothing, nothing);
      const known = Promise.race([answer, new Promise<void>((r) => setTimeout(r, LONGEST_ASK_MS))]);
      asked.current = known;
      void known.then(() => {
        if (asked.current === known) asked.current = undefined;
      });
    };
    addEventListener('focus', back);
    addEventListener('online', back);
    document.addEventListener('visibilitychange', back);
    return () => {
      removeEventListener('focus', back);
      removeEventListener('online', back);
      document.removeEventListener('visibilitychange', back);
    };
  }, [session]);
  return useCallback(() => asked.current, []);
}

const nothing = (): void => undefined;

import type { Family } from '@firm-needle/core/family';
import { JobView, offer, type Offer } from '@firm-needle/core/procedure';
import { loadFamily } from '@firm-needle/families';
import { useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import { deviceId } from './db.ts';
import { JobSession } from './jobSession.ts';

/** A job as the screens need it: its session, family, view and what is offered next. */
export interface OpenJob {
  readonly session: JobSession;
  readonly family: Family;
  readonly view: JobView;
  readonly offered: Offer;
}

const RECHECK_MS = 60000;

/** Load a family's procedure and rig; undefined until it is here. */
export function useFamily(id: string | undefined): Family | undefined {
  const [family, setFamily] = useState<Family>();
  useEffect(() => {
    let wanted = true;
    setFamily(undefined);
    if (id)
      void loadFamily(id).then(
        (f) => wanted && setFamily(f),
        () => undefined,
      );
    return () => {
      wanted = false;
    };
  }, [id]);
  return family;
}

/** Open a job on this device. `missing` once everything was asked and the job is not to be had. */
export function useJob(jobId: string, user: string): { job: OpenJob | undefined; missing: boolean } {
  const session = useMemo(() => new JobSession(jobId, user), [jobId, user]);
  const [asked, setAsked] = useState(false);
  const [minute, setMinute] = useState(0);
  useEffect(() => {
    setAsked(false);
    void session.open().finally(() => setAsked(true));
    // Facts lapse with time: ask again now and then what is offered.
    const t = setInterval(() => setMinute((m) => m + 1), RECHECK_MS);
    return () => {
      clearInterval(t);
      session.close();
    };
  }, [session]);
  const revision = useSyncExternalStore(session.subscribe, session.getRevision);
  const familyId = session.log.state.started?.body.family;
  const family = useFamily(familyId);
  const job = useMemo(() => {
    if (!family || !session.log.state.started) return undefined;
    const view = new JobView(family, session.log.state, {
      wall: new Date().toISOString(),
      device: deviceId(),
    });
    return { session, family, view, offered: offer(family.procedure(view.plan), view) };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- revision and minute stand for what the log holds
  }, [session, family, revision, minute]);
  return { job, missing: asked && familyId === undefined };
}

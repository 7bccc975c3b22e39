import { ambientOf, seedOf, type Family, type JobView } from '@firm-needle/core';
import { useEffect, useState } from 'react';
import { useControlQuery } from '../../store/api.ts';
import { LiveSession } from '../../live/liveSession.ts';
import { RigSource } from '../../live/rigSource.ts';
import type { WorkableSource } from '../../live/source.ts';

export interface Live {
  readonly session: LiveSession;
  readonly rig: WorkableSource;
}

/** The simulated rig of a job that was started on one; undefined for jobs whose readings are typed. */
export function useRig(family: Family | undefined, job: JobView | undefined): Live | undefined {
  const started = job?.started;
  const simulated = started?.source === 'simulated rig';
  const control = useControlQuery(started?.control.id ?? '', { skip: !simulated || !started });
  const found = control.data;
  const device = found?.device;
  const [live, setLive] = useState<Live>();
  const id = job?.state.job;
  const signed = job?.state.signed !== undefined;
  useEffect(() => {
    if (!family || !id || !started || !simulated || !found || signed) return;
    let wanted = true;
    let opened: LiveSession | undefined;
    const ambient = ambientOf(started.site);
    const setup = {
      family: family.meta.id,
      plan: started.plan,
      seed: device?.rig?.seed ?? seedOf(id),
      device: seedOf(device?.id ?? found.id),
      ambient: ambient.ok ? ambient.value : 101325,
      faults: device?.rig?.faults ?? [],
    };
    void RigSource.open(id, setup).then(({ source, trace, fresh }) => {
      if (!wanted) return source.close();
      catchUp(source, family, job, fresh);
      opened = new LiveSession(source, trace);
      setLive({ session: opened, rig: source });
      // For tests and the impatient: the rig's clock can be stepped from the console.
      Object.assign(window, { firmNeedleRig: source });
    });
    return () => {
      wanted = false;
      opened?.close();
      setLive(undefined);
    };
    // The rig is opened once a job; what the log says later reaches it through the hands.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [family, id, simulated, found?.id, signed]);
  return live;
}

/**
 * Brings the rig to where the log left the installation: a job begun on another device has its screws turned and its tank
 * emptied; one that was reloaded has its valves where the last confirmed step put them.
 */
function catchUp(rig: WorkableSource, family: Family, job: JobView, fresh: boolean): void {
  if (fresh) for (const t of job.state.turns) rig.turn(t.body.adjuster, t.body.amount);
  for (const [fact, value] of job.state.facts)
    for (const [handle, position] of Object.entries(family.facts[fact]?.[value]?.hands ?? {}))
      rig.set(handle, position);
  if (fresh && job.state.order > 1) void rig.advance(CATCH_UP_S);
}

const CATCH_UP_S = 180;

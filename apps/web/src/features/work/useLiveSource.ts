import type { Family } from '@firm-needle/core/family';
import { slotsOf, type JobView } from '@firm-needle/core/procedure';
import { deviceSeed, ONE_SHELF, seedOf } from '@firm-needle/core/rig';
import { traceKindOf } from '@firm-needle/families';
import { useEffect, useState } from 'react';
import { useControlQuery } from '../../store/api.ts';
import { keepTrace, keptTrace } from '../../live/keptTrace.ts';
import { LiveSession } from '../../live/liveSession.ts';
import { RigSource } from '../../live/rigSource.ts';
import { SerialSource, type BytePort } from '../../live/serialSource.ts';
import { SimulatedGauge } from '../../live/simulatedGauge.ts';
import { SOURCES, type WorkableSource } from '../../live/source.ts';
import { ambientOn } from './ambient.ts';

export interface Live {
  readonly session: LiveSession;
  /** The installation's own handles, where it is simulated. */
  readonly rig?: WorkableSource;
}

/**
 * The live source that a job was started on; undefined for jobs whose readings are typed, and until a serial gauge is connected.
 * @param port of a serial gauge, once somebody has chosen it
 */
export function useLiveSource(
  family: Family | undefined,
  job: JobView | undefined,
  port: BytePort | undefined,
): Live | undefined {
  const started = job?.started;
  const simulated = started?.source === SOURCES.rig || started?.source === SOURCES.simulatedGauge;
  const control = useControlQuery(started?.control.id ?? '', { skip: !simulated || !started });
  const found = control.data;
  const device = found?.device;
  const [live, setLive] = useState<Live>();
  const id = job?.state.job;
  const signed = job?.state.signed !== undefined;
  useEffect(() => {
    if (!family || !started || !port || signed) return;
    const source = serialOf(family, job, port);
    if (!source || !id) return;
    let wanted = true;
    let end: (() => void) | undefined;
    void keptTrace(id).then((kept) => {
      if (!wanted) return;
      const session = new LiveSession(source, kept, traceKindOf(family.meta.id), ambientOn(job));
      const stop = keepTrace(id, session, source.slots);
      end = () => {
        stop();
        session.close();
      };
      setLive({ session });
    });
    return () => {
      wanted = false;
      if (end) end();
      else source.close();
      setLive(undefined);
    };
    // A port is opened once; the job's log does not change it.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [family, id, port, signed]);
  useEffect(() => {
    if (!family || !id || !started || !simulated || !found || signed) return;
    let wanted = true;
    let opened: LiveSession | undefined;
    const ambient = ambientOn(job);
    const setup = {
      family: family.meta.id,
      plan: started.plan,
      seed: device?.rig?.seed ?? seedOf(id),
      device: deviceSeed(device ?? found),
      ambient,
      faults: device?.rig?.faults ?? [],
      gauges: started.gauges,
      shelf: ONE_SHELF,
    };
    void RigSource.open(id, setup).then(({ source, trace, fresh }) => {
      if (!wanted) return source.close();
      catchUp(source, family, job, fresh);
      const gauge =
        started.source === SOURCES.simulatedGauge
          ? serialOf(family, job, new SimulatedGauge(source, family, job), true)
          : undefined;
      const kept = gauge ? trace.filter(([slot]) => gauge.slots.includes(slot)) : trace;
      opened = new LiveSession(gauge ?? source, kept, traceKindOf(family.meta.id), ambient);
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

/** A serial gauge stands in the job's first place: its lines are read as that gauge's. */
function serialOf(family: Family, job: JobView, port: BytePort, timed = false): SerialSource | undefined {
  const slot = slotsOf(family, job.plan)[0]?.id;
  const gauge = slot === undefined ? undefined : job.gauge(slot);
  if (slot === undefined || !gauge) return undefined;
  return new SerialSource(timed ? SOURCES.simulatedGauge : SOURCES.serial, port, slot, {
    unit: gauge.unit,
    ambient: ambientOn(job),
    timed,
  });
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

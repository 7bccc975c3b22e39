import { deviceDb } from '../sync/db.ts';
import type { LiveSession } from './liveSession.ts';

type Kept = readonly (readonly [slot: string, t: number, p: number])[];

const SAVE_MS = 1500;
/** Samples kept: enough for the strip after a reload. */
const MOST = 4000;

/** What a real gauge showed of this job before a reload. */
export const keptTrace = async (job: string): Promise<Kept> =>
  (await (await deviceDb()).get('rigs', job))?.trace ?? [];

/** Keeps the newest samples of a gauge on this device, at least every two seconds. @returns what ends it, after a last save */
export function keepTrace(job: string, session: LiveSession, slots: readonly string[]): () => void {
  let saved = 0;
  const save = async (): Promise<void> => {
    if (session.time === saved) return;
    saved = session.time;
    const trace = slots.flatMap((slot) => {
      const ring = session.ring(slot);
      const from = Math.max(0, ring.length - MOST);
      return Array.from({ length: ring.length - from }, (_, i) => {
        const s = ring.at(from + i);
        return [slot, s?.t ?? 0, s?.p ?? 0] as const;
      });
    });
    await (await deviceDb()).put('rigs', { job, snapshot: undefined, time: Date.now(), trace });
  };
  const timer = setInterval(() => void save(), SAVE_MS);
  return () => {
    clearInterval(timer);
    void save();
  };
}

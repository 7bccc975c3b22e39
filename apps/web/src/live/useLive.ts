import { useEffect, useReducer } from 'react';
import type { LiveNow, LiveSession } from './liveSession.ts';

/** The live reading, at most every `every_ms`; undefined without a live source. */
export function useLive(live: LiveSession | undefined, every_ms = 120): LiveNow | undefined {
  const [, again] = useReducer((n: number) => n + 1, 0);
  useEffect(() => {
    if (!live) return;
    let due = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const stop = live.subscribe(() => {
      if (due) return;
      due = true;
      timer = setTimeout(() => {
        due = false;
        again();
      }, every_ms);
    });
    return () => {
      stop();
      clearTimeout(timer);
    };
  }, [live, every_ms]);
  return live?.now();
}

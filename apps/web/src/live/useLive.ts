import { useEffect, useReducer, useRef } from 'react';
import type { LiveNow, LiveSession } from './liveSession.ts';

/**
 * The live reading, looked at most every `every_ms`; undefined without a live source.
 *
 * @param shows what is drawn of it, as text: it is drawn anew only where that changed. Without it, at every look.
 */
export function useLive(
  live: LiveSession | undefined,
  every_ms = 120,
  shows?: (now: LiveNow | undefined) => string,
): LiveNow | undefined {
  const [, again] = useReducer((n: number) => n + 1, 0);
  const shown = useRef({ text: '', shows });
  shown.current = { text: shows?.(live?.now()) ?? '', shows };
  useEffect(() => {
    if (!live) return;
    let due = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const stop = live.subscribe(() => {
      if (due) return;
      due = true;
      timer = setTimeout(() => {
        due = false;
        const { text, shows: say } = shown.current;
        if (!say || say(live.now()) !== text) again();
      }, every_ms);
    });
    return () => {
      stop();
      clearTimeout(timer);
    };
  }, [live, every_ms]);
  return live?.now();
}

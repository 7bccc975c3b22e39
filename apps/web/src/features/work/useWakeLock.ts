import { useEffect } from 'react';

/** Keeps the screen on while a job is open; quietly does nothing where the browser cannot. */
export function useWakeLock(): void {
  useEffect(() => {
    let lock: WakeLockSentinel | undefined;
    let open = true;
    const ask = (): void => {
      if (document.hidden || !('wakeLock' in navigator)) return;
      navigator.wakeLock.request('screen').then(
        (l) => {
          if (open) lock = l;
          else void l.release();
        },
        () => undefined,
      );
    };
    ask();
    document.addEventListener('visibilitychange', ask);
    return () => {
      open = false;
      document.removeEventListener('visibilitychange', ask);
      void lock?.release();
    };
  }, []);
}

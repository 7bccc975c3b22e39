import { useLayoutEffect, useRef } from 'react';
import { inLayer, onControl, typing } from './keys.ts';

/** Keys of the face on screen: pressed outside fields and dialogs. Names as `KeyboardEvent.key`, letters in lower case. */
export function useKeys(keys: Readonly<Record<string, (() => void) | undefined>>): void {
  const latest = useRef(keys);
  latest.current = keys;
  // Before the first paint: a key pressed on a face that is seen must not be lost.
  useLayoutEffect(() => {
    const pressed = (e: KeyboardEvent): void => {
      // A key that is held down was pressed once.
      if (
        e.repeat ||
        e.defaultPrevented ||
        typing(e) ||
        e.ctrlKey ||
        e.metaKey ||
        e.altKey ||
        inLayer(e.target)
      )
        return;
      // Enter and Space belong to the button or link that has the focus.
      if ((e.key === 'Enter' || e.key === ' ') && onControl(e.target)) return;
      const act = latest.current[e.key.length === 1 ? e.key.toLowerCase() : e.key];
      if (!act) return;
      e.preventDefault();
      act();
    };
    addEventListener('keydown', pressed);
    return () => removeEventListener('keydown', pressed);
  }, []);
}

/** Enter or Space held down on a button is one press of it: the browser would click it over and over. */
export function useNoRepeat(): void {
  useLayoutEffect(() => {
    const held = (e: KeyboardEvent): void => {
      if (!e.repeat || typing(e) || (e.key !== 'Enter' && e.key !== ' ')) return;
      e.preventDefault();
      e.stopPropagation();
    };
    addEventListener('keydown', held, true);
    return () => removeEventListener('keydown', held, true);
  }, []);
}

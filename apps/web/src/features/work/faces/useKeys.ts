import { useLayoutEffect, useRef } from 'react';
import { typing } from '../../../ui/Shortcuts.tsx';

/** Whether a dialog or menu has the keys; one that is only fading out has given them back. */
const inLayer = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest('[role=dialog],[role=menu],[role=listbox]') !== null;

const onControl = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest('button,a,[role=button],[role=slider]') !== null;

/** Keys of the face on screen: pressed outside fields and dialogs. Names as `KeyboardEvent.key`, letters in lower case. */
export function useKeys(keys: Readonly<Record<string, (() => void) | undefined>>): void {
  const latest = useRef(keys);
  latest.current = keys;
  // Before the first paint: a key pressed on a face that is seen must not be lost.
  useLayoutEffect(() => {
    const pressed = (e: KeyboardEvent): void => {
      if (typing(e) || e.ctrlKey || e.metaKey || e.altKey || inLayer(e.target)) return;
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

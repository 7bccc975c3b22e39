import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { lazy, Suspense, useLayoutEffect } from 'react';
import { useAppDispatch, useAppSelector } from '../store/index.ts';
import { findShown, shortcutsShown } from '../store/ui.ts';
import { inLayer, typing } from './keys.ts';

const Find = lazy(async () => ({ default: (await import('./Find.tsx')).Find }));

const KEYS: readonly (readonly [string, string])[] = [
  ['Space', 'take the reading'],
  ['T', 'the turn was made as advised'],
  ['Enter', 'done'],
  ['I', 'what the step lacks was made true'],
  ['S', 'start the job; sign it'],
  ['A to H', 'the answer with that letter'],
  ['Z', 'take the zero'],
  ['K', 'type a reading'],
  ['U', 'undo the last entry'],
  ['/', 'find anything: a site, a control, a serial, a finding'],
  ['?', 'this list'],
  ['Esc', 'back'],
];

/** The list of keys, and the keys that work everywhere. */
export function Shortcuts() {
  const open = useAppSelector((s) => s.ui.shortcuts);
  const dispatch = useAppDispatch();
  const find = useAppSelector((s) => s.ui.find);
  useLayoutEffect(() => {
    const pressed = (e: KeyboardEvent): void => {
      if (
        e.repeat ||
        e.defaultPrevented ||
        typing(e) ||
        inLayer(e.target) ||
        e.ctrlKey ||
        e.metaKey ||
        e.altKey
      )
        return;
      if (e.key === '?') dispatch(shortcutsShown(true));
      else if (e.key === '/') {
        e.preventDefault();
        dispatch(findShown(true));
      }
    };
    addEventListener('keydown', pressed);
    return () => removeEventListener('keydown', pressed);
  }, [dispatch]);
  return (
    <>
      {find && (
        <Suspense fallback={null}>
          <Find onClose={() => dispatch(findShown(false))} />
        </Suspense>
      )}
      <Dialog open={open} onClose={() => dispatch(shortcutsShown(false))}>
        <DialogTitle>Keys</DialogTitle>
        <DialogContent>
          <dl className="keys">
            {KEYS.map(([key, what]) => (
              <div key={key}>
                <dt>
                  <kbd>{key}</kbd>
                </dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
        </DialogContent>
      </Dialog>
    </>
  );
}

/** Whether a key goes into a field. */
export const typing = (e: Event): boolean =>
  e.target instanceof HTMLElement &&
  (e.target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(e.target.tagName));

/** Whether a dialog or menu has the keys; one that is only fading out has given them back. */
export const inLayer = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest('[role=dialog],[role=menu],[role=listbox]') !== null;

/** Whether a button or link has the focus: Enter and Space belong to it. */
export const onControl = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest('button,a,[role=button],[role=slider]') !== null;

/** The key of an answer: a letter, since figures are typed into the faces before and after. */
export const letter = (i: number): string => 'ABCDEFGH'[i] ?? '';

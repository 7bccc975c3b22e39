import type { Actor } from '../common/user.js';

/**
 * Who a session belongs to is asked with every request, and many come at once: for so long an answer is believed. What this server changes of people
 * and sessions is forgotten at once; what another server on the same database changes counts here after that time.
 */
const BELIEVED_MS = 1000;
const MOST = 2000;

interface Remembered {
  readonly actor: Actor;
  readonly until: number;
}

const actors = new Map<string, Remembered>();
let changes = 0;

/** How often something was forgotten: an answer that was asked for before that is not remembered after it. */
export const changesSoFar = (): number => changes;

export function remembered(tokenHash: string): Actor | undefined {
  const known = actors.get(tokenHash);
  return known && known.until > Date.now() ? known.actor : undefined;
}

/** @param asked the changes so far when it was asked for */
export function remember(tokenHash: string, actor: Actor, asked: number): void {
  if (asked !== changes) return;
  if (actors.size >= MOST) actors.clear();
  actors.set(tokenHash, { actor, until: Date.now() + BELIEVED_MS });
}

/** Something of people or sessions has changed. */
export function forgetActors(): void {
  changes += 1;
  actors.clear();
}

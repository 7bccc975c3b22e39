import { families } from '@firm-needle/families';

/** What a kind of control is called. */
export const kindTitle = (id: string): string => families().find((f) => f.id === id)?.title ?? id;

/** A time on the installation's clock: `3:07`. */
export const clock = (t: number): string =>
  `${Math.floor(t / 60)}:${String(Math.floor(t % 60)).padStart(2, '0')}`;

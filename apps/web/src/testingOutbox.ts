// Shared by the web's tests of what is kept and sent: an entry, and a server's word that it took them.
import type { JobBody, JobEvent } from '@firm-needle/core/procedure';

/** An entry of a job as a device keeps it; a note by default. */
export const eventOf = (id: string, job = 'j', body: JobBody = { kind: 'note', text: id }): JobEvent => ({
  id,
  job,
  version: 1,
  after: null,
  device: 'd',
  author: 'u',
  wall: '2030-01-01T08:00:00Z',
  mono: 0,
  body,
});

/** Every entry of what was sent got its place. */
export const took = (sent: unknown) => ({
  accepted: (sent as { events: JobEvent[] }).events.map(({ id }, i) => ({ id, seq: i + 1 })),
});

import type { JobEvent } from '@firm-needle/core/procedure';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { Problem } from '../store/types.ts';

/** An event as this device keeps it. `local` is the order it came here in; `seq` the server's place, once it has one. */
export interface KeptEvent {
  readonly local?: number;
  readonly id: string;
  readonly job: string;
  readonly user: string;
  readonly seq: number | null;
  readonly sent: 0 | 1;
  readonly event: JobEvent;
  readonly refused?: Problem;
}

/** A request that creates something under an id of ours; sent before the events that need it. */
export interface KeptPut {
  readonly path: string;
  readonly user: string;
  readonly body: unknown;
  readonly refused?: Problem;
}

/** The simulated installation of a job, so that it goes on after a reload. */
export interface KeptRig {
  readonly job: string;
  readonly snapshot: unknown;
  readonly time: number;
  readonly trace: readonly (readonly [slot: string, t: number, p: number])[];
}

interface Schema extends DBSchema {
  events: { key: number; value: KeptEvent; indexes: { id: string; job: string; sent: [string, number] } };
  puts: { key: string; value: KeptPut };
  rigs: { key: string; value: KeptRig };
}

let opened: Promise<IDBPDatabase<Schema>> | undefined;

/** This device's own store. */
export function deviceDb(): Promise<IDBPDatabase<Schema>> {
  opened ??= openDB<Schema>('firm-needle', 1, {
    upgrade(db) {
      const events = db.createObjectStore('events', { keyPath: 'local', autoIncrement: true });
      events.createIndex('id', 'id', { unique: true });
      events.createIndex('job', 'job');
      events.createIndex('sent', ['user', 'sent']);
      db.createObjectStore('puts', { keyPath: 'path' });
      db.createObjectStore('rigs', { keyPath: 'job' });
    },
  });
  return opened;
}

const DEVICE = 'firm-needle-device';

/** The name this device writes into its events; made once. */
export function deviceId(): string {
  let id = localStorage.getItem(DEVICE);
  if (!id) localStorage.setItem(DEVICE, (id = crypto.randomUUID()));
  return id;
}

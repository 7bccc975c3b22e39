import type { Deed, RunRecord } from '@firm-needle/core/practice';
import type { JobEvent } from '@firm-needle/core/procedure';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { Problem } from '@firm-needle/contract';

/** An event as this device keeps it. `local` is the order it came here in; `seq` the server's place, once it has one. */
export interface KeptEvent {
  readonly local?: number;
  readonly id: string;
  readonly job: string;
  readonly user: string;
  readonly seq: number | null;
  readonly sent: 0 | 1;
  readonly event: JobEvent;
  /** Why the server did not take it; everything of its job that came later waits behind it. */
  readonly refused?: Problem;
}

/** A request that creates something under an id of ours; sent in the order it was made, before the events that need it. */
export interface KeptPut {
  readonly path: string;
  readonly user: string;
  readonly body: unknown;
  /** Its place in the order of this device; absent on those kept by an older program, which come first. */
  readonly order?: number;
  readonly refused?: Problem;
}

/** The simulated installation of a job, so that it goes on after a reload. */
export interface KeptRig {
  readonly job: string;
  readonly snapshot: unknown;
  readonly time: number;
  readonly trace: readonly (readonly [slot: string, t: number, p: number])[];
  /** What hands did to it, in practice. */
  readonly deeds?: readonly Deed[];
}

/** A run of practice: apart from all jobs, and kept whole. */
export interface KeptRun {
  readonly id: string;
  readonly user: string;
  readonly record: RunRecord;
  /** What one was told. */
  readonly story: readonly string[];
  readonly sent: 0 | 1;
  readonly refused?: Problem;
}

/** A photo's bytes by their hash; the ones that were sent stay while there is room. */
export interface KeptBlob {
  readonly hash: string;
  readonly user: string;
  readonly data: Blob;
  readonly sent: 0 | 1;
  readonly time: number;
  readonly refused?: Problem;
}

interface Schema extends DBSchema {
  blobs: { key: string; value: KeptBlob };
  events: { key: number; value: KeptEvent; indexes: { id: string; job: string; sent: [string, number] } };
  puts: { key: string; value: KeptPut };
  rigs: { key: string; value: KeptRig };
  practice: { key: string; value: KeptRun };
  meta: { key: string; value: string };
}

export type DeviceDb = IDBPDatabase<Schema>;

let lastOrder = 0;

/** A place after every one that was given out before, on this device and since it was last opened. */
export const nextOrder = (): number => (lastOrder = Math.max(lastOrder + 1, Date.now() * 1000));

/** As they were made: what is kept first is what the others stand on. */
export const inOrderMade = (puts: readonly KeptPut[]): readonly KeptPut[] =>
  [...puts].sort((a, b) => (a.order ?? 0) - (b.order ?? 0) || a.path.localeCompare(b.path));

let opened: Promise<DeviceDb> | undefined;

/** This device's own store; opened anew after it was lost. */
export function deviceDb(): Promise<DeviceDb> {
  opened ??= openDB<Schema>('firm-needle', 4, {
    upgrade(db, from) {
      if (from < 1) {
        const events = db.createObjectStore('events', { keyPath: 'local', autoIncrement: true });
        events.createIndex('id', 'id', { unique: true });
        events.createIndex('job', 'job');
        events.createIndex('sent', ['user', 'sent']);
        db.createObjectStore('puts', { keyPath: 'path' });
        db.createObjectStore('rigs', { keyPath: 'job' });
      }
      if (from < 2) db.createObjectStore('meta');
      if (from < 3) db.createObjectStore('blobs', { keyPath: 'hash' });
      if (from < 4) db.createObjectStore('practice', { keyPath: 'id' });
    },
    // A newer tab wants to bring the store up to date: this one lets go, and opens it again when it is asked.
    blocking(_, __, event) {
      forget();
      (event.target as IDBDatabase | null)?.close();
    },
    terminated: forget,
  }).catch((error: unknown) => {
    forget();
    throw error;
  });
  return opened;
}

function forget(): void {
  opened = undefined;
}

/** Work on the store; once more with a new connection where the old one was lost meanwhile. */
export async function withDb<T>(work: (db: DeviceDb) => Promise<T>): Promise<T> {
  try {
    return await work(await deviceDb());
  } catch (error) {
    const lost = error instanceof DOMException && /InvalidState|Unknown|Abort|NotFound/.test(error.name);
    if (!lost) throw error;
    const before = opened;
    forget();
    await before?.then(
      (db) => db.close(),
      () => undefined,
    );
    return work(await deviceDb());
  }
}

const DEVICE = 'firm-needle-device';
let device: string | undefined;

/**
 * Reads the name of this device, or makes it: kept where the events are kept, so that a device killed in its first seconds is still
 * the one that wrote them.
 */
export async function loadDevice(): Promise<void> {
  const known = localStorage.getItem(DEVICE) ?? undefined;
  try {
    const kept = await withDb((db) => db.get('meta', 'device'));
    device = kept ?? known ?? crypto.randomUUID();
    const name = device;
    if (!kept)
      await withDb(async (db) => {
        const tx = db.transaction('meta', 'readwrite', { durability: 'strict' });
        await tx.store.put(name, 'device');
        await tx.done;
      });
  } catch {
    device = known ?? crypto.randomUUID();
  }
  localStorage.setItem(DEVICE, device);
}

/** The name this device writes into its events. */
export function deviceId(): string {
  if (device === undefined) {
    device = localStorage.getItem(DEVICE) ?? crypto.randomUUID();
    localStorage.setItem(DEVICE, device);
  }
  return device;
}

import type { Family, FamilyMeta } from './contract.js';
import { wellSwitchMeta } from '../families/well-switch/meta.js';

interface Entry {
  readonly meta: FamilyMeta;
  readonly load: () => Promise<Family>;
}

/** One line a family: what is listed here exists everywhere. */
const ENTRIES: readonly Entry[] = [
  { meta: wellSwitchMeta, load: async () => (await import('../families/well-switch/index.js')).wellSwitch },
];

/** Every family that exists, without its procedure and rig. */
export const families = (): readonly FamilyMeta[] => ENTRIES.map((e) => e.meta);

/** Whether controls of this family can be opened for a job. */
export const familyExists = (id: string): boolean => ENTRIES.some((e) => e.meta.id === id);

/** The whole family; throws for an id that is not registered. */
export async function loadFamily(id: string): Promise<Family> {
  const entry = ENTRIES.find((e) => e.meta.id === id);
  if (!entry) throw new Error(`No family is called "${id}".`);
  return entry.load();
}

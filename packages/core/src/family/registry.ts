import type { TraceKind } from '../trace/index.js';
import type { Family, FamilyMeta } from './contract.js';
import { fireReliefMeta } from '../families/fire-relief/meta.js';
import { gaugeCheckMeta } from '../families/gauge-check/meta.js';
import { pilotReducingMeta } from '../families/pilot-reducing/meta.js';
import { spaFlowSwitchMeta } from '../families/spa-flow-switch/meta.js';
import { washerUnloaderMeta } from '../families/washer-unloader/meta.js';
import { wellDriveMeta } from '../families/well-drive/meta.js';
import { wellSwitchMeta } from '../families/well-switch/meta.js';

interface Entry {
  readonly meta: FamilyMeta;
  readonly load: () => Promise<Family>;
}

/** One line a family: what is listed here exists everywhere. */
const ENTRIES: readonly Entry[] = [
  { meta: wellSwitchMeta, load: async () => (await import('../families/well-switch/index.js')).wellSwitch },
  { meta: gaugeCheckMeta, load: async () => (await import('../families/gauge-check/index.js')).gaugeCheck },
  {
    meta: spaFlowSwitchMeta,
    load: async () => (await import('../families/spa-flow-switch/index.js')).spaFlowSwitch,
  },
  {
    meta: washerUnloaderMeta,
    load: async () => (await import('../families/washer-unloader/index.js')).washerUnloader,
  },
  {
    meta: pilotReducingMeta,
    load: async () => (await import('../families/pilot-reducing/index.js')).pilotReducing,
  },
  { meta: fireReliefMeta, load: async () => (await import('../families/fire-relief/index.js')).fireRelief },
  { meta: wellDriveMeta, load: async () => (await import('../families/well-drive/index.js')).wellDrive },
];

/** What the traces of a kind of control show. */
export interface Traced {
  readonly id: string;
  readonly title: string;
  readonly kind: TraceKind;
}

/** Every kind of control that gives traces, also those whose controls cannot be opened yet. */
const TRACED: readonly Traced[] = [
  { id: 'well-switch', title: 'Well pump switch', kind: 'cycles' },
  { id: 'well-drive', title: 'Constant-pressure drive', kind: 'cycles' },
  { id: 'steam-control', title: 'Steam boiler control', kind: 'cycles' },
  { id: 'refrigeration-switch', title: 'Refrigeration switch', kind: 'cycles' },
  { id: 'air-supply', title: 'Air supply', kind: 'air' },
  { id: 'pilot-reducing', title: 'Reducing valve', kind: 'levels' },
  { id: 'burner-gas', title: 'Burner gas regulator', kind: 'levels' },
  { id: 'washer-unloader', title: 'Washer unloader', kind: 'unloader' },
  { id: 'fire-relief', title: 'Fire pump relief', kind: 'relief' },
  { id: 'breathing-first-stage', title: 'First stage', kind: 'dips' },
  { id: 'breathing-second-stage', title: 'Second stage', kind: 'cracking' },
];

/** The kind of trace that controls of this family give, or undefined where they give none. */
export const traceKindOf = (id: string): TraceKind | undefined => TRACED.find((t) => t.id === id)?.kind;

/** Every kind of control that gives traces. */
export const tracedFamilies = (): readonly Traced[] => TRACED;

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

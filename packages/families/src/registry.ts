import type { Family, FamilyMeta } from '@firm-needle/core/family';
import type { TraceKind } from '@firm-needle/core/trace';
import { airSupplyMeta } from './air-supply/meta.js';
import { breathingFirstStageMeta } from './breathing-first-stage/meta.js';
import { breathingSecondStageMeta } from './breathing-second-stage/meta.js';
import { burnerGasMeta } from './burner-gas/meta.js';
import { fireReliefMeta } from './fire-relief/meta.js';
import { gaugeCheckMeta } from './gauge-check/meta.js';
import { pilotReducingMeta } from './pilot-reducing/meta.js';
import { refrigerationSwitchMeta } from './refrigeration-switch/meta.js';
import { spaFlowSwitchMeta } from './spa-flow-switch/meta.js';
import { steamControlMeta } from './steam-control/meta.js';
import { washerUnloaderMeta } from './washer-unloader/meta.js';
import { wellDriveMeta } from './well-drive/meta.js';
import { wellSwitchMeta } from './well-switch/meta.js';

interface Entry {
  readonly meta: FamilyMeta;
  readonly load: () => Promise<{ readonly family: Family }>;
}

/** One line a family: what is listed here exists everywhere. */
const ENTRIES: readonly Entry[] = [
  { meta: wellSwitchMeta, load: () => import('./well-switch/index.js') },
  { meta: gaugeCheckMeta, load: () => import('./gauge-check/index.js') },
  { meta: spaFlowSwitchMeta, load: () => import('./spa-flow-switch/index.js') },
  { meta: washerUnloaderMeta, load: () => import('./washer-unloader/index.js') },
  { meta: pilotReducingMeta, load: () => import('./pilot-reducing/index.js') },
  { meta: fireReliefMeta, load: () => import('./fire-relief/index.js') },
  { meta: wellDriveMeta, load: () => import('./well-drive/index.js') },
  { meta: steamControlMeta, load: () => import('./steam-control/index.js') },
  { meta: refrigerationSwitchMeta, load: () => import('./refrigeration-switch/index.js') },
  { meta: airSupplyMeta, load: () => import('./air-supply/index.js') },
  { meta: burnerGasMeta, load: () => import('./burner-gas/index.js') },
  { meta: breathingFirstStageMeta, load: () => import('./breathing-first-stage/index.js') },
  { meta: breathingSecondStageMeta, load: () => import('./breathing-second-stage/index.js') },
];

/** What the traces of a kind of control show. */
export interface Traced {
  readonly id: string;
  readonly title: string;
  readonly kind: TraceKind;
}

const tracedBy = ({ id, title, trace }: FamilyMeta): readonly Traced[] =>
  trace ? [{ id, title: trace.title ?? title, kind: trace.kind }] : [];

/** Every kind of control that gives traces. */
export const tracedFamilies = (): readonly Traced[] => ENTRIES.flatMap((e) => tracedBy(e.meta));

/** The kind of trace that controls of this family give, or undefined where they give none. */
export const traceKindOf = (id: string): TraceKind | undefined =>
  tracedFamilies().find((t) => t.id === id)?.kind;

/** Every family that exists, without its procedure and rig. */
export const families = (): readonly FamilyMeta[] => ENTRIES.map((e) => e.meta);

/** Whether controls of this family can be opened for a job. */
export const familyExists = (id: string): boolean => ENTRIES.some((e) => e.meta.id === id);

/** The whole family; throws for an id that is not registered. */
export async function loadFamily(id: string): Promise<Family> {
  const entry = ENTRIES.find((e) => e.meta.id === id);
  if (!entry) throw new Error(`No family is called "${id}".`);
  return (await entry.load()).family;
}

import type { Family, FamilyMeta } from '@firm-needle/core/family';
import type { Kit } from '@firm-needle/core/script';
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
  /** Installations to practise on. */
  readonly bench: () => Promise<{ readonly kit: Kit }>;
}
const entry = (meta: FamilyMeta, load: Entry['load'], bench: Entry['bench']): Entry => ({
  meta,
  load,
  bench,
});

/** One line a family: what is listed here exists everywhere. */
const ENTRIES: readonly Entry[] = [
  entry(
    wellSwitchMeta,
    () => import('./well-switch/index.js'),
    () => import('./well-switch/kit.js'),
  ),
  entry(
    gaugeCheckMeta,
    () => import('./gauge-check/index.js'),
    () => import('./gauge-check/kit.js'),
  ),
  entry(
    spaFlowSwitchMeta,
    () => import('./spa-flow-switch/index.js'),
    () => import('./spa-flow-switch/kit.js'),
  ),
  entry(
    washerUnloaderMeta,
    () => import('./washer-unloader/index.js'),
    () => import('./washer-unloader/kit.js'),
  ),
  entry(
    pilotReducingMeta,
    () => import('./pilot-reducing/index.js'),
    () => import('./pilot-reducing/kit.js'),
  ),
  entry(
    fireReliefMeta,
    () => import('./fire-relief/index.js'),
    () => import('./fire-relief/kit.js'),
  ),
  entry(
    wellDriveMeta,
    () => import('./well-drive/index.js'),
    () => import('./well-drive/kit.js'),
  ),
  entry(
    steamControlMeta,
    () => import('./steam-control/index.js'),
    () => import('./steam-control/kit.js'),
  ),
  entry(
    refrigerationSwitchMeta,
    () => import('./refrigeration-switch/index.js'),
    () => import('./refrigeration-switch/kit.js'),
  ),
  entry(
    airSupplyMeta,
    () => import('./air-supply/index.js'),
    () => import('./air-supply/kit.js'),
  ),
  entry(
    burnerGasMeta,
    () => import('./burner-gas/index.js'),
    () => import('./burner-gas/kit.js'),
  ),
  entry(
    breathingFirstStageMeta,
    () => import('./breathing-first-stage/index.js'),
    () => import('./breathing-first-stage/kit.js'),
  ),
  entry(
    breathingSecondStageMeta,
    () => import('./breathing-second-stage/index.js'),
    () => import('./breathing-second-stage/kit.js'),
  ),
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

const entryOf = (id: string): Entry => {
  const found = ENTRIES.find((e) => e.meta.id === id);
  if (!found) throw new Error(`No family is called "${id}".`);
  return found;
};

/** The whole family; throws for an id that is not registered. */
export const loadFamily = async (id: string): Promise<Family> => (await entryOf(id).load()).family;

/** The installations of a family that are there to practise on; throws for an id that is not registered. */
export const loadKit = async (id: string): Promise<Kit> => (await entryOf(id).bench()).kit;

import type { Family } from '@firm-needle/core/family';
import { type JobBody, FoldedJob, offer } from '@firm-needle/core/procedure';
import type { Rig } from '@firm-needle/core/rig';
import {
  type ScriptedJob,
  type KitVariant,
  installed,
  rigFor,
  faultsOf,
  ScriptedTechnician,
} from '@firm-needle/core/script';
import { loadFamily } from '../registry.js';
import { HandLog, AMBIENT } from '../testing.js';
import { kitOf } from './kitOf.js';

const keysOf = (job: ScriptedJob): readonly string[] =>
  job.log.events.flatMap(({ body }) => ('at' in body && body.at ? [body.at.key] : []));
export const before = (keys: readonly string[], a: string, b: string): boolean =>
  keys.indexOf(a) >= 0 && keys.indexOf(a) < keys.indexOf(b);
interface Asked {
  readonly fault?: string;
  readonly seed?: number;
  readonly over?: Partial<KitVariant>;
  /** Answers given in place of what the installation shows. */
  readonly says?: Readonly<Record<string, string>>;
}
/** A job worked through, its technician answering some questions otherwise. */
export async function worked(id: string, { fault = 'none', seed = 4, over = {}, says = {} }: Asked) {
  const family = await loadFamily(id);
  const kit = kitOf(id);
  const site = installed(family, kit, { name: 'x', ...kit.variants[0], ...over });
  const rig = rigFor(site, { seed, faults: faultsOf(fault) });
  const answer = rig.answer.bind(rig);
  const told: Rig = Object.assign(rig, { answer: (key: string) => says[key] ?? answer(key) });
  const job = new ScriptedTechnician(family, told, site.started).run();
  return { family, job, keys: keysOf(job), codes: family.findings(job.view).map((f) => f.code) };
}
/** A job told by hand. */
export async function told(id: string, bodies: readonly JobBody[], over: Partial<KitVariant> = {}) {
  const family = await loadFamily(id);
  const kit = kitOf(id);
  const h = new HandLog();
  h.add(installed(family, kit, { name: 'x', ...kit.variants[0], ...over }).started);
  for (const body of bodies) h.add(body);
  const view = new FoldedJob(family, h.log.state);
  return {
    family,
    view,
    codes: family.findings(view).map((f) => f.code),
    lacks: family.unproved(view).map((f) => f.code),
    next: offer(family.procedure(view.plan), view).now?.step.key,
  };
}
export const refusals = (family: Family, over: Partial<KitVariant>, id: string): readonly string[] => {
  const kit = kitOf(id);
  const { plan } = installed(family, kit, { name: 'x', ...kit.variants[0] });
  const asked = {
    ...plan,
    ...(over.school ? { school: over.school } : {}),
    choices: { ...plan.choices, ...over.choices },
  };
  return family
    .check(asked, AMBIENT)
    .filter((f) => f.severity === 'refuse')
    .map((f) => f.code);
};

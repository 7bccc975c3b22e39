// One plausible installation of every kind of control, for the figures: each family's own kit.
import { join } from 'node:path';
import { ROOT } from '../bin/lib/tools.mjs';
import { core } from './parts.mjs';

const built = (path) => import(join(ROOT, 'packages/families/dist', path));
const { installed: install, rigFor, workedOn, faultsOf } = await built('define/kit.js');
export { faultsOf, rigFor, workedOn };
const kits = new Map(
  await Promise.all(core.families().map(async ({ id }) => [id, (await built(`${id}/kit.js`)).kit])),
);

/** Every kit with its variants, by family. */
export const installed = () => [...kits];

/** A family with a plan, a started job and the ambient pressure of one of its installations. */
export async function installation(core, id, variant = kits.get(id).variants[0]) {
  return install(await core.loadFamily(id), kits.get(id), variant);
}

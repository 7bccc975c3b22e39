// What the figures are taken of: the built parts of the core and the registry of families, as one bag of names.
import { join } from 'node:path';
import { ROOT } from '../bin/lib/tools.mjs';

const PARTS = ['advisor', 'family', 'formats', 'gauge', 'history', 'procedure', 'quantity', 'reckon', 'rig'];
const built = (path) => import(join(ROOT, 'packages', path));

export const core = Object.assign(
  {},
  ...(await Promise.all([
    ...[...PARTS, 'script', 'trace', 'verdict'].map((p) => built(`core/dist/${p}/index.js`)),
    built('core/dist/result.js'),
    built('core/dist/version.js'),
    built('families/dist/registry.js'),
  ])),
);

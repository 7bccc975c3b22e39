import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Kit } from '../define/kit.js';

const HERE = join(process.cwd(), 'packages/families/src');

/** Families by their folders. */
export const FOLDERS = readdirSync(HERE).filter((name) => existsSync(join(HERE, name, 'meta.ts')));

/** The kit in a family's folder. */
// eslint-disable-next-line @typescript-eslint/no-require-imports
export const kitOf = (id: string): Kit => (require(`../${id}/kit.ts`) as { kit: Kit }).kit;

import { writeFile } from 'node:fs/promises';
import { no } from '../../answer.js';
import type { Options } from '../../options.js';

/** Writes where an option says, if it does. */
export async function writeTo(o: Options, name: string, text: () => string): Promise<void> {
  const path = o.one(name);
  if (path === undefined) return;
  await writeFile(path, text()).catch((e: unknown) => unwritable(path, `--${name}`, e));
}

export const unwritable = (path: string, where: string, e: unknown): never =>
  no('not-writable', `"${path}" cannot be written: ${e instanceof Error ? e.message : String(e)}.`, {
    where,
    remedy: 'Name a file in a folder that can be written to.',
  });

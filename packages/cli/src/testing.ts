// What the tests of the command line share: a folder of their own, and what was answered.
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { answer } from './index.js';

export const dir = mkdtempSync(join(tmpdir(), 'needle-'));
export const file = (name: string, text: string): string => {
  const path = join(dir, name);
  writeFileSync(path, text);
  return path;
};
export interface Out {
  readonly [key: string]: unknown;
  readonly error?: { readonly code: string; readonly message: string };
}
export const ask = async (...args: string[]): Promise<{ code: number; out: Out }> => {
  const { code, out } = await answer(args);
  return { code, out: out as Out };
};
export const refused = async (...args: string[]): Promise<string | undefined> => {
  const { code, out } = await ask(...args);
  if (code !== 2) throw new Error(`It was not refused: ${JSON.stringify(out).slice(0, 200)}`);
  return out.error?.code;
};

// What is hidden travels as one opaque text: out of sight, and out of what a network panel shows. Whoever debugs the worker finds it.
import { xchacha20poly1305 } from '@noble/ciphers/chacha.js';
import { bytesToHex, bytesToUtf8, hexToBytes, managedNonce, utf8ToBytes } from '@noble/ciphers/utils.js';
import { sha256 } from '@noble/hashes/sha2.js';
import * as v from 'valibot';
import { accept, refuse, type Result } from '../result.js';
import { LEVELS } from './levels.js';
import type { Seed } from './draw.js';

const KEY = sha256(utf8ToBytes('firm-needle practice, version 1'));
const cipher = managedNonce(xchacha20poly1305)(KEY);

const schema = v.object({
  seed: v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(0xffffffff)),
  level: v.picklist(LEVELS.map((l) => l.id)),
  lesson: v.optional(v.pipe(v.string(), v.maxLength(100))),
});

/** What is drawn from, as one opaque text; never twice the same. */
export const sealed = (seed: Seed): string => bytesToHex(cipher.encrypt(utf8ToBytes(JSON.stringify(seed))));

/** Opens it: in the rig's worker, and where a run is judged. */
export function unsealed(text: string): Result<Seed> {
  try {
    const read = v.safeParse(schema, JSON.parse(bytesToUtf8(cipher.decrypt(hexToBytes(text)))));
    if (read.success) {
      const { lesson, ...rest } = read.output;
      return accept(lesson === undefined ? rest : { ...rest, lesson });
    }
  } catch {
    // Said below: it was changed, or is none of ours.
  }
  return refuse('sealed', 'What this run was drawn from cannot be opened: it was changed.', {
    where: 'sealed',
    remedy: 'Begin another run.',
  });
}

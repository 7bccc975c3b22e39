import { createHash, randomBytes } from 'node:crypto';

/** A secret that is told once, and what of it is kept. */
export function newSecret(): { readonly token: string; readonly hash: string } {
  const token = randomBytes(32).toString('base64url');
  return { token, hash: hashOf(token) };
}

/** What is kept of a secret: enough to know it again. */
export const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

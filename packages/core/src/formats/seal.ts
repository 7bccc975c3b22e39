import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import canonicalize from 'canonicalize';

/** What a chain starts from. */
export const CHAIN_START = '0'.repeat(64);

/** Canonical JSON (RFC 8785) of a value: the exact text that is stored and hashed. */
export function canonicalJson(value: unknown): string {
  const text = (canonicalize as unknown as (v: unknown) => string | undefined)(value);
  if (text === undefined) throw new Error('A value with no JSON form cannot be stored.');
  return text;
}

/**
 * The next link of a job's chain: SHA-256 over the previous link and the stored text of the event.
 * @param previous 64 hex digits, `CHAIN_START` for the first event
 */
export const chainLink = (previous: string, storedText: string): string =>
  bytesToHex(sha256(utf8ToBytes(`${previous}\n${storedText}`)));

export interface StoredLink {
  readonly seq: number;
  readonly text: string;
  readonly hash: string;
}

export type ChainCheck =
  | { readonly whole: true; readonly head: string; readonly length: number }
  | { readonly whole: false; readonly at: number; readonly because: string };

/** Walk a chain from its start: finds a changed, missing or reordered row, and says which. */
export function verifyChain(links: readonly StoredLink[]): ChainCheck {
  let head = CHAIN_START;
  let expected = 1;
  for (const link of links) {
    if (link.seq !== expected)
      return { whole: false, at: expected, because: `Event ${expected} is missing.` };
    head = chainLink(head, link.text);
    if (head !== link.hash)
      return { whole: false, at: link.seq, because: `Event ${link.seq} was changed after it was recorded.` };
    expected++;
  }
  return { whole: true, head, length: links.length };
}

/** The seal's fingerprint as printed: four groups of four hex digits. */
export const fingerprint = (head: string): string => (head.slice(0, 16).match(/.{4}/g) ?? []).join(' ');

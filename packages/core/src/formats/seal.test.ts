import { describe, expect, it } from '@jest/globals';
import { canonicalJson, CHAIN_START, chainLink, fingerprint, verifyChain, type StoredLink } from './index.js';
import { nextDue } from '../history/index.js';

function chain(values: readonly unknown[]): StoredLink[] {
  let head = CHAIN_START;
  return values.map((v, i) => {
    const text = canonicalJson(v);
    head = chainLink(head, text);
    return { seq: i + 1, text, hash: head };
  });
}

describe('seal', () => {
  it('orders keys by RFC 8785, whatever order they came in', () => {
    expect(canonicalJson({ b: 1, a: { d: 2, c: 1e21 } })).toBe('{"a":{"c":1e+21,"d":2},"b":1}');
  });

  it('hashes by SHA-256', () => {
    // sha256 of 64 zeros, a line feed and "{}"; printf '%064d\n{}' 0 | sha256sum
    expect(chainLink(CHAIN_START, '{}')).toBe(
      '5649d09ed68c17156095d175eef152856c5b1a81c117c409c1e00f096aa6838e',
    );
  });

  it('finds a changed, a missing and a swapped row, and says which', () => {
    const links = chain([{ p: 1 }, { p: 2 }, { p: 3 }]);
    expect(verifyChain(links)).toMatchObject({ whole: true, length: 3 });
    expect(verifyChain(links.map((l) => (l.seq === 2 ? { ...l, text: '{"p":9}' } : l)))).toMatchObject({
      whole: false,
      at: 2,
    });
    expect(verifyChain(links.filter((l) => l.seq !== 2))).toMatchObject({
      whole: false,
      at: 2,
      because: 'Event 2 is missing.',
    });
    expect(fingerprint(links[2]?.hash ?? '')).toMatch(/^(\w{4} ){3}\w{4}$/);
  });
});

describe('next due', () => {
  it('keeps the day, or the last one of a shorter month', () => {
    expect(nextDue('2030-03-15')).toBe('2031-03-15');
    expect(nextDue('2030-01-31', 1)).toBe('2030-02-28');
  });
});

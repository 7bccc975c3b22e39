import { describe, expect, it } from '@jest/globals';
import * as fc from 'fast-check';
import { tidied, wordsWrong } from './index.js';

const name = { most: 120, needed: true };

describe('a typed text', () => {
  it.each([
    'Mill',
    'مخزن المياه',
    'חדר דוודים',
    '🏭 Works 👨‍👩‍👧',
    "'; DROP TABLE sites; --",
    '<b>x</b>',
    'x'.repeat(120),
  ])('is kept as it is where it can be read: %s', (text) => {
    expect(wordsWrong(tidied(text), name)).toBeUndefined();
  });

  it.each([
    ['', /empty/],
    ['x'.repeat(121), /longer than 120/],
    ['a\u202eb', /cannot be seen/],
    ['a\u0000b', /cannot be seen/],
    ['a\u200bb', /cannot be seen/],
    ['a\nb', /cannot be seen/],
    ['a\u2028b'.replace('\u2028', '\u0085'), /cannot be seen/],
  ])('is refused where it is not what it looks like: %j', (text, told) => {
    expect(wordsWrong(text, name)).toMatch(told);
  });

  it('has lines where it may, and nothing hidden in them', () => {
    expect(wordsWrong('one\r\n\ttwo', { most: 400, lines: true })).toBeUndefined();
    expect(wordsWrong('one\n\u202etwo', { most: 400, lines: true })).toMatch(/cannot be seen/);
    expect(wordsWrong('', { most: 400, lines: true })).toBeUndefined();
  });

  it('tidied twice is tidied once, and never longer for the spaces around it', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) => {
        expect(tidied(tidied(text))).toBe(tidied(text));
      }),
    );
    expect(tidied('  e\u0301  ')).toBe('é');
  });
});

// Lines with words from the right: put into the order in which they are seen [Unicode Standard Annex 9, by bidi-js].
import bidiFactory from 'bidi-js';
import { fromTheRight } from './fonts.js';

const bidi = bidiFactory();

/** A stretch of a line. */
interface Stretch {
  readonly font: string;
  readonly tone: string;
  readonly text: string;
}

/**
 * The stretches of a line as they stand from left to right; the letters of a word from the right are set by whoever draws it.
 * @returns the same stretches where nothing is read from the right
 */
export function inVisualOrder<S extends Stretch>(pieces: readonly S[]): readonly (S | Stretch)[] {
  const text = pieces.map((p) => p.text).join('');
  if (!fromTheRight(text)) return pieces;
  const { levels } = bidi.getEmbeddingLevels(text, 'auto');
  const runs: { font: string; tone: string; text: string; level: number }[] = [];
  let at = 0;
  for (const { font, tone, text: part } of pieces)
    for (const char of part) {
      const level = levels[at] ?? 0;
      at += char.length;
      const last = runs.at(-1);
      // Who draws a stretch sets the letters of a word from the right, but its words from the left: each is one stretch.
      const apart = level % 2 === 1 && (char === ' ' || last?.text === ' ');
      if (!apart && last?.level === level && last.tone === tone && last.font === font) last.text += char;
      else runs.push({ font, tone, text: char, level });
    }
  // Rule L2: from the deepest level up, what stands at least so deep is turned about.
  const deepest = Math.max(...runs.map((r) => r.level));
  for (let level = deepest; level >= 1; level--)
    for (let from = 0; from < runs.length; from++) {
      if ((runs[from]?.level ?? 0) < level) continue;
      let to = from;
      while (to < runs.length && (runs[to]?.level ?? 0) >= level) to++;
      runs.splice(from, to - from, ...runs.slice(from, to).reverse());
      from = to;
    }
  return runs;
}

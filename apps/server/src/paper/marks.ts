import type { VerdictWord } from '@firm-needle/core/verdict';
import { INK, type Paper } from './paper.js';

/** On paper a verdict is known by its shape and its word; its ink is dark enough to be copied. */
export const TONES: Readonly<Record<VerdictWord, string>> = {
  in: '#0f6259',
  near: '#7d5200',
  out: '#7a2456',
};

export const MARK_WIDTH = 14;

/** A filled bar between two ticks, a half-filled bar on a tick, an open bar beyond one. */
export function verdictMark(paper: Paper, word: VerdictWord, x: number, y: number): void {
  const { doc } = paper;
  const tone = TONES[word] ?? INK;
  const k = MARK_WIDTH / 22;
  doc.save().translate(x, y).scale(k).lineWidth(2);
  if (word === 'in') {
    doc.path('M2 1v11M20 1v11').stroke(tone);
    doc.rect(5, 4, 12, 5).fill(tone);
  } else if (word === 'near') {
    doc.path('M11 0v13').stroke(tone);
    doc.rect(4, 4, 14, 5).stroke(tone);
    doc.rect(4, 4, 7, 5).fill(tone);
  } else {
    doc.path('M3 1v11').stroke(tone);
    doc.rect(8, 4, 12, 5).stroke(tone);
  }
  doc.restore();
}

// Paper: text in fonts that have its characters, broken to lines, parted between pages so that nothing runs off one.
import { describe, expect, it } from '@jest/globals';
import { flow, fits, paragraph, stack, type Block } from '../src/paper/blocks.js';
import { inVisualOrder } from '../src/paper/direction.js';
import { runsOf } from '../src/paper/fonts.js';
import { Paper } from '../src/paper/paper.js';

const paper = (): Paper => new Paper({ title: 'T', author: 'A', size: [300, 400], margin: 20 });

/** A block that writes down where it was drawn. */
const spy = (height: number, drawn: { page: number; y: number }[], on: Paper): Block => ({
  height: () => height,
  draw: (_, y) => void drawn.push({ page: on.doc.bufferedPageRange().count, y }),
});

describe('fonts', () => {
  it('keep a text together where one has it all, and take another only for what it lacks', () => {
    expect(runsOf('Cut-in 43 psi', 'text')).toEqual([{ font: 'text', text: 'Cut-in 43 psi' }]);
    expect(runsOf('58 → 62', 'text').map((r) => r.font)).toEqual(['text', 'figures', 'text']);
    expect(runsOf('באר מים', 'text')).toEqual([{ font: 'hebrew', text: 'באר מים' }]);
    expect(runsOf('مضخة', 'bold').map((r) => r.font)).toEqual(['arabic']);
    expect(runsOf('Pump 🚒', 'text').map((r) => r.font)).toEqual(['text', 'pictures']);
  });

  it('leave out what only steers the writing, and show the box of what nothing has', () => {
    expect(runsOf('a\u202eb\u200b', 'text').map((r) => r.text)).toEqual(['ab']);
    expect(runsOf('漢', 'text')).toEqual([{ font: 'text', text: '漢' }]);
  });
});

describe('words from the right', () => {
  const seen = (text: string): string[] =>
    inVisualOrder(runsOf(text, 'text').map((r) => ({ ...r, tone: 'ink' }))).map((r) => r.text);

  it('stand from right to left with their numbers as they are read, each word whole', () => {
    expect(seen('באר צפון 12')).toEqual(['12', ' ', 'צפון', ' ', 'באר']);
    // In a line that begins from the left they are turned about among themselves alone.
    expect(seen('Proved, ליאת בן')).toEqual(['Proved, ', 'בן', ' ', 'ליאת']);
    expect(seen('مضخة المياه').join('')).toBe('المياه مضخة');
  });

  it('are none where there are none: the same stretches, untouched', () => {
    const pieces = runsOf('58 → 62 psi', 'text').map((r) => ({ ...r, tone: 'ink' }));
    expect(inVisualOrder(pieces)).toBe(pieces);
  });
});

describe('lines', () => {
  it('are broken at spaces, and within a word that no line holds', () => {
    const p = paper();
    const said = (text: string, width: number): string[] =>
      p.lines([{ text }], 10, width).map((l) =>
        l.pieces
          .map((x) => x.text)
          .join('')
          .trimEnd(),
      );
    expect(said('one two three', 45)).toEqual(['one two', 'three']);
    const long = said('x'.repeat(40), 60);
    expect(long.join('')).toBe('x'.repeat(40));
    expect(long.length).toBeGreaterThan(2);
    for (const line of p.lines(
      [{ text: 'many words of many lengths, and supercalifragilistic ones' }],
      10,
      70,
    ))
      expect(line.width).toBeLessThanOrEqual(74);
  });

  it('end where the text has an end of line', () => {
    expect(paper().lines([{ text: 'a\nb\n\nc' }], 10, 100)).toHaveLength(4);
  });
});

describe('a flow of blocks', () => {
  it('begins another page where one has no room, and keeps the last ones together', () => {
    const p = paper();
    const drawn: { page: number; y: number }[] = [];
    flow(p, [spy(200, drawn, p), spy(100, drawn, p), spy(40, drawn, p), spy(40, drawn, p)], 2, 0);
    expect(drawn).toEqual([
      { page: 1, y: 20 },
      { page: 1, y: 220 },
      { page: 2, y: 20 },
      { page: 2, y: 60 },
    ]);
  });

  it('parts a text that is higher than a page, so that no line of it runs off the foot', async () => {
    const p = paper();
    const text = Array.from({ length: 900 }, (_, i) => `word${i}`).join(' ');
    const long = stack([paragraph(p, [{ text: 'Heading' }], 12), paragraph(p, [{ text }], 10)]);
    expect(long.height(260)).toBeGreaterThan(800);
    const low: number[] = [];
    const write = p.write.bind(p);
    p.write = (lines, at) => {
      low.push(at.y + p.heightOfLines(lines, at.size));
      return write(lines, at);
    };
    flow(p, [paragraph(p, [{ text: 'Before' }], 10), long, paragraph(p, [{ text: 'After' }], 10)], 1, 10);
    expect(Math.max(...low)).toBeLessThanOrEqual(370);
    expect(p.doc.bufferedPageRange().count).toBeGreaterThan(2);
    expect((await p.bytes()).subarray(0, 5).toString()).toBe('%PDF-');
  });

  it('parts a loose block where it fills what is left, and says whether all fits a page', () => {
    const p = paper();
    const drawn: { page: number; y: number }[] = [];
    const parts = [spy(100, drawn, p), spy(100, drawn, p)];
    const loose: Block = { height: () => 200, draw: () => undefined, parts: () => parts, loose: true };
    flow(p, [spy(200, drawn, p), loose], 0, 0);
    expect(drawn.map((d) => d.page)).toEqual([1, 1, 2]);
    expect(fits(p, [spy(360, [], p)], 0)).toBe(true);
    expect(fits(p, [spy(360, [], p)], 1)).toBe(false);
  });
});

// Blocks of a page: each knows its height at a width before it is drawn, so that what belongs together is never parted.
import { LINE, type Line, type Paper, type Span } from './paper.js';

export interface Block {
  height(width: number): number;
  draw(x: number, y: number, width: number): void;
  /** The same in pieces, for a page that has no room for the whole. */
  parts?(width: number): readonly Block[];
  /** It is parted wherever room is lacking; else only where it is higher than a page. */
  readonly loose?: true;
}

/** Lines that are kept together where a long text is parted. */
const LINES_TOGETHER = 20;

interface TextOptions {
  readonly tag?: string;
  readonly before?: number;
  readonly after?: number;
  readonly indent?: number;
  readonly align?: 'right';
  /** Drawn at its first line, left of it. */
  readonly mark?: (x: number, y: number) => void;
}

/** A paragraph under a tag. */
export function paragraph(
  paper: Paper,
  spans: readonly Span[],
  size: number,
  { tag = 'P', before = 0, after = 0, indent = 0, align, mark }: TextOptions = {},
): Block {
  const lines = (width: number): readonly Line[] => paper.lines(spans, size, width - indent);
  const piece = (of: (width: number) => readonly Line[], first: boolean, last: boolean): Block => {
    const [above, below] = [first ? before : 0, last ? after : 0];
    return {
      height: (width) => above + paper.heightOfLines(of(width), size) + below,
      draw: (x, y, width) =>
        paper.tagged(tag, () => {
          if (first) mark?.(x, y + above);
          paper.write(of(width), {
            x: x + indent,
            y: y + above,
            width: width - indent,
            size,
            ...(align ? { align } : {}),
          });
        }),
    };
  };
  return {
    ...piece(lines, true, true),
    parts: (width) => {
      const all = lines(width);
      return Array.from({ length: Math.ceil(all.length / LINES_TOGETHER) }, (_, i) => {
        const own = all.slice(i * LINES_TOGETHER, (i + 1) * LINES_TOGETHER);
        return piece(() => own, i === 0, (i + 1) * LINES_TOGETHER >= all.length);
      });
    },
  };
}

/** Blocks one under the other. */
export const stack = (blocks: readonly Block[]): Block => ({
  height: (width) => blocks.reduce((sum, b) => sum + b.height(width), 0),
  draw: (x, y, width) => {
    let at = y;
    for (const b of blocks) {
      b.draw(x, at, width);
      at += b.height(width);
    }
  },
  parts: (width) => blocks.flatMap((b) => b.parts?.(width) ?? [b]),
});

/** Blocks beside each other, in shares of the width. */
export const beside = (
  blocks: readonly { readonly share: number; readonly block: Block }[],
  gap: number,
): Block => {
  const total = blocks.reduce((sum, b) => sum + b.share, 0);
  const widthOf = (share: number, width: number): number =>
    ((width - gap * (blocks.length - 1)) * share) / total;
  return {
    height: (width) => Math.max(0, ...blocks.map((b) => b.block.height(widthOf(b.share, width)))),
    draw: (x, y, width) => {
      let at = x;
      for (const b of blocks) {
        const own = widthOf(b.share, width);
        b.block.draw(at, y, own);
        at += own + gap;
      }
    },
  };
};

/** Room, with a line in its middle where it is asked for. */
export const gap = (
  paper: Paper,
  height: number,
  ruled?: { readonly weight: number; readonly tone?: string },
): Block => ({
  height: () => height,
  draw: (x, y, width) => {
    if (ruled)
      paper.ornament(() => {
        paper.doc
          .moveTo(x, y + height / 2)
          .lineTo(x + width, y + height / 2)
          .lineWidth(ruled.weight)
          .stroke(ruled.tone ?? LINE);
      });
  },
});

/** A ruled box with a heavy left edge. */
export const boxed = (paper: Paper, inner: Block, tone: string): Block => ({
  height: (width) => inner.height(width - 20) + 12,
  draw: (x, y, width) => {
    const height = inner.height(width - 20) + 8;
    paper.ornament(() => {
      paper.doc.rect(x, y, width, height).lineWidth(0.6).stroke(tone);
      paper.doc.rect(x, y, 4, height).fill(tone);
    });
    inner.draw(x + 12, y + 4, width - 20);
  },
});

/**
 * Writes blocks down the pages. What must not stand alone on a page comes with the block before it.
 * @param together the last so many blocks stay on one page
 */
export function flow(paper: Paper, blocks: readonly Block[], together: number, foot: number): void {
  const { x, width, top } = paper.room;
  const bottom = paper.room.bottom - foot;
  const first = Math.max(0, blocks.length - together);
  const last = blocks.slice(first);
  let y = top;
  const write = (group: readonly Block[]): void => {
    for (const block of group) {
      block.draw(x, y, width);
      y += block.height(width);
    }
  };
  const put = (group: readonly Block[]): void => {
    const height = group.reduce((sum, b) => sum + b.height(width), 0);
    if (y > top && y + height > bottom) {
      const [only] = group.length === 1 ? group : [];
      if (only?.loose && only.parts && bottom - y > WORTH_FILLING)
        return only.parts(width).forEach((p) => put([p]));
      paper.newPage();
      y = top;
    }
    // Higher than a page: line by line, so that nothing runs off its foot.
    if (height > bottom - top && group.some((b) => b.parts))
      return group.flatMap((b) => b.parts?.(width) ?? [b]).forEach((p) => put([p]));
    write(group);
  };
  for (const block of blocks.slice(0, first)) put([block]);
  if (last.length > 0) put(last);
}

/** Less room than this at the foot of a page is left empty, points. */
const WORTH_FILLING = 60;

/** Whether blocks fit one page. */
export const fits = (paper: Paper, blocks: readonly Block[], foot: number): boolean => {
  const { width, top, bottom } = paper.room;
  return blocks.reduce((sum, b) => sum + b.height(width), 0) <= bottom - foot - top;
};

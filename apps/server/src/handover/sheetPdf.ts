import type { Family } from '@firm-needle/core/family';
import type { JobView } from '@firm-needle/core/procedure';
import type { Cell, RecordDoc, RecordItem, RecordPhoto, RecordSection } from '@firm-needle/core/record';
import { beside, boxed, fits, flow, gap, paragraph, stack, type Block } from '../paper/blocks.js';
import { MARK_WIDTH, TONES, verdictMark } from '../paper/marks.js';
import { INK, Paper, SOFT, type Span } from '../paper/paper.js';
import { pictureOf } from './picture.js';

export const A4 = [595.28, 841.89] as const;
const MARGIN = 42;
const FOOT = 16;
/** Sizes of the running text, the largest that puts the sheet on one page is taken; else the first is. */
const SIZES = [10, 9.4, 8.8] as const;
const COLUMNS = { gap: 22 };
/** Sections that stand two by two. */
const PAIRS: readonly (readonly [RecordSection['key'], RecordSection['key']])[] = [
  ['found', 'left'],
  ['adjusted', 'noticed'],
  ['seen', 'plate'],
];
/** A pair that is higher than this is written one under the other, so that it can be parted between pages. */
const MOST_PAIR = 320;

export interface SheetInput {
  readonly doc: RecordDoc;
  readonly family: Family;
  readonly job: JobView;
  readonly unit: string | undefined;
  /** A photo's bytes. */
  readonly photo: (p: RecordPhoto) => Buffer | undefined;
  readonly day: (iso: string) => string;
  readonly time: (iso: string) => string;
}

/** The record of a job as a tagged PDF on A4: one page where it can be. */
export async function sheetPdf(input: SheetInput): Promise<Buffer> {
  const { doc } = input;
  const paper = new Paper({
    title: `${doc.title}: ${doc.outcome}`,
    author: doc.organisation,
    subject: doc.place,
    size: A4,
    margin: MARGIN,
  });
  const at = (size: number): readonly Block[] => blocksOf(paper, input, size);
  const size = SIZES.find((s) => fits(paper, at(s), FOOT)) ?? SIZES[0];
  // The seal never stands alone on a page: what was last said comes with it.
  flow(paper, at(size), 2, FOOT);
  numbered(paper, `${doc.title} · ${doc.organisation}`);
  return paper.bytes();
}

/** Each page says which it is, and of what. */
function numbered(paper: Paper, of: string): void {
  const { start, count } = paper.doc.bufferedPageRange();
  for (let i = start; i < start + count; i++) {
    paper.doc.switchToPage(i);
    paper.ornament(() => {
      const y = paper.room.bottom - 8;
      paper.text([{ text: of, tone: SOFT }], {
        x: paper.room.x,
        y,
        width: paper.room.width * 0.75,
        size: 7.5,
      });
      paper.text([{ text: `${i - start + 1} of ${count}`, tone: SOFT }], {
        x: paper.room.x,
        y,
        width: paper.room.width,
        size: 7.5,
        align: 'right',
      });
    });
  }
}

function blocksOf(paper: Paper, input: SheetInput, size: number): readonly Block[] {
  const { doc, family, job, unit } = input;
  const by = new Map(doc.sections.map((s) => [s.key, s]));
  const picture = pictureOf(paper, family, job, unit);
  const table = tableBlock(paper, doc, size);
  const paired = new Set(PAIRS.flat());
  const foot = stack([
    gap(paper, 10, { weight: 0.6 }),
    paragraph(paper, [{ text: doc.rule }], size * 0.9),
    paragraph(paper, [{ text: doc.seal, style: 'bold' }], size * 0.9, { before: 2 }),
    paragraph(paper, [{ text: doc.aid, tone: SOFT }], size * 0.9, { before: 2 }),
  ]);
  return [
    headBlock(paper, input, size),
    ...doc.doubts.map((d) => doubtBlock(paper, d, size)),
    gap(paper, 6),
    picture
      ? beside(
          [
            { share: 11, block: table },
            { share: 10, block: picture },
          ],
          18,
        )
      : table,
    ...PAIRS.flatMap((pair) =>
      pairBlocks(
        paper,
        pair.map((k) => by.get(k)).filter((s) => s !== undefined),
        size,
      ),
    ),
    ...doc.sections.filter((s) => !paired.has(s.key)).flatMap((s) => sectionBlocks(paper, s, size)),
    ...photoBlocks(paper, doc.photos, input.photo, size),
    foot,
  ];
}

function headBlock(paper: Paper, { doc, day, time }: SheetInput, size: number): Block {
  const left = stack([
    paragraph(paper, [{ text: doc.organisation, tone: SOFT }], size * 0.95),
    paragraph(paper, [{ text: doc.title, style: 'bold' }], size * 2, { tag: 'H1' }),
    paragraph(paper, [{ text: doc.place }], size, { before: 1 }),
    ...(doc.about ? [paragraph(paper, [{ text: doc.about, tone: SOFT }], size * 0.95)] : []),
  ]);
  const right = stack([
    ...(doc.practice
      ? [paragraph(paper, [{ text: 'PRACTICE', style: 'bold' }], size * 1.3, { align: 'right' })]
      : []),
    paragraph(paper, [{ text: doc.outcome, style: 'bold' }], size * 1.35, { align: 'right' }),
    paragraph(paper, [{ text: doc.at ? time(doc.at) : '' }], size, { align: 'right', before: 2 }),
    paragraph(paper, [{ text: doc.by }], size, { align: 'right' }),
    ...(doc.next
      ? [
          paragraph(paper, [{ text: `Next ${day(doc.next.day)}`, style: 'bold' }], size * 1.15, {
            align: 'right',
            before: 3,
          }),
        ]
      : []),
  ]);
  return stack([
    beside(
      [
        { share: 3, block: left },
        { share: 2, block: right },
      ],
      16,
    ),
    gap(paper, 12, { weight: 1.4, tone: INK }),
    ...doc.summary.map((text) => paragraph(paper, [{ text }], size * 1.18, { after: 3 })),
  ]);
}

const doubtBlock = (paper: Paper, d: RecordDoc['doubts'][number], size: number): Block =>
  stack([
    gap(paper, 4),
    boxed(
      paper,
      stack([
        paragraph(paper, [{ text: `${d.title} `, style: 'bold' }, { text: d.text }], size),
        ...d.items.map((text) => paragraph(paper, [{ text }], size, { tag: 'LI' })),
      ]),
      INK,
    ),
  ]);

/** Target, found and left; the word stands beside its shape. */
function tableBlock(paper: Paper, { table }: RecordDoc, size: number): Block {
  const figure = size * 1.2;
  const shares = [0.37, 0.17, 0.23, 0.23];
  const edges = (width: number): readonly number[] =>
    shares.reduce<number[]>((all, s) => [...all, (all.at(-1) ?? 0) + s * width], [0]);
  const cellWidth = (width: number, i: number): number => (shares[i] ?? 0) * width - 4;
  const textHeight = (text: string, s: number, width: number): number => paper.heightOf([{ text }], s, width);
  const cellHeight = (cell: Cell, width: number): number =>
    figure * 1.32 +
    (cell.word ? size * 1.05 : 0) +
    (cell.beside ? textHeight(cell.beside, size * 0.78, width) : 0);
  const rowHeight = (r: RecordDoc['table']['rows'][number], width: number): number =>
    Math.max(
      textHeight(r.title, size, cellWidth(width, 0)),
      cellHeight(r.target, cellWidth(width, 1)),
      cellHeight(r.found, cellWidth(width, 2)),
      cellHeight(r.left, cellWidth(width, 3)),
    ) + 5;
  const headHeight = size * 1.6;
  const cell = (c: Cell, x: number, y: number, width: number): void =>
    paper.tagged('TD', () => {
      const style = c.due ? 'bold' : 'figures';
      let at =
        y +
        paper.text([{ text: c.text, style }], { x, y, width, size: c.due ? size : figure, align: 'right' });
      if (c.word) {
        const word = size * 0.85;
        const wide = paper.widthOf(c.word, 'text', word);
        verdictMark(paper, c.word, x + width - wide - MARK_WIDTH - 3, at + 1);
        paper.text([{ text: c.word, tone: TONES[c.word] }], { x, y: at, width, size: word, align: 'right' });
        at += size * 1.05;
      }
      if (c.beside)
        paper.text([{ text: c.beside, tone: SOFT }], { x, y: at, width, size: size * 0.78, align: 'right' });
    });
  return {
    height: (width) => headHeight + table.rows.reduce((sum, r) => sum + rowHeight(r, width), 0),
    draw: (x, y, width) =>
      paper.group('Table', () => {
        const edge = edges(width);
        const rule = (at: number, weight: number): void =>
          paper.ornament(() => {
            paper.doc
              .moveTo(x, at)
              .lineTo(x + width, at)
              .lineWidth(weight)
              .stroke(INK);
          });
        paper.group('TR', () =>
          [table.unit, 'Target', 'Found', 'Left'].forEach((text, i) =>
            paper.tagged('TH', () => {
              paper.text([{ text, style: 'bold' }], {
                x: x + (edge[i] ?? 0),
                y,
                width: cellWidth(width, i),
                size: size * 0.9,
                align: i === 0 ? 'left' : 'right',
              });
            }),
          ),
        );
        rule(y + headHeight - 3, 0.9);
        let at = y + headHeight;
        for (const r of table.rows) {
          const height = rowHeight(r, width);
          paper.group('TR', () => {
            paper.tagged('TH', () => {
              paper.text(r.title, { x, y: at + 1, width: cellWidth(width, 0), size });
            });
            [r.target, r.found, r.left].forEach((c, i) =>
              cell(c, x + (edge[i + 1] ?? 0), at, cellWidth(width, i + 1)),
            );
          });
          at += height;
          rule(at - 3, 0.3);
        }
      }),
  };
}

function itemBlock(paper: Paper, item: RecordItem, size: number): Block {
  const tone = item.soft ? SOFT : INK;
  const spans: Span[] = [
    ...(item.mark ? [{ text: `${item.mark} `, tone: TONES[item.mark] }] : []),
    ...(item.strong ? [{ text: `${item.strong} `, style: 'bold' as const, tone }] : []),
    { text: item.text, tone },
    ...(item.effects ?? []).map((e) => ({ text: `   ${e}`, style: 'figures' as const, tone })),
  ];
  const { mark } = item;
  return paragraph(paper, spans, size, {
    tag: 'LI',
    after: 2.5,
    ...(mark ? { indent: MARK_WIDTH + 4, mark: (x, y) => verdictMark(paper, mark, x, y + size * 0.32) } : {}),
  });
}

const heading = (paper: Paper, title: string, size: number): Block =>
  paragraph(paper, [{ text: title, style: 'bold' }], size * 1.15, { tag: 'H2', before: 7, after: 2 });

/** A section that can be parted between its lines; its heading never stands alone. */
function sectionBlocks(paper: Paper, s: RecordSection, size: number): readonly Block[] {
  const [first, ...others] = s.items.map((i) => itemBlock(paper, i, size));
  return first ? [stack([heading(paper, s.title, size), first]), ...others] : [];
}

function pairBlocks(paper: Paper, pair: readonly RecordSection[], size: number): readonly Block[] {
  const columns = pair.map((s) => stack(sectionBlocks(paper, s, size)));
  const row = beside(
    columns.map((block) => ({ share: 1, block })),
    COLUMNS.gap,
  );
  const parts = pair.flatMap((s) => sectionBlocks(paper, s, size));
  return pair.length === 2 && row.height(paper.room.width) <= MOST_PAIR
    ? [{ ...row, parts: () => parts, loose: true }]
    : parts;
}

const PHOTO_GAP = 10;
const PHOTOS_A_ROW = 3;
/** More are on the screen; paper has so many. */
export const MOST_PHOTOS = 24;

/** Photos three in a row, each with what was said of it. */
function photoBlocks(
  paper: Paper,
  photos: readonly RecordPhoto[],
  bytes: SheetInput['photo'],
  size: number,
): readonly Block[] {
  const left = photos.length - MOST_PHOTOS;
  const here = photos.slice(0, MOST_PHOTOS).flatMap((p) => {
    const data = bytes(p);
    return data ? [{ ...p, data }] : [];
  });
  const rows = Array.from({ length: Math.ceil(here.length / PHOTOS_A_ROW) }, (_, i) =>
    here.slice(i * PHOTOS_A_ROW, (i + 1) * PHOTOS_A_ROW),
  );
  const shown = rows.map((row, i) => {
    const cells = row.map(({ data, text, width: w, height: h }) => {
      const caption = paragraph(paper, [{ text, tone: SOFT }], size * 0.85, { tag: 'Caption', before: 2 });
      const tall = (width: number): number => Math.min(width * 1.1, (width * h) / w);
      return {
        share: 1,
        block: {
          height: (width: number) => tall(width) + caption.height(width) + 4,
          draw: (x: number, y: number, width: number) => {
            paper.tagged('Figure', () => paper.doc.image(data, x, y, { fit: [width, tall(width)] }), {
              alt: text || 'Photo',
            });
            caption.draw(x, y + tall(width), width);
          },
        },
      };
    });
    const empty = { share: 1, block: gap(paper, 0) };
    const filled = beside(
      [...cells, ...Array<typeof empty>(PHOTOS_A_ROW - cells.length).fill(empty)],
      PHOTO_GAP,
    );
    return i === 0 ? stack([heading(paper, 'Photos', size), filled]) : filled;
  });
  const more = paragraph(paper, [{ text: `And ${left} more, on the screen.`, tone: SOFT }], size);
  return left > 0 ? [...shown, more] : shown;
}

import QRCode from 'qrcode';
import { INK, Paper, SOFT } from '../paper/paper.js';

const MM = 72 / 25.4;

/** Sizes of a tag, mm: a label of a small printer, one of a usual one, a whole A4. */
export const TAG_SIZES = {
  small: [62, 40],
  label: [100, 62],
  a4: [297, 210],
} as const;
export type TagSize = keyof typeof TAG_SIZES;

/** What a tag says; read in bad light at arm's length, so little of it. */
export interface TagText {
  readonly control: string;
  readonly place: string;
  readonly firm: string;
  /** Name and figure of each setting, the most important first. */
  readonly settings: readonly { readonly title: string; readonly value: string }[];
  /** `Proved 27 November 2026, E. Marrable`, or that nothing is proved. */
  readonly when: string;
  /** `Due 27 November 2027`. */
  readonly due: string;
  /** The address of the control's page. */
  readonly link: string;
}

/** One tag as a page of its own size. */
export async function tagPdf(tag: TagText, size: TagSize): Promise<Buffer> {
  const [w, h] = TAG_SIZES[size];
  const paper = tagPaper([tag], [w * MM, h * MM]);
  drawTag(paper, tag, 0, 0, w * MM, h * MM);
  return paper.bytes();
}

const A4 = [210 * MM, 297 * MM] as const;
const COLUMNS = 2;
const ROWS = 5;
const EDGE = 5 * MM;

/** The tags of a whole site on A4, two by five, with lines to cut along. */
export async function tagSheetPdf(tags: readonly TagText[]): Promise<Buffer> {
  const paper = tagPaper(tags, A4);
  const [w, h] = [(A4[0] - 2 * EDGE) / COLUMNS, (A4[1] - 2 * EDGE) / ROWS];
  tags.forEach((tag, i) => {
    const place = i % (COLUMNS * ROWS);
    if (i > 0 && place === 0) paper.newPage();
    const [x, y] = [EDGE + (place % COLUMNS) * w, EDGE + Math.floor(place / COLUMNS) * h];
    paper.ornament(
      () => void paper.doc.rect(x, y, w, h).lineWidth(0.3).dash(3, { space: 3 }).stroke(SOFT).undash(),
    );
    drawTag(paper, tag, x, y, w, h);
  });
  return paper.bytes();
}

const tagPaper = (tags: readonly TagText[], size: readonly [number, number]): Paper =>
  new Paper({
    title: tags.length === 1 ? `Tag: ${tags[0]?.control}` : `Tags: ${tags[0]?.place ?? ''}`,
    author: tags[0]?.firm ?? '',
    size,
    margin: 0,
  });

/** Sizes follow the tag's height: figures first, then the day it is due. */
function drawTag(paper: Paper, tag: TagText, x: number, y: number, width: number, height: number): void {
  const pad = height * 0.06;
  const qr = Math.min(height * 0.46, width * 0.34);
  const body = width - 2 * pad;
  const beside = body - qr - pad;
  const name = largest(paper, tag.control, height * 0.115, body);
  let at = y + pad;
  paper.tagged('H1', () => {
    at += paper.text([{ text: tag.control, style: 'bold' }], { x: x + pad, y: at, width: body, size: name });
  });
  paper.tagged('P', () => {
    at += paper.text([{ text: tag.place }], { x: x + pad, y: at, width: body, size: height * 0.058 });
  });
  at += height * 0.015;
  paper.ornament(
    () =>
      void paper.doc
        .moveTo(x + pad, at)
        .lineTo(x + width - pad, at)
        .lineWidth(height * 0.006)
        .stroke(INK),
  );
  at += height * 0.02;
  const foot = height * 0.085;
  const rest = y + height - pad - foot * 2.7 - at;
  const shown =
    tag.settings.length > MOST_SETTINGS
      ? [
          ...tag.settings.slice(0, MOST_SETTINGS - 1),
          { title: `and ${tag.settings.length - MOST_SETTINGS + 1} more, on the sheet`, value: '' },
        ]
      : tag.settings;
  const line = rest / Math.max(2, shown.length);
  for (const s of shown)
    paper.tagged('P', () => {
      const figure = Math.min(line * 0.72, height * 0.15);
      const wide = Math.min(beside * 0.62, paper.widthOf(s.value, 'figures-bold', figure));
      const size = largest(paper, s.value, figure, wide + 1, 'figures-bold');
      const titleSize = largest(paper, s.title, Math.min(height * TITLE, line * 0.66), beside - wide - pad);
      paper.text([{ text: s.title }], {
        x: x + pad,
        y: at + (line - titleSize * 1.32) / 2,
        width: beside - wide - pad,
        size: titleSize,
      });
      paper.text([{ text: s.value, style: 'figures-bold' }], {
        x: x + pad + beside - wide - 1,
        y: at + (line - size * 1.32) / 2,
        width: wide + 1,
        size,
        align: 'right',
      });
      at += line;
    });
  const end = y + height - pad;
  paper.tagged('P', () => {
    const size = largest(paper, tag.due, foot * 1.25, body - qr - pad, 'bold');
    paper.text([{ text: tag.due, style: 'bold' }], { x: x + pad, y: end - foot * 2.55, width: beside, size });
  });
  paper.tagged('P', () => {
    paper.text([{ text: tag.when }], {
      x: x + pad,
      y: end - foot * 0.95,
      width: body,
      size: largest(paper, tag.when, foot * 0.66, beside),
    });
  });
  const side = x + width - pad - qr;
  paper.tagged('Figure', () => drawCode(paper, tag.link, side, end - qr - foot * 0.9, qr), {
    alt: `Code that opens ${tag.link}`,
  });
  paper.tagged('P', () => {
    const size = largest(paper, tag.firm, foot * 0.6, qr);
    paper.text([{ text: tag.firm }], { x: side, y: end - size * 1.3, width: qr, size, align: 'center' });
  });
}

/** What has no room is on the sheet, and said to be. */
const MOST_SETTINGS = 8;
/** The size of a setting's name, of the tag's height. */
const TITLE = 0.068;

/** Letters of neighbouring words take a little room that the words alone do not. */
const TIGHT = 0.97;

/** The largest size up to one at which a text stands on one line. */
function largest(
  paper: Paper,
  text: string,
  most: number,
  width: number,
  style: 'text' | 'bold' | 'figures-bold' = 'text',
): number {
  const wide = paper.widthOf(text, style, most);
  return Math.max(most * 0.4, wide > width * TIGHT ? (most * width * TIGHT) / wide : most);
}

/** A QR code as vectors, with the white about it that readers need. */
function drawCode(paper: Paper, text: string, x: number, y: number, side: number): void {
  const { modules } = QRCode.create(text, { errorCorrectionLevel: 'M' });
  const quiet = 4;
  const cell = side / (modules.size + 2 * quiet);
  paper.doc.rect(x, y, side, side).fill('#ffffff');
  for (let row = 0; row < modules.size; row++)
    for (let column = 0; column < modules.size; column++)
      if (modules.get(row, column))
        paper.doc.rect(x + (column + quiet) * cell, y + (row + quiet) * cell, cell, cell);
  paper.doc.fill('#000000');
}

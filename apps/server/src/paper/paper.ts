// Paper: a tagged PDF with embedded fonts, written in blocks whose height is known before they are drawn.
import PDFDocument from 'pdfkit';
import { inVisualOrder } from './direction.js';
import { fileOf, runsOf, type FontName, type Run, type Style } from './fonts.js';

export const INK = '#20272b';
export const SOFT = '#50575b';
export const LINE = '#9a9a94';

/** A stretch of text in one style. */
export interface Span {
  readonly text: string;
  readonly style?: Style;
  readonly tone?: string;
}

interface Piece {
  readonly font: FontName;
  readonly text: string;
  readonly tone: string;
  readonly width: number;
}

/** A line that has been broken to a width. */
export interface Line {
  readonly pieces: readonly Piece[];
  readonly width: number;
}

export interface PaperOptions {
  readonly title: string;
  readonly author: string;
  readonly subject?: string;
  /** Points. */
  readonly size: readonly [width: number, height: number];
  readonly margin: number;
}

const LEADING = 1.32;
/** Widths of words at one point, by font: the same on every paper. */
const WIDTHS = new Map<string, number>();
const MOST_WIDTHS = 20_000;
/** The size at which widths are worked out. */
const UNIT = 1000;
/** Where letters stand in their line, of its size: from its top to the middle of what is left over. */
const RISE = 0.08;

/** One document that is being written; coordinates are points from the top left. */
export class Paper {
  readonly doc: PDFKit.PDFDocument;
  readonly width: number;
  readonly height: number;
  readonly margin: number;
  private readonly root: PDFKit.PDFStructureElement;
  private readonly parents: PDFKit.PDFStructureElement[];
  private readonly chunks: Buffer[] = [];
  private readonly finished: Promise<void>;

  constructor(options: PaperOptions) {
    [this.width, this.height] = options.size;
    this.margin = options.margin;
    this.doc = new PDFDocument({
      size: [...options.size],
      margin: 0,
      pdfVersion: '1.7',
      tagged: true,
      lang: 'en',
      displayTitle: true,
      bufferPages: true,
      // None to begin with: one opened by its file would be opened anew each time it is asked for by its name.
      font: '',
      info: {
        Title: options.title,
        Author: options.author,
        ...(options.subject ? { Subject: options.subject } : {}),
      },
    } as PDFKit.PDFDocumentOptions);
    for (const name of ['text', 'bold', 'figures', 'figures-bold', 'hebrew', 'arabic', 'pictures'] as const)
      this.doc.registerFont(name, fileOf(name));
    this.finished = new Promise((resolve, reject) => {
      this.doc.on('data', (chunk: Buffer) => this.chunks.push(chunk));
      this.doc.on('end', resolve);
      this.doc.on('error', reject);
    });
    this.root = this.doc.struct('Document');
    this.doc.addStructure(this.root);
    this.parents = [this.root];
  }

  /** Between the margins. */
  get room(): { readonly x: number; readonly width: number; readonly top: number; readonly bottom: number } {
    return {
      x: this.margin,
      width: this.width - 2 * this.margin,
      top: this.margin,
      bottom: this.height - this.margin,
    };
  }

  newPage(): void {
    this.doc.addPage({ size: [this.width, this.height], margin: 0 });
  }

  /** What is drawn within belongs together under this tag. */
  group(tag: string, draw: () => void, options: { readonly alt?: string } = {}): void {
    const element = this.doc.struct(tag, options);
    this.parents.at(-1)?.add(element);
    this.parents.push(element);
    draw();
    this.parents.pop();
    element.end();
  }

  /** What is drawn within is one content of this tag; it stays on one page. */
  tagged(tag: string, draw: () => void, options: { readonly alt?: string } = {}): void {
    const element = this.doc.struct(tag, options);
    this.parents.at(-1)?.add(element);
    const content = this.doc.markStructureContent(tag);
    draw();
    this.doc.endMarkedContent();
    element.add(content);
    element.end();
  }

  /** Lines and ornaments: nothing that is read. */
  ornament(draw: () => void): void {
    this.doc.markContent('Artifact', { type: 'Layout' });
    draw();
    this.doc.endMarkedContent();
  }

  widthOf(text: string, style: Style, size: number): number {
    return runsOf(text, style).reduce((sum, run) => sum + this.runWidth(run, size), 0);
  }

  /** Of a run at a size; widths grow with the size, so each is worked out once. */
  private runWidth({ font, text }: Run, size: number): number {
    const key = `${font} ${text}`;
    let unit = WIDTHS.get(key);
    if (unit === undefined) {
      unit = this.doc.font(font, UNIT).widthOfString(text) / UNIT;
      if (WIDTHS.size >= MOST_WIDTHS) WIDTHS.clear();
      WIDTHS.set(key, unit);
    }
    return unit * size;
  }

  /** A text broken into lines of a width: at spaces, and within a word that is longer than a line. */
  lines(spans: readonly Span[], size: number, width: number): readonly Line[] {
    const lines: { pieces: Piece[]; width: number }[] = [{ pieces: [], width: 0 }];
    const add = (text: string, span: Span): void => {
      for (const run of runsOf(text, span.style ?? 'text')) {
        const wide = this.runWidth(run, size);
        const line = lines.at(-1);
        line?.pieces.push({ ...run, tone: span.tone ?? INK, width: wide });
        if (line) line.width += wide;
      }
    };
    const next = (): void => void lines.push({ pieces: [], width: 0 });
    for (const span of spans)
      for (const [i, paragraph] of span.text.split('\n').entries()) {
        if (i > 0) next();
        for (const word of paragraph.split(/(?<= )/)) {
          const wide = this.widthOf(word.trimEnd(), span.style ?? 'text', size);
          const used = lines.at(-1)?.width ?? 0;
          if (used > 0 && used + wide > width) next();
          if (wide <= width) add(word, span);
          else
            for (const char of word) {
              if ((lines.at(-1)?.width ?? 0) + this.widthOf(char, span.style ?? 'text', size) > width) next();
              add(char, span);
            }
        }
      }
    return lines;
  }

  heightOf(spans: readonly Span[], size: number, width: number): number {
    return this.heightOfLines(this.lines(spans, size, width), size);
  }

  /** Of so many lines. */
  heightOfLines(lines: readonly Line[], size: number): number {
    return lines.length * size * LEADING;
  }

  /** Draws a text from its top left; gives its height. */
  text(
    spans: readonly Span[] | string,
    at: { x: number; y: number; width: number; size: number; align?: 'left' | 'right' | 'center' },
  ): number {
    const all = typeof spans === 'string' ? [{ text: spans }] : spans;
    return this.write(this.lines(all, at.size, at.width), at);
  }

  /** Draws lines that were broken before, from their top left; gives their height. */
  write(
    lines: readonly Line[],
    at: { x: number; y: number; width: number; size: number; align?: 'left' | 'right' | 'center' },
  ): number {
    const share = { left: 0, center: 0.5, right: 1 }[at.align ?? 'left'];
    lines.forEach((line, i) => {
      const last = line.pieces.at(-1);
      const trailing = last ? last.width - this.runWidth({ ...last, text: last.text.trimEnd() }, at.size) : 0;
      let x = at.x + share * (at.width - (line.width - trailing));
      for (const piece of inVisualOrder(line.pieces)) {
        const font = piece.font as FontName;
        this.doc
          .font(font, at.size)
          .fillColor(piece.tone)
          .text(piece.text, x, at.y + i * at.size * LEADING + at.size * RISE, { lineBreak: false });
        x += this.runWidth({ font, text: piece.text }, at.size);
      }
    });
    return this.heightOfLines(lines, at.size);
  }

  /** The finished document. */
  async bytes(): Promise<Buffer> {
    this.root.end();
    this.doc.end();
    await this.finished;
    return Buffer.concat(this.chunks);
  }
}

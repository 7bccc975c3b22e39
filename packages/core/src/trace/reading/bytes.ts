import { accept, refuse, type Refusal, type Result } from '../../result.js';
import { HEAD_ROWS, TableFeed, type FeedOptions, type TableRead } from './feed.js';
import { LONGEST_LINE, type ByteLane } from './lane.js';
import { delimiterOf, sniff, SPACES, type Encoding } from './sniff.js';

/** Two columns of numbers are 16 bytes a sample, and the pyramid a twelfth of half of that. */
export const MOST_SAMPLES = 60_000_000;
/** Looked at before anything is decoded, bytes. */
const SNIFFED = 64 * 1024;
/** So much is read before the table is looked at: more than its head. */
const HEAD_BYTES = 1 << 20;
const [LF, CR] = [10, 13];

export interface Decoder {
  decode(bytes?: Uint8Array, options?: { readonly stream?: boolean }): string;
}

/** What reading needs that a core has not: text of bytes, and rows of text. */
export interface TextTools {
  decoder(encoding: Encoding): Decoder;
  /**
   * Splits text into rows of cells; lines end in LF.
   * @param whole its end is the file's: else its last row, which may go on, is left
   * @returns rows, and where the last of them ended
   */
  split(
    text: string,
    delimiter: string,
    whole: boolean,
  ): { readonly rows: readonly string[][]; readonly end: number };
}

export interface BytesOptions extends FeedOptions {
  readonly tools: TextTools;
  /** Of the file, where it is known. */
  readonly size?: number | undefined;
  /** Told after each piece how many bytes were read. */
  readonly progress?: ((bytes: number) => void) | undefined;
}

/** A table that was read from its bytes, and how they were written. */
export interface BytesRead extends TableRead {
  readonly encoding: Encoding;
  readonly delimiter: string;
}

/** Lines that end alike, without what was never written; of columns lined up with spaces one between each. */
function plainText(text: string, delimiter: string): string {
  const lines = text.replace(/\r\n?/g, '\n').replace(/\0+/g, '');
  return delimiter === SPACES ? lines.replace(/[ \t]+/g, ' ').replace(/^ | (?=\n)/gm, '') : lines;
}

/** Stops the reading of pieces with a reason. */
class Stopped extends Error {
  constructor(readonly refusal: Refusal) {
    super(refusal.message);
  }
}
const stop = (r: Result<unknown> | undefined): void => {
  if (r && !r.ok) throw new Stopped(r.refusal);
};

/** What a file is by its first bytes, and what parts its cells. */
export function headOf(
  bytes: Uint8Array,
  tools: TextTools,
): Result<{ readonly encoding: Encoding; readonly delimiter: string }> {
  const head = bytes.subarray(0, SNIFFED);
  const encoding = sniff(head);
  if (!encoding.ok) return encoding;
  const text = tools.decoder(encoding.value).decode(head, { stream: true });
  return accept({ encoding: encoding.value, delimiter: delimiterOf(text) });
}

/**
 * The first rows of a table, as they were split; none where the bytes are no table.
 * @param delimiter what parts the cells, where somebody said
 */
export function firstRows(
  bytes: Uint8Array,
  tools: TextTools,
  most: number,
  delimiter?: string,
): readonly string[][] {
  const head = headOf(bytes, tools);
  if (!head.ok) return [];
  const text = tools.decoder(head.value.encoding).decode(bytes, { stream: true });
  const by = delimiter ?? head.value.delimiter;
  return tools.split(plainText(text, by), by, true).rows.slice(0, most);
}

/**
 * Reads a table from its bytes as they come: the file itself never stands in memory. Its head is split and looked at; what follows is
 * read by lines of bytes while no cell is quoted, and as text from where one is. Both read the same.
 * @returns the table, or why it is none: no text, too large, a line without an end, or what its head lacks
 */
export async function readBytes(
  bytes: AsyncIterable<Uint8Array>,
  options: BytesOptions,
): Promise<Result<BytesRead>> {
  try {
    const reading = new Reading(options);
    let read = 0;
    for await (const piece of bytes) {
      reading.push(piece);
      options.progress?.((read += piece.length));
    }
    return reading.end();
  } catch (e) {
    if (e instanceof Stopped) return { ok: false, refusal: e.refusal };
    throw e;
  }
}

class Reading {
  private head: Uint8Array[] = [];
  private headSize = 0;
  private feed: TableFeed | undefined;
  private how: { readonly encoding: Encoding; readonly delimiter: string } | undefined;
  private lane: ByteLane | undefined;
  private text: TextLane | undefined;

  constructor(private readonly options: BytesOptions) {}

  push(piece: Uint8Array): void {
    if (!this.feed) {
      this.head.push(piece);
      this.headSize += piece.length;
      if (this.headSize >= HEAD_BYTES) this.begin();
    } else this.on(piece);
    if ((this.feed?.samples ?? 0) > MOST_SAMPLES) stop(tooLarge());
  }

  end(): Result<BytesRead> {
    if (!this.feed) this.begin();
    const { feed, lane, how } = this;
    if (!feed || !how) return refuse('trace-empty', 'The file is empty.');
    if (lane) {
      if (lane.end() === 'as-text') {
        this.leaveLane(lane);
        this.text?.push(new Uint8Array(), true);
      }
    } else this.text?.push(new Uint8Array(), true);
    const done = feed.end();
    return done.ok ? accept({ ...done.value, ...how }) : done;
  }

  /** Looks at the head: how it is written, what its columns are; and chooses who reads on. */
  private begin(): void {
    const { tools, size } = this.options;
    const all = joined(this.head, this.headSize);
    this.head = [];
    const how = headOf(all, tools);
    if (!how.ok) throw new Stopped(how.refusal);
    const { encoding } = how.value;
    const delimiter = this.options.said?.delimiter ?? how.value.delimiter;
    this.how = { encoding, delimiter };
    this.feed = new TableFeed({ ...this.options, delimiter });
    const lineEnd = all.includes(LF) ? LF : CR;
    const line = lineEnds(all, lineEnd, HEAD_ROWS);
    if (line.n > 0 && size !== undefined && size / (line.end / line.n) > 1.2 * MOST_SAMPLES) stop(tooLarge());
    // Columns that are lined up with spaces have as many of them as it takes.
    const single =
      delimiter !== SPACES &&
      (encoding === 'utf-8' || encoding === 'windows-1252') &&
      delimiter.charCodeAt(0) < 128;
    if (single && line.n === HEAD_ROWS) {
      const text = tools.decoder(encoding).decode(all.subarray(0, line.end));
      const { rows } = tools.split(plainText(text, delimiter), delimiter, true);
      // The last line ends in a line's end, behind which Papa-like splitters see one empty row more.
      const split = rows.length === HEAD_ROWS + 1 && rows.at(-1)?.join('') === '' ? rows.slice(0, -1) : rows;
      if (split.length === HEAD_ROWS) {
        for (const fields of split) stop(this.feed.push(fields));
        const plain = tools.decoder(encoding);
        this.lane = this.feed.lane(delimiter, lineEnd, (b) => plain.decode(b));
        return this.on(all.subarray(line.end));
      }
    }
    this.text = new TextLane(this.feed, tools, encoding, delimiter);
    this.on(all);
  }

  private on(piece: Uint8Array): void {
    if (this.text) return this.text.push(piece, false);
    const { lane } = this;
    if (!lane) return;
    const how = lane.push(piece);
    if (how === 'endless') throw new Stopped(endless(this.feed?.line ?? 0));
    if (how === 'as-text') this.leaveLane(lane);
  }

  /** From here on it is read as text. */
  private leaveLane(lane: ByteLane): void {
    const { feed, how } = this;
    if (!feed || !how) return;
    this.lane = undefined;
    this.text = new TextLane(feed, this.options.tools, how.encoding, how.delimiter);
    this.text.push(lane.rest(), false);
  }
}

/** Reads a table as text, a piece at a time. */
class TextLane {
  private readonly decoder: Decoder;
  private carry = '';

  constructor(
    private readonly feed: TableFeed,
    private readonly tools: TextTools,
    encoding: Encoding,
    private readonly delimiter: string,
  ) {
    this.decoder = tools.decoder(encoding);
  }

  push(piece: Uint8Array, whole: boolean): void {
    let text = this.carry + (whole ? this.decoder.decode() : this.decoder.decode(piece, { stream: true }));
    // The two characters of one line's end may come apart.
    const cut = !whole && text.endsWith('\r');
    if (cut) text = text.slice(0, -1);
    text = plainText(text, this.delimiter);
    const { rows, end } = this.tools.split(text, this.delimiter, whole);
    for (const fields of rows) stop(this.feed.push(fields));
    this.carry = text.slice(end) + (cut ? '\r' : '');
    if (this.carry.length > LONGEST_LINE) throw new Stopped(endless(this.feed.line));
  }
}

const tooLarge = (): Result<never> =>
  refuse('trace-large', `The file holds more than ${MOST_SAMPLES / 1e6} million samples.`, {
    where: 'file',
    bound: `${MOST_SAMPLES / 1e6} million samples`,
    remedy: 'Cut it into pieces, a day or a week each.',
  });

const endless = (line: number): Refusal => ({
  code: 'line-long',
  message: `What follows line ${line} does not end within ${LONGEST_LINE.toLocaleString('en')} characters: it is no row of readings.`,
  where: `line ${line + 1}`,
  bound: `${LONGEST_LINE.toLocaleString('en')} characters a line`,
  remedy: 'Look whether the file was damaged, and export it again.',
});

function joined(pieces: readonly Uint8Array[], size: number): Uint8Array {
  const out = new Uint8Array(size);
  let at = 0;
  for (const piece of pieces) {
    out.set(piece, at);
    at += piece.length;
  }
  return out;
}

/** How many lines end within the bytes, `most` at most, and where the last of them does. */
function lineEnds(
  bytes: Uint8Array,
  lineEnd: number,
  most: number,
): { readonly n: number; readonly end: number } {
  let [n, end] = [0, 0];
  for (let at = bytes.indexOf(lineEnd); at >= 0 && n < most; at = bytes.indexOf(lineEnd, at + 1)) {
    n++;
    end = at + 1;
  }
  return { n, end };
}

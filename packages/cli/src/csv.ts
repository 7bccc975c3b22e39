import type { Result } from '@firm-needle/core/result';
import {
  delimiterOf,
  sniff,
  TableFeed,
  type Encoding,
  type FeedOptions,
  type TableRead,
} from '@firm-needle/core/trace';
import { createReadStream, existsSync, statSync } from 'node:fs';
import { Readable } from 'node:stream';
import { TextDecoder } from 'node:util';
import Papa from 'papaparse';
import { must, no } from './answer.js';

export interface ReadFile extends TableRead {
  readonly encoding: Encoding;
  readonly delimiter: string;
}

/** Looked at before it is decoded, bytes. */
const HEAD_BYTES = 64 * 1024;

/** A file's text, a piece at a time, once its first bytes have said how it is written. */
async function* decoded(
  bytes: AsyncIterable<Buffer>,
  found: (encoding: Encoding, delimiter: string) => void,
): AsyncGenerator<string> {
  let head: Buffer[] = [];
  let size = 0;
  let decoder: TextDecoder | undefined;
  const begin = (): string => {
    const all = Buffer.concat(head);
    head = [];
    const encoding = must(sniff(all.subarray(0, HEAD_BYTES)));
    decoder = new TextDecoder(encoding);
    const text = decoder.decode(all, { stream: true });
    found(encoding, delimiterOf(text.slice(0, HEAD_BYTES)));
    return text;
  };
  for await (const piece of bytes) {
    if (decoder) {
      yield decoder.decode(piece, { stream: true });
      continue;
    }
    head.push(piece);
    size += piece.length;
    if (size >= HEAD_BYTES) yield begin();
  }
  if (!decoder) yield begin();
  yield decoder?.decode() ?? '';
}

/** Reads a logger's table, a piece at a time; the file itself never stands in memory. `-` is standard input. */
export async function readTable(path: string, options: FeedOptions): Promise<ReadFile> {
  if (path !== '-' && (!existsSync(path) || statSync(path).isDirectory()))
    no('file-missing', `There is no file "${path}".`, { where: 'file' });
  const input = path === '-' ? process.stdin : createReadStream(path, { highWaterMark: 1 << 20 });
  let how: Pick<ReadFile, 'encoding' | 'delimiter'> | undefined;
  const text = decoded(input, (encoding, delimiter) => (how = { encoding, delimiter }));
  // What parts the cells is known once the first piece is decoded.
  const first = await text.next();
  const rest = async function* (): AsyncGenerator<string> {
    if (!first.done) yield first.value;
    yield* text;
  };
  const feed = new TableFeed({ ...options, delimiter: how?.delimiter });
  const read = await new Promise<Result<TableRead>>((resolve, reject) => {
    Papa.parse<string[]>(Readable.from(rest()), {
      skipEmptyLines: false,
      delimiter: how?.delimiter ?? ',',
      chunk: ({ data }, parser) => {
        for (const fields of data) {
          const wrong = feed.push(fields);
          if (!wrong || wrong.ok) continue;
          parser.abort();
          return resolve(wrong);
        }
      },
      complete: () => resolve(feed.end()),
      error: reject,
    });
  });
  return { ...must(read), encoding: how?.encoding ?? 'utf-8', delimiter: how?.delimiter ?? ',' };
}

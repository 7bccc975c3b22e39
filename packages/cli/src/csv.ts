import { guessColumns, TableReader, type Samples, type TableProblem } from '@firm-needle/core/trace';
import { createReadStream, existsSync, statSync } from 'node:fs';
import Papa from 'papaparse';
import { must, no } from './answer.js';

export interface ReadTable {
  readonly samples: Samples;
  readonly problems: readonly TableProblem[];
}

const FIRST_ROWS = 20;

/** Reads a logger's table, a piece at a time; the file itself never stands in memory. `-` is standard input. */
export function readTable(path: string, ambient: number, unit: string | undefined): Promise<ReadTable> {
  if (path !== '-' && (!existsSync(path) || !statSync(path).isFile()))
    no('file-missing', `There is no file "${path}".`, { where: 'file' });
  const input = path === '-' ? process.stdin : createReadStream(path, { highWaterMark: 1 << 20 });
  return new Promise((resolve, reject) => {
    let first: string[][] = [];
    let reader: TableReader | undefined;
    let line = 0;
    const begin = (): void => {
      const map = must(guessColumns(first, unit));
      reader = new TableReader(map, ambient);
      first.forEach((fields, i) => {
        if (i >= map.header) reader?.row(fields, i + 1);
      });
      first = [];
    };
    const take = (fields: string[]): void => {
      line++;
      if (reader) return reader.row(fields, line);
      first.push(fields);
      if (first.length === FIRST_ROWS) begin();
    };
    Papa.parse<string[]>(input, {
      skipEmptyLines: false,
      chunk: ({ data }, parser) => {
        try {
          for (const fields of data) take(fields);
        } catch (e) {
          parser.abort();
          reject(e as Error);
        }
      },
      complete: () => {
        try {
          if (!reader) begin();
          const done = reader?.done();
          if (done) resolve(done);
        } catch (e) {
          reject(e as Error);
        }
      },
      error: reject,
    });
  });
}

import {
  accept,
  analyse,
  buildPyramid,
  columnsOf,
  guessColumns,
  refuse,
  TableReader,
  type Analysis,
  type Pyramid,
  type Result,
  type Samples,
  type TableProblem,
  type TraceKind,
} from '@firm-needle/core';
import { expose, transfer } from 'comlink';
import Papa from 'papaparse';

/** What reading a file came to: how much there is, and what could not be read. */
export interface TraceRead {
  readonly samples: number;
  readonly from: number;
  readonly to: number;
  readonly low: number;
  readonly high: number;
  readonly problems: readonly TableProblem[];
  /** The unit its pressures were written in. */
  readonly unit: string;
}

const FIRST_ROWS = 20;
/** Two columns of numbers: 16 bytes a sample, and the pyramid a twelfth of half of that. */
const MOST_SAMPLES = 60_000_000;

/** Reads, keeps, draws and analyses one trace; its samples never leave here, only what a picture needs of them. */
class TraceHost {
  private samples: Samples | undefined;
  private pyramid: Pyramid | undefined;

  /** @param unit of the pressures where the heading does not say it */
  read(file: File, unit: string | undefined, progress: (part: number) => void): Promise<Result<TraceRead>> {
    return new Promise((resolve) => {
      let first: string[][] = [];
      let reader: TableReader | undefined;
      let written = '';
      let line = 0;
      let failed = false;
      const begin = (): Result<unknown> => {
        const map = guessColumns(first, unit);
        if (!map.ok) return map;
        written = map.value.pressure.unit;
        reader = new TableReader(map.value);
        first.forEach((fields, i) => i >= map.value.header && reader?.row(fields, i + 1));
        first = [];
        return map;
      };
      const fail = (r: Result<unknown>): boolean => {
        if (r.ok) return false;
        failed = true;
        resolve(r);
        return true;
      };
      Papa.parse<string[]>(file, {
        chunkSize: 4 * 1024 * 1024,
        chunk: ({ data, meta }, parser) => {
          for (const fields of data) {
            line++;
            if (reader) reader.row(fields, line);
            else if (first.push(fields) === FIRST_ROWS && fail(begin())) return parser.abort();
          }
          progress(meta.cursor / Math.max(1, file.size));
          if ((reader?.samples ?? 0) <= MOST_SAMPLES) return;
          parser.abort();
          fail(
            refuse('trace-large', `The file holds more than ${MOST_SAMPLES / 1e6} million samples.`, {
              bound: `${MOST_SAMPLES / 1e6} million samples`,
              remedy: 'Cut it into pieces, or analyse it with the command line.',
            }),
          );
        },
        complete: () => {
          if (failed || (!reader && fail(begin())) || !reader) return;
          const { samples, problems } = reader.done();
          this.samples = samples;
          this.pyramid = buildPyramid(samples.p);
          const top = this.pyramid.levels.at(-1) ?? new Float64Array();
          let [low, high] = [Infinity, -Infinity];
          for (let i = 0; i < top.length; i += 2) {
            low = Math.min(low, top[i] ?? Infinity);
            high = Math.max(high, top[i + 1] ?? -Infinity);
          }
          resolve(
            accept({
              samples: samples.p.length,
              from: samples.t[0] ?? 0,
              to: samples.t[samples.t.length - 1] ?? 0,
              low,
              high,
              problems,
              unit: written,
            }),
          );
        },
        error: (e) => fail(refuse('file-unreadable', e.message, { remedy: 'Choose the file again.' })),
      });
    });
  }

  /** Low and high of every column of a picture of [from, to], Pa. */
  columns(from: number, to: number, width: number): Float64Array {
    const { samples, pyramid } = this;
    const out =
      samples && pyramid ? columnsOf(samples.t, samples.p, pyramid, from, to, width) : new Float64Array();
    return transfer(out, [out.buffer]);
  }

  analyse(kind: TraceKind): Result<Analysis> {
    return this.samples
      ? analyse(this.samples, kind)
      : refuse('no-trace', 'No trace was read yet.', { remedy: 'Choose a file.' });
  }
}

export type { TraceHost };
expose(new TraceHost());

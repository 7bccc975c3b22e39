import { accept, refuse, type Result } from '@firm-needle/core/result';
import {
  analyse,
  buildPyramid,
  columnsOf,
  delimiterOf,
  sniff,
  TableFeed,
  type Analysis,
  type Assumption,
  type Encoding,
  type PressureBasis,
  type Pyramid,
  type Said,
  type Samples,
  type TableProblem,
  type TraceKind,
} from '@firm-needle/core/trace';
import { expose, transfer } from 'comlink';
import Papa from 'papaparse';
import { fetchTrace, sendTrace, type KeptMeta } from './traceStore.ts';

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
  readonly channels: readonly string[];
  /** How its file was read; a kept trace does not know any more. */
  readonly how?: HowRead;
}

/** How a file was read: what was found in it, and what was taken as so without being said. */
export interface HowRead {
  readonly assumptions: readonly Assumption[];
  /** What the columns are called. */
  readonly pressure: string;
  readonly time: string;
  readonly basis: PressureBasis;
  readonly rows: number;
  readonly lost: number;
}

interface FileHead {
  readonly text: string;
  readonly encoding: Encoding;
  readonly delimiter: string;
}

/** How the text of a file is written, by its first bytes. */
async function headOf(file: File): Promise<Result<FileHead>> {
  const bytes = new Uint8Array(await file.slice(0, FIRST_BYTES).arrayBuffer());
  const encoding = sniff(bytes);
  if (!encoding.ok) return encoding;
  const text = new TextDecoder(encoding.value).decode(bytes);
  return accept({ text, encoding: encoding.value, delimiter: delimiterOf(text) });
}

/** Rows shown to a person who says what the columns are; enough to guess by. */
const FIRST_ROWS = 60;
const FIRST_BYTES = 64 * 1024;
/** Two columns of numbers: 16 bytes a sample, and the pyramid a twelfth of half of that. */
const MOST_SAMPLES = 60_000_000;

/** Reads, keeps, draws and analyses one trace; its samples never leave here, only what a picture needs of them. */
class TraceHost {
  private samples: Samples | undefined;
  private pyramid: Pyramid | undefined;

  /** The first rows of a file, as they were split; none where it is no table. */
  async rows(file: File): Promise<string[][]> {
    const head = await headOf(file);
    if (!head.ok) return [];
    const { data } = Papa.parse<string[]>(head.value.text, { delimiter: head.value.delimiter });
    return data.slice(0, FIRST_ROWS);
  }

  /** @param said what was said of its columns; found where nobody did */
  async read(
    file: File,
    said: Said | undefined,
    progress: (part: number) => void,
  ): Promise<Result<TraceRead>> {
    const head = await headOf(file);
    if (!head.ok) return head;
    const { encoding, delimiter } = head.value;
    const feed = new TableFeed({ said, delimiter });
    return new Promise((resolve) => {
      let failed = false;
      const fail = (r: Result<unknown>): void => {
        failed = true;
        if (!r.ok) resolve(r);
      };
      Papa.parse<string[]>(file, {
        chunkSize: 4 * 1024 * 1024,
        encoding,
        delimiter,
        chunk: ({ data, meta }, parser) => {
          for (const fields of data) {
            const wrong = feed.push(fields);
            if (!wrong || wrong.ok) continue;
            fail(wrong);
            return parser.abort();
          }
          progress(meta.cursor / Math.max(1, file.size));
          if (feed.samples <= MOST_SAMPLES) return;
          parser.abort();
          fail(
            refuse('trace-large', `The file holds more than ${MOST_SAMPLES / 1e6} million samples.`, {
              bound: `${MOST_SAMPLES / 1e6} million samples`,
              remedy: 'Cut it into pieces, or analyse it with the command line.',
            }),
          );
        },
        complete: () => {
          if (failed) return;
          const done = feed.end();
          if (!done.ok) return resolve(done);
          const { samples, problems, map, heading, rows, lost } = done.value;
          resolve(
            this.hold(samples, map.pressure.unit, problems, {
              assumptions: map.assumptions,
              pressure: heading[map.pressure.index]?.trim() || `column ${map.pressure.index + 1}`,
              time: heading[map.time.index]?.trim() || `column ${map.time.index + 1}`,
              basis: map.pressure.basis,
              rows,
              lost: Object.values(lost).reduce((a, b) => a + b, 0),
            }),
          );
        },
        error: (e) => fail(refuse('file-unreadable', e.message, { remedy: 'Choose the file again.' })),
      });
    });
  }

  /** A kept trace, fetched from the server. */
  async fetch(meta: KeptMeta, progress: (part: number) => void): Promise<Result<TraceRead>> {
    try {
      return this.hold(await fetchTrace(meta, progress), meta.unit, []);
    } catch (e) {
      return refuse('trace-not-fetched', e instanceof Error ? e.message : String(e), {
        remedy: 'Try again when there is a signal.',
      });
    }
  }

  /** Sends the trace to the server; called again after the line broke, it goes on. */
  async send(
    id: string,
    meta: Readonly<Record<string, unknown>>,
    progress: (part: number) => void,
  ): Promise<Result<number>> {
    const { samples } = this;
    if (!samples) return NO_TRACE;
    const [from_s, to_s] = [samples.t[0], samples.t[samples.t.length - 1]];
    const channels = Object.keys(samples.states);
    try {
      const all = { ...meta, channels, samples: samples.p.length, from_s, to_s };
      return accept(await sendTrace(id, all, samples, progress));
    } catch (e) {
      return refuse('trace-not-sent', e instanceof Error ? e.message : String(e), {
        remedy: 'It goes on from where it stopped when you try again.',
      });
    }
  }

  /** Low and high of every column of a picture of [from, to], Pa. */
  columns(from: number, to: number, width: number): Float64Array {
    const { samples, pyramid } = this;
    const out =
      samples && pyramid ? columnsOf(samples.t, samples.p, pyramid, from, to, width) : new Float64Array();
    return transfer(out, [out.buffer]);
  }

  /** @param lag_s time constant of the gauge and its tube, s */
  analyse(kind: TraceKind, lag_s = 0): Result<Analysis> {
    return this.samples ? analyse(this.samples, kind, undefined, this.pyramid, lag_s) : NO_TRACE;
  }

  /** A few samples about a time, s and Pa, thinned to at most `most`: what a reading keeps of its trace. */
  excerpt(at: number, reach: number, most: number): [number, number][] {
    const { t, p } = this.samples ?? { t: new Float64Array(), p: new Float64Array() };
    const inside: number[] = [];
    for (let i = 0; i < t.length; i++) if (Math.abs((t[i] ?? 0) - at) <= reach) inside.push(i);
    const stride = Math.max(1, Math.ceil(inside.length / most));
    return inside.filter((_, k) => k % stride === 0).map((i) => [t[i] ?? 0, p[i] ?? 0]);
  }

  private hold(
    samples: Samples,
    unit: string,
    problems: readonly TableProblem[],
    how?: HowRead,
  ): Result<TraceRead> {
    this.samples = samples;
    this.pyramid = buildPyramid(samples.p);
    const top = this.pyramid.levels.at(-1) ?? new Float64Array();
    let [low, high] = [Infinity, -Infinity];
    for (let i = 0; i < top.length; i += 2) {
      low = Math.min(low, top[i] ?? Infinity);
      high = Math.max(high, top[i + 1] ?? -Infinity);
    }
    return accept({
      samples: samples.p.length,
      from: samples.t[0] ?? 0,
      to: samples.t[samples.t.length - 1] ?? 0,
      low,
      high,
      problems,
      unit,
      channels: Object.keys(samples.states),
      ...(how ? { how } : {}),
    });
  }
}

const NO_TRACE = refuse('no-trace', 'No trace was read yet.', { remedy: 'Choose a file.' });

export type { TraceHost };
expose(new TraceHost());

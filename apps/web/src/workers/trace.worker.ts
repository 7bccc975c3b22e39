import { accept, refuse, type Refusal, type Result } from '@firm-needle/core/result';
import {
  analyse,
  buildPyramid,
  columnsOf,
  joinTraces,
  type Analysis,
  type Assumption,
  type PressureBasis,
  type Pyramid,
  type Said,
  type Samples,
  type TableProblem,
  type TraceKind,
} from '@firm-needle/core/trace';
import { headRows, readFile, type FileRead, type ReadOptions } from '@firm-needle/tables';
import { expose, transfer } from 'comlink';
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
  /** It writes the time of day alone. */
  readonly clock: boolean;
  readonly rows: number;
  readonly lost: number;
}

/** A file's bytes, a piece at a time. */
async function* piecesOf(file: Blob): AsyncGenerator<Uint8Array> {
  const reader = file.stream().getReader();
  try {
    for (let next = await reader.read(); !next.done; next = await reader.read()) yield next.value;
  } finally {
    await reader.cancel().catch(() => undefined);
  }
}

/** Rows shown to a person who says what the columns are; enough to guess by. */
const FIRST_ROWS = 60;
async function readOne(
  file: File,
  options: ReadOptions,
  progress: (bytes: number) => void,
): Promise<Result<FileRead>> {
  try {
    return await readFile(piecesOf(file), { ...options, size: file.size, progress });
  } catch (e) {
    // A file that changed since it was chosen cannot be read on.
    return refuse('file-unreadable', e instanceof Error ? e.message : String(e), {
      remedy: 'Choose the file again.',
    });
  }
}

/** Of several files, which. */
const ofFile = (file: File, r: Refusal): Result<never> => ({
  ok: false,
  refusal: { ...r, message: `${file.name}: ${r.message}` },
});

const howOf = ({ map, heading, rows, skipped }: FileRead): HowRead => ({
  assumptions: map.assumptions,
  pressure: heading[map.pressure.index]?.trim() || `column ${map.pressure.index + 1}`,
  time: heading[map.time.index]?.trim() || `column ${map.time.index + 1}`,
  basis: map.pressure.basis,
  clock: map.time.form === 'clock',
  rows,
  lost: skipped,
});

/** Reads, keeps, draws and analyses one trace; its samples never leave here, only what a picture needs of them. */
class TraceHost {
  private samples: Samples | undefined;
  private pyramid: Pyramid | undefined;
  /** Where it was recorded, Pa absolute; at sea level where nobody said. */
  private ambient: number | undefined;

  /**
   * The first rows of a file, as they were split; none where it is no table.
   * @param delimiter what parts its cells, where somebody said
   */
  async rows(file: File, delimiter?: string): Promise<readonly (readonly string[])[]> {
    return await headRows(piecesOf(file), FIRST_ROWS, delimiter).catch(() => []);
  }

  /**
   * Reads a file, or several of one logger as one trace.
   * @param said what was said of their columns; found where nobody did
   * @param ambient the air where it was recorded, Pa absolute, where it is known
   */
  async read(
    files: readonly File[],
    said: Said | undefined,
    ambient: number | undefined,
    progress: (part: number) => void,
  ): Promise<Result<TraceRead>> {
    const all = files.reduce((n, f) => n + f.size, 0);
    let before = 0;
    const read: FileRead[] = [];
    for (const file of files) {
      const one = await readOne(file, { said, ambient }, (bytes) =>
        progress((before + bytes) / Math.max(1, all)),
      );
      if (!one.ok) return files.length > 1 ? ofFile(file, one.refusal) : one;
      read.push(one.value);
      before += file.size;
    }
    const [first] = read;
    if (!first) return NO_TRACE;
    this.ambient = ambient;
    const { unit } = first.map.pressure;
    if (read.length === 1) return this.hold(first.samples, unit, first.problems, howOf(first));
    const joined = joinTraces(read.map((r, i) => ({ name: files[i]?.name ?? '', samples: r.samples })));
    if (!joined.ok) return joined;
    const { samples, order, twice } = joined.value;
    const problems = read.flatMap((r, i) =>
      r.problems.map((p) => ({ ...p, message: `${files[i]?.name ?? ''}: ${p.message}` })),
    );
    const assumed = new Map(read.flatMap((r) => r.map.assumptions).map((a) => [a.said, a]));
    return this.hold(samples, unit, problems, {
      ...howOf(first),
      rows: read.reduce((n, r) => n + r.rows, 0),
      lost: read.reduce((n, r) => n + r.skipped, 0),
      assumptions: [
        {
          about: 'rows',
          said: `${order.length} files as one, in the order of their times: ${order.join(', ')}${
            twice > 0 ? `; ${twice.toLocaleString('en')} samples stood in two of them` : ''
          }.`,
        },
        ...assumed.values(),
      ],
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
    const { samples, ambient, pyramid } = this;
    return samples ? analyse(samples, kind, ambient, pyramid, lag_s) : NO_TRACE;
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

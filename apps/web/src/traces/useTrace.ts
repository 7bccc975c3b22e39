import { refuse, type Refusal, type Result } from '@firm-needle/core/result';
import {
  headingOf,
  type Analysis,
  type ColumnChoice,
  type EventCorrection,
  type TraceKind,
} from '@firm-needle/core/trace';
import { proxy, wrap, type Remote } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import { v7 as uuid } from 'uuid';
import type { TraceHost, TraceRead } from '../workers/trace.worker.ts';
import type { KeptMeta } from '../workers/traceStore.ts';

export interface OpenTrace {
  /** Made on the device; the trace is kept under it. */
  readonly id: string;
  readonly name: string | undefined;
  /** It came from the server. */
  readonly kept: boolean;
  /** First rows of the file, for a person who says what its columns are. */
  readonly rows: readonly (readonly string[])[];
  readonly read: TraceRead | undefined;
  readonly analysis: Analysis | undefined;
  readonly corrections: readonly EventCorrection[];
  readonly refusal: Refusal | undefined;
  /** Part of the file read so far; undefined while nothing is being read. */
  readonly progress: number | undefined;
  readonly host: Remote<TraceHost> | undefined;
  /** Several files are read as one trace. */
  open(files: readonly File[]): void;
  openKept(meta: KeptMeta & { readonly corrections: readonly EventCorrection[] }): void;
  /** Read the file again with these columns, and every later file with the same heading. */
  choose(choice: ColumnChoice): void;
  /** What parts the cells, where somebody said; its first rows are split so. */
  readonly delimiter: string | undefined;
  split(delimiter: string | undefined): void;
  correct(c: EventCorrection): void;
  cancel(): void;
}

const REMEMBERED = 'firm-needle.columns';
const MOST_REMEMBERED = 40;

type Remembered = readonly (readonly [heading: string, choice: ColumnChoice])[];

function remembered(): Remembered {
  try {
    return JSON.parse(localStorage.getItem(REMEMBERED) ?? '[]') as Remembered;
  } catch {
    return [];
  }
}

const headingKey = (rows: readonly (readonly string[])[]): string => headingOf(rows).join('\t');

function remember(key: string, choice: ColumnChoice): void {
  // A file without a heading says nothing by which the next one could be known.
  if (key === '') return;
  const others = remembered().filter(([h]) => h !== key);
  localStorage.setItem(REMEMBERED, JSON.stringify([[key, choice], ...others].slice(0, MOST_REMEMBERED)));
}

const ENDED = refuse('reading-ended', 'The file could not be read to its end on this device.', {
  remedy: 'Close what else is open and choose it again, or cut it into parts.',
});

/**
 * One trace in its worker: read with progress, cancelled by ending the worker, analysed anew for another kind or another lag.
 * @param lag_s time constant of the gauge and its tube, s
 * @param ambient the air where it was recorded, Pa absolute, where it is known
 */
export function useTrace(kind: TraceKind, lag_s = 0, ambient?: number): OpenTrace {
  const worker = useRef<Worker>(undefined);
  const [host, setHost] = useState<Remote<TraceHost>>();
  const [id, setId] = useState(() => uuid());
  const [files, setFiles] = useState<readonly File[]>([]);
  const [name, setName] = useState<string>();
  const [rows, setRows] = useState<readonly (readonly string[])[]>([]);
  const [read, setRead] = useState<TraceRead>();
  const [analysis, setAnalysis] = useState<Analysis>();
  const [corrections, setCorrections] = useState<readonly EventCorrection[]>([]);
  const [refusal, setRefusal] = useState<Refusal>();
  const [progress, setProgress] = useState<number>();
  const [delimiter, setDelimiter] = useState<string>();
  const reader = useRef<Remote<TraceHost>>(undefined);
  /** By what the next file of this logger is known: its heading as it is split where nobody says how. */
  const key = useRef('');

  const end = useCallback((): void => {
    worker.current?.terminate();
    worker.current = undefined;
    reader.current = undefined;
    setHost(undefined);
    setRead(undefined);
    setAnalysis(undefined);
    setCorrections([]);
    setRefusal(undefined);
    setProgress(undefined);
  }, []);
  useEffect(() => end, [end]);

  /** Begins with a fresh worker and has it read. What an ended one had still to say, of how far it was or what it found, is not heard. */
  const begin = (
    job: (
      remote: Remote<TraceHost>,
      tell: (part: number) => void,
      stands: () => boolean,
    ) => Promise<Result<TraceRead>>,
  ): void => {
    end();
    const own = new Worker(new URL('../workers/trace.worker.ts', import.meta.url), { type: 'module' });
    worker.current = own;
    const remote = wrap<TraceHost>(own);
    reader.current = remote;
    setProgress(0);
    let reading = true;
    const stands = (): boolean => worker.current === own;
    const tell = (part: number): void => {
      if (reading && stands()) setProgress(part);
    };
    const came = (r: Result<TraceRead>): void => {
      reading = false;
      if (!stands()) return;
      setProgress(undefined);
      if (!r.ok) return setRefusal(r.refusal);
      setRead(r.value);
      setHost(() => remote);
    };
    // A worker that could not be loaded, or had no room left, says so itself; it never answers.
    own.onerror = () => came(ENDED);
    void job(remote, tell, stands).then(came, () => came(ENDED));
  };

  const open = (next: readonly File[], said?: ColumnChoice): void => {
    const [first] = next;
    if (!first) return;
    setId(uuid());
    setFiles(next);
    setName(next.length === 1 ? first.name : `${first.name} and ${next.length - 1} more`);
    begin(async (remote, tell, stands) => {
      const found = await remote.rows(first);
      const heading = headingKey(found);
      if (stands()) key.current = heading;
      const choice: ColumnChoice | undefined = said ?? remembered().find(([h]) => h === heading)?.[1];
      const by = choice?.delimiter;
      const parted = by === undefined ? found : await remote.rows(first, by);
      if (stands()) {
        setRows(parted);
        setDelimiter(by);
      }
      return remote.read(next, choice, ambient, proxy(tell));
    });
  };
  const choose = (choice: ColumnChoice): void => {
    if (files.length === 0) return;
    remember(key.current, choice);
    open(files, choice);
  };
  const split = (by: string | undefined): void => {
    const [first] = files;
    const remote = reader.current;
    if (!first || !remote) return;
    setDelimiter(by);
    void remote.rows(first, by).then((parted) => {
      if (reader.current === remote) setRows(parted);
    });
  };
  const openKept: OpenTrace['openKept'] = (meta) => {
    setId(meta.id);
    setFiles([]);
    setName(meta.name);
    setRows([]);
    begin((remote, tell) => remote.fetch(meta, proxy(tell)));
    setCorrections(meta.corrections);
  };

  useEffect(() => {
    if (!host || !read) return;
    let wanted = true;
    setAnalysis(undefined);
    void host.analyse(kind, lag_s).then((r) => {
      if (!wanted) return;
      if (r.ok) setAnalysis(r.value);
      else setRefusal(r.refusal);
    });
    return () => {
      wanted = false;
    };
  }, [host, read, kind, lag_s]);

  return {
    id,
    name,
    kept: read !== undefined && files.length === 0,
    rows,
    read,
    analysis,
    corrections,
    refusal,
    progress,
    host,
    open: (f) => open(f),
    openKept,
    choose,
    delimiter,
    split,
    correct: (c) => setCorrections((all) => [...all, c]),
    cancel: end,
  };
}

import type { Analysis, Refusal, TraceKind } from '@firm-needle/core';
import { proxy, wrap, type Remote } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { TraceHost, TraceRead } from '../../workers/trace.worker.ts';

export interface OpenTrace {
  readonly file: File | undefined;
  readonly read: TraceRead | undefined;
  readonly analysis: Analysis | undefined;
  readonly refusal: Refusal | undefined;
  /** Part of the file read so far; undefined while nothing is being read. */
  readonly progress: number | undefined;
  readonly host: Remote<TraceHost> | undefined;
  open(file: File, unit?: string): void;
  cancel(): void;
}

/** One trace in its worker: read with progress, cancelled by ending the worker, analysed anew for another kind. */
export function useTrace(kind: TraceKind): OpenTrace {
  const worker = useRef<Worker>(undefined);
  const [host, setHost] = useState<Remote<TraceHost>>();
  const [file, setFile] = useState<File>();
  const [read, setRead] = useState<TraceRead>();
  const [analysis, setAnalysis] = useState<Analysis>();
  const [refusal, setRefusal] = useState<Refusal>();
  const [progress, setProgress] = useState<number>();

  const end = useCallback((): void => {
    worker.current?.terminate();
    worker.current = undefined;
    setHost(undefined);
    setRead(undefined);
    setAnalysis(undefined);
    setRefusal(undefined);
    setProgress(undefined);
  }, []);
  useEffect(() => end, [end]);

  const open = (next: File, unit?: string): void => {
    end();
    const own = new Worker(new URL('../../workers/trace.worker.ts', import.meta.url), { type: 'module' });
    worker.current = own;
    const remote = wrap<TraceHost>(own);
    setFile(next);
    setProgress(0);
    void remote.read(next, unit, proxy(setProgress)).then((r) => {
      if (worker.current !== own) return;
      setProgress(undefined);
      if (!r.ok) return setRefusal(r.refusal);
      setRead(r.value);
      setHost(() => remote);
    });
  };

  useEffect(() => {
    if (!host || !read) return;
    let wanted = true;
    setAnalysis(undefined);
    void host.analyse(kind).then((r) => {
      if (!wanted) return;
      if (r.ok) setAnalysis(r.value);
      else setRefusal(r.refusal);
    });
    return () => {
      wanted = false;
    };
  }, [host, read, kind]);

  return { file, read, analysis, refusal, progress, host, open, cancel: end };
}

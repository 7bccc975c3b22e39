import type { Refusal } from '@firm-needle/core/result';
import type { TraceKind } from '@firm-needle/core/trace';
import { proxy } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import { v7 as uuid } from 'uuid';
import { useCorrectTraceMutation, useTraceKeptMutation } from '../store/api.ts';
import type { OpenTrace } from './useTrace.ts';

export interface Keeping {
  readonly busy: boolean;
  readonly done: boolean;
  /** Part of it that the server has. */
  readonly part: number;
  readonly refusal: Refusal | undefined;
  start(to: { readonly controlId?: string; readonly jobId?: string }): void;
}

/** Sends a trace to the server and, once it is there, what was said of its events. After a broken line it goes on where it stopped. */
export function useKeep(trace: OpenTrace, kind: TraceKind): Keeping {
  const [kept, setKept] = useState<string>();
  const [busy, setBusy] = useState(false);
  const [part, setPart] = useState(0);
  const [refusal, setRefusal] = useState<Refusal>();
  const [told] = useTraceKeptMutation();
  const [correct] = useCorrectTraceMutation();
  const { id, host, read, name, corrections } = trace;
  const sent = useRef({ id: '', n: 0 });
  const done = kept === id || trace.kept;
  useEffect(() => {
    setRefusal(undefined);
    setPart(0);
  }, [id]);
  useEffect(() => {
    // What a kept trace came with is on the server already.
    if (sent.current.id !== id) sent.current = { id, n: trace.kept ? corrections.length : 0 };
    if (!done) return;
    for (const body of corrections.slice(sent.current.n)) void correct({ id, said: uuid(), body });
    sent.current.n = corrections.length;
  }, [done, id, trace.kept, corrections, correct]);
  return {
    busy,
    done,
    part,
    refusal,
    start: (to) => {
      if (!host || !read) return;
      setBusy(true);
      setRefusal(undefined);
      const meta = { name: name ?? 'trace', kind, unit: read.unit, ...to };
      void host.send(id, meta, proxy(setPart)).then((r) => {
        setBusy(false);
        if (!r.ok) return setRefusal(r.refusal);
        setKept(id);
        void told();
      });
    },
  };
}

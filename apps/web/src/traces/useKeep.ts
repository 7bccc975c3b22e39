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

const BROKEN_OFF: Refusal = {
  code: 'broken-off',
  message: 'The sending broke off on this device.',
  remedy: 'Send it once more; what arrived is not sent again.',
};

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
  const shown = useRef(id);
  shown.current = id;
  useEffect(() => {
    // The worker that was sending another one has ended with it, and says nothing any more.
    setBusy(false);
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
      const sofar = (sentPart: number): void => {
        if (shown.current === id) setPart(sentPart);
      };
      const over = (wrong?: Refusal): void => {
        if (!wrong) void told();
        if (shown.current !== id) return;
        setBusy(false);
        if (wrong) setRefusal(wrong);
        else setKept(id);
      };
      void host.send(id, meta, proxy(sofar)).then(
        (r) => over(r.ok ? undefined : r.refusal),
        () => over(BROKEN_OFF),
      );
    },
  };
}

import type { DossierTaken, ImportLine, ImportState, Page, Problem } from '@firm-needle/contract';
import { useCallback, useEffect, useRef, useState } from 'react';
import { v7 as uuid } from 'uuid';
import { api } from '../../store/api.ts';
import { request, sendFile, type Answer } from '../../store/http.ts';
import { useAppDispatch } from '../../store/index.ts';

const LOOK_MS = 400;
const DOSSIER_TYPE = 'application/vnd.firm-needle.dossier+json';

/** A file on its way in: what is known of it, and what can be done with it. */
export interface Import {
  readonly state: ImportState | undefined;
  readonly dossier: DossierTaken | undefined;
  readonly problem: Problem | undefined;
  readonly busy: boolean;
  choose(file: File): void;
  take(): void;
  cancel(): void;
  clear(): void;
}

/** Reads a file in: a table is looked at first and then taken, a dossier is taken at once; both whole or not at all. */
export function useImport(): Import {
  const dispatch = useAppDispatch();
  const [state, setState] = useState<ImportState>();
  const [dossier, setDossier] = useState<DossierTaken>();
  const [problem, setProblem] = useState<Problem>();
  const [busy, setBusy] = useState(false);
  const id = useRef<string | undefined>(undefined);
  // How far it has come, while it is looked at or taken in.
  useEffect(() => {
    if (!busy) return;
    const timer = setInterval(() => {
      const of = id.current;
      if (of)
        void request<ImportState>('GET', `/imports/${of}`).then((a) => {
          if (a.ok && id.current === of) setState((s) => (s && s.lines > a.data.lines ? s : a.data));
        });
    }, LOOK_MS);
    return () => clearInterval(timer);
  }, [busy]);
  const run = useCallback(async (work: () => Promise<Answer<ImportState>>): Promise<void> => {
    setBusy(true);
    setProblem(undefined);
    const answer = await work();
    setBusy(false);
    if (answer.ok) setState(answer.data);
    else setProblem(answer.problem);
  }, []);
  const news = useCallback(() => {
    dispatch(api.util.invalidateTags(['Site', 'Control', 'Due', 'Visit', 'Gauge', 'Job']));
  }, [dispatch]);
  const clear = useCallback(() => {
    id.current = undefined;
    setState(undefined);
    setDossier(undefined);
    setProblem(undefined);
  }, []);
  return {
    state,
    dossier,
    problem,
    busy,
    clear,
    choose: (file) => {
      clear();
      if (/\.json$/i.test(file.name)) {
        setBusy(true);
        void sendFile<DossierTaken>('POST', '/dossiers', file, DOSSIER_TYPE).then((answer) => {
          setBusy(false);
          if (!answer.ok) return setProblem(answer.problem);
          setDossier(answer.data);
          news();
        });
        return;
      }
      const own = uuid();
      id.current = own;
      void run(() =>
        sendFile(
          'PUT',
          `/imports/${own}?name=${encodeURIComponent(file.name.slice(0, 200))}`,
          file,
          'text/csv',
        ),
      );
    },
    take: () => {
      const of = id.current;
      if (of) void run(() => request<ImportState>('POST', `/imports/${of}/take`)).then(news);
    },
    cancel: () => {
      const of = id.current;
      if (of) void request<ImportState>('DELETE', `/imports/${of}`).then((a) => a.ok && setState(a.data));
    },
  };
}

/** A piece of a file's lines, of one fate. */
export const linesOf = (id: string, fate: string, after: number): Promise<Answer<Page<ImportLine>>> =>
  request('GET', `/imports/${id}/lines?fate=${fate}&after=${after}`);

import type { LevelId, RunKind, Word } from '@firm-needle/core/practice';
import { useCallback, useEffect, useState } from 'react';
import { runsHere, sendRuns } from '../../practice/runs.ts';
import { usePracticeRunsQuery } from '../../store/api.ts';
import { useMe } from '../../store/me.ts';

/** A run in the list, from this device or from the server. */
export interface Run {
  readonly id: string;
  readonly kind: RunKind;
  readonly family: string;
  readonly variant: string;
  readonly level: LevelId;
  readonly startedAt: string;
  readonly over: boolean;
  readonly word?: Word;
  readonly k?: number;
  readonly missed: readonly string[];
  /** It waits on this device for a signal. */
  readonly waits: boolean;
  /** Why the server did not take it. */
  readonly refused?: string;
  readonly sure?: { readonly c: number; readonly right: boolean };
}

export interface Runs {
  readonly all: readonly Run[];
  readonly again: () => void;
}

/** Somebody’s own runs: what is on this device, and what the server has from others. */
export function useRuns(): Runs {
  const me = useMe();
  const server = usePracticeRunsQuery();
  const [here, setHere] = useState<readonly Run[]>([]);
  const { refetch } = server;
  const read = useCallback(async (): Promise<void> => {
    const kept = await runsHere(me.id);
    setHere(
      kept.map(({ id, record, sent, refused }) => ({
        ...record,
        id,
        over: record.endedAt !== undefined,
        missed: [],
        waits: record.endedAt !== undefined && sent === 0,
        ...(refused ? { refused: refused.detail } : {}),
      })),
    );
  }, [me.id]);
  const again = useCallback(() => {
    void read();
    void sendRuns(me.id).then(async () => {
      await read();
      void refetch();
    });
  }, [read, me.id, refetch]);
  useEffect(() => {
    again();
    addEventListener('online', again);
    return () => removeEventListener('online', again);
  }, [again]);
  const told = (server.data?.items ?? []).map((r): Run => {
    const { k, sure, ...rest } = r;
    return {
      ...rest,
      over: true,
      waits: false,
      ...(k === null ? {} : { k }),
      ...(sure === null ? {} : { sure }),
    };
  });
  const known = new Set(told.map((r) => r.id));
  return {
    all: [...told, ...here.filter((r) => !known.has(r.id))].sort((a, b) =>
      b.startedAt.localeCompare(a.startedAt),
    ),
    again,
  };
}

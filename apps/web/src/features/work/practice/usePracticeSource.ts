import { ambientOf } from '@firm-needle/core/family';
import type { RunRecord } from '@firm-needle/core/practice';
import { traceKindOf } from '@firm-needle/families';
import { useEffect, useReducer, useState } from 'react';
import type { Live } from '../useLiveSource.ts';
import { LiveSession } from '../../../live/liveSession.ts';
import { RigSource } from '../../../live/rigSource.ts';
import type { OpenJob } from '../../../sync/useJob.ts';

/** A test that was left for longer has stood still since, s. */
const MOST_AWAY_S = 3600;

export interface PracticeLive extends Live {
  readonly rig: RigSource;
}

/** The installation of a run: its fault is opened in the rig’s worker alone. */
export function usePracticeSource(
  job: OpenJob | undefined,
  record: RunRecord | undefined,
): { readonly live: PracticeLive | undefined; readonly reopen: () => void } {
  const [live, setLive] = useState<PracticeLive>();
  const [opening, again] = useReducer((n: number) => n + 1, 0);
  const id = record?.endedAt ? undefined : record?.id;
  const family = job?.family;
  useEffect(() => {
    if (!id || !family || !record) return;
    let wanted = true;
    let opened: LiveSession | undefined;
    const { variant, sealed, kind } = record;
    void RigSource.open(id, { family: family.meta.id, variant, sealed, spares: kind === 'lesson' }).then(
      ({ source, trace, keptAt }) => {
        if (!wanted) return source.close();
        // The clock of a test ran on while nobody looked.
        if (record.kind === 'test' && keptAt !== undefined)
          void source.advance(Math.min(MOST_AWAY_S, Math.max(0, (Date.now() - keptAt) / 1000)));
        const ambient = job && ambientOf(job.view.started.site);
        opened = new LiveSession(
          source,
          trace,
          traceKindOf(family.meta.id),
          ambient?.ok ? ambient.value : undefined,
        );
        setLive({ session: opened, rig: source });
        // For tests: the rig’s clock can be stepped from the console.
        Object.assign(window, { firmNeedleRig: source });
      },
    );
    return () => {
      wanted = false;
      opened?.close();
      setLive(undefined);
    };
    // A run has one installation; its log does not change it.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [id, family, opening]);
  return { live, reopen: again };
}

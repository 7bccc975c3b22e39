import type { StartedBody } from '@firm-needle/core/procedure';
import { useEffect, useState } from 'react';
import { outbox } from './outbox.ts';
import { deviceDb } from './db.ts';

/** A job that this device has events of. */
export interface JobHere {
  readonly job: string;
  readonly control: string;
  readonly signed: boolean;
}

/** Jobs kept on this device, whether or not the server knows of them yet. */
export function useJobsHere(): readonly JobHere[] {
  const [jobs, setJobs] = useState<readonly JobHere[]>([]);
  useEffect(() => {
    let wanted = true;
    const look = async (): Promise<void> => {
      const all = await (await deviceDb()).getAll('events');
      const out = new Map<string, JobHere>();
      for (const { job, event } of all)
        if (event.body.kind === 'started')
          out.set(job, { job, control: (event.body as StartedBody).control.id, signed: false });
      for (const { job, event } of all) {
        const j = out.get(job);
        if (j && event.body.kind === 'sign') out.set(job, { ...j, signed: true });
      }
      if (wanted) setJobs([...out.values()]);
    };
    void look();
    const stop = outbox.onSent(() => void look());
    return () => {
      wanted = false;
      stop();
    };
  }, []);
  return jobs;
}

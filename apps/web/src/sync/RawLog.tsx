import type { JobEvent } from '@firm-needle/core/procedure';
import Button from '@mui/material/Button';
import { useEffect, useState } from 'react';
import { withDb } from './db.ts';

/** The log of a job as this device keeps it, entry by entry, without making anything of it. */
export function RawLog({ job }: { job: string }) {
  const [events, setEvents] = useState<readonly JobEvent[]>();
  useEffect(() => {
    let wanted = true;
    void withDb((db) => db.getAllFromIndex('events', 'job', job)).then(
      (kept) => wanted && setEvents(kept.map((k) => k.event)),
      () => wanted && setEvents([]),
    );
    return () => {
      wanted = false;
    };
  }, [job]);
  if (!events) return null;
  const text = JSON.stringify(events, null, 1);
  return (
    <section aria-label="The log of the job">
      <h2>Its log, {events.length === 1 ? '1 entry' : `${events.length} entries`}</h2>
      <Button
        component="a"
        download={`job-${job}.json`}
        href={`data:application/json,${encodeURIComponent(text)}`}
      >
        Save it as a file
      </Button>
      <ol className="raw-log">
        {events.map((e, i) => (
          <li key={e?.id ?? i}>
            <code>{JSON.stringify(e?.body ?? e).slice(0, 300)}</code>
          </li>
        ))}
      </ol>
    </section>
  );
}

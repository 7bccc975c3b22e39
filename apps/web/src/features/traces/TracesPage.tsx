import { parseQuantity } from '@firm-needle/core/quantity';
import { LONGEST_LAG_S } from '@firm-needle/core/trace';
import { tracedFamilies } from '@firm-needle/families';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { format, parseISO } from 'date-fns';
import { useState } from 'react';
import { useLazyTraceQuery, useTracesQuery } from '../../store/api.ts';
import { TraceDesk } from '../../traces/TraceDesk.tsx';
import { useKeep } from '../../traces/useKeep.ts';
import { useTrace } from '../../traces/useTrace.ts';

/** A logger's file: read in a worker, drawn whole, told in figures, corrected by hand, and kept. Works without a signal. */
export function TracesPage() {
  const families = tracedFamilies();
  const [family, setFamily] = useState(families[0]?.id ?? '');
  const kind = families.find((f) => f.id === family)?.kind ?? 'cycles';
  const [lag, setLag] = useState('');
  const said = lag.trim() === '' ? undefined : parseQuantity(lag, 'time', 's');
  const wrong = said && (!said.ok || said.value.value < 0 || said.value.value > LONGEST_LAG_S);
  const trace = useTrace(kind, said?.ok && !wrong ? said.value.value : 0);
  const keep = useKeep(trace, kind);
  return (
    <>
      <div className="page-head">
        <h1>Traces</h1>
        <span className="soft">A logger’s CSV, read on this device. It is sent only when you keep it.</span>
      </div>
      <TraceDesk
        trace={trace}
        beside={
          <>
            <TextField
              select
              size="small"
              label="What it was recorded on"
              value={family}
              onChange={(e) => setFamily(e.target.value)}
            >
              {families.map((f) => (
                <MenuItem key={f.id} value={f.id}>
                  {f.title}
                </MenuItem>
              ))}
            </TextField>
            <TextField
              size="small"
              label="Lag of gauge and tube"
              value={lag}
              placeholder="0 s"
              error={wrong ?? false}
              helperText={wrong ? `A time from 0 to ${LONGEST_LAG_S} s.` : ''}
              onChange={(e) => setLag(e.target.value)}
            />
          </>
        }
        beneath={<Sample onOpen={trace.open} />}
      >
        {() => (
          <div className="trace-keep">
            <Button variant="outlined" disabled={keep.busy || keep.done} onClick={() => keep.start({})}>
              {keep.done ? 'Kept' : keep.refusal ? 'Go on sending' : 'Keep it on the server'}
            </Button>
            {keep.busy && (
              <LinearProgress variant="determinate" value={keep.part * 100} aria-label="Sending the trace" />
            )}
            {keep.refusal && (
              <span role="alert">
                {keep.refusal.message} {keep.refusal.remedy}
              </span>
            )}
            {keep.done && <span className="soft">Corrections made from now on are kept with it.</span>}
          </div>
        )}
      </TraceDesk>
      <KeptTraces onOpen={trace.openKept} />
    </>
  );
}

/** A file to try it on, recorded on the simulated rig of a well pump switch; ships with the page, so it opens without a signal. */
function Sample({ onOpen }: { onOpen: (file: File) => void }) {
  const [failed, setFailed] = useState(false);
  const open = async (): Promise<void> => {
    try {
      const answer = await fetch('/sample-trace.csv');
      if (!answer.ok) throw new Error(String(answer.status));
      onOpen(new File([await answer.blob()], 'sample: well pump switch.csv', { type: 'text/csv' }));
      setFailed(false);
    } catch {
      setFailed(true);
    }
  };
  return (
    <Button size="small" variant="text" onClick={() => void open()}>
      {failed ? 'The sample is not on this device yet' : 'Try a sample'}
    </Button>
  );
}

function KeptTraces({ onOpen }: { onOpen: ReturnType<typeof useTrace>['openKept'] }) {
  const kept = useTracesQuery();
  const [fetch] = useLazyTraceQuery();
  const items = kept.data?.items ?? [];
  if (items.length === 0) return null;
  return (
    <section className="trace-kept">
      <h2>Kept</h2>
      <ul>
        {items.map((t) => (
          <li key={t.id}>
            <Button
              size="small"
              onClick={() =>
                void fetch(t.id).then(({ data }) => {
                  if (data) onOpen(data);
                })
              }
            >
              {t.name}
            </Button>
            <span className="soft">
              {t.samples.toLocaleString('en')} samples, {format(parseISO(t.createdAt), 'd MMM yyyy')}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

import { parseQuantity } from '@firm-needle/core/quantity';
import { LONGEST_LAG_S } from '@firm-needle/core/trace';
import { tracedFamilies } from '@firm-needle/families';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useEffect, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { useTraceQuery } from '../../store/api.ts';
import { TraceDesk } from '../../traces/TraceDesk.tsx';
import { useKeep } from '../../traces/useKeep.ts';
import { useTrace } from '../../traces/useTrace.ts';
import { problemOf } from '../../ui/States.tsx';
import { KeptTraces } from './KeptTraces.tsx';

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
  const { id } = useParams();
  const navigate = useNavigate();
  const kept = useTraceQuery(id ?? '', { skip: id === undefined });
  const found = id === undefined ? undefined : kept.currentData;
  const { openKept } = trace;
  useEffect(() => {
    if (!found || found.id === trace.id) return;
    openKept(found);
    // What it was kept as is what is looked for in it.
    const own = families.find((f) => f.kind === found.kind);
    if (own && found.kind !== kind) setFamily(own.id);
    // A kept trace is opened once, when its address says so.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [found]);
  const desk = {
    ...trace,
    open: (files: readonly File[]) => {
      if (id !== undefined) void navigate('/traces');
      trace.open(files);
    },
  };
  return (
    <>
      <div className="page-head">
        <h1>Traces</h1>
        <span className="soft">
          A logger’s table or workbook, read on this device. It is sent only when you keep it.
        </span>
      </div>
      <TraceDesk
        trace={desk}
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
        beneath={<Sample onOpen={(file) => desk.open([file])} />}
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
      {kept.error && id !== undefined && (
        <p className="caution" role="alert">
          {problemOf(kept.error)?.detail} A kept trace is fetched from the server.
        </p>
      )}
      <KeptTraces openId={id} />
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

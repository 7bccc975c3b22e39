import { shownAs } from '@firm-needle/core/gauge';
import type { Figures } from '@firm-needle/core/trace';
import { traceKindOf } from '@firm-needle/families';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useEffect } from 'react';
import type { OpenJob } from '../../sync/useJob.ts';
import { TraceDesk } from '../../traces/TraceDesk.tsx';
import { useKeep } from '../../traces/useKeep.ts';
import { useTrace } from '../../traces/useTrace.ts';
import { ambientOn } from './ambient.ts';
import type { Actions } from './useActions.ts';

interface Props {
  readonly job: OpenJob;
  readonly actions: Actions;
  /** Dropped on the job. */
  readonly file?: File | undefined;
  readonly onClose: () => void;
}

/** Samples that a reading keeps of its trace, and how far on each side of it, s. */
const EXCERPT = 120;
const REACH_S = 60;

/** A logger's file on a job: what it shows is taken as the reading that the job asks for, one press a figure. */
export function TraceDialog({ job, actions, file, onClose }: Props) {
  const kind = traceKindOf(job.family.meta.id) ?? 'cycles';
  const trace = useTrace(kind, 0, ambientOn(job.view));
  const keep = useKeep(trace, kind);
  useEffect(() => {
    if (file) trace.open([file]);
    // A file is read once, when it was dropped.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [file]);
  const item = job.offered.now;
  const step = item?.step.kind === 'read' && job.offered.missing.length === 0 ? item.step : undefined;
  const gauge = step && job.view.gauge(step.slot);
  const setting = step && job.view.setting(step.setting);
  const asked = setting?.title.toLowerCase();
  const take = async (name: string, figures: Figures, at: number): Promise<void> => {
    const f = figures[name];
    if (!item || !step || !gauge || !f || !trace.host) return;
    const excerpt = await trace.host.excerpt(at, REACH_S, EXCERPT);
    void actions.read(item, step, shownAs(gauge, f.value), {
      state: 'caught',
      trace: { id: trace.id, name: trace.name ?? '', n: f.n, u: f.u },
      excerpt,
    });
    if (!keep.done && !keep.busy) keep.start({ jobId: job.view.state.job });
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="lg">
      <DialogTitle>A logger’s file</DialogTitle>
      <DialogContent>
        <p className="soft">
          {gauge
            ? `The job asks for the ${asked}. What the file says is taken as read by gauge ${gauge.label}; where the logger has a sensor of its own, change the gauge first.`
            : 'The job asks for no reading now; figures can be taken when it does.'}
        </p>
        <TraceDesk
          trace={trace}
          onFigure={(name, figures, events) =>
            name === (setting?.traced ?? setting?.id) && (
              <Button
                size="small"
                variant="contained"
                disabled={actions.settling}
                onClick={() => void take(name, figures, events.findLast((e) => e.kind === name)?.t ?? 0)}
              >
                Take it as the {asked}
              </Button>
            )
          }
        >
          {() => (
            <p className="soft" role="status">
              {keep.done
                ? 'The file is kept with the job.'
                : keep.busy
                  ? `Sending the file, ${Math.round(keep.part * 100)} %.`
                  : (keep.refusal?.message ??
                    'The file is kept with the job once a figure is taken from it.')}
            </p>
          )}
        </TraceDesk>
      </DialogContent>
      <DialogActions>
        {keep.refusal && (
          <Button onClick={() => keep.start({ jobId: job.view.state.job })}>Go on sending</Button>
        )}
        <Button onClick={onClose}>Back to the job</Button>
      </DialogActions>
    </Dialog>
  );
}

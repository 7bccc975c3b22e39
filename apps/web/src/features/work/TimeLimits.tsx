import Button from '@mui/material/Button';
import { missingOf, type TimeLimit, type WalkItem } from '@firm-needle/core/procedure';
import { useEffect, useState } from 'react';
import { cue } from '../../live/cues.ts';
import { useAppSelector } from '../../store/index.ts';
import type { OpenJob } from '../../sync/useJob.ts';
import { clockText } from './faces/simple.tsx';
import type { Actions } from './useActions.ts';
import type { Live } from './useLiveSource.ts';

const LOOK_MS = 250;

interface Props {
  readonly job: OpenJob;
  readonly live: Live | undefined;
  readonly item: WalkItem | undefined;
  readonly actions: Actions;
}

/** What must not last long, as long as it lasts: its time, and once that is over, what ends it. */
export function TimeLimits({ job, ...props }: Props) {
  return (job.family.timeLimits ?? []).map((limit) => (
    <Limit key={limit.key} limit={limit} job={job} {...props} />
  ));
}

function Limit({ limit, job, live, item, actions }: Props & { limit: TimeLimit }) {
  const sound = useAppSelector((s) => s.ui.sound);
  const since = job.view.lasting(limit);
  const lasts = since !== undefined;
  const [, look] = useState(0);
  useEffect(() => {
    if (!lasts) return;
    const timer = setInterval(() => look((n) => n + 1), LOOK_MS);
    return () => clearInterval(timer);
  }, [lasts]);
  // The rig has a clock of its own that may be hurried; else it is the wall's.
  const seconds = !since
    ? 0
    : live?.rig && since.t_s !== undefined
      ? live.session.time - since.t_s
      : (Date.now() - Date.parse(since.wall)) / 1000;
  const over = lasts && seconds > limit.seconds;
  useEffect(() => {
    if (over) cue('stop', sound);
  }, [over, sound]);
  if (!lasts) return null;
  const { fact, wanted } = limit.ends;
  const end = missingOf(fact, wanted, job.view);
  return (
    <div className={over ? 'caution stop' : 'time-limit soft figure'} role={over ? 'alert' : 'timer'}>
      <span>
        {over && <strong>{end.say} </strong>}
        {limit.title} {clockText(Math.max(0, Math.floor(seconds)))} of {clockText(limit.seconds)}
      </span>
      {over && item && (
        <Button size="small" variant="outlined" onClick={() => void actions.renew(end, item)}>
          {end.title}
        </Button>
      )}
    </div>
  );
}

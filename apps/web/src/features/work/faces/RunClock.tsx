import Button from '@mui/material/Button';
import type { ReadStep, SettingDef } from '@firm-needle/core/procedure';
import { useEffect, useState } from 'react';
import type { OpenJob } from '../../../sync/useJob.ts';

/** A run that is timed by hand, from one turning point to the other: ms since 1970, so that a reload does not lose it. */
interface Run {
  readonly from: number;
  readonly to?: number;
}

const TICK_MS = 200;
/** Nobody times a run for longer, ms. */
const LONGEST_MS = 3_600_000;
const keyOf = (job: string): string => `firm-needle.run.${job}`;

/** A length that a run can have: a clock that was set meanwhile, or what is no run, gives none. */
const lasts = (ms: unknown): ms is number => typeof ms === 'number' && ms >= 0 && ms < LONGEST_MS;

function kept(job: string): Run | undefined {
  try {
    const { from, to } = (JSON.parse(localStorage.getItem(keyOf(job)) ?? '{}') ?? {}) as Partial<Run>;
    if (typeof from !== 'number' || !lasts(Date.now() - from)) return undefined;
    return to === undefined ? { from } : lasts(to - from) ? { from, to } : undefined;
  } catch {
    return undefined;
  }
}

function keep(job: string, run: Run | undefined): void {
  try {
    if (run) localStorage.setItem(keyOf(job), JSON.stringify(run));
    else localStorage.removeItem(keyOf(job));
  } catch {
    // Without a place to keep it the clock still runs, until the page is left.
  }
}

/** The time that a reading may carry, where it is had by timing: what it is, and at which end of the run this step stands. */
export function timedAt(job: OpenJob, step: ReadStep): { title: string; end: 'first' | 'last' } | undefined {
  const timing: SettingDef | undefined = job.family.settings.find(
    (s) => s.had === 'timing' && job.family.settings.some((f) => f.id === s.from && f.slot === step.slot),
  );
  if (!timing) return undefined;
  if (timing.from === step.setting) return { title: timing.title, end: 'last' };
  return step.catch === 'low' ? { title: timing.title, end: 'first' } : undefined;
}

/** Seconds of the run that was timed, once it was stopped; and a way to forget it. */
export const runOf = (job: string): number | undefined => {
  const run = kept(job);
  return run?.to === undefined ? undefined : Math.round((run.to - run.from) / 100) / 10;
};
export const forgetRun = (job: string): void => keep(job, undefined);

/** Where no live source times it: a clock started as it begins to run and stopped as it stops. */
export function RunClock({ job, title, end }: { job: string; title: string; end: 'first' | 'last' }) {
  const [run, setRun] = useState(() => kept(job));
  const [, tick] = useState(0);
  const running = run !== undefined && run.to === undefined;
  useEffect(() => {
    if (!running) return;
    const timer = setInterval(() => tick((n) => n + 1), TICK_MS);
    return () => clearInterval(timer);
  }, [running]);
  const put = (next: Run | undefined): void => {
    keep(job, next);
    setRun(next);
  };
  const seconds = run ? ((run.to ?? Date.now()) - run.from) / 1000 : 0;
  const said = `${title.toLowerCase()} ${seconds.toFixed(run?.to === undefined ? 0 : 1)} s`;
  if (end === 'last' && !run) return null;
  const [words, press] =
    end === 'first'
      ? [run ? `Starts anew: ${said}` : 'It starts: time it', () => put({ from: Date.now() })]
      : running
        ? [`It stops: ${said}`, () => put({ from: run.from, to: Date.now() })]
        : [`Forget ${said}`, () => put(undefined)];
  return (
    <Button className="run-clock" onClick={press}>
      {words}
    </Button>
  );
}

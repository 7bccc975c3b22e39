import { format, parseISO } from 'date-fns';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { api, useVisitsQuery } from '../../store/api.ts';
import { useAppDispatch } from '../../store/index.ts';
import { request } from '../../store/http.ts';
import type { JobInfo, Visit, VisitControl } from '@firm-needle/contract';
import { useJobsHere, type JobHere } from '../../sync/jobsHere.ts';
import { Empty, Failed, Loading, problemOf } from '../../ui/States.tsx';
import { useCarry } from '../../planning/useCarry.ts';
import { CarryList } from './CarryList.tsx';
import './today.css';

const today = (): string => format(new Date(), 'yyyy-MM-dd');

/** Today's visit first, then what is open from before and what comes next. */
export function TodayPage() {
  const visits = useVisitsQuery();
  const here = useJobsHere();
  const [known, setKnown] = useState<readonly string[]>([]);
  const late = useLate();
  useKeepForOffline(visits.data?.items);
  if (visits.isLoading) return <Loading what="your visits" />;
  if (!visits.data) return <Failed problem={problemOf(visits.error)} retry={() => void visits.refetch()} />;
  const day = today();
  const items = visits.data.items;
  const now = items.filter((v) => v.day === day);
  const past = items.filter((v) => v.day < day && v.controls.some((c) => isOpen(c, here)));
  const next = items.filter((v) => v.day > day).reverse();
  // What to carry comes late and is long: what stands below it comes after it, and does not move away under a finger.
  const waits = late ? -1 : now.findIndex((v) => !known.includes(v.id));
  const whole = waits < 0;
  return (
    <>
      <div className="page-head">
        <h1>Today</h1>
        <span className="soft">{format(new Date(), 'EEEE d MMMM yyyy')}</span>
      </div>
      {now.length === 0 && (
        <Empty>
          No visit is planned for today. <Link to="/due">See what is due</Link>, or choose one of your{' '}
          <Link to="/sites">sites</Link>: any control can be worked without a visit.
        </Empty>
      )}
      {(whole ? now : now.slice(0, waits + 1)).map((v) => (
        <VisitCard
          key={v.id}
          visit={v}
          here={here}
          main
          onKnown={() => setKnown((all) => (all.includes(v.id) ? all : [...all, v.id]))}
        />
      ))}
      {whole && <Others title="Left open" visits={past} here={here} />}
      {whole && <Others title="Coming" visits={next} here={here} />}
    </>
  );
}

function Others({
  title,
  visits,
  here,
}: {
  title: string;
  visits: readonly Visit[];
  here: readonly JobHere[];
}) {
  if (visits.length === 0) return null;
  return (
    <>
      <h2 className="eyebrow today-group">{title}</h2>
      {visits.map((v) => (
        <VisitCard key={v.id} visit={v} here={here} />
      ))}
    </>
  );
}

/** So long the rest of the page waits for what to carry, ms. */
const LATEST_MS = 3000;

function useLate(): boolean {
  const [late, setLate] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLate(true), LATEST_MS);
    return () => clearTimeout(timer);
  }, []);
  return late;
}

const jobOf = (c: VisitControl, here: readonly JobHere[]): { id: string; signed: boolean } | undefined => {
  const local = here.filter((j) => j.control === c.id).at(-1);
  if (c.job)
    return {
      id: c.job.id,
      signed: c.job.signedAt !== null || here.some((j) => j.job === c.job?.id && j.signed),
    };
  return local ? { id: local.job, signed: local.signed } : undefined;
};
const isOpen = (c: VisitControl, here: readonly JobHere[]): boolean => {
  const job = jobOf(c, here);
  return job !== undefined && !job.signed;
};

function VisitCard({
  visit,
  here,
  main = false,
  onKnown,
}: {
  visit: Visit;
  here: readonly JobHere[];
  main?: boolean;
  /** Called once it is known what to carry. */
  onKnown?: () => void;
}) {
  const carry = useCarry(visit.controls, main);
  const tell = useRef(onKnown);
  tell.current = onKnown;
  useEffect(() => {
    if (carry.known) tell.current?.();
  }, [carry.known]);
  return (
    <section className={`visit${main ? ' main' : ''}`} aria-label={visit.site.name}>
      <header>
        <h2>{visit.site.name}</h2>
        <span className="soft">
          {format(parseISO(visit.day), 'd MMM')} · {visit.technician ?? 'nobody yet'} ·{' '}
          {visit.site.altitude_m.toLocaleString('en').replace(',', '\u202f')} m
        </span>
        {visit.purpose && <p>{visit.purpose}</p>}
      </header>
      <ol className="visit-controls">
        {visit.controls.map((c) => (
          <ControlRow key={c.id} control={c} visit={visit} here={here} />
        ))}
      </ol>
      {main && <CarryList visit={visit} carry={carry} />}
    </section>
  );
}

function ControlRow({
  control: c,
  visit,
  here,
}: {
  control: VisitControl;
  visit: Visit;
  here: readonly JobHere[];
}) {
  const job = jobOf(c, here);
  const state = job ? (job.signed ? 'signed' : 'open, go on') : 'to do';
  const to = job
    ? job.signed
      ? `/jobs/${job.id}/sheet`
      : `/jobs/${job.id}?visit=${visit.id}`
    : `/controls/${c.id}?visit=${visit.id}`;
  const body = (
    <>
      <span className="visit-name">
        <strong>{c.name}</strong>
        <span className="soft">{c.equipment}</span>
      </span>
      {c.story && <span className="visit-story soft">{c.story}</span>}
      <span className="visit-state">{c.available ? state : 'not in this version yet'}</span>
    </>
  );
  return <li>{c.available ? <Link to={to}>{body}</Link> : <div className="visit-closed">{body}</div>}</li>;
}

/** Fetches what today's visits need once, so that it is here when the signal is not. */
function useKeepForOffline(visits: readonly Visit[] | undefined): void {
  const dispatch = useAppDispatch();
  const kept = useRef(false);
  useEffect(() => {
    // Once a visit of this page: what is fetched here is the list itself, too.
    if (!visits || kept.current) return;
    kept.current = true;
    const day = today();
    const wanted = visits.filter((v) => v.day === day || v.controls.some((c) => c.job && !c.job.signedAt));
    const keep = async (): Promise<void> => {
      await navigator.serviceWorker?.ready;
      for (const v of wanted) {
        await request('GET', `/visits/${v.id}`);
        for (const c of v.controls.filter((x) => x.available)) {
          void dispatch(api.endpoints.control.initiate(c.id, { subscribe: false }));
          await request('GET', `/controls/${c.id}`);
          if (c.job) await request<JobInfo>('GET', `/jobs/${c.job.id}`);
        }
      }
      const all = { subscribe: false, forceRefetch: true } as const;
      await dispatch(api.endpoints.gauges.initiate(undefined, all));
      await dispatch(api.endpoints.sites.initiate(undefined, all));
      await dispatch(api.endpoints.visits.initiate(undefined, all));
      await request('GET', '/auth/me');
    };
    // Without a service worker, as in development, it is never ready, and nothing is fetched.
    if ('serviceWorker' in navigator) void keep();
  }, [visits, dispatch]);
}

import { levelOf } from '@firm-needle/core/practice';
import { format } from 'date-fns';
import { Link } from 'react-router';
import { kindTitle } from '../../practice/kinds.ts';
import type { Run, Runs } from './useRuns.ts';

/** Means are told from here on. */
const ENOUGH = 10;

/** What is open, and what is over, newest first. */
export function RunsList({ runs }: { runs: Runs }) {
  const open = runs.all.filter((r) => !r.over);
  const over = runs.all.filter((r) => r.over);
  const sure = over.flatMap((r) => (r.sure ? [r.sure] : [])).slice(0, ENOUGH);
  const brier = sure.reduce((a, s) => a + (s.c - (s.right ? 1 : 0)) ** 2, 0) / sure.length;
  return (
    <section aria-label="Your runs">
      {open.length > 0 && (
        <>
          <h2>Go on</h2>
          <ul className="practice-runs">
            {open.map((r) => (
              <li key={r.id}>
                <Link to={`/practice/runs/${r.id}`}>{r.variant}</Link> <Beside run={r} />
              </li>
            ))}
          </ul>
        </>
      )}
      <h2>Your runs</h2>
      {over.length === 0 ? (
        <p className="soft">None yet. The first level is where everybody begins.</p>
      ) : (
        <ul className="practice-runs">
          {over.slice(0, 30).map((r) => (
            <li key={r.id}>
              <Link to={`/practice/runs/${r.id}/debrief`}>{r.variant}</Link> <Beside run={r} />
              <span className="grow" />
              {r.word && (
                <strong className={`practice-word ${r.word.split(/[ ,]/)[0] ?? ''}`}>{r.word}</strong>
              )}
              {r.k !== undefined && <span className="figure">{r.k}</span>}
              {r.waits && <span className="soft">{r.refused ?? 'waits for a signal'}</span>}
            </li>
          ))}
        </ul>
      )}
      {sure.length >= ENOUGH && (
        <p className="soft">
          How sure you were, against how right, over the last {sure.length}: {brier.toFixed(2)} (0 is best,
          0.25 is guessing).
        </p>
      )}
    </section>
  );
}

const Beside = ({ run }: { run: Run }) => (
  <span className="soft">
    {[
      kindTitle(run.family),
      run.kind === 'run' ? levelOf(run.level).title.toLowerCase() : run.kind,
      format(new Date(run.startedAt), 'd MMM HH:mm'),
    ].join(' · ')}
  </span>
);

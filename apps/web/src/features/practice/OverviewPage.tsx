import { levelOf, LEVELS, type LevelId } from '@firm-needle/core/practice';
import type { PracticeRow, PracticeRun } from '@firm-needle/contract';
import { families, loadFamily, loadKit } from '@firm-needle/families';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { format } from 'date-fns';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { v7 as uuid } from 'uuid';
import {
  usePracticeOverviewQuery,
  usePracticeTestsQuery,
  useSavePracticeTestMutation,
  useSharedPracticeRunsQuery,
  useUnfairPracticeRunMutation,
} from '../../store/api.ts';
import { Failed, Loading, problemOf } from '../../ui/States.tsx';
import { useLoaded } from '../../ui/useLoaded.ts';
import { ReasonDialog } from '../../ui/ReasonDialog.tsx';
import { kindTitle } from '../../practice/kinds.ts';
import '../../practice/practice.css';

/** Percentages say nothing of fewer. */
const FAULTS = new Map<string, ReadonlyMap<string, string>>();

/** The titles of a family’s faults, once they are here. */
function useFaultTitles(ids: readonly string[]): (family: string, fault: string) => string {
  const [, again] = useState(0);
  const wanted = ids.join(' ');
  useEffect(() => {
    for (const id of wanted.split(' ').filter((x) => x && !FAULTS.has(x)))
      void loadFamily(id).then((f) => {
        FAULTS.set(id, new Map(f.rig.faults.map((x) => [x.id, x.title])));
        again((n) => n + 1);
      });
  }, [wanted]);
  return (family, fault) => FAULTS.get(family)?.get(fault) ?? fault;
}

/** What a supervisor sees: counts by name, no ranking; runs only where they were tests or are shown to them. */
export function OverviewPage() {
  const overview = usePracticeOverviewQuery();
  const titles = useFaultTitles([...new Set((overview.data?.rows ?? []).map((r) => r.family))]);
  if (overview.isLoading) return <Loading what="what was practised" />;
  if (!overview.data)
    return <Failed problem={problemOf(overview.error)} retry={() => void overview.refetch()} />;
  const { rows, teach } = overview.data;
  return (
    <>
      <div className="page-head">
        <h1>What everybody practised</h1>
        <span className="practice-mark">PRACTICE</span>
        <span className="grow" />
        <a href="/api/v1/practice/overview.csv" download>
          As CSV
        </a>
      </div>
      <p className="soft practice-lead">
        Counts of the last ninety days, by name. A permit is never given or taken by practice: a person
        decides.
        {teach &&
          ` Missed most in the whole firm: ${titles(teach.family, teach.fault).toLowerCase()}, on ${kindTitle(teach.family).toLowerCase()}, ${teach.times} times.`}
      </p>
      <div className="practice-places">
        <section aria-label="By person">
          {rows.length === 0 ? (
            <p className="soft">Nobody has practised yet.</p>
          ) : (
            <table className="practice-table">
              <thead>
                <tr>
                  <th scope="col">Person</th>
                  <th scope="col">Kind</th>
                  <th scope="col">Last</th>
                  <th scope="col">Runs</th>
                  <th scope="col">Highest sound</th>
                  <th scope="col">Grave</th>
                  <th scope="col">Tests</th>
                  <th scope="col">Missed most</th>
                </tr>
              </thead>
              <tbody>
                {rows.map((r) => (
                  <Row key={`${r.person.id} ${r.family}`} row={r} title={titles} />
                ))}
              </tbody>
            </table>
          )}
          <SharedRuns />
        </section>
        <div className="practice-beside">
          <SetTest />
          <SetTests />
        </div>
      </div>
    </>
  );
}

const Row = ({ row, title }: { row: PracticeRow; title: (family: string, fault: string) => string }) => (
  <tr>
    <th scope="row">{row.person.name}</th>
    <td data-title="Kind">{kindTitle(row.family)}</td>
    <td data-title="Last" className="figure">
      {format(new Date(row.last), 'd MMM')}
    </td>
    <td data-title="Runs" className="figure">
      {row.runs}
    </td>
    <td data-title="Highest sound">{row.highest ? levelOf(row.highest).title.toLowerCase() : '–'}</td>
    <td data-title="Grave" className="figure">
      {row.grave}
    </td>
    <td data-title="Tests">
      {row.tests.map((t) => `${format(new Date(t.day), 'd MMM')} ${t.word}`).join(', ') || '–'}
    </td>
    <td data-title="Missed most">
      {row.missed
        ? `${title(row.family, row.missed.fault).toLowerCase()}, ${row.missed.times} of ${row.missed.of}`
        : '–'}
    </td>
  </tr>
);

/** Runs that can be looked at: tests, and what somebody shows. That one looked is told to them. */
function SharedRuns() {
  const runs = useSharedPracticeRunsQuery().data?.items ?? [];
  const [unfair, setUnfair] = useState<string>();
  const [save] = useUnfairPracticeRunMutation();
  if (runs.length === 0) return null;
  return (
    <>
      <SideBySide runs={runs} />
      <h2>Tests, and what is shown to you</h2>
      <ul className="practice-runs">
        {runs.map((r) => (
          <li key={r.id}>
            <Link to={`/practice/runs/${r.id}/debrief`}>{r.person.name}</Link>{' '}
            <span className="soft">
              {[r.variant, r.kind, format(new Date(r.endedAt), 'd MMM HH:mm')].join(' · ')}
            </span>
            <span className="grow" />
            <strong className={`practice-word ${r.word.split(/[ ,]/)[0] ?? ''}`}>{r.word}</strong>
            {r.k !== null && <span className="figure">{r.k}</span>}
            {r.unfair ? (
              <span className="soft">unfair draw: {r.unfair}</span>
            ) : (
              r.kind === 'test' && (
                <Button size="small" onClick={() => setUnfair(r.id)}>
                  Unfair draw
                </Button>
              )
            )}
          </li>
        ))}
      </ul>
      {unfair && (
        <ReasonDialog
          title="An unfair draw"
          text="It counts no more, and they may be given another."
          act="Say so"
          onClose={() => setUnfair(undefined)}
          onGive={async (reason) => !(await save({ id: unfair, reason })).error}
        />
      )}
    </>
  );
}

/** One draw, worked by several: their runs beside each other, by name. */
function SideBySide({ runs }: { runs: readonly PracticeRun[] }) {
  const tests = new Map<string, PracticeRun[]>();
  for (const r of runs) if (r.test && !r.unfair) tests.set(r.test, [...(tests.get(r.test) ?? []), r]);
  const several = [...tests.values()].filter((all) => all.length > 1);
  const titles = useFaultTitles(several.map((all) => all[0]?.family ?? ''));
  return several.map((all) => (
    <section key={all[0]?.test} aria-label="One draw side by side">
      <h2>One draw side by side: {all[0]?.variant}</h2>
      <table className="practice-table">
        <thead>
          <tr>
            <th scope="col">Person</th>
            <th scope="col">Word</th>
            <th scope="col">Sum</th>
            <th scope="col">Grave</th>
            <th scope="col">Passed by</th>
            <th scope="col">Sure</th>
          </tr>
        </thead>
        <tbody>
          {[...all]
            .sort((a, b) => a.person.name.localeCompare(b.person.name))
            .map((r) => (
              <tr key={r.id}>
                <th scope="row">
                  <Link to={`/practice/runs/${r.id}/debrief`}>{r.person.name}</Link>
                </th>
                <td data-title="Word">{r.word}</td>
                <td data-title="Sum" className="figure">
                  {r.k ?? '–'}
                </td>
                <td data-title="Grave" className="figure">
                  {r.grave}
                </td>
                <td data-title="Passed by">
                  {r.missed.map((f) => titles(r.family, f).toLowerCase()).join(', ') || '–'}
                </td>
                <td data-title="Sure">
                  {r.sure ? `${Math.round(100 * r.sure.c)} %, ${r.sure.right ? 'right' : 'not right'}` : '–'}
                </td>
              </tr>
            ))}
        </tbody>
      </table>
    </section>
  ));
}

/** Another test: its seed is drawn where it is kept, and is the same for all. */
function SetTest() {
  const [save] = useSavePracticeTestMutation();
  const [family, setFamily] = useState(families()[0]?.id ?? '');
  const [variant, setVariant] = useState('');
  const [level, setLevel] = useState<LevelId>(4);
  const [until, setUntil] = useState(() => format(Date.now() + 14 * 86_400_000, 'yyyy-MM-dd'));
  const [note, setNote] = useState('');
  const [said, setSaid] = useState<string>();
  const variants = useLoaded(() => loadKit(family), family)?.variants.map((v) => v.name) ?? [];
  const chosen = variants.includes(variant) ? variant : (variants[0] ?? '');
  const set = async (): Promise<void> => {
    const body = { family, variant: chosen, level, until, ...(note.trim() ? { note: note.trim() } : {}) };
    const answer = await save({ id: uuid(), body });
    setSaid(answer.error ? (problemOf(answer.error)?.detail ?? 'It was not set.') : 'It is set.');
  };
  return (
    <section aria-label="Set a test" className="practice-set">
      <h2>Set a test</h2>
      <TextField select size="small" label="Kind" value={family} onChange={(e) => setFamily(e.target.value)}>
        {families().map((k) => (
          <MenuItem key={k.id} value={k.id}>
            {k.title}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        size="small"
        label="Installation"
        value={chosen}
        onChange={(e) => setVariant(e.target.value)}
      >
        {(variants.length > 0 ? variants : ['']).map((v) => (
          <MenuItem key={v} value={v}>
            {v}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        size="small"
        label="Level"
        value={level}
        onChange={(e) => setLevel(Number(e.target.value) as LevelId)}
      >
        {LEVELS.map((l) => (
          <MenuItem key={l.id} value={l.id}>
            {l.title}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        size="small"
        type="date"
        label="Until"
        value={until}
        onChange={(e) => setUntil(e.target.value)}
        slotProps={{ inputLabel: { shrink: true } }}
      />
      <TextField size="small" label="What for" value={note} onChange={(e) => setNote(e.target.value)} />
      <Button variant="contained" onClick={() => void set()}>
        Set it for everybody
      </Button>
      {said && <p role="status">{said}</p>}
    </section>
  );
}

function SetTests() {
  const tests = usePracticeTestsQuery().data?.items ?? [];
  if (tests.length === 0) return null;
  return (
    <ul className="practice-runs" aria-label="Tests that are set">
      {tests.map((t) => (
        <li key={t.id}>
          {t.variant}{' '}
          <span className="soft">
            {[
              levelOf(t.level).title.toLowerCase(),
              `until ${format(new Date(t.until), 'd MMM')}`,
              `${t.ended ?? 0} done`,
            ].join(' · ')}
          </span>
        </li>
      ))}
    </ul>
  );
}

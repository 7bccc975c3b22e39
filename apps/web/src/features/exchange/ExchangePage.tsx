import { TABLE_COLUMNS } from '@firm-needle/core/formats';
import type { Fate, ImportLine, ImportState } from '@firm-needle/contract';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { useSitesQuery } from '../../store/api.ts';
import { useMe } from '../../store/me.ts';
import { FileButton } from '../../ui/FileButton.tsx';
import { linesOf, useImport, type Import } from './useImport.ts';
import './exchange.css';

const TABLES = [
  [
    'readings',
    'Readings',
    'every reading as it was entered, with its text, its place, and whether it was corrected',
  ],
  ['settings', 'Settings', 'what each signed job found and left, with its limits and how sure it is'],
  ['due', 'What is due', 'every control with each of its reasons and days'],
  ['gauges', 'Gauges', 'the firm’s own gauges and their dates'],
] as const;

/** The book out of the app in open formats, and into it. */
export function ExchangePage() {
  const me = useMe();
  return (
    <>
      <div className="page-head">
        <h1>In and out</h1>
      </div>
      <div className="exchange">
        <section aria-label="Tables out">
          <h2 className="eyebrow">Tables out, as CSV</h2>
          <ul className="exchange-tables">
            {TABLES.map(([kind, title, what]) => (
              <li key={kind}>
                <a className="as-button" href={`/api/v1/export/${kind}.csv`} download>
                  {title}
                </a>
                <span className="soft">{what}</span>
              </li>
            ))}
          </ul>
          <p className="soft">
            A cell that a spreadsheet would run as a formula begins with an apostrophe. Visits and what is due
            come into a calendar by an address under <Link to="/account">your name</Link>.
          </p>
          {me.role === 'supervisor' && <Dossiers />}
        </section>
        {me.role === 'supervisor' && <ReadIn />}
      </div>
    </>
  );
}

/** A site with all its past as one file. */
function Dossiers() {
  const sites = useSitesQuery();
  return (
    <>
      <h2 className="eyebrow">A site with all its past, as one file</h2>
      <p className="soft">
        A dossier holds the site, its equipment, controls, plans, jobs with their seals, gauges and photos.
        Another installation reads it in and finds the same seals.
      </p>
      <ul className="exchange-sites">
        {sites.data?.items.map((s) => (
          <li key={s.id}>
            <a href={`/api/v1/sites/${s.id}/dossier.json`} download>
              {s.name}
            </a>
          </li>
        ))}
      </ul>
    </>
  );
}

function ReadIn() {
  const file = useImport();
  const { state, dossier, problem, busy } = file;
  return (
    <section aria-label="Read in">
      <h2 className="eyebrow">Read in</h2>
      {!state && !dossier && (
        <p>
          A CSV file of sites, equipment and controls, a line each; or a dossier. A table is only looked at
          first: every line says what becomes of it, and then all of it is taken in, or nothing.
        </p>
      )}
      <FileButton
        label="File to read in"
        accept=".csv,.json,text/csv,application/json"
        plain={state !== undefined}
        disabled={busy}
        onChoose={file.choose}
      >
        {state || dossier ? 'Another file' : 'Choose a file'}
      </FileButton>
      {busy && <Busy file={file} />}
      {problem && (
        <p className="caution" role="alert">
          <strong>{problem.detail}</strong> {problem.remedy}
        </p>
      )}
      {dossier && (
        <p role="status">
          <strong>
            <Link to={`/sites/${dossier.site}`}>{dossier.name}</Link> is here
          </strong>
          , with {many(dossier.jobs, 'job', 'jobs')} and {many(dossier.events, 'entry', 'entries')}; every
          chain holds.
          {dossier.differ > 0 &&
            ` ${many(dossier.differ, 'signed result', 'signed results')} would be judged otherwise by this program, and stand as they were signed.`}
        </p>
      )}
      {!busy && state && <Looked file={file} state={state} />}
      {!state && !dossier && (
        <p className="soft exchange-columns">
          The first line names the columns: {TABLE_COLUMNS.join(', ')}. Only site must be there; a new site
          needs altitude_m, a control needs equipment and kind. What stands already is left as it is.
        </p>
      )}
    </section>
  );
}

function Busy({ file: { state, cancel } }: { file: Import }) {
  return (
    <div className="exchange-busy" role="status">
      <LinearProgress />
      <span>
        {state?.state === 'applying' ? 'Taking in' : 'Reading'}
        {state && state.lines > 0 && `, ${state.lines.toLocaleString('en')} lines so far`} …
      </span>
      {state && <Button onClick={cancel}>Stop</Button>}
    </div>
  );
}

const FATES: readonly (readonly [Fate, string])[] = [
  ['new', 'new'],
  ['known', 'stands already'],
  ['refused', 'cannot be taken'],
];

const many = (n: number, one: string, more: string): string =>
  `${n.toLocaleString('en')} ${n === 1 ? one : more}`;

/** What was found of a file, line by line. */
function Looked({ file, state }: { file: Import; state: ImportState }) {
  const { counts } = state;
  const [fate, setFate] = useState<Fate>(counts.refused > 0 ? 'refused' : 'new');
  if (state.state === 'failed' || state.state === 'cancelled')
    return (
      <p className="caution" role="alert">
        <strong>{state.state === 'cancelled' ? 'It was stopped.' : 'The file was not read in.'}</strong>{' '}
        {state.problem ?? ''} The book is as it was.
      </p>
    );
  const made = [
    many(counts.sites, 'site', 'sites'),
    many(counts.equipment, 'piece of equipment', 'pieces of equipment'),
    many(counts.controls, 'control', 'controls'),
  ].join(', ');
  return (
    <div className="exchange-looked">
      <p role="status">
        <strong>{state.name}</strong>: {many(state.lines, 'line', 'lines')}.{' '}
        {state.state === 'done' ? `Taken in: ${made}.` : `It would make ${made}.`}
      </p>
      {state.said.map((text) => (
        <p key={text} className="soft">
          {text}
        </p>
      ))}
      {state.state === 'ready' && counts.new > 0 && (
        <Button variant="contained" onClick={file.take}>
          Take in {many(counts.new, 'line', 'lines')}
          {counts.refused > 0 && `, leave ${counts.refused.toLocaleString('en')} out`}
        </Button>
      )}
      <ToggleButtonGroup
        exclusive
        size="small"
        value={fate}
        onChange={(_, v: Fate | null) => v && setFate(v)}
        aria-label="Fate"
      >
        {FATES.map(([f, title]) => (
          <ToggleButton key={f} value={f} disabled={counts[f] === 0}>
            {title} {counts[f].toLocaleString('en')}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Lines key={`${state.id} ${fate}`} id={state.id} fate={fate} />
    </div>
  );
}

function Lines({ id, fate }: { id: string; fate: Fate }) {
  const [lines, setLines] = useState<readonly ImportLine[]>([]);
  const [next, setNext] = useState<string | null>('0');
  const more = async (): Promise<void> => {
    const answer = await linesOf(id, fate, Number(next ?? 0));
    if (!answer.ok) return;
    setLines((l) => [...l, ...answer.data.items.filter((x) => !l.some((y) => y.line === x.line))]);
    setNext(answer.data.next);
  };
  useEffect(() => {
    void more();
    // The first piece, once.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  return (
    <>
      <div className="exchange-lines">
        <table>
          <thead>
            <tr>
              <th>Line</th>
              <th>What becomes of it</th>
              <th>Of what</th>
            </tr>
          </thead>
          <tbody>
            {lines.map((l) => (
              <tr key={l.line}>
                <td className="figure">{l.line}</td>
                <td>{l.message}</td>
                <td>
                  {['site', 'equipment', 'control']
                    .map((c) => l.cells[c] ?? '')
                    .filter(Boolean)
                    .join(' · ')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {next !== null && lines.length > 0 && (
        <Button variant="text" onClick={() => void more()}>
          More lines
        </Button>
      )}
    </>
  );
}

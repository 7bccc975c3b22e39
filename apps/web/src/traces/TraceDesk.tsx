import { timeScaleOf } from '@firm-needle/core/picture';
import { figure, intervalFromCanonical, symbolOf } from '@firm-needle/core/quantity';
import { withCorrections, type Analysis, type CorrectedEvent, type Figures } from '@firm-needle/core/trace';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { useMemo, useRef, useState, type DragEvent, type ReactNode } from 'react';
import { download } from '../handover/files.ts';
import { EventPanel } from './EventPanel.tsx';
import { readableUnit, shownFigure, titleOf } from './figures.ts';
import { MapColumns } from './MapColumns.tsx';
import { TraceView } from './TraceView.tsx';
import type { HowRead } from '../workers/trace.worker.ts';
import type { OpenTrace } from './useTrace.ts';
import './traces.css';

interface Props {
  readonly trace: OpenTrace;
  /** Beside the button that chooses a file. */
  readonly beside?: ReactNode;
  /** After the name of the file, while none is open. */
  readonly beneath?: ReactNode;
  /** What can be done with a figure, under it. */
  readonly onFigure?: (name: string, figures: Figures, events: readonly CorrectedEvent[]) => ReactNode;
  /** Under the figures, once there are some. */
  readonly children?: (figures: Figures) => ReactNode;
}

/** A slam of a valve, and no event of the control. */
const SPIKE = 'spike';
/** Refusals that a person can lift by saying what the columns are. */
const MAPPABLE = new Set([
  'unit-missing',
  'unit-scaled',
  'no-pressure',
  'no-times',
  'not-times',
  'not-pressures',
  'no-readings',
  'day-order',
  'number-form',
  'one-time',
  'one-column',
]);

/** A logger's file: dropped here, its columns named once, read in a worker, drawn whole, told in figures, corrected by hand. */
export function TraceDesk({ trace, beside, beneath, onFigure, children }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const [mapping, setMapping] = useState(false);
  const [chosen, setChosen] = useState<CorrectedEvent>();
  const { read, analysis, refusal, progress, name, rows, corrections } = trace;
  const unit = readableUnit(read?.unit);
  const times = timeScaleOf(read?.from ?? 0, read?.how?.clock);
  const said = useMemo(() => analysis && withCorrections(analysis, corrections), [analysis, corrections]);
  const [events, spikes] = useMemo(
    () => [
      (said?.events ?? []).filter((e) => e.kind !== SPIKE),
      (said?.events ?? []).filter((e) => e.kind === SPIKE),
    ],
    [said],
  );
  const selected = chosen && events.find((e) => e === chosen || (e.kind === chosen.kind && e.t === chosen.t));
  const open = (files: FileList | null): void => {
    setMapping(false);
    setChosen(undefined);
    // A list of the browser is emptied with its field.
    if (files) trace.open([...files]);
  };
  const drop = (e: DragEvent): void => {
    e.preventDefault();
    open(e.dataTransfer.files);
  };
  const mappable = rows.length > 0 && refusal !== undefined && MAPPABLE.has(refusal.code);
  return (
    <div className="trace-desk" onDragOver={(e) => e.preventDefault()} onDrop={drop}>
      <div className="trace-open">
        {beside}
        <Button variant="contained" onClick={() => input.current?.click()}>
          Choose a file
        </Button>
        <input
          ref={input}
          type="file"
          multiple
          accept=".csv,.txt,.tsv,.tab,.dat,.log,.asc,.xlsx,text/csv"
          aria-label="Trace file"
          hidden
          onChange={(e) => {
            open(e.target.files);
            e.target.value = '';
          }}
        />
        <span className="soft">{name ?? 'or drop it here; several of one day become one trace'}</span>
        {name === undefined && beneath}
        {read && rows.length > 0 && (
          <Button size="small" aria-expanded={mapping} onClick={() => setMapping((m) => !m)}>
            Columns
          </Button>
        )}
      </div>
      {progress !== undefined && (
        <div className="trace-progress">
          <LinearProgress variant="determinate" value={progress * 100} aria-label="Reading the file" />
          <Button size="small" onClick={trace.cancel}>
            Stop reading
          </Button>
        </div>
      )}
      {refusal && (
        <p className="caution" role="alert">
          <strong>{refusal.message}</strong> {refusal.bound && `Bound: ${refusal.bound}.`} {refusal.remedy}
        </p>
      )}
      {(mapping || mappable) && rows.length > 0 && (
        <MapColumns
          key={`${trace.delimiter ?? ''} ${rows[0]?.join('|') ?? ''}`}
          rows={rows}
          delimiter={trace.delimiter}
          onSplit={trace.split}
          onChoose={(choice) => {
            setMapping(false);
            setChosen(undefined);
            trace.choose(choice);
          }}
        />
      )}
      {read?.how && <HowItWasRead how={read.how} unit={unit} />}
      {read && trace.host && (
        <>
          <TraceView
            host={trace.host}
            read={read}
            events={events}
            spikes={spikes}
            unit={unit}
            times={times}
            selected={selected}
            onSelect={setChosen}
          />
          <EventPanel
            events={events}
            selected={selected}
            unit={unit}
            times={times}
            from={read.from}
            to={read.to}
            onSelect={setChosen}
            onCorrect={(c) => {
              setChosen(undefined);
              trace.correct(c);
            }}
          />
        </>
      )}
      {analysis && said && (
        <Told
          analysis={analysis}
          figures={said.figures}
          unit={unit}
          under={(n) => onFigure?.(n, said.figures, events)}
        />
      )}
      {analysis && said && (
        <HandedOut name={name ?? 'trace'} figures={said.figures} events={events} unit={unit} />
      )}
      {analysis && said && children?.(said.figures)}
      {read && read.problems.length > 0 && (
        <details className="trace-problems">
          <summary>{read.problems.length} lines could not be read</summary>
          <ul>
            {read.problems.map((p, i) => (
              <li key={i}>
                Line {p.line}: {p.message}
              </li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}

interface HandedOutProps {
  readonly name: string;
  readonly figures: Figures;
  readonly events: readonly CorrectedEvent[];
  readonly unit: string;
}

/** What was found, as tables for another program. */
function HandedOut({ name, figures, events, unit }: HandedOutProps) {
  const give = async (what: 'figures' | 'events'): Promise<void> => {
    // Fetched when it is asked for: who only looks needs no writer of tables.
    const { eventsCsv, figuresCsv } = await import('@firm-needle/tables');
    const text = what === 'figures' ? figuresCsv(figures, unit) : eventsCsv(events, unit);
    download(new File([text], `${name.replace(/\.[a-z]+$/i, '')} ${what}.csv`, { type: 'text/csv' }));
  };
  return (
    <div className="trace-out">
      <Button size="small" disabled={Object.keys(figures).length === 0} onClick={() => void give('figures')}>
        Figures as CSV
      </Button>
      <Button size="small" disabled={events.length === 0} onClick={() => void give('events')}>
        Events as CSV
      </Button>
    </div>
  );
}

const BASES: Readonly<Record<HowRead['basis'], string>> = {
  gauge: 'over the air outside',
  absolute: 'absolute: what is drawn and told is over the air outside',
  vacuum: 'a vacuum: what is drawn and told is below nought',
};

/** In one line how a file was read; under it what was taken as so without being said, each changeable among its columns. */
const HowItWasRead = ({ how, unit }: { how: HowRead; unit: string }) => (
  <div className="trace-how">
    <p className="soft">
      {how.pressure} in {symbolOf(unit)}, {BASES[how.basis]}; time from {how.time};{' '}
      {how.rows.toLocaleString('en')} rows
      {how.lost > 0 && `, ${how.lost.toLocaleString('en')} of them lost`}.
    </p>
    {how.assumptions.length > 0 && (
      <ul aria-label="What was assumed">
        {how.assumptions.map((a) => (
          <li key={a.said}>{a.said}</li>
        ))}
      </ul>
    )}
  </div>
);

interface ToldProps {
  readonly analysis: Analysis;
  readonly figures: Figures;
  readonly unit: string;
  readonly under: (name: string) => ReactNode;
}

/** What the trace came to: its figures with their doubt, or that there is nothing of this kind. */
function Told({ analysis, figures, unit, under }: ToldProps) {
  const spikes = analysis.events.filter((e) => e.kind === SPIKE).length;
  return (
    <>
      {analysis.nothing && <p className="caution">{analysis.nothing}</p>}
      <dl className="trace-figures">
        {Object.entries(figures).map(([name, f]) => (
          <div key={name}>
            <dt>
              {titleOf(name)}
              <span className="soft"> of {f.n}</span>
            </dt>
            <dd className="figure">{shownFigure(name, f, unit)}</dd>
            {under(name)}
          </div>
        ))}
      </dl>
      <p className="soft">
        {analysis.samples.toLocaleString('en')} samples, {analysis.cycles.length}{' '}
        {analysis.cycles.length === 1 ? 'cycle' : 'cycles'}
        {spikes > 0 && `, ${spikes} short spikes left out`}
        {analysis.gaps.length > 0 && `, ${analysis.gaps.length} gaps`}. Noise{' '}
        {figure(intervalFromCanonical(analysis.grain.sd, unit), 3)} {symbolOf(unit)}.
      </p>
    </>
  );
}

import {
  figure,
  intervalFromCanonical,
  fromCanonical,
  symbolOf,
  tracedFamilies,
  unitsOf,
  type Analysis,
  type TraceFigure,
} from '@firm-needle/core';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useRef, useState, type DragEvent } from 'react';
import { TraceView } from './TraceView.tsx';
import { useTrace } from './useTrace.ts';
import './traces.css';

/** A logger's file: dropped here, read in a worker, drawn whole, and told in figures. Works without a signal. */
export function TracesPage() {
  const families = tracedFamilies();
  const [family, setFamily] = useState(families[0]?.id ?? '');
  const trace = useTrace(families.find((f) => f.id === family)?.kind ?? 'cycles');
  const input = useRef<HTMLInputElement>(null);
  const drop = (e: DragEvent): void => {
    e.preventDefault();
    const [file] = e.dataTransfer.files;
    if (file) trace.open(file);
  };
  const { read, analysis, refusal, progress, file } = trace;
  // Bare pascals are told in thousands of them.
  const unit = read?.unit === 'Pa' ? 'kPa' : (read?.unit ?? 'kPa');
  return (
    <div onDragOver={(e) => e.preventDefault()} onDrop={drop}>
      <div className="page-head">
        <h1>Traces</h1>
        <span className="soft">A logger’s CSV, read on this device. Nothing is sent.</span>
      </div>
      <div className="trace-open">
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
        <Button variant="contained" onClick={() => input.current?.click()}>
          Choose a file
        </Button>
        <input
          ref={input}
          type="file"
          accept=".csv,.txt,.tsv,text/csv"
          aria-label="Trace file"
          hidden
          onChange={(e) => {
            const [chosen] = e.target.files ?? [];
            if (chosen) trace.open(chosen);
            e.target.value = '';
          }}
        />
        <span className="soft">{file ? file.name : 'or drop it here'}</span>
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
      {refusal?.code === 'unit-missing' && file && <AskUnit onUnit={(unit) => trace.open(file, unit)} />}
      {read && trace.host && (
        <TraceView host={trace.host} read={read} events={analysis?.events ?? []} unit={unit} />
      )}
      {read && analysis && <Told analysis={analysis} unit={unit} />}
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

function AskUnit({ onUnit }: { onUnit: (unit: string) => void }) {
  return (
    <TextField
      select
      size="small"
      label="Its pressures are in"
      value=""
      className="trace-unit"
      onChange={(e) => onUnit(e.target.value)}
    >
      {unitsOf('pressure')
        .filter((u) => u.kind !== 'difference')
        .map((u) => (
          <MenuItem key={u.id} value={u.id}>
            {u.id}
          </MenuItem>
        ))}
    </TextField>
  );
}

const TITLES: Readonly<Record<string, string>> = {
  cutIn: 'Cut-in',
  cutOut: 'Cut-out',
  differential: 'Differential',
  onTime: 'Time on',
  offTime: 'Time off',
  cyclesPerHour: 'Cycles an hour',
  precharge: 'Precharge',
  drawdown: 'Drawdown',
  flowing: 'Flowing',
  lockUp: 'Lock-up',
  droop: 'Droop',
  creepRate: 'Creep',
  huntAmplitude: 'Hunting, amplitude',
  huntPeriod: 'Hunting, period',
  working: 'Working',
  trapped: 'Trapped',
  spike: 'Trapped over working',
  purgeDip: 'Dip when purged',
  cracking: 'Cracking effort',
  opening: 'Opening',
  reseat: 'Reseat',
  blowdown: 'Blowdown',
  recoveryRate: 'Recovery',
  sustained: 'Sustained',
  ripple: 'Ripple',
};
const DIFFERENCES = new Set([
  'differential',
  'droop',
  'huntAmplitude',
  'spike',
  'purgeDip',
  'blowdown',
  'ripple',
]);

/** A figure and its doubt (k = 2) in the unit of the file. */
function shownFigure(name: string, f: TraceFigure, unit: string): string {
  const U = 2 * f.u;
  const digits = (x: number): number =>
    Math.max(0, Math.min(4, 1 - Math.floor(Math.log10(Math.max(x, 1e-9)))));
  if (f.unit === 'Pa' || f.unit === 'Pa/s') {
    const value =
      DIFFERENCES.has(name) || f.unit === 'Pa/s'
        ? intervalFromCanonical(f.value, unit)
        : fromCanonical(f.value, unit);
    const u = intervalFromCanonical(U, unit);
    return `${figure(value, digits(u))} ± ${figure(u, digits(u))} ${symbolOf(unit)}${f.unit === 'Pa/s' ? '/s' : ''}`;
  }
  return `${figure(f.value, digits(U))} ± ${figure(U, digits(U))} ${f.unit === '1/h' ? 'an hour' : f.unit}`;
}

/** What the trace came to: its figures with their doubt, or that there is nothing of this kind. */
function Told({ analysis, unit }: { analysis: Analysis; unit: string }) {
  const spikes = analysis.events.filter((e) => e.kind === 'spike').length;
  return (
    <>
      {analysis.nothing && <p className="caution">{analysis.nothing}</p>}
      <dl className="trace-figures">
        {Object.entries(analysis.figures).map(([name, f]) => (
          <div key={name}>
            <dt>
              {TITLES[name] ?? name}
              <span className="soft"> of {f.n}</span>
            </dt>
            <dd className="figure">{shownFigure(name, f, unit)}</dd>
          </div>
        ))}
      </dl>
      <p className="soft">
        {analysis.samples.toLocaleString('en')} samples, {analysis.cycles.length} cycles
        {spikes > 0 && `, ${spikes} short spikes left out`}
        {analysis.gaps.length > 0 && `, ${analysis.gaps.length} gaps`}. Noise{' '}
        {figure(intervalFromCanonical(analysis.grain.sd, unit), 3)} {symbolOf(unit)}.
      </p>
    </>
  );
}

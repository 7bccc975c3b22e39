import {
  choicesSaid,
  earlySaid,
  outcomeSaid,
  sheetOf,
  type Family,
  type Sheet,
  type SheetFigure,
  type SheetRow,
} from '@firm-needle/core/family';
import { fingerprint } from '@firm-needle/core/formats';
import type { JobView } from '@firm-needle/core/procedure';
import { show, showInterval, symbolOf } from '@firm-needle/core/quantity';
import { format, parseISO } from 'date-fns';
import type { DueReason } from '@firm-needle/core/history';
import type { Seal } from '@firm-needle/contract';
import { VerdictMark, VerdictWordMark } from '../../ui/Verdict.tsx';
import './sheet.css';

const step = (r: SheetRow): number => r.step ?? (r.dimension === 'time' ? 1 : 0.1);
const cell = (r: SheetRow, v: number | undefined): string =>
  v === undefined ? '·' : show(v, { unit: r.unit, step: step(r) });

/** Target as a figure, or as a bound where there is only one. */
function target(r: SheetRow): string {
  if (r.target !== undefined) return cell(r, r.target).replace(/\.0$/, '');
  if (r.limits.lower !== undefined) return `≥ ${cell(r, r.limits.lower)}`;
  if (r.limits.upper !== undefined) return `≤ ${cell(r, r.limits.upper)}`;
  return '·';
}

/** What a pressure is in another quantity of the trade, under it. */
const Beside = ({ text }: { text: string | undefined }) =>
  text ? <span className="sheet-beside soft">{text}</span> : null;

/** A figure of a setting as its row shows it. */
function shownIn(sheet: Sheet, setting: string, value: number): string {
  const row = sheet.rows.find((r) => r.setting === setting);
  return row ? cell(row, value) : show(value, { unit: 'Pa' });
}

/** The table of settings: target, found, left. */
export function SheetTable({ sheet }: { sheet: Sheet }) {
  const main = sheet.rows.find((r) => r.dimension === 'pressure')?.unit ?? sheet.rows[0]?.unit;
  return (
    <table className="sheet-table">
      <thead>
        <tr>
          <th>{main && symbolOf(main)}</th>
          <th>Target</th>
          <th>Found</th>
          <th>Left</th>
        </tr>
      </thead>
      <tbody>
        {sheet.rows.map((r) => (
          <tr key={r.setting}>
            <th scope="row">
              {r.title}
              {r.unit !== main && `, ${symbolOf(r.unit)}`}
            </th>
            <td className="figure">
              {target(r)}
              <Beside text={r.beside} />
            </td>
            <td className="figure">
              {cell(r, r.found?.value)}{' '}
              {r.found?.verdict && <VerdictMark word={r.found.verdict.word} size={15} />}
              <Beside text={r.found?.beside} />
            </td>
            <td className="figure">
              {r.due ? <em>due</em> : cell(r, r.left?.value)}{' '}
              {!r.due && r.left?.verdict && <VerdictMark word={r.left.verdict.word} size={15} />}
              {!r.due && <Beside text={r.left?.beside} />}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const LINE: Readonly<Record<string, string>> = {
  accuracy: 'Accuracy',
  resolution: 'Resolution',
  zero: 'Zero',
  repeatability: 'Repeatability',
  sampling: 'Catching it',
  head: 'Head',
  span: 'Span check',
  reference: 'Held against',
  temperature: 'Temperature',
};

/** The uncertainty budget behind a verdict, line by line, on demand. */
function BudgetDetails({ row, figure }: { row: SheetRow; figure: SheetFigure | undefined }) {
  if (!figure?.budget) return null;
  const show2 = (u: number): string =>
    row.dimension === 'time'
      ? `${u.toFixed(1)} s`
      : showInterval(u, { unit: row.unit, step: Math.min(0.01, step(row) / 5) });
  const parts = figure.budget.lines;
  const total = Math.sqrt(parts.reduce((sum, l) => sum + l.u * l.u, 0));
  return (
    <details className="budget no-print">
      <summary>How sure</summary>
      <table>
        <tbody>
          {parts.map((l, i) => (
            <tr key={i}>
              <th scope="row">
                {LINE[l.name] ?? l.name} <span className="soft">{l.because}</span>
              </th>
              <td className="figure">{show2(l.u)}</td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">Together, in squares</th>
            <td className="figure">{show2(total)}</td>
          </tr>
          <tr>
            <th scope="row">Expanded, k = {figure.budget.k.toFixed(2)}</th>
            <td className="figure">± {show2(figure.U)}</td>
          </tr>
        </tfoot>
      </table>
    </details>
  );
}

/** Verdicts with their reasons, for one side of the job. */
export function Reasons({ sheet, side }: { sheet: Sheet; side: 'found' | 'left' }) {
  const rows = sheet.rows.filter((r) => r[side]?.verdict);
  if (rows.length === 0) return null;
  return (
    <ul className="sheet-reasons">
      {rows.map((r) => {
        const verdict = r[side]?.verdict;
        return (
          verdict && (
            <li key={r.setting}>
              <VerdictWordMark word={verdict.word} /> <strong>{r.title}</strong> {verdict.because}
              <BudgetDetails row={r} figure={r[side]} />
            </li>
          )
        );
      })}
    </ul>
  );
}

export function Turns({ sheet }: { sheet: Sheet }) {
  if (sheet.turns.length === 0) return <p className="soft">Nothing was adjusted.</p>;
  return (
    <>
      <ul className="sheet-turns">
        {sheet.turns.map((t, i) => (
          <li key={i}>
            {t.text}
            {!t.advised && !t.sought && <span className="soft"> (own amount)</span>}
            {t.effects.map((e) => (
              <span key={e.setting} className="figure sheet-effect">
                {shownIn(sheet, e.setting, e.before)} → {shownIn(sheet, e.setting, e.after)}
              </span>
            ))}
          </li>
        ))}
      </ul>
      {sheet.net.map((n) => (
        <p key={n.adjuster} className="soft sheet-net">
          {n.adjuster}, net since found: {n.text}
        </p>
      ))}
    </>
  );
}

/** The whole record on one page, as it is printed. */
export function SheetDocument({
  family,
  job,
  seal,
  organisation,
  flags = [],
  frozen,
  objections = [],
  next,
}: {
  family: Family;
  job: JobView;
  seal: Seal | undefined;
  organisation: string;
  /** What later checks of its gauges cast doubt on. */
  flags?: readonly string[];
  /** The result as the server froze it at the sign-off; never what the signing device says of itself. */
  frozen?: Sheet | undefined;
  /** Why the outcome that was signed is not what the log proves. */
  objections?: readonly string[];
  /** When it is to be looked at again, and why; of the newest sheet of a control alone. */
  next?: DueReason | undefined;
}) {
  const sheet = frozen ?? sheetOf(family, job);
  const early = earlySaid(family, job);
  const { started } = job;
  const signed = job.state.signed;
  return (
    <article className="sheet-doc">
      <header>
        <div>
          <p className="eyebrow">{organisation}</p>
          <h1>{started.control.name}</h1>
          <p>
            {started.site.name}, {started.site.altitude_m} m · {started.control.equipment}
          </p>
          <p className="soft">{choicesSaid(family, job.plan, started.occasion).join(' · ')}</p>
        </div>
        <div className="sheet-outcome">
          {started.mode === 'practice' && <strong className="practice">PRACTICE</strong>}
          <strong>
            {signed
              ? `${outcomeSaid(family, signed.body.outcome, sheet.rows)}${objections.length > 0 ? ', not proved' : ''}`
              : 'Not signed yet'}
          </strong>
          <span>{format(parseISO(signed?.wall ?? job.state.started?.wall ?? ''), 'd MMMM yyyy, HH:mm')}</span>
          <span className="soft">{signed?.body.by ?? started.technician}</span>
          {next && (
            <span>
              <strong>Next {format(parseISO(next.day), 'd MMMM yyyy')}</strong>, {next.because}
            </span>
          )}
        </div>
      </header>
      {flags.map((text) => (
        <p key={text} className="caution">
          <strong>Gauge in doubt since.</strong> {text} What was signed stands as it was signed.
        </p>
      ))}
      {objections.length > 0 && (
        <div className="caution">
          <strong>Signed, and not proved.</strong> It moves no date.
          <ul className="sheet-findings">
            {objections.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </div>
      )}
      <SheetTable sheet={sheet} />
      <div className="sheet-cols">
        <section>
          <h2>As found</h2>
          <Reasons sheet={sheet} side="found" />
        </section>
        <section>
          <h2>As left</h2>
          <Reasons sheet={sheet} side="left" />
        </section>
      </div>
      <div className="sheet-cols">
        <section>
          <h2>Adjusted</h2>
          <Turns sheet={sheet} />
        </section>
        <section>
          <h2>What was noticed</h2>
          {sheet.findings.length === 0 ? (
            <p className="soft">Nothing beyond the readings.</p>
          ) : (
            <ul className="sheet-findings">
              {sheet.findings.map((f) => (
                <li key={f.code}>
                  <strong>{f.message}</strong> {f.remedy}
                </li>
              ))}
            </ul>
          )}
          {job.state.leaving && <p>{job.state.leaving.body.reason}</p>}
          {job.state.notes.map((n) => (
            <p key={n.id}>{n.body.text}</p>
          ))}
        </section>
      </div>
      <section>
        <h2>{sheet.gauges.length > 0 ? 'Gauges' : 'Seen on'}</h2>
        <ul className="sheet-gauges">
          {sheet.gauges.map((g) => (
            <li key={`${g.slot} ${g.label}`}>
              <strong>{g.label}</strong> {g.text}. {g.zero && `Zero ${g.zero}`}
              {!g.fit && ' Readings in doubt.'}
              {g.reason && ` In doubt, used because: ${g.reason}`}
              {g.changed && ` Put in its place because: ${g.changed}`}
            </li>
          ))}
        </ul>
        {started.source && <p className="soft">Readings from: {started.source}.</p>}
      </section>
      {sheet.links && (
        <section>
          <h2>Beside it</h2>
          <ul className="sheet-findings">
            {sheet.links.map((l) => (
              <li key={l.title}>
                {l.title}: {l.text}.
              </li>
            ))}
          </ul>
        </section>
      )}
      {sheet.replans && (
        <section>
          <h2>Plan changed in the job</h2>
          <ul className="sheet-findings">
            {sheet.replans.map((r, i) => (
              <li key={i}>
                {r.changes.join('; ')}. Because: {r.reason}
              </li>
            ))}
          </ul>
        </section>
      )}
      {(early.length > 0 ||
        job.state.skips.length > 0 ||
        job.state.corrections.length > 0 ||
        job.state.aside.length > 0) && (
        <section>
          <h2>Early, skipped and corrected</h2>
          <ul className="sheet-findings">
            {early.map((text) => (
              <li key={text}>{text}</li>
            ))}
            {job.state.skips.map((s) => (
              <li key={s.id}>
                Skipped {s.body.at.key}: {s.body.reason}
              </li>
            ))}
            {job.state.corrections.map((c) => (
              <li key={c.by.id}>
                {c.by.body.body ? 'Corrected' : 'Withdrawn'}: {c.original.body.kind}{' '}
                {'value' in c.original.body && c.original.body.value ? c.original.body.value.text : ''} (
                {c.by.body.reason})
              </li>
            ))}
            {job.state.aside.map((a) => (
              <li key={a.event.id}>
                Set aside: {a.event.body.kind}. {a.reason}
              </li>
            ))}
          </ul>
        </section>
      )}
      <footer>
        <p>
          {sheet.rule} {sheet.because}
        </p>
        <p>
          {seal
            ? seal.whole
              ? `Record whole: ${seal.length} entries, seal ${seal.fingerprint || fingerprint(seal.head)}.`
              : `Record broken at entry ${seal.at}: ${seal.because}`
            : 'The seal is not checked while the server cannot be reached.'}
          {job.state.countersigned && ` Countersigned by ${job.state.countersigned.body.by}.`}
        </p>
        <p className="soft">
          An aid to a competent person. The maker’s manual, local codes and licensed practice come first.
        </p>
      </footer>
    </article>
  );
}

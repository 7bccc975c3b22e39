import type { Family, Sheet, SheetFigure, SheetRow } from '@firm-needle/core/family';
import type { DueReason } from '@firm-needle/core/history';
import type { JobView } from '@firm-needle/core/procedure';
import {
  adjustedIn,
  documentOf,
  doubtIn,
  reasonsOf,
  sheetShown,
  type Cell,
  type RecordDoc,
  type RecordItem,
  type RecordSection,
} from '@firm-needle/core/record';
import type { Seal } from '@firm-needle/contract';
import { format, parseISO } from 'date-fns';
import type { ReactNode } from 'react';
import { Photo } from '../../photos/Photo.tsx';
import { VerdictMark, VerdictWordMark } from '../../ui/Verdict.tsx';
import './sheet.css';

const CellOf = ({ cell }: { cell: Cell }) => (
  <td className="figure">
    {cell.due ? <em>{cell.text}</em> : cell.text} {cell.word && <VerdictMark word={cell.word} size={15} />}
    {cell.beside && <span className="sheet-beside soft">{cell.beside}</span>}
  </td>
);

/** The table of settings: target, found, left. */
export function SheetTable({ table: { unit, rows } }: { table: RecordDoc['table'] }) {
  return (
    <table className="sheet-table">
      <thead>
        <tr>
          <th>{unit}</th>
          <th>Target</th>
          <th>Found</th>
          <th>Left</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((r) => (
          <tr key={r.setting}>
            <th scope="row">{r.title}</th>
            <CellOf cell={r.target} />
            <CellOf cell={r.found} />
            <CellOf cell={r.left} />
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
              <td className="figure">{doubtIn(row, l.u)}</td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">Together, in squares</th>
            <td className="figure">{doubtIn(row, total)}</td>
          </tr>
          <tr>
            <th scope="row">Expanded, k = {figure.budget.k.toFixed(2)}</th>
            <td className="figure">± {doubtIn(row, figure.U)}</td>
          </tr>
        </tfoot>
      </table>
    </details>
  );
}

/** The budget behind one verdict of a sheet. */
const budgetIn = (sheet: Sheet, side: 'found' | 'left') =>
  function budget(item: RecordItem): ReactNode {
    const row = sheet.rows.find((r) => r.setting === item.setting);
    return row && <BudgetDetails row={row} figure={row[side]} />;
  };

/** The lines of a section; `more` is what stands under one that is about a setting. */
function Items({
  items,
  className,
  more,
}: {
  items: readonly RecordItem[];
  className: string;
  more?: ((item: RecordItem) => ReactNode) | undefined;
}) {
  return (
    <ul className={className}>
      {items.map((item, i) => (
        <li key={i} className={item.soft ? 'soft' : undefined}>
          {item.mark && (
            <>
              <VerdictWordMark word={item.mark} />{' '}
            </>
          )}
          {item.strong && (
            <>
              <strong>{item.strong}</strong>{' '}
            </>
          )}
          {item.text}
          {item.effects?.map((e, k) => (
            <span key={k} className="figure sheet-effect">
              {e}
            </span>
          ))}
          {more?.(item)}
        </li>
      ))}
    </ul>
  );
}

/** Verdicts with their reasons, for one side of the job. */
export const Reasons = ({ sheet, side }: { sheet: Sheet; side: 'found' | 'left' }) => (
  <Items items={reasonsOf(sheet, side).items} className="sheet-reasons" more={budgetIn(sheet, side)} />
);

export const Turns = ({ sheet }: { sheet: Sheet }) => (
  <Items items={adjustedIn(sheet).items} className="sheet-turns" />
);

const CLASS: Readonly<Partial<Record<RecordSection['key'], string>>> = {
  found: 'sheet-reasons',
  left: 'sheet-reasons',
  adjusted: 'sheet-turns',
  gauges: 'sheet-gauges',
};
/** Sections that stand beside each other where there is room. */
const BESIDE: readonly RecordSection['key'][] = ['found', 'left', 'adjusted', 'noticed', 'seen', 'plate'];

function Section({ section, sheet }: { section: RecordSection; sheet?: Sheet | undefined }) {
  const side = section.key === 'found' || section.key === 'left' ? section.key : undefined;
  return (
    <section>
      <h2>{section.title}</h2>
      <Items
        items={section.items}
        className={CLASS[section.key] ?? 'sheet-findings'}
        more={sheet && side && budgetIn(sheet, side)}
      />
    </section>
  );
}

const day = (iso: string): string => format(parseISO(iso), 'd MMMM yyyy');
const time = (iso: string): string => format(parseISO(iso), 'd MMMM yyyy, HH:mm');
/** Days and times as this device says them. */
export const SAID = { day, time };

/**
 * The whole record of a job on one page, as it is read and printed.
 * @param sheet the figures behind it, for how sure each is; without it that is not offered
 * @param photo where a photo's bytes are had, where that is neither this device nor the firm's own server
 */
export function Record({
  doc,
  sheet,
  photo,
}: {
  doc: RecordDoc;
  sheet?: Sheet;
  photo?: (hash: string) => string;
}) {
  const beside = doc.sections.filter((s) => BESIDE.includes(s.key));
  const whole = doc.sections.filter((s) => !BESIDE.includes(s.key));
  return (
    <article className="sheet-doc">
      <header>
        <div>
          <p className="eyebrow">{doc.organisation}</p>
          <h1>{doc.title}</h1>
          <p>{doc.place}</p>
          <p className="soft">{doc.about}</p>
        </div>
        <div className="sheet-outcome">
          {doc.practice && <strong className="practice">PRACTICE</strong>}
          <strong>{doc.outcome}</strong>
          <span>{doc.at && time(doc.at)}</span>
          <span className="soft">{doc.by}</span>
          {doc.next && (
            <span>
              <strong>Next {day(doc.next.day)}</strong>, {doc.next.because}
            </span>
          )}
        </div>
      </header>
      <div className="sheet-summary">
        {doc.summary.map((text) => (
          <p key={text}>{text}</p>
        ))}
      </div>
      {doc.doubts.map((d) => (
        <div key={d.text} className="caution">
          <strong>{d.title}</strong> {d.text}
          {d.items.length > 0 && (
            <ul className="sheet-findings">
              {d.items.map((text) => (
                <li key={text}>{text}</li>
              ))}
            </ul>
          )}
        </div>
      ))}
      <SheetTable table={doc.table} />
      <div className="sheet-cols">
        {beside.map((s) => (
          <Section key={s.key} section={s} sheet={sheet} />
        ))}
      </div>
      {whole.map((s) => (
        <Section key={s.key} section={s} />
      ))}
      {doc.photos.length > 0 && (
        <section className="sheet-photos photos">
          <h2>Photos</h2>
          {doc.photos.map((p) => (
            <Photo key={p.hash} {...p} url={photo?.(p.hash)} />
          ))}
        </section>
      )}
      <footer>
        <p>{doc.rule}</p>
        <p>{doc.seal}</p>
        <p className="soft">{doc.aid}</p>
      </footer>
    </article>
  );
}

/** The record of a job that is open on this device. */
export function SheetDocument({
  family,
  job,
  ...around
}: {
  family: Family;
  job: JobView;
  seal: Seal | undefined;
  organisation: string;
  flags?: readonly string[];
  frozen?: Sheet | undefined;
  objections?: readonly string[];
  next?: DueReason | undefined;
  /** The customer’s unit of pressure. */
  unit?: string | undefined;
}) {
  return (
    <Record doc={documentOf(family, job, { ...around, ...SAID })} sheet={sheetShown(family, job, around)} />
  );
}

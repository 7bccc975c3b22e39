import { choicesSaid, sheetOf } from '@firm-needle/core/family';
import type { AsTyped } from '@firm-needle/core/procedure';
import { symbolOf } from '@firm-needle/core/quantity';
import { inWords, tableOf } from '@firm-needle/core/record';
import { Link } from 'react-router';
import type { OpenJob } from '../../sync/useJob.ts';
import { usePractised } from '../../practice/context.ts';
import { Cautions } from '../../ui/Caution.tsx';
import { Reasons, SheetTable, Turns } from '../sheet/SheetView.tsx';

/** The record as it will be printed, filling in as the work goes on. */
export function Side({ job }: { job: OpenJob }) {
  const { family, view } = job;
  const sheet = sheetOf(family, view);
  // What is wrong is one’s own to find.
  const practised = usePractised();
  const chosen = choicesSaid(family, view.plan, view.started.occasion).join('. ');
  const always = family.cautions.map((c) => c.key).slice(0, 2);
  const said = family.plate
    .filter((p) => p.required || view.plan.plate[p.id])
    .map((p) => `${p.title} ${plateText(view.plan.plate[p.id], p.unit)}`)
    .join(', ');
  return (
    <aside className="side" aria-label="Sheet" tabIndex={0}>
      <p className="eyebrow">Sheet</p>
      <h2>{view.started.control.name}</h2>
      <p className="soft side-sub">
        {chosen}.{said && ` ${said}.`}
      </p>
      <SheetTable table={tableOf(sheet)} />
      {sheet.rows.some((r) => r.found?.verdict) && (
        <section>
          <h3>Found</h3>
          <Reasons sheet={sheet} side="found" />
        </section>
      )}
      {sheet.turns.length > 0 && (
        <section>
          <h3>Turns</h3>
          <Turns sheet={sheet} />
        </section>
      )}
      {sheet.rows.some((r) => r.left?.verdict) && (
        <section>
          <h3>Left</h3>
          <Reasons sheet={sheet} side="left" />
        </section>
      )}
      {!practised && sheet.findings.length > 0 && (
        <section>
          <h3>Noticed</h3>
          <ul className="sheet-findings">
            {sheet.findings.map((f) => (
              <li key={f.code}>
                <strong>{f.message}</strong> {f.remedy}
              </li>
            ))}
          </ul>
        </section>
      )}
      <Cautions all={family.cautions} keys={always} />
      {!practised && (
        <Link className="side-link" to={`/jobs/${view.state.job}/sheet`}>
          Whole sheet, to print
        </Link>
      )}
    </aside>
  );
}

/** A plate value in the unit it was typed in. */
const plateText = (v: AsTyped | undefined, unit: string): string =>
  v ? inWords(v.value, v.unit) : `– ${symbolOf(unit)}`.trim();

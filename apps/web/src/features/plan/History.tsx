import { outcomeSaid, type Family } from '@firm-needle/core/family';
import { show } from '@firm-needle/core/quantity';
import { format, parseISO } from 'date-fns';
import { Link } from 'react-router';
import type { Control } from '@firm-needle/contract';
import { VerdictMark } from '../../ui/Verdict.tsx';

/** As many settings as a table beside the ladder has room for. */
const MOST_COLUMNS = 6;

/** What was found and left at earlier visits. */
export function History({ family, control }: { family: Family; control: Control }) {
  const past = control.jobs.filter((j) => j.signedAt);
  if (past.length === 0) return <p className="soft">No signed visit yet.</p>;
  const columns =
    past[0]?.rows.filter((r) => r.target !== undefined || r.left?.verdict).slice(0, MOST_COLUMNS) ?? [];
  return (
    <table className="history">
      <caption className="eyebrow">Earlier visits, as found → as left</caption>
      <thead>
        <tr>
          <th>Day</th>
          {columns.map((c) => (
            <th key={c.setting}>{c.title}</th>
          ))}
          <th>Outcome</th>
        </tr>
      </thead>
      <tbody>
        {past.map((j) => (
          <tr key={j.id}>
            <td>
              <Link to={`/jobs/${j.id}/sheet`}>
                {format(parseISO(j.signedAt ?? j.openedAt), 'd MMM yyyy')}
              </Link>
            </td>
            {columns.map((c) => {
              const r = j.rows.find((x) => x.setting === c.setting);
              return (
                <td key={c.setting} className="figure">
                  {r?.found ? show(r.found.value, { unit: r.unit, step: r.step ?? 0.1 }) : '–'}
                  {r?.left && <> → {show(r.left.value, { unit: r.unit, step: r.step ?? 0.1 })}</>}
                  {r?.found?.verdict && <VerdictMark word={r.found.verdict.word} size={16} />}
                </td>
              );
            })}
            <td>{j.outcome ? outcomeSaid(family, j.outcome, j.rows) : ''}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

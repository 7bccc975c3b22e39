import type { WalkItem } from '@firm-needle/core/procedure';
import { fromCanonical, show } from '@firm-needle/core/quantity';
import { useEffect, useRef } from 'react';
import { Link } from 'react-router';
import { useVisitQuery } from '../../store/api.ts';
import type { OpenJob } from '../../sync/useJob.ts';

/** The visit's controls in walking order, and within this one its steps; done steps keep their values. */
export function Walk({
  job,
  visit,
  onCorrect,
}: {
  job: OpenJob;
  visit: string | undefined;
  onCorrect: (item: WalkItem) => void;
}) {
  const data = useVisitQuery(visit ?? '', { skip: !visit }).data;
  const { control } = job.view.started;
  const others = data?.controls ?? [{ id: control.id, name: control.name, available: true, job: null }];
  const items = job.offered.walk;
  const list = useRef<HTMLDivElement>(null);
  const now = job.offered.now;
  useEffect(() => {
    // Keep the step at hand in sight without moving the page.
    list.current?.querySelector('.walk-step.now')?.scrollIntoView({ block: 'nearest' });
  }, [now?.step.key, now?.pass]);
  return (
    <div ref={list}>
      <p className="eyebrow">Walk · {data?.site.name ?? job.view.started.site.name}</p>
      <ol className="walk-controls">
        {others.map((c, i) => (
          <li key={c.id} className={c.id === control.id ? 'here' : ''}>
            <span className="walk-control">
              <span className="figure">{i + 1}</span>{' '}
              {c.id === control.id || !c.available ? (
                c.name
              ) : (
                <Link to={c.job ? `/jobs/${c.job.id}?visit=${visit}` : `/controls/${c.id}?visit=${visit}`}>
                  {c.name}
                </Link>
              )}
              {!c.available && <span className="soft walk-later">later version</span>}
            </span>
            {c.id === control.id && (
              <ol className="walk-steps">
                {items.map((item) => (
                  <StepRow
                    key={`${item.step.key} ${item.pass}`}
                    item={item}
                    job={job}
                    onCorrect={onCorrect}
                  />
                ))}
              </ol>
            )}
          </li>
        ))}
      </ol>
    </div>
  );
}

function StepRow({
  item,
  job,
  onCorrect,
}: {
  item: WalkItem;
  job: OpenJob;
  onCorrect: (item: WalkItem) => void;
}) {
  const value = valueOf(item, job);
  const correctable = item.status === 'done' && item.taken.some((t) => t.body.kind === 'read');
  const body = (
    <>
      <span>{item.step.title}</span>
      {value && <span className="figure walk-value">{value}</span>}
    </>
  );
  return (
    <li className={`walk-step ${item.status}`} aria-current={item.status === 'now' ? 'step' : undefined}>
      {correctable ? (
        <button type="button" onClick={() => onCorrect(item)} title="Correct this reading">
          {body}
        </button>
      ) : (
        <span className="walk-line">{body}</span>
      )}
    </li>
  );
}

/** What a done step keeps: the corrected reading, the answer, the turn. */
function valueOf(item: WalkItem, job: OpenJob): string | undefined {
  if (item.status === 'skipped') return 'skipped';
  const last = item.taken.at(-1)?.body;
  if (!last) return item.status === 'now' ? '…' : undefined;
  switch (last.kind) {
    case 'read': {
      const def = job.view.setting(last.setting);
      if (last.bound) return last.bound === 'above' ? 'off scale' : 'under scale';
      const corrected = job.view.readings(last.setting).find((r) => r.kept.id === item.taken.at(-1)?.id);
      return corrected
        ? show(corrected.value, { unit: def.unit, step: job.view.step(last.setting) })
        : last.value.text;
    }
    case 'zero':
      return String(Math.round(fromCanonical(last.before.value, last.before.unit) * 100) / 100).replace(
        '-',
        '−',
      );
    case 'turn':
      return last.text.replace('counter-clockwise', 'ccw').replace('clockwise', 'cw').replace(/,.*/, '');
    case 'observe': {
      if (item.step.kind === 'observe' && item.step.shows && last.value) return last.value.text;
      const choices =
        item.step.kind === 'observe'
          ? item.step.choices
          : item.step.kind === 'read'
            ? (item.step.instead ?? [])
            : [];
      const title = choices.find((c) => c.code === last.answer)?.title ?? last.answer;
      return title.length > 14 ? last.answer : title.toLowerCase();
    }
    case 'done':
    case 'skip':
      return undefined;
  }
}

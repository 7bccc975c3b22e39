import type { PlannedVisit, Week } from '@firm-needle/contract';
import { plusDays, said, today } from './days.ts';
import { VisitLines, WeekHead } from './WeekGrid.tsx';

/** One’s own week on a phone: a day under the other, in the order of its stops. */
export function MyDays({
  week,
  me,
  from,
  onWeek,
  onOpen,
}: {
  week: Week;
  me: string;
  from: string;
  onWeek: (from: string) => void;
  onOpen: (visit: PlannedVisit) => void;
}) {
  const own = week.visits.filter((v) => v.technicianId === me);
  // Who is sent nowhere looks at everybody.
  const shown = own.length > 0 ? own : week.visits;
  const days = Array.from({ length: 7 }, (_, i) => plusDays(from, i)).filter((d) =>
    shown.some((v) => v.day === d),
  );
  return (
    <section className="week" aria-label="The week">
      <WeekHead from={from} onWeek={onWeek} />
      {days.length === 0 && <p className="soft">Nothing is planned in this week.</p>}
      {days.map((d) => (
        <div key={d} className="my-day">
          <h3 className={d === today() ? 'now' : ''}>{said(d, 'EEEE d MMMM')}</h3>
          {shown
            .filter((v) => v.day === d)
            .map((v) => (
              <button key={v.id} type="button" className="visit-card" onClick={() => onOpen(v)}>
                <VisitLines visit={v} />
                {own.length === 0 && <span className="soft">{v.technician}</span>}
              </button>
            ))}
        </div>
      ))}
    </section>
  );
}

import { useDraggable, useDroppable } from '@dnd-kit/core';
import type { Person, PlannedVisit, Week } from '@firm-needle/contract';
import Button from '@mui/material/Button';
import { Fragment } from 'react';
import { duration, mondayOf, plusDays, said, today } from './days.ts';

/** A working day, minutes: what a card's bar is a part of. */
const WORKDAY = 480;

/** Earlier, this one, later. */
export function WeekHead({ from, onWeek }: { from: string; onWeek: (from: string) => void }) {
  return (
    <header className="week-head">
      <h2>Week of {said(from, 'd MMMM')}</h2>
      <span className="grow" />
      <Button size="small" variant="text" onClick={() => onWeek(plusDays(from, -7))}>
        Earlier
      </Button>
      <Button size="small" variant="text" onClick={() => onWeek(mondayOf(today()))}>
        This week
      </Button>
      <Button size="small" variant="text" onClick={() => onWeek(plusDays(from, 7))}>
        Later
      </Button>
    </header>
  );
}

/** People down, days across; a weekend shows where something is planned in it. */
export function WeekGrid({
  week,
  from,
  onWeek,
  onOpen,
}: {
  week: Week;
  from: string;
  onWeek: (from: string) => void;
  onOpen: (visit: PlannedVisit) => void;
}) {
  const all = Array.from({ length: 7 }, (_, i) => plusDays(from, i));
  const days = all.filter((d, i) => i < 5 || week.visits.some((v) => v.day === d));
  return (
    <section className="week" aria-label="The week">
      <WeekHead from={from} onWeek={onWeek} />
      <div
        className="week-grid"
        style={{ gridTemplateColumns: `118px repeat(${days.length}, minmax(0, 1fr))` }}
      >
        <span />
        {days.map((d) => (
          <span key={d} className={`week-day${d === today() ? ' now' : ''}`}>
            {said(d, 'EEE d')}
          </span>
        ))}
        {week.people.map((p) => (
          <Fragment key={p.id}>
            <span className="week-person">
              <strong>{p.name.split(' ').at(-1)}</strong>
              <span className="soft">{held(p, from)}</span>
            </span>
            {days.map((d) => (
              <Cell
                key={d}
                person={p.id}
                day={d}
                visits={week.visits.filter((v) => v.day === d && v.technicianId === p.id)}
                onOpen={onOpen}
              />
            ))}
          </Fragment>
        ))}
      </div>
    </section>
  );
}

const held = (p: Person, on: string): string =>
  p.permits
    .filter((x) => x.until === undefined || x.until >= on)
    .map((x) => x.id)
    .join(' ');

function Cell({
  person,
  day,
  visits,
  onOpen,
}: {
  person: string;
  day: string;
  visits: readonly PlannedVisit[];
  onOpen: (visit: PlannedVisit) => void;
}) {
  const { setNodeRef, isOver } = useDroppable({ id: `${person}|${day}` });
  return (
    <div ref={setNodeRef} className={`week-cell${isOver ? ' over' : ''}${day < today() ? ' past' : ''}`}>
      {visits.map((v) => (
        <VisitCard key={v.id} visit={v} onOpen={onOpen} />
      ))}
    </div>
  );
}

function VisitCard({ visit, onOpen }: { visit: PlannedVisit; onOpen: (visit: PlannedVisit) => void }) {
  const { listeners, setNodeRef, transform, isDragging } = useDraggable({ id: `visit:${visit.id}` });
  return (
    <button
      ref={setNodeRef}
      type="button"
      className={`visit-card${isDragging ? ' carried' : ''}`}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
      {...listeners}
      onClick={() => onOpen(visit)}
    >
      <VisitLines visit={visit} />
    </button>
  );
}

/** What a card says of a visit. */
export function VisitLines({ visit }: { visit: PlannedVisit }) {
  const part = Math.min(1, visit.minutes / WORKDAY);
  return (
    <>
      <strong>{visit.site.name}</strong>
      <span className="visit-what">{visit.controls.map((c) => c.name).join(', ')}</span>
      <span className="visit-bar" aria-hidden style={{ width: `${Math.max(6, 100 * part)}%` }} />
      <span className="soft">
        {duration(visit.minutes)}
        {visit.controls.some((c) => c.job?.signedAt) &&
          ` · ${visit.controls.filter((c) => c.job?.signedAt).length} of ${visit.controls.length} signed`}
      </span>
    </>
  );
}

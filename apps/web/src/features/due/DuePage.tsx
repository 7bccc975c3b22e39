import {
  DndContext,
  MouseSensor,
  TouchSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import type { DueItem, PlannedVisit, VisitForm } from '@firm-needle/contract';
import { useState } from 'react';
import { useDueQuery, useSaveVisitMutation, useSitesQuery, useWeekQuery } from '../../store/api.ts';
import { useMe } from '../../store/me.ts';
import { Failed, Loading, problemOf } from '../../ui/States.tsx';
import { useWide } from '../../ui/useWide.ts';
import { DueList } from './DueList.tsx';
import { horizon, mondayOf, today } from './days.ts';
import { VisitDialog, type VisitDraft } from './VisitDialog.tsx';
import { MyDays } from './MyDays.tsx';
import { WeekGrid } from './WeekGrid.tsx';
import './due.css';

/** A visit that stands, as the form that changes it. */
export const formOf = (v: PlannedVisit, change: Partial<VisitForm> = {}): VisitForm => ({
  version: v.version + 1,
  siteId: v.site.id,
  technicianId: v.technicianId,
  day: v.day,
  stop: v.stop,
  purpose: v.purpose,
  controls: v.controls.map((c) => c.id),
  ...change,
});

/** What is due and why on the left; a week of people and days on the right; one is carried onto the other. */
export function DuePage() {
  const me = useMe();
  const wide = useWide();
  const may = me.role !== 'reader';
  const [until] = useState(horizon);
  const due = useDueQuery(until);
  const sites = useSitesQuery();
  const [from, setFrom] = useState(() => mondayOf(today()));
  const week = useWeekQuery(from, { skip: !may });
  const [draft, setDraft] = useState<VisitDraft>();
  const [save, saving] = useSaveVisitMutation();
  // By keyboard a visit is planned and moved in its own window; a finger that scrolls carries nothing away.
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 250, tolerance: 8 } }),
  );
  if (due.isLoading || sites.isLoading) return <Loading what="what is due" />;
  if (!due.data || !sites.data)
    return <Failed problem={problemOf(due.error ?? sites.error)} retry={() => void due.refetch()} />;
  const plan = (item: DueItem, at?: { technicianId: string; day: string }): void =>
    setDraft({ site: item.site.id, controls: [item.id], ...at });
  const dropped = ({ active, over }: DragEndEvent): void => {
    const [technicianId, day] = String(over?.id ?? '').split('|');
    if (!technicianId || !day) return;
    const [sort, id] = String(active.id).split(':');
    if (sort === 'due') {
      const item = due.data?.items.find((i) => i.id === id);
      if (item) plan(item, { technicianId, day });
      return;
    }
    const visit = week.data?.visits.find((v) => v.id === id);
    if (visit && (visit.day !== day || visit.technicianId !== technicianId))
      void save({ id: visit.id, body: formOf(visit, { day, technicianId }) });
  };
  const problem = problemOf(saving.error);
  return (
    <DndContext sensors={sensors} onDragEnd={dropped}>
      <div className="page-head">
        <h1>Due and plan</h1>
        <span className="soft">
          {due.data.items.length === 0
            ? 'nothing in the next six months'
            : `${due.data.items.filter((i) => i.day <= today()).length} due now, ${due.data.items.length} in six months`}
        </span>
      </div>
      {problem && (
        <p className="caution" role="alert">
          <strong>{problem.detail}</strong> {problem.remedy}
        </p>
      )}
      <div className={`due${may ? '' : ' alone'}`}>
        <DueList items={due.data.items} may={may} onPlan={(i) => plan(i)} />
        {may &&
          (week.data ? (
            wide ? (
              <WeekGrid
                week={week.data}
                from={from}
                onWeek={setFrom}
                onOpen={(v) => setDraft({ visit: v })}
              />
            ) : (
              <MyDays
                week={week.data}
                me={me.id}
                from={from}
                onWeek={setFrom}
                onOpen={(v) => setDraft({ visit: v })}
              />
            )
          ) : week.isLoading ? (
            <Loading what="the week" />
          ) : (
            <Failed problem={problemOf(week.error)} retry={() => void week.refetch()} />
          ))}
      </div>
      {draft && week.data && (
        <VisitDialog
          key={draft.visit?.id ?? draft.controls?.join()}
          draft={draft}
          people={week.data.people}
          me={me.id}
          due={due.data.items}
          sites={sites.data.items}
          onClose={() => setDraft(undefined)}
          onKept={(day) => setFrom(mondayOf(day))}
        />
      )}
    </DndContext>
  );
}

import { useDraggable } from '@dnd-kit/core';
import type { DueKind } from '@firm-needle/core/history';
import type { DueItem } from '@firm-needle/contract';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useState } from 'react';
import { Link } from 'react-router';
import { Empty } from '../../ui/States.tsx';
import { horizon, said, today } from './days.ts';

type Order = 'soonest' | 'site' | 'reason';

/** What a reason is called where reasons are headings. */
const REASON: Readonly<Record<DueKind, string>> = {
  doubt: 'A gauge in doubt',
  'follow-up': 'To be seen to',
  drift: 'Drifts out',
  customer: 'Asked for by the customer',
  law: 'Law, insurer, certificate',
  rule: 'The usual interval',
  first: 'Never set yet',
};

/** Items under the headings of an order; one heading without words where there is none. */
function grouped(
  items: readonly DueItem[],
  order: Order,
): readonly (readonly [string, readonly DueItem[]])[] {
  if (order === 'soonest') return [['', items]];
  const key = (i: DueItem): string => (order === 'site' ? i.site.name : REASON[i.reasons[0]?.kind ?? 'rule']);
  const names = order === 'site' ? [...new Set(items.map(key))] : Object.values(REASON);
  return names
    .map((n) => [n, items.filter((i) => key(i) === n)] as const)
    .filter(([, own]) => own.length > 0);
}

/** What is due, why first; each can be planned by a press, or carried onto a day. */
export function DueList({
  items,
  may,
  onPlan,
}: {
  items: readonly DueItem[];
  may: boolean;
  onPlan: (item: DueItem) => void;
}) {
  const [order, setOrder] = useState<Order>('soonest');
  return (
    <section className="due-list" aria-label="What is due">
      <ToggleButtonGroup
        exclusive
        size="small"
        value={order}
        onChange={(_, v: Order | null) => v && setOrder(v)}
        aria-label="Order of what is due"
      >
        <ToggleButton value="soonest">soonest</ToggleButton>
        <ToggleButton value="site">by site</ToggleButton>
        <ToggleButton value="reason">by reason</ToggleButton>
      </ToggleButtonGroup>
      {items.length === 0 && (
        <Empty>
          Nothing is due. A control that you enter is due at once, until it is set and proved; then its next
          date is worked out by itself.
        </Empty>
      )}
      {grouped(items, order).map(([title, own]) => (
        <div key={title}>
          {title && <h2 className="eyebrow">{title}</h2>}
          <ul>
            {own.map((i) => (
              <DueRow key={i.id} item={i} may={may} onPlan={onPlan} />
            ))}
          </ul>
        </div>
      ))}
    </section>
  );
}

function DueRow({ item, may, onPlan }: { item: DueItem; may: boolean; onPlan: (item: DueItem) => void }) {
  const { listeners, setNodeRef, isDragging, transform } = useDraggable({
    id: `due:${item.id}`,
    disabled: !may,
  });
  const [first, ...others] = item.reasons;
  // What lies far off is read on the control’s own page.
  const more = others.filter((r) => r.day <= horizon());
  const late = item.day < today();
  return (
    <li
      ref={setNodeRef}
      className={isDragging ? 'carried' : ''}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
    >
      <div className={may ? 'due-grip' : ''} {...(may ? listeners : {})}>
        <span className="due-name">
          <Link to={`/controls/${item.id}`}>{item.name}</Link>
          <span className="soft"> · {item.site.name}</span>
        </span>
        <span className="due-why">
          {first?.because}
          {more.length > 0 && (
            <span className="soft">
              {' '}
              · {more.map((r) => `${r.because} (${said(r.day, 'MMM yyyy')})`).join(' · ')}
            </span>
          )}
        </span>
        {item.visit && (
          <span className="due-visit">
            planned {said(item.visit.day)}, {item.visit.technician}
          </span>
        )}
      </div>
      <span className="due-when">
        <span className={`figure${late ? ' late' : ''}`}>
          {late ? `overdue, ${said(item.day)}` : said(item.day)}
        </span>
        {may && !item.visit && (
          <Button size="small" variant="text" onClick={() => onPlan(item)} aria-label={`Plan ${item.name}`}>
            Plan
          </Button>
        )}
      </span>
    </li>
  );
}

import type { Visit } from '@firm-needle/contract';
import { useState } from 'react';
import { withInstead, type Carry } from '../../planning/useCarry.ts';
import { useMe } from '../../store/me.ts';
import { outbox } from '../../sync/outbox.ts';

/** What to carry, ticked off as it is packed; kept on this device and sent when it can be. */
export function CarryList({ visit, carry }: { visit: Visit; carry: Carry }) {
  const may = useMe().role !== 'reader';
  const [packed, setPacked] = useState<readonly string[]>(visit.packed);
  const pack = (item: string): void => {
    const next = packed.includes(item) ? packed.filter((p) => p !== item) : [...packed, item];
    setPacked(next);
    void outbox
      .keep([{ path: `/visits/${visit.id}/packed`, body: { items: next } }])
      .catch(() => setPacked(packed));
  };
  const groups = [
    ['Carry', carry.tools],
    ['Gauges', carry.gauges],
    ['Borrow', carry.borrow],
  ] as const;
  const all = groups.flatMap(([, items]) => items);
  if (all.length === 0) return null;
  const left = all.filter((i) => !packed.includes(i)).length;
  return (
    <div className="carry">
      {groups.map(
        ([title, items]) =>
          items.length > 0 && (
            <div key={title} role="group" aria-label={title}>
              <strong>{title}</strong>{' '}
              {items.map((item) => (
                <button
                  key={item}
                  type="button"
                  className="carry-item"
                  aria-pressed={packed.includes(item)}
                  disabled={!may}
                  onClick={() => pack(item)}
                >
                  {title === 'Gauges' ? withInstead(item, carry) : item}
                </button>
              ))}
            </div>
          ),
      )}
      <span className="soft" role="status">
        {left === 0 ? 'All packed.' : `${left} to pack: press each as it goes into the van.`}
      </span>
    </div>
  );
}

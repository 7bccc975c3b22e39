import { chooseGauges, pickGauges } from '@firm-needle/core/family';
import { loadFamily } from '@firm-needle/families';
import { format } from 'date-fns';
import { useEffect, useState } from 'react';
import { api, useGaugesQuery } from '../../store/api.ts';
import { useAppDispatch } from '../../store/index.ts';
import type { Visit } from '@firm-needle/contract';

/** The gauges that a visit asks for: which of the firm's to take, for how many places, and what must be borrowed. */
export interface VisitGauges {
  readonly take: readonly string[];
  readonly borrow: readonly string[];
}

const NOTHING: VisitGauges = { take: [], borrow: [] };

/** Chosen for every planned control of the visit that can be worked: the best of the firm's for each place, each once. */
export function useVisitGauges(visit: Visit, wanted: boolean): VisitGauges {
  const gauges = useGaugesQuery(undefined, { skip: !wanted }).data?.items;
  const dispatch = useAppDispatch();
  const [found, setFound] = useState<VisitGauges>(NOTHING);
  useEffect(() => {
    if (!wanted || !gauges) return;
    let current = true;
    const today = format(new Date(), 'yyyy-MM-dd');
    const choose = async (): Promise<void> => {
      const take = new Set<string>();
      const borrow = new Set<string>();
      for (const c of visit.controls.filter((x) => x.available)) {
        const control = await dispatch(api.endpoints.control.initiate(c.id, { subscribe: false }));
        if (!control.data?.plan) continue;
        const family = await loadFamily(c.family);
        const choices = chooseGauges(
          family,
          control.data.plan,
          gauges,
          today,
          control.data.gauge ?? undefined,
        );
        for (const { gauge } of Object.values(pickGauges(choices))) take.add(gauge.label);
        for (const choice of choices) {
          if (choice.borrow)
            borrow.add(`${choice.borrow.text} (${c.name}, ${choice.slot.title.toLowerCase()})`);
        }
      }
      if (current) setFound({ take: [...take].sort(), borrow: [...borrow] });
    };
    void choose();
    return () => {
      current = false;
    };
  }, [visit, wanted, gauges, dispatch]);
  return found;
}

import { chooseGauges, draftOf, makePlan, pickGauges } from '@firm-needle/core/family';
import { toolsOf } from '@firm-needle/core/procedure';
import { loadFamily } from '@firm-needle/families';
import { format } from 'date-fns';
import { useEffect, useRef, useState } from 'react';
import { api, useGaugesQuery } from '../store/api.ts';
import { useAppDispatch } from '../store/index.ts';

/** What some controls ask of whoever goes there: tools and gauges to carry, what must be borrowed, permits to hold. */
export interface Carry {
  readonly tools: readonly string[];
  /** The best of the firm's own for each place, each once. */
  readonly gauges: readonly string[];
  /** For each of them the next best that would do there, best first. */
  readonly instead: Readonly<Record<string, readonly string[]>>;
  readonly borrow: readonly string[];
  readonly permits: readonly { readonly id: string; readonly title: string; readonly control: string }[];
  /** Whether it was looked up already, or cannot be for now. */
  readonly known: boolean;
}

/** A control as the lists have it. */
export interface Carried {
  readonly id: string;
  readonly name: string;
  readonly family: string;
  readonly available: boolean;
}

/** Gauges that are named in a gauge's stead. */
const MOST_INSTEAD = 2;
/** A gauge with those that would do in its stead. */
export const withInstead = (gauge: string, { instead }: Carry): string => {
  const others = (instead[gauge] ?? []).join(', ');
  return others === '' ? gauge : `${gauge}, else ${others}`;
};

const NOTHING: Carry = { tools: [], gauges: [], instead: {}, borrow: [], permits: [], known: true };
const NOT_YET: Carry = { ...NOTHING, known: false };

/** By the plan in force of each: another variant of the same kind is worked with other tools. */
export function useCarry(controls: readonly Carried[], wanted = true): Carry {
  const { data, isError } = useGaugesQuery(undefined, { skip: !wanted });
  const gauges = data?.items;
  const dispatch = useAppDispatch();
  const [found, setFound] = useState<Carry>(NOT_YET);
  // The same controls in another list are no other question.
  const key = controls.map((c) => c.id).join();
  const latest = useRef(controls);
  latest.current = controls;
  useEffect(() => {
    if (!wanted || key === '' || (!gauges && isError)) return setFound(NOTHING);
    if (!gauges) return setFound(NOT_YET);
    let current = true;
    const today = format(new Date(), 'yyyy-MM-dd');
    const look = async (): Promise<void> => {
      const [tools, take, borrow] = [new Set<string>(), new Set<string>(), new Set<string>()];
      const permits: Carry['permits'][number][] = [];
      const instead: Record<string, string[]> = {};
      for (const c of latest.current.filter((x) => x.available)) {
        const family = await loadFamily(c.family);
        permits.push(...family.permits.map((p) => ({ ...p, control: c.name })));
        const control = await dispatch(api.endpoints.control.initiate(c.id, { subscribe: false }));
        const plan = control.data?.plan;
        // What nobody has planned yet, or what cannot be asked for now, may be any variant of its kind.
        const plans = plan ? [plan] : family.variants.map((v) => makePlan(family, draftOf(family, v.id, {})));
        for (const p of plans) for (const t of toolsOf(family.procedure(p))) tools.add(t);
        if (!plan) continue;
        const own = gauges.filter((g) => !g.retired);
        const choices = chooseGauges(family, plan, own, today, control.data?.gauge ?? undefined);
        for (const [slot, { gauge }] of Object.entries(pickGauges(choices))) {
          take.add(gauge.label);
          const would = choices.find((x) => x.slot.id === slot)?.ranked ?? [];
          instead[gauge.label] ??= would
            .filter((r) => r.gauge.id !== gauge.id && (r.fitness === 'good' || r.fitness === 'usable'))
            .slice(0, MOST_INSTEAD)
            .map((r) => r.gauge.label);
        }
        for (const choice of choices)
          if (choice.borrow)
            borrow.add(`${choice.borrow.text} (${c.name}, ${choice.slot.title.toLowerCase()})`);
      }
      if (current)
        setFound({
          tools: [...tools],
          gauges: [...take].sort(),
          instead,
          borrow: [...borrow],
          permits,
          known: true,
        });
    };
    // What cannot be looked up holds nothing else up.
    void look().catch(() => current && setFound(NOTHING));
    return () => {
      current = false;
    };
  }, [key, wanted, gauges, isError, dispatch]);
  return found;
}

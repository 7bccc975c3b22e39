import { sheetOf } from '@firm-needle/core/family';
import { asRead, shownStep, type Gauge } from '@firm-needle/core/gauge';
import {
  placeOf,
  RENEW,
  type AsTyped,
  type Choice,
  type Facts,
  type Missing,
  type Outcome,
  type Place,
  type ReadBody,
  type ReadStep,
  type WalkItem,
} from '@firm-needle/core/procedure';
import { decimalsFor, toCanonical } from '@firm-needle/core/quantity';
import { CORE_VERSION } from '@firm-needle/core/version';
import { useMemo } from 'react';
import type { OpenJob } from '../../sync/useJob.ts';
import type { Live } from './useLiveSource.ts';

/** Everything that can be entered into a job, each as one event. */
export interface Actions {
  done(item: WalkItem, extra?: { count?: number; seconds?: number }): void;
  renew(missing: Missing, item: WalkItem): void;
  /** A zero carried as it is, or with what the needle showed once it was set. */
  zero(item: WalkItem, slot: string, before: AsTyped, after: AsTyped | undefined): void;
  gauge(slot: string, gauge: Gauge, reason: string): void;
  read(item: WalkItem, step: ReadStep, value: AsTyped, how: ReadHow): void;
  instead(item: WalkItem, choice: Choice, value?: AsTyped, seconds?: number): void;
  turn(item: WalkItem, adjuster: string, amount: number, text: string, advised: number | undefined): void;
  /** Turned click by click until something came, or did not; the rig has been turned on the way. */
  sought(item: WalkItem, adjuster: string, amount: number, text: string, reached: boolean): void;
  skip(item: WalkItem, reason: string): void;
  note(text: string): void;
  leave(outcome: Outcome, reason: string): void;
  sign(outcome: Outcome, by: string): void;
  take(): void;
  /** Withdraw the newest entry of this device. */
  undo(): void;
  correct(id: string, reason: string, value: AsTyped | undefined): void;
}

export interface ReadHow {
  readonly state: 'firm' | 'caught' | 'early' | 'typed';
  readonly bound?: 'above' | 'below';
  readonly t?: number;
  readonly since?: number | undefined;
  readonly trace?: ReadBody['trace'];
  readonly excerpt?: ReadBody['excerpt'];
}

/** A pressure as this gauge shows it, as if it had been typed. */
export function shownAs(gauge: Gauge, pa: number): AsTyped {
  const text = asRead(gauge, pa).toFixed(decimalsFor(shownStep(gauge)));
  return { text, unit: gauge.unit, value: toCanonical(Number(text), gauge.unit) };
}

const UNDOABLE = new Set(['read', 'zero', 'observe', 'turn', 'done', 'skip']);

/** The newest entry that a mis-tap could have made. */
export const lastEntry = (job: OpenJob) => {
  const withdrawn = new Set(job.view.state.corrections.map((c) => c.original.id));
  return [...job.session.log.events].reverse().find((e) => UNDOABLE.has(e.body.kind) && !withdrawn.has(e.id));
};

export function useActions(job: OpenJob, live: Live | undefined): Actions {
  return useMemo(() => {
    const { session, family, view } = job;
    const hands = (h: Readonly<Record<string, number>> | undefined): void => {
      for (const [handle, value] of Object.entries(h ?? {})) live?.rig?.set(handle, value);
    };
    const time = (): { t_s: number } | object => {
      const now = live?.session.now();
      return now ? { t_s: now.t } : {};
    };
    const setsOf = (sets: Facts | undefined): { sets: Facts } | object => (sets ? { sets } : {});
    const at = (item: WalkItem): Place => placeOf(item);
    return {
      done: (item, extra = {}) => {
        hands(item.step.hands);
        void session.append({ kind: 'done', at: at(item), ...setsOf(item.step.sets), ...extra, ...time() });
      },
      renew: (missing, item) => {
        hands(missing.hands);
        void session.append({
          kind: 'done',
          at: { key: `${RENEW}${missing.fact}=${missing.wanted}`, pass: item.pass },
          sets: { [missing.fact]: missing.wanted },
        });
      },
      gauge: (slot, gauge, reason) => void session.append({ kind: 'gauge', slot, gauge, reason }),
      zero: (item, slot, before, after) => {
        void session.append({
          kind: 'zero',
          slot,
          before,
          after: after ?? before,
          handling: after ? 'adjusted' : 'carried',
          at: at(item),
          ...setsOf(item.step.sets),
        });
      },
      read: (item, step, value, how) => {
        void session.append({
          kind: 'read',
          setting: step.setting,
          slot: step.slot,
          value,
          state: how.state,
          source: how.state === 'typed' ? 'typed' : live?.rig ? 'simulated' : 'live',
          ...(how.trace ? { trace: how.trace } : {}),
          ...(how.excerpt && how.excerpt.length > 0 ? { excerpt: how.excerpt } : {}),
          at: at(item),
          ...setsOf(step.sets),
          ...(how.bound ? { bound: how.bound } : {}),
          ...(how.t === undefined ? time() : { t_s: how.t }),
          ...(how.since === undefined ? {} : { since_s: how.since }),
        });
      },
      instead: (item, choice, value, seconds) => {
        if (choice.sets)
          for (const [fact, to] of Object.entries(choice.sets)) hands(family.facts[fact]?.[to]?.hands);
        void session.append({
          kind: 'observe',
          answer: choice.code,
          at: at(item),
          ...(value ? { value } : {}),
          ...(seconds === undefined ? {} : { seconds }),
          ...(choice.bounds ? { bounds: choice.bounds } : {}),
          ...setsOf(choice.sets ?? item.step.sets),
          ...time(),
        });
      },
      turn: (item, adjuster, amount, text, advised) => {
        live?.rig?.turn(adjuster, amount);
        void session.append({
          kind: 'turn',
          adjuster,
          amount,
          text,
          at: at(item),
          ...(advised === undefined ? {} : { advised }),
          ...time(),
        });
      },
      sought: (item, adjuster, amount, text, reached) => {
        const body = { kind: 'turn', adjuster, amount, text, reached, at: at(item) } as const;
        void session.append({ ...body, ...setsOf(item.step.sets), ...time() });
      },
      skip: (item, reason) => void session.append({ kind: 'skip', at: at(item), reason }),
      note: (text) => void session.append({ kind: 'note', text }),
      leave: (outcome, reason) => void session.append({ kind: 'leave', outcome, reason }),
      sign: (outcome, by) =>
        void session.append({
          kind: 'sign',
          outcome,
          by,
          coreVersion: CORE_VERSION,
          result: sheetOf(family, view),
        }),
      take: () => void session.append({ kind: 'take' }),
      undo: () => {
        const last = lastEntry(job);
        if (!last) return;
        // The rig's screw goes back with the entry that turned it.
        if (last.body.kind === 'turn') live?.rig?.turn(last.body.adjuster, -last.body.amount);
        void session.append({ kind: 'correct', corrects: last.id, reason: 'mis-tap' });
      },
      correct: (id, reason, value) => {
        const original = session.log.events.find((e) => e.id === id);
        if (!original) return;
        const body = value && original.body.kind === 'read' ? { ...original.body, value } : undefined;
        void session.append({ kind: 'correct', corrects: id, reason, ...(body ? { body } : {}) });
      },
    };
  }, [job, live]);
}

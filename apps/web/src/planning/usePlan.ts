import {
  ambientOf,
  draftOf,
  give,
  makePlan,
  nudgeStep,
  typePlate,
  typeSetting,
  written,
  type Family,
  type PlanDraft,
} from '@firm-needle/core/family';
import { unitOf, type Finding, type Plan } from '@firm-needle/core/procedure';
import { ambientAt, type AbsolutePressure } from '@firm-needle/core/quantity';
import { expectOk, type Refusal } from '@firm-needle/core/result';
import { useMemo, useState } from 'react';
import type { Control } from '@firm-needle/contract';

/** A plan being made: its draft, what follows from it, and what was refused. */
export interface Planning {
  readonly draft: PlanDraft;
  readonly plan: Plan;
  readonly findings: readonly Finding[];
  /** Ambient pressure at the site, Pa absolute. */
  readonly ambient: AbsolutePressure;
  readonly changed: boolean;
  /** Why the last move was not taken, by setting or plate parameter. */
  readonly pushed: { readonly about: string; readonly message: string } | undefined;
  move(setting: string, value: number): void;
  type(setting: string, text: string): Refusal | undefined;
  typeOnPlate(id: string, text: string): Refusal | undefined;
  choose(change: Partial<Pick<PlanDraft, 'variant' | 'school' | 'choices'>>): void;
}

/** What a plan is made for: what it was before, the gauge whose plate it is, and how high it stands. */
export interface Planned {
  readonly plan?: Plan | null | undefined;
  readonly gauge?: Control['gauge'];
  readonly site: { readonly altitude_m: number };
}

/** @param barometer_Pa read on the day: it beats the altitude */
export function usePlan(family: Family, control: Planned, barometer_Pa?: number): Planning {
  const start = useMemo<PlanDraft>(() => {
    const kept = control.plan ?? draftOf(family, family.variants[0]?.id ?? '', {});
    // A gauge's own control has the gauge for its plate, as it is now.
    const own = control.gauge ? family.plateOf?.(control.gauge) : undefined;
    return own && JSON.stringify(own) !== JSON.stringify(kept.plate) ? { ...kept, plate: own } : kept;
  }, [control.plan, control.gauge, family]);
  const [draft, setDraft] = useState<PlanDraft>(start);
  const [pushed, setPushed] = useState<Planning['pushed']>();
  const ambient = ambientOf({
    altitude_m: control.site.altitude_m,
    ...(barometer_Pa === undefined ? {} : { barometer_Pa }),
  });
  const pa = ambient.ok ? ambient.value : expectOk(ambientAt(0));
  const changed = draft !== start || start !== control.plan;
  const version = (control.plan?.version ?? 0) + (changed ? 1 : 0);
  const plan = useMemo(() => makePlan(family, draft, Math.max(1, version)), [family, draft, version]);
  const findings = useMemo(() => family.check(plan, pa), [family, plan, pa]);

  /** Takes a draft unless it breaks something that was whole: a forbidden place pushes back and says why. */
  const offer = (next: PlanDraft, about: string): Finding | undefined => {
    const before = new Set(findings.filter((f) => f.severity === 'refuse').map((f) => f.code));
    const bad = family
      .check(makePlan(family, next), pa)
      .find((f) => f.severity === 'refuse' && !before.has(f.code));
    setPushed(bad ? { about, message: `${bad.message} ${bad.remedy ?? ''}`.trim() } : undefined);
    if (!bad) setDraft(next);
    return bad;
  };

  return {
    draft,
    plan,
    findings,
    ambient: pa,
    changed,
    pushed,
    move: (setting, value) => {
      const def = family.settings.find((s) => s.id === setting);
      if (def)
        offer(give(draft, setting, written(value, unitOf(family, plan, setting), nudgeStep(def))), setting);
    },
    type: (setting, text) => {
      const typed = typeSetting(family, setting, text, unitOf(family, plan, setting));
      if (!typed.ok) return typed.refusal;
      const bad = offer(give(draft, setting, typed.value), setting);
      return bad
        ? { code: bad.code, message: bad.message, ...(bad.remedy ? { remedy: bad.remedy } : {}) }
        : undefined;
    },
    typeOnPlate: (id, text) => {
      const typed = typePlate(family, id, text);
      if (!typed.ok) return typed.refusal;
      const bad = offer({ ...draft, plate: { ...draft.plate, [id]: typed.value } }, id);
      return bad
        ? { code: bad.code, message: bad.message, ...(bad.remedy ? { remedy: bad.remedy } : {}) }
        : undefined;
    },
    choose: (change) => {
      // What is chosen stands: what speaks against it is said, and no job is started until it is cleared.
      setPushed(undefined);
      setDraft({ ...draft, ...change, given: change.variant ? [] : draft.given });
    },
  };
}

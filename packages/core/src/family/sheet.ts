import { classText, dimensionOf, merged, rangeText, shownStep, type BudgetLine } from '../gauge/index.js';
import { intervalFromCanonical, showInterval, showTurns, showWithUnit, symbolOf } from '../quantity/index.js';
import {
  byQuantity,
  stepsOf,
  type AdjusterDef,
  type JobView,
  type Outcome,
  type SettingDef,
} from '../procedure/index.js';
import type { Limits, Verdict } from '../verdict/index.js';
import { planChanges } from './replan.js';
import { besideAt } from './start.js';
import { OUTCOMES as ENDED, outcomesOf, type Family, type Finding } from './contract.js';
import { rolesOf, type Linked } from './links.js';

/** One setting's row of the sheet. Canonical units. */
export interface SheetRow {
  readonly setting: string;
  readonly title: string;
  readonly unit: string;
  readonly dimension: SettingDef['dimension'];
  /** The smallest step worth showing, in `unit`; absent on sheets signed before it was kept. */
  readonly step?: number;
  readonly target?: number;
  /** The target in another quantity of the trade, in words. */
  readonly beside?: string;
  readonly limits: Limits;
  readonly found?: SheetFigure;
  readonly left?: SheetFigure;
  /** Moved since it was last read. */
  readonly due: boolean;
}

export interface SheetFigure {
  readonly value: number;
  /** The same in another quantity of the trade, in words: the temperature at which it boils. */
  readonly beside?: string;
  readonly U: number;
  readonly n: number;
  readonly verdict?: Verdict;
  /** The uncertainty behind it, line by line; standard uncertainties, canonical. */
  readonly budget: {
    readonly k: number;
    readonly lines: readonly Pick<BudgetLine, 'name' | 'because' | 'u'>[];
  };
}

export interface SheetTurn {
  readonly text: string;
  /** Which screw, and by how much in its own unit; absent on sheets signed before they were kept. */
  readonly adjuster?: string;
  readonly amount?: number;
  readonly advised: boolean;
  /** Turned until something came: by a count that nobody advised. */
  readonly sought?: boolean;
  readonly wall: string;
  /** Mean change per unit learned after all turns is in `learned`; this is what one move did. */
  readonly effects: readonly { readonly setting: string; readonly before: number; readonly after: number }[];
}

/** The record as it is shown, frozen at sign-off and printed. */
export interface Sheet {
  readonly rows: readonly SheetRow[];
  readonly turns: readonly SheetTurn[];
  readonly net: readonly { readonly adjuster: string; readonly text: string }[];
  readonly gauges: readonly {
    readonly slot: string;
    readonly label: string;
    readonly text: string;
    readonly zero: string;
    readonly fit: boolean;
    /** Why a gauge in doubt was used all the same. */
    readonly reason?: string;
    /** Why it took the place of the one before. */
    readonly changed?: string;
  }[];
  /** How the plan was changed in the job, and why; absent on sheets signed before it was kept. */
  readonly replans?: readonly { readonly changes: readonly string[]; readonly reason: string }[];
  /** The controls that stood beside it, in words, by title of their role; absent where there are none. */
  readonly links?: readonly { readonly title: string; readonly text: string }[];
  readonly findings: readonly Finding[];
  readonly outcome: Outcome | undefined;
  readonly because: string;
  readonly rule: string;
}

/** An amount in words: `1¼ turns clockwise`, `4.0 psi added`. */
export function sayAmount(def: AdjusterDef, amount: number): string {
  const way = def.ways[amount >= 0 ? 0 : 1];
  if (byQuantity(def)) {
    // A scale is finer than a tyre gauge.
    const step = intervalFromCanonical(def.quantum, def.unit) < 0.5 ? 0.05 : 0.5;
    return `${way} ${showInterval(Math.abs(amount), { unit: def.unit, step })}`;
  }
  return `${showTurns(amount, def.unit)} ${way}`;
}

/** How a job ended, in the family's words; what was set near its limit is called that. */
export function outcomeSaid(
  family: Pick<Family, 'outcomes'>,
  outcome: Outcome,
  rows: readonly SheetRow[],
): string {
  const said = outcomesOf(family).find(([code]) => code === outcome)?.[1] ?? outcome;
  // Of two places where one thing is read, it is named once.
  const near = rows
    .filter((r) => r.target !== undefined && r.left?.verdict?.word === 'near')
    .map((r) => (r.title.split(',')[0] ?? '').toLowerCase());
  return outcome !== 'set' || near.length === 0
    ? said
    : `Set, near its limit: ${[...new Set(near)].join(', ')}`;
}

/**
 * What was answered before it was watched as long as was asked, readings taken before the needle was caught, and those that no figure
 * stands on since they were of another gauge: said, not hidden.
 */
export function earlySaid(family: Family, job: JobView): readonly string[] {
  const steps = stepsOf(family, job.plan);
  const looks = job.state.observations.flatMap(({ body }) => {
    const step = steps.get(body.at.key);
    if (!body.early || step?.kind !== 'observe') return [];
    return [`${step.title}: answered after ${Math.round(body.seconds ?? 0)} s of ${step.seconds ?? 0} s.`];
  });
  const reads = family.settings.flatMap((def) => {
    const early = job.state.reads.filter((r) => r.body.setting === def.id && r.body.state === 'early').length;
    return early === 0
      ? []
      : [
          `${def.title}: ${early === 1 ? 'a reading was' : `${early} readings were`} taken before the needle was caught.`,
        ];
  });
  const out = family.settings.flatMap((def) => {
    const stands = new Set(job.figure(def.id, 'found')?.ids);
    return job
      .readings(def.id)
      .filter(
        ({ kept }) =>
          stands.size > 0 &&
          kept.body.at.phase === 'found' &&
          kept.body.state !== 'early' &&
          !stands.has(kept.id),
      )
      .map(
        ({ kept: { body } }) =>
          `${def.title}: ${body.value.text} ${symbolOf(body.value.unit)} was left out; the other readings lie together, far from it.`,
      );
  });
  return [...looks, ...reads, ...out];
}

/** Everything that stands on the sheet, from the job as it is. */
export function sheetOf(family: Family, job: JobView): Sheet {
  const shown = (def: SettingDef): boolean =>
    def.id in job.plan.values || def.id in job.plan.limits || job.figure(def.id, 'found') !== undefined;
  const touched =
    job.state.turns.length > 0 ||
    job.state.leaving !== undefined ||
    job.state.reads.some((r) => r.body.at.phase === 'left');
  const beside = (setting: string, value: number): { readonly beside?: string } => {
    const text = besideAt(family, job, setting, value);
    return text === undefined ? {} : { beside: text };
  };
  const readHere = new Set(
    [...stepsOf(family, job.plan).values()].flatMap((x) => (x.kind === 'read' ? [x.setting] : [])),
  );
  const rows = family.settings.filter(shown).map((def): SheetRow => {
    const figure = (when: 'found' | 'left'): SheetFigure | undefined => {
      const f = job.figure(def.id, when);
      if (!f) return undefined;
      const verdict = job.verdict(def.id, when);
      return {
        value: f.value,
        ...beside(def.id, f.value),
        U: f.budget.U,
        n: f.n,
        budget: {
          k: f.budget.k,
          lines: merged(f.budget.lines).map(({ name, because, u }) => ({ name, because, u })),
        },
        ...(verdict ? { verdict } : {}),
      };
    };
    const found = figure('found');
    // Until something was turned, or read again as left, what stands is what was found; it is not shown twice.
    const left = touched ? figure('left') : undefined;
    const target = job.plan.values[def.id];
    return {
      setting: def.id,
      title: def.title,
      unit: job.unitOf(def.id),
      step: job.step(def.id),
      dimension: def.dimension,
      limits: job.limits(def.id, 'left'),
      // What no step reads, such as a switch that is set by its dial, waits for no reading.
      due:
        ((def.had !== 'reading' || readHere.has(def.id)) && job.due(def.id)) ||
        family.unproved(job).some((f) => f.about === def.id && f.code.endsWith('-due')),
      ...(target === undefined ? {} : { target, ...beside(def.id, target) }),
      ...(found ? { found } : {}),
      ...(left ? { left } : {}),
    };
  });
  const turns = job.state.turns.map((t, i): SheetTurn => {
    const def = job.adjuster(t.body.adjuster);
    const nextOrder = job.state.turns[i + 1]?.order ?? Infinity;
    const effects = def.prior.moves.flatMap(({ setting }) => {
      const all = job.readings(setting);
      const before = all.filter((r) => r.kept.order < t.order).at(-1);
      const after = all.find((r) => r.kept.order > t.order && r.kept.order < nextOrder);
      return before && after ? [{ setting, before: before.value, after: after.value }] : [];
    });
    return {
      text: `${def.title} ${sayAmount(def, t.body.amount)}`,
      adjuster: t.body.adjuster,
      amount: t.body.amount,
      advised: t.body.advised !== undefined && Math.abs(t.body.advised - t.body.amount) < 1e-9,
      ...(t.body.reached === undefined ? {} : { sought: true }),
      wall: t.wall,
      effects,
    };
  });
  const recommended = family.recommend(job);
  const outcome = job.state.signed?.body.outcome ?? job.state.leaving?.body.outcome;
  return {
    rows,
    turns,
    net: family.adjusters.flatMap((a) => {
      const net = job.netTurns(a.id);
      return job.state.turns.some((t) => t.body.adjuster === a.id)
        ? [{ adjuster: a.title, text: Math.abs(net) < 1e-9 ? 'back as found' : sayAmount(a, net) }]
        : [];
    }),
    gauges: family.slots.flatMap((slot) => {
      const mounted = job.state.gauges.get(slot.id) ?? [];
      return mounted.map(({ gauge, from, reason: changed }, i) => {
        // A later gauge's zero is not this one's: its own stands as it was when it was taken off.
        const zero = job.zero(slot.id, { order: (mounted[i + 1]?.from ?? Infinity) - 1 });
        const doubted = from <= 1 ? job.started.gaugeReasons?.[slot.id] : undefined;
        return {
          slot: slot.id,
          label: gauge.label,
          text: `${rangeText(gauge)}, ${classText(gauge.accuracy)}${gauge.due ? `, due ${gauge.due}` : ''}`,
          zero: zero
            ? `${showWithUnit(zero.offset, { unit: gauge.unit, step: Math.min(0.1, shownStep(gauge)) })}. ${zero.because}`
            : dimensionOf(gauge) === 'pressure'
              ? 'not checked'
              : '',
          fit: zero?.fit ?? dimensionOf(gauge) !== 'pressure',
          ...(doubted ? { reason: doubted } : {}),
          ...(changed ? { changed } : {}),
        };
      });
    }),
    ...(job.state.replans.length > 0
      ? {
          replans: job.state.replans.map(({ body }, i) => ({
            changes: planChanges(family, job.state.replans[i - 1]?.body.plan ?? job.opening, body.plan),
            reason: body.reason,
          })),
        }
      : {}),
    ...linksOf(family, job),
    findings: family.findings(job),
    outcome,
    because: recommended.because,
    rule:
      job.rule === 'guarded'
        ? 'Guard band of one expanded uncertainty (ILAC-G8, JCGM 106).'
        : 'Simple acceptance: no guard band.',
  };
}

/** What stood beside it, as the register had it at the start: each named, with what it is planned at and how it last ended. */
function linksOf(family: Family, job: JobView): Pick<Sheet, 'links'> {
  const links = rolesOf(family, job.opening).flatMap((role) => {
    const linked = job.started.links?.[role.id];
    return linked ? [{ title: role.title, text: `${linked.name}, ${lastSaid(linked)}` }] : [];
  });
  return links.length > 0 ? { links } : {};
}

/** How another control's last signed job ended, in words. */
export function lastSaid({ signed }: Pick<Linked, 'signed'>): string {
  if (!signed) return 'no job on it is signed';
  const day = signed.at.slice(0, 10);
  return signed.proved
    ? `${(ENDED[signed.outcome as Outcome] ?? signed.outcome).toLowerCase()} on ${day}`
    : `signed on ${day}, not proved`;
}

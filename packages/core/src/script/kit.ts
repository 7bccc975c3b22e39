// What a family is held against: one plausible installation, nobody's, and what the product must conclude of every hidden fault on it.
// Read by the tests, which run it, by the bench, which counts, and by practice, which hides one of them from a person; a family has
// its own in `kit.ts`.
import {
  draftOf,
  give,
  makePlan,
  startJob,
  typePlate,
  typeSetting,
  type Family,
  type Links,
} from '../family/index.js';
import { parseAccuracyClass, type Gauge } from '../gauge/index.js';
import type { Outcome, Plan, StartedBody } from '../procedure/index.js';
import { ambientAt } from '../quantity/index.js';
import { expectOk } from '../result.js';
import type { Rig } from '../rig/index.js';
import type { Clumsiness, Manner } from './manner.js';
import { ScriptedTechnician } from './technician.js';
import { type ScriptedJob } from './job.js';

/** What is right to conclude: an outcome, and the finding that must be named with it. */
export type Right = readonly [outcome: Outcome, finding?: string];
type Texts = Readonly<Record<string, string>>;
type Gauges = Readonly<Record<string, Gauge>>;

export interface KitVariant {
  /** As it is called in figures. */
  readonly name: string;
  readonly variant?: string;
  readonly school?: string;
  readonly choices?: Readonly<Record<string, string>>;
  readonly occasion?: string;
  readonly gauges?: Gauges;
  /** What its plate and its plan say otherwise. */
  readonly plate?: Texts;
  readonly given?: Texts;
  /** Who stands beside it, by role. */
  readonly links?: Links;
  /** Where this variant must come to something else. */
  readonly concludes?: Readonly<Record<string, readonly Right[]>>;
}

/** What the trace of the rig's usual run must show: figure of the analysis → its truth, and how far they may lie apart, psi. */
export interface KitTrace {
  readonly variant?: string;
  readonly figures: Readonly<Record<string, readonly [truth: string, within_psi: number]>>;
  /** Channels that are recorded with it: where the turns of the pressure are not where it acts. */
  readonly channels?: readonly string[];
  /** Its gauge stands on what is never vented: nothing is taken off for its zero. */
  readonly vented?: false;
  /** To record, s, where the hands do not say. */
  readonly seconds?: number;
}

/** A job that brings out what seldom comes by itself: a fault, and what is answered there otherwise than its rig would. */
export interface Seldom {
  readonly variant?: string;
  readonly fault: string;
  /** Step → answer. */
  readonly says?: Texts;
  /** Whose hands did it, where they were not careful. */
  readonly hands?: readonly Clumsiness[];
}

/** What hands must not do as the installation stands: by its handles and its true pressure, and nothing that was written down. */
export interface Hurts {
  /** A handle that is moved, or an adjuster that is turned. */
  readonly deed: string;
  /** Positions of that handle; any where absent. */
  readonly to?: readonly number[];
  /** Where other handles stand. */
  readonly while?: Readonly<Record<string, readonly number[]>>;
  /** More than this at the gauge in a place, Pa. */
  readonly over?: readonly [slot: string, pa: number];
  /** It spoils a device, and hurts nobody. */
  readonly severity?: 2;
  /** One plain sentence. */
  readonly text: string;
}

/** What practice needs of a family beyond its rig. */
export interface PracticeKit {
  /** What a customer or a colleague says who has seen it, by fault, and under `none` where nothing is wrong; never what the needle should show. */
  readonly lines: Readonly<Record<string, string>>;
  /** Orders of work beyond what its interlocks ask: this step before that, and how grave it is otherwise (3 safety, 2 truth, 1 tidy). */
  readonly pairs?: readonly (readonly [before: string, after: string, weight: 1 | 2 | 3])[];
  /** What hurts somebody here, or spoils something. */
  readonly hurts?: readonly Hurts[];
  /** Facts that only give access, such as a cover off: without them nothing moves, and nobody is hurt. */
  readonly access?: readonly string[];
  /** People breathe from it: what is called in while it is out is as grave as anything. */
  readonly breathed?: true;
}

export interface Kit {
  readonly plate?: Texts;
  readonly given?: Texts;
  readonly gauges: Gauges;
  readonly permits?: readonly string[];
  readonly variants: readonly KitVariant[];
  /** Fault → what is right; `none` without one. A fault that is not there is run and not scored. */
  readonly concludes?: Readonly<Record<string, readonly Right[]>>;
  /** Settings whose truth the rig tells, Pa: none may be called in while it is out. */
  truths(job: Pick<ScriptedJob, 'truth' | 'view'>): Readonly<Record<string, number | undefined>>;
  readonly practice: PracticeKit;
  readonly trace?: KitTrace;
  /** Where findings are looked for first: jobs on the rig, and walks with no installation behind them, by their seeds. */
  readonly seldom?: readonly (Seldom | { readonly walk: number })[];
}

/** Height of the bench over the sea, m. */
export const BENCH_M = 300;

/** A dial that nobody owns. */
export function dial(
  label: string,
  unit: string,
  upper: number,
  division: number,
  readable: number,
  accuracy: string | number,
  over: Partial<Gauge> = {},
): Gauge {
  return {
    id: label,
    label,
    kind: 'bourdon',
    unit,
    lower: 0,
    upper,
    division,
    readable,
    accuracy:
      typeof accuracy === 'number'
        ? { standard: 'stated', percentOfSpan: accuracy }
        : expectOk(parseAccuracyClass(accuracy)),
    ...over,
  };
}

export interface Installed {
  readonly family: Family;
  readonly plan: Plan;
  readonly started: StartedBody;
  /** Pa absolute. */
  readonly ambient: number;
}

/** A family's installation in one of its variants: planned, and its job started. */
export function installed(family: Family, kit: Kit, variant: KitVariant): Installed {
  const gauges = { ...kit.gauges, ...variant.gauges };
  const own = gauges['test'] && family.plateOf?.(gauges['test']);
  const typed = Object.entries({ ...kit.plate, ...variant.plate }).map(
    ([id, text]) => [id, expectOk(typePlate(family, id, text))] as const,
  );
  let draft = draftOf(family, variant.variant ?? family.variants[0]?.id ?? '', {
    ...own,
    ...Object.fromEntries(typed),
  });
  for (const [id, text] of Object.entries({ ...kit.given, ...variant.given }))
    draft = give(draft, id, expectOk(typeSetting(family, id, text)));
  const plan = makePlan(family, {
    ...draft,
    school: variant.school ?? draft.school,
    choices: variant.choices,
  });
  const started = expectOk(
    startJob(family, {
      plan,
      site: { id: 's', name: 'Bench', altitude_m: BENCH_M },
      control: { id: 'c', name: 'Bench', equipment: 'Bench' },
      technician: 'Bench',
      permits: kit.permits ?? [],
      gauges,
      rule: 'guarded',
      ...(variant.occasion ? { occasion: variant.occasion } : {}),
      ...(variant.links ? { links: variant.links } : {}),
    }),
  );
  return { family, plan, started, ambient: expectOk(ambientAt(BENCH_M)) };
}

/** What is hidden in an installation, and how large. */
export interface Hidden {
  readonly seed: number;
  readonly faults?: readonly string[];
  readonly size?: number;
}

/** The installation as a rig, its gauges in their places. */
export const rigFor = (
  { family, plan, started, ambient }: Installed,
  { faults = [], ...rest }: Hidden,
): Rig => family.rig.create({ plan, ambient, gauges: started.gauges, faults, ...rest });

/** A whole job on it by a scripted technician, careful or as it is said. */
export const workedOn = (at: Installed, hidden: Hidden, manner?: Manner): ScriptedJob =>
  new ScriptedTechnician(at.family, rigFor(at, hidden), at.started, manner ? { manner } : {}).run();

/** The faults of a row that is named by its fault, or `none`. */
export const faultsOf = (row: string): readonly string[] => (row === 'none' ? [] : [row]);

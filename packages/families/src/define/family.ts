import type { Family, FamilyMeta } from '@firm-needle/core/family';
import type { Finding, JobView, Node, Outcome, Plan, Procedure } from '@firm-needle/core/procedure';
import { gathered, type Gathering } from './gather.js';
import type { Names, Parts } from './parts.js';
import type { FaceOf } from './steps.js';
import { zeroFindings, zeroRefusals } from './zeros.js';

/** What a walk is made of; cautions, zeros and zeros again are added to it where they belong. */
export interface Walk<N extends Names> {
  /** The sentence of the first step; every caution stands there. */
  readonly cautions: string;
  /** What is made true with it, besides that they were read. */
  readonly sets?: FaceOf<N>['sets'];
  /** Before any gauge is touched. */
  readonly first?: readonly Node[];
  /** The gauges, in the order in which they are vented: title and sentence of each, and of its zero at the end. */
  readonly zeros: readonly ZeroWords<N>[];
  readonly asFound: readonly Node[];
  readonly adjust?: readonly Node[];
  readonly prove?: readonly Node[];
  /** Walked at the end of every job, however it ends. */
  readonly close: readonly Node[];
  /** After the gauges were vented once more. */
  readonly last?: readonly Node[];
}

export interface AgainWords<N extends Names> extends Pick<
  FaceOf<N>,
  'cautions' | 'sets' | 'hands' | 'needs'
> {
  readonly say: string;
  readonly title?: string;
  /** Its key, where logs know it by another than its place gives. */
  readonly key?: string;
}

export interface ZeroWords<N extends Names> {
  readonly slot: N['slot'];
  readonly title: string;
  readonly say: string;
  /** Its zero at the end: the sentence, or what else is done with it, such as taking it off. */
  readonly again: string | AgainWords<N>;
  /** Needed beside the cautions read. */
  readonly needs?: FaceOf<N>['needs'];
  /** Made true by venting it, such as a cock that was shut for that. */
  readonly sets?: FaceOf<N>['sets'];
  readonly cautions?: FaceOf<N>['cautions'];
  readonly hands?: { readonly [H in N['handle']]?: number };
  readonly tools?: readonly string[];
  readonly why?: string;
}

/** A walk by the plan, made once of each plan: what is known of its steps is then found again, at every entry of a job. */
function onceAPlan(walk: (plan: Plan) => Procedure): (plan: Plan) => Procedure {
  const made = new WeakMap<Plan, Procedure>();
  return (plan) => {
    const procedure = made.get(plan) ?? walk(plan);
    made.set(plan, procedure);
    return procedure;
  };
}

/** The walk of a family as a procedure: cautions first, gauges vented before anything is read and once more after all. */
export function standard<N extends Names>({ steps: s, cautions }: Parts<N>, walk: Walk<N>): Procedure {
  const all = cautions.map((c) => c.key) as readonly N['caution'][];
  return {
    body: [
      s.confirm('cautions', 'Cautions read', walk.cautions, {
        cautions: all,
        sets: { cautions: 'read', ...walk.sets } as never,
        act: 'Read and understood',
      }),
      ...(walk.first ?? []),
      ...walk.zeros.map(({ slot, title, say, again: _, needs, ...face }) =>
        s.zero(`zero-${slot}`, slot, title, say, { ...face, needs: { cautions: 'read', ...needs } as never }),
      ),
      ...walk.asFound,
      ...(walk.adjust ?? []),
      ...(walk.prove ?? []),
    ],
    restore: [
      ...walk.close,
      ...walk.zeros.map(({ slot, title: first, again }) => {
        const {
          key = `zero-${slot}-again`,
          title = `${first} again`,
          say,
          ...face
        } = typeof again === 'string' ? { say: again } : again;
        return s.zero(key, slot, title, say, face);
      }),
      ...(walk.last ?? []),
    ],
  };
}

/** How a job may end where nothing speaks against it, in the family's words. */
export interface Ends {
  readonly set: string;
  readonly left: string;
}

/** Everything of a family beside its parts. What may be left out follows from them. */
export interface Definition extends Omit<
  Family,
  | 'meta'
  | 'plate'
  | 'choices'
  | 'links'
  | 'slots'
  | 'settings'
  | 'adjusters'
  | 'facts'
  | 'cautions'
  | 'permits'
  | 'relations'
  | 'procedure'
  | 'findings'
  | 'unproved'
  | 'recommend'
  | 'check'
  | 'figures'
> {
  readonly relations?: Family['relations'];
  readonly permits?: Family['permits'];
  readonly figures?: Family['figures'];
  readonly walk: Procedure | ((plan: Plan) => Procedure);
  /** What speaks against a plan, or should be known of it. */
  check(plan: Plan, ambient: number, found: Gathering): void;
  /** What a job showed; what its gauges' zeros say is added. */
  findings(job: JobView, found: Gathering): void;
  /** What is missing for "set"; a gauge that does not zero is added. */
  unproved(job: JobView, found: Gathering): void;
  readonly ends: Ends;
  /** Whether something was set; any turn of a screw that moves a setting, where it is not said. */
  wasSet?(job: JobView): boolean;
  /** What a finding that ends in replacing is given as the reason; its message, where it is not said. */
  replaceSays?(finding: Finding): string;
  /** How the job should end, where that is not: replace what a finding says, else unfinished, else set or left. */
  recommend?(job: JobView, usual: Recommendation): Recommendation;
}

export interface Recommendation {
  readonly outcome: Outcome;
  readonly because: string;
}

/** One definition, from which everything follows that screens, server, scripts and tests ask of a family. */
export function defineFamily<N extends Names>(meta: FamilyMeta, parts: Parts<N>, d: Definition): Family {
  const { plate, links, choices, slots, settings, adjusters, facts, cautions } = parts;
  const read = slots.filter((s) => !s.underTest && s.dimension !== 'temperature').map((s) => s.id);
  const findings = (job: JobView): readonly Finding[] => [
    ...gathered((found) => d.findings(job, found)),
    ...zeroFindings(job, read),
  ];
  const unproved = (job: JobView): readonly Finding[] => [
    ...gathered((found) => d.unproved(job, found)),
    ...zeroRefusals(job, read),
  ];
  const moving = new Set(adjusters.filter((a) => a.prior.moves.length > 0).map((a) => a.id));
  const wasSet = d.wasSet ?? ((job) => job.state.turns.some((t) => moving.has(t.body.adjuster)));
  const usual = (job: JobView): Recommendation => {
    const replace = findings(job).find((f) => f.severity === 'replace');
    if (replace) return { outcome: 'replace', because: d.replaceSays?.(replace) ?? replace.message };
    const [lacking] = unproved(job);
    if (lacking) return { outcome: 'unfinished', because: lacking.message };
    return wasSet(job) || !job.finds
      ? { outcome: 'set', because: d.ends.set }
      : { outcome: 'left-as-found', because: d.ends.left };
  };
  const { walk, ends: _, wasSet: __, replaceSays: ___, recommend, check, ...rest } = d;
  return {
    relations: [],
    permits: [],
    figures: () => [],
    ...rest,
    meta,
    plate,
    links,
    choices,
    slots,
    settings,
    adjusters,
    facts,
    cautions,
    procedure: typeof walk === 'function' ? onceAPlan(walk) : () => walk,
    check: (plan, ambient) => gathered((found) => check(plan, ambient, found)),
    findings,
    unproved,
    recommend: recommend ? (job) => recommend(job, usual(job)) : usual,
  };
}

import { RENEW, type Facts, type Phase, type Place, type PlacedBody } from './events.js';
import { LEFT_NEAR } from './finer.js';
import type { Kept } from './state.js';
import {
  inside,
  isAdvised,
  type Branch,
  type Choice,
  type Node,
  type Procedure,
  type Step,
  type Until,
  type Words,
} from './step.js';
import type { JobView } from './job.js';
import type { FoldedJob } from './view.js';

/** One line of the walk: a step at its pass, and what was taken there. */
export interface WalkItem {
  readonly step: Step;
  readonly pass: string;
  readonly status: 'done' | 'skipped' | 'now' | 'ahead';
  readonly taken: readonly Kept<PlacedBody>[];
}

/** An interlock that the step at hand still lacks. */
export interface Missing {
  readonly fact: string;
  readonly wanted: string;
  readonly title: string;
  readonly say: string;
  readonly cautions: readonly string[];
  readonly hands?: Readonly<Record<string, number>>;
}

/** What the procedure offers now: a pure function of the log. */
export interface Offer {
  readonly walk: readonly WalkItem[];
  readonly now: WalkItem | undefined;
  /** What must be made true before the step at hand can be taken. */
  readonly missing: readonly Missing[];
  /** A permit that the technician does not hold and the step needs. */
  readonly permit: string | undefined;
  /** Body and restore are walked; the job can be signed. */
  readonly finished: boolean;
}

export const placeOf = (item: WalkItem, phase?: Phase): Place => ({
  key: item.step.key,
  pass: item.pass,
  ...((phase ?? item.step.phase) ? { phase: phase ?? item.step.phase } : {}),
});

export const wordsOf = (words: Words, job: JobView): string =>
  typeof words === 'string' ? words : words(job);

/**
 * Steps with a caution or that make a fact true cannot be skipped, nor what the result hangs on: above all the readings that prove how it
 * is left.
 */
export const skippable = (step: Step): boolean =>
  !step.needed &&
  !step.cautions?.length &&
  !step.sets &&
  step.kind !== 'turn' &&
  !(step.kind === 'read' && step.phase === 'left');

/** What is offered next for this job by this procedure. */
export function offer(procedure: Procedure, job: FoldedJob): Offer {
  const walker = new Walker(job);
  const nodes = job.state.leaving ? procedure.restore : [...procedure.body, ...procedure.restore];
  if (job.state.leaving) walker.history(procedure.body);
  walker.list(nodes, '1');
  const now = zeroFirst(
    job,
    walker.items.find((i) => i.status === 'now'),
  );
  return {
    walk: walker.items,
    now,
    missing: now ? missingFacts(now.step, job) : [],
    permit: now?.step.permit && !job.permits.includes(now.step.permit) ? now.step.permit : undefined,
    finished: now === undefined,
  };
}

/**
 * What is offered where one picks the step oneself, whichever comes next: any step that has not been taken, at the pass of its loops that
 * is open. Its interlocks are asked for as ever.
 * @returns undefined where there is no such step, or it was taken
 */
export function offerPicked(procedure: Procedure, job: FoldedJob, key: string): Offer | undefined {
  const nodes = job.state.leaving ? procedure.restore : [...procedure.body, ...procedure.restore];
  const placed = placedIn(nodes, '1', job, key);
  if (!placed) return undefined;
  const now = zeroFirst(job, { ...placed, status: 'now', taken: [] }) ?? {
    ...placed,
    status: 'now',
    taken: [],
  };
  return {
    ...offer(procedure, job),
    now,
    missing: missingFacts(now.step, job),
    permit: now.step.permit && !job.permits.includes(now.step.permit) ? now.step.permit : undefined,
    finished: false,
  };
}

/** Every step that can be picked, each once. */
export function pickable(procedure: Procedure, job: FoldedJob): readonly Step[] {
  const nodes = job.state.leaving ? procedure.restore : [...procedure.body, ...procedure.restore];
  const steps = new Map<string, Step>();
  const collect = (n: Node): void => {
    if (isStep(n)) steps.set(n.key, n);
    else inside(n).forEach(collect);
  };
  nodes.forEach(collect);
  return [...steps.values()].filter((s) => placedIn(nodes, '1', job, s.key) !== undefined);
}

/** Where a step would be taken next. */
function placedIn(
  nodes: readonly Node[],
  pass: string,
  job: FoldedJob,
  key: string,
): Pick<WalkItem, 'step' | 'pass'> | undefined {
  const open = (step: Step, at: string): boolean =>
    statusOf(step, job.state.taken.get(step.key)?.get(at) ?? []) === undefined;
  for (const node of nodes) {
    if (isStep(node)) {
      if (node.key === key && open(node, pass)) return { step: node, pass };
    } else if (node.kind === 'branch') {
      const found = placedIn(inside(node), pass, job, key);
      if (found) return found;
    } else {
      const n = passesOf(node, pass, job);
      const found =
        (n > 0 ? placedIn(node.body, `${pass}.${n}`, job, key) : undefined) ??
        placedIn(node.body, `${pass}.${n + 1}`, job, key);
      if (found) return found;
    }
  }
  return undefined;
}

/** How often the body of a loop was begun. */
function passesOf(node: Node, pass: string, job: FoldedJob): number {
  let most = 0;
  const prefix = `${pass}.`;
  for (const key of keysOf(node))
    for (const at of job.state.taken.get(key)?.keys() ?? [])
      if (at.startsWith(prefix)) most = Math.max(most, Number(at.slice(prefix.length).split('.')[0]));
  return most;
}

/** A gauge that was changed is zeroed before it is read: the step for it comes in front. */
function zeroFirst(job: FoldedJob, now: WalkItem | undefined): WalkItem | undefined {
  if (now?.step.kind !== 'read' || !job.zeroDue(now.step.slot)) return now;
  const { slot } = now.step;
  const label = job.gauge(slot)?.label ?? 'the gauge';
  const step: Step = {
    kind: 'zero',
    key: `${RENEW}zero=${job.gauge(slot)?.id ?? slot}`,
    title: 'Zero of the changed gauge',
    say: `Vent ${label} and read its zero, then connect it again.`,
    why: 'Its zero is not known in this job yet.',
    slot,
  };
  return { step, pass: now.pass, status: 'now', taken: [] };
}

function missingFacts(step: Step, job: FoldedJob): Missing[] {
  return Object.entries(step.needs ?? {})
    .filter(([fact, wanted]) => job.fact(fact) !== wanted)
    .map(([fact, wanted]) => missingOf(fact, wanted, job));
}

/** What to do so that a fact holds. */
export function missingOf(fact: string, wanted: string, job: FoldedJob): Missing {
  const def = job.rules.facts[fact]?.[wanted];
  return {
    fact,
    wanted,
    title: def?.title ?? `${fact}: ${wanted}`,
    say: def ? wordsOf(def.say, job) : `Make sure: ${fact} is ${wanted}.`,
    cautions: def?.cautions ?? [],
    ...(def?.hands ? { hands: def.hands } : {}),
  };
}

/** Step keys below a node, found once. */
const keysOf = (() => {
  const known = new WeakMap<object, readonly string[]>();
  return function keys(node: Node): readonly string[] {
    const have = known.get(node);
    if (have) return have;
    const list = isStep(node) ? [node.key] : inside(node).flatMap(keys);
    known.set(node, list);
    return list;
  };
})();

export const isStep = (node: Node): node is Step => node.kind !== 'branch' && node.kind !== 'until';

class Walker {
  readonly items: WalkItem[] = [];
  private stopped = false;

  constructor(private readonly job: FoldedJob) {}

  /** Walk a list of nodes at one pass; afterwards `stopped` says whether a step was found to do. */
  list(nodes: readonly Node[], pass: string, closed = false): void {
    let last = closed ? nodes.length : -1;
    nodes.forEach((n, i) => {
      if (!closed && this.touched(n, pass)) last = i;
    });
    nodes.forEach((node, i) => {
      if (isStep(node)) return this.step(node, pass);
      if (node.kind === 'branch') return this.branch(node, pass, i > last, i < last);
      this.loop(node, pass, i < last);
    });
  }

  /** A branch that was entered stays entered, in the arm it took; one that was passed by stays passed. */
  private branch(node: Branch, pass: string, open: boolean, closed: boolean): void {
    const arms = [node.then, node.otherwise ?? []];
    const entered = arms.find((arm) => arm.some((n) => this.touched(n, pass)));
    const arm = entered ?? (open ? (node.when(this.job) ? arms[0] : arms[1]) : undefined);
    // Where something after it was taken, what lies inside and was passed by stays passed too.
    if (arm) this.list(arm, pass, closed);
  }

  /** Only what was taken, in order: what remains visible of a body that is being left. */
  history(nodes: readonly Node[]): void {
    const keys = new Set(nodes.flatMap((n) => keysOf(n)));
    const steps = new Map<string, Step>();
    const collect = (n: Node): void => {
      if (isStep(n)) steps.set(n.key, n);
      else inside(n).forEach(collect);
    };
    nodes.forEach(collect);
    const rows: { order: number; item: WalkItem }[] = [];
    for (const key of keys)
      for (const [pass, taken] of this.job.state.taken.get(key) ?? []) {
        const step = steps.get(key);
        const first = taken[0];
        if (step && first)
          rows.push({
            order: first.order,
            item: { step, pass, taken, status: statusOf(step, taken) ?? 'done' },
          });
      }
    rows.sort((a, b) => a.order - b.order);
    this.items.push(...rows.map((r) => r.item));
  }

  private step(step: Step, pass: string): void {
    const taken = this.job.state.taken.get(step.key)?.get(pass) ?? [];
    const status = statusOf(step, taken);
    if (status && !this.stopped) this.items.push({ step, pass, status, taken });
    else if (this.stopped) this.items.push({ step, pass, status: 'ahead', taken: [] });
    else {
      this.stopped = true;
      this.items.push({ step, pass, status: 'now', taken: [] });
    }
  }

  private loop(node: Until, pass: string, passedBy: boolean): void {
    const passes = passesOf(node, pass, this.job);
    // A pass that a later one has followed is closed, and the last where something after the loop was taken: what it passed by stays passed.
    for (let n = 1; n <= passes; n++) this.list(node.body, `${pass}.${n}`, passedBy || n < passes);
    if (passedBy || node.done(this.job)) return;
    // While something is still to do, show one pass ahead at most.
    if (this.stopped && passes > 0) return;
    this.list(node.body, `${pass}.${passes + 1}`);
  }

  private touched(node: Node, pass: string): boolean {
    const prefix = `${pass}.`;
    for (const key of keysOf(node)) {
      const passes = this.job.state.taken.get(key);
      if (!passes) continue;
      if (isStep(node) || node.kind === 'branch') {
        if (passes.has(pass)) return true;
        if (isStep(node)) continue;
      }
      for (const at of passes.keys()) if (at.startsWith(prefix)) return true;
    }
    return false;
  }
}

/** Whether what was taken completes a step. A skip never covers a caution or an interlock. */
function statusOf(step: Step, taken: readonly Kept<PlacedBody>[]): 'done' | 'skipped' | undefined {
  let skipped = false;
  for (const { body } of taken) {
    if (body.kind === 'skip') skipped ||= skippable(step);
    else if (completes(step, body)) return 'done';
  }
  return skipped ? 'skipped' : undefined;
}

/** Whether an entry is what a step asks for. */
export function completes(step: Step, body: PlacedBody): boolean {
  switch (step.kind) {
    case 'confirm':
    case 'note':
    case 'wait':
    case 'count':
      return body.kind === 'done';
    case 'zero':
      return body.kind === 'zero' && body.slot === step.slot;
    case 'read':
      return body.kind === 'read'
        ? body.setting === step.setting
        : body.kind === 'observe' && isOneOf(step.instead, body.answer);
    case 'observe':
      return body.kind === 'observe' && isOneOf(step.choices, body.answer);
    case 'turn':
      return body.kind === 'turn'
        ? body.adjuster === step.adjuster
        : // What goes back to a mark, or off a limit, is never let be for that.
          isAdvised(step) && body.kind === 'observe' && body.answer === LEFT_NEAR;
  }
}

const isOneOf = (choices: readonly Choice[] | undefined, code: string): boolean =>
  choices?.some((c) => c.code === code) ?? false;

export type { Facts };

/** The tools of every step, each once: what to carry. */
export function toolsOf(procedure: Procedure): readonly string[] {
  const tools = new Set<string>();
  const visit = (node: Node): void => {
    if (isStep(node)) node.tools?.forEach((t) => tools.add(t));
    else inside(node).forEach(visit);
  };
  [...procedure.body, ...procedure.restore].forEach(visit);
  return [...tools];
}

import { entries, type Entry } from '../entries/index.js';
import { sayAmount, type Family } from '../family/index.js';
import { shownAs, spanOf, type Gauge } from '../gauge/index.js';
import {
  checkOf,
  FoldedJob,
  instrumentOf,
  JobLog,
  offer,
  PAYLOAD_VERSION,
  type Choice,
  type Display,
  type StartedBody,
  type TurnStep,
  type WalkItem,
} from '../procedure/index.js';
import { toCanonical } from '../quantity/index.js';
import { seeded, type Random } from '../rig/index.js';

/** Steps after which a walk is left: one that wanders never has to end by itself. */
const PATIENCE = 160;
/** A walk that goes on for this many steps more, although it was left, has no end. */
const LONGEST_END = 60;

export interface Wandered {
  readonly log: JobLog;
  readonly view: FoldedJob;
  /** The walk came to its end, by itself or by being left. */
  readonly ended: boolean;
}

/**
 * A walk with no installation behind it: every step that is offered is answered, each with anything that can be answered there.
 * What a family says of a job must hold for all of them, and each of its findings must come up in some.
 * Deterministic in its seed.
 * @param look is shown the job at every step
 */
export function wander(
  family: Family,
  started: StartedBody,
  seed: number,
  look: (job: FoldedJob) => void = () => undefined,
): Wandered {
  const random = seeded(seed);
  const log = new JobLog(`wander-${seed}`);
  log.judgeBy(checkOf(family));
  let minute = 0;
  const write = ({ body }: Pick<Entry, 'body'>): void =>
    log.append({
      id: `00000000-0000-7000-8000-${String(log.events.length).padStart(12, '0')}`,
      job: log.job,
      version: PAYLOAD_VERSION,
      after: log.events.at(-1)?.id ?? null,
      author: 'wanderer',
      device: 'wanderer',
      wall: new Date(Date.UTC(2030, 0, 1) + ++minute * 60e3).toISOString(),
      mono: minute * 60e3,
      body,
    });
  write({ body: started });
  const view = (): FoldedJob => new FoldedJob(family, log.state);
  // How far from the plan this walk's readings lie, all of them together: what is near once is mostly near again.
  const shift = random.normal() * pick(random, [0, 0.03, 0.1, 0.4]);
  for (let steps = 0; steps < PATIENCE + LONGEST_END; steps++) {
    const job = view();
    look(job);
    const { now, missing } = offer(family.procedure(job.plan), job);
    if (!now) return { log, view: job, ended: true };
    const [lacking] = missing;
    if (lacking) write(entries.renewed(now, lacking));
    else if (steps === PATIENCE && !job.state.leaving) write(entries.left('unfinished', 'enough'));
    else write(answer(family, job, now, random, shift));
  }
  return { log, view: view(), ended: false };
}

function answer(family: Family, job: FoldedJob, item: WalkItem, random: Random, shift: number): Entry {
  const { step } = item;
  switch (step.kind) {
    case 'confirm':
    case 'note':
    case 'wait':
      return entries.done(item);
    case 'count':
      return entries.done(item, { count: step.times });
    case 'zero': {
      const gauge = gaugeIn(job, step.slot);
      const reads = (): ReturnType<typeof shownAs> =>
        shownAs(gauge, random.normal() * spanOf(gauge).readableStep * pick(random, [0, 1, 8]));
      return entries.zeroed(
        item,
        step.slot,
        reads(),
        step.adjust && random.next() < 0.5 ? reads() : undefined,
      );
    }
    case 'read': {
      const gauge = gaugeIn(job, step.slot);
      const other = step.instead && random.next() < 0.1 ? pick(random, step.instead) : undefined;
      const value = shownAs(gauge, near(job, step.setting, gauge, random, shift));
      if (other) return entries.answered(family, item, other, { value });
      return entries.readingOf(item, step, {
        value,
        state: 'typed',
        since_s: random.next() < 0.5 ? 300 * random.next() ** 3 : undefined,
      });
    }
    case 'observe': {
      const usual = step.choices.find((c) => c.advised?.(job));
      const choice: Choice | undefined = usual && random.next() < 0.6 ? usual : pick(random, step.choices);
      if (!choice) throw new Error(`${step.key} has no answer.`);
      const watch = step.stopwatch;
      return entries.answered(family, item, choice, {
        ...(watch ? { seconds: watch.limit_s * 2 * random.next() } : {}),
        ...(step.shows ? { value: figureOn(step.shows, random) } : {}),
      });
    }
    case 'turn':
      return turn(job, item, step, random);
  }
}

function turn(job: FoldedJob, item: WalkItem, step: TurnStep, random: Random): Entry {
  const { adjuster, seek } = step;
  const moved = (amount: number) => ({ adjuster, amount, text: sayAmount(job.adjuster(adjuster), amount) });
  if (seek) {
    const reached = random.next() < 0.85;
    const clicks = reached ? Math.ceil(random.next() * 6) * (seek.by ?? 1) : seek.most;
    return entries.turned(item, { ...moved(seek.way * Math.min(clicks, seek.most)), reached });
  }
  if (step.amount) return entries.turned(item, { ...moved(step.amount(job)), advised: step.amount(job) });
  const advice = job.advice(adjuster);
  if (advice.stop !== null) return entries.left('replace', advice.because);
  return entries.turned(item, { ...moved(advice.turns), advised: advice.turns });
}

/** A reading about what the plan wants, or anywhere on the dial where it wants nothing. */
function near(job: FoldedJob, setting: string, gauge: Gauge, random: Random, shift: number): number {
  const span = spanOf(gauge);
  const wanted = job.plan.values[setting] ?? span.lower + (span.upper - span.lower) * random.next();
  const wide = pick(random, [0.002, 0.002, 0.01, 0.1]);
  return Math.min(span.upper, Math.max(span.lower, wanted * (1 + shift + wide * random.normal())));
}

function gaugeIn(job: FoldedJob, slot: string): Gauge {
  const gauge = job.gauge(slot);
  if (!gauge) throw new Error(`No gauge in ${slot}.`);
  return gauge;
}

/** Anything that a display can show. */
const figureOn = (display: Display, random: Random): ReturnType<typeof shownAs> => {
  const { lower, upper, unit } = display;
  return shownAs(instrumentOf(display), toCanonical(lower + (upper - lower) * random.next(), unit));
};

function pick<T>(random: Random, all: readonly T[]): T {
  const one = all[Math.min(all.length - 1, Math.floor(random.next() * all.length))];
  if (one === undefined) throw new Error('Nothing to pick from.');
  return one;
}

// What is reckoned from the log: where the pilot stood when the relief just opened and just closed, and what a turn does.
import { combine, linesOf, type BudgetLine } from '@firm-needle/core/gauge';
import type { Derived, JobView } from '@firm-needle/core/procedure';

type When = 'found' | 'left';

/** The pilot is moved by this much at a time where its edges are sought. */
export const FINE = 1 / 16;
export const COARSE = 1 / 4;
/** How well the maker's table gives what a turn of its spring does [common practice, no source]. */
const TABLE = 0.1;
/** And where it was not seen what a turn does here: it may be another spring. */
const TABLE_ALONE = 0.4;

/** Where the pilot stood once an event had happened, turns clockwise of where it was found. */
export const pilotAt = (job: JobView, order = Infinity): number =>
  job.state.turns
    .filter((t) => t.body.adjuster === 'pilot' && t.order <= order)
    .reduce((sum, t) => sum + t.body.amount, 0);

/** The last time that an edge was sought by a step, and come to. */
const edge = (job: JobView, key: string) =>
  job.state.turns.findLast((t) => t.body.at.key === key && t.body.reached === true);

/**
 * Where the pilot stood at an edge, turns; it lies somewhere within the last movement, so half of that is given back.
 * @param key of the step that sought it
 */
function edgeAt(job: JobView, key: string): number | undefined {
  const turn = edge(job, key);
  return turn && placeOf(job, turn);
}
const placeOf = (job: JobView, turn: JobView['state']['turns'][number]): number =>
  pilotAt(job, turn.order) - (Math.sign(turn.body.amount) * FINE) / 2;

/** Doubt of an edge, turns: it lies evenly within one fine movement. */
const EDGE_U = FINE / Math.sqrt(12);

/** What one turn did here, Pa: two pressures at which it just closed, over the turns between. */
function measured(job: JobView): { rate: number; u: number; ids: readonly string[] } | undefined {
  const [x1, x2] = [edgeAt(job, 'edge-closes'), edgeAt(job, 'edge-closes-drawn')];
  const [p1, p2] = [job.readings('closes').at(-1), job.readings('closesDrawn').at(-1)];
  if (x1 === undefined || x2 === undefined || !p1 || !p2 || Math.abs(x1 - x2) < FINE) return undefined;
  const turns = x1 - x2;
  const rate = (p1.value - p2.value) / turns;
  const sd = job.setting('closes').repeatability.sd * Math.SQRT2;
  return {
    rate,
    u: Math.hypot(sd / turns, (rate * EDGE_U * Math.SQRT2) / turns),
    ids: [p1.kept.id, p2.kept.id],
  };
}

/** What one turn does: as measured here, weighed with the spring's table where the two agree. */
export function perTurn(job: JobView, when: When): Derived | undefined {
  const here = when === 'left' ? measured(job) : undefined;
  if (!here) return undefined;
  const lines: BudgetLine[] = [
    {
      name: 'sampling',
      because: 'from two pressures at which it just closed, and the turns between',
      u: here.u,
      dof: Infinity,
    },
  ];
  return { value: here.rate, n: 2, ids: here.ids, budget: combine(lines) };
}

/** The number on the spring was read, and is that of the table. */
export const listed = (job: JobView): boolean => job.answer('spring') === 'listed';

/** The rate to count by, Pa a turn, and its standard doubt: measurement and table by their weights. */
export function rateOf(job: JobView): { readonly rate: number; readonly u: number } | undefined {
  const table = job.plan.plate['perTurn']?.value;
  const here = measured(job);
  if (!here)
    return table === undefined ? undefined : { rate: table, u: (listed(job) ? TABLE : TABLE_ALONE) * table };
  if (table === undefined) return here;
  // Where the table says otherwise, one of the two pressures may have been misread: that stays in doubt.
  const differ = Math.abs(here.rate - table) / Math.sqrt(12);
  if (Math.abs(here.rate - table) > 3 * Math.hypot(here.u, TABLE * table))
    return { rate: here.rate, u: Math.hypot(here.u, 2 * differ) };
  const [a, b] = [1 / here.u ** 2, 1 / (TABLE * table) ** 2];
  return { rate: (a * here.rate + b * table) / (a + b), u: Math.hypot(1 / Math.sqrt(a + b), differ) };
}

/** Where the pilot stands for a figure: as found, or now. */
const standing = (job: JobView, when: When): number => (when === 'found' ? 0 : pilotAt(job));

const lineOf = (name: BudgetLine['name'], because: string, u: number): BudgetLine => ({
  name,
  because,
  u,
  dof: Infinity,
});

/** Steps that set it, that prove it by a count, by the speed, and that read it as it opened by that: at first, and once more. */
export const SETS: ReadonlySet<string> = new Set(['turn-set', 'set-again']);
export const COUNTED: ReadonlySet<string> = new Set(['prove-opens', 'prove-again']);
export const FASTER: ReadonlySet<string> = new Set(['speed-up', 'speed-again']);
const READ_OPENED: ReadonlySet<string> = new Set(['read-opened', 'read-again']);

/** Once that it was seen to open: where the pilot stood, turns, and how far over churn the pressure was, Pa. */
interface Opened {
  readonly order: number;
  readonly at: number;
  readonly over: number;
  readonly bySpeed: boolean;
  /** It did not open though it went so far. */
  readonly dry: boolean;
  /** By how much what was read is not what the pump makes at that speed, Pa: nothing is set by it, and it stays in doubt. */
  readonly off: number;
}

/** What a relief that just runs stands over its opening, and half a per cent of speed, Pa [common practice, no source]. */
const RUNS_OVER = 25_000;
/** The speed is raised by this part of itself at a time, and by no more than that in all. */
export const FASTER_STEP = 0.005;
export const MOST_FASTER = 0.1;

/** What a speed makes over churn, Pa: net pressure goes with its square. Undefined before churn was read. */
function made(job: JobView, part: number): number | undefined {
  const churn = atChurn(job, 'churn')?.value;
  return churn === undefined
    ? undefined
    : (churn - (atChurn(job, 'suction')?.value ?? 0)) * ((1 + part) ** 2 - 1);
}

/** Every time that it was seen to open, in order: an edge at churn, or brought up by the speed until it ran. */
function timesOpened(job: JobView): readonly Opened[] {
  const churn = atChurn(job, 'churn')?.value;
  const by = (part: number): number => made(job, part) ?? 0;
  const edges = job.state.turns
    .filter((t) => t.body.reached === true && (t.body.at.key === 'edge-opens' || COUNTED.has(t.body.at.key)))
    .map((t) => ({ order: t.order, at: placeOf(job, t), over: 0, bySpeed: false, dry: false, off: 0 }));
  if (churn === undefined) return edges;
  const raised = (order: number): number =>
    job.state.turns.findLast((t) => t.order < order && FASTER.has(t.body.at.key))?.body.amount ?? 0;
  const bySpeed = (order: number, over: number, dry: boolean, off: number): Opened => ({
    order,
    at: pilotAt(job, order),
    over,
    bySpeed: true,
    dry,
    off,
  });
  // By the speed at which it ran: what is read then is lower already, for water runs; it only must not be something else.
  const read = job
    .readings('runs')
    .filter((r) => READ_OPENED.has(r.kept.body.at.key))
    .map(({ value, kept: { order } }) => {
      const over = by(raised(order) - FASTER_STEP / 2);
      const off = Math.abs(value - churn - over);
      return bySpeed(order, over, false, off > 2 * RUNS_OVER ? off : 0);
    });
  // Still dry, though the pressure went so far: it opens no lower than that.
  const dry = job.state.turns
    .filter((t) => t.body.reached === false && FASTER.has(t.body.at.key))
    .map((t) => bySpeed(t.order, by(t.body.amount), true, 0));
  return [...edges, ...read, ...dry].sort((a, b) => a.order - b.order);
}

/** Two edges within a fine movement each, and some creep of the spring, turns. */
const CLOSES = 1.75 * FINE;

/**
 * What is counted from: where it was seen to open last. One by the speed counts only where it says otherwise than the count does, for the
 * count is finer. `missed` is by how much the last one said otherwise, Pa: something was not turned as it was written, or not read.
 */
function countedFrom(job: JobView, when: When): (Opened & { missed: number }) | undefined {
  const rate = rateOf(job)?.rate;
  if (rate === undefined) return undefined;
  let base: (Opened & { missed: number }) | undefined;
  for (const o of timesOpened(job)) {
    // As found is before anything was set.
    if (when === 'found' && base) break;
    if (!base) {
      base = { ...o, missed: 0 };
      continue;
    }
    const more = o.over - base.over - rate * (o.at - base.at);
    const by = Math.abs(more);
    const enough = o.bySpeed || base.bySpeed ? RUNS_OVER : rate * CLOSES;
    // Dry so far up says something only where it was to open before that.
    const differs = o.dry ? more > 0 : by > enough;
    const stays = o.off > 0 || (o.bySpeed && !differs && (o.dry || !base.dry));
    base = { ...(stays ? base : o), missed: Math.max(differs ? by : 0, o.off) };
  }
  return base;
}

const setLast = (job: JobView): number =>
  job.state.turns.findLast((t) => SETS.has(t.body.at.key))?.order ?? 0;

/** It was seen to open since it was set last, or was tried in vain. */
export const triedSince = (job: JobView): boolean => (timesOpened(job).at(-1)?.order ?? 0) > setLast(job);

/** From where it opened to where the pilot stands, as pressure over churn, with its doubt. */
function over(job: JobView, when: When): { value: number; lines: readonly BudgetLine[] } | undefined {
  const by = rateOf(job);
  const from = countedFrom(job, when);
  // Of one that stayed dry it is only known that it opens no lower.
  if (!from || !by || from.dry) return undefined;
  const turns = standing(job, when) - from.at;
  return {
    value: from.over + by.rate * turns,
    lines: [
      from.bySpeed
        ? lineOf(
            'sampling',
            'what a relief that just runs stands over its opening',
            RUNS_OVER / Math.sqrt(12),
          )
        : lineOf('resolution', 'where it just opens, within a sixteenth of a turn', by.rate * EDGE_U),
      lineOf('sampling', 'what a turn does, times the turns', by.u * Math.abs(turns)),
      ...(from.missed > 0
        ? [
            lineOf(
              'sampling',
              'it opened elsewhere than was counted: twice that, rectangular',
              (2 * from.missed) / Math.sqrt(3),
            ),
          ]
        : []),
    ],
  };
}

/** The opening pressure: system pressure where it just opened, and what the pilot was turned from there. */
export function opening(job: JobView, when: When): Derived | undefined {
  const [o, churn] = [over(job, when), atChurn(job, 'churn')];
  if (!o || !churn) return undefined;
  return {
    value: churn.value + o.value,
    n: churn.n,
    ids: churn.ids,
    budget: combine([...churn.budget.lines, ...o.lines]),
  };
}

/** Where it closes again: the opening less what the pilot was turned between just opening and just closing. */
export function reseat(job: JobView, when: When): Derived | undefined {
  const [o, at, closes, by] = [
    opening(job, when),
    edgeAt(job, 'edge-opens'),
    edgeAt(job, 'edge-closes'),
    rateOf(job),
  ];
  if (!o || at === undefined || closes === undefined || !by) return undefined;
  return {
    ...o,
    value: o.value - by.rate * (closes - at),
    budget: combine([
      ...o.budget.lines,
      lineOf('resolution', 'where it just closes, within a sixteenth of a turn', by.rate * EDGE_U),
    ]),
  };
}

/** What was read at churn: as found, or of a new one that had no such state. */
export const atChurn = (job: JobView, setting: 'churn' | 'suction' | 'normal') =>
  job.figure(setting, job.finds ? 'found' : 'left');

/** Suction that may still be added to today's, Pa. */
const more = (job: JobView): number | undefined => {
  const suction = atChurn(job, 'suction');
  return suction && (job.plan.plate['suctionMost']?.value ?? 0) - suction.value;
};

/** Highest normal pressure: churn as it is today, and the suction that it may still gain. */
export function normal(job: JobView, when: When): Derived | undefined {
  const [churn, suction, gain] = [atChurn(job, 'churn'), atChurn(job, 'suction'), more(job)];
  if (when !== (job.finds ? 'found' : 'left') || !churn || !suction || gain === undefined) return undefined;
  return {
    value: churn.value + gain,
    n: churn.n,
    ids: [...churn.ids, ...suction.ids],
    budget: combine([...churn.budget.lines, ...linesOf(suction.budget, -1)]),
  };
}

/** Opening over the highest normal pressure. The system gauge's own error stands in both and falls out. */
export function margin(job: JobView, when: When): Derived | undefined {
  const [o, suction, gain] = [over(job, when), atChurn(job, 'suction'), more(job)];
  if (!o || !suction || gain === undefined) return undefined;
  return {
    value: o.value - gain,
    n: 1,
    ids: suction.ids,
    budget: combine([...o.lines, ...suction.budget.lines]),
  };
}

/**
 * The most that the margin may be here, Pa: with more, it would open above the weakest component's rating, or might. Its doubt is
 * that of the churn pressure it is counted from, and of what a turn does on the way.
 */
function mostMargin(job: JobView): number | undefined {
  const [by, gain, churn] = [rateOf(job), more(job), atChurn(job, 'churn')];
  const rating = job.plan.plate['rating']?.value;
  if (!by || gain === undefined || !churn || rating === undefined) return undefined;
  const room = rating - churn.value;
  const U = 2 * Math.hypot(churn.budget.U / 2, (by.u / by.rate) * Math.max(0, room), by.rate * EDGE_U);
  return room - U - gain;
}

/** Over churn, where it is to open: the margin that was planned, or the most that it may be, Pa. */
function wantedOver(job: JobView): number | undefined {
  const [gain, planned] = [more(job), job.plan.values['margin']];
  return gain === undefined || planned === undefined
    ? undefined
    : Math.min(planned, mostMargin(job) ?? Infinity) + gain;
}

/** By its speed the pump comes, today, surely past where the relief is to open. Where suction is low it may not. */
export function speedReaches(job: JobView): boolean {
  const [to, reach, rate] = [wantedOver(job), made(job, MOST_FASTER), rateOf(job)?.rate];
  return (
    to !== undefined && reach !== undefined && rate !== undefined && to + RUNS_OVER + rate * FINE < reach
  );
}

/** Turns from where the pilot stands to where the margin is what was planned, or the most it may be; to the fine movement below. */
export function turnsToPlan(job: JobView): number | undefined {
  const [from, by, to] = [countedFrom(job, 'left'), rateOf(job), wantedOver(job)];
  const planned = job.plan.values['margin'];
  if (!from || !by || to === undefined || planned === undefined) return undefined;
  const wanted = from.at + (to - from.over) / by.rate - pilotAt(job);
  return (
    ((mostMargin(job) ?? Infinity) < planned ? Math.floor(wanted / FINE) : Math.round(wanted / FINE)) * FINE
  );
}

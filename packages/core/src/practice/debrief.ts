import { outcomesOf } from '../family/index.js';
import { FoldedJob, JobLog, checkOf, stepsOf, type Outcome, type ReadStep } from '../procedure/index.js';
import { ScriptedTechnician, type ScriptedJob } from '../script/index.js';
import { actsOf } from './acts.js';
import type { Act } from './harm.js';
import type { Help } from './levels.js';
import { askedOf, orderScore, pairsOf, takenKeys } from './order.js';
import { revealOf, type Shown } from './reveal.js';
import { rigOfDraw, startedOn, type Draw, type Exercise, type RunRecord } from './run.js';
import * as score from './scores.js';
import { said } from './sentences.js';
import { LONGEST_RUN_S, replay, WatchedRig, type Strip } from './watched.js';

export const PARTS = ['conclusion', 'order', 'adjusting', 'readings', 'highest', 'verdicts', 'time'] as const;
export type PartId = (typeof PARTS)[number];

/** What each part weighs in the sum. Time counts in tests alone, out of the conclusion's. */
const WEIGHTS: Readonly<Record<PartId, number>> = {
  conclusion: 0.35,
  order: 0.2,
  adjusting: 0.15,
  readings: 0.15,
  highest: 0.1,
  verdicts: 0.05,
  time: 0,
};
const TIME_WEIGHT = 0.05;

/** Parts that a help gives away: they are shown, and not counted. */
const GIVEN: Readonly<Record<Help, readonly PartId[]>> = {
  full: ['order', 'adjusting'],
  'no-values': ['order'],
  'no-next': [],
  bare: [],
};

export interface DebriefLine {
  readonly id: PartId;
  readonly text: string;
  readonly score?: number;
  /** Help gave it away: not counted. */
  readonly given?: true;
}

export type Word = 'dangerous' | 'not yet' | 'sound, rough' | 'sound';

/** How a hidden fault was met. */
export interface Met {
  readonly shown: Shown;
  readonly how: 'taken, seen' | 'taken, not believed' | 'not taken' | 'not knowable';
}

/** A run told line by line: a fold of what was drawn, what was entered and what the hands did. JSON. */
export interface Debrief {
  readonly word: Word;
  readonly unlucky: boolean;
  /** The sum, 0 to 100; absent where nothing of it arose. */
  readonly k?: number;
  readonly sentence: string;
  readonly safety: number;
  readonly acts: readonly Act[];
  readonly lines: readonly DebriefLine[];
  readonly truth: readonly string[];
  readonly met: readonly Met[];
  readonly missed: readonly string[];
  readonly early: readonly string[];
  readonly broken: readonly string[];
  /** How sure one was, and (sure − right)². */
  readonly sure?: { readonly c: number; readonly right: boolean; readonly brier: number };
  readonly next: { readonly text: string; readonly lesson?: string };
  readonly strip: Strip;
  readonly script: { readonly strip: Strip; readonly outcome: Outcome; readonly moves: number };
  /** Where it must be stopped, by place, Pa. */
  readonly bounds: Readonly<Record<string, number>>;
  /** What happened, in order, for the strip and for who cannot see it. */
  readonly moments: readonly Moment[];
}

export interface Moment {
  readonly t: number;
  readonly kind: 'reading' | 'turn' | 'act' | 'missed';
  readonly text: string;
  readonly slot?: string;
  /** Pa, as the gauge showed it. */
  readonly p?: number;
}

/** Where each place must be stopped: the least of what must never be reached there, Pa. */
export function boundsOf(ex: Exercise): Readonly<Record<string, number>> {
  const bounds: Record<string, number> = {};
  for (const step of stepsOf(ex.family, ex.plan).values()) {
    if (step.kind !== 'read' || !step.watched || step.catch === 'low') continue;
    const never = ex.family.never(ex.plan, step.setting);
    if (Number.isFinite(never)) bounds[step.slot] = Math.min(bounds[step.slot] ?? Infinity, never);
  }
  return bounds;
}

/** What the script makes of a draw, watched. */
export function scriptRun(ex: Exercise, draw: Draw): { readonly job: ScriptedJob; readonly rig: WatchedRig } {
  const rig = watchedOn(ex, draw);
  return { job: new ScriptedTechnician(ex.family, rig, startedOn(ex, draw), { goesOn: true }).run(), rig };
}

const watchedOn = (ex: Exercise, draw: Draw, bounds = boundsOf(ex)): WatchedRig =>
  new WatchedRig(rigOfDraw(ex, draw), slotsIn(ex), bounds, ex.kit.practice.hurts);

const slotsIn = (ex: Exercise): readonly string[] =>
  ex.family.slots.map((s) => s.id).filter((s) => ex.started.gauges[s]);

/**
 * Tells a run line by line.
 * @param record its log and its deeds, as they were kept
 * @throws where the log was never started
 */
export function debriefOf(ex: Exercise, draw: Draw, record: RunRecord): Debrief {
  const { family } = ex;
  const bounds = boundsOf(ex);
  const log = new JobLog(record.events[0]?.job ?? record.id, record.events);
  log.judgeBy(checkOf(family));
  const last = record.events.at(-1);
  const view = new FoldedJob(family, log.state, last && { wall: last.wall, device: last.device });
  const mine = watchedOn(ex, draw, bounds);
  replay(mine, record.deeds, endOf(record));
  const script = scriptRun(ex, draw);
  const met = draw.faults.map((f) => revealOf(ex, draw, f, script.job));
  const keys = takenKeys(log.events.filter((e) => log.state.ids.has(e.id)));
  const taken = new Set(keys);
  const truth = mine.truth();
  const verdicts = score.verdicts(ex, view, truth);
  const outcome = view.state.signed?.body.outcome;
  const scriptWrong = score.verdicts(ex, script.job.view, script.job.truth).wronglyIn.length > 0;
  const concluded = score.conclusion(
    ex,
    draw,
    met,
    outcome,
    record.said,
    taken,
    scriptWrong ? undefined : script.job.outcome,
  );
  const acts = [
    ...actsOf({
      ex,
      view,
      events: log.events,
      mine,
      script: script.rig,
      bounds,
    }),
    ...signedWrong(ex, outcome, concluded, verdicts.wronglyIn),
    ...(record.hurt ? [{ severity: 3 as const, t: record.hurt.t, text: record.hurt.text }] : []),
  ];
  const distinct = acts.filter((a, i) => acts.findIndex((b) => b.text === a.text) === i);
  const order = orderScore(askedOf(pairsOf(ex), takenKeys(script.job.log.events)), keys);
  const read = score.readings(view, mine.strip, record.deeds);
  const moves = view.state.turns.length + record.deeds.filter((d) => d.do === 'turn' && d.bench).length;
  const parts: Readonly<Record<PartId, score.Part>> = {
    conclusion: concluded,
    order: {
      ...(order.part === undefined ? {} : { score: Math.round(100 * order.part) }),
      text:
        order.met === 0
          ? 'no pair arose'
          : [`${order.kept} of ${order.met}`, ...order.broken.slice(0, 1)].join(' · '),
    },
    adjusting: score.adjusting(moves, score.fewest(script.job), script.job.log.state.turns.length),
    readings: read,
    highest: score.highest(ex, bounds, mine.highest, script.rig.highest),
    verdicts,
    time: handsTime(record, script.job),
  };
  const given = GIVEN[record.help];
  const lines = PARTS.map((id): DebriefLine => ({
    id,
    text: parts[id].text,
    ...(parts[id].score === undefined ? {} : { score: parts[id].score }),
    ...(given.includes(id) ? { given: true } : {}),
  }));
  const k = sumOf(lines, record.kind === 'test');
  const grave = distinct.filter((a) => a.severity === 3).length;
  const safety =
    grave > 0
      ? 0
      : Math.max(
          0,
          100 -
            25 * distinct.filter((a) => a.severity === 2).length -
            5 * distinct.filter((a) => a.severity === 1).length,
        );
  const word: Word =
    grave > 0
      ? 'dangerous'
      : concluded.o < 0.5 || safety < 50
        ? 'not yet'
        : (k ?? 0) < 75
          ? 'sound, rough'
          : 'sound';
  const how = met.map((shown) => ({ shown, how: howMet(shown, taken, concluded.hits) }));
  const unlucky = met.some((s) => !s.knowable && !concluded.hits.includes(s.fault)) && concluded.o === 1;
  const right = concluded.right;
  return {
    word,
    unlucky,
    ...(k === undefined ? {} : { k }),
    sentence: said.sentence(ex, draw, record, outcome, concluded, how),
    safety,
    acts: distinct,
    lines,
    truth: said.truth(ex, draw, view, truth),
    met: how,
    missed: concluded.missed,
    early: read.early.map((e) => said.early(ex, e)),
    broken: order.broken,
    ...(record.said
      ? { sure: { c: record.said.sure, right, brier: (record.said.sure - (right ? 1 : 0)) ** 2 } }
      : {}),
    next: said.next(ex, lines, distinct, how, order.broken),
    strip: mine.strip,
    script: {
      strip: script.rig.strip,
      outcome: script.job.outcome,
      moves: script.job.log.state.turns.length,
    },
    bounds,
    moments: momentsOf(ex, view, distinct, how, mine.strip),
  };
}

/** The last moment of a run on the installation's own clock, s. */
export function endOf({ events, deeds }: Pick<RunRecord, 'events' | 'deeds'>): number {
  const times = events.flatMap(({ body }) => ('t_s' in body && body.t_s !== undefined ? [body.t_s] : []));
  return Math.min(LONGEST_RUN_S, Math.max(0, deeds.at(-1)?.t ?? 0, ...times));
}

/** A weighted mean of what arose and was not given away. */
function sumOf(lines: readonly DebriefLine[], timed: boolean): number | undefined {
  let [sum, weights] = [0, 0];
  for (const { id, score: s, given } of lines) {
    const shift = !timed ? 0 : id === 'time' ? TIME_WEIGHT : id === 'conclusion' ? -TIME_WEIGHT : 0;
    const w = WEIGHTS[id] + shift;
    if (s === undefined || given || w === 0) continue;
    sum += w * s;
    weights += w;
  }
  return weights > 0 ? Math.round(sum / weights) : undefined;
}

/** Signed as good what is not, where that could be known. */
function signedWrong(
  ex: Exercise,
  outcome: Outcome | undefined,
  { accepts, o, missed }: score.Conclusion,
  wronglyIn: readonly string[],
): readonly Act[] {
  const acts: Act[] = [];
  const good = outcome === 'set' || outcome === 'left-as-found';
  if (good && o === 0 && missed.length > 0 && !accepts.includes('set') && !accepts.includes('left-as-found'))
    acts.push({
      severity: 3,
      text: `Signed “${
        outcomesOf(ex.family)
          .find(([c]) => c === outcome)?.[1]
          .toLowerCase() ?? outcome
      }” on what is not fit to go back in service.`,
    });
  for (const title of wronglyIn)
    acts.push({
      severity: ex.kit.practice.breathed ? 3 : 2,
      text: `${title} is called in, and is out.`,
    });
  return acts;
}

function howMet(shown: Shown, taken: ReadonlySet<string>, hits: readonly string[]): Met['how'] {
  if (hits.includes(shown.fault)) return 'taken, seen';
  if (!shown.knowable) return 'not knowable';
  return shown.step !== undefined && taken.has(shown.step) ? 'taken, not believed' : 'not taken';
}

/** Seconds of hands for what was entered, as a script counts them [assumed]: a press, a reading, a turn. */
const PRESS_S = 4;
const READING_S = 8;
const TURN_S = 20;
/** Longer between two entries is a pause, s. */
const PAUSE_S = 600;

function nominal(events: RunRecord['events']): number {
  let s = 0;
  for (const { body } of events)
    s += body.kind === 'read' || body.kind === 'zero' ? READING_S : body.kind === 'turn' ? TURN_S : PRESS_S;
  return s;
}

/** Time of the hands against the script's: what is waited for or settles is nobody's. */
function handsTime({ events }: RunRecord, script: ScriptedJob): score.Part {
  let mine = 0;
  for (const [i, e] of events.entries()) {
    const before = events[i - 1];
    if (!before) continue;
    const gap = Math.max(0, (e.mono - before.mono) / 1000);
    const watched = 'seconds' in e.body && e.body.seconds !== undefined;
    mine += Math.min(gap, e.body.kind === 'read' || watched ? READING_S : PAUSE_S);
  }
  const ref = nominal(script.log.events);
  const minutes = (s: number): string => `${Math.max(1, Math.round(s / 60))} min`;
  return {
    score: Math.round(100 * Math.min(1, (1.5 * ref) / Math.max(1, mine))),
    text: `${minutes(mine)} of hands, script ${minutes(ref)}`,
  };
}

function momentsOf(
  ex: Exercise,
  view: FoldedJob,
  acts: readonly Act[],
  met: readonly Met[],
  strip: Strip,
): readonly Moment[] {
  const end = strip.t.at(-1) ?? 0;
  const moments: Moment[] = [];
  for (const { body } of view.state.reads)
    if (body.t_s !== undefined)
      moments.push({
        t: body.t_s,
        kind: 'reading',
        slot: body.slot,
        p: body.value.value,
        text: `${view.setting(body.setting).title} ${body.value.text} ${body.value.unit}${body.state === 'early' ? ', early' : ''}`,
      });
  for (const { body } of view.state.turns)
    if (body.t_s !== undefined)
      moments.push({ t: body.t_s, kind: 'turn', text: `${view.adjuster(body.adjuster).title} ${body.text}` });
  for (const a of acts) if (a.t !== undefined) moments.push({ t: a.t, kind: 'act', text: a.text });
  const steps = stepsOf(ex.family, ex.plan);
  for (const { shown, how } of met) {
    if (how !== 'not taken' || shown.step === undefined) continue;
    const slot = (steps.get(shown.step) as ReadStep | undefined)?.slot;
    moments.push({
      t: end,
      kind: 'missed',
      ...(slot ? { slot } : {}),
      text: `${shown.title ?? shown.step} would have shown ${shown.with ?? ''}${shown.without ? `, not ${shown.without}` : ''}: not taken`,
    });
  }
  return moments.sort((a, b) => a.t - b.t);
}

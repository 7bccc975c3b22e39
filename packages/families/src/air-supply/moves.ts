// The decision, the switch under its cover, the knobs.
import { branch, type JobView, type Node } from '@firm-needle/core/procedure';
import type { NamesIn } from '../define/index.js';
import { byWall, parts, s } from './parts.js';
import { wasHad } from '../shared/found.js';
import * as now from './state.js';
import * as compressor from './compressor.js';
import * as losses from './losses.js';
import { decision, type Decided } from '../shared/decision.js';

export type Names = NamesIn<typeof parts>;
const TIMES = 'the times of the last filling';

export function advisedDecision(job: JobView): Decided {
  const out = (code: Decided['code'], say: string): Decided => ({ code, say });
  if (compressor.creeps(job))
    return out('replace', 'The wall climbs with nothing drawn: its regulator is replaced.');
  if (losses.windowEmpty(job))
    return out(
      'leave',
      `Nothing fits: the gun needs ${job.say(losses.least(job), 'wallFlow')} at the wall, the tank holds ${job.say(losses.ceiling(job) ?? 0, 'wallFlow')} there.`,
    );
  if (now.weak(job) && now.starved(job))
    return out('leave', `The pump does not make what the gun takes, by ${TIMES}: no knob mends that.`);
  if (now.reliefNear(job))
    return out('adjust', 'It does not stop well under its relief: its switch is lowered first.');
  if (now.allInside(job)) return out('leave', 'Everything stands where it should. Leave it as found.');
  return out(
    'adjust',
    losses.swung(job) === 'followed'
      ? 'The gun follows the tank: the wall stands higher than the tank holds.'
      : 'Out of its limits, or not surely inside: adjust.',
  );
}

export const decide: Node = decision(s, advisedDecision);

const nutTurn = (id: 'range' | 'diff'): Node =>
  branch(
    (j) => now.nut(j) === id && j.advice(id).stop === null,
    [
      s.turn(`turn-${id}`, id, parts.screw(id).title, `${parts.screw(id).title}.`, {
        cautions: ['live', 'relief'],
        needs: { power: 'dead' },
        permit: 'mains',
        tools: ['3/8 in nut driver'],
      }),
    ],
  );

/** Its switch is turned, where that was planned or its relief is too near: dead, and under its cover. */
export const underCover: readonly Node[] = [
  s.confirm(
    'lock',
    'Locked off, tried',
    'Lock the motor off, then let the tank under cut-in: it must not start.',
    {
      cautions: ['live', 'noise'],
      sets: { power: 'off', bleeding: 'yes' },
      hands: { power: 0, drain: 1 },
      why: 'Above cut-in a try means nothing.',
    },
  ),
  s.confirm(
    'dead',
    'Cover off, proved dead',
    'Drain shut. Cover off as if live. Prove dead: tester, terminals, tester. Mark the nuts.',
    {
      cautions: ['live'],
      needs: { power: 'off' },
      sets: { power: 'dead', bleeding: 'no' },
      hands: { power: 0, drain: 0 },
      permit: 'mains',
      tools: ['voltage tester', 'marker'],
    },
  ),
  branch(
    (j) => !now.blindNut(j),
    [nutTurn('range'), nutTurn('diff')],
    [
      s.turn(
        'range-down',
        'range',
        'Range nut, down',
        'It does not stop well under its relief. By its usual rate:',
        {
          cautions: ['live', 'relief'],
          needs: { power: 'dead' },
          permit: 'mains',
          tools: ['3/8 in nut driver'],
          amount: now.backDown,
        },
      ),
    ],
  ),
  s.confirm('cover', 'Cover on, motor on', 'Cover on. Take the lock off, motor on.', {
    cautions: ['moving'],
    sets: { power: 'on' },
    hands: { power: 1 },
  }),
];

const KNOBS = ['wall', 'wallAlone', 'gun', 'valve'] as const;
const knob = (id: (typeof KNOBS)[number]): Node => ({
  ...s.turn(`turn-${id}`, id, parts.screw(id).title, `${parts.screw(id).title}.`, {
    cautions: id === 'gun' || id === 'valve' ? ['noise'] : ['stored', 'noise'],
    needs: { trigger: 'held' },
    hands: { trigger: 1, wide: 0 },
  }),
  how: 'Trigger held; past the mark downward first, then up to it.',
});

const byAdvice =
  (id: (typeof KNOBS)[number]) =>
  (j: JobView): boolean =>
    now.screw(j) === id && !now.unread(j) && now.byCount(j) === undefined && j.advice(id).stop === null;

/** By its usual rate, where its own figure looked right: under what the tank holds, or up to what the gun needs. */
const counted = (id: 'wall' | 'wallAlone'): Node =>
  branch(
    (j) => now.wallScrew(j) === id && now.byCount(j) !== undefined,
    [
      s.turn(
        `count-${id}`,
        id,
        'Wall, by count',
        (j) =>
          now.overWindow(j) === undefined
            ? `The tank holds ${j.say(losses.ceiling(j) ?? 0, 'wallFlow')} at the wall. Trigger held, down to it:`
            : 'It falls with the tank, over its window. Trigger held, down:',
        {
          cautions: ['stored', 'noise'],
          needs: { trigger: 'held' },
          hands: { trigger: 1, wide: 0 },
          amount: (j) => now.byCount(j) ?? 0,
        },
      ),
    ],
  );

export const turning = (j: JobView): boolean =>
  now.adjusting(j) &&
  now.nut(j) === undefined &&
  !now.unread(j) &&
  !now.hopeless(j) &&
  (now.byCount(j) !== undefined || KNOBS.some((id) => byAdvice(id)(j)));

/** What the hose takes, once: the gun’s control wide open while it flows. */
const loss: Node = branch(
  (j) =>
    !byWall(j.plan) &&
    !(wasHad(j, 'gunOpen') && wasHad(j, 'wallOpen')) &&
    now.answerAt(j, 'wide') === undefined &&
    now.answerAt(j, 'wide-wall') === undefined,
  [
    s.read(
      'wide',
      'gunOpen',
      'Gun, wide open',
      'Mark the gun control, open it wide. Trigger held: read the gun.',
      {
        phase: 'adjust',
        cautions: ['noise', 'stored'],
        needs: { trigger: 'held' },
        sets: { control: 'wide' },
        hands: { trigger: 1, wide: 1 },
        why: 'What is lost on the way says what the wall must give.',
        instead: { swings: 'It swings and never stands' },
      },
    ),
    s.read(
      'wide-wall',
      'wallOpen',
      'Wall, gun wide open',
      'Still held, still wide open: read the wall gauge.',
      {
        phase: 'adjust',
        cautions: ['noise'],
        needs: { trigger: 'held' },
        hands: { trigger: 1, wide: 1 },
        instead: { swings: 'It swings and never stands' },
      },
    ),
    s.confirm('wide-back', 'Gun control at its mark', 'Gun control back to its mark.', {
      sets: { control: 'marked' },
      hands: { wide: 0 },
      why: 'What is read from here on is read with it where it stood.',
    }),
  ],
);

export const knobs: readonly Node[] = [
  loss,
  counted('wall'),
  counted('wallAlone'),
  ...KNOBS.map((id) => branch(byAdvice(id), [knob(id)])),
];

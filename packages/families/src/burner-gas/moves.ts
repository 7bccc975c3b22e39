// The decision, then supply before appliance before dials: each makes the next due.
import { branch, type JobView, type Node, type Plan } from '@firm-needle/core/procedure';
import { agreed, book, byAdvice, planned } from './book.js';
import { dialMoves } from './dialMoves.js';
import { canClock } from './reckoned.js';
import { hasLockUp, hasManifold, read, s } from './parts.js';
import { atRest, clearVent, fire, lockUp, lowFire, manifold } from './readings.js';
import * as now from './state.js';
import { decision, type Decided } from '../shared/decision.js';

export function advisedDecision(job: JobView): Decided {
  const out = (code: Decided['code'], say: string): Decided => ({ code, say });
  const open = now.standsOpen(job);
  if (open !== undefined)
    return out(
      'leave',
      `${job.setting(open).title}: it stands open. What it watches is looked at before its dial: left shut.`,
    );
  if (now.setAtRest(job) && !now.over(job) && now.dialsDue(job).length === 0)
    return out(
      'adjust',
      'It does not light, and the supply stands out of its limits at rest: that is set first.',
    );
  if (now.cannotFire(job) && now.dialsDue(job).length === 0)
    return out(
      'leave',
      'It does not light, and its switches stand where they should: left shut, and called.',
    );
  if (now.over(job))
    return out(
      'adjust',
      `The supply stands at ${job.say(now.last(job, 'static') ?? 0, 'static')}, over what the valve bears: lowered first, and not fired.`,
    );
  if (now.allInside(job))
    return out('leave', 'Everything stands where the book wants it. Leave it as found.');
  return out('adjust', 'Out of the book, or not surely inside: adjust.');
}

export const decide: Node = decision(s, advisedDecision);

const DRIVER = ['screwdriver', 'marker'];

/** Over what the valve bears it is not fired: its gas is let down, and the screw is moved at rest, by its usual rate. */
const atRestMoves: Node = branch(
  (j) => now.setAtRest(j) && !now.hopeless(j),
  [
    book('rest', (j) => planned(j, ['static'])),
    branch(agreed('rest'), [
      s.confirm('let-down', 'Gas let down', 'Cock shut. Let the gas down through the tubing, outside.', {
        cautions: ['gas'],
        needs: { burner: 'off' },
        sets: { gas: 'shut' },
        hands: { burner: 0, cock: 0, meter: 0, bleed: 1 },
        why: 'What is trapped hides every lowering: a regulator only lets in.',
      }),
      s.turn('supply-down', 'supply', 'Supply screw, at rest', 'Cap off, screw marked. By its usual rate:', {
        cautions: ['gas'],
        needs: { gas: 'shut', burner: 'off' },
        permit: 'gas',
        tools: DRIVER,
        amount: now.byRate,
      }),
      atRest('rest-static', 'left', 'Supply, at rest'),
    ]),
  ],
);

const supplyMoves: readonly Node[] = [
  atRestMoves,
  branch(
    (j) =>
      now.supplyWants(j) &&
      !now.supplyUnread(j) &&
      !now.cannotFire(j) &&
      !now.hopeless(j) &&
      byAdvice(j, 'supply'),
    [
      book('supply', (j) => planned(j, ['static'])),
      branch(agreed('supply'), [
        {
          ...s.turn('turn-supply', 'supply', 'Supply screw', 'Supply screw.', {
            cautions: ['gas'],
            needs: { burner: 'on' },
            hands: { burner: 1, input: 0 },
            permit: 'gas',
            tools: DRIVER,
            why: 'Turned as it burns: at rest, trapped gas hides every lowering.',
          }),
          how: 'Cap off, screw marked, full fire.',
        },
      ]),
    ],
  ),
  branch(
    (j) => now.supplyUnread(j) && !now.hopeless(j),
    [
      // As it burns first: what is trapped shows a lowering only once it was drawn from.
      branch(
        (j) => now.fireUnread(j) && !now.over(j) && !now.hopeless(j) && now.mayFire(j),
        [fire('set-supply', 'left', 'Supply, full fire')],
      ),
      branch(now.staticUnread, [atRest('set-static', 'left', 'Supply, at rest')]),
    ],
  ),
  branch(
    (j) => now.capDue(j, 'supply') && !now.hopeless(j),
    [
      s.confirm('cap-supply', 'Cap on', 'Cap on, hand tight.', {
        cautions: ['gas'],
        why: 'A cap may trap or shift it: what is read from here on counts.',
      }),
      atRest('left-static', 'left', 'As left: supply at rest'),
      fire('left-supply', 'left', 'As left: supply, full fire'),
    ],
  ),
];

const TIMED = { limit_s: 3600, most_s: 600 } as const;
/** What it burns, by the meter: before the manifold is moved, and after. */
const clock = (key: 'clock-before' | 'clock-after'): Node =>
  s.observe(
    key,
    'Meter clocked',
    'All other gas off, full fire: time one turn of the meter’s dial.',
    { timed: 'One turn', none: 'Its dial does not turn, or other gas is on' },
    {
      cautions: ['fire'],
      needs: { burner: 'on' },
      stopwatch: {
        ...TIMED,
        channel: 'meterTurn',
        to: 1,
        title: 'Once round',
        start: 'It passes its mark',
        hands: { burner: 1, dial: 1 },
      },
    },
  );

const applianceMoves = (plan: Plan): readonly Node[] =>
  hasManifold(plan)
    ? [
        branch(
          (j) => now.supplyDone(j) && now.manifoldUnread(j) && now.mayFire(j) && !now.hopeless(j),
          [
            manifold('set-manifold', 'left', 'Manifold, full fire'),
            branch(now.ventShut, [clearVent('set-vent-clear')]),
          ],
        ),
        branch(
          (j) =>
            now.supplyDone(j) &&
            !now.manifoldUnread(j) &&
            !j.rests('manifold') &&
            !now.starved(j) &&
            !now.hopeless(j) &&
            byAdvice(j, 'appliance'),
          [
            book('appliance', (j) => planned(j, ['manifold'])),
            branch(agreed('appliance'), [
              branch((j) => canClock(j) && j.netTurns('appliance') === 0, [clock('clock-before')]),
              {
                ...s.turn('turn-appliance', 'appliance', 'Appliance screw', 'Appliance screw.', {
                  cautions: ['gas', 'co'],
                  needs: { burner: 'on' },
                  hands: { burner: 1, stage: 0, input: 1 },
                  permit: 'gas',
                  tools: DRIVER,
                }),
                how: 'Cap off, screw marked, full fire.',
              },
              manifold('after-manifold', 'left', 'Manifold, full fire'),
            ]),
          ],
        ),
        branch(
          (j) => now.capDue(j, 'appliance') && !now.hopeless(j),
          [
            s.confirm('cap-appliance', 'Cap on', 'Cap on, hand tight.', {
              cautions: ['gas'],
              why: 'A cap may trap or shift it: what is read from here on counts.',
            }),
            manifold('left-manifold', 'left', 'As left: manifold'),
            branch(canClock, [clock('clock-after')]),
            ...(read(plan).choice.stages === 'two' ? [lowFire('left-low-fire', 'left')] : []),
          ],
        ),
        ...(hasLockUp(plan)
          ? [
              branch(
                (j) =>
                  now.supplyDone(j) &&
                  now.manifoldSet(j) &&
                  now.lockUpDue(j) &&
                  now.mayFire(j) &&
                  !now.hopeless(j),
                [lockUp(plan, 'left-lock-up', 'left', 'As left: locked up')],
              ),
            ]
          : []),
      ]
    : [];

export const adjust = (plan: Plan): readonly Node[] => [
  ...supplyMoves,
  ...applianceMoves(plan),
  ...dialMoves(plan),
];

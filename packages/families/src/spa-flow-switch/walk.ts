import {
  branch,
  until,
  type JobView,
  type Node,
  type Plan,
  type Procedure,
} from '@firm-needle/core/procedure';
import { figure } from '@firm-needle/core/quantity';
import { CAUSES, CLOSES, flowInOrder, high, meter, OPENS, run, seek, stopAll, wheel } from './moves.js';
import { isTwoSpeed, LEAST_WINDOW, parts, s } from './parts.js';
import * as now from './state.js';

const edges: readonly Node[] = [
  run('edges-low', 'low', 'Low speed on, hands clear of everything but the wheel.'),
  branch(
    (j) => now.answerAt(j, 'found-low') === 'closed' || now.mended(j).length > 0,
    [
      seek(
        'edge-closes-back',
        1,
        OPENS,
        'Turn the wheel clockwise, click by click, until the meter opens. Count the clicks.',
        'low',
      ),
    ],
  ),
  branch(
    (j) => !now.stuck(j),
    [
      seek(
        'edge-closes',
        -1,
        CLOSES,
        'Turn the wheel counter-clockwise, click by click, until the meter just closes. Count the clicks.',
        'low',
      ),
    ],
  ),
  branch(
    (j) => !now.stuck(j) && !now.missed(j, 'closes'),
    [
      run('edges-off', 'off', 'All pumps off; wait until the water stands.'),
      seek(
        'edge-opens-back',
        -1,
        CLOSES,
        'Turn the wheel counter-clockwise, click by click, until the meter closes with no pump running. Count the clicks.',
        'off',
      ),
      seek(
        'edge-opens',
        1,
        OPENS,
        'Now clockwise, click by click, until the meter just opens. Count the clicks.',
        'off',
      ),
    ],
  ),
];

export const narrow = (job: JobView): boolean => {
  const window = now.windowOf(job);
  return now.missed(job, 'closes') || (window !== undefined && window < LEAST_WINDOW);
};

const prove = (plan: Plan): readonly Node[] => [
  meter(
    'prove-low',
    'Closed at low speed',
    'Low speed on, hands clear. Let it settle, then read the meter: it must be closed.',
    'left',
  ),
  branch(
    (j) => now.contradiction(j) !== undefined,
    [
      meter(
        'prove-low-again',
        'The same again',
        'This contradicts where it closed before. Stop, start at low speed again and read the meter once more.',
        'left',
        { why: 'Both answers are kept.' },
      ),
    ],
  ),
  branch(() => isTwoSpeed(plan), [high('prove-high', 'left')]),
  stopAll('prove-off', 'left', plan),
];

/** Proved, or moved toward the other edge as often as is sensible. */
const settled = (job: JobView): boolean => {
  const delay = job.verdict('delay', 'left')?.word;
  const tries = job.state.turns.filter((t) => t.body.at.key === 'nearer').length;
  return delay === 'in' || delay === 'near' || tries >= 2 || now.answerAt(job, 'prove-off') === 'stays';
};

/** A quarter of the window toward where it closes: it then opens sooner. */
const nearer = (job: JobView): number => Math.max(1, Math.round((now.windowOf(job) ?? 4) / 4));

const toMiddle = (job: JobView): number => {
  const [a, b] = [now.edgeAt(job, 'closes') ?? 0, now.edgeAt(job, 'opens') ?? 0];
  return Math.round((a + b) / 2) - now.position(job);
};

/** Works as it was found: closed at low (and high) speed, open in time. */
export const works = (job: JobView): boolean =>
  (now.answerAt(job, 'found-low-mended') ?? now.answerAt(job, 'found-low')) === 'closed' &&
  (!isTwoSpeed(job.plan) || now.answerAt(job, 'found-high') === 'closed') &&
  ['in', 'near'].includes(job.verdict('delay', 'found')?.word ?? '');

/** Both edges, again once something was mended that made the window narrow. */
const measured = until(
  (j) => now.stuck(j) || (!narrow(j) && now.windowOf(j) !== undefined) || now.answerAt(j, 'cause') === 'none',
  [
    ...edges,
    branch(
      (j) => narrow(j) && !now.stuck(j),
      [
        run('cause-off', 'off', 'All pumps off.'),
        s.observe(
          'cause',
          'Why is there so little flow?',
          'The window is too narrow for the switch to be at fault. Filter out, every valve open, air bled: what was it?',
          { ...CAUSES, none: 'Nothing found' },
          { why: 'The edges are measured again once something was mended.', needs: { pump: 'off' } },
        ),
      ],
    ),
  ],
);

/** Why there is too little flow, until nothing more is found. */
const whyLittle = s.observe(
  'cause',
  'Why is there so little flow?',
  'Neither place works: look at the flow before the switch. Filter out, every valve open, air bled: what was it?',
  { ...CAUSES, none: 'Nothing found' },
  { why: 'A switch that opens for want of flow does its work.', needs: { pump: 'off' } },
);

/** The school that stops at the first place that works: closed where it must be, open in time. */
const firstPlace = (plan: Plan): Node =>
  until(
    (j) =>
      now.placeWorks(j) || now.stuck(j) || now.answerAt(j, 'cause') === 'none' || now.tries(j) >= MOST_TRIES,
    [
      branch((j) => now.goesRound(j), [run('cause-off', 'off', 'All pumps off.'), whyLittle]),
      branch(
        (j) => now.last(j, 'low') === 'open',
        [
          run('first-low', 'low', 'Low speed on, hands clear of everything but the wheel.'),
          seek(
            'first-closes',
            -1,
            CLOSES,
            'Turn the wheel counter-clockwise, click by click, until the meter just closes. Count the clicks.',
            'low',
          ),
        ],
      ),
      branch(
        (j) => now.last(j, 'low') !== 'open' && now.last(j, 'off') === 'late',
        [
          wheel('first-on', 'A little farther', 'It opens, but too late. Turn the wheel on:', undefined, {
            why: 'Farther clockwise it opens at a higher pressure, and so sooner.',
            amount: () => 2,
          }),
        ],
      ),
      branch(
        (j) => now.last(j, 'low') !== 'open' && now.last(j, 'off') === 'stays',
        [
          run('first-off', 'off', 'All pumps off; wait until the water stands.'),
          seek(
            'first-opens',
            1,
            OPENS,
            'Turn the wheel clockwise, click by click, until the meter just opens. Count the clicks.',
            'off',
          ),
        ],
      ),
      ...prove(plan),
    ],
  );
/** The wheel is moved to another place no more often than this. */
export const MOST_TRIES = 6;

const placed = (plan: Plan): readonly Node[] => [
  wheel('middle', 'To the middle', 'Turn the wheel to the middle of the window:', undefined, {
    why: (j) =>
      `It closes at ${figure(now.edgeAt(j, 'closes') ?? 0, 0)} and opens at ${figure(now.edgeAt(j, 'opens') ?? 0, 0)} clicks from where it was found.`,
    amount: toMiddle,
  }),
  until(settled, [
    branch(
      (j) => j.verdict('delay', 'left')?.word === 'out',
      [
        wheel(
          'nearer',
          'Toward closing',
          'It opens too late. Turn the wheel toward where it closes:',
          undefined,
          { why: 'Farther clockwise it opens at a higher pressure, and so sooner.', amount: nearer },
        ),
      ],
    ),
    ...prove(plan),
  ]),
];

export const walk = (plan: Plan): Procedure => ({
  body: [
    s.confirm(
      'cautions',
      'Cautions read',
      'Read the cautions, get everybody out of the water, and test the residual-current device.',
      {
        cautions: parts.cautions.map((c) => c.key as 'water'),
        sets: { cautions: 'read' },
        act: 'Read and understood',
      },
    ),
    s.observe(
      'symptom',
      'What the spa says',
      'What does the control show: a code, or a lamp that blinks once a second?',
      {
        never: 'Flow fault as soon as the pump runs: it never heats',
        running: 'It heats, then shows a flow fault',
        stopped: 'Flow fault with the pump stopped',
        nothing: 'No fault shown',
      },
      { needs: { cautions: 'read' }, why: 'It decides what is looked at first.' },
    ),
    branch((j) => !now.switchFirst(j), [flowInOrder('before')]),
    s.confirm(
      'isolate',
      'Lead off, meter on',
      'Lock off. Cover off as if live, then prove the board dead: tester, board, tester. Pull the switch lead off it and put the meter on, in ohms.',
      {
        cautions: ['enclosure', 'ohms'],
        permit: 'mains',
        needs: { cautions: 'read' },
        sets: { power: 'off', lead: 'off', pump: 'off' },
        hands: { power: 0, pump: 0 },
        tools: ['meter', 'plug-in lead adapter', 'lock'],
      },
    ),
    s.confirm(
      'live-again',
      'Power on, hands clear',
      'Mark where the wheel stands. Hands and tools clear, then power on.',
      { cautions: ['enclosure'], needs: { lead: 'off' }, sets: { power: 'on' }, hands: { power: 1 } },
    ),
    s.observe(
      'message',
      'Message clears',
      'Board started, lead off: is the flow message gone within five seconds?',
      { clears: { title: 'It is gone', advised: true }, stays: 'It stays' },
      { why: 'If it stays: the board, not the switch.', seconds: 5 },
    ),
    branch(
      (j) => now.answerAt(j, 'message') !== 'stays',
      [
        meter(
          'found-low',
          'As found: low speed',
          'Low speed on, hands clear. Let it settle, then read the meter, as the wheel was found.',
          'found',
        ),
        branch(
          (j) => now.switchFirst(j) && now.answerAt(j, 'found-low') === 'open',
          [
            run('flow-off', 'off', 'All pumps off.'),
            flowInOrder('before-wheel'),
            branch(
              (j) => now.mended(j).length > 0,
              [
                meter(
                  'found-low-mended',
                  'Low speed, mended',
                  'Low speed on once more. Let it settle, then read the meter.',
                  'found',
                ),
              ],
            ),
          ],
        ),
        branch(() => isTwoSpeed(plan), [high('found-high', 'found')]),
        stopAll('found-off', 'found', plan),
        branch(
          (j) => works(j) && plan.school === 'middle',
          [
            s.observe(
              'edges',
              'Leave it, or measure?',
              'It works as it was found. Leave it so, or measure how much is left to either side?',
              {
                leave: { title: 'Leave as found', advised: (j) => now.answerAt(j, 'symptom') === 'nothing' },
                measure: {
                  title: 'Measure both edges',
                  advised: (j) => now.answerAt(j, 'symptom') !== 'nothing',
                },
              },
              { why: 'A fault that comes and goes is a margin that is nearly used up.' },
            ),
          ],
        ),
        branch(
          (j) => !works(j) || now.answerAt(j, 'edges') === 'measure',
          plan.school === 'middle'
            ? [measured, branch((j) => !now.stuck(j) && !narrow(j), placed(plan))]
            : [firstPlace(plan)],
        ),
      ],
    ),
  ],
  restore: [
    s.confirm(
      'restore-off',
      'Locked off again',
      'All pumps off. Lock off, then prove the board dead: tester, board, tester.',
      {
        cautions: ['enclosure'],
        sets: { power: 'off', pump: 'off' },
        hands: { pump: 0, power: 0 },
      },
    ),
    s.confirm(
      'restore-lead',
      'Lead back, no bridge',
      'Meter off, any bridge out, switch lead back on the board, cover on.',
      { cautions: ['bridge'], needs: { power: 'off' }, sets: { lead: 'on' } },
    ),
    s.confirm('restore-on', 'Power on', 'Take the lock off and put the power on.', {
      needs: { lead: 'on' },
      sets: { power: 'on' },
      hands: { power: 1, pump: 1 },
      joins: true,
    }),
    s.observe(
      'heats',
      'Heater seen to run',
      'Call for heat: does the heater run with the pump, and no message come?',
      { runs: 'It runs', not: 'It does not' },
    ),
  ],
});

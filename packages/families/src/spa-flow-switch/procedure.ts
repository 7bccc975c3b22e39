import {
  branch,
  until,
  type Choice,
  type JobView,
  type Node,
  type ObserveStep,
  type Plan,
  type Procedure,
  type Seek,
  type TurnStep,
} from '@firm-needle/core/procedure';
import { figure } from '@firm-needle/core/quantity';
import { HIGH_FOR_S, isTwoSpeed, LEAST_WINDOW, MOST_CLICKS, opensWithin } from './settings.js';
import * as now from './state.js';

const ALL_CAUTIONS = ['enclosure', 'ohms', 'water', 'bridge', 'manual'] as const;
const CLOSES = { channel: 'contact', to: 1, title: 'It closes' } as const;
const OPENS = { channel: 'contact', to: 0, title: 'It opens' } as const;
/** Settled at a speed before the meter is read, s. */
const SETTLED_S = 5;

const CAUSES: readonly Choice[] = [
  { code: 'filter', title: 'Filter was dirty: cleaned', sets: { filter: 'clean' } },
  { code: 'valve', title: 'A valve was not open: opened', sets: { valves: 'open' } },
  { code: 'air', title: 'Air or low water: filled and primed', sets: { primed: 'yes' } },
];

const run = (key: string, speed: 'low' | 'off', say: string): Node => ({
  kind: 'confirm',
  key,
  title: speed === 'low' ? 'Low speed' : 'Pumps off',
  say,
  cautions: ['enclosure'],
  needs: { lead: 'off', power: 'on' },
  sets: { pump: speed },
  hands: { pump: speed === 'low' ? 1 : 0 },
});

const meter = (
  key: string,
  title: string,
  say: string,
  phase: 'found' | 'left',
  extra: Partial<ObserveStep> = {},
): ObserveStep => ({
  kind: 'observe',
  key,
  title,
  say,
  phase,
  seconds: SETTLED_S,
  needs: { lead: 'off', pump: 'low' },
  choices: [
    { code: 'closed', title: 'Closed: continuity' },
    { code: 'open', title: 'Open' },
  ],
  ...extra,
});

const high = (key: string, phase: 'found' | 'left'): ObserveStep =>
  meter(
    key,
    'High speed',
    'High speed for ten seconds, then read the meter: it must still be closed.',
    phase,
    {
      seconds: HIGH_FOR_S,
      sets: { pump: 'high' },
      hands: { pump: 2 },
      cautions: ['enclosure'],
    },
  );

const stopAll = (key: string, phase: 'found' | 'left', plan: Plan): ObserveStep => ({
  kind: 'observe',
  key,
  phase,
  title: 'Opens in time',
  say: 'Stop all pumps and start the stopwatch in one movement; stop it when the meter opens.',
  why: `It must be open ${opensWithin(plan.plate)} s after the last pump stops.`,
  needs: { lead: 'off' },
  sets: { pump: 'off' },
  choices: [
    { code: 'opened', title: 'It opened' },
    { code: 'stays', title: 'It stays closed' },
  ],
  stopwatch: {
    ...OPENS,
    limit_s: opensWithin(plan.plate),
    start: 'All pumps off',
    hands: { pump: 0 },
    most_s: 5 * opensWithin(plan.plate),
  },
});

const seek = (
  key: string,
  way: 1 | -1,
  signal: Pick<Seek, 'channel' | 'to' | 'title'>,
  say: string,
  pump: 'low' | 'off',
): TurnStep => ({
  kind: 'turn',
  key,
  phase: 'adjust',
  title: way > 0 ? 'Clockwise' : 'Counter-clockwise',
  say,
  adjuster: 'wheel',
  cautions: ['enclosure'],
  permit: 'mains',
  needs: { lead: 'off', pump },
  tools: ['small screwdriver', 'meter'],
  seek: { ...signal, way, most: MOST_CLICKS, ended: 'End of the wheel, nothing' },
});

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

const narrow = (job: JobView): boolean => {
  const window = now.windowOf(job);
  return now.missed(job, 'closes') || (window !== undefined && window < LEAST_WINDOW);
};

const prove = (plan: Plan): readonly Node[] => [
  run('prove-start', 'low', 'Low speed on.'),
  meter('prove-low', 'Closed at low speed', 'Read the meter at low speed: it must be closed.', 'left'),
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

const place = (
  key: string,
  say: string,
  why: TurnStep['why'],
  amount: (job: JobView) => number,
): TurnStep => ({
  kind: 'turn',
  key,
  phase: 'adjust',
  title: key === 'middle' ? 'To the middle' : 'Toward closing',
  say,
  ...(why ? { why } : {}),
  adjuster: 'wheel',
  cautions: ['enclosure'],
  permit: 'mains',
  needs: { lead: 'off' },
  tools: ['small screwdriver'],
  amount,
});

/** Works as it was found: closed at low (and high) speed, open in time. */
const works = (job: JobView): boolean =>
  now.answerAt(job, 'found-low') === 'closed' &&
  (!isTwoSpeed(job.plan) || now.answerAt(job, 'found-high') === 'closed') &&
  ['in', 'near'].includes(job.verdict('delay', 'found')?.word ?? '');

export const procedureOf = (plan: Plan): Procedure => ({
  body: [
    {
      kind: 'confirm',
      key: 'cautions',
      title: 'Cautions read',
      say: 'Read the cautions, get everybody out of the water, and test the residual-current device.',
      cautions: ALL_CAUTIONS,
      sets: { cautions: 'read' },
      act: 'Read and understood',
    },
    {
      kind: 'observe',
      key: 'symptom',
      title: 'What the spa says',
      say: 'What does the control show: a code, or a lamp that blinks once a second?',
      needs: { cautions: 'read' },
      choices: [
        { code: 'running', title: 'Flow fault with the pump running' },
        { code: 'stopped', title: 'Flow fault with the pump stopped' },
        { code: 'nothing', title: 'No fault shown' },
      ],
    },
    {
      kind: 'observe',
      key: 'before',
      title: 'Water, valves, filter',
      say: 'Before the switch is blamed: valves open, water level up, filter clean or out, pump primed?',
      why: 'A switch that opens for want of flow does its work.',
      choices: [{ code: 'good', title: 'All in order', advised: () => true }, ...CAUSES],
    },
    {
      kind: 'confirm',
      key: 'isolate',
      title: 'Lead off, meter on',
      say: 'Lock off and prove dead. Cover off, pull the switch lead off the board and put the meter on it, in ohms.',
      cautions: ['enclosure', 'ohms'],
      permit: 'mains',
      needs: { cautions: 'read' },
      sets: { power: 'off', lead: 'off', pump: 'off' },
      hands: { power: 0, pump: 0 },
      tools: ['meter', 'plug-in lead adapter', 'lock'],
    },
    {
      kind: 'confirm',
      key: 'live-again',
      title: 'Power on, hands clear',
      say: 'Mark where the wheel stands. Hands and tools clear, then power on.',
      cautions: ['enclosure'],
      needs: { lead: 'off' },
      sets: { power: 'on' },
      hands: { power: 1 },
    },
    {
      kind: 'observe',
      key: 'message',
      title: 'Message clears',
      say: 'With the lead off, does the flow message clear within five seconds?',
      why: 'If it stays, the board does not listen to its switch.',
      seconds: 5,
      choices: [
        { code: 'clears', title: 'It clears', advised: () => true },
        { code: 'stays', title: 'It stays' },
      ],
    },
    branch(
      (j) => now.answerAt(j, 'message') !== 'stays',
      [
        run('found-start', 'low', 'Low speed on.'),
        meter(
          'found-low',
          'As found: low speed',
          'Read the meter at low speed, as the wheel was found.',
          'found',
        ),
        branch(() => isTwoSpeed(plan), [high('found-high', 'found')]),
        stopAll('found-off', 'found', plan),
        branch(
          (j) => !works(j) || plan.school === 'middle',
          [
            until(
              (j) =>
                now.stuck(j) ||
                (!narrow(j) && now.windowOf(j) !== undefined) ||
                now.answerAt(j, 'cause') === 'none',
              [
                ...edges,
                branch(
                  (j) => narrow(j) && !now.stuck(j),
                  [
                    run('cause-off', 'off', 'All pumps off.'),
                    {
                      kind: 'observe',
                      key: 'cause',
                      title: 'Why is there so little flow?',
                      say: 'The window is too narrow for the switch to be at fault. Filter out, every valve open, air bled: what was it?',
                      why: 'The edges are measured again once something was mended.',
                      needs: { pump: 'off' },
                      choices: [...CAUSES, { code: 'none', title: 'Nothing found' }],
                    },
                  ],
                ),
              ],
            ),
            branch(
              (j) => !now.stuck(j) && !narrow(j),
              [
                place(
                  'middle',
                  'Turn the wheel to the middle of the window:',
                  (j) =>
                    `It closes at ${figure(now.edgeAt(j, 'closes') ?? 0, 0)} and opens at ${figure(now.edgeAt(j, 'opens') ?? 0, 0)} clicks from where it was found.`,
                  toMiddle,
                ),
                until(settled, [
                  branch(
                    (j) => j.verdict('delay', 'left')?.word === 'out',
                    [
                      place(
                        'nearer',
                        'It opens too late. Turn the wheel toward where it closes:',
                        'Farther clockwise it opens at a higher pressure, and so sooner.',
                        nearer,
                      ),
                    ],
                  ),
                  ...prove(plan),
                ]),
              ],
            ),
          ],
        ),
      ],
    ),
  ],
  restore: [
    {
      kind: 'confirm',
      key: 'restore-off',
      title: 'Locked off again',
      say: 'All pumps off. Lock off and prove dead.',
      cautions: ['enclosure'],
      sets: { power: 'off', pump: 'off' },
      hands: { pump: 0, power: 0 },
    },
    {
      kind: 'confirm',
      key: 'restore-lead',
      title: 'Lead back, no bridge',
      say: 'Meter off, any bridge out, switch lead back on the board, cover on.',
      cautions: ['bridge'],
      needs: { power: 'off' },
      sets: { lead: 'on' },
    },
    {
      kind: 'confirm',
      key: 'restore-on',
      title: 'Power on',
      say: 'Take the lock off and put the power on.',
      needs: { lead: 'on' },
      sets: { power: 'on' },
      hands: { power: 1, pump: 1 },
    },
    {
      kind: 'observe',
      key: 'heats',
      title: 'Heater seen to run',
      say: 'Call for heat: does the heater run with the pump, and no message come?',
      choices: [
        { code: 'runs', title: 'It runs' },
        { code: 'not', title: 'It does not' },
      ],
    },
  ],
});

export { narrow, works };

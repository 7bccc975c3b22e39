import { branch, until, type JobView, type Node, type Phase, type Plan } from '@firm-needle/core/procedure';
import { standard } from '../define/index.js';
import { decide, knobs, turning, underCover } from './moves.js';
import { byWall, parts, read, RESTS_S, s, WATCH_S } from './parts.js';
import * as now from './state.js';
import * as compressor from './compressor.js';

const cutIn = (key: string, phase: Phase, title: string): Node =>
  s.read(key, 'cutIn', title, 'Motor on. Let air out slowly; read as it starts.', {
    phase,
    cautions: ['noise', 'moving'],
    sets: { power: 'on', bleeding: 'yes' },
    hands: { power: 1, drain: 1, trigger: 0 },
    instead: {
      'no-start': {
        title: 'No start far under it: drain shut, motor off',
        withPressure: true,
        sets: { power: 'off', bleeding: 'no' },
      },
      'still-runs': { title: 'It runs still: it had not stopped', before: 'rarely' },
    },
  });
const cutOut = (key: string, phase: Phase, title: string, say: string, why?: string): Node =>
  s.read(key, 'cutOut', title, say, {
    phase,
    cautions: ['relief'],
    watched: true,
    sets: { bleeding: 'no', trigger: 'released' },
    hands: { drain: 0, trigger: 0 },
    ...(why ? { why } : {}),
    instead: {
      missed: { title: 'It had stopped already', before: true },
      stands: { title: 'It runs on, and the pressure stands', withPressure: true, sets: { power: 'off' } },
      'no-stop': {
        title: 'At the stop-at, and running: switched off',
        withPressure: true,
        bounds: { setting: 'cutOut', side: 'above' },
        sets: { power: 'off' },
      },
      hisses: {
        title: 'The relief hisses: switched off',
        withPressure: true,
        bounds: { setting: 'cutOut', side: 'above' },
        sets: { power: 'off' },
      },
    },
  });
const SHUT = 'Shut it, draw nothing. Read as it stops.';
/** A regulator lets more through, or less, from a tank that is nearly empty: what flows is read from one that is full. */
const full = (key: string): Node =>
  branch(now.drawnDown, [
    cutOut(
      key,
      'adjust',
      'Full again',
      'Let go, draw nothing. Read as it stops.',
      'From a tank that was drawn down, wall and gun show what it lets through, and not what they are set to.',
    ),
  ]);

const gun = (key: string, phase: Phase, title: string): Node =>
  s.read(key, 'gunFlow', title, 'No paint, gun at its highest use. Hold the trigger; read the gun.', {
    phase,
    cautions: ['fumes', 'noise'],
    sets: { trigger: 'held' },
    hands: { trigger: 1, wide: 0, drain: 0 },
    why: 'Shut, a gun shows what stands there and not what it sprays with.',
    instead: { starved: { title: 'It falls and never stands', withPressure: true } },
  });
const wall = (key: string, phase: Phase, title: string): Node =>
  s.read(key, 'wallFlow', title, 'Still held: read the wall gauge.', {
    phase,
    cautions: ['noise'],
    needs: { trigger: 'held' },
    hands: { trigger: 1 },
    instead: { starved: { title: 'It falls and never stands', withPressure: true } },
  });
const sustained = (key: string, phase: Phase, title: string): Node =>
  s.read(key, 'sustained', title, 'Hold on. Catch the lowest that the tank comes to.', {
    phase,
    cautions: ['noise'],
    needs: { trigger: 'held', power: 'on' },
    hands: { trigger: 1, power: 1 },
    why: 'That, less what the regulator needs, is the most the wall can hold.',
    instead: {
      falling: {
        title: 'Three minutes after the start, and falling still',
        withPressure: true,
        bounds: { setting: 'sustained', side: 'below' },
      },
      'no-need': { title: 'Five minutes, and it need not start' },
    },
  });
const swing = (key: string): Node =>
  s.observe(
    key,
    'Swing at the gun',
    'While the tank swung: did the gun stand, follow it, or go against it?',
    {
      stood: { title: 'It stood', advised: true },
      followed: { title: 'It followed the tank down', withPressure: true },
      against: 'It went up as the tank came down',
    },
    { watches: 'gun', why: 'Above what the tank holds a regulator only follows it.' },
  );
const lockUp = (key: string, phase: Phase): Node =>
  s.read(key, 'wallLock', 'Wall, standing', 'Let go. Read the wall gauge standing, then watch it a minute.', {
    phase,
    cautions: ['stored'],
    sets: { trigger: 'released' },
    hands: { trigger: 0 },
    instead: { creeps: { title: 'It climbs on', before: true } },
  });

const held = (key: string, phase: Phase): readonly Node[] => [
  sustained(`${key}-sustained`, phase, key === 'found' ? 'As found: held' : 'Held at the trigger'),
  swing(`${key}-swing`),
  lockUp(`${key}-lock-up`, phase),
];

const found: readonly Node[] = [
  cutIn('found-cut-in', 'found', 'As found: cut-in'),
  branch(
    (j) => !compressor.stopped(j),
    [
      cutOut('found-cut-out', 'found', 'As found: cut-out', SHUT),
      branch(
        (j) => !compressor.stopped(j) && !compressor.reliefHissed(j),
        [
          s.observe(
            'rest',
            'Falls at rest',
            'Let it cool four minutes, then watch a minute: by how much did it fall?',
            { fell: { title: 'It fell by' }, stands: { title: 'It stood', advised: true } },
            {
              seconds: RESTS_S + WATCH_S,
              shows: { channel: 'fall', title: 'It fell by', unit: 'psi', step: 0.5, lower: 0, upper: 60 },
              why: 'Warm air that cools falls too: that is no leak.',
              needed: true,
            },
          ),
          gun('found-gun', 'found', 'As found: gun'),
          wall('found-wall', 'found', 'As found: wall'),
          ...held('found', 'found'),
          branch(
            (j) => now.answerAt(j, 'sustained') !== 'no-need' && !compressor.creeps(j),
            [
              cutOut('again-cut-out', 'found', 'Cut-out again', 'Read as it stops.'),
              until(
                (j) => now.stopsKnown(j) || compressor.stopped(j) || compressor.reliefHissed(j),
                [
                  cutIn('more-cut-in', 'found', 'Cut-in once more'),
                  cutOut('more-cut-out', 'found', 'Cut-out once more', SHUT),
                ],
              ),
            ],
          ),
        ],
      ),
    ],
  ),
];

/** What the painter wants is tried once as-found figures are had: it judges nothing, and may change the plan. */
const pattern: Node = s.observe(
  'pattern',
  'Spray pattern',
  'Mark the gun control. Start high, come down until the pattern is even; read the gun there. Then back to the mark.',
  {
    even: { title: 'Even at this', withPressure: true, advised: true },
    'not-tried': 'Not tried today',
  },
  {
    cautions: ['fumes', 'noise'],
    watches: 'gun',
    asksPlan: true,
    sets: { trigger: 'held' },
    hands: { trigger: 1, wide: 0, drain: 0 },
    why: 'What it is even at is what the gun needs, whatever its book says.',
  },
);

/** The switch was moved, or has to be seen twice. */
const switchDue = (j: JobView): boolean =>
  now.setsSwitch(j) &&
  now.nut(j) === undefined &&
  j.state.turns.some((t) => ['range', 'diff'].includes(t.body.adjuster)) &&
  !(j.proved('cutOut') && j.proved('cutIn'));
const switchUnread = (j: JobView): boolean => j.unread('cutIn') || j.unread('cutOut');

const adjust: readonly Node[] = [
  branch(
    (j) => now.turnsNut(j) && (compressor.reliefHissed(j) || !switchUnread(j)) && !now.hopeless(j),
    underCover,
  ),
  branch(
    (j) => !compressor.reliefHissed(j) && !compressor.stopped(j) && (switchUnread(j) || switchDue(j)),
    [
      // After a turn the first rise is watched against the relief, before anything else.
      cutOut('set-cut-out', 'left', 'Cut-out', SHUT),
      branch(
        (j) => !compressor.stopped(j) && !compressor.reliefHissed(j),
        [cutIn('set-cut-in', 'left', 'Cut-in'), cutOut('next-cut-out', 'left', 'Cut-out', SHUT)],
      ),
    ],
  ),
  branch(turning, knobs),
  branch(
    (j) =>
      now.unread(j) ||
      (now.adjusting(j) && !now.rests(j) && !now.hopeless(j) && now.nut(j) === undefined && !turning(j)),
    [full('full-cut-out'), gun('set-gun', 'left', 'Gun, flowing'), wall('set-wall', 'left', 'Wall, flowing')],
  ),
  branch(
    (j) => now.rests(j) && !now.unread(j) && !now.relocked(j) && !now.hopeless(j),
    [
      s.confirm('relock', 'Knobs locked', 'Wall knob locked, gun control locked.', {
        hands: { wide: 0 },
        why: 'They move with the lock, and with each other: what is read now counts.',
      }),
    ],
  ),
  branch(
    (j) => now.rests(j) && now.relocked(j) && !now.proved(j) && !now.hopeless(j),
    [
      gun('left-gun', 'left', 'Gun, locked'),
      wall('left-wall', 'left', 'Wall, locked'),
      ...held('left', 'left'),
      branch(
        (j) => !compressor.creeps(j),
        [full('left-full-cut-out'), gun('left-pull-gun', 'left', 'Gun, second pull')],
      ),
    ],
  ),
];

export const walk = (plan: Plan) =>
  standard(parts, {
    cautions: 'Read the cautions. Ears and eyes on; find the motor’s switch and the shut-off.',
    zeros: [
      {
        slot: 'gun',
        title: 'Gun gauge zero',
        say: 'Hose bled. Gauge open to air: read its zero, then fit it at the gun inlet.',
        again: {
          say: 'Shut off, hose bled. Gauge off, open to air: read its zero.',
          cautions: ['hose'],
          needs: { trigger: 'released' },
          hands: { fitted: 0 },
        },
        hands: { fitted: 0 },
        tools: ['test gauge', 'tee'],
      },
    ],
    asFound: [
      s.observe(
        'look',
        'Drained, and sound',
        (j) =>
          j.finds
            ? 'Drain it. Relief ring, hoses, couplings, guard: all sound?'
            : `Wall knob right out, arrow with the flow, run in by the book. Drain it. All sound? Then bring ${byWall(plan) ? 'the wall' : 'wall and gun'} up to about what is planned.`,
        {
          sound: { title: 'All sound', advised: true },
          'hose-bad': 'A hose or coupling: changed before air goes on',
          'relief-bad': { title: 'The relief: stuck, plugged or weeping', sets: { power: 'off' } },
        },
        { cautions: ['stored', 'hose'], needs: { cautions: 'read' }, hands: { fitted: 1 } },
      ),
      branch((j) => !compressor.reliefBad(j), found),
      branch(
        (j) => read(j.plan).choice.pattern === 'asked' && !compressor.stopped(j) && !compressor.hoseBad(j),
        [pattern],
      ),
    ],
    adjust: [
      branch(
        (j) => !compressor.stopped(j),
        [
          until(now.settled, [
            branch((j) => now.decision(j) === undefined, [decide]),
            branch(now.adjusting, adjust),
          ]),
        ],
      ),
    ],
    // What was left in the middle of something is put back first.
    close: [
      branch(
        (j) => j.fact('power') === 'dead',
        [
          s.confirm('cover-back', 'Cover on', 'Cover on, its screws in. The lock stays.', {
            cautions: ['live'],
            sets: { power: 'off' },
            hands: { power: 0 },
          }),
        ],
      ),
      branch(
        (j) => j.fact('control') === 'wide',
        [
          s.confirm('control-back', 'Gun control at its mark', 'Gun control back to its mark.', {
            sets: { control: 'marked' },
            hands: { wide: 0 },
          }),
        ],
      ),
      branch(
        (j) => j.fact('bleeding') === 'yes',
        [
          s.confirm('drain-shut', 'Drain shut', 'Shut the drain.', {
            sets: { bleeding: 'no' },
            hands: { drain: 0 },
          }),
        ],
      ),
    ],
    last: [
      branch(
        now.leftOff,
        [
          s.confirm(
            'end-locked',
            'Left locked off',
            'Leave it locked off and tagged until it is mended. Tell the customer.',
            { cautions: ['live'], sets: { power: 'off' }, hands: { power: 0 } },
          ),
        ],
        [
          s.confirm(
            'end',
            'As found, tag written',
            'Hose back, shut-off as found. Tag at the wall: tank window, wall, gun, date.',
          ),
        ],
      ),
    ],
  });

import {
  airOrWater,
  isolate as isolateTank,
  powerOn,
  readPrecharge,
  soapAirValve,
  takeGaugeOff,
  turnAir,
  zeroTankGauges,
} from '../shared/tank.js';
import {
  branch,
  until,
  type JobView,
  type Node,
  type ObserveStep,
  type Phase,
  type Procedure,
  type ReadStep,
} from '@firm-needle/core/procedure';
import { DEAD_AT } from './cautions.js';
import * as now from './state.js';

const ALL_CAUTIONS = ['live', 'starts', 'relief', 'stored', 'manual'] as const;
/** Capacitors of a drive hold their charge this long where the maker does not say longer [common practice, no source]. */
const DISCHARGE_S = 300;
const SLEEPS_WITHIN_S = 60;

const isolate = (key: string): readonly Node[] =>
  isolateTank(key, DEAD_AT, [
    {
      kind: 'wait',
      key: `${key}-discharge`,
      title: 'Capacitors discharge',
      say: 'Touch nothing inside: wait five minutes, or the maker’s time where that is longer.',
      why: 'A drive holds its charge after switch-off.',
      cautions: ['live'],
      seconds: DISCHARGE_S,
    },
  ]);

const readHeld = (key: string, phase: Phase, title: string, say?: string): ReadStep => ({
  kind: 'read',
  key,
  phase,
  title,
  say: say ?? 'Draw a trickle, wait until the needle is firm and read the pressure held.',
  setting: 'setPoint',
  slot: 'system',
  catch: 'firm',
  needs: { power: 'on', house: 'open' },
  hands: { tap: 0.1 },
  instead: [
    { code: 'hunts', title: 'It swings and never settles' },
    { code: 'short', title: 'It never comes up', withPressure: true },
  ],
});

const readFull = (key: string, phase: Phase, title: string): ReadStep => ({
  kind: 'read',
  key,
  phase,
  title,
  say: 'Open every tap: full draw. Wait until the needle is firm and read it again.',
  why: 'A drive should hold the same from a trickle to full draw.',
  setting: 'fullDraw',
  slot: 'system',
  catch: 'firm',
  needs: { power: 'on', house: 'open' },
  hands: { tap: 1 },
  instead: [{ code: 'hunts', title: 'It swings and never settles' }],
});

const atMost = (key: string): ObserveStep => ({
  kind: 'observe',
  key: `${key}-at-most`,
  title: 'Speed at full draw',
  say: 'Full draw stands lower. Look at the drive’s display: does the pump run at its most speed?',
  why: 'At its most speed the drive can do no more: well, pump or a leak, not the setting.',
  hands: { tap: 1 },
  choices: [
    { code: 'yes', title: 'At its most' },
    { code: 'no', title: 'It has speed to spare' },
  ],
});

const bothRead = (phase: Phase) => (j: JobView) =>
  now.hunts(j) ||
  now.short(j) ||
  ['setPoint', 'fullDraw'].every(
    (s) => j.readings(s).filter((r) => r.kept.body.at.phase === phase).length >= 2,
  );

const lookAtSpeed = (key: string): Node =>
  branch(
    (j) =>
      now.seen(j, 'at-most') === undefined &&
      j.verdict('fullDraw', 'left')?.word === 'out' &&
      (j.figure('fullDraw', 'left')?.value ?? 0) < (j.figure('setPoint', 'left')?.value ?? 0),
    [atMost(key)],
  );

/** What the drive does by itself: its display, its sleep, its waking; seen once, as soon as it runs quietly. */
const ownWays = (key: string): readonly Node[] => [
  branch(
    (j) => now.seen(j, 'display') === undefined && j.readings('setPoint').length > 0,
    [
      {
        kind: 'observe',
        key: `${key}-display`,
        title: 'Display against gauge',
        say: 'With a trickle drawn, what pressure does the drive’s own display show?',
        why: 'The drive holds what its own sensor tells it.',
        hands: { tap: 0.1 },
        shows: {
          channel: 'display',
          title: 'Display shows',
          unit: 'psi',
          step: 0.1,
          lower: 0,
          upper: 300,
        },
        choices: [{ code: 'shows', title: 'Display shows' }],
      },
    ],
  ),
  branch(
    (j) => now.seen(j, 'sleep') === undefined || now.wakeOwed(j),
    [
      {
        kind: 'observe',
        key: `${key}-sleep`,
        title: 'Sleeps with no draw',
        say: 'Shut every tap and watch the drive for a minute. Does it go to sleep?',
        why: 'A drive that never sleeps feeds a leak.',
        seconds: SLEEPS_WITHIN_S,
        hands: { tap: 0 },
        choices: [
          { code: 'sleeps', title: 'It sleeps', advised: () => true },
          { code: 'runs', title: 'It runs on' },
        ],
      },
    ],
  ),
  branch(
    (j) => now.wakeOwed(j),
    [
      {
        kind: 'read',
        key: `${key}-wake`,
        phase: 'found',
        title: 'Wakes at',
        say: 'Draw slowly and catch the lowest pressure as the pump wakes.',
        why: 'The needle turns there and never stands still.',
        setting: 'wake',
        slot: 'system',
        catch: 'low',
        cautions: ['starts'],
        needs: { power: 'on' },
        hands: { tap: 0.1 },
        instead: [{ code: 'no-wake', title: 'It does not wake', withPressure: true }],
      },
    ],
  ),
];

const charge: readonly Node[] = [
  ...isolate('charge'),
  until(
    (j) => j.landed('precharge') || j.advice('air').stop !== null,
    [
      turnAir('charge-air', 'Overshoot a little, then bleed to the value.'),
      readPrecharge('charge-read', 'left', 'Read the air charge again.'),
    ],
  ),
];

const whyHunts: ObserveStep = {
  kind: 'observe',
  key: 'why-hunts',
  title: 'Why does it hunt?',
  say: 'The charge is right and it still swings. Bleed the sensor’s line and look where the sensor sits. What was it?',
  why: 'Air in the line, or a sensor far from the tank, lets the drive answer too late.',
  choices: [
    { code: 'air', title: 'Air came: bled', sets: { sensor: 'bled' } },
    { code: 'none', title: 'Nothing found' },
  ],
};

const settled = (j: JobView): boolean =>
  now.hopeless(j) ||
  (now.held(j) && now.full(j) && !now.wakeOwed(j) && j.landed('precharge') && !now.refillDue(j));

const work = until(settled, [
  branch((j) => !j.landed('precharge'), charge),
  branch((j) => j.fact('power') !== 'on', powerOn('work')),
  branch((j) => now.hunts(j) && j.fact('sensor') === undefined && !now.refillDue(j), [whyHunts]),
  branch(
    (j) =>
      !now.hopeless(j) && !now.hunts(j) && !j.due('setPoint') && !j.landed('setPoint') && !now.refillDue(j),
    [
      {
        kind: 'turn',
        key: 'turn-keys',
        phase: 'adjust',
        title: 'Set point',
        say: 'Change the set point in use.',
        adjuster: 'keys',
        cautions: ['relief'],
        needs: { power: 'on' },
      },
    ],
  ),
  branch(
    (j) => !now.hopeless(j),
    [
      readHeld(
        'left-held',
        'left',
        'Held at a trickle',
        'Let it come up, draw a trickle, and read the pressure held.',
      ),
      branch(
        (j) => !now.hunts(j) && !now.short(j),
        [readFull('left-full', 'left', 'Held at full draw'), lookAtSpeed('left')],
      ),
      branch((j) => !now.hunts(j) && !now.short(j), ownWays('left')),
    ],
  ),
]);

export const procedure: Procedure = {
  body: [
    {
      kind: 'confirm',
      key: 'cautions',
      title: 'Cautions read',
      say: 'Read the cautions, find the disconnect and the maker’s waiting time, and note which set point is in use.',
      cautions: ALL_CAUTIONS,
      sets: { cautions: 'read' },
      act: 'Read and understood',
    },
    ...zeroTankGauges,
    until(bothRead('found'), [
      readHeld('found-held', 'found', 'As found: at a trickle'),
      branch(
        (j) => !now.hunts(j) && !now.short(j),
        [readFull('found-full', 'found', 'As found: at full draw')],
      ),
    ]),
    branch((j) => !now.hunts(j) && !now.short(j), [lookAtSpeed('found'), ...ownWays('found')]),
    {
      kind: 'observe',
      key: 'dry-run',
      title: 'Dry-run protection',
      say: 'Look in the drive’s settings: is dry-run protection there, and on?',
      why: 'A pump that runs dry is lost in minutes.',
      choices: [
        { code: 'on', title: 'There and on', advised: () => true },
        { code: 'off', title: 'Off or none' },
      ],
    },
    ...isolate('found'),
    airOrWater,
    branch(
      (j) => !now.waterAtValve(j),
      [readPrecharge('found-precharge', 'found', 'Read the air charge at the tank valve.')],
    ),
    branch((j) => !now.hopeless(j), [work]),
  ],
  restore: [
    branch(
      (j) => !now.waterAtValve(j),
      [
        ...powerOn('end'),
        branch(
          (j) => now.refillDue(j) && !now.hunts(j) && !now.short(j),
          [
            readHeld(
              'end-held',
              'left',
              'Comes up again',
              'Let it refill, draw a trickle, and see it come up to the set point.',
            ),
          ],
        ),
      ],
    ),
    branch(
      (j) => now.waterAtValve(j),
      [
        {
          kind: 'confirm',
          key: 'end-locked',
          title: 'Left locked off',
          say: 'Leave it locked off and tagged, drain closed, until the tank is replaced. Tell the customer there is no water.',
          cautions: ['live'],
          sets: { power: 'off', drain: 'closed' },
          hands: { drain: 0, power: 0 },
        },
      ],
    ),
    soapAirValve,
    ...takeGaugeOff,
    branch(
      (j) => j.fact('house') !== 'open' && !now.waterAtValve(j),
      [
        {
          kind: 'confirm',
          key: 'end-house',
          title: 'House valve open',
          say: 'Open the house valve slowly.',
          sets: { house: 'open' },
          hands: { house: 1 },
        },
      ],
    ),
    {
      kind: 'confirm',
      key: 'end-tag',
      title: 'Tag written',
      say: 'Write set point, which of them is in use, the air charge and the date inside the cover.',
    },
  ],
};

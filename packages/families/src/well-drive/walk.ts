import {
  branch,
  until,
  type JobView,
  type Node,
  type Phase,
  type Procedure,
} from '@firm-needle/core/procedure';
import {
  airGoesOn,
  asItComesBack,
  isolate,
  powerOn,
  readPrecharge,
  takeGaugeOff,
  chargeAir,
  zeroTankGauges,
} from '../shared/tank.js';
import { soapAirValve } from '../shared/soap.js';
import { parts, s } from './parts.js';
import { foundReadings } from '../shared/found.js';
import * as now from './state.js';

const SLEEPS_WITHIN_S = 60;

const readHeld = (
  key: string,
  phase: Phase,
  title: string,
  say = 'Draw a trickle, wait until the needle is firm and read the pressure held.',
): Node =>
  s.read(key, 'setPoint', title, say, {
    phase,
    needs: { power: 'on', house: 'open' },
    hands: { tap: 0.1 },
    instead: {
      hunts: 'It swings and never settles',
      short: { title: 'It never comes up', withPressure: true },
    },
  });

const readFull = (key: string, phase: Phase, title: string): Node =>
  s.read(
    key,
    'fullDraw',
    title,
    'Open every tap: full draw. Wait until the needle is firm and read it again.',
    {
      phase,
      why: 'A drive should hold the same from a trickle to full draw.',
      needs: { power: 'on', house: 'open' },
      hands: { tap: 1 },
      instead: { hunts: 'It swings and never settles' },
    },
  );

const atMost = (key: string): Node =>
  s.observe(
    `${key}-at-most`,
    'Speed at full draw',
    'Full draw stands lower. Look at the drive’s display: does the pump run at its most speed?',
    { yes: 'At its most', no: 'It has speed to spare' },
    {
      why: 'At its most speed the drive can do no more: well, pump or a leak, not the setting.',
      hands: { tap: 1 },
    },
  );

/** The tank was drained: the power comes back, and the first reading of what it comes up to is one look with it. */
const BACK = asItComesBack('Let it come up, draw a trickle, and read the pressure held.', 'open');
const readAsItComesUp = s.read('left-refill', 'setPoint', 'Comes up, held at a trickle', BACK.say, {
  phase: 'left',
  cautions: ['live'],
  sets: { ...BACK.sets, house: 'open' },
  hands: { ...BACK.hands, house: 1, tap: 0.1 },
  instead: {
    hunts: 'It swings and never settles',
    short: { title: 'It never comes up', withPressure: true },
  },
});

/** Both twice; once where they stand right, for the tank is drained in any case and both are read again as it comes up. */
const foundEnough = (j: JobView): boolean => {
  if (now.hunts(j) || now.short(j)) return true;
  const n = Math.min(...['setPoint', 'fullDraw'].map((x) => foundReadings(j, x).length));
  return n >= 2 || (n === 1 && j.landed('setPoint') && j.landed('fullDraw'));
};

const lookAtSpeed = (key: string): Node =>
  branch((j) => now.seen(j, 'at-most') === undefined && now.fallsBy(j) !== undefined, [atMost(key)]);

const SET_POINT_IN_USE = {
  channel: 'programmed',
  title: 'Set point in use',
  unit: 'psi',
  step: 0.5,
  lower: 0,
  upper: 300,
};

/** One look at the drive while the trickle that was just read still runs: what it is told, and whether it shows that it holds it. */
const ownFigures: Node = branch(
  (j) =>
    now.seen(j, 'own') === undefined &&
    now.programmeOwed(j) &&
    now.displayOwed(j) &&
    j.readings('setPoint').length > 0,
  [
    s.observe(
      'found-own',
      'The drive’s own figures',
      'With the trickle drawn, look at the drive: dry-run protection on, and its own display within 1 psi of the set point in use? Then type that set point.',
      {
        on: 'Both so: set point in use',
        differs: 'Its display shows another pressure',
        off: 'Dry-run protection off or none',
      },
      {
        why: 'It holds what its own sensor tells it: what it is told, what it shows and what the gauge reads are one pressure, or something is wrong.',
        hands: { tap: 0.1 },
        // What is pressed says what was seen.
        shows: { ...SET_POINT_IN_USE, title: 'Both so: set point' },
      },
    ),
  ],
);

/** The display's own figure, asked where the look at the drive does not tell that it agrees with the gauge. */
const display = (key: string): Node =>
  branch(
    (j) => now.displayOwed(j) && j.readings('setPoint').length > 0,
    [
      s.observe(
        `${key}-display`,
        'Display against gauge',
        'With a trickle drawn, what pressure does the drive’s own display show?',
        { shows: 'Display shows' },
        {
          why: 'The drive holds what its own sensor tells it.',
          hands: { tap: 0.1 },
          shows: { channel: 'display', title: 'Display shows', unit: 'psi', step: 0.1, lower: 0, upper: 300 },
        },
      ),
    ],
  );

/** What the drive does by itself: its sleep, its waking; seen once, as soon as it runs quietly. */
const ownWays = (key: string): readonly Node[] => [
  branch(
    (j) => now.seen(j, 'sleep') === undefined || now.wakeOwed(j),
    [
      s.observe(
        `${key}-sleep`,
        'Sleeps with no draw',
        'Shut every tap and watch the drive for a minute. Does it go to sleep?',
        { sleeps: { title: 'It sleeps', advised: true }, runs: 'It runs on' },
        { why: 'A drive that never sleeps feeds a leak.', seconds: SLEEPS_WITHIN_S, hands: { tap: 0 } },
      ),
      branch(
        (j) => now.seen(j, 'sleep') === 'runs' && now.seen(j, 'why-runs') === undefined,
        [
          s.observe(
            `${key}-why-runs`,
            'Why does it run on?',
            'Listen at the check valve and look at every tap and cistern. Where does the water go?',
            {
              leak: 'A tap or pipe leaks: shown to the customer',
              valve: 'The check valve lets it back: shown to the customer',
              none: { title: 'Not found', advised: true },
            },
            { why: 'It is not set while nobody knows why it never sleeps.' },
          ),
        ],
      ),
    ],
  ),
  branch(
    (j) => now.wakeOwed(j),
    [
      s.read(
        `${key}-wake`,
        'wake',
        'Wakes at',
        'Draw slowly and catch the lowest pressure as the pump wakes.',
        {
          phase: 'found',
          why: 'The needle turns there and never stands still.',
          cautions: ['starts'],
          needs: { power: 'on' },
          hands: { tap: 0.1 },
          instead: { 'no-wake': { title: 'It does not wake', withPressure: true } },
        },
      ),
    ],
  ),
];

const charge: readonly Node[] = [
  ...isolate('charge'),
  until(
    (j) => j.landed('precharge') || !airGoesOn(j),
    chargeAir('charge-air', 'charge-read', 'left', 'Overshoot a little, then bleed to the value.'),
  ),
];

const whyHunts = s.observe(
  'why-hunts',
  'Why does it hunt?',
  'The charge is right and it still swings. Bleed the sensor’s line and look where the sensor sits. What was it?',
  { air: { title: 'Air came: bled', sets: { sensor: 'bled' } }, none: 'Nothing found' },
  { why: 'Air in the line, or a sensor far from the tank, lets the drive answer too late.' },
);

const settled = (j: JobView): boolean =>
  now.hopeless(j) ||
  (now.held(j) &&
    j.rests('setPoint') &&
    now.full(j) &&
    !now.wakeOwed(j) &&
    j.landed('precharge') &&
    !now.refillDue(j));

const work = until(settled, [
  branch((j) => !j.landed('precharge'), charge),
  branch((j) => now.hopeless(j) || !now.refillDue(j), powerOn('work', 'open')),
  branch((j) => now.hunts(j) && j.fact('sensor') === undefined && !now.refillDue(j), [whyHunts]),
  branch(
    (j) =>
      !now.hopeless(j) &&
      !now.hunts(j) &&
      !j.due('setPoint') &&
      !j.rests('setPoint') &&
      !now.refillDue(j) &&
      j.advice('keys').stop === null,
    [
      s.turn('turn-keys', 'keys', 'Set point', 'Change the set point in use.', {
        cautions: ['relief'],
        needs: { power: 'on' },
      }),
    ],
  ),
  branch(
    (j) => !now.hopeless(j),
    [
      branch(
        now.refillDue,
        [readAsItComesUp],
        [
          readHeld(
            'left-held',
            'left',
            'Held at a trickle',
            'Let it come up, draw a trickle, and read the pressure held.',
          ),
        ],
      ),
      branch((j) => !now.hunts(j) && !now.short(j), [display('left')]),
      branch(
        (j) => !now.hunts(j) && !now.short(j),
        [readFull('left-full', 'left', 'Held at full draw'), lookAtSpeed('left')],
      ),
      branch((j) => !now.hunts(j) && !now.short(j), ownWays('left')),
    ],
  ),
]);

export const walk: Procedure = {
  body: [
    s.confirm(
      'cautions',
      'Cautions read',
      'Read the cautions, find the disconnect and the maker’s waiting time, and note which set point is in use.',
      {
        cautions: parts.cautions.map((c) => c.key as 'live'),
        sets: { cautions: 'read' },
        act: 'Read and understood',
      },
    ),
    ...zeroTankGauges,
    until(foundEnough, [
      readHeld('found-held', 'found', 'As found: at a trickle'),
      branch((j) => !now.hunts(j) && !now.short(j), [ownFigures, display('found')]),
      branch(
        (j) => !now.hunts(j) && !now.short(j),
        [readFull('found-full', 'found', 'As found: at full draw')],
      ),
    ]),
    branch((j) => !now.hunts(j) && !now.short(j), [lookAtSpeed('found'), ...ownWays('found')]),
    // Hunting, or with another pressure on its display, it was not asked for what it is told.
    branch(
      (j) => now.programmeOwed(j),
      [
        s.observe(
          'dry-run',
          'Programmed, dry run',
          'Look in the drive’s settings: dry-run protection on? Then type the set point that is programmed and in use.',
          { on: 'Set point in use', off: 'Dry-run protection off or none' },
          {
            why: 'A pump that runs dry is lost in minutes; a drive that does not hold what it is told has another fault than its set point.',
            shows: SET_POINT_IN_USE,
          },
        ),
      ],
    ),
    ...isolate('found'),
    readPrecharge('found-precharge', 'found'),
    branch((j) => j.landed('precharge'), soapAirValve('found-')),
    branch((j) => !now.hopeless(j), [work]),
  ],
  restore: [
    ...soapAirValve(''),
    branch(
      (j) => !now.waterAtValve(j),
      [
        ...powerOn('end', 'open'),
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
        s.confirm(
          'end-locked',
          'Left locked off',
          'Leave it locked off and tagged, drain closed, until the tank is replaced. Tell the customer there is no water.',
          { cautions: ['live'], sets: { power: 'off', drain: 'closed' }, hands: { drain: 0, power: 0 } },
        ),
      ],
    ),
    ...takeGaugeOff,
    s.confirm(
      'end-tag',
      'Tag written',
      'On a tag outside the drive: set point and its number, air charge, date.',
    ),
  ],
};

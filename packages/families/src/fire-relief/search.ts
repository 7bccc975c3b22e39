// The search: where it opens and closes, what a turn does, and from there set and proved.
import { branch, until, type JobView, type Node, type Plan } from '@firm-needle/core/procedure';
import { isVariable, s } from './parts.js';
import {
  COARSE,
  FASTER_STEP,
  FINE,
  listed,
  MOST_FASTER,
  pilotAt,
  speedReaches,
  turnsToPlan,
} from './reckoned.js';
import * as now from './state.js';
import { edge, turnBy, readSystem, running, dry, SEARCH, RUNS, SETTLES_S, WATCH_S } from './acts.js';

const unless = (nodes: readonly Node[]): Node => branch((j) => !now.hopeless(j), nodes);

/** From where it was found down to where it just runs; a pilot that does nothing is looked into. */
const firstRun = until(
  (j) => now.sought(j, 'down') === true || now.hopeless(j),
  [
    edge(
      'down',
      'Down until it runs',
      'Turn the pilot slowly counter-clockwise until water just runs from the outlet. Then it opens at the pressure that stands.',
      -1,
      COARSE,
      ['discharge', 'hammer'],
    ),
    branch(
      (j) => now.sought(j, 'down') === false,
      [
        turnBy(
          'put-back',
          'Back as found',
          'Still dry. Before anything is cleaned, put the pilot back to its mark, as found:',
          'What holds the pilot off would let the relief open at once.',
          (j) => -pilotAt(j),
          { toMark: true },
        ),
        s.observe(
          'why-dry',
          'Why does it not open?',
          'Look at the sensing line and its strainer, and how far the screw still goes. What was it?',
          {
            sensing: { title: 'The sensing line was blocked: cleaned', sets: { sensing: 'clean' } },
            end: 'The screw is at the end of its spring',
            none: 'Nothing found',
          },
        ),
      ],
    ),
  ],
);

/** Which gauge was read: one on the cover falls away as the valve opens. */
const whichGauge: readonly Node[] = [
  readSystem('read-runs', 'runs', 'While it runs', 'Read the system gauge while a little runs.', 'adjust'),
  branch(now.onCover, [
    readSystem(
      'read-runs-sure',
      'runs',
      'While it runs, once more',
      'It fell far. Look at the gauge and read it once more.',
      'adjust',
    ),
  ]),
  branch(now.onCover, [
    s.observe(
      'trace',
      'Trace the gauge’s tube',
      'The gauge fell away as the valve opened. The cover does so, the system does not: follow its tube once more.',
      {
        cover: { title: 'On the cover: moved upstream', sets: { point: 'upstream' } },
        upstream: 'It is upstream',
      },
      { why: 'The cover gauge shows control pressure; what holds the valve shut.', needed: true },
    ),
    branch(
      (j) => now.traced(j) === 'cover',
      [
        readSystem(
          'read-runs-again',
          'runs',
          'While it runs, again',
          'Read the system gauge again, now upstream, while a little runs.',
          'adjust',
        ),
      ],
    ),
  ]),
];

/** The pressures at which it just opens and just closes, at churn. */
const edges: readonly Node[] = [
  edge(
    'edge-closes',
    'Up until it stops',
    'Turn the pilot slowly clockwise until the water just stops.',
    1,
    FINE,
  ),
  unless([
    readSystem(
      'read-closes',
      'closes',
      'Just closed',
      'Read the system gauge: at this pressure it just closed.',
    ),
    branch(now.closesOff, [
      readSystem(
        'read-closes-sure',
        'closes',
        'Just closed, once more',
        'That is not the pressure at churn. Look at the system gauge and read it once more.',
      ),
    ]),
    edge(
      'edge-opens',
      'Down until it runs, finely',
      'Turn the pilot counter-clockwise until water just runs.',
      -1,
      FINE,
    ),
    edge('edge-shut', 'Up until it stops, again', 'Clockwise again until it stops.', 1, FINE),
  ]),
];

/** Which spring it is, off its tag: only of the listed one does the table speak. */
const spring = s.observe(
  'spring',
  'Which spring',
  'Read the number of the pilot’s spring on its tag. Is it the one whose table stands on the plate?',
  { listed: 'It is', other: { title: 'Another, or cannot be read', advised: true } },
  { why: 'Where it is not, what a turn does is measured at a second pressure.' },
);

/** The same at a lower pressure: what one turn does here. */
const secondPressure: readonly Node[] = [
  s.confirm(
    'header-open',
    'Test header drawn',
    'Open the test header slowly until the system gauge stands some 20 to 30 psi lower.',
    {
      why: 'Two pressures and the turns between tell what one turn does here.',
      cautions: ['discharge', 'hammer'],
      needs: running,
      hands: { header: 1 },
    },
  ),
  edge(
    'down-drawn',
    'Down until it runs',
    'Turn the pilot slowly counter-clockwise until water just runs again.',
    -1,
    COARSE,
  ),
  edge(
    'edge-closes-drawn',
    'Up until it stops',
    'Turn the pilot slowly clockwise until the water just stops.',
    1,
    FINE,
  ),
  unless([
    readSystem(
      'read-closes-drawn',
      'closesDrawn',
      'Just closed, drawn',
      'Read the system gauge: at this pressure it just closed.',
    ),
    branch(now.wrongSpring, [
      readSystem(
        'read-drawn-sure',
        'closesDrawn',
        'Just closed, drawn, once more',
        'By that a turn would do something else than the table says. Look at the gauge and read it once more.',
      ),
    ]),
  ]),
  turnBy(
    'back-up',
    'Up before the header is shut',
    'Before the header is shut, turn the pilot back up:',
    'The pressure rises as the header shuts; it would open.',
    (j) => closedAt(j) + COARSE - pilotAt(j),
  ),
  s.confirm('header-shut', 'Test header shut', 'Shut the test header slowly.', {
    cautions: ['hammer'],
    hands: { header: 0 },
  }),
];

/** Where the pilot stood as it was shut at churn, turns. */
const closedAt = (job: JobView): number =>
  pilotAt(job, job.state.turns.findLast((t) => t.body.at.key === 'edge-shut')?.order ?? 0);

/** Nothing is to be set: the pilot goes back to where it was found. */
const asFound = turnBy(
  'as-found',
  'Back as found',
  'It stands right as found. Put the pilot back:',
  'Never left up after a search.',
  (j) => -pilotAt(j),
  { toMark: true },
);

const setBy = (key: string, title: string, say: string): Node =>
  turnBy(
    key,
    title,
    `${say} From here turn the pilot:`,
    'Counted from where it just opened, by what one turn does here.',
    (j) => turnsToPlan(j) ?? 0,
    { phase: 'adjust', needs: running },
  );
const set = setBy('turn-set', 'Set', 'Set the opening over the highest normal pressure.');
/** A proof that says otherwise than was counted is believed, and set from. */
const setAgain = setBy(
  'set-again',
  'Set again',
  'It opened elsewhere than was counted: a turn went too far, or not far enough.',
);

const dryAgain = dry(
  'dry-again',
  'Dry again',
  'Wait until the outlet is dry.',
  'What still runs would be taken for its opening.',
);

/** @param again whether it was proved before, and did not open where it was set to */
const proveByCount = (again: boolean): readonly Node[] => [
  s.confirm(again ? 'mark-again' : 'mark-set', 'Set position marked', 'Mark where the pilot stands now.', {
    why: 'It comes back to the mark, and not only to a count.',
    tools: ['marker'],
    needed: true,
  }),
  edge(
    again ? 'prove-again' : 'prove-opens',
    'Proof: down until it runs',
    'The speed of this pump does not bring it to where it opens. Turn the pilot counter-clockwise until water just runs, and count.',
    -1,
    FINE,
    ['discharge', 'hammer'],
  ),
  turnBy(
    again ? 'return-again' : 'return',
    'Back by the count',
    'Turn it back to the new mark, by the same count:',
    'Where it was set.',
    (j) => -(turnedAt(j, again ? 'prove-again' : 'prove-opens') ?? 0),
    { toMark: true },
  ),
];

const proveBySpeed = (again: boolean): readonly Node[] => [
  s.turn(
    again ? 'speed-again' : 'speed-up',
    'speed',
    'Proof: faster until it runs',
    'Raise the speed by halves of a per cent until water just runs.',
    {
      ...SEARCH,
      why: 'Pressure goes with the square of the speed: this is the opening itself.',
      cautions: ['shafts', 'discharge'],
      needs: running,
      seek: {
        ...RUNS,
        way: 1,
        by: FASTER_STEP,
        most: MOST_FASTER,
        settles_s: SETTLES_S,
        ended: 'Ten per cent, still dry',
      },
    },
  ),
  branch(
    (j) => now.sought(j, again ? 'speed-again' : 'speed-up') === true,
    [
      readSystem(
        again ? 'read-again' : 'read-opened',
        'runs',
        'While it runs',
        'Read the system gauge while it runs.',
        'left',
      ),
    ],
  ),
  s.turn(again ? 'back-again' : 'speed-back', 'speed', 'Back to governed speed', 'Bring the speed back:', {
    ...SEARCH,
    cautions: ['shafts'],
    amount: (j) => -(turnedAt(j, again ? 'speed-again' : 'speed-up') ?? 0),
    // Governed speed is read off.
    toMark: true,
  }),
];

const turnedAt = (job: JobView, key: string): number | undefined =>
  job.state.turns.findLast((t) => t.body.at.key === key)?.body.amount;

/** Where it opens: sought, set where it is not right, proved, locked. */
export const measured = (plan: Plan): readonly Node[] => {
  const prove = (again: boolean): readonly Node[] => [
    ...(again ? [dryAgain] : []),
    ...(isVariable(plan)
      ? [branch(speedReaches, proveBySpeed(again)), branch((j) => !speedReaches(j), proveByCount(again))]
      : proveByCount(again)),
  ];
  return [
    unless([firstRun]),
    unless(whichGauge),
    unless(edges),
    ...(plan.school === 'by-table'
      ? [unless([spring]), branch((j) => !now.hopeless(j) && !listed(j), secondPressure)]
      : [unless(secondPressure)]),
    unless([
      branch(
        now.foundRight,
        [asFound],
        [set, ...prove(false), until(now.setRight, [setAgain, ...prove(true)])],
      ),
      s.confirm('lock-nut', 'Lock nut tight', 'Tighten the lock nut: still dry?', {
        cautions: ['discharge'],
        tools: ['wrench for the lock nut'],
      }),
      dry(
        'dry-left',
        'Closes, no weep',
        'Watch the outlet for a minute.',
        'A weep is debris in the seat, or a margin too small.',
        WATCH_S,
      ),
    ]),
  ];
};

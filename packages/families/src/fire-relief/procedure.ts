import {
  branch,
  until,
  type JobView,
  type Node,
  type Phase,
  type Plan,
  type Procedure,
  type ReadStep,
  type Seek,
  type TurnStep,
} from '@firm-needle/core/procedure';
import { COARSE, FINE, pilotAt, turnsToPlan } from './reckoned.js';
import { isElectric, isVariable } from './settings.js';
import * as now from './state.js';

const ALL_CAUTIONS = ['life', 'discharge', 'hammer', 'shafts', 'up', 'manual'] as const;
/** The pilot goes up by this before pressure is let in: a new or unknown one might open at once. */
const UP = 2;
/** So far is sought, turns: down until it opens, up until it closes. */
const MOST_DOWN = 5;
const MOST_UP = 1.5;
/** What a movement of the pilot takes to show at the outlet, s [common practice, no source]. */
const SETTLES_S = 4;
const WATCH_S = 60;

const RUNS = { channel: 'discharge', to: 1, title: 'Water runs' } as const;
const DRY = { channel: 'discharge', to: 0, title: 'It stops' } as const;
const running = { impairment: 'given', path: 'clear', pump: 'churn' } as const;

/** The pilot moved a little at a time until the outlet says something. */
const edge = (
  key: string,
  title: string,
  say: string,
  way: 1 | -1,
  by: number,
  cautions: readonly string[] = ['hammer'],
): TurnStep => ({
  kind: 'turn',
  key,
  title,
  say,
  adjuster: 'pilot',
  cautions,
  needs: running,
  seek: {
    ...(way < 0 ? RUNS : DRY),
    way,
    by,
    most: way < 0 ? MOST_DOWN : MOST_UP,
    settles_s: SETTLES_S,
    ended: way < 0 ? 'End of the screw, still dry' : 'One and a half turns, still running',
  } satisfies Seek,
});

const turnBy = (
  key: string,
  title: string,
  say: string,
  why: string,
  amount: (job: JobView) => number,
): TurnStep => ({
  kind: 'turn',
  key,
  title,
  say,
  why,
  adjuster: 'pilot',
  cautions: ['hammer'],
  amount,
});

const readSystem = (
  key: string,
  setting: 'churn' | 'closes' | 'closesDrawn' | 'runs',
  title: string,
  say: string,
  phase: Phase = 'found',
): ReadStep => ({
  kind: 'read',
  key,
  phase,
  title,
  say,
  setting,
  slot: 'system',
  catch: 'firm',
  needs: { impairment: 'given' },
});

const dry = (key: string, title: string, say: string, why: string, seconds = 10): Node => ({
  kind: 'observe',
  key,
  title,
  say,
  why,
  seconds,
  cautions: ['discharge'],
  choices: [
    { code: 'dry', title: 'Dry', advised: () => true },
    { code: 'runs', title: 'Water runs' },
  ],
});

const unless = (nodes: readonly Node[]): Node => branch((j) => !now.hopeless(j), nodes);

/** From where it was found down to where it just runs; a pilot that does nothing is looked into. */
const firstRun = until(
  (j) => now.sought(j, 'down') === true || now.answer(j, 'dry-found') === 'runs' || now.hopeless(j),
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
          'Still dry. Before anything is cleaned, put the pilot back as found:',
          'What holds the pilot off would let the relief open at once.',
          (j) => -pilotAt(j),
        ),
        {
          kind: 'observe',
          key: 'why-dry',
          title: 'Why does it not open?',
          say: 'Look at the sensing line and its strainer, and how far the screw still goes. What was it?',
          choices: [
            { code: 'sensing', title: 'The sensing line was blocked: cleaned', sets: { sensing: 'clean' } },
            { code: 'end', title: 'The screw is at the end of its spring' },
            { code: 'none', title: 'Nothing found' },
          ],
        },
      ],
    ),
  ],
);

/** Which gauge was read: one on the cover falls away as the valve opens. */
const whichGauge: readonly Node[] = [
  readSystem('read-runs', 'runs', 'While it runs', 'Read the system gauge while a little runs.', 'adjust'),
  branch(now.onCover, [
    {
      kind: 'observe',
      key: 'trace',
      title: 'Trace the gauge’s tube',
      say: 'The gauge fell away as the valve opened. The cover does so, the system does not: follow its tube once more.',
      why: 'The cover gauge shows control pressure; what holds the valve shut.',
      choices: [
        { code: 'cover', title: 'On the cover: moved upstream', sets: { point: 'upstream' } },
        { code: 'upstream', title: 'It is upstream' },
      ],
    },
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

/** The same at a lower pressure: what one turn does here. */
const secondPressure: readonly Node[] = [
  {
    kind: 'confirm',
    key: 'header-open',
    title: 'Test header drawn',
    say: 'Open the test header slowly until the system gauge stands some 20 to 30 psi lower.',
    why: 'Two pressures and the turns between tell what one turn does here.',
    cautions: ['discharge', 'hammer'],
    needs: running,
    hands: { header: 1 },
  },
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
  ]),
  turnBy(
    'back-up',
    'Up before the header is shut',
    'Before the header is shut, turn the pilot back up:',
    'The pressure rises as the header shuts; it would open.',
    (j) => closedAt(j) + COARSE - pilotAt(j),
  ),
  {
    kind: 'confirm',
    key: 'header-shut',
    title: 'Test header shut',
    say: 'Shut the test header slowly.',
    cautions: ['hammer'],
    hands: { header: 0 },
  },
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
);

const set: TurnStep = {
  ...turnBy(
    'turn-set',
    'Set',
    'Set the opening over the highest normal pressure. From here turn the pilot:',
    'Counted from where it just opened, by what one turn does here.',
    (j) => turnsToPlan(j) ?? 0,
  ),
  phase: 'adjust',
  needs: running,
};

const proveByCount: readonly Node[] = [
  edge(
    'prove-opens',
    'Proof: down until it runs',
    'The pressure of this pump cannot be raised. Turn the pilot counter-clockwise until water just runs, and count.',
    -1,
    FINE,
    ['discharge', 'hammer'],
  ),
  turnBy(
    'return',
    'Back by the count',
    'Turn it back by the same count:',
    'Where it was set.',
    (j) => -(turnedAt(j, 'prove-opens') ?? 0),
  ),
];

const proveBySpeed: readonly Node[] = [
  {
    kind: 'turn',
    key: 'speed-up',
    title: 'Proof: faster until it runs',
    say: 'Raise the speed by halves of a per cent until water just runs.',
    why: 'Pressure goes with the square of the speed: this is the opening itself.',
    adjuster: 'speed',
    cautions: ['shafts', 'discharge'],
    needs: running,
    seek: { ...RUNS, way: 1, by: 0.005, most: 0.1, settles_s: SETTLES_S, ended: 'Ten per cent, still dry' },
  },
  branch(
    (j) => now.sought(j, 'speed-up') === true,
    [readSystem('read-opened', 'runs', 'While it runs', 'Read the system gauge while it runs.', 'left')],
  ),
  {
    kind: 'turn',
    key: 'speed-back',
    title: 'Back to governed speed',
    say: 'Bring the speed back:',
    adjuster: 'speed',
    cautions: ['shafts'],
    amount: (j) => -(turnedAt(j, 'speed-up') ?? 0),
  },
];

const turnedAt = (job: JobView, key: string): number | undefined =>
  job.state.turns.findLast((t) => t.body.at.key === key)?.body.amount;

export const procedureOf = (plan: Plan): Procedure => ({
  body: [
    {
      kind: 'confirm',
      key: 'cautions',
      title: 'Cautions read',
      say: 'Read the cautions. Nothing is touched before the authority knows.',
      cautions: ALL_CAUTIONS,
      sets: { cautions: 'read' },
      act: 'Read and understood',
    },
    {
      kind: 'confirm',
      key: 'impairment',
      title: 'Impairment given',
      say: 'Impairment notice given, fire watch posted, authority and alarm company told.',
      cautions: ['life'],
      needs: { cautions: 'read' },
      sets: { impairment: 'given' },
      permit: 'fire',
    },
    {
      kind: 'confirm',
      key: 'path',
      title: 'Discharge path clear',
      say: 'Walk the discharge path: clear, its drain able to take the flow, the outlet in sight. Record listing and size of the valve.',
      cautions: ['discharge'],
      sets: { path: 'clear' },
    },
    ...(['system', 'suction'] as const).map((slot): Node => ({
      kind: 'zero',
      key: `zero-${slot}`,
      title: slot === 'system' ? 'System gauge zero' : 'Suction gauge zero',
      say: `Pump stopped: vent the ${slot} gauge to air and read its zero.`,
      slot,
      needs: { cautions: 'read' },
      hands: { gauges: 0, pump: 0 },
      tools: ['two test gauges'],
    })),
    {
      kind: 'observe',
      key: 'where',
      title: 'Which gauge is which',
      say: 'Connect both gauges and follow the system gauge’s tube. Does it come from upstream of the relief, or from its cover?',
      why: 'The cover gauge shows control pressure; every figure here stands on the pressure upstream.',
      hands: { gauges: 1 },
      choices: [
        { code: 'upstream', title: 'Upstream', advised: () => true },
        { code: 'cover', title: 'From the cover: moved upstream', sets: { point: 'upstream' } },
      ],
    },
    turnBy(
      'pilot-up',
      'Pilot up',
      'Mark the pilot screw, loosen its lock nut. Before pressure is let in, turn it up:',
      'A pilot set below the system would open at once.',
      () => UP,
    ),
    {
      kind: 'confirm',
      key: 'start',
      title: 'Pump at churn',
      say: 'Start the pump, nothing drawn, and let it come to its speed.',
      cautions: ['shafts'],
      needs: { impairment: 'given', path: 'clear' },
      sets: { pump: 'churn' },
      hands: { pump: 1, header: 0 },
    },
    ...(isElectric(plan)
      ? []
      : [
          {
            kind: 'observe',
            key: 'speed',
            title: 'Speed',
            say: 'Let it come to its speed, and read the tachometer.',
            seconds: 15,
            why: 'Pressure goes with the square of the speed: a governor that runs away comes before the relief.',
            cautions: ['shafts'],
            shows: {
              channel: 'speed',
              title: 'Tachometer shows',
              unit: 'rpm',
              step: 1,
              lower: 0,
              upper: 6000,
            },
            choices: [{ code: 'shows', title: 'Tachometer shows' }],
          } satisfies Node,
        ]),
    {
      kind: 'read',
      key: 'read-suction',
      phase: 'found',
      title: 'Suction',
      say: 'Read the suction gauge.',
      setting: 'suction',
      slot: 'suction',
      catch: 'firm',
      needs: { pump: 'churn' },
    },
    readSystem('read-churn', 'churn', 'System at churn', 'Read the system gauge at churn.'),
    dry(
      'dry-up',
      'Outlet dry, pilot up',
      'Look at the outlet: is it dry?',
      'Dry proves that the pilot stands above the system. Water now is a seat that does not close.',
    ),
    unless([
      turnBy(
        'pilot-back',
        'Back as found',
        'Bring the pilot back to its mark:',
        'From here the search begins.',
        (j) => -pilotAt(j),
      ),
      dry(
        'dry-found',
        'Outlet as found',
        'Look at the outlet again: dry, or does water run?',
        'As it was found, at churn.',
      ),
      firstRun,
    ]),
    unless(whichGauge),
    unless(edges),
    unless(secondPressure),
    unless([
      branch(now.foundRight, [asFound], [set, ...(isVariable(plan) ? proveBySpeed : proveByCount)]),
      dry(
        'dry-left',
        'Closes, no weep',
        'Watch the outlet for a minute.',
        'A weep is debris in the seat, or a margin too small.',
        WATCH_S,
      ),
    ]),
  ],
  restore: [
    branch(
      (j) => pilotAt(j) !== 0 && !now.wasSet(j),
      [
        {
          ...turnBy(
            'restore-pilot',
            'Pilot back as found',
            'Never leave it up: put the pilot back as found:',
            'A pilot left up is a relief that is not there.',
            (j) => -pilotAt(j),
          ),
          cautions: ['up'],
        },
      ],
    ),
    {
      kind: 'confirm',
      key: 'stop',
      title: 'Locked, capped, stopped',
      say: 'Lock nut tight, cap on. Stop the pump, shut the header, put its controller as it was.',
      cautions: ['up'],
      sets: { pump: 'off' },
      hands: { pump: 0, header: 0 },
    },
    ...(['system', 'suction'] as const).map((slot): Node => ({
      kind: 'zero',
      key: `zero-${slot}-again`,
      title: slot === 'system' ? 'System gauge zero again' : 'Suction gauge zero again',
      say: `Read the zero of the ${slot} gauge once more, vented to air.`,
      slot,
      hands: { gauges: 0 },
    })),
    branch(
      (j) => !now.hopeless(j),
      [
        {
          kind: 'confirm',
          key: 'lifted',
          title: 'Impairment lifted',
          say: 'Lift the impairment: authority, alarm company and owner told, fire watch stood down.',
          cautions: ['life'],
          sets: { impairment: 'lifted' },
        },
      ],
      [
        {
          kind: 'confirm',
          key: 'impaired',
          title: 'Impairment stays',
          say: 'The relief is not in order: the impairment stays. Tell owner and authority, and leave the tag on it.',
          cautions: ['life'],
        },
      ],
    ),
  ],
});

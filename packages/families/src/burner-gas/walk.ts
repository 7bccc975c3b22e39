import {
  branch,
  until,
  withSteps,
  type JobView,
  type Node,
  type Plan,
  type Procedure,
} from '@firm-needle/core/procedure';
import { standard } from '../define/index.js';
import { adjust, decide } from './moves.js';
import { byFigure, hasLockUp, hasManifold, oneInput, parts, read, s, SWITCHES } from './parts.js';
import {
  airNormal,
  atRest,
  clearVent,
  fire,
  lockUp,
  lowFire,
  manifold,
  onItsTap,
  trips,
} from './readings.js';
import * as now from './state.js';

const ports: Node = until(now.tight, [
  s.confirm(
    'ports',
    'Ports open, tubing on',
    (j) =>
      oneInput(j.plan)
        ? 'Supply port screw out, tubing on, clamped.'
        : 'Port screws out, tubing on both, clamped.',
    {
      cautions: ['gas', 'ports'],
      needs: { gas: 'shut', burner: 'off' },
      sets: { ports: 'open', tubing: 'supply' },
      hands: { cock: 0, burner: 0, ports: 1, bleed: 0 },
      permit: 'gas',
      tools: ['manometer', 'tubing and clamp', 'screwdriver'],
    },
  ),
  s.observe(
    'soap',
    'Soaped',
    'Cock open slowly. Soap both joints: tight?',
    {
      tight: { title: 'Tight', advised: true },
      bubbles: { title: 'It bubbles: cock shut, made again', sets: { gas: 'shut' } },
    },
    {
      cautions: ['gas'],
      needs: { ports: 'open' },
      sets: { gas: 'on' },
      hands: { cock: 1 },
      tools: ['soap or detector'],
      why: 'At these pressures a small leak is a wrong reading.',
    },
  ),
]);

/** What was read wet is read once more, blown dry. */
const blown = (which: 'gas' | 'air', again: Node): Node =>
  branch(
    (j) => now.wet(j, which),
    [
      s.confirm(
        `blow-${which}`,
        'Blown dry',
        which === 'gas'
          ? 'Cock shut, tubing off, blown dry, on again. Cock open, soaped.'
          : 'Tubing off, blown dry, on again.',
        {
          cautions: which === 'gas' ? ['gas', 'ports'] : ['air'],
          hands: { blown: 1 },
          why: 'Water stands in it as a column of its own, and moves as the tubing does.',
        },
      ),
      again,
    ],
  );

/** It may burn, or what needs no flame may be tried. */
const goesOn = (j: JobView): boolean => !now.over(j) && !now.stopped(j);
const burns = (j: JobView): boolean => goesOn(j) && !now.cannotFire(j);

const pressures = (plan: Plan): readonly Node[] => [
  fire('found-supply', 'found', 'As found: supply, full fire'),
  ...(hasManifold(plan)
    ? [
        branch(burns, [
          manifold('found-manifold', 'found', 'As found: manifold'),
          branch(
            (j) => now.vent(j) !== undefined && j.readings('manifold').length === 0,
            [clearVent('vent-clear'), manifold('clear-manifold', 'found', 'Manifold, vent cleared')],
          ),
          branch(
            (j) => burns(j) && now.inDoubt(j, 'manifold'),
            [manifold('second-manifold', 'found', 'Manifold, once more')],
          ),
          ...(read(plan).choice.stages === 'two'
            ? [branch(burns, [lowFire('found-low-fire', 'found')])]
            : []),
        ]),
      ]
    : []),
  ...(hasLockUp(plan)
    ? [branch(burns, [lockUp(plan, 'found-lock-up', 'found', 'As found: locked up')])]
    : []),
];

/** The switch in a furnace’s draught is fixed: it works, or it does not. */
const hose: Node = s.observe(
  'hose',
  'Air switch works',
  'Its hose off at the inducer, heat called: does the burner stop, or never start?',
  {
    works: { title: 'It does not fire', advised: true },
    'runs-on': { title: 'It fires: switched off' },
  },
  {
    cautions: ['air', 'fire'],
    sets: { burner: 'off' },
    hands: { burner: 0 },
    why: 'Gas without air explodes.',
  },
);

const found = (plan: Plan): readonly Node[] => [
  ports,
  atRest('found-static', 'found', 'As found: supply at rest'),
  blown('gas', atRest('dry-static', 'found', 'As found: supply at rest')),
  // Out, it is neither fired nor moved for one reading: on until two are of one mind.
  until(
    (j) => now.stopped(j) || !now.inDoubt(j, 'static'),
    [atRest('second-static', 'found', 'Supply at rest, once more')],
  ),
  branch(goesOn, pressures(plan)),
  branch(
    goesOn,
    plan.variant === 'furnace'
      ? [hose]
      : byFigure(plan)
        ? []
        : [
            ...trips(plan, 'found', 'found', ['lowGas', 'highGas']),
            branch(goesOn, [
              airNormal('found-air-normal', 'found'),
              blown('air', airNormal('dry-air-normal', 'found')),
              ...trips(plan, 'found', 'found', ['airTrip', 'mainTrip']),
              ...(['second', 'third'] as const).flatMap((key) => trips(plan, key, 'found', SWITCHES)),
            ]),
          ],
  ),
];

/** Nothing burns in what is new until the licensed hand has proved it tight and purged it. */
const tightness: Node = branch(
  (j) => !j.finds,
  [
    s.confirm(
      'tightness',
      'Tight, and purged',
      'New: tightness test and purge by the licensed hand, by the code.',
      {
        cautions: ['gas', 'manual'],
        permit: 'gas',
      },
    ),
  ],
);

const leftShut: readonly Node[] = [
  s.confirm(
    'close-shut',
    'Shut, ports closed',
    'Cock shut. Tees off, air tubes back where they were, port screws gently in. It stays shut.',
    {
      cautions: ['gas', 'ports', 'air'],
      sets: { gas: 'shut', burner: 'off', ports: 'shut' },
      hands: { burner: 0, cock: 0, fan: 0, tube: 0, let: 0, bleed: 0, bulb: 0, ports: 0, meter: 0 },
    },
  ),
];
const closed: readonly Node[] = [
  until(now.closedTight, [
    s.observe(
      'close',
      'Closed, and soaped',
      'Cock shut. Tees off, air tubes back, port screws gently in. Cock open: soap them all.',
      {
        tight: { title: 'Tight', advised: true },
        bubbles: { title: 'It bubbles: cock shut, made again', sets: { gas: 'shut' } },
      },
      {
        cautions: ['gas', 'ports', 'air'],
        sets: { gas: 'on', burner: 'off', ports: 'shut' },
        hands: {
          burner: 0,
          fan: 0,
          tube: 0,
          let: 0,
          bleed: 0,
          bulb: 0,
          ports: 0,
          meter: 0,
          valve: 0,
          cock: 1,
        },
        why: 'A port that was opened, or a tee left in an air tube, is a fault of our own.',
      },
    ),
  ]),
  s.observe(
    'relight',
    'Relit, and burns right',
    'Relight by the book. Flame, carbon monoxide and draught as the book wants?',
    {
      good: { title: 'As the book wants', advised: true },
      bad: { title: 'Not so: shut down', sets: { burner: 'off', gas: 'shut' } },
    },
    {
      cautions: ['fire', 'co'],
      needs: { ports: 'shut' },
      sets: { burner: 'on' },
      hands: { power: 1, burner: 1, stage: 0 },
      permit: 'gas',
      tools: ['combustion analyser'],
    },
  ),
];

export function walk(plan: Plan): Procedure {
  const whole = standard(parts, {
    cautions: 'Read the cautions. Licence, ventilation, detector on; find the gas cock.',
    first: [
      s.observe(
        'sniff',
        'No gas about',
        'Detector along every joint, low and high. Gas anywhere?',
        {
          none: { title: 'None', advised: true },
          gas: { title: 'Gas: cock shut, no switch touched, out', sets: { gas: 'shut' } },
        },
        { cautions: ['gas'], needs: { cautions: 'read' }, tools: ['gas detector'] },
      ),
    ],
    zeros: [
      {
        slot: 'gas',
        title: 'Gas manometer zero',
        say: 'Burner off, gas cock shut. Tubing blown dry, both ends open, inches of water: read the zero.',
        again: { say: 'Both ends open: read the zero once more.', hands: { ports: 0 } },
        cautions: ['gas'],
        sets: { gas: 'shut', burner: 'off' },
        hands: { burner: 0, cock: 0, ports: 0 },
        tools: ['manometer'],
      },
      ...(plan.variant === 'furnace'
        ? []
        : [
            {
              slot: 'air' as const,
              title: 'Air manometer zero',
              say: 'Both ends open to the room: read its zero.',
              again: { say: 'Both ends open: read its zero once more.', hands: { tube: 0 } },
              hands: { tube: 0 },
              tools: ['manometer, 0 to 5 inches'],
            },
          ]),
    ],
    asFound: [tightness, ...found(plan)],
    adjust: [
      branch(
        (j) => !now.stopped(j),
        [
          until(now.settled, [
            branch((j) => now.decision(j) === undefined, [decide]),
            branch((j) => now.adjusting(j), adjust(plan)),
          ]),
        ],
      ),
    ],
    // What was left in the middle of something is put back first.
    close: [
      branch(
        (j) => j.fact('power') === 'dead',
        [
          s.confirm('cover-back', 'Cover on', 'Cover on, its screws in, before power comes back.', {
            cautions: ['live'],
            sets: { power: 'off' },
            hands: { power: 0 },
          }),
        ],
      ),
      branch(
        (j) => j.fact('power') === 'off' && !now.leftShut(j),
        [
          s.confirm('lock-back', 'Lock off', 'Take the lock off, power on.', {
            cautions: ['moving'],
            sets: { power: 'on' },
            hands: { power: 1 },
          }),
        ],
      ),
      branch(now.capOff, [
        s.confirm('caps-back', 'Caps on', 'Caps of both screws on, hand tight.', { cautions: ['gas'] }),
      ]),
      branch(now.leftShut, leftShut, closed),
    ],
    last: [
      branch(
        (j) => now.leftShut(j) || now.co(j),
        [
          s.confirm(
            'end-shut',
            'Left shut and tagged',
            'Leave its gas shut, locked and tagged until it is mended. Tell the customer.',
            { cautions: ['gas'], sets: { gas: 'shut', burner: 'off' }, hands: { burner: 0, cock: 0 } },
          ),
        ],
        [s.confirm('end', 'Tag written', 'Caps and covers on. Tag: pressures, trips, page, date.')],
      ),
    ],
  });
  // Where gas is about, nothing more is done there.
  const [cautions, sniff, ...rest] = whole.body;
  const stays = (j: JobView): boolean => !now.leak(j);
  const moving = (nodes: readonly Node[]): readonly Node[] =>
    oneInput(plan) ? withSteps(nodes, onItsTap) : nodes;
  return {
    body: [...[cautions, sniff].flatMap((n) => (n ? [n] : [])), branch(stays, moving(rest))],
    restore: [
      branch(stays, moving(whole.restore), [
        s.confirm('out', 'Out, and called', 'Cock shut. No switch touched. Out, and call from outside.', {
          cautions: ['gas'],
          sets: { gas: 'shut' },
          hands: { cock: 0 },
        }),
      ]),
    ],
  };
}

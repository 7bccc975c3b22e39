// The decision, then supply before appliance before dials: each makes the next due.
import { branch, type JobView, type Node, type Plan } from '@firm-needle/core/procedure';
import { canClock } from './reckoned.js';
import {
  hasLockUp,
  hasManifold,
  parts,
  read,
  RUNS_BY,
  RUNS_MOST,
  s,
  switchesOf,
  toDial,
  type SwitchSetting,
} from './parts.js';
import { airNormal, atRest, clearVent, fire, input, lockUp, lowFire, manifold, trips } from './readings.js';
import * as now from './state.js';

export function advisedDecision(job: JobView): {
  readonly code: 'adjust' | 'leave' | 'replace';
  readonly say: string;
} {
  const out = (code: 'adjust' | 'leave' | 'replace', say: string) => ({ code, say });
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
const advised = (code: string) => (j: JobView) => advisedDecision(j).code === code;

export const decide: Node = s.observe('decide', 'Decide', (j) => advisedDecision(j).say, {
  adjust: { title: 'Adjust', advised: advised('adjust') },
  leave: { title: 'Leave as found', advised: advised('leave') },
  replace: { title: 'Replace', advised: advised('replace') },
});

/** The supply is looked up once, whether it is first turned at rest or as it burns. */
const looked = (j: JobView, id: string): boolean =>
  (id === 'supply' || id === 'rest' ? ['supply', 'rest'] : [id]).some(
    (x) => j.answer(`book-${x}`) !== undefined,
  );

/** Before the first turn of each: a remembered figure is looked up. */
const book = (id: 'supply' | 'rest' | 'appliance' | 'dials', figures: (job: JobView) => string): Node =>
  branch(
    (j) => !looked(j, id),
    [
      s.observe(
        `book-${id}`,
        'The book',
        (j) =>
          `Open the book at page ${read(j.plan).plate.page ?? '?'}. Planned ${figures(j)}: is that what it says?`,
        {
          same: { title: 'As planned', advised: true },
          differs: 'It says otherwise: nothing is turned',
        },
        {
          cautions: ['manual'],
          asksPlan: true,
          why: 'A figure from memory is how a burner is set wrong.',
        },
      ),
    ],
  );
const agreed = (id: string) => (j: JobView) => !now.bookDiffers(j) && looked(j, id);
const planned = (job: JobView, settings: readonly string[]): string =>
  settings
    .flatMap((x) => {
      const value = job.plan.values[x];
      return value === undefined ? [] : [`${job.setting(x).title.toLowerCase()} ${job.say(value, x)}`];
    })
    .join(', ');

const byAdvice = (j: JobView, id: now.Screw): boolean => j.advice(id).stop === null;
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

/** Where its tap cannot be let down: the dial is run to what stands there until it trips, and what it shows more than that is its error. */
const runTo = (plan: Plan, x: 'lowGas' | 'highGas'): Node => {
  const id = now.DIALS[x];
  const { title } = parts.screw(id);
  const rising = x === 'lowGas';
  const meter = rising ? 1 : 2;
  return branch(
    (j) => toDial(j.plan, x) && !now.ran(j, x),
    [
      s.observe(
        `${id}-stands`,
        `Gas at the tap of the ${rising ? 'low' : 'high'}-gas switch`,
        'Locked off still: open the cock slowly. Read the gas at its tap once it stands.',
        {
          stands: { title: 'It stands at', withPressure: true, advised: true },
          open: { title: 'Its contact is open already, at', withPressure: true },
          none: 'Nothing stands there',
        },
        {
          watches: 'gas',
          cautions: ['gas', 'live'],
          needs: { power: 'dead' },
          sets: { gas: 'on' },
          hands: { cock: 1, bleed: 0, bulb: 0, meter, input: input(plan, rising ? 'lowTap' : 'highTap') },
          seconds: 20,
        },
      ),
      branch(
        (j) => ['stands', 'open'].includes(now.answerAt(j, `${id}-stands`) ?? ''),
        [
          branch(
            (j) => now.answerAt(j, `${id}-stands`) === 'open',
            [
              s.turn(
                `back-${id}`,
                id,
                `${title}, back first`,
                `It trips beyond what stands there: ${title.toLowerCase()} slowly ${rising ? 'down' : 'up'} until it closes.`,
                {
                  cautions: ['live'],
                  needs: { power: 'dead' },
                  permit: 'mains',
                  hands: { meter },
                  seek: {
                    channel: 'contact',
                    to: 1,
                    title: 'It closes',
                    way: rising ? -1 : 1,
                    by: RUNS_BY,
                    most: RUNS_MOST,
                    settles_s: 1,
                    ended: 'Its end, and open still',
                  },
                },
              ),
            ],
          ),
          s.turn(
            `run-${id}`,
            id,
            `${title}, run to it`,
            `Meter across its contact. ${title} slowly ${rising ? 'up' : 'down'} until it opens.`,
            {
              cautions: ['live'],
              needs: { power: 'dead' },
              permit: 'mains',
              tools: ['screwdriver', 'meter'],
              hands: { meter },
              why: 'What it shows as it opens, less what stands at its tap, is the error of its dial.',
              seek: {
                channel: 'contact',
                to: 0,
                title: 'It opens',
                way: rising ? 1 : -1,
                by: RUNS_BY,
                most: RUNS_MOST,
                settles_s: 1,
                ended: 'Its end, and closed still',
              },
            },
          ),
        ],
      ),
    ],
  );
};

const dialTurn = (plan: Plan, x: SwitchSetting): Node => {
  const id = now.DIALS[x];
  const { title, unit } = { title: parts.screw(id).title, unit: 'inH2O' };
  const air = x === 'airTrip' || x === 'mainTrip';
  const cautions = air ? (['live', 'air'] as const) : (['live'] as const);
  return branch(
    (j) => now.dialsDue(j).includes(x),
    [
      branch(
        (j) => !now.noted(j, x),
        [
          s.observe(
            `${id}-shows`,
            `${title} shows`,
            `Where does the ${title.toLowerCase()} stand? Mark it.`,
            { shows: title, none: 'Its figures cannot be read' },
            {
              cautions,
              needs: { power: 'dead' },
              shows: {
                channel: id,
                title,
                unit,
                step: air ? 0.05 : 0.25,
                lower: 0,
                upper: air ? 10 : 70,
              },
              why: 'A dial is a claim; how far it is moved counts.',
            },
          ),
        ],
      ),
      ...(x === 'lowGas' || x === 'highGas' ? [runTo(plan, x)] : []),
      branch(
        (j) => !now.byDial(j, x),
        [
          branch(
            (j) => byAdvice(j, id),
            [
              s.turn(`turn-${id}`, id, title, `${title}.`, {
                cautions,
                needs: { power: 'dead' },
                permit: 'mains',
                tools: ['screwdriver'],
              }),
            ],
          ),
        ],
        [
          branch(
            (j) => now.byFigure(j, x) !== undefined,
            [
              s.turn(
                `figure-${id}`,
                id,
                `${title}, by its figure`,
                (j) => `${title} to ${j.say(now.wantedAt(j, x) ?? 0, x)}, by its figure:`,
                {
                  cautions,
                  needs: { power: 'dead' },
                  permit: 'mains',
                  tools: ['screwdriver'],
                  amount: (j) => now.byFigure(j, x) ?? 0,
                },
              ),
            ],
          ),
        ],
      ),
    ],
  );
};

const dialMoves = (plan: Plan): readonly Node[] => {
  const switches = switchesOf(plan);
  if (switches.length === 0) return [];
  return [
    // What was not had as it was found, because it was not fired then.
    branch(
      (j) => now.pressuresDone(j) && !now.hopeless(j) && !switches.every((x) => now.byDial(j, x)),
      [
        ...trips(plan, 'set', 'left', ['lowGas', 'highGas']),
        branch((j) => now.airDue(j) && !now.hopeless(j), [airNormal('set-air-normal', 'left')]),
        ...trips(plan, 'set', 'left', ['airTrip', 'mainTrip']),
      ],
    ),
    branch(
      (j) => now.pressuresDone(j) && now.turnsDials(j) && !now.hopeless(j),
      [
        book('dials', (j) => planned(j, switches)),
        branch(agreed('dials'), [
          s.confirm(
            'lock',
            'Locked off, tried',
            'Cock shut. Lock it off, then call for heat: nothing may happen.',
            {
              cautions: ['live', 'gas'],
              sets: { burner: 'off', gas: 'shut', power: 'off' },
              hands: { burner: 0, fan: 0, cock: 0, bleed: 0, bulb: 0, tube: 0, let: 0, meter: 0, power: 0 },
            },
          ),
          s.confirm(
            'dead',
            'Cover off, proved dead',
            'Cover off as if live. Prove dead: tester, terminals, tester.',
            {
              cautions: ['live'],
              needs: { power: 'off' },
              sets: { power: 'dead' },
              permit: 'mains',
              tools: ['voltage tester'],
            },
          ),
          ...switches.map((x) => dialTurn(plan, x)),
          s.confirm('cover', 'Cover on, lock off', 'Cover on. Take the lock off.', {
            cautions: ['moving'],
            sets: { power: 'on' },
            hands: { power: 1 },
            why: 'The cover is the lock of a dial: what is tripped from here on counts.',
          }),
        ]),
      ],
    ),
    branch(
      (j) => now.pressuresDone(j) && !now.hopeless(j) && !switches.every((x) => now.byDial(j, x)),
      [
        ...trips(plan, 'more', 'left', ['lowGas', 'highGas']),
        ...trips(plan, 'more', 'left', ['airTrip', 'mainTrip']),
      ],
    ),
  ];
};

export const adjust = (plan: Plan): readonly Node[] => [
  ...supplyMoves,
  ...applianceMoves(plan),
  ...dialMoves(plan),
];

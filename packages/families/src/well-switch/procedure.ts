import {
  airOrWater,
  isolate as isolateTank,
  lockOff,
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
  type Procedure,
  type ReadStep,
  type TurnStep,
} from '@firm-needle/core/procedure';
import { DEAD_AT } from './cautions.js';
import * as now from './state.js';

const ALL_CAUTIONS = ['live', 'relief', 'stored', 'manual'] as const;

const isolate = (key: string): readonly Node[] => isolateTank(key, DEAD_AT);

const CUT_OUT_ABOVE = { setting: 'cutOut', side: 'above' } as const;

const readCutIn = (key: string, phase: 'found' | 'adjust' | 'left', title: string): ReadStep => ({
  kind: 'read',
  key,
  phase,
  title,
  say: 'Draw water slowly and catch the lowest pressure as the pump starts: cut-in.',
  why: 'Cut-in is a turning point; the needle never stands still there.',
  setting: 'cutIn',
  slot: 'system',
  catch: 'low',
  needs: { power: 'on' },
  sets: { house: 'open' },
  hands: { house: 1, tap: 0.5 },
  instead: [
    { code: 'no-start', title: 'Pump does not start', withPressure: true },
    {
      code: 'climbs',
      title: 'Pump never stops: locked off by hand',
      withPressure: true,
      sets: { power: 'off' },
    },
  ],
});

const readCutOut = (
  key: string,
  phase: 'found' | 'adjust' | 'left',
  title: string,
  watched: boolean,
): ReadStep => ({
  kind: 'read',
  key,
  phase,
  title,
  say: watched
    ? 'Watch the first rise. Catch the pressure at the click that stops the pump: cut-out.'
    : 'Stop the draw and catch the pressure at the click that stops the pump: cut-out.',
  setting: 'cutOut',
  slot: 'system',
  catch: 'high',
  watched,
  ...(watched ? { cautions: ['relief'] } : {}),
  needs: { power: 'on' },
  hands: { tap: 0 },
  instead: [
    { code: 'stalls', title: 'Runs on, pressure stands', withPressure: true, bounds: CUT_OUT_ABOVE },
    {
      code: 'climbs',
      title: 'Does not stop: locked off by hand',
      withPressure: true,
      bounds: CUT_OUT_ABOVE,
      sets: { power: 'off' },
    },
    ...(watched
      ? [
          {
            code: 'drips',
            title: 'Relief drips: locked off',
            withPressure: true,
            bounds: CUT_OUT_ABOVE,
            sets: { power: 'off' },
          },
        ]
      : []),
  ],
});

const turnNut = (adjuster: 'range' | 'differential'): TurnStep => ({
  kind: 'turn',
  key: `turn-${adjuster}`,
  phase: 'adjust',
  title: adjuster === 'range' ? 'Range nut' : 'Differential nut',
  say: adjuster === 'range' ? 'Turn the range nut.' : 'Turn the differential nut.',
  adjuster,
  cautions: ['live'],
  needs: { power: 'off', cover: 'off' },
  permit: 'mains',
  tools: ['nut driver'],
});

const openings: Node[] = [
  {
    kind: 'confirm',
    key: 'cautions',
    title: 'Cautions read',
    say: 'Read the cautions, find the disconnect, and read the rated pair inside the cover when it comes off.',
    cautions: ALL_CAUTIONS,
    sets: { cautions: 'read' },
    act: 'Read and understood',
  },
  ...zeroTankGauges,
];

const asFound: Node[] = [
  until(now.foundEnough, [
    readCutIn('found-cut-in', 'found', 'As found: cut-in'),
    branch((j) => !now.noCutIn(j), [readCutOut('found-cut-out', 'found', 'As found: cut-out', false)]),
  ]),
  branch(
    (j) => !now.abnormal(j),
    [
      {
        kind: 'observe',
        key: 'rest',
        title: 'Holds with no draw',
        say: 'No draw, pump stopped: watch the needle for a minute.',
        why: 'A fall with nothing drawn is a check valve or a leak, not the switch.',
        seconds: 60,
        hands: { tap: 0 },
        choices: [
          { code: 'holds', title: 'It holds', advised: () => true },
          { code: 'falls', title: 'It falls' },
        ],
      },
    ],
  ),
  ...isolate('found'),
  airOrWater,
  branch(
    (j) => !now.waterAtValve(j),
    [readPrecharge('found-precharge', 'found', 'Read the air charge at the tank valve.')],
  ),
];

const decide: Node = {
  kind: 'observe',
  key: 'decide',
  title: 'Decide',
  say: (job) => advisedDecision(job).say,
  choices: [
    { code: 'adjust', title: 'Adjust', advised: (j) => advisedDecision(j).code === 'adjust' },
    { code: 'leave', title: 'Leave as found', advised: (j) => advisedDecision(j).code === 'leave' },
    { code: 'replace', title: 'Replace', advised: (j) => advisedDecision(j).code === 'replace' },
  ],
};

/** What to do after the as-found readings, with its reason. */
export function advisedDecision(job: JobView): { code: 'adjust' | 'leave' | 'replace'; say: string } {
  if (now.climbs(job))
    return {
      code: 'replace',
      say: 'The pump does not stop by its switch: replace the switch, do not adjust it.',
    };
  if (now.waterAtValve(job))
    return { code: 'replace', say: 'Water at the air valve: the bladder is ruptured. Replace the tank.' };
  if (now.unrepeatable(job))
    return {
      code: 'replace',
      say: 'The points do not repeat: a blocked tube or burned contacts. Replace the switch.',
    };
  if (now.stalls(job))
    return {
      code: 'leave',
      say: 'The pump cannot reach cut-out: well, pump or a leak, not the switch. Leave it as found.',
    };
  if (now.noStart(job))
    return {
      code: 'replace',
      say: 'The pump does not start on falling pressure: prove the supply, then replace the switch.',
    };
  const diff = job.figure('differential', 'found');
  const band = job.opening.limits['differential'];
  if (job.plan.school !== 'set-both' && diff && band?.lower !== undefined && band.upper !== undefined) {
    const slack = job.agreement('differential');
    const how =
      diff.value < band.lower - slack ? 'narrowed' : diff.value > band.upper + slack ? 'widened' : undefined;
    if (how)
      return {
        code: 'replace',
        say: `The differential has ${how} to ${job.say(diff.value, 'differential')}: one nut cannot mend both points. Replace the switch.`,
      };
  }
  if (now.switchLanded(job) && job.landed('precharge'))
    return { code: 'leave', say: 'Everything stands inside its limits. Leave it as found.' };
  return { code: 'adjust', say: 'Out of its limits: adjust.' };
}

const work: Node = until(now.settled, [
  branch(now.bleedFirst, [
    ...isolate('bleed'),
    turnAir('bleed-air'),
    readPrecharge('bleed-read', 'adjust', 'Read the air charge again.'),
  ]),
  branch(now.wantsTurn, [
    branch((j) => j.fact('power') !== 'off', lockOff('nut-lock', DEAD_AT)),
    {
      kind: 'confirm',
      key: 'cover-off',
      title: 'Cover off',
      say: 'Take the cover off. Read the rated pair inside it.',
      cautions: ['live'],
      needs: { power: 'off' },
      sets: { cover: 'off' },
      permit: 'mains',
    },
    branch(
      (j) => j.state.turns.every((t) => t.body.adjuster === 'air'),
      [
        {
          kind: 'confirm',
          key: 'mark',
          title: 'Mark the nut',
          say: 'Mark the nut and its stud, so that it can be put back as found.',
          tools: ['marker'],
        },
      ],
    ),
    branch((j) => now.nut(j) === 'range', [turnNut('range')]),
    branch((j) => now.nut(j) === 'differential', [turnNut('differential')]),
    {
      kind: 'confirm',
      key: 'cover-on',
      title: 'Cover on',
      say: 'Put the cover or its guard back.',
      sets: { cover: 'on' },
    },
    ...powerOn('nut'),
    branch(
      now.riseFirst,
      [
        readCutOut('adjust-cut-out', 'adjust', 'First rise: cut-out', true),
        branch((j) => !now.dripped(j), [readCutIn('adjust-cut-in', 'adjust', 'Cut-in after the turn')]),
      ],
      [
        readCutIn('next-cut-in', 'adjust', 'Cut-in after the turn'),
        readCutOut('next-cut-out', 'adjust', 'First rise: cut-out', true),
      ],
    ),
  ]),
  branch(
    (j) =>
      !now.wantsTurn(j) &&
      !now.dripped(j) &&
      (now.unread(j) || (now.switchLanded(j) && !now.switchProved(j))),
    [
      ...powerOn('prove'),
      readCutIn('prove-cut-in', 'left', 'Prove: cut-in'),
      readCutOut('prove-cut-out', 'left', 'Prove: cut-out', false),
    ],
  ),
  branch(
    (j) =>
      now.switchLanded(j) &&
      now.switchProved(j) &&
      !now.waterAtValve(j) &&
      (now.prechargeDue(j) || !j.landed('precharge')),
    [
      ...isolate('charge'),
      branch(now.prechargeDue, [
        readPrecharge('charge-read', 'adjust', 'Cut-in moved, so the precharge is due again. Read it.'),
      ]),
      branch(
        (j) => !now.prechargeDue(j) && !j.landed('precharge'),
        [turnAir('charge-air'), readPrecharge('charge-after', 'left', 'Read the air charge again.')],
      ),
    ],
  ),
]);

const restore: Node[] = [
  branch(
    (j) => j.state.turns.some((t) => t.body.adjuster !== 'air') && j.fact('cover') !== 'on',
    [
      {
        kind: 'confirm',
        key: 'end-cover',
        title: 'Cover on',
        say: 'Cover on before any power.',
        needs: { power: 'off' },
        sets: { cover: 'on' },
      },
    ],
  ),
  branch(
    (j) => !now.climbs(j) && j.answer('decide') !== 'replace' && !now.dripped(j),
    [
      ...powerOn('end'),
      branch(
        (j) => !now.abnormal(j) && now.wasLockedOff(j),
        [readCutOut('end-cut-out', 'left', 'Refills and stops', true)],
      ),
    ],
  ),
  branch(
    (j) => now.climbs(j) || j.answer('decide') === 'replace' || now.dripped(j),
    [
      {
        kind: 'confirm',
        key: 'end-locked',
        title: 'Left locked off',
        say: 'Leave it locked off and tagged, drain closed, until the part is replaced. Tell the customer there is no water.',
        cautions: ['live'],
        sets: { power: 'off', drain: 'closed' },
        hands: { drain: 0, power: 0 },
      },
    ],
  ),
  soapAirValve,
  ...takeGaugeOff,
  branch(
    (j) =>
      j.fact('house') !== 'open' && !now.climbs(j) && j.answer('decide') !== 'replace' && !now.dripped(j),
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
    say: 'Write the settings and the date inside the cover.',
  },
];

export const procedure: Procedure = { body: [...openings, ...asFound, decide, work], restore };

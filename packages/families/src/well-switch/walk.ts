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
  lockOff,
  powerOn,
  readPrecharge,
  takeGaugeOff,
  chargeAir,
  zeroTankGauges,
} from '../shared/tank.js';
import { soapAirValve } from '../shared/soap.js';
import { parts, s } from './parts.js';
import * as now from './state.js';
import { decision, type Decided } from '../shared/decision.js';

const bounded = { withPressure: true, bounds: { setting: 'cutOut', side: 'above' } } as const;
const lockedOff = { ...bounded, sets: { power: 'off' } } as const;

const readCutIn = (key: string, phase: Phase, title: string): Node =>
  s.read(
    key,
    'cutIn',
    title,
    'Draw slowly at the tap nearest the gauge; catch the lowest pressure as the pump starts: cut-in.',
    {
      phase,
      why: 'Cut-in is a turning point; the needle never stands still there.',
      needs: { power: 'on' },
      sets: { house: 'open' },
      hands: { house: 1, tap: 0.5 },
      instead: {
        'no-start': { title: 'Pump does not start', withPressure: true },
        climbs: { title: 'Pump never stops: locked off by hand', withPressure: true, sets: { power: 'off' } },
        'still-runs': { title: 'It runs still: it had not stopped', before: 'rarely' },
      },
    },
  );

/** Every rise to a cut-out that is not yet known may go past it: it is watched, with what it must not reach. */
const readCutOut = (key: string, phase: Phase, title: string, rise: 'found' | 'first' | 'known'): Node =>
  s.read(
    key,
    'cutOut',
    title,
    {
      found:
        'Stop the draw and watch the rise. Catch the pressure at the click that stops the pump: cut-out.',
      first: 'Watch the first rise. Catch the pressure at the click that stops the pump: cut-out.',
      known: 'Stop the draw and catch the pressure at the click that stops the pump: cut-out.',
    }[rise],
    {
      phase,
      watched: rise !== 'known',
      ...(rise !== 'known' ? { cautions: ['relief'] } : {}),
      needs: { power: 'on' },
      hands: { tap: 0 },
      instead: {
        stalls: { ...bounded, title: 'Runs on, pressure stands' },
        'not-running': { title: 'It does not run: it had not started', before: 'rarely' },
        climbs: { ...lockedOff, title: 'Does not stop: locked off by hand' },
        ...(rise !== 'known' ? { drips: { ...lockedOff, title: 'Relief drips: locked off' } } : {}),
      },
    },
  );

/** The tank was drained and nothing opened: the power comes back as its first rise is watched. */
const BACK = asItComesBack(
  'Watch the first rise. Catch the pressure at the click that stops the pump: cut-out.',
);
const lockedAgain = { ...bounded, sets: { power: 'off', drain: 'closed' } } as const;
const refill = s.read('refill-cut-out', 'cutOut', 'Refills and stops', BACK.say, {
  phase: 'left',
  watched: true,
  cautions: ['live', 'relief'],
  sets: BACK.sets,
  hands: { ...BACK.hands, tap: 0 },
  instead: {
    stalls: { ...bounded, title: 'Runs on, pressure stands' },
    climbs: { ...lockedAgain, title: 'Does not stop: locked off by hand' },
    drips: { ...lockedAgain, title: 'Relief drips: locked off' },
  },
});

const turnNut = (nut: 'range' | 'differential'): Node =>
  s.turn(
    `turn-${nut}`,
    nut,
    nut === 'range' ? 'Range nut' : 'Differential nut',
    nut === 'range' ? 'Turn the range nut.' : 'Turn the differential nut.',
    { cautions: ['live'], needs: { power: 'dead', cover: 'off' }, permit: 'mains', tools: ['nut driver'] },
  );

/** One of the pair that is printed inside the cover; its springs are made for that. */
const rated = (which: 'in' | 'out', title: string): Node =>
  s.observe(
    `rated-${which}`,
    `Rated ${title.toLowerCase()}`,
    `Inside the cover: what ${title.toLowerCase()} is it rated for?`,
    { shows: `Rated ${title.toLowerCase()}`, none: 'Cannot be read' },
    {
      why: 'Its springs are made for the rated pair; far from it they do not repeat.',
      shows: {
        channel: `rated-${which}`,
        title: `Rated ${title.toLowerCase()}`,
        unit: 'psi',
        step: 1,
        lower: 0,
        upper: 200,
      },
    },
  );

const openings: readonly Node[] = [
  s.confirm(
    'cautions',
    'Cautions read',
    'Read the cautions, find the disconnect, and read the rated pair inside the cover when it comes off.',
    {
      cautions: parts.cautions.map((c) => c.key as 'live'),
      sets: { cautions: 'read' },
      act: 'Read and understood',
    },
  ),
  ...zeroTankGauges,
];

const asFound: readonly Node[] = [
  until(now.foundEnough, [
    readCutIn('found-cut-in', 'found', 'As found: cut-in'),
    branch(
      (j) => !now.noCutIn(j) && !now.refillTells(j),
      [readCutOut('found-cut-out', 'found', 'As found: cut-out', 'found')],
    ),
  ]),
  branch(
    (j) => !now.abnormal(j) && !now.dripped(j),
    [
      s.observe(
        'rest',
        'Holds with no draw',
        'No draw, pump stopped: watch the needle for a minute.',
        { holds: { title: 'It holds', advised: true }, falls: { title: 'It falls', withPressure: true } },
        {
          why: 'A fall with nothing drawn is a check valve or a leak, not the switch.',
          seconds: 60,
          watches: 'system',
          hands: { tap: 0 },
        },
      ),
    ],
  ),
  ...isolate('found'),
  readPrecharge('found-precharge', 'found'),
  // What is right is left: nothing will be done to the air, and the refill tells the second cut-out.
  branch(now.allInside, soapAirValve('found-')),
];

const decide = decision(s, advisedDecision);

/** What to do after the as-found readings, with its reason. */
export function advisedDecision(job: JobView): Decided {
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
  // On a tank that was empty first, cut-in is read too low: that says nothing of the differential.
  if (
    job.plan.school !== 'set-both' &&
    !now.emptiesFirst(job) &&
    diff &&
    band?.lower !== undefined &&
    band.upper !== undefined
  ) {
    const slack = job.agreement('differential');
    const how =
      diff.value < band.lower - slack ? 'narrowed' : diff.value > band.upper + slack ? 'widened' : undefined;
    if (how)
      return {
        code: 'replace',
        say: `The differential has ${how} to ${job.say(diff.value, 'differential')}: one nut cannot mend both points. Replace the switch.`,
      };
  }
  if (now.allInside(job))
    return { code: 'leave', say: 'Everything stands inside its limits. Leave it as found.' };
  return { code: 'adjust', say: 'Out of its limits: adjust.' };
}

/** The points stand; the air is due or out, and the points are proved, or the tank is drained in any case. */
const chargesNow = (j: JobView): boolean =>
  now.decision(j) === 'adjust' &&
  now.switchRests(j) &&
  !now.waterAtValve(j) &&
  (now.prechargeDue(j) || (!j.landed('precharge') && airGoesOn(j))) &&
  (now.switchProved(j) || j.fact('drain') === 'open');

const work: Node = until(now.settled, [
  branch((j) => now.decision(j) === undefined, [decide]),
  branch(now.bleedFirst, [...isolate('bleed'), ...chargeAir('bleed-air', 'bleed-read', 'adjust')]),
  branch(now.wantsTurn, [
    branch((j) => j.fact('power') !== 'off', lockOff('nut-lock')),
    s.confirm(
      'cover-off',
      'Cover off',
      'Cover off as if live, then prove dead: tester, switch terminals, tester.',
      {
        cautions: ['live'],
        needs: { power: 'off' },
        sets: { cover: 'off', power: 'dead' },
        permit: 'mains',
        tools: ['voltage tester'],
      },
    ),
    branch(
      (j) => j.state.turns.every((t) => t.body.adjuster === 'air'),
      [
        s.confirm('mark', 'Mark the nut', 'Mark the nut and its stud, so that it can be put back as found.', {
          joins: true,
          tools: ['marker'],
        }),
      ],
    ),
    branch((j) => !now.ratedKnown(j), [rated('in', 'Cut-in'), rated('out', 'Cut-out')]),
    branch((j) => now.nut(j) === 'range', [turnNut('range')]),
    branch((j) => now.nut(j) === 'differential', [turnNut('differential')]),
    s.confirm('cover-on', 'Cover on', 'Put the cover or its guard back.', {
      sets: { cover: 'on', power: 'off' },
    }),
    ...powerOn('nut'),
    branch(
      now.riseFirst,
      [
        readCutOut('adjust-cut-out', 'adjust', 'First rise: cut-out', 'first'),
        branch((j) => !now.dripped(j), [readCutIn('adjust-cut-in', 'adjust', 'Cut-in after the turn')]),
      ],
      [
        readCutIn('next-cut-in', 'adjust', 'Cut-in after the turn'),
        readCutOut('next-cut-out', 'adjust', 'First rise: cut-out', 'first'),
      ],
    ),
  ]),
  branch(
    (j) => !now.wantsTurn(j) && !now.dripped(j) && now.toProve(j) && !chargesNow(j),
    [
      branch((j) => !now.refilling(j) || j.fact('cover') === 'off', powerOn('prove')),
      branch(now.refilling, [refill]),
      branch(now.toProve, [
        readCutIn('prove-cut-in', 'left', 'Prove: cut-in'),
        readCutOut('prove-cut-out', 'left', 'Prove: cut-out', 'known'),
      ]),
    ],
  ),
  branch(chargesNow, [
    ...isolate('charge'),
    branch(
      now.prechargeDue,
      [readPrecharge('charge-read', 'adjust', 'Cut-in moved, so the precharge is due again. Read it.')],
      chargeAir('charge-air', 'charge-after', 'left'),
    ),
  ]),
]);

const restore: Node[] = [
  ...soapAirValve(''),
  branch(
    (j) => j.state.turns.some((t) => t.body.adjuster !== 'air') && j.fact('cover') !== 'on',
    [
      s.confirm('end-cover', 'Cover on', 'Still locked off: cover on before any power.', {
        cautions: ['live'],
        sets: { cover: 'on', power: 'off' },
      }),
    ],
  ),
  branch(
    (j) => !now.leftOff(j),
    [
      ...powerOn('end'),
      branch(
        (j) => !now.abnormal(j) && now.toBeSeen(j),
        [
          readCutOut('end-cut-out', 'left', 'Refills and stops', 'first'),
          until(
            (j) => !now.endDiffers(j),
            [
              readCutIn('end-cut-in', 'left', 'Once more: cut-in'),
              readCutOut('end-again', 'left', 'Once more: cut-out', 'known'),
            ],
          ),
        ],
      ),
    ],
  ),
  branch(now.leftOff, [
    s.confirm(
      'end-locked',
      'Left locked off',
      'Leave it locked off and tagged, drain closed, until the part is replaced. Tell the customer there is no water.',
      { cautions: ['live'], sets: { power: 'off', drain: 'closed' }, hands: { drain: 0, power: 0 } },
    ),
  ]),
  ...takeGaugeOff,
  branch(
    now.leftOff,
    [s.confirm('end-tag', 'Tag written', 'On a tag beside the switch: settings, air charge, date.')],
    [
      s.confirm(
        'end-house',
        'House valve open, tag written',
        'Open the house valve slowly. On a tag beside the switch: settings, air charge, date.',
        { sets: { house: 'open' }, hands: { house: 1 } },
      ),
    ],
  ),
];

export const walk: Procedure = { body: [...openings, ...asFound, work], restore };

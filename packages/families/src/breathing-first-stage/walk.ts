import {
  branch,
  until,
  type JobView,
  type Node,
  type Phase,
  type Plan,
  type Procedure,
} from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';
import { standard } from '../define/index.js';
import { BREATHING_PERMIT, whatRelieves } from '../shared/breathing.js';
import { decision, type Decided } from '../shared/decision.js';
import { industrial } from './industrial.js';
import { isFresh, isIndustrial, isPiston, parts, read, RICH, s, SUPPLY, WATCH_S } from './parts.js';
import { stopOf } from './plan.js';
import { bestPack, inside, sayPack } from './shims.js';
import * as now from './state.js';

const PERMIT = BREATHING_PERMIT.id;
const say = (p: number): string => showWithUnit(p, { unit: 'psi', step: 1 });
const supply = ({ plan }: Pick<JobView, 'plan'>, at: 'low' | 'full'): string => {
  const { supplyLow = SUPPLY.low, supplyFull = SUPPLY.full } = read(plan).plate;
  return say(at === 'low' ? supplyLow : supplyFull);
};
export const pastStop = (j: JobView): string => `Past ${say(stopOf(j.plan))}: shut and bleed.`;

/** Slowly up to a supply, the needle watched: the only way that pressure comes to it. */
const upTo = (key: string, at: 'low' | 'full', title: string): Node =>
  s.observe(
    key,
    title,
    (j) =>
      `Bleed shut. Face aside, slowly ${at === 'low' ? 'to' : 'on to'} ${supply(j, at)} of supply. ${pastStop(j)}`,
    {
      stands: { title: 'It stands', advised: true },
      hisses: 'The relief hisses',
      ran: { title: 'It ran past: shut, bled', sets: { supply: 'shut', line: 'bled' } },
    },
    {
      cautions: ['slow', 'relief', 'whip'],
      needs: { relief: 'inline' },
      sets: { supply: at, line: 'closed' },
      hands: { bleed: 0, purge: 0, supply: at === 'low' ? 1 : 2 },
      seconds: 5,
      watches: 'ip',
    },
  );

/** A relief that opens early hides the rest: another, and up once more. */
const up = (prefix: string, at: 'low' | 'full', name: 'low' | 'full' | 'rise'): readonly Node[] => {
  const title = name === 'rise' ? 'Up again' : at === 'low' ? 'Up to low supply' : 'On to full supply';
  return [
    upTo(`${prefix}${name}-up`, at, title),
    branch(
      (j) => now.answerAt(j, `${name}-up`) === 'hisses' && !now.ran(j),
      [
        s.confirm(
          `${prefix}${name}-relief`,
          'Another relief',
          'Supply shut, bleed open. Another relief into the line, one that opens where it should.',
          {
            cautions: ['relief', 'dead'],
            sets: { line: 'bled', supply: 'shut' },
            hands: { supply: 0, bleed: 1, relief: 2 },
          },
        ),
        upTo(`${prefix}${name}-up-again`, at, `${title}, once more`),
      ],
    ),
  ];
};

/** What a needle may do in place of standing. */
const UNSTEADY = { rises: 'It rises on', never: 'Never twice the same' };

const goOn = (then: readonly Node[]): Node => branch((j) => !now.stopped(j), then);

const readLow = (key: string, phase: Phase, title: string): Node =>
  s.read(key, 'ipLow', title, 'Purge four times, let it stand, then read.', {
    phase,
    watched: true,
    needs: { supply: 'low' },
    hands: { purge: 4 },
    cautions: ['ears'],
    why: 'The number before any purge is none.',
    instead: UNSTEADY,
  });

const soap = (key: string, title: string): Node =>
  s.observe(
    key,
    title,
    'Soap every joint, the hose ends and the ambient holes.',
    {
      tight: { title: 'Tight', advised: true },
      joint: 'A joint bubbles',
      holes: 'Bubbles at the ambient holes',
    },
    {
      seconds: 30,
      needs: { supply: 'full' },
      why: 'Before it is watched: a leak outward hides one inward.',
      needed: true,
    },
  );

const tight = (prefix: string): readonly Node[] => [
  soap(`${prefix}soap`, 'Soaped'),
  branch(
    (j) => now.answerAt(j, 'soap', 'soap-again') === 'joint',
    [
      s.confirm(`${prefix}remake`, 'Joint made again', 'Supply shut, bled. Make the joint again.', {
        cautions: ['dead', 'whip'],
        sets: { supply: 'shut', line: 'bled' },
        hands: { supply: 0, bleed: 1, joints: 1 },
      }),
      upTo(`${prefix}remade-full-up-again`, 'full', 'On to full supply, once more'),
      branch((j) => !now.ran(j), [soap(`${prefix}soap-again`, 'Soaped again')]),
    ],
  ),
];

/** Purged under flow; where it dips too far, whether its supply sags is seen before a filter is blamed. */
const dips = (prefix: string, phase: Phase): readonly Node[] => {
  const purged = (key: string, title: string): readonly Node[] => [
    s.read(`${key}purging`, 'purging', title, 'Hold a second stage’s purge for two seconds: the lowest.', {
      phase,
      needs: { supply: 'full' },
      hands: { purge: 1 },
      cautions: ['ears'],
    }),
    s.read(`${key}full`, 'ipFull', 'At full supply', 'Let go. Ten seconds, then read.', {
      phase,
      watched: true,
      needs: { supply: 'full' },
      hands: { purge: 0 },
      needed: true,
      instead: UNSTEADY,
    }),
  ];
  return [
    ...purged(prefix, 'While purged'),
    branch(now.starved, [
      s.observe(
        `${prefix}sag`,
        'Does its supply sag?',
        'It dips too far. Purge once more and look at the gauge of the bottle or the bench.',
        { sags: 'It sags: opened fully', holds: 'It holds' },
        {
          needs: { supply: 'full' },
          hands: { valve: 1 },
          cautions: ['ears'],
          why: 'A valve half shut starves it as a filter does.',
        },
      ),
      branch((j) => now.answerAt(j, 'sag') === 'sags', purged(`${prefix}again-`, 'While purged, once more')),
    ]),
  ];
};

/** Watched with its supply on: so the seat shows what it lets by. */
const watched = (prefix: string, phase: Phase): readonly Node[] => {
  const wait = (key: string, seconds: number): Node =>
    s.wait(key, 'Watched', 'Hands off, supply on. Let it stand.', seconds, {
      needs: { supply: 'full' },
      why: 'With the supply shut a leaking seat shows nothing.',
      needed: true,
    });
  return [
    branch(
      (j) => isFresh(j.plan),
      [wait(`${prefix}watch-fresh`, WATCH_S.fresh)],
      [wait(`${prefix}watch`, WATCH_S.used)],
    ),
    s.read(`${prefix}stood`, 'stood', 'Where it stands after', 'Hands off still: read where it stands now.', {
      phase,
      watched: true,
      needs: { supply: 'full' },
      needed: true,
      instead: UNSTEADY,
    }),
    branch(
      (j) => (now.crept(j) ?? 0) > j.agreement('stood'),
      [
        s.observe(
          `${prefix}rises`,
          'Does it rise on?',
          'It crept. Watch for as long again: does it go on?',
          { stands: { title: 'It stands now', advised: true }, rises: 'It rises on' },
          {
            seconds: WATCH_S.used,
            needs: { supply: 'full' },
            why: 'A creep that stops is a fresh seat; one that goes on is a leak.',
            needed: true,
          },
        ),
      ],
    ),
  ];
};

/** All of it, from nothing to full supply and back to low. */
const look = (prefix: string, phase: Phase): readonly Node[] => [
  ...up(prefix, 'low', 'low'),
  goOn([
    readLow(`${prefix}low`, phase, 'At low supply'),
    goOn([
      ...up(prefix, 'full', 'full'),
      goOn([
        ...tight(prefix),
        goOn([
          ...dips(prefix, phase),
          goOn([
            ...watched(prefix, phase),
            goOn([
              s.confirm(
                `${prefix}down`,
                'Down to low',
                (j) => `Supply shut. Purge down to ${supply(j, 'low')}, or the bench to it.`,
                {
                  sets: { supply: 'low' },
                  hands: { supply: 1, purge: 4 },
                  cautions: ['ears'],
                },
              ),
              readLow(`${prefix}low-again`, phase, 'At low supply, again'),
              until(
                (j) => !now.differs(j),
                [readLow(`${prefix}low-more`, phase, 'At low supply, once more')],
              ),
            ]),
          ]),
        ]),
      ]),
    ]),
  ]),
];

/** What to do after the readings, with its reason. */
export function advisedDecision(job: JobView): Decided {
  const out = (code: Decided['code'], why: string): Decided => ({ code, say: why });
  if (now.allInside(job)) return out('leave', 'Everything stands where it should. Leave it as found.');
  if ((now.crept(job) ?? 0) > (job.limits('creep', 'found').upper ?? Infinity))
    return out('replace', 'It crept more than a seat in order does: no turn mends that.');
  return out('adjust', 'Outside its window, or not surely inside: adjust, bled.');
}

const bled = (key: string): Node =>
  s.confirm(key, 'Shut and bled', 'Supply shut, bleed open: both needles rest, a purge gives nothing.', {
    cautions: ['dead'],
    sets: { supply: 'shut', line: 'bled' },
    hands: { supply: 0, bleed: 1, purge: 0 },
  });

const byScrew: readonly Node[] = [
  branch(
    (j) => !now.turned(j),
    [
      s.confirm('cap-off', 'Cap off, marked', 'Cap off, key in. Mark the screw against the body.', {
        cautions: ['dead'],
        needs: { line: 'bled' },
        sets: { cap: 'off' },
        hands: { cap: 0 },
        permit: PERMIT,
        tools: ['the maker’s key', 'marker'],
      }),
    ],
  ),
  s.turn('turn-screw', 'screw', 'Spring screw', 'Spring screw.', {
    cautions: ['dead'],
    needs: { line: 'bled', supply: 'shut', cap: 'off' },
    permit: PERMIT,
    tools: ['the maker’s key'],
  }),
];

const byShims: readonly Node[] = [
  branch(
    (j) => !now.turned(j),
    [
      s.observe(
        'shims',
        'Cap and piston out',
        (j) =>
          `Cap and piston out by the manual. Measure the shims inside: ${(inside(j) / 100).toFixed(2)} mm, as planned?`,
        { planned: { title: 'As planned', advised: true }, other: 'Another: now in the plan' },
        {
          cautions: ['dead', 'guide'],
          needs: { line: 'bled' },
          sets: { cap: 'off' },
          hands: { cap: 0 },
          permit: PERMIT,
          asksPlan: true,
        },
      ),
    ],
  ),
  s.turn(
    'turn-pack',
    'pack',
    'Shim pack',
    (j) => {
      const pack = bestPack(j);
      return pack ? `Pack to ${sayPack(pack)}. That is` : 'Leave the pack as it is:';
    },
    {
      cautions: ['dead', 'guide'],
      needs: { line: 'bled', supply: 'shut', cap: 'off' },
      permit: PERMIT,
      amount: (j) => bestPack(j)?.by ?? 0,
      why: 'Never more than three, whatever their thickness.',
    },
  ),
  s.confirm('home', 'Piston home', 'Piston home through the guide, cap to its torque.', {
    cautions: ['guide'],
    sets: { cap: 'tight' },
    hands: { cap: 1 },
    tools: ['guide', 'torque wrench'],
  }),
];

const adjusting = (plan: Plan): Node =>
  until(
    (j) => now.landed(j) || now.hopeless(j),
    [
      branch(now.toTurn, [
        bled('bled-to-turn'),
        branch(
          (j) => isPiston(j.plan) && j.fact('cap') === 'tight' && now.turned(j),
          [
            s.confirm('open-again', 'Cap and piston out', 'Cap and piston out by the manual once more.', {
              cautions: ['dead', 'guide'],
              needs: { line: 'bled' },
              sets: { cap: 'off' },
              hands: { cap: 0 },
            }),
          ],
        ),
        ...(isPiston(plan) ? byShims : byScrew),
      ]),
      ...up('adjust-', 'full', 'rise'),
      goOn([
        s.count('purges', 'Purge four times', 'Purge four times, slowly.', 4, {
          hands: { purge: 4 },
          cautions: ['ears'],
        }),
        s.read('adjust-full', 'ipFull', 'At full supply', 'Let it stand ten seconds, then read.', {
          phase: 'adjust',
          watched: true,
          needs: { supply: 'full' },
          hands: { purge: 0 },
          instead: UNSTEADY,
        }),
      ]),
    ],
  );

/** Locked, settled by so many cycles, and read anew from nothing: only that proves it. */
const lockAndProve: readonly Node[] = [
  bled('bled-to-lock'),
  s.confirm('cap-tight', 'Cap on, tight', 'Cap or sealed chamber on, to its torque.', {
    cautions: ['dead'],
    sets: { cap: 'tight' },
    hands: { cap: 1 },
    why: 'A cover may press on the setting: proved with it on.',
  }),
  upTo('settle-full-up', 'full', 'Up to settle it'),
  goOn([
    branch(
      (j) => isFresh(j.plan),
      [
        s.count('settle-fresh', 'Fifty purges', 'Purge fifty times, slowly.', 50, {
          hands: { purge: 50 },
          cautions: ['ears'],
        }),
      ],
      [
        s.count('settle', 'Ten purges', 'Purge ten times, slowly.', 10, {
          hands: { purge: 10 },
          cautions: ['ears'],
        }),
      ],
    ),
    bled('bled-to-prove'),
    ...look('left-', 'left'),
  ]),
];

const breathing = (plan: Plan): Pick<Parameters<typeof standard>[1], 'asFound' | 'adjust' | 'prove'> => ({
  asFound: [
    branch(
      (j) => !now.stopped(j),
      [
        whatRelieves(
          s,
          {
            'screw-in': 'A relief of its own',
            gauge: 'A gauge with a relief',
            second: 'A downstream second stage',
          },
          { cautions: ['relief', 'whip'], hands: { relief: 1, bleed: 0 } },
        ),
        branch((j) => j.finds, look('found-', 'found'), look('first-', 'adjust')),
        branch(
          (j) => j.finds && !now.stopped(j) && now.decided(j) === undefined,
          [decision(s, advisedDecision)],
        ),
      ],
    ),
  ],
  adjust: [
    branch(
      (j) => now.decided(j) === 'adjust' && !now.stopped(j),
      [
        until(
          (j) => now.proved(j) || now.hopeless(j),
          [adjusting(plan), branch((j) => !now.hopeless(j), lockAndProve)],
        ),
      ],
    ),
    branch(
      (j) => now.turned(j) && !now.stopped(j),
      [
        s.observe(
          'seconds',
          'Its second stages',
          'Its pressure was moved. Where are its second stages read at it?',
          { here: { title: 'Here, next', advised: true }, later: 'Later: out of use until then' },
        ),
      ],
    ),
  ],
});

/** The way through the job. */
export const walk = (plan: Plan): Procedure =>
  isIndustrial(plan)
    ? industrial
    : standard(parts, {
        cautions: 'Read the cautions. Are you trained and authorised for this make?',
        first: [
          s.observe(
            'look',
            'Looked over',
            'Nothing connected. Look at filter, body, hoses and cap.',
            {
              clean: { title: 'Clean, dry', advised: true },
              filter: 'Filter grey, green or red: noted',
              wet: 'Wet inside, or cracked',
              ...((read(plan).plate.oxygen ?? 0) > RICH ? { soiled: 'Grease or oil' } : {}),
            },
            { needs: { cautions: 'read' } },
          ),
        ],
        zeros: [
          {
            slot: 'ip',
            title: 'Zero of the gauge',
            say: 'Bleed open, the gauge as it will hang: read its zero.',
            hands: { bleed: 1, supply: 0 },
            tools: ['gauge with bleed and relief', 'supply at low and at full'],
            again: { say: 'Bleed open, gauge as it hung: read its zero once more.' },
          },
        ],
        ...breathing(plan),
        close: [bled('bled')],
        last: [
          s.confirm(
            'tag',
            'Off, capped, tagged',
            (j) =>
              now.stopped(j) || now.stuck(j)
                ? 'Gauge off, ports plugged, dry cap on. Tag: out of use, and why.'
                : 'Gauge off, ports plugged, dry cap on. Tag: pressures, date, when next.',
            { hands: { cap: 1 } },
          ),
        ],
      });

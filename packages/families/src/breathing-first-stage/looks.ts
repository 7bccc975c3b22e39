// What is looked at, listened to and read, as found and once more as left; walk.ts says in which order, and what is turned between.
import { branch, until, type JobView, type Node, type Phase } from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';
import { BREATHING_PERMIT } from '../shared/breathing.js';
import { isFresh, read, s, SUPPLY, WATCH_S } from './parts.js';
import { stopOf } from './plan.js';
import * as now from './state.js';

export const PERMIT = BREATHING_PERMIT.id;
const say = (p: number): string => showWithUnit(p, { unit: 'psi', step: 1 });
const supply = ({ plan }: Pick<JobView, 'plan'>, at: 'low' | 'full'): string => {
  const { supplyLow = SUPPLY.low, supplyFull = SUPPLY.full } = read(plan).plate;
  return say(at === 'low' ? supplyLow : supplyFull);
};
export const pastStop = (j: JobView): string => `Past ${say(stopOf(j.plan))}: shut and bleed.`;

/** Slowly up to a supply, the needle watched: the only way that pressure comes to it. */
export const upTo = (key: string, at: 'low' | 'full', title: string): Node =>
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
export const up = (prefix: string, at: 'low' | 'full', name: 'low' | 'full' | 'rise'): readonly Node[] => {
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
export const UNSTEADY = { rises: 'It rises on', never: 'Never twice the same' };

export const goOn = (then: readonly Node[]): Node => branch((j) => !now.stopped(j), then);

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
      instead: { stays: { title: 'It stays down', withPressure: true } },
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
export const look = (prefix: string, phase: Phase): readonly Node[] => [
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

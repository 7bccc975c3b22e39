import {
  branch,
  until,
  type JobView,
  type Node,
  type Plan,
  type Procedure,
} from '@firm-needle/core/procedure';
import { standard } from '../define/index.js';
import { whatRelieves } from '../shared/breathing.js';
import { decision, type Decided } from '../shared/decision.js';
import { industrial } from './industrial.js';
import { isFresh, isIndustrial, isPiston, parts, read, RICH, s } from './parts.js';
import { bestPack, inside, sayPack } from './shims.js';
import * as now from './state.js';
import { goOn, look, PERMIT, UNSTEADY, up, upTo } from './looks.js';

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

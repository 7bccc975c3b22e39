import {
  branch,
  until,
  type JobView,
  type Node,
  type Phase,
  type Plan,
  type Procedure,
} from '@firm-needle/core/procedure';
import { standard } from '../define/index.js';
import { whatRelieves } from '../shared/breathing.js';
import { decision, type Decided } from '../shared/decision.js';
import { DRAWS, isFixed, parts, s } from './parts.js';
import * as now from './state.js';
import { PERMIT, pastStop, goOn, bled, tightCase, readIp, listened, ready, draw, drawn } from './looks.js';

export function advisedDecision(job: JobView): Decided {
  const out = (code: Decided['code'], say: string): Decided => ({ code, say });
  if (now.allInside(job)) return out('leave', 'It opens where it should. Leave it as found.');
  return out('adjust', 'Outside its range, or not surely inside: adjust, the purge held.');
}

/** The orifice moves with the purge held alone, and is heard after. */
const held = {
  needs: { tool: 'in', gauge: 'off', supply: 'on' },
  hands: { shutoff: 0, draw: 0, thumb: 1 },
} as const;
const silenced = (key: string, title: string, say: string): Node =>
  s.turn(key, 'orifice', title, say, {
    ...held,
    permit: PERMIT,
    cautions: ['seat', 'low-range'],
    tools: ['in-line tool'],
    seek: {
      channel: 'hiss',
      to: 0,
      title: 'Silent',
      way: 1,
      by: 1 / 8,
      settles_s: 1,
      most: 1,
      ended: 'A full turn, and it hisses',
    },
  });

/** The lever follows the orifice: to the hiss, and half a turn back. */
const lever = (prefix: string, when: (j: JobView) => boolean): Node =>
  branch(when, [
    s.confirm(
      `${prefix}open-side`,
      'Side open',
      'Suction gauge off. Side open by the manual, wrench on the nut, its stem held.',
      {
        cautions: ['low-range'],
        needs: { gauge: 'off' },
        sets: { side: 'open' },
        hands: { shutoff: 0, draw: 0, side: 1, thumb: 0 },
        permit: PERMIT,
        tools: ['small wrench'],
      },
    ),
    branch(
      (j) => isFixed(j.plan) && now.hissing(j),
      [
        s.turn(`${prefix}nut-silence`, 'nut', 'Nut back', 'Nut back by half flats until it is silent:', {
          permit: PERMIT,
          needs: { gauge: 'off', supply: 'on', side: 'open' },
          seek: {
            channel: 'hiss',
            to: 0,
            title: 'Silent',
            way: -1,
            by: 1 / 12,
            settles_s: 1,
            most: 1.5,
            ended: 'It hisses still',
          },
        }),
      ],
    ),
    branch(
      (j) => !now.bent(j) && !now.seatCut(j),
      [
        s.turn(
          `${prefix}nut-hiss`,
          'nut',
          'In until it just hisses',
          'Gas on. The nut in, slowly, until it just hisses:',
          {
            permit: PERMIT,
            needs: { gauge: 'off', supply: 'on', side: 'open' },
            seek: {
              channel: 'hiss',
              to: 1,
              title: 'It hisses',
              way: 1,
              by: 1 / 12,
              settles_s: 1,
              most: 2,
              ended: 'Its end, and no hiss',
            },
          },
        ),
        branch(
          (j) => !now.bent(j),
          [
            s.turn(`${prefix}nut-back`, 'nut', 'Half a turn back', 'Half a turn back:', {
              permit: PERMIT,
              amount: () => -1 / 2,
              needs: { supply: 'on', side: 'open' },
            }),
            s.observe(
              `${prefix}strong`,
              'Purge strong, then silent?',
              'One purge with the thumb: strong, and silent after?',
              { yes: { title: 'Strong, silent', advised: true }, weak: 'Weak', hisses: 'It hisses' },
              { hands: { purge: 1 }, needs: { supply: 'on' }, cautions: ['ears'] },
            ),
            branch(
              (j) => now.answerAt(j, 'strong') === 'weak',
              [
                s.turn(`${prefix}nut-up`, 'nut', 'Half a flat in', 'Half a flat in:', {
                  permit: PERMIT,
                  amount: () => 1 / 12,
                }),
              ],
            ),
            branch(
              (j) => now.answerAt(j, 'strong') === 'hisses',
              [
                s.turn(`${prefix}nut-down`, 'nut', 'Half a flat out', 'Half a flat out:', {
                  permit: PERMIT,
                  amount: () => -1 / 12,
                }),
              ],
            ),
          ],
        ),
      ],
    ),
  ]);

const byOrifice: readonly Node[] = [
  branch(
    (j) => j.fact('tool') !== 'in',
    [
      bled('bled-for-tool'),
      s.confirm(
        'tool-in',
        'In-line tool in',
        'In-line tool between hose and inlet, short of full depth where the manual says so. Mark the orifice.',
        {
          cautions: ['tool', 'dead'],
          needs: { line: 'bled' },
          sets: { tool: 'in' },
          hands: { tool: 1 },
          permit: PERMIT,
          tools: ['in-line tool', 'marker'],
        },
      ),
      s.observe(
        'back-up',
        'Back up',
        (j) => `Suction gauge off. Open slowly: its line as before? ${pastStop(j)}`,
        { same: { title: 'As before', advised: true }, other: 'Another pressure' },
        {
          needs: { relief: 'inline', gauge: 'off' },
          sets: { line: 'closed', supply: 'on' },
          hands: { bleed: 0, supply: 1 },
          cautions: ['slow', 'relief'],
          watches: 'ip',
        },
      ),
    ],
  ),
  branch(now.hissing, [
    silenced('seek-silent', 'In until it is silent', 'Purge held, an eighth in, let go, listen:'),
  ]),
  branch(now.toTurn, [
    s.turn('turn-orifice', 'orifice', 'Orifice', 'Thumb holds the purge.', {
      ...held,
      permit: PERMIT,
      cautions: ['seat'],
      tools: ['in-line tool'],
    }),
  ]),
  goOn([
    s.observe(
      'silent',
      'Silent?',
      'Let the purge go and listen.',
      { silent: { title: 'Silent', advised: true }, hisses: 'It hisses' },
      { seconds: 10, hands: { thumb: 0 }, needs: { supply: 'on' } },
    ),
    lever('between-', (j) => now.leverBetween(j) && !now.stopped(j)),
    branch(now.hissing, [
      silenced('seek-again', 'In until it is silent', 'Purge held, an eighth in, let go, listen:'),
    ]),
  ]),
];

const adjustDraws = (key: string): readonly Node[] => [
  ready(`${key}ready`),
  draw(`${key}draw-1`, 'adjust', 'Draw'),
  draw(`${key}draw-2`, 'adjust', 'Draw, once more'),
  s.confirm(`${key}off`, 'Gauge off', 'Suction gauge shut off.', {
    cautions: ['low-range'],
    sets: { gauge: 'off' },
    hands: { draw: 0, shutoff: 0 },
  }),
];

const closeUp: readonly Node[] = [
  bled('bled-to-close'),
  s.confirm('closed-up', 'Closed up', 'Tool out, hose tight, cover and plug in with their seals.', {
    cautions: ['dead'],
    sets: { tool: 'out', side: 'closed' },
    hands: { tool: 0, side: 0 },
    why: 'What is read with its side open is light, or nothing: proved closed.',
  }),
  ...tightCase('left-'),
  goOn([
    readIp('left-ip', 'left', 10),
    goOn([
      ...listened('left-'),
      goOn([
        branch(
          (j) => !now.hissing(j) && !now.weak(j),
          [ready('left-ready'), ...drawn('left-', 'left', DRAWS.left)],
        ),
      ]),
    ]),
  ]),
];

const adjusting: Node = until(
  (j) => now.proved(j) || now.hopeless(j),
  [
    branch(
      (j) => !isFixed(j.plan) && (now.hissing(j) || !now.landed(j)),
      [
        until(
          (j) => now.hopeless(j) || (!now.hissing(j) && now.landed(j)),
          [
            branch((j) => now.hissing(j) || now.toTurn(j), byOrifice),
            goOn([branch((j) => !now.hissing(j), adjustDraws('adjust-'))]),
          ],
        ),
      ],
    ),
    goOn([branch((j) => !now.hopeless(j), [lever('', now.leverDue), goOn(closeUp)])]),
  ],
);

const first = (prefix: string, phase: Phase): readonly Node[] => [
  ...tightCase(prefix),
  goOn([
    readIp(`${prefix}ip`, phase),
    goOn([
      ...listened(prefix),
      goOn([
        branch(
          (j) => !now.hissing(j) && !now.weak(j),
          [ready(`${prefix}ready`), ...drawn(prefix, phase, DRAWS.found)],
        ),
      ]),
    ]),
  ]),
];

/** The way through the job. */
export const walk = (_: Plan): Procedure =>
  standard(parts, {
    cautions: 'Read the cautions. Are you trained and authorised for this make?',
    first: [
      s.observe(
        'look',
        'Looked over',
        'Mouthpiece, cover, exhaust valve, hose: how are they?',
        {
          sound: { title: 'Sound', advised: true },
          mouthpiece: 'Mouthpiece changed',
          sand: 'Sand or salt: washed',
          cracked: 'Cracked',
        },
        { needs: { cautions: 'read' }, cautions: ['health'] },
      ),
    ],
    zeros: [
      {
        slot: 'suction',
        title: 'Zero of the suction gauge',
        say: 'Gauge upright, its hose open: read its zero.',
        hands: { shutoff: 0, draw: 0 },
        tools: ['low-range suction gauge', 'relieved gauge on the hose', 'syringe on a tee'],
        again: { say: 'Gauge upright, its hose open: read its zero once more. Moved far, it was blown.' },
      },
      {
        slot: 'ip',
        title: 'Zero of the line’s gauge',
        say: 'Bleed open: read the zero of the gauge on the hose.',
        hands: { bleed: 1, supply: 0 },
        sets: { supply: 'shut', line: 'bled' },
        again: { say: 'Bleed open: its zero once more.' },
      },
    ],
    asFound: [
      branch(
        (j) => !now.stopped(j),
        [
          whatRelieves(
            s,
            { 'screw-in': 'A relief of its own', gauge: 'A gauge with a relief' },
            { cautions: ['relief'], hands: { relief: 1, bleed: 0 } },
          ),
          branch((j) => j.finds, first('found-', 'found'), first('first-', 'adjust')),
          branch(
            (j) => j.finds && !now.stopped(j) && now.decided(j) === undefined,
            [decision(s, advisedDecision)],
          ),
        ],
      ),
    ],
    adjust: [branch((j) => now.decided(j) === 'adjust' && !now.stopped(j), [adjusting])],
    close: [bled('bled')],
    last: [
      s.confirm('tag', 'Tagged', (j) =>
        now.stopped(j) || now.stuck(j)
          ? 'Knob and vane as found, dust cap. Tag: out of use, and why.'
          : 'Knob and vane as found, dust cap. Tag: what it opens at, its line, date, when next.',
      ),
    ],
  });

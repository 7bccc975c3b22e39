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
import { DRAWS, isFixed, parts, s } from './parts.js';
import { stopOf } from './plan.js';
import * as now from './state.js';

const PERMIT = BREATHING_PERMIT.id;
const pastStop = (j: JobView): string =>
  `Past ${showWithUnit(stopOf(j.plan), { unit: 'psi', step: 1 })}: shut.`;
const goOn = (then: readonly Node[]): Node => branch((j) => !now.stopped(j), then);

const bled = (key: string): Node =>
  s.confirm(key, 'Shut and bled', 'Suction gauge off first. Supply shut, purge until nothing comes.', {
    cautions: ['low-range', 'dead'],
    sets: { gauge: 'off', supply: 'shut', line: 'bled' },
    hands: { draw: 0, shutoff: 0, thumb: 0, supply: 0, bleed: 1, purge: 0 },
  });

/** A case that lets air in reads light, or never opens: no effort is read through a leak. */
const tightCase = (prefix: string): readonly Node[] => {
  const holds = (key: string, title: string): Node =>
    s.observe(
      `${prefix}${key}`,
      title,
      'Line vented, bleed shut. Draw to the least of its range and shut off. Does it hold?',
      { holds: { title: 'It holds', advised: true }, sinks: 'It sinks' },
      {
        seconds: 10,
        needs: { supply: 'shut' },
        sets: { gauge: 'on', side: 'closed' },
        hands: { side: 0, shutoff: 1, draw: 2 },
        cautions: ['low-range'],
        why: 'A fifth lost in ten seconds is little; more is a leak.',
      },
    );
  return [
    holds('case', 'Case holds'),
    branch(
      (j) => now.answerAt(j, 'case') === 'sinks' && !now.caseLeaks(j),
      [
        s.observe(
          `${prefix}case-which`,
          'Which of them leaks?',
          'Look at exhaust valve, diaphragm, cover ring: cleaned or changed.',
          { exhaust: 'Exhaust valve', diaphragm: 'Diaphragm', ring: 'Cover ring', none: 'None of them' },
          { permit: PERMIT, hands: { draw: 0, shutoff: 0, case: 1 }, sets: { gauge: 'off' } },
        ),
        branch((j) => !now.caseLeaks(j), [holds('case-again', 'Case holds, once more')]),
      ],
    ),
  ];
};

/** What its line stands at: its first stage comes first. */
const readIp = (key: string, phase: Phase, times: 4 | 10 = 4): Node =>
  s.read(
    key,
    'ip',
    'Intermediate pressure',
    (j) =>
      `Suction gauge off. Open slowly, purge ${times === 4 ? 'four' : 'ten'} times, read the line. ${pastStop(j)}`,
    {
      phase,
      watched: true,
      needs: { relief: 'inline' },
      sets: { gauge: 'off', supply: 'on', line: 'closed' },
      hands: { draw: 0, shutoff: 0, bleed: 0, supply: 1, purge: times },
      cautions: ['slow', 'relief', 'low-range', 'ears'],
      instead: { climbs: 'It climbs on' },
    },
  );

/** Silent at rest, a strong purge. What hisses late has a first stage that climbs. */
const listened = (prefix: string): readonly Node[] => [
  s.observe(
    `${prefix}listen`,
    'Listened to',
    'Hands off for a minute, listen. Then one short purge.',
    {
      silent: { title: 'Silent, strong purge', advised: true },
      hisses: 'It hisses at once',
      late: 'It hisses late',
      weak: 'The purge is weak',
    },
    { seconds: 60, needs: { supply: 'on', gauge: 'off' }, hands: { purge: 1 }, cautions: ['ears'] },
  ),
  branch(
    (j) => now.answerAt(j, 'listen') === 'late',
    [
      s.observe(
        `${prefix}ip-risen`,
        'Has its line risen?',
        'Read the line once more: has it risen since?',
        { risen: 'It has risen', same: 'The same: it leaks itself' },
        { needs: { supply: 'on' }, watches: 'ip' },
      ),
    ],
  ),
];

const ready = (key: string): Node =>
  s.confirm(
    key,
    'Gauge on',
    'Knob out, vane at minus, suction gauge on. No purge, no breath out from here.',
    {
      cautions: ['low-range'],
      needs: { supply: 'on' },
      sets: { gauge: 'on' },
      hands: { purge: 0, thumb: 0, shutoff: 1 },
    },
  );

const draw = (key: string, phase: Phase, title: string): Node =>
  s.read(
    key,
    'effort',
    title,
    'Draw slowly until it opens, heard and seen on the line: the highest suction. Case level, alike each time.',
    {
      phase,
      needs: { gauge: 'on', supply: 'on', side: 'closed' },
      hands: { draw: 1 },
      why: 'Opening takes three seconds or more: a quick draw reads low.',
      needed: true,
      instead: { never: 'It never opens' },
    },
  );
const drawn = (prefix: string, phase: Phase, times: number): readonly Node[] => [
  ...Array.from({ length: times }, (_, i) =>
    draw(`${prefix}draw-${i + 1}`, phase, `Draw ${i + 1} of ${times}`),
  ),
  until((j) => !now.differs(j), [draw(`${prefix}draw-more`, phase, 'One draw more')]),
];

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

import {
  branch,
  unseenAbove,
  until,
  type JobView,
  type Node,
  type Phase,
  type Plan,
  type Procedure,
} from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';
import { gathered, standard, type AgainWords, type NamesIn } from '../define/index.js';
import { endImpairment, impair } from '../shared/impairment.js';
import { unproved } from './findings.js';
import { parts, read, s } from './parts.js';
import * as now from './state.js';

/** The valve catches up with its pilot in this long [common practice, no source]. */
const CATCHES_UP_S = 15;
const MOST_TRIMS = 3;

const opened = (job: JobView): string => {
  if (job.fact('flow') === 'enough') return '';
  const least = read(job.plan).plate.leastFlow;
  return `Open the draw slowly to at least ${least === undefined ? 'the least flow' : showWithUnit(least, { unit: 'gpm', step: 1 })}. `;
};

/** With enough drawn, which is opened first where it is shut. */
const drawn = {
  needs: { inlet: 'open' },
  sets: { flow: 'enough' },
  hands: { draw: 1 },
} as const;

const readFlowing = (key: string, phase: Phase, title: string): Node =>
  s.read(
    key,
    'flowing',
    title,
    (j) => `${opened(j)}With water flowing, wait until the outlet gauge is firm and read it.`,
    {
      ...drawn,
      phase,
      why: 'The valve follows its pilot slowly.',
      instead: { hunts: 'It swings and never settles' },
    },
  );

const readLockUp = (key: string, phase: Phase, title: string): Node =>
  s.read(
    key,
    'lockUp',
    title,
    'Shut the draw slowly. With nothing drawn, wait until the outlet gauge is firm: lock-up.',
    {
      phase,
      why: 'A few psi over flowing is what the seat needs to seal.',
      cautions: ['downstream'],
      sets: { flow: 'shut' },
      hands: { draw: 0 },
      instead: { creeps: 'It goes on rising' },
    },
  );

const flowOn = (key: string): Node => s.confirm(key, 'Draw open', (j) => opened(j), drawn);

const whyHunts = (key: string): Node =>
  branch(
    (j) => now.hunts(j) && !now.unexplained(j),
    [
      s.observe(
        `${key}-why-hunts`,
        'Why does it swing?',
        'Bleed cover and tubing once more, and see that enough is drawn. What was it?',
        {
          air: { title: 'Air came: bled again', sets: { bled: 'yes' } },
          flow: { title: 'Flow was below the least: more drawn', sets: { draws: 'more' } },
          none: 'Nothing found',
        },
        {
          why: 'Air makes it slow and elastic; too little flow makes it chatter. Nothing is turned while it swings.',
        },
      ),
    ],
  );

const known = (job: JobView): boolean =>
  job.readings('flowing').some((r) => r.kept.body.at.phase === 'found');
const done = (job: JobView): boolean => job.rests('flowing') && job.proved('flowing');
const hopeless = (job: JobView): boolean =>
  now.unexplained(job) || now.rises(job) || (known(job) && !done(job) && now.refused(job));
const toTurn = (job: JobView): boolean =>
  !job.rests('flowing') &&
  !job.due('flowing') &&
  !now.hunts(job) &&
  !now.still(job) &&
  !now.inDoubt(job) &&
  job.advice('pilot').stop === null;
const trims = (job: JobView): number => job.state.turns.filter((t) => t.body.adjuster !== 'pilot').length;
const quiet = (job: JobView): boolean => now.answerAt(job, 'cycled') === 'quiet' || trims(job) >= MOST_TRIMS;

const followsNot = branch(
  (j) => now.still(j) && !now.unexplained(j),
  [
    s.turn(
      'put-back',
      'pilot',
      'Back as found',
      'It does not follow. Before anything is opened, put the screw back as found:',
      {
        why: 'What holds the pilot off would let the outlet jump by all that was turned.',
        cautions: ['downstream'],
        amount: (j) => -j.netTurns('pilot'),
        toMark: true,
      },
    ),
    s.observe(
      'why-still',
      'Why does it not follow?',
      'The screw turns and the outlet stays. Look at every cock and at the pilot’s strainer. What was it?',
      {
        cock: { title: 'A cock was shut: opened', sets: { cocks: 'open' } },
        strainer: { title: 'The strainer was blocked: cleaned', sets: { strainer: 'clean' } },
        none: 'Nothing found',
      },
    ),
  ],
);

const adjusting = until(
  (j) => done(j) || hopeless(j),
  [
    followsNot,
    // Skipped, or read before something was mended: nobody knows how far over flowing it stands.
    branch(
      (j) => !hopeless(j) && unseenAbove(j, 'pilot', j.aims('pilot')) !== undefined,
      [readLockUp('adjust-lock-up', 'adjust', 'Lock-up before the turn'), flowOn('adjust-flow-again')],
    ),
    branch(toTurn, [
      branch(
        (j) => j.state.turns.length === 0,
        [
          s.confirm('mark', 'Pilot marked, lock nut loose', 'Mark the pilot screw and loosen its lock nut.', {
            tools: ['marker', 'wrench for the lock nut'],
          }),
        ],
      ),
      s.turn('turn-pilot', 'pilot', 'Pilot screw', 'Turn the pilot screw.', {
        cautions: ['downstream'],
        needs: { flow: 'enough' },
        tools: ['wrench for the lock nut'],
      }),
      s.wait('catch-up', 'Catches up', 'Let the valve catch up with its pilot.', CATCHES_UP_S),
    ]),
    branch((j) => !hopeless(j), [readFlowing('adjust-flowing', 'adjust', 'Flowing'), whyHunts('adjust')]),
  ],
);

/** Both agree with what was read before, or there is no more to be had from reading. */
const twice = (job: JobView): boolean =>
  (job.proved('flowing') && job.proved('lockUp')) ||
  job.readings('lockUp').filter((r) => r.kept.body.at.phase === 'left').length >= MOST_PROOFS;
const MOST_PROOFS = 5;

const trim = (code: 'surge' | 'hammer', screw: 'opening' | 'closing', title: string, say: string): Node =>
  branch(
    (j) => now.answerAt(j, 'cycled') === code,
    [s.turn(`trim-${code}`, screw, title, say, { amount: () => -0.5 })],
  );

const cycled = until(quiet, [
  s.count('cycle', 'Open and shut three times', 'Open and shut the draw three times and listen.', 3),
  s.observe('cycled', 'No surge, no hammer', 'Did it open without a surge and shut without hammer?', {
    quiet: { title: 'Quiet both ways', advised: true },
    surge: 'Surge on opening',
    hammer: 'Hammer on closing',
  }),
  trim('surge', 'opening', 'Open slower', 'Trim the opening speed:'),
  trim('hammer', 'closing', 'Close slower', 'Trim the closing speed:'),
]);

const zero = (
  slot: 'outlet' | 'inlet',
  title: string,
  again: string | AgainWords<NamesIn<typeof parts>>,
) => ({
  slot,
  title,
  say: `Vent the ${slot} gauge to air and read its zero.`,
  again,
  hands: { gauges: 0 },
  tools: ['two test gauges'],
});

const zeros = [
  zero('outlet', 'Outlet gauge zero', {
    title: 'Gauges off, outlet gauge zero',
    say: 'Leave the draw as the customer had it. Isolate and bleed both gauges, take them off, plug the ports. Read the zero of the outlet gauge.',
    cautions: ['stored'],
    sets: { flow: 'shut' },
    hands: { draw: 0, gauges: 0 },
  }),
  zero('inlet', 'Inlet gauge zero', 'Read the zero of the inlet gauge once more, vented to air.'),
];

/** In service nothing is moved before it was read: what stands wrong is to be found. */
const inService: readonly Node[] = [
  s.confirm(
    'noted',
    'Speed controls noted',
    'Count both speed controls from shut, note them, put them back. Note how each cock of the pilot circuit stands; move none.',
    { needs: { cautions: 'read' }, tools: ['small wrench'] },
  ),
  s.confirm('gauges-on', 'Gauges on', 'Open the gauge cocks slowly, with nothing drawn.', {
    cautions: ['stored'],
    sets: { inlet: 'open' },
    hands: { gauges: 1, inlet: 1, draw: 0 },
  }),
];

/** New or rebuilt: as it must stand before water is let in. */
const fresh: readonly Node[] = [
  s.confirm(
    'speeds',
    'Speed controls',
    'Couplings tight. Opening speed control three turns open from shut, closing control fully open.',
    { cautions: ['stored'], needs: { cautions: 'read' }, tools: ['small wrench'] },
  ),
  s.confirm('cocks', 'Cocks open', 'Open the isolating cocks of the pilot circuit.', { joins: true }),
  s.confirm(
    'bleed',
    'Inlet cracked, air bled',
    'Crack the inlet with nothing drawn. Bleed at the bonnet plug and each fitting until clear water runs; close the bleeds.',
    {
      why: 'Air makes the valve slow and elastic.',
      cautions: ['stored'],
      sets: { inlet: 'open' },
      hands: { gauges: 1, inlet: 1, draw: 0 },
    },
  ),
];

/** Set and proved, or found right. */
const inOrder = (j: JobView): boolean => !hopeless(j) && gathered((found) => unproved(j, found)).length === 0;
const feedsFire = (plan: Plan): boolean => read(plan).choice.feeds === 'fire';

export const walk = (plan: Plan): Procedure =>
  standard(parts, {
    cautions: 'Read the cautions, and ask what hangs on the outlet.',
    first: feedsFire(plan) ? [impair('fire')] : [],
    last: feedsFire(plan) ? [endImpairment('fire', 'The valve', inOrder)] : [],
    zeros,
    asFound: [
      branch((j) => j.finds, inService, fresh),
      s.read('read-inlet', 'inlet', 'Inlet', (j) => `${opened(j)}Read the inlet gauge with water flowing.`, {
        ...drawn,
        phase: 'found',
      }),
      until(
        (j) => known(j) || now.unexplained(j),
        [readFlowing('found-flowing', 'found', 'As found: flowing'), whyHunts('found')],
      ),
    ],
    adjust: [
      branch(
        (j) => !hopeless(j),
        [
          readLockUp('found-lock-up', 'found', 'As found: lock-up'),
          // One reading may have been of the inlet: it is looked at once more before a seat is blamed, or anything is turned.
          branch(now.standsAtInlet, [
            s.observe(
              'found-creep',
              'Climbs to the inlet',
              'Lock-up stands where the inlet stands. Draw a little, shut it slowly, and watch the outlet gauge for a minute.',
              { stands: 'It stands lower', rises: { title: 'It climbs there again', advised: true } },
              { why: 'A seat that leaks lets the outlet come up to the inlet.', seconds: 60, needed: true },
            ),
            branch(
              (j) => !now.creeps(j),
              [readLockUp('sure-lock-up', 'found', 'As found: lock-up, once more')],
            ),
          ]),
          branch((j) => !done(j) && !hopeless(j), [branch(toTurn, [flowOn('adjust-flow')]), adjusting]),
        ],
      ),
    ],
    prove: [
      branch(
        (j) => !hopeless(j),
        [
          branch(
            (j) => j.state.turns.length > 0,
            [
              s.confirm(
                'lock-nut',
                'Lock nut tight',
                'Pilot lock nut tight, speed controls locked. Locking may move it: both are read again.',
                { tools: ['wrench for the lock nut'] },
              ),
            ],
          ),
          readLockUp('left-lock-up', 'left', 'Lock-up'),
          s.observe(
            'creep',
            'Stays locked up',
            'Watch the outlet gauge for a minute with nothing drawn.',
            { stands: { title: 'It stands', advised: true }, rises: 'It rises on' },
            { why: 'A rise that goes on is a seat that leaks.', seconds: 60, needed: true },
          ),
          branch(
            (j) => !now.creeps(j),
            [
              until(twice, [
                readFlowing('left-flowing', 'left', 'Flowing again'),
                readLockUp('again-lock-up', 'left', 'Lock-up again'),
              ]),
              cycled,
            ],
          ),
        ],
      ),
    ],
    close: [],
  });

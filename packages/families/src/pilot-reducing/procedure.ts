import {
  branch,
  until,
  type Choice,
  type JobView,
  type Node,
  type Procedure,
  type ReadStep,
} from '@firm-needle/core/procedure';
import * as now from './state.js';

const ALL_CAUTIONS = ['stored', 'entry', 'downstream', 'fire', 'manual'] as const;
type Phase = 'found' | 'adjust' | 'left';
/** The valve catches up with its pilot in this long [common practice, no source]. */
const CATCHES_UP_S = 15;
const MOST_TRIMS = 3;

const readFlowing = (key: string, phase: Phase, title: string): ReadStep => ({
  kind: 'read',
  key,
  phase,
  title,
  say: 'With water flowing, wait until the outlet gauge is firm and read it.',
  why: 'The valve follows its pilot slowly.',
  setting: 'flowing',
  slot: 'outlet',
  catch: 'firm',
  needs: { flow: 'enough' },
  instead: [{ code: 'hunts', title: 'It swings and never settles' }],
});

const readLockUp = (key: string, phase: Phase, title: string): readonly Node[] => [
  {
    kind: 'confirm',
    key: `${key}-shut`,
    title: 'Draw shut',
    say: 'Shut the draw slowly.',
    cautions: ['downstream'],
    sets: { flow: 'shut' },
    hands: { draw: 0 },
  },
  {
    kind: 'read',
    key,
    phase,
    title,
    say: 'Nothing drawn: wait until the outlet gauge is firm and read lock-up.',
    why: 'A few psi over flowing is what the seat needs to seal.',
    setting: 'lockUp',
    slot: 'outlet',
    catch: 'firm',
    needs: { flow: 'shut' },
    instead: [{ code: 'creeps', title: 'It goes on rising' }],
  },
];

const flowOn = (key: string): Node => ({
  kind: 'confirm',
  key,
  title: 'Draw open',
  say: 'Open the draw slowly, above the least flow.',
  needs: { inlet: 'open' },
  sets: { flow: 'enough' },
  hands: { draw: 1 },
});

const HUNT_CAUSES: readonly Choice[] = [
  { code: 'air', title: 'Air came: bled again', sets: { bled: 'yes' } },
  { code: 'flow', title: 'Flow was below the least: more drawn', sets: { draws: 'more' } },
  { code: 'none', title: 'Nothing found' },
];
const STILL_CAUSES: readonly Choice[] = [
  { code: 'cock', title: 'A cock was shut: opened', sets: { cocks: 'open' } },
  { code: 'strainer', title: 'The strainer was blocked: cleaned', sets: { strainer: 'clean' } },
  { code: 'none', title: 'Nothing found' },
];

const whyHunts = (key: string): Node =>
  branch(
    (j) => now.hunts(j) && !now.unexplained(j),
    [
      {
        kind: 'observe',
        key: `${key}-why-hunts`,
        title: 'Why does it swing?',
        say: 'Bleed cover and tubing once more, and see that enough is drawn. What was it?',
        why: 'Air makes it slow and elastic; too little flow makes it chatter. Nothing is turned while it swings.',
        choices: HUNT_CAUSES,
      },
    ],
  );

const known = (job: JobView): boolean =>
  job.readings('flowing').some((r) => r.kept.body.at.phase === 'found');
const done = (job: JobView): boolean => job.landed('flowing') && job.proved('flowing');
const hopeless = (job: JobView): boolean =>
  now.unexplained(job) || now.creeps(job) || creptAway(job) || (known(job) && !done(job) && now.refused(job));
const creptAway = (job: JobView): boolean => job.state.observations.some((o) => o.body.answer === 'creeps');
const toTurn = (job: JobView): boolean =>
  !job.landed('flowing') &&
  !job.due('flowing') &&
  !now.hunts(job) &&
  !now.still(job) &&
  job.advice('pilot').stop === null;
const trims = (job: JobView): number => job.state.turns.filter((t) => t.body.adjuster !== 'pilot').length;
const quiet = (job: JobView): boolean => now.answerAt(job, 'cycled') === 'quiet' || trims(job) >= MOST_TRIMS;

export const procedure: Procedure = {
  body: [
    {
      kind: 'confirm',
      key: 'cautions',
      title: 'Cautions read',
      say: 'Read the cautions, ask what hangs on the outlet, and whether it feeds fire protection.',
      cautions: ALL_CAUTIONS,
      sets: { cautions: 'read' },
      act: 'Read and understood',
    },
    ...(['outlet', 'inlet'] as const).map((slot): Node => ({
      kind: 'zero',
      key: `zero-${slot}`,
      title: slot === 'outlet' ? 'Outlet gauge zero' : 'Inlet gauge zero',
      say: `Vent the ${slot} gauge to air and read its zero.`,
      slot,
      needs: { cautions: 'read' },
      hands: { gauges: 0 },
      tools: ['two test gauges'],
    })),
    {
      kind: 'confirm',
      key: 'speeds',
      title: 'Speed controls',
      say: 'Couplings tight. Opening speed control three turns open from shut, closing control fully open.',
      needs: { cautions: 'read' },
      tools: ['small wrench'],
    },
    {
      kind: 'confirm',
      key: 'cocks',
      title: 'Cocks open',
      say: 'Open the isolating cocks of the pilot circuit. Mark the pilot screw and loosen its lock nut.',
    },
    {
      kind: 'confirm',
      key: 'bleed',
      title: 'Inlet cracked, air bled',
      say: 'Crack the inlet with nothing drawn. Bleed at the bonnet plug and each fitting until clear water runs; close the bleeds.',
      why: 'Air makes the valve slow and elastic.',
      cautions: ['stored'],
      sets: { inlet: 'open' },
      hands: { gauges: 1, inlet: 1, draw: 0 },
    },
    flowOn('first-flow'),
    {
      kind: 'read',
      key: 'read-inlet',
      phase: 'found',
      title: 'Inlet',
      say: 'Read the inlet gauge with water flowing.',
      setting: 'inlet',
      slot: 'inlet',
      catch: 'firm',
      needs: { flow: 'enough' },
    },
    until(
      (j) => known(j) || now.unexplained(j),
      [readFlowing('found-flowing', 'found', 'As found: flowing'), whyHunts('found')],
    ),
    branch(
      (j) => !hopeless(j),
      [
        ...readLockUp('found-lock-up', 'found', 'As found: lock-up'),
        branch(
          (j) => !done(j) && !hopeless(j),
          [
            flowOn('adjust-flow'),
            until(
              (j) => done(j) || hopeless(j),
              [
                branch(
                  (j) => now.still(j) && !now.unexplained(j),
                  [
                    {
                      kind: 'turn',
                      key: 'put-back',
                      phase: 'adjust',
                      title: 'Back as found',
                      say: 'It does not follow. Before anything is opened, put the screw back as found:',
                      why: 'What holds the pilot off would let the outlet jump by all that was turned.',
                      adjuster: 'pilot',
                      cautions: ['downstream'],
                      amount: (j) => -j.netTurns('pilot'),
                    },
                    {
                      kind: 'observe',
                      key: 'why-still',
                      title: 'Why does it not follow?',
                      say: 'The screw turns and the outlet stays. Look at every cock and at the pilot’s strainer. What was it?',
                      choices: STILL_CAUSES,
                    },
                  ],
                ),
                branch(toTurn, [
                  {
                    kind: 'turn',
                    key: 'turn-pilot',
                    phase: 'adjust',
                    title: 'Pilot screw',
                    say: 'Turn the pilot screw.',
                    adjuster: 'pilot',
                    cautions: ['downstream'],
                    needs: { flow: 'enough' },
                    tools: ['wrench for the lock nut'],
                  },
                  {
                    kind: 'wait',
                    key: 'catch-up',
                    title: 'Catches up',
                    say: 'Let the valve catch up with its pilot.',
                    seconds: CATCHES_UP_S,
                  },
                ]),
                branch(
                  (j) => !hopeless(j),
                  [readFlowing('adjust-flowing', 'adjust', 'Flowing'), whyHunts('adjust')],
                ),
              ],
            ),
          ],
        ),
      ],
    ),
    branch(
      (j) => !hopeless(j),
      [
        ...readLockUp('left-lock-up', 'left', 'Lock-up'),
        {
          kind: 'observe',
          key: 'creep',
          title: 'Stays locked up',
          say: 'Watch the outlet gauge for a minute with nothing drawn.',
          why: 'A rise that goes on is a seat that leaks.',
          seconds: 60,
          choices: [
            { code: 'stands', title: 'It stands', advised: () => true },
            { code: 'rises', title: 'It rises on' },
          ],
        },
        branch(
          (j) => !now.creeps(j),
          [
            flowOn('again-flow'),
            readFlowing('left-flowing', 'left', 'Flowing again'),
            ...readLockUp('again-lock-up', 'left', 'Lock-up again'),
            until(quiet, [
              {
                kind: 'count',
                key: 'cycle',
                title: 'Open and shut three times',
                say: 'Open and shut the draw three times and listen.',
                times: 3,
              },
              {
                kind: 'observe',
                key: 'cycled',
                title: 'No surge, no hammer',
                say: 'Did it open without a surge and shut without hammer?',
                choices: [
                  { code: 'quiet', title: 'Quiet both ways', advised: () => true },
                  { code: 'surge', title: 'Surge on opening' },
                  { code: 'hammer', title: 'Hammer on closing' },
                ],
              },
              ...(['surge', 'hammer'] as const).map((code): Node =>
                branch(
                  (j) => now.answerAt(j, 'cycled') === code,
                  [
                    {
                      kind: 'turn',
                      key: `trim-${code}`,
                      phase: 'adjust',
                      title: code === 'surge' ? 'Open slower' : 'Close slower',
                      say: code === 'surge' ? 'Trim the opening speed:' : 'Trim the closing speed:',
                      adjuster: code === 'surge' ? 'opening' : 'closing',
                      amount: () => -0.5,
                    },
                  ],
                ),
              ),
            ]),
          ],
        ),
      ],
    ),
  ],
  restore: [
    {
      kind: 'confirm',
      key: 'lock',
      title: 'Locked',
      say: 'Pilot lock nut tight, speed controls locked, gauges off, ports plugged, draw as the customer had it.',
      sets: { flow: 'shut' },
      hands: { draw: 0, gauges: 0 },
    },
    ...(['outlet', 'inlet'] as const).map((slot): Node => ({
      kind: 'zero',
      key: `zero-${slot}-again`,
      title: slot === 'outlet' ? 'Outlet gauge zero again' : 'Inlet gauge zero again',
      say: `Read the zero of the ${slot} gauge once more, vented to air.`,
      slot,
    })),
  ],
};

export { creptAway };

import { branch, until, type JobView, type Node, type Phase } from '@firm-needle/core/procedure';
import { standard } from '../define/index.js';
import { parts, s } from './parts.js';
import * as now from './state.js';

const readWorking = (key: string, phase: Phase, title: string): Node =>
  s.read(key, 'working', title, 'Pull the trigger, hold it, and read the working pressure.', {
    phase,
    why: 'Hose loss counts only while water moves.',
    cautions: ['injection'],
    needs: { engine: 'on', nozzle: 'fitted' },
    sets: { trigger: 'pulled' },
    hands: { trigger: 1 },
    instead: { hunts: 'The needle swings and never stands' },
  });

const readTrapped = (key: string, phase: Phase, title: string): Node =>
  s.read(key, 'trapped', title, 'Release the trigger and read the trapped pressure.', {
    phase,
    why: 'Nothing moves: what is trapped is the same at gun and pump.',
    cautions: ['bypass'],
    needs: { engine: 'on' },
    sets: { trigger: 'released' },
    hands: { trigger: 0 },
    instead: { bleeds: 'It falls, and the machine cycles' },
  });

const enough = (job: JobView): boolean =>
  now.hunts(job) ||
  now.bleeds(job) ||
  (job.readings('working').length >= 2 && job.readings('trapped').length >= 2);
const settled = (job: JobView): boolean =>
  now.hopeless(job) ||
  stopped(job) ||
  (job.rests('working') && job.proved('working') && job.proved('trapped'));
const toTurn = (job: JobView): boolean =>
  !job.rests('working') && !job.due('working') && job.advice('handle').stop === null;
/** It is not where it should be, and no movement may bring it there. */
const stopped = (job: JobView): boolean =>
  !job.due('working') &&
  !job.landed('working') &&
  job.readings('working').length >= 2 &&
  !toTurn(job) &&
  job.advice('handle').stop !== 'not-read';

const marked = (key: string): Node =>
  branch(
    (j) => j.state.turns.length === 0,
    [
      s.confirm(key, 'Handle marked, lock nut loose', 'Mark the handle and loosen its lock nut.', {
        needs: { trigger: 'released' },
        tools: ['marker'],
      }),
    ],
  );

const adjust: readonly Node[] = [
  until(settled, [
    branch(toTurn, [
      marked('mark'),
      s.turn('turn-handle', 'handle', 'Unloader handle', 'Turn the unloader handle.', {
        cautions: ['bypass', 'ratings'],
        needs: { engine: 'on', trigger: 'released' },
        tools: ['wrench for the lock nut'],
      }),
    ]),
    readWorking('adjust-working', 'adjust', 'Working'),
    branch((j) => !now.hunts(j), [readTrapped('adjust-trapped', 'adjust', 'Trapped')]),
  ]),
];

/** Past the knee, or trapped too far over working, however it came to that: a quarter turn back, and both are read again. */
const backOff: Node = branch(
  (j) => now.knee(j) || now.over(j),
  [
    marked('mark-back'),
    s.turn(
      'back-off',
      'handle',
      'Back off',
      (j) =>
        now.knee(j)
          ? 'Working stands still, only the spike grows. Back off a quarter turn; read both again.'
          : 'What is trapped stands too far over working. Back off a quarter turn; read both again.',
      {
        why: 'Past the knee every turn goes into the spike.',
        cautions: ['bypass', 'ratings'],
        needs: { trigger: 'released' },
        amount: () => -0.25,
      },
    ),
    readWorking('back-working', 'left', 'Working, backed off'),
    readTrapped('back-trapped', 'left', 'Trapped, backed off'),
  ],
);

const MOST_MORE = 3;
/** Both agree with what was read before they were locked, or with each other since; or there is no more to be had from reading. */
const lockedEnough = (job: JobView): boolean =>
  (job.proved('working') && job.proved('trapped')) ||
  job.readings('trapped').filter((r) => r.kept.body.at.key === 'more-trapped').length >= MOST_MORE;

export const walk = standard(parts, {
  cautions: 'Read the cautions. Nothing is touched before the pressure is released.',
  first: [
    s.confirm(
      'arrive',
      'Pressure released',
      'Engine and burner off, nobody in front of the gun. Pull the trigger until nothing comes.',
      {
        cautions: ['trapped', 'injection'],
        needs: { cautions: 'read' },
        sets: { engine: 'off', trigger: 'pulled' },
        hands: { engine: 0, trigger: 1 },
      },
    ),
  ],
  zeros: [
    {
      slot: 'test',
      title: 'Gauge zero',
      say: 'Pressure released: vent the gauge to air and read its zero.',
      again: {
        key: 'zero-again',
        title: 'Gauge off, its zero again',
        say: 'Take the gauge off, plug its port. Read its zero once more.',
        needs: { engine: 'off' },
      },
      why: 'Every verdict stands on this.',
      needs: { engine: 'off' },
      tools: ['test gauge, 1.2 times the rating'],
    },
  ],
  asFound: [
    s.confirm('fit', 'Gauge fitted', 'Fit the gauge, plug unused ports.', {
      cautions: ['trapped', 'ratings'],
      needs: { engine: 'off' },
    }),
    s.confirm(
      'flush',
      'Flushed without nozzle',
      'Nozzle off, gun aimed clear: run until the water is clear, stop, release the pressure.',
      {
        why: 'New parts shed dirt that blocks a nozzle.',
        cautions: ['injection', 'body'],
        needs: { engine: 'off' },
        sets: { flushed: 'yes' },
        hands: { engine: 0, trigger: 1, nozzle: 0 },
      },
    ),
    s.confirm('nozzle', 'Nozzle fitted', 'Fit the nozzle.', {
      cautions: ['trapped'],
      needs: { engine: 'off' },
      sets: { nozzle: 'fitted' },
      hands: { nozzle: 1 },
    }),
    s.confirm('start', 'Engine running', 'Water on, trigger pulled, start the engine.', {
      cautions: ['injection', 'body'],
      needs: { nozzle: 'fitted' },
      sets: { engine: 'on', trigger: 'pulled' },
      hands: { engine: 1, trigger: 1 },
    }),
    until(enough, [
      readWorking('found-working', 'found', 'As found: working'),
      branch((j) => !now.hunts(j), [readTrapped('found-trapped', 'found', 'As found: trapped')]),
    ]),
    branch(
      (j) => !now.hunts(j) && !now.bleeds(j),
      [
        s.observe(
          'holds',
          'Trapped pressure holds',
          'Trigger released: watch the needle for half a minute.',
          { holds: { title: 'It holds', advised: true }, falls: 'It falls' },
          {
            why: 'A fall is the unloader’s check seat, or a leak at the gun.',
            seconds: 30,
            hands: { trigger: 0 },
          },
        ),
      ],
    ),
  ],
  adjust: [branch((j) => !now.hopeless(j) && !settled(j), adjust), backOff],
  prove: [
    branch(
      (j) => !now.hopeless(j),
      [
        branch(
          (j) => j.state.turns.length > 0,
          [
            s.confirm('lock-nut', 'Lock nut tight', 'Lock nut tight. Locking may move it: read both again.', {
              cautions: ['bypass'],
              needs: { trigger: 'released' },
              tools: ['wrench for the lock nut'],
            }),
            readWorking('locked-working', 'left', 'Working, locked'),
            readTrapped('locked-trapped', 'left', 'Trapped, locked'),
            // The newest of each may have been misread: nothing ends on one reading.
            until(lockedEnough, [
              readWorking('more-working', 'left', 'Working, once more'),
              readTrapped('more-trapped', 'left', 'Trapped, once more'),
            ]),
          ],
        ),
        s.observe(
          'repeats',
          'Repeats, no cycling',
          'Pull and release the trigger five times. Do working and trapped come back each time, and is it quiet between?',
          { repeats: { title: 'It repeats and stays quiet', advised: true }, cycles: 'It cycles by itself' },
          { needed: true },
        ),
      ],
    ),
  ],
  close: [
    s.confirm(
      'stop',
      'Engine off, pressure released',
      'Engine and burner off. Pull the trigger until nothing comes.',
      {
        cautions: ['trapped'],
        sets: { engine: 'off', trigger: 'pulled' },
        hands: { engine: 0, trigger: 1 },
      },
    ),
  ],
});

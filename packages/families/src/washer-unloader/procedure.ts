import {
  branch,
  until,
  type JobView,
  type Node,
  type Procedure,
  type ReadStep,
} from '@firm-needle/core/procedure';
import * as now from './state.js';

const ALL_CAUTIONS = ['injection', 'trapped', 'bypass', 'ratings', 'body', 'manual'] as const;
type Phase = 'found' | 'adjust' | 'left';

const readWorking = (key: string, phase: Phase, title: string): ReadStep => ({
  kind: 'read',
  key,
  phase,
  title,
  say: 'Pull the trigger, hold it, and read the working pressure.',
  why: 'Water is moving: what the hose takes is counted in.',
  setting: 'working',
  slot: 'test',
  catch: 'firm',
  cautions: ['injection'],
  needs: { engine: 'on', nozzle: 'fitted' },
  sets: { trigger: 'pulled' },
  hands: { trigger: 1 },
  instead: [{ code: 'hunts', title: 'The needle swings and never stands' }],
});

const readTrapped = (key: string, phase: Phase, title: string): ReadStep => ({
  kind: 'read',
  key,
  phase,
  title,
  say: 'Release the trigger and read the trapped pressure.',
  why: 'Nothing moves: what is trapped is the same at gun and pump.',
  setting: 'trapped',
  slot: 'test',
  catch: 'firm',
  cautions: ['bypass'],
  needs: { engine: 'on' },
  sets: { trigger: 'released' },
  hands: { trigger: 0 },
  instead: [{ code: 'bleeds', title: 'It falls, and the machine cycles' }],
});

const enough = (job: JobView): boolean =>
  now.hunts(job) ||
  now.bleeds(job) ||
  (job.readings('working').length >= 2 && job.readings('trapped').length >= 2);

const settled = (job: JobView): boolean =>
  now.hopeless(job) || (job.landed('working') && job.proved('working') && job.proved('trapped'));

const toTurn = (job: JobView): boolean => !job.landed('working') && !job.due('working');

const adjust: readonly Node[] = [
  until(settled, [
    branch(toTurn, [
      {
        kind: 'turn',
        key: 'turn-handle',
        phase: 'adjust',
        title: 'Unloader handle',
        say: 'Turn the unloader handle.',
        adjuster: 'handle',
        cautions: ['bypass'],
        needs: { engine: 'on', trigger: 'released' },
        tools: ['wrench for the lock nut'],
      },
    ]),
    readWorking('adjust-working', 'adjust', 'Working'),
    branch((j) => !now.hunts(j), [readTrapped('adjust-trapped', 'adjust', 'Trapped')]),
  ]),
  branch(
    (j) => now.knee(j),
    [
      {
        kind: 'turn',
        key: 'back-off',
        phase: 'adjust',
        title: 'Back off',
        say: 'No water is bypassed any more; only the spike grew. Back the handle off:',
        why: 'Past the knee every turn goes into the spike.',
        adjuster: 'handle',
        cautions: ['bypass'],
        needs: { trigger: 'released' },
        amount: () => -0.25,
      },
    ],
  ),
];

export const procedure: Procedure = {
  body: [
    {
      kind: 'confirm',
      key: 'cautions',
      title: 'Cautions read',
      say: 'Read the cautions. Engine off, burner off, nobody before the gun.',
      cautions: ALL_CAUTIONS,
      sets: { cautions: 'read', engine: 'off' },
      act: 'Read and understood',
    },
    {
      kind: 'zero',
      key: 'zero-test',
      title: 'Gauge zero',
      say: 'Pressure released: vent the gauge to air and read its zero.',
      why: 'Every verdict stands on this.',
      slot: 'test',
      needs: { cautions: 'read', engine: 'off' },
      tools: ['test gauge, 1.2 times the rating'],
    },
    {
      kind: 'confirm',
      key: 'flush',
      title: 'Flush without nozzle',
      say: 'Gauge fitted, nozzle off, unused ports plugged. Run the machine until the water is clear, then engine off.',
      why: 'New parts shed dirt that blocks a nozzle.',
      cautions: ['trapped', 'ratings'],
      needs: { engine: 'off' },
      sets: { flushed: 'yes' },
      hands: { engine: 0, trigger: 1, nozzle: 0 },
    },
    {
      kind: 'confirm',
      key: 'nozzle',
      title: 'Nozzle fitted',
      say: 'Pressure released: fit the nozzle. Mark the handle and loosen its lock nut.',
      cautions: ['trapped'],
      needs: { engine: 'off' },
      sets: { nozzle: 'fitted' },
      hands: { nozzle: 1 },
    },
    {
      kind: 'confirm',
      key: 'start',
      title: 'Engine running',
      say: 'Water on, trigger pulled, start the engine.',
      cautions: ['injection', 'body'],
      needs: { nozzle: 'fitted' },
      sets: { engine: 'on', trigger: 'pulled' },
      hands: { engine: 1, trigger: 1 },
    },
    until(enough, [
      readWorking('found-working', 'found', 'As found: working'),
      branch((j) => !now.hunts(j), [readTrapped('found-trapped', 'found', 'As found: trapped')]),
    ]),
    branch(
      (j) => !now.hunts(j) && !now.bleeds(j),
      [
        {
          kind: 'observe',
          key: 'holds',
          title: 'Trapped pressure holds',
          say: 'Trigger released: watch the needle for half a minute.',
          why: 'A fall is the unloader’s check seat, or a leak at the gun.',
          seconds: 30,
          hands: { trigger: 0 },
          choices: [
            { code: 'holds', title: 'It holds', advised: () => true },
            { code: 'falls', title: 'It falls' },
          ],
        },
      ],
    ),
    branch((j) => !now.hopeless(j) && !settled(j), adjust),
    branch(
      (j) => !now.hopeless(j),
      [
        {
          kind: 'count',
          key: 'cycles',
          title: 'Trigger five times',
          say: 'Pull and release the trigger five times; working and trapped must come back each time.',
          times: 5,
          needs: { engine: 'on' },
        },
        {
          kind: 'observe',
          key: 'repeats',
          title: 'Repeats, no cycling',
          say: 'Did both come back, and does it stay quiet with the trigger released?',
          choices: [
            { code: 'repeats', title: 'It repeats and stays quiet', advised: () => true },
            { code: 'cycles', title: 'It cycles by itself' },
          ],
        },
      ],
    ),
  ],
  restore: [
    {
      kind: 'confirm',
      key: 'stop',
      title: 'Engine off, pressure released',
      say: 'Engine off. Pull the trigger until nothing comes. Lock nut tight.',
      cautions: ['trapped'],
      sets: { engine: 'off', trigger: 'pulled' },
      hands: { engine: 0, trigger: 1 },
    },
    {
      kind: 'confirm',
      key: 'gauge-off',
      title: 'Gauge off, port plugged',
      say: 'Take the gauge off and plug its port.',
      needs: { engine: 'off' },
    },
    {
      kind: 'zero',
      key: 'zero-again',
      title: 'Gauge zero again',
      say: 'Read the zero of the gauge once more, vented to air.',
      slot: 'test',
    },
  ],
};

export { settled };

// On the running system: each side is starved of what it needs, and read as it acts.
import { branch, until, type JobView, type Node, type Phase, type Plan } from '@firm-needle/core/procedure';
import {
  blindTurns,
  decide,
  freesAt,
  lock,
  platesOff,
  toLock,
  toRead,
  tube,
  turning,
  turns,
} from './moves.js';
import { hasHigh, hasLow, highByItself, lowByKnob, read, s, valve } from './parts.js';
import { COOL_S } from './bounds.js';
import { flammable } from './refrigerants.js';
import * as now from './state.js';

const FLAME = (plan: Plan) => (flammable(plan) ? (['flammable'] as const) : []);

export const gaugesOn = (plan: Plan, key: string): Node =>
  s.confirm(
    key,
    'Gauges on, running',
    'Gauges at the compressor, hoses purged by the rules. Run until both stand.',
    {
      cautions: ['refrigerant', ...FLAME(plan), 'rotating'],
      needs: { cautions: 'read' },
      sets: { gauges: 'on', power: 'on' },
      hands: { hoses: 1, power: 1, liquid: 2, fan: 1 },
      permit: 'refrigerant',
    },
  );

/** What it usually runs at, where the plate does not say. */
export const normals = (plan: Plan): readonly Node[] => {
  const { plate } = read(plan);
  const needs = { gauges: 'on', power: 'on' } as const;
  return [
    ...(hasLow(plan) && plate.suction === undefined
      ? [
          s.read('suction', 'suction', 'Suction, running', 'Read the suction as it runs.', {
            phase: 'found',
            needs,
          }),
        ]
      : []),
    ...(hasHigh(plan) && plate.discharge === undefined
      ? [
          s.read('discharge', 'discharge', 'Discharge, running', 'Read the discharge as it runs.', {
            phase: 'found',
            needs,
          }),
        ]
      : []),
  ];
};

const stop = (key: string, title: string, phase: Phase): Node =>
  s.read(
    key,
    'lpStop',
    title,
    (j) =>
      `Shut the ${valve(j)} slowly${hasHigh(j.plan) ? ', an eye on the discharge' : ''}; catch the lowest as it stops.`,
    {
      phase,
      cautions: ['vacuum', 'trapped'],
      watched: true,
      needs: { gauges: 'on', power: 'on' },
      sets: { liquid: 'shut' },
      hands: { liquid: 0 },
      why: 'With no liquid to boil the suction falls until the switch opens.',
      instead: {
        climbs: {
          title: 'The discharge climbs: nothing holds its liquid',
          before: 'rarely',
          sets: { liquid: 'open' },
        },
        'ran-on': {
          title: 'Ran on to the floor: stopped by hand',
          withPressure: true,
          bounds: { setting: 'lpStop', side: 'below' },
          sets: { power: 'off' },
        },
        'not-made': {
          title: 'It does not run: not made',
          withPressure: true,
          bounds: { setting: 'lpStart', side: 'above' },
        },
      },
    },
  );

const start = (plan: Plan, key: string, title: string, phase: Phase): Node =>
  s.read(
    key,
    'lpStart',
    title,
    (j) =>
      (plan.plate['delay']?.value ?? 0) > 0
        ? `Open the ${valve(j)} a crack; read at the click. The machine turns later, by its timer.`
        : `Open the ${valve(j)} a crack; read at the click, as the switch makes.`,
    {
      phase,
      cautions: ['rotating'],
      needs: { gauges: 'on' },
      sets: { liquid: 'open' },
      hands: { liquid: 1 },
      why: 'A timer may hold the machine back: where it turns is not where the switch made.',
      instead: {
        'not-made': {
          title: 'Risen as far as it will: not made',
          withPressure: true,
          bounds: { setting: 'lpStart', side: 'above' },
        },
        'by-itself': { title: 'It started by itself, the valve still shut', before: true },
        running: { title: 'It runs: it had not stopped', before: true },
      },
    },
  );

/** The valve leaks, and its pressure comes back unasked: the start is read all the same. */
const again = (key: string, phase: Phase): Node =>
  s.read(key, 'lpStart', 'Starts by itself', 'Valve shut still; read at the click as it starts by itself.', {
    phase,
    cautions: ['rotating'],
    needs: { gauges: 'on' },
    hands: { liquid: 0 },
    instead: { 'not-made': { title: 'It does not start any more', withPressure: true } },
  });

const knob = (key: string): Node =>
  s.observe(
    key,
    'Low side by its knob',
    (j) =>
      `Open the ${valve(j)}. Over ${j.say(j.plan.values['lpStart'] ?? 0, 'lpStart')}: press the low knob. Does it run?`,
    { runs: { title: 'It runs', advised: true }, refuses: 'It does not close' },
    {
      cautions: ['rotating'],
      needs: { gauges: 'on' },
      sets: { liquid: 'open' },
      hands: { liquid: 2, knobs: 1 },
      seconds: 60,
    },
  );

/** It stopped, or stands open under its start, where nothing is to be made yet: its pressure is let come up. */
const stopped = (key: string) => (j: JobView) => {
  const said = now.answerAt(j, key);
  if (said === 'not-made' && !now.notMade(j)) return true;
  return (said !== 'ran-on' && said !== 'not-made') || !now.blindLow(j);
};
const itself = (key: string) => (j: JobView) =>
  now.answerAt(j, key) === 'by-itself' && (j.answered(key, 'by-itself') ?? false);

/** As it was found, as it is set, and after it was fitted. */
type Key = 'found' | 'late' | 'set' | 'new-set';

/** Stops, and starts again. */
const lowPair = (plan: Plan, key: Key, phase: Phase): readonly Node[] => [
  // With a knob it stands open after a turn: it is pressed before it can run and stop.
  ...(!lowByKnob(plan)
    ? []
    : key !== 'found'
      ? [knob(`${key}-knob`)]
      : // Stopped by hand, or found open, it is pressed before it is tried once more.
        [branch(now.knobFirst, [knob('found-again-knob')])]),
  stop(`${key}-stop`, key === 'found' ? 'As found: low stop' : 'Low stop', phase),
  branch(
    now.climbing,
    [
      s.confirm(
        `${key}-reopen`,
        'Liquid valve open again',
        'Open the liquid valve at once, and let both sides stand. From here its suction valve starves it, slowly.',
        {
          cautions: ['high', 'rotating'],
          sets: { liquid: 'open' },
          hands: { liquid: 2, fan: 1 },
          why: 'With no receiver the liquid has nowhere to go but into the condenser.',
        },
      ),
    ],
    [
      branch(
        (j) => stopped(`${key}-stop`)(j) && !(key === 'found' && now.lowFound(j)),
        lowByKnob(plan)
          ? key === 'found'
            ? [knob(`${key}-knob`)]
            : []
          : [
              start(plan, `${key}-start`, key === 'found' ? 'As found: low start' : 'Low start', phase),
              branch(itself(`${key}-start`), [again(`${key}-again`, phase)]),
            ],
      ),
    ],
  ),
];

const highStop = (key: string, title: string, phase: Phase): Node =>
  s.read(key, 'hpStop', title, 'Liquid open, running. Fan off, a hand on the stop: catch the highest.', {
    phase,
    cautions: ['high', 'rotating'],
    watched: true,
    needs: { gauges: 'on', power: 'on' },
    sets: { fan: 'off', liquid: 'open' },
    hands: { liquid: 2, fan: 0 },
    why: 'Without air the heat stays in the condenser, and its pressure rises until the switch opens.',
    instead: {
      'not-stopped': {
        title: 'At the stop-at, and not stopped: out by hand',
        withPressure: true,
        bounds: { setting: 'hpStop', side: 'above' },
        sets: { power: 'off' },
      },
      levels: { title: 'It levels off lower', withPressure: true, sets: { fan: 'on' } },
    },
  });

const reset = (plan: Plan, key: string): Node =>
  s.observe(
    key,
    'High side frees',
    (j) =>
      highByItself(plan)
        ? `Fan on. Does it start alone near ${freesAt(j)}, and run as before?`
        : `Fan on. Under ${freesAt(j)}: press the knob. Does it run as before?`,
    {
      yes: { title: 'Yes, as before', advised: true },
      refuses: `It refuses, though under`,
      ...(highByItself(plan) ? {} : { self: 'It had started by itself' }),
      unlike: 'It runs, but its pressures differ',
    },
    {
      cautions: ['rotating'],
      sets: { fan: 'on' },
      hands: { fan: 1, knobs: 1 },
      seconds: 60,
      why: 'Above its stop less the fixed differential a knob is refused: that is no fault.',
    },
  );

const rise = (plan: Plan, key: Key, phase: Phase): readonly Node[] => [
  ...(phase === 'left'
    ? [
        branch(
          (j) => now.rises(j) > 0,
          [
            s.wait(`${key}-cool`, 'Let it cool', 'Let it run with the fan on: oil and motor cool.', COOL_S, {
              hands: { fan: 1, power: 1 },
            }),
          ],
        ),
      ]
    : []),
  highStop(`${key}-high`, phase === 'found' ? 'As found: high stop' : 'High stop', phase),
  branch((j) => now.notStopped(j) === undefined && !now.levelled(j), [reset(plan, `${key}-reset`)]),
];

const powerOn = (key: string): Node =>
  branch(
    (j) => j.fact('power') !== 'on',
    [
      s.confirm(key, 'Running', 'Hands clear. Take the lock off; let it run.', {
        cautions: ['rotating'],
        sets: { power: 'on' },
        hands: { power: 1, liquid: 2, fan: 1 },
      }),
    ],
  );

/** As it was found, and not yet raised: its low side kept it from running. */
const lateHigh = (j: JobView): boolean => j.finds && !now.highFound(j) && !now.notMade(j);

/** What has to be read anew, and is. */
const readAnew = (plan: Plan, place: '' | 'new-'): readonly Node[] => [
  branch(
    (j) => toRead('low')(j) || toRead('high')(j) || lateHigh(j),
    [
      powerOn(`${place}on`),
      ...(hasLow(plan) ? [branch(toRead('low'), lowPair(plan, `${place}set`, 'left'))] : []),
      ...(hasHigh(plan) && place === '' ? [branch(lateHigh, rise(plan, 'late', 'found'))] : []),
      ...(hasHigh(plan)
        ? [
            branch(
              (j) => toRead('high')(j) && !lateHigh(j) && now.highTurn(j),
              rise(plan, `${place}set`, 'left'),
            ),
          ]
        : []),
    ],
  ),
];

const adjust = (plan: Plan, place: '' | 'new-'): readonly Node[] => [
  branch(turning, [
    lock(`${place}lock`),
    platesOff(`${place}plates`),
    blindTurns(plan, place, { power: 'off', plates: 'off' }),
    turns(plan, place, { power: 'off', plates: 'off' }),
  ]),
  branch(toLock, [
    s.confirm(`${place}relock`, 'Plates on', 'Lock it off. Plates on, screws tight.', {
      cautions: ['electric'],
      sets: { plates: 'on', power: 'off' },
      hands: { plates: 1, power: 0 },
      why: 'A plate may nudge a spindle: the proof comes after it.',
    }),
  ]),
  branch((j) => !now.settled(j), readAnew(plan, place)),
];

/** In service: found, decided, adjusted, proved. */
export const onSystem = (plan: Plan): readonly Node[] => [
  gaugesOn(plan, 'gauges'),
  ...normals(plan),
  ...(hasLow(plan) ? [until(now.lowFound, lowPair(plan, 'found', 'found'))] : []),
  ...(hasHigh(plan)
    ? [
        branch((j) => j.fact('power') === 'off', [powerOn('on-again')]),
        until((j) => now.highFound(j) || now.notMade(j), rise(plan, 'found', 'found')),
      ]
    : []),
  until(now.settled, [
    branch((j) => now.decision(j) === undefined, decide('')),
    branch(now.adjusting, adjust(plan, '')),
  ]),
];

/** Fitted after the bench: once more on its own pipe and wiring. */
export const provedOnSystem = (plan: Plan): readonly Node[] => [
  gaugesOn(plan, 'gauges-new'),
  until(now.settled, [tube('new-'), ...adjust(plan, 'new-')]),
];

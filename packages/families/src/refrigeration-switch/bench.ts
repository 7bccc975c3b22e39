// By nitrogen on the isolated switch: points only, so its circuit is proved apart.
import { branch, until, type JobView, type Node, type Phase, type Plan } from '@firm-needle/core/procedure';
import { blindTurns, decide, freesAt, platesOff, toLock, toRead, turning, turns } from './moves.js';
import { hasHigh, hasLow, highByItself, lowByKnob, s } from './parts.js';
import * as now from './state.js';

/** By nitrogen in service, or on the bench. */
type Bottle = 'n-' | 'b-';

const low = (plan: Plan, key: `${Bottle}${'found' | 'set'}`, phase: Phase): readonly Node[] => [
  lowByKnob(plan)
    ? s.observe(
        `${key}-knob`,
        'Low side by its knob',
        (j) =>
          `Raise to ${j.say((j.plan.values['lpStart'] ?? 0) * 1.05, 'lpStart')} and press the low knob: does the meter close?`,
        { runs: { title: 'It closes', advised: true }, refuses: 'It does not close' },
        {
          cautions: ['nitrogen'],
          needs: { nitrogen: 'on' },
          hands: { port: 1, nitrogen: 1, knobs: 1 },
          seconds: 45,
        },
      )
    : s.read(`${key}-start`, 'lpStart', 'Low start', 'Raise slowly; read as the meter closes.', {
        phase,
        cautions: ['nitrogen'],
        needs: { nitrogen: 'on' },
        hands: { port: 1, nitrogen: 1 },
        instead: {
          'not-made': {
            title: 'As far as it may: still open',
            withPressure: true,
            bounds: { setting: 'lpStart', side: 'above' },
          },
          'still-made': { title: 'It is closed all the while: it had not opened', before: 'rarely' },
        },
      }),
  branch(
    (j) => !now.notMade(j) && !now.knobRefuses(j),
    [
      s.read(`${key}-stop`, 'lpStop', 'Low stop', 'Bleed slowly; read as the meter opens.', {
        phase,
        catch: 'stops',
        cautions: ['nitrogen'],
        needs: { nitrogen: 'on' },
        hands: { port: 1, nitrogen: -1 },
        instead: {
          'not-open': {
            title: 'Bled to nothing: still closed',
            withPressure: true,
            bounds: { setting: 'lpStop', side: 'below' },
          },
          'still-open': { title: 'It is open all the while: it had not closed', before: 'rarely' },
        },
      }),
    ],
  ),
];

const high = (plan: Plan, key: `${Bottle}${'found' | 'set'}`, phase: Phase): readonly Node[] => [
  s.read(`${key}-high`, 'hpStop', 'High stop', 'On the high port: raise slowly; read as the meter opens.', {
    phase,
    catch: 'stops',
    watched: true,
    cautions: ['nitrogen', 'high'],
    needs: { nitrogen: 'on' },
    hands: { port: 2, nitrogen: 1 },
    instead: {
      'not-stopped': {
        title: 'At the stop-at, and still closed: bled off',
        withPressure: true,
        bounds: { setting: 'hpStop', side: 'above' },
      },
    },
  }),
  branch(
    (j) => now.notStopped(j) === undefined,
    [
      s.observe(
        `${key}-reset`,
        'High side frees',
        (j) =>
          highByItself(plan)
            ? `Bleed. Does the meter close by itself near ${freesAt(j)}?`
            : `Bleed to under ${freesAt(j)} and press the knob: does the meter close?`,
        {
          yes: { title: 'It closes', advised: true },
          refuses: 'It stays open, though under',
          ...(highByItself(plan) ? {} : { self: 'It had closed by itself' }),
        },
        { cautions: ['nitrogen'], hands: { port: 2, nitrogen: -2, knobs: 1 } },
      ),
    ],
  ),
];

const port = (plan: Plan): string =>
  hasLow(plan) && hasHigh(plan) ? 'the low port, later the high one' : 'its port';

const cylinder = (key: string, say: string, rest: Partial<Parameters<typeof s.confirm>[3]> = {}): Node =>
  s.confirm(key, 'Nitrogen on the switch', say, {
    cautions: ['nitrogen', 'electric'],
    sets: { nitrogen: 'on', power: 'off' },
    hands: { power: 0, port: 1, nitrogen: -2 },
    permit: 'refrigerant',
    tools: ['dry nitrogen', 'regulator with relief', 'meter'],
    ...rest,
  });

/** Found, decided, adjusted and proved, at the bench: the same in service and new. */
const work = (plan: Plan, at: Bottle, done: (j: JobView) => boolean): readonly Node[] => [
  ...(hasLow(plan) ? [until((j) => now.lowFound(j) || done(j), low(plan, `${at}found`, 'found'))] : []),
  ...(hasHigh(plan) ? [until((j) => now.highFound(j) || done(j), high(plan, `${at}found`, 'found'))] : []),
  until(done, [
    branch((j) => now.decision(j) === undefined, decide(at)),
    branch(now.adjusting, [
      branch(turning, [
        platesOff(`${at}plates`),
        blindTurns(plan, at, { power: 'off', plates: 'off' }),
        turns(plan, at, { power: 'off', plates: 'off' }),
      ]),
      branch(toLock, [
        s.confirm(`${at}relock`, 'Plates on', 'Plates on, screws tight.', {
          sets: { plates: 'on' },
          hands: { plates: 1 },
          why: 'A plate may nudge a spindle: the proof comes after it.',
        }),
      ]),
      branch(
        (j) => !done(j),
        [
          ...(hasLow(plan) ? [branch(toRead('low'), low(plan, `${at}set`, 'left'))] : []),
          ...(hasHigh(plan)
            ? [branch((j) => toRead('high')(j) && now.highTurn(j), high(plan, `${at}set`, 'left'))]
            : []),
        ],
      ),
    ]),
  ]),
];

/** Points are proved by nitrogen, and wiring past the switch is not: it is held open, and called for. */
const circuit = (plan: Plan): Node =>
  s.observe(
    'circuit',
    'Its circuit',
    hasHigh(plan)
      ? 'Raise on the high port until the meter opens, and hold it there. Meter off, lock off, call for cooling: does it stay stopped?'
      : 'Bleed until the meter opens, and hold it there. Meter off, lock off, call for cooling: does it stay stopped?',
    {
      stays: { title: 'It stays stopped', advised: true },
      runs: { title: 'It runs: locked off again', sets: { power: 'off' } },
    },
    {
      cautions: ['nitrogen', 'electric', 'rotating'],
      needs: { nitrogen: 'on' },
      hands: hasHigh(plan) ? { port: 2, nitrogen: 1 } : { port: 1, nitrogen: -1 },
      why: 'Nitrogen proves points; wiring past the switch it does not see.',
    },
  );

/** In service, where the high side may not be raised, or neither side can be. */
export const byNitrogen = (plan: Plan): readonly Node[] => [
  cylinder(
    'isolate',
    `Lock it off and try it. Tapping isolated, tube recovered and off. Nitrogen by its regulator on ${port(plan)}, gauge and bleed beside it, the meter across its contacts.`,
    { cautions: ['refrigerant', 'nitrogen', 'electric'] },
  ),
  ...work(plan, 'n-', now.settled),
  branch((j) => now.decision(j) !== 'replace', [circuit(plan)]),
];

/** Between its limits: it may stand lower than planned, and no higher. */
const middle = (j: JobView): number => {
  const { lower = 0, upper = 0 } = j.limits('hpStop', 'left');
  return (lower + upper) / 2;
};

/** New, on the bench: pointers at the plan, set and proved, then fitted. */
export const onBench = (plan: Plan): readonly Node[] => [
  platesOff('bench-plates'),
  s.confirm(
    'pointers',
    'Pointers at the plan',
    (j) =>
      [
        ...(hasLow(plan) ? [`start pointer to ${j.say(j.plan.values['lpStart'] ?? 0, 'lpStart')}`] : []),
        ...(hasLow(plan) && !lowByKnob(plan)
          ? [`differential to ${j.say(j.plan.values['lpDiff'] ?? 0, 'lpDiff')}`]
          : []),
        ...(hasHigh(plan) ? [`high pointer to ${j.say(middle(j), 'hpStop')}`] : []),
      ]
        .join(', ')
        .replace(/^./, (c) => c.toUpperCase()) + '.',
    { needs: { plates: 'off' }, hands: { pointers: 1 }, tools: ['screwdriver'] },
  ),
  cylinder(
    'nitrogen',
    `Nitrogen by its regulator, shut, on ${port(plan)}: gauge and bleed beside it, the meter across its contacts.`,
  ),
  ...work(plan, 'b-', (j) => now.fitted(j) || now.settled(j)),
  branch(
    (j) => !now.hopeless(j),
    [
      s.confirm(
        'fit',
        'Fitted',
        'Vent it, nitrogen off. Fit it above the pipe, tube coiled, nothing shaking; wire it dead, leak-test it.',
        {
          cautions: ['electric', 'refrigerant'],
          sets: { nitrogen: 'off' },
          hands: { port: 0, nitrogen: -2 },
          permit: 'refrigerant',
        },
      ),
    ],
  ),
];

import { branch, until, type Node, type Phase, type Plan, type Procedure } from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';
import { standard, type AnswersOf, type NamesIn } from '../define/index.js';
import { onBoiler } from './boiler.js';
import {
  adjusting,
  byCircuit,
  comeDown,
  decide,
  level,
  lock,
  opened,
  powerOn,
  regain,
  tap,
  turns,
} from './moves.js';
import { PAST, parts, s } from './parts.js';
import * as now from './state.js';

type Names = NamesIn<typeof parts>;

const MARKINGS: Readonly<Record<string, string>> = {
  sub: 'Differential is subtracted: main is cut-out',
  add: 'Differential is added: main is cut-in',
  limit: 'A reset button',
  unread: 'Cannot be read',
};

/** What is planned is offered first; it is seen all the same. */
const marking = (plan: Plan): Node =>
  s.observe(
    'marking',
    'Scale marking',
    'Read the small print at the differential scale, and photograph both pointers as they stand.',
    Object.fromEntries(
      Object.entries(MARKINGS).map(([code, title]) => [
        code,
        { title, advised: () => code === (plan.variant === 'ounce' ? 'sub' : plan.variant) },
      ]),
    ),
    {
      asksPlan: true,
      why: 'Adding what is subtracted sets it a whole differential too high.',
      needs: { cautions: 'read' },
    },
  );

/** Seen with the cover off as if live; where it is live, back to the lock. */
const inside: Node = until(
  (j) => !['live', undefined].includes(now.answerAt(j, 'inside')),
  [
    lock('lock'),
    s.observe(
      'inside',
      'Dead, and what switches',
      'Cover off as if live. Prove dead: tester, terminals, tester. What switches?',
      {
        snap: { title: 'Dead; a snap switch, dry and clean', advised: true },
        mercury: { title: 'Dead; a mercury bulb' },
        burnt: { title: 'Dead; burnt or wet inside' },
        live: { title: 'It is live', sets: { power: 'on', cover: 'on' } },
      },
      {
        cautions: ['live', 'mercury'],
        needs: { power: 'off' },
        sets: { power: 'dead', cover: 'off' },
        permit: 'mains',
        tools: ['voltage tester'],
      },
    ),
  ],
);

const plumb: Node = branch(now.hasMercury, [
  s.observe(
    'plumb',
    'Hangs plumb',
    'Before it comes off: does the pendulum hang on its mark?',
    { on: { title: 'On its mark', advised: true }, off: 'Off its mark' },
    { cautions: ['mercury'], why: 'Every degree moves both points.' },
  ),
]);

const SIPHON: AnswersOf<Names> = {
  clear: { title: 'Clear, and water in it', advised: true },
  dry: 'Clear, but dry',
  blocked: 'Blocked: now cleared or changed',
  none: 'There is no siphon',
};

const offTheBoiler: readonly Node[] = [
  branch(
    (j) => j.finds,
    [
      s.confirm('down', 'No steam, siphon cool', 'Wait: boiler gauge at zero, siphon cool enough to hold.', {
        cautions: ['steam'],
        needs: { power: 'dead' },
        sets: { steam: 'down' },
      }),
      s.observe(
        'siphon',
        'Siphon',
        'Control off. Does a wire pass the siphon, and was water in it? Say how it was found, then clear it.',
        SIPHON,
        {
          cautions: ['steam', 'element'],
          needs: { steam: 'down' },
          sets: { control: 'off' },
          hands: { siphon: 1 },
          why: 'What is blocked feels nothing; what is dry lets steam on the element.',
        },
      ),
    ],
  ),
  s.confirm(
    'pump',
    'On the pump',
    'One lead off and capped, the meter across the contact. Pump and gauge on its port, held as it hung.',
    {
      cautions: ['element'],
      needs: { power: 'dead' },
      sets: { pump: 'on' },
      hands: { control: 1, pump: 0 },
      tools: ['hand pump', 'meter'],
    },
  ),
];

/** The contact opens. On the pump the hand stops there; on the boiler the pressure goes on a little: it is read at the click. */
const trip = (key: string, title: string, phase: Phase): Node =>
  s.read(key, 'cutOut', title, 'Pump slowly, and read as the contact opens: cut-out.', {
    phase,
    cautions: ['element'],
    needs: { pump: 'on' },
    hands: { pump: 1 },
    why: 'The contact is the setting; the highest pressure is not.',
    instead: {
      full: {
        title: 'As far as gauge or element go: still closed',
        withPressure: true,
        bounds: { setting: 'cutOut', side: 'above' },
      },
      welded: { title: 'Closed whatever is done', withPressure: true },
      'stays-open': { title: 'It stands open with nothing on it', before: true },
    },
  });

const reset = (key: string, title: string, phase: Phase): Node =>
  s.read(key, 'cutIn', title, 'Let down slowly, and read as the contact closes: cut-in.', {
    phase,
    needs: { pump: 'on' },
    hands: { pump: -1 },
    instead: {
      'stays-open': { title: 'Let down to nothing: still open' },
      'not-open': { title: 'It is closed all the while: it had not opened', before: 'rarely' },
    },
  });

const button = (key: string): Node =>
  s.observe(
    key,
    'Resets by its button',
    'Let down to nothing, then press the button: does it close?',
    { closes: { title: 'It closes and stays closed', advised: true }, stays: 'It stays open' },
    { needs: { pump: 'on' }, hands: { pump: -2, button: 1 } },
  );

const pair = (key: string, phase: Phase, [out, back]: readonly [string, string]): readonly Node[] => [
  trip(`${key}-trip`, out, phase),
  branch(opened(`${key}-trip`), [
    branch(now.isLimit, [button(`${key}-button`)], [reset(`${key}-reset`, back, phase)]),
  ]),
];

const clicks = (plan: Plan) => ({
  stop: showWithUnit((plan.values['cutOut'] ?? 0) + PAST, { unit: 'psi', step: 0.1 }),
});

const onPump = (plan: Plan): readonly Node[] => [
  ...offTheBoiler,
  until(now.foundEnough, pair('found', 'found', ['As found: cut-out', 'As found: cut-in'])),
  until(now.settled, [
    branch((j) => now.decision(j) === undefined, decide(plan)),
    branch(adjusting, [
      level,
      comeDown,
      regain,
      turns({ power: 'dead', pump: 'on' }),
      tap,
      branch((j) => !now.settled(j), pair('set', 'left', ['Cut-out', 'Cut-in'])),
    ]),
  ]),
];

const pumped = (plan: Plan): boolean => plan.school === 'pump';
const figure = (key: 'rise' | 'fall', say: string): Node =>
  s.observe(
    key,
    key === 'rise' ? 'Rise timed' : 'Fall timed',
    say,
    { shows: key === 'rise' ? 'Rise' : 'Fall', none: 'Not timed' },
    {
      shows: {
        channel: key,
        title: key === 'rise' ? 'Rise' : 'Fall',
        unit: 's',
        step: 1,
        lower: 1,
        upper: 3600,
      },
    },
  );

const inPlace = (plan: Plan): readonly Node[] => [
  s.observe(
    'live',
    'Stops and starts its burner',
    `Take the lock off, power on, calling. Does pressure stop the burner, and start it again? At ${clicks(plan).stop} switch it off by hand.`,
    {
      both: { title: 'It stops, and starts again', advised: true },
      short: 'Both, but it fires only a short while each time',
      met: 'The thermostat was met first',
      'runs-on': { title: 'It ran past: switched off', sets: { power: 'off' } },
      'no-start': 'It stopped, and does not start again',
      other: 'Something else stopped it',
    },
    {
      cautions: ['steam', 'firing'],
      needs: { cover: 'on' },
      sets: { power: 'on' },
      hands: { power: 1, call: 1 },
      why: 'Only on its boiler are siphon and wiring seen.',
    },
  ),
  branch(
    (j) => now.answerAt(j, 'live') === 'short',
    [
      figure(
        'rise',
        'Time the rise: from where the needle passes cut-in upward, to the click that stops it.',
      ),
      figure('fall', 'Time the fall between the same two pressures.'),
    ],
  ),
  branch((j) => ['met', 'runs-on'].includes(now.answerAt(j, 'live') ?? ''), byCircuit('')),
];

export const walk = (plan: Plan): Procedure =>
  standard(parts, {
    cautions: 'Read the cautions. Find the burner’s switch; the low-water cut-off is left alone.',
    first: [marking(plan)],
    zeros: [
      {
        slot: 'test',
        title: 'Gauge zero',
        say: 'The low-range gauge upright, open to air: read its zero.',
        again: {
          say: pumped(plan)
            ? 'The gauge open to air: read its zero once more.'
            : 'Gauge cock shut, the gauge vented with care: read its zero once more.',
          ...(pumped(plan) ? {} : { cautions: ['steam'] }),
          hands: { cock: 0, pump: 0, control: 0 },
        },
        why: 'At a pound and a half a zero that is off decides.',
        tools: ['low-range gauge'],
      },
    ],
    asFound: [inside, branch((j) => pumped(plan) || now.hasMercury(j), [plumb])],
    adjust: pumped(plan) ? onPump(plan) : onBoiler(plan),
    close: [
      branch(
        (j) => j.fact('pump') === 'on' || j.fact('control') === 'off' || j.fact('cover') === 'off',
        [
          s.confirm(
            'back',
            'Back on the boiler',
            'Locked off. Siphon filled with water, control on and plumb, lead back, cover on.',
            {
              cautions: ['steam', 'live'],
              sets: { control: 'on', cover: 'on', power: 'off' },
              hands: { control: 0, siphon: 1, hang: 1, power: 0 },
            },
          ),
        ],
      ),
    ],
    last: [
      branch(
        (j) => !now.leftOff(j) && j.fact('cover') === 'on',
        [
          branch(
            now.isLimit,
            byCircuit('end-'),
            pumped(plan) ? inPlace(plan) : [branch((j) => j.fact('power') !== 'on', [powerOn('end-on')])],
          ),
        ],
      ),
      branch(
        now.leftOff,
        [
          s.confirm(
            'end-locked',
            'Left locked off',
            'Leave the burner locked off and tagged until it is mended. Tell the customer there is no heat.',
            { cautions: ['live'], sets: { power: 'off' }, hands: { power: 0 } },
          ),
        ],
        [
          s.confirm(
            'end',
            'Thermostat as it was, tag written',
            'Thermostat as it was. Tag beside the control: settings, date.',
            {
              hands: { call: 0 },
            },
          ),
        ],
      ),
    ],
  });

import { branch, type Node, type Plan, type Procedure } from '@firm-needle/core/procedure';
import { standard } from '../define/index.js';
import { byNitrogen, onBench } from './bench.js';
import { hasHigh, hasLow, parts, s } from './parts.js';
import { flammable } from './refrigerants.js';
import * as now from './state.js';
import { onSystem, provedOnSystem } from './system.js';

const type = (plan: Plan): Node =>
  s.observe(
    'type',
    'As planned',
    'Read both scales, both resets, the label and the plates: is it as planned?',
    {
      yes: { title: 'As planned, plates locked', advised: true },
      unlocked: 'As planned; its plates are missing',
      'other-type': 'Another kind of switch',
      'other-refrigerant': 'Another refrigerant on the label',
    },
    {
      asksPlan: true,
      needs: { cautions: 'read' },
      cautions: flammable(plan) ? ['flammable'] : [],
      why: 'A knob where none is planned, or another refrigerant, makes every figure wrong.',
    },
  );

const SLOTS = (plan: Plan) =>
  [
    ...(hasLow(plan)
      ? [
          {
            slot: 'low' as const,
            title: 'Suction gauge zero',
            say: 'The suction gauge open to air: read its zero.',
            again: 'The suction gauge open to air: read its zero once more.',
            tools: ['suction gauge'],
          },
        ]
      : []),
    ...(hasHigh(plan)
      ? [
          {
            slot: 'high' as const,
            title: 'Discharge gauge zero',
            say: 'The discharge gauge open to air: read its zero.',
            again: 'The discharge gauge open to air: read its zero once more.',
            tools: ['discharge gauge'],
          },
        ]
      : []),
  ] as const;

const onTheSystem = (plan: Plan): boolean => plan.school === 'system';

/** The way through the job. */
export const walk = (plan: Plan): Procedure =>
  standard(parts, {
    cautions: 'Read the cautions. Goggles, gloves; find what stops it by hand.',
    first: [type(plan)],
    zeros: SLOTS(plan),
    asFound: [
      branch(
        (j) => now.other(j) === undefined,
        [
          branch((j) => j.finds, onTheSystem(plan) ? onSystem(plan) : byNitrogen(plan), [
            ...onBench(plan),
            ...(onTheSystem(plan) ? [branch(now.fitted, provedOnSystem(plan))] : []),
          ]),
        ],
      ),
    ],
    close: [
      branch(
        (j) => j.fact('nitrogen') === 'on',
        [
          s.confirm('n-off', 'Nitrogen off', 'Vent it, nitrogen off. Tube back, tapping open.', {
            cautions: ['nitrogen', 'refrigerant'],
            sets: { nitrogen: 'off' },
            hands: { port: 0, nitrogen: -2 },
          }),
        ],
      ),
      branch(
        (j) => j.fact('plates') === 'off',
        [
          s.confirm('plates-back', 'Plates on', 'Lock it off. Plates on, screws tight.', {
            cautions: ['electric'],
            sets: { plates: 'on', power: 'off' },
            hands: { plates: 1, power: 0 },
          }),
        ],
      ),
      branch(
        (j) => j.fact('gauges') === 'on' || now.opened(j),
        [
          s.observe(
            'off',
            'Hoses off, no leak',
            'Liquid valve open, fan on. Service valves back, hoses off, caps on. Leak-check every port.',
            { tight: { title: 'All tight', advised: true }, leaks: 'One leaks' },
            {
              cautions: ['refrigerant', ...(flammable(plan) ? (['flammable'] as const) : [])],
              sets: { gauges: 'off', liquid: 'open', fan: 'on' },
              hands: { hoses: 0, liquid: 2, fan: 1 },
              permit: 'refrigerant',
            },
          ),
          branch(now.leaked, [
            s.observe(
              'leak-again',
              'Mended, no leak',
              'Mend it, then leak-check it once more.',
              { tight: { title: 'Tight now', advised: true }, leaks: 'It leaks still' },
              { cautions: ['refrigerant'] },
            ),
          ]),
        ],
      ),
    ],
    last: [
      branch(
        (j) => now.other(j) !== undefined,
        [
          s.confirm(
            'end-unplanned',
            'Left as found',
            'Leave it as it was found. It is planned as it is, and done then.',
          ),
        ],
        [
          branch(
            now.leftOff,
            [
              s.confirm(
                'end-locked',
                'Left locked off',
                'Leave it locked off and tagged until it is mended. Tell the customer what will get warm.',
                { cautions: ['electric'], sets: { power: 'off' }, hands: { power: 0 } },
              ),
            ],
            [
              s.confirm(
                'end',
                'Tag written, running',
                'Running, plates tight. Tag beside the switch: settings, refrigerant, date.',
                { sets: { power: 'on' }, hands: { power: 1 } },
              ),
            ],
          ),
        ],
      ),
    ],
  });

import {
  branch,
  until,
  type JobView,
  type Node,
  type Plan,
  type Procedure,
} from '@firm-needle/core/procedure';
import { gathered, standard } from '../define/index.js';
import { isElectric, parts, s } from './parts.js';
import { endImpairment, impair } from '../shared/impairment.js';
import { unproved } from './findings.js';
import { FINE, pilotAt } from './reckoned.js';
import { measured } from './search.js';
import { dry, edge, readSystem, turnBy, WATCH_S } from './acts.js';
import * as now from './state.js';

/** The pilot goes up by this before pressure is let in: a new or unknown one might open at once. */
const UP = 2;

const zero = (slot: 'system' | 'suction', title: string) => ({
  slot,
  title,
  say: `Pump stopped: vent the ${slot} gauge to air and read its zero.`,
  again: { say: `Read the zero of the ${slot} gauge once more, vented to air.`, hands: { gauges: 0 } },
  hands: { gauges: 0, pump: 0 },
  tools: ['two test gauges'],
});

/** Nothing is touched before the authority knows, and nobody stands before the outlet. */
const impaired: readonly Node[] = [
  impair('life'),
  s.confirm(
    'path',
    'Discharge path clear',
    'Walk the discharge path: clear, its drain able to take the flow, the outlet in sight. Record listing and size of the valve.',
    { cautions: ['discharge'], sets: { path: 'clear' } },
  ),
];

/** Set and proved, or found right and dry. */
const inOrder = (j: JobView): boolean =>
  !now.hopeless(j) &&
  (now.lookedOnly(j)
    ? true
    : now.wasSet(j)
      ? gathered((found) => unproved(j, found)).length === 0
      : now.foundRight(j) && now.answer(j, 'dry-left') === 'dry');

const tachometer = s.observe(
  'speed',
  'Speed',
  'Let it come to its speed, and read the tachometer.',
  { shows: 'Tachometer shows' },
  {
    seconds: 15,
    why: 'Pressure goes with the square of the speed: a governor that runs away comes before the relief.',
    cautions: ['shafts'],
    shows: { channel: 'speed', title: 'Tachometer shows', unit: 'rpm', step: 1, lower: 0, upper: 6000 },
  },
);

/** An electric pump at churn is cooled by what its casing relief lets go. */
const casing = s.observe(
  'casing',
  'Casing relief runs',
  'Look at the casing relief: does water run from it?',
  { runs: { title: 'It runs', advised: true }, dry: 'Dry' },
  { why: 'At churn nothing else carries the heat away.', cautions: ['shafts'] },
);

export const walk = (plan: Plan): Procedure =>
  standard(parts, {
    cautions: 'Read the cautions. Nothing is touched before the authority knows.',
    first: impaired,
    zeros: [zero('system', 'System gauge zero'), zero('suction', 'Suction gauge zero')],
    asFound: [
      s.observe(
        'where',
        'Which gauge is which',
        'Connect both gauges and follow the system gauge’s tube. Does it come from upstream of the relief, or from its cover?',
        {
          upstream: { title: 'Upstream', advised: true, sets: { gauges: 'on' } },
          cover: { title: 'From the cover: moved upstream', sets: { gauges: 'on', point: 'upstream' } },
        },
        {
          why: 'The cover gauge shows control pressure; every figure here stands on the pressure upstream.',
          sets: { gauges: 'on' },
          hands: { gauges: 1 },
        },
      ),
      branch(
        (j) => !j.finds,
        [
          turnBy(
            'pilot-up',
            'Pilot up',
            'Mark the pilot screw, loosen its lock nut. Before pressure is let in, turn it up:',
            'A preset below the system would open at once.',
            () => UP,
            { cautions: ['up', 'hammer'], tools: ['marker', 'wrench for the lock nut'] },
          ),
        ],
      ),
      s.confirm('start', 'Pump at churn', 'Start the pump, nothing drawn, and let it come to its speed.', {
        cautions: ['shafts', 'discharge'],
        needs: { impairment: 'given', path: 'clear' },
        sets: { pump: 'churn' },
        hands: { pump: 1, header: 0 },
      }),
      ...(isElectric(plan) ? [casing] : [tachometer]),
      branch(
        (j) => j.finds,
        [
          dry(
            'dry-found',
            'Outlet as found',
            'Watch the outlet for a minute: dry, or does water run?',
            'As it was found, at churn. A weep is debris in the seat, or a margin too small.',
            WATCH_S,
          ),
          branch(
            (j) => !now.lookedOnly(j),
            [
              s.confirm(
                'mark',
                'Pilot marked, lock nut loose',
                'Mark the pilot screw and loosen its lock nut.',
                {
                  tools: ['marker', 'wrench for the lock nut'],
                },
              ),
              branch(
                (j) => now.answer(j, 'dry-found') === 'runs' && !now.overspeeds(j),
                [
                  edge(
                    'up-dry',
                    'Up until it stops',
                    'It runs at churn: nothing can be read so. Turn the pilot slowly clockwise until the water just stops.',
                    1,
                    FINE,
                    ['up', 'hammer'],
                  ),
                ],
              ),
            ],
          ),
        ],
        [
          dry(
            'dry-up',
            'Outlet dry, pilot up',
            'Look at the outlet: is it dry?',
            'Dry proves that the pilot stands above the system. Water now is a seat that does not close.',
          ),
        ],
      ),
      until(
        (j) => now.churnRead(j),
        [
          s.read('read-suction', 'suction', 'Suction', 'Read the suction gauge.', {
            phase: 'found',
            needs: { pump: 'churn', gauges: 'on' },
          }),
          readSystem('read-churn', 'churn', 'System at churn', 'Read the system gauge at churn.'),
        ],
      ),
      branch((j) => !now.lookedOnly(j), measured(plan)),
    ],
    close: [
      branch(
        (j) => now.offItsMark(j) && !now.wasSet(j),
        [
          turnBy(
            'restore-pilot',
            'Pilot back as found',
            'Never leave it up: bring the pilot back to its mark, as found:',
            'A pilot left up is a relief that is not there.',
            (j) => -pilotAt(j),
            { cautions: ['up'], toMark: true },
          ),
        ],
      ),
      s.confirm('stop', 'Header shut, pump stopped', 'Cap on. Shut the header slowly, stop the pump.', {
        cautions: ['hammer'],
        sets: { pump: 'off' },
        hands: { pump: 0, header: 0 },
      }),
      s.confirm(
        'auto',
        'Controller in AUTO',
        'Put the controller back in AUTO, and read that it stands there.',
        {
          cautions: ['up'],
        },
      ),
    ],
    last: [endImpairment('life', 'The relief', inOrder)],
  });

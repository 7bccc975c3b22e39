// The school that reads on the running boiler: only where the control cannot come off.
import { branch, until, type Node, type Phase, type Plan } from '@firm-needle/core/procedure';
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
import { s } from './parts.js';
import * as now from './state.js';

/** At the click that stops the burner: the pressure goes on past it. */
const stops = (key: string, phase: Phase): Node =>
  s.read(
    key,
    'cutOut',
    'Stops the burner',
    'Let the pressure rise, and read at the click that stops the burner.',
    {
      phase,
      cautions: ['firing'],
      watched: true,
      needs: { power: 'on', gauge: 'on' },
      hands: { power: 1, call: 1 },
      why: 'The pressure goes on past the click: the highest is not the setting.',
      instead: {
        full: {
          title: 'Did not stop there: switched off',
          withPressure: true,
          bounds: { setting: 'cutOut', side: 'above' },
          sets: { power: 'off' },
        },
        welded: {
          title: 'Its contact does not open at all: switched off',
          withPressure: true,
          sets: { power: 'off' },
        },
        met: { title: 'Stands below it: the load takes all', withPressure: true },
        'stays-open': { title: 'It does not start: open with nothing on it', before: 'rarely' },
      },
    },
  );

/** At the click that starts it: the pressure falls on while it lights. */
const starts = (key: string, phase: Phase): Node =>
  s.read(
    key,
    'cutIn',
    'Starts the burner',
    'Let the pressure fall, and read at the click that starts the burner.',
    {
      phase,
      cautions: ['firing'],
      needs: { power: 'on', gauge: 'on' },
      why: 'It falls on while the burner lights: the lowest is not the setting.',
      instead: {
        'stays-open': { title: 'Fell to nothing: does not start' },
        'fires-on': { title: 'Its contact opened, and it fires on: switched off', sets: { power: 'off' } },
      },
    },
  );

const coverOn = (key: string): Node =>
  s.confirm(key, 'Cover on', 'Cover on. Gauge on its cock at the boiler, cock open slowly.', {
    cautions: ['steam'],
    sets: { cover: 'on', gauge: 'on', power: 'off' },
    hands: { cock: 1 },
  });
export const onBoiler = (plan: Plan): readonly Node[] => [
  coverOn('boiler-cover'),
  powerOn('boiler-on'),
  until(
    (j) => now.loadTakesAll(j) || now.foundEnough(j),
    [stops('live-trip', 'found'), branch(opened('live-trip'), [starts('live-reset', 'found')])],
  ),
  branch(now.loadTakesAll, byCircuit('live-')),
  branch(
    (j) => !now.loadTakesAll(j) && !now.byPassed(j),
    [
      until(now.settled, [
        branch((j) => now.decision(j) === undefined, decide(plan)),
        branch(adjusting, [
          branch(
            (j) => now.wantsTurn(j) || now.tooHigh(j) || now.toLevel(j) || now.regain(j) !== undefined,
            [
              lock('boiler-lock'),
              s.confirm(
                'boiler-dead',
                'Cover off, proved dead',
                'Cover off as if live, then prove dead: tester, terminals, tester.',
                {
                  cautions: ['live'],
                  needs: { power: 'off' },
                  sets: { power: 'dead', cover: 'off' },
                  permit: 'mains',
                },
              ),
              level,
              comeDown,
              regain,
              turns({ power: 'dead', cover: 'off' }),
              coverOn('boiler-again'),
              powerOn('boiler-on-again'),
            ],
          ),
          tap,
          // Turned down, it stands open until the pressure has fallen: it is first seen to start.
          branch(
            (j) => !now.settled(j),
            [
              starts('live-set-reset', 'left'),
              branch((j) => !now.staysOpen(j), [stops('live-set-trip', 'left')]),
            ],
          ),
        ]),
      ]),
    ],
  ),
];

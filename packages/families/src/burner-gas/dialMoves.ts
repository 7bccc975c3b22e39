// The dials of the switches, under their covers: moved by what they tripped at, by their figure, or run to what stands there.
import { branch, type Node, type Plan } from '@firm-needle/core/procedure';
import { agreed, book, byAdvice, planned } from './book.js';
import { parts, RUNS_BY, RUNS_MOST, s, switchesOf, toDial, untripped, type SwitchSetting } from './parts.js';
import { airNormal, input, trips } from './readings.js';
import * as now from './state.js';

/** Where its tap cannot be let down: the dial is run to what stands there until it trips, and what it shows more than that is its error. */
const runTo = (plan: Plan, x: 'lowGas' | 'highGas'): Node => {
  const id = now.DIALS[x];
  const { title } = parts.screw(id);
  const rising = x === 'lowGas';
  const meter = rising ? 1 : 2;
  return branch(
    (j) => toDial(j.plan, x) && !now.ran(j, x),
    [
      s.observe(
        `${id}-stands`,
        `Gas at the tap of the ${rising ? 'low' : 'high'}-gas switch`,
        'Locked off still: open the cock slowly. Read the gas at its tap once it stands.',
        {
          stands: { title: 'It stands at', withPressure: true, advised: true },
          open: { title: 'Its contact is open already, at', withPressure: true },
          none: 'Nothing stands there',
        },
        {
          watches: 'gas',
          cautions: ['gas', 'live'],
          needs: { power: 'dead' },
          sets: { gas: 'on' },
          hands: { cock: 1, bleed: 0, bulb: 0, meter, input: input(plan, rising ? 'lowTap' : 'highTap') },
          seconds: 20,
        },
      ),
      branch(
        (j) => ['stands', 'open'].includes(now.answerAt(j, `${id}-stands`) ?? ''),
        [
          branch(
            (j) => now.answerAt(j, `${id}-stands`) === 'open',
            [
              s.turn(
                `back-${id}`,
                id,
                `${title}, back first`,
                `It trips beyond what stands there: ${title.toLowerCase()} slowly ${rising ? 'down' : 'up'} until it closes.`,
                {
                  cautions: ['live'],
                  needs: { power: 'dead' },
                  permit: 'mains',
                  hands: { meter },
                  seek: {
                    channel: 'contact',
                    to: 1,
                    title: 'It closes',
                    way: rising ? -1 : 1,
                    by: RUNS_BY,
                    most: RUNS_MOST,
                    settles_s: 1,
                    ended: 'Its end, and open still',
                  },
                },
              ),
            ],
          ),
          s.turn(
            `run-${id}`,
            id,
            `${title}, run to it`,
            `Meter across its contact. ${title} slowly ${rising ? 'up' : 'down'} until it opens.`,
            {
              cautions: ['live'],
              needs: { power: 'dead' },
              permit: 'mains',
              tools: ['screwdriver', 'meter'],
              hands: { meter },
              why: 'What it shows as it opens, less what stands at its tap, is the error of its dial.',
              seek: {
                channel: 'contact',
                to: 0,
                title: 'It opens',
                way: rising ? 1 : -1,
                by: RUNS_BY,
                most: RUNS_MOST,
                settles_s: 1,
                ended: 'Its end, and closed still',
              },
            },
          ),
        ],
      ),
    ],
  );
};

const dialTurn = (plan: Plan, x: SwitchSetting): Node => {
  const id = now.DIALS[x];
  const { title, unit } = { title: parts.screw(id).title, unit: 'inH2O' };
  const air = x === 'airTrip' || x === 'mainTrip';
  const cautions = air ? (['live', 'air'] as const) : (['live'] as const);
  return branch(
    (j) => now.dialsDue(j).includes(x),
    [
      branch(
        (j) => !now.noted(j, x),
        [
          s.observe(
            `${id}-shows`,
            `${title} shows`,
            `Where does the ${title.toLowerCase()} stand? Mark it.`,
            { shows: title, none: 'Its figures cannot be read' },
            {
              cautions,
              needs: { power: 'dead' },
              shows: {
                channel: id,
                title,
                unit,
                step: air ? 0.05 : 0.25,
                lower: 0,
                upper: air ? 10 : 70,
              },
              why: 'A dial is a claim; how far it is moved counts.',
            },
          ),
        ],
      ),
      ...(x === 'lowGas' || x === 'highGas' ? [runTo(plan, x)] : []),
      branch(
        (j) => !untripped(j.plan, x),
        [
          branch(
            (j) => byAdvice(j, id),
            [
              s.turn(`turn-${id}`, id, title, `${title}.`, {
                cautions,
                needs: { power: 'dead' },
                permit: 'mains',
                tools: ['screwdriver'],
              }),
            ],
          ),
        ],
        [
          branch(
            (j) => now.byFigure(j, x) !== undefined,
            [
              s.turn(
                `figure-${id}`,
                id,
                `${title}, by its figure`,
                (j) => `${title} to ${j.say(now.wantedAt(j, x) ?? 0, x)}, by its figure:`,
                {
                  cautions,
                  needs: { power: 'dead' },
                  permit: 'mains',
                  tools: ['screwdriver'],
                  amount: (j) => now.byFigure(j, x) ?? 0,
                },
              ),
            ],
          ),
        ],
      ),
    ],
  );
};

export const dialMoves = (plan: Plan): readonly Node[] => {
  const switches = switchesOf(plan);
  if (switches.length === 0) return [];
  return [
    // What was not had as it was found, because it was not fired then.
    branch(
      (j) => now.pressuresDone(j) && !now.hopeless(j) && !switches.every((x) => untripped(j.plan, x)),
      [
        ...trips(plan, 'set', 'left', ['lowGas', 'highGas']),
        branch((j) => now.airDue(j) && !now.hopeless(j), [airNormal('set-air-normal', 'left')]),
        ...trips(plan, 'set', 'left', ['airTrip', 'mainTrip']),
      ],
    ),
    branch(
      (j) => now.pressuresDone(j) && now.turnsDials(j) && !now.hopeless(j),
      [
        book('dials', (j) => planned(j, switches)),
        branch(agreed('dials'), [
          s.confirm(
            'lock',
            'Locked off, tried',
            'Cock shut. Lock it off, then call for heat: nothing may happen.',
            {
              cautions: ['live', 'gas'],
              sets: { burner: 'off', gas: 'shut', power: 'off' },
              hands: { burner: 0, fan: 0, cock: 0, bleed: 0, bulb: 0, tube: 0, let: 0, meter: 0, power: 0 },
            },
          ),
          s.confirm(
            'dead',
            'Cover off, proved dead',
            'Cover off as if live. Prove dead: tester, terminals, tester.',
            {
              cautions: ['live'],
              needs: { power: 'off' },
              sets: { power: 'dead' },
              permit: 'mains',
              tools: ['voltage tester'],
            },
          ),
          ...switches.map((x) => dialTurn(plan, x)),
          s.confirm('cover', 'Cover on, lock off', 'Cover on. Take the lock off.', {
            cautions: ['moving'],
            // Opened for a dial that was run to it, it is shut before anything can call for heat.
            needs: { gas: 'shut' },
            sets: { power: 'on' },
            hands: { power: 1 },
            why: 'The cover is the lock of a dial: what is tripped from here on counts.',
          }),
        ]),
      ],
    ),
    branch(
      (j) => now.pressuresDone(j) && !now.hopeless(j) && !switches.every((x) => untripped(j.plan, x)),
      [
        ...trips(plan, 'more', 'left', ['lowGas', 'highGas']),
        ...trips(plan, 'more', 'left', ['airTrip', 'mainTrip']),
      ],
    ),
  ];
};

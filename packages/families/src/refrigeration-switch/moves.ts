// What the running system and nitrogen have in common: the decision, the lock, the plates, the spindles.
import { branch, type JobView, type Node, type Plan } from '@firm-needle/core/procedure';
import type { NamesIn } from '../define/index.js';
import type { parts } from './parts.js';
import { hasHigh, hasLow, lowByKnob, s } from './parts.js';
import { hpDiffOf } from './ladder.js';
import * as now from './state.js';
import { decision, type Decided } from '../shared/decision.js';

export type Names = NamesIn<typeof parts>;

/** Under this the high side frees, in words. */
export const freesAt = (job: JobView): string => {
  const stop = job.readings('hpStop').at(-1)?.value ?? job.plan.values['hpStop'] ?? 0;
  return job.say(stop - hpDiffOf(job.plan), 'hpStop');
};

export function advisedDecision(job: JobView): Decided {
  const out = (code: Decided['code'], say: string): Decided => ({ code, say });
  if (now.notStopped(job))
    return out('replace', 'It did not stop on its high side: replace it. It stays locked off.');
  if (now.resetItself(job))
    return out('replace', 'It starts again by itself where a knob is planned: replace it.');
  if (now.refuses(job) || now.knobRefuses(job))
    return out('replace', 'It does not close again, though it may: replace it.');
  if (now.scatters(job)) return out('replace', 'It never acts at the same pressure twice: replace it.');
  if (now.cleared(job) > 0)
    return out('adjust', 'Its tube was shut: read it again before any spindle is moved.');
  if (now.allInside(job)) return out('leave', 'Everything stands inside its limits. Leave it as found.');
  if (now.workSides(job).every((x) => now.sideInside(job, x)) && !now.blindLow(job))
    return out('leave', 'What could be read stands inside its limits.');
  return out(
    'adjust',
    now.ranOn(job)
      ? 'It ran on to the floor: its differential is wider than its start allows.'
      : now.notMade(job)
        ? 'It was not made: its start stands too high.'
        : 'Out of its limits, or not surely inside: adjust.',
  );
}

/** Where in the walk a step stands: in service, by nitrogen there, on the bench, or proved after it was fitted. Each has keys of its own. */
export type Place = '' | 'n-' | 'b-' | 'new-';

/** Both points late: the tube is looked at before any spindle is. */
export const tube = (place: Place): Node =>
  branch(now.late, [
    s.observe(
      `${place}tube`,
      'Tube to the switch',
      'Both points come late. Isolate and recover, then blow the tube to the switch through: was it free?',
      {
        free: { title: 'Free', advised: true },
        blocked: 'Blocked or pinched: cleared or changed',
      },
      {
        cautions: ['refrigerant', 'electric'],
        permit: 'refrigerant',
        sets: { power: 'off' },
        hands: { power: 0, tube: 1 },
        why: 'What feels the pressure late stops too low and starts too high: no spindle mends that.',
      },
    ),
  ]);

export const decide = (place: Place): readonly Node[] => [
  ...(place === '' ? [tube('')] : []),
  decision(s, advisedDecision, `${place}decide`),
];

export const lock = (key: string): Node =>
  s.confirm(key, 'Locked off, tried', 'Lock it off and call for cooling: it must stay still.', {
    cautions: ['electric'],
    sets: { power: 'off' },
    hands: { power: 0 },
  });
export const platesOff = (key: string): Node =>
  branch(
    (j) => j.fact('plates') !== 'off',
    [
      s.confirm(key, 'Plates off', 'Mark the spindles. Locking screws out, plates off.', {
        sets: { plates: 'off' },
        hands: { plates: 0 },
        tools: ['screwdriver'],
      }),
    ],
  );

type Needs = NonNullable<Parameters<typeof s.turn>[4]>['needs'];
const CAUTIONS = {
  range: ['electric'],
  diff: ['electric', 'vacuum'],
  high: ['electric', 'high'],
} as const;
const TITLES = {
  range: 'Low start spindle',
  diff: 'Low differential spindle',
  high: 'High stop spindle',
} as const;
type Screw = keyof typeof TITLES;
const screwsOf = (plan: Plan): readonly Screw[] => [
  ...(hasLow(plan) ? (['range'] as const) : []),
  ...(hasLow(plan) && !lowByKnob(plan) ? (['diff'] as const) : []),
  ...(hasHigh(plan) ? (['high'] as const) : []),
];

/** The spindle that is next, as the advisor says; the high one comes to its mark from below. */
export const turns = (plan: Plan, place: Place, needs: Needs): Node =>
  branch(
    now.wantsTurn,
    screwsOf(plan).map((id) =>
      branch(
        (j) => now.screw(j) === id,
        [
          s.turn(`${place}turn-${id}`, id, TITLES[id], `${TITLES[id]}.`, {
            cautions: CAUTIONS[id],
            needs,
            permit: 'refrigerant',
            tools: ['screwdriver'],
          }),
        ],
      ),
    ),
  );

/** By its usual rate, until it is seen to stop, or to start. */
export const blindTurns = (plan: Plan, place: Place, needs: Needs): Node =>
  branch(
    (j) => now.blind(j) !== undefined,
    screwsOf(plan)
      .filter((id) => id !== 'high')
      .map((id) =>
        branch(
          (j) => now.blind(j)?.screw === id,
          [
            s.turn(
              `${place}blind-${id}`,
              id,
              id === 'diff' ? 'Until it stops' : 'Until it acts',
              (j) =>
                now.notMade(j)
                  ? 'It was not made: its start comes down, by its usual rate.'
                  : 'It did not stop: its stop comes up, by its usual rate.',
              {
                cautions: CAUTIONS[id],
                needs,
                permit: 'refrigerant',
                tools: ['screwdriver'],
                amount: (j) => now.blind(j)?.turns ?? 0,
              },
            ),
          ],
        ),
      ),
  );

export const turning = (j: JobView): boolean => now.wantsTurn(j) || now.blind(j) !== undefined;
/** All landed and read: the plates go on, before the proof. */
export const toLock = (j: JobView): boolean =>
  now.adjusting(j) && now.rests(j) && !now.proved(j) && !now.relocked(j) && (now.turned(j) || !j.finds);
/** Low or high side to be read: moved and not read since, or to be proved once the plates are on. */
export const toRead =
  (side: now.Side) =>
  (j: JobView): boolean =>
    now.adjusting(j) &&
    now.workSides(j).includes(side) &&
    !now.hopeless(j) &&
    (now.dueSide(j, side) || (side === 'low' && now.blindLow(j)) || now.toProve(j, side));

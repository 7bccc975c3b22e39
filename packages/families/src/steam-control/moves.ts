// What pump and running boiler have in common: the lock, the pointers, the decision, the screws, the circuit.
import { branch, type JobView, type Node, type Plan } from '@firm-needle/core/procedure';
import type { NamesIn } from '../define/index.js';
import { parts, read, s } from './parts.js';
import * as now from './state.js';
import { decision, type Decided } from '../shared/decision.js';

type Names = NamesIn<typeof parts>;

export const lock = (key: string): Node =>
  s.confirm(key, 'Burner locked off', 'Lock the burner off, then turn the thermostat up: it must stay out.', {
    cautions: ['live'],
    sets: { power: 'off' },
    hands: { power: 0, call: 1 },
    why: 'A burner that lights now is fed from somewhere else.',
  });

/** Its contact opened when this step was taken last. */
export const opened =
  (trip: string) =>
  (j: JobView): boolean => {
    const otherwise = j.state.observations.findLast((o) => o.body.at.key === trip)?.order ?? 0;
    return otherwise === 0 || j.state.reads.some((r) => r.body.at.key === trip && r.order > otherwise);
  };
const unitOf = (plan: Plan): string => (plan.variant === 'ounce' ? 'ozf/in2' : 'psi');
const pointer = (key: 'main' | 'diff', title: string, plan: Plan): Node =>
  s.observe(
    `${key}-pointer`,
    title,
    `Where does the ${key === 'main' ? 'main' : 'differential'} pointer stand?`,
    { shows: title, none: 'It has none, or it is loose' },
    {
      why: 'A pointer is no reading; how far it is moved counts, and how far off it stands is said on the tag.',
      shows: {
        channel: `${key}-pointer`,
        title,
        unit: unitOf(plan),
        step: 0.05,
        lower: 0,
        upper: plan.variant === 'ounce' ? 60 : 30,
      },
    },
  );

/** What to do after the as-found readings, with its reason. */
export function advisedDecision(job: JobView): Decided {
  const out = (code: Decided['code'], say: string): Decided => ({ code, say });
  if (now.burnt(job)) return out('replace', 'Burnt or wet inside: replace it.');
  if (now.welded(job)) return out('replace', 'Its contact does not open: replace it.');
  if (now.runsPast(job))
    return out(
      'leave',
      'It ran past where it should stop: left locked off. Look at its siphon, then at it on the pump.',
    );
  if (now.hasMercury(job) && read(job.plan).choice.mercury === 'replace')
    return out(
      'replace',
      'A mercury bulb, and the plan has it replaced: hazardous waste, recovered by the rules.',
    );
  if (now.scatters(job)) return out('replace', 'It never acts at the same pressure twice: replace it.');
  const lowest = now.atItsLowest(job);
  if (lowest)
    return out(
      'replace',
      `It cannot hold both points: at its lowest it would act at ${job.say(lowest.out, 'cutOut')} and ${job.say(lowest.in, 'cutIn')}. Replace it.`,
    );
  if (now.toLevel(job))
    return out(
      'adjust',
      'It hangs off its mark: hold it plumb, and read it again before any screw is moved.',
    );
  if (now.staysOpen(job) && job.verdict('cutOut', 'found')?.word !== 'out')
    return out('replace', 'It does not close again: no heat. Replace it.');
  if (now.allInside(job)) return out('leave', 'Everything stands inside its limits. Leave it as found.');
  return out(
    'adjust',
    now.full(job)
      ? 'It stands above what was pumped: bring the main pointer down first.'
      : 'Out of its limits, or not surely inside: adjust.',
  );
}

export const decide = (plan: Plan): readonly Node[] => [
  branch((j) => now.shownAt(j, 'main-pointer') === undefined, [pointer('main', 'Main pointer', plan)]),
  branch(
    (j) => !now.isLimit(j) && now.shownAt(j, 'diff-pointer') === undefined,
    [pointer('diff', 'Differential pointer', plan)],
  ),
  decision(s, advisedDecision),
];

const turnOf = (id: Names['screw'], needs: NonNullable<Parameters<typeof s.turn>[4]>['needs']): Node =>
  branch(
    (j) => now.screw(j) === id,
    [
      s.turn(`turn-${id}`, id, parts.screw(id).title, `${parts.screw(id).title}.`, {
        cautions: ['live', 'mercury'],
        needs,
        hands: { pump: -2 },
        permit: 'mains',
        tools: [parts.screw(id).tool],
      }),
    ],
  );
const SCREWS = ['main', 'diff', 'mainLow', 'wheel', 'mainOunce', 'diffOunce'] as const;
export const turns = (needs: Parameters<typeof turnOf>[1]): Node =>
  branch(
    now.wantsTurn,
    SCREWS.map((id) => turnOf(id, needs)),
  );

/** Held plumb, before any screw is moved. */
export const level: Node = branch(now.toLevel, [
  s.confirm('level', 'Held plumb', 'Hold it so that its pendulum hangs on its mark, and keep it so.', {
    cautions: ['mercury'],
    needs: { power: 'dead' },
    hands: { hang: 1 },
  }),
]);

/** Where its main pointer should stand, were its scale true. */
const goalOf = (job: JobView): number => job.plan.values[now.lead(job)] ?? 0;

/** The main pointer comes down by its scale, to what is wanted: nothing could be read above what was pumped. */
export const comeDown: Node = branch(
  now.tooHigh,
  (['main', 'mainLow', 'mainOunce'] as const).map((id) =>
    branch(
      (j) => now.mainScrew(j) === id,
      [
        s.turn(
          id === 'main' ? 'main-down' : `main-down-${id}`,
          id,
          'Main pointer down',
          (j) => `Bring the main pointer down to ${j.say(goalOf(j), now.lead(j))}, by its scale:`,
          {
            cautions: ['live', 'mercury'],
            needs: { power: 'dead' },
            hands: { pump: -2 },
            permit: 'mains',
            tools: [parts.screw(id).tool],
            amount: (j) =>
              Math.min(
                -parts.screw(id).quantum,
                goalOf(j) - (now.pointerNow(j, 'main-pointer') ?? 2 * goalOf(j)),
              ),
          },
        ),
      ],
    ),
  ),
);

/** Turned down so far that it does not close again: closing is got back first, by the scale. */
export const regain: Node = branch(
  (j) => now.regain(j) !== undefined,
  (['main', 'diff', 'mainLow', 'mainOunce', 'diffOunce'] as const).map((id) =>
    branch(
      (j) => now.regain(j)?.screw === id,
      [
        s.turn(
          `regain-${id}`,
          id,
          'Until it closes again',
          id.startsWith('main')
            ? 'It does not close again. The main pointer up, by its scale:'
            : 'It does not close again. The differential narrower, by its scale:',
          {
            cautions: ['live', 'mercury'],
            needs: { power: 'dead' },
            hands: { pump: -2 },
            permit: 'mains',
            tools: [parts.screw(id).tool],
            amount: (j) => now.regain(j)?.amount ?? 0,
          },
        ),
      ],
    ),
  ),
);

export const tap: Node = branch(
  (j) => now.turned(j) && now.rests(j) && !now.unread(j) && !now.tapped(j),
  [
    s.confirm(
      'tap',
      'Driver away, case tapped',
      'Driver away. Tap the case twice: its last touch is the lock.',
      {
        why: 'A pair read before the last touch proves nothing.',
      },
    ),
  ],
);

export const adjusting = (job: JobView): boolean => now.decision(job) === 'adjust';

export const powerOn = (key: string): Node =>
  s.confirm(key, 'Power on, calling', 'Take the lock off, power on, thermostat calling.', {
    cautions: ['firing'],
    needs: { cover: 'on' },
    sets: { power: 'on' },
    hands: { power: 1, call: 1 },
  });

/** By its circuit, where the load keeps the pressure under its cut-out: or where it did not stop the burner. */
export const byCircuit = (at: '' | 'end-' | 'live-'): readonly Node[] => [
  s.observe(
    `${at}lead`,
    'Its circuit opens the burner',
    'Lock off, cover off as if live, prove dead. One lead off and capped, cover on. Then power on, calling: the burner must stay out.',
    {
      out: { title: 'It stays out', advised: true },
      lights: { title: 'It lights: switched off', sets: { power: 'off' } },
    },
    {
      cautions: ['live', 'firing'],
      permit: 'mains',
      sets: { power: 'off', cover: 'on' },
      hands: { power: 0 },
    },
  ),
  s.confirm(`${at}lead-back`, 'Lead back', 'Lock off, prove dead, lead back on, cover on.', {
    cautions: ['live'],
    permit: 'mains',
    sets: { power: 'off', cover: 'on' },
    hands: { power: 0 },
  }),
  // What lights without its control, or ran past it, stays off.
  branch((j) => !now.leftOff(j), [powerOn(`${at}lead-on`)]),
];

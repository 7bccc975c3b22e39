import {
  branch,
  until,
  type JobView,
  type Node,
  type Phase,
  type Plan,
  type Procedure,
  type Words,
} from '@firm-needle/core/procedure';
import type { FaceOf, NamesIn } from '../define/index.js';
import { airDiffers, expectedSpan, restOf, setAtSpan, spanError } from './judge.js';
import { parts, s } from './parts.js';
import { fluidOf, isColumn, isCompared, POINTS } from './points.js';
import * as now from './state.js';

type Face = FaceOf<NamesIn<typeof parts>>;

const label = (job: JobView): string => job.gauge('test')?.label ?? 'the gauge';

const zeroed = (job: JobView): string => {
  const raises = job.gauge('test')?.raises;
  return `Read ${label(job)} vented, upright as it is used. Where it stands off zero, take the access plug out and turn its screw until the needle rests on zero.${raises ? ` Last time ${raises} raised it.` : ''}`;
};

const opening: Node[] = [
  s.confirm('cautions', 'Cautions', 'Read the cautions before the first step.', {
    cautions: parts.cautions.map((c) => c.key as 'eyes'),
    sets: { cautions: 'read' },
    act: 'Read and understood',
  }),
  s.confirm(
    'vented',
    'Hoses off, vented',
    'Take the hoses off and open the valves of a set, so that its gauges see only air. Hold it as it is used.',
    { cautions: ['trapped', 'eyes', 'recover'], sets: { gauge: 'vented' }, hands: { port: 0 } },
  ),
  s.zero('zero', 'test', 'Zero of the gauge', zeroed, {
    adjust: true,
    tools: ['small screwdriver'],
    why: 'Zero first: the screw shifts the whole scale, and every later reading stands on it.',
    needs: { cautions: 'read' },
    hands: { port: 0 },
    phase: 'found',
    needed: true,
  }),
  branch(now.zeroWasSet, [
    s.observe(
      'way',
      'Which way raised it',
      'Which way of the screw raised the needle?',
      { clockwise: 'Clockwise', 'counter-clockwise': 'Counter-clockwise' },
      { why: 'It is not the same on every gauge; it is kept with this one.' },
    ),
    s.confirm('plug', 'Access plug in', 'Put the access plug back.'),
  ]),
  s.observe(
    'tap',
    'Tap the case',
    'Tap the case lightly. Does the needle move to another place?',
    { still: { title: 'It stays', advised: true }, moves: 'It jumps' },
    {
      why: 'A needle that jumps when tapped sticks: it may be anywhere within that jump.',
      hands: { tap: 1 },
    },
  ),
];

const readCylinder = s.read(
  'cylinder',
  'cylinder',
  'Cylinder surface',
  'Hold the thermometer to the cylinder low down, where the liquid is, under a pad.',
  {
    why: (job) =>
      (restOf(job)?.n ?? 0) === 0
        ? 'The liquid’s temperature decides the pressure; the air’s does not.'
        : 'Two readings in a row must agree: only then is it at rest.',
    phase: 'found',
    hands: { probe: 1 },
    tools: ['surface thermometer'],
  },
);

const readSpan = (key: string, title: string, phase: Phase): Node =>
  s.read(key, 'span', title, (job) => `Tap ${label(job)} and read it.`, {
    why: (job) => {
      const e = expectedSpan(job);
      return e
        ? `At the cylinder’s temperature ${job.say(e.value, 'span')} is expected; one degree is worth ${job.sayWidth((e.slope * 5) / 9, 'span')}/°F.`
        : '';
    },
    phase,
    needs: { cylinder: 'open' },
    hands: { bleed: 0, tap: 1 },
  });

const rest = (key: string, title: string, say: Words, minutes: number): Node =>
  s.wait(key, title, say, 60 * minutes);

const connected: readonly Node[] = [
  s.confirm(
    'connect',
    'Hose on, bled',
    'Connect the hose. Invert the cylinder so that liquid stands at its outlet, open it slowly, crack the hose at the gauge for a moment to drive the air out, and tighten it.',
    {
      cautions: ['eyes', 'recover'],
      sets: { cylinder: 'open', gauge: 'connected' },
      hands: { port: 1, valve: 1, bleed: 1 },
      tools: ['goggles', 'gloves'],
    },
  ),
  until(now.spanAgrees, [
    readSpan('span', 'Gauge at the cylinder', 'found'),
    branch(
      (j) => !now.spanAgrees(j),
      [
        s.confirm(
          'bleed',
          'Bleed once more',
          'Crack the hose at the gauge once more for a moment. A reading that falls had air in the hose.',
          { cautions: ['eyes', 'recover'], hands: { bleed: 1 } },
        ),
      ],
    ),
  ]),
  branch(
    (j) => j.plan.school === 'set-at-span' && now.spanOut(j),
    [
      s.confirm(
        'to-span',
        'Needle to the span pressure',
        (j) => {
          const e = expectedSpan(j);
          const off = spanError(j, 'found');
          return `Take the access plug out and set the needle from ${j.say((e?.value ?? 0) + (off?.value ?? 0), 'span')} to ${j.say(e?.value ?? 0, 'span')}. Put the plug back. Its zero will then be wrong by as much.`;
        },
        { hands: { screw: 1 }, tools: ['small screwdriver'] },
      ),
      readSpan('span-set', 'Gauge after setting it', 'left'),
    ],
  ),
];

const atCylinder: Node[] = [
  s.confirm(
    'stand',
    'Cylinder in a steady place',
    'Stand the cylinder out of the sun and of draughts, with some liquid in it and never heated.',
    { cautions: ['heat'] },
  ),
  s.read(
    'air',
    'air',
    'Air beside it',
    'Hold the thermometer in the air beside the cylinder, in the shade.',
    { phase: 'found', hands: { probe: 0 } },
  ),
  until(now.rested, [
    readCylinder,
    branch(
      (j) => !now.rested(j) && !now.restless(j),
      [rest('rest-a-while', 'Let it rest', 'Leave it and wait five minutes before reading it again.', 5)],
    ),
    branch(
      (j) => !now.rested(j) && now.restless(j),
      [
        s.confirm(
          'to-shade',
          'Into the shade',
          (j) =>
            airDiffers(restOf(j) ?? { T: 0, settled: false, gap: 0, n: 0 })
              ? 'The cylinder is not as warm as the air: it is not at rest. Move it into the shade, away from anything warm.'
              : 'Its surface is still changing: it is not at rest. Move it into the shade, away from anything warm.',
          { cautions: ['heat'], hands: { place: 0 } },
        ),
        rest(
          'rest-long',
          'Let it come to rest',
          'Leave it for twenty minutes, then read the surface again.',
          20,
        ),
      ],
    ),
  ]),
  s.observe(
    'suits',
    'Set made for it',
    (j) =>
      `Is this set marked for ${fluidOf(j.plan) ?? 'this refrigerant'}: rated for its pressure, its oil and its fittings?`,
    { yes: { title: 'It is', advised: true }, no: 'It is not, or cannot be told' },
    {
      why: 'The wrong oil fouls the system, and a hose that is not rated for it bursts.',
      cautions: ['eyes'],
    },
  ),
  branch(now.suits, connected),
];

const atPoints: Node[] = [
  s.confirm(
    'fit-both',
    'Both gauges vented',
    (j) =>
      isColumn(j.plan)
        ? 'Fill the column to its zero mark, level it, and leave the hose off. Note the water’s temperature with the column.'
        : 'Lay both gauges at one height, open to the air.',
    { hands: { port: 0 } },
  ),
  s.zero(
    'reference-zero',
    'reference',
    'Zero of the better gauge',
    (j) => `Read ${j.gauge('reference')?.label ?? 'the better gauge'} vented.`,
    { phase: 'found', hands: { port: 0 }, needed: true },
  ),
  s.confirm(
    'on-pump',
    'Both on the pump',
    'Fit both gauges on the hand pump, at one height, and look for leaks.',
    {
      cautions: ['overrange'],
      sets: { pump: 'connected', gauge: 'connected' },
      hands: { port: 2, pump: 0 },
      tools: ['hand pump or bulb'],
    },
  ),
  ...POINTS.flatMap(({ id, way, part }): readonly Node[] => {
    const [title, move, not] =
      way === 'up' ? ['Rising', 'Raise', ', never past it'] : ['Falling', 'Lower', ', from above'];
    // The end of the scale stands at its own step.
    const end: Face = part === 1 ? { why: 'The end of the scale: stop there.', cautions: ['overrange'] } : {};
    const better = (j: JobView): string => j.gauge('reference')?.label ?? 'the better gauge';
    const at = (j: JobView): string => j.say(j.plan.values[id] ?? 0, id);
    // A gauge is as good as it is at every point.
    const face = { phase: 'found', needs: { pump: 'connected' }, needed: true } as const;
    return [
      s.read(
        `point-${id}`,
        id,
        `${title}, ${part * 100} %`,
        (j) =>
          `${move} the pressure until ${better(j)} stands at ${at(j)}${not}. Tap both, then read ${label(j)}.`,
        { ...face, hands: { pump: part, tap: 1 }, ...end },
      ),
      until(
        (j) => !now.pointAgain(j, id),
        [
          s.read(
            `again-${id}`,
            id,
            `${title}, ${part * 100} %, once more`,
            (j) =>
              `${j.readings(id).length > 1 ? 'The two do not agree' : 'That is out of its class'}: leave the pressure, see that ${better(j)} stands at ${at(j)}, tap both, and read ${label(j)} once more.`,
            { ...face, hands: { tap: 1 }, why: 'One reading condemns no gauge: it may have been misread.' },
          ),
        ],
      ),
    ];
  }),
];

const restore: Node[] = [
  branch(
    (j) => j.fact('cylinder') === 'open' || now.everConnected(j),
    [
      s.confirm(
        'close',
        'Cylinder closed, hose emptied',
        'Close the cylinder first. Empty the hose into the recovery cylinder, then take it off.',
        {
          cautions: ['trapped', 'recover', 'eyes'],
          sets: { cylinder: 'closed', gauge: 'vented' },
          hands: { valve: 0, port: 0 },
        },
      ),
    ],
  ),
  branch(now.everPumped, [
    s.confirm('release', 'Pump released', 'Release the pump to nothing and take both gauges off.', {
      sets: { pump: 'released', gauge: 'vented' },
      hands: { pump: 0, port: 0 },
    }),
  ]),
  branch(now.everZeroed, [
    s.zero('zero-again', 'test', 'Zero again', (job) => `Read the zero of ${label(job)} once more, vented.`, {
      why: (job) =>
        setAtSpan(job)
          ? 'The needle was set at the span pressure: this is what that did to its zero.'
          : 'A zero that does not come back casts doubt on the readings between.',
      needs: { gauge: 'vented' },
      hands: { port: 0 },
      phase: 'left',
    }),
  ]),
  s.confirm(
    'mark',
    'Marked',
    'On the gauge’s label: the date, the result, and when it is due again. One that is unfit goes out of the bag at once.',
  ),
];

/** Cautions, zero and a tap of the case; then what its variant holds it against, where it could be zeroed at all. */
export const walk = (plan: Plan): Procedure => ({
  body: [
    ...opening,
    ...(fluidOf(plan) ? [branch(now.zeroFit, atCylinder)] : []),
    ...(isCompared(plan) ? [branch(now.zeroFit, atPoints)] : []),
  ],
  restore,
});

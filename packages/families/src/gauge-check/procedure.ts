import {
  branch,
  until,
  type ConfirmStep,
  type JobView,
  type Node,
  type ObserveStep,
  type Plan,
  type Procedure,
  type ReadStep,
  type ZeroStep,
} from '@firm-needle/core/procedure';
import { airDiffers, expectedSpan, restOf, setAtSpan, spanError } from './judge.js';
import { fluidOf, isColumn, isCompared, POINTS } from './points.js';
import * as now from './state.js';

const label = (job: JobView): string => job.gauge('test')?.label ?? 'the gauge';

const zero = (key: string, over: Partial<ZeroStep> = {}): ZeroStep => ({
  kind: 'zero',
  key,
  title: 'Zero of the gauge',
  slot: 'test',
  say: (job) => {
    const raises = job.gauge('test')?.raises;
    return `Read ${label(job)} vented, upright as it is used. Where it stands off zero, take the access plug out and turn its screw until the needle rests on zero.${raises ? ` Last time ${raises} raised it.` : ''}`;
  },
  why: 'Zero first: the screw shifts the whole scale, and every later reading stands on it.',
  needs: { cautions: 'read' },
  hands: { port: 0 },
  phase: 'found',
  ...over,
});

const opening: Node[] = [
  {
    kind: 'confirm',
    key: 'cautions',
    title: 'Cautions',
    say: 'Read the cautions before the first step.',
    cautions: ['eyes', 'trapped', 'heat', 'recover', 'overrange', 'manual'],
    sets: { cautions: 'read' },
    act: 'Read and understood',
  },
  {
    kind: 'confirm',
    key: 'vented',
    title: 'Hoses off, vented',
    say: 'Take the hoses off and open the valves of a set, so that its gauges see only air. Hold it as it is used.',
    cautions: ['trapped'],
    sets: { gauge: 'vented' },
    hands: { port: 0 },
  },
  zero('zero', { adjust: true, tools: ['small screwdriver'] }),
  branch(now.zeroWasSet, [
    {
      kind: 'observe',
      key: 'way',
      title: 'Which way raised it',
      say: 'Which way of the screw raised the needle?',
      why: 'It is not the same on every gauge; it is kept with this one.',
      choices: [
        { code: 'clockwise', title: 'Clockwise' },
        { code: 'counter-clockwise', title: 'Counter-clockwise' },
      ],
    },
    { kind: 'confirm', key: 'plug', title: 'Access plug in', say: 'Put the access plug back.' },
  ]),
  {
    kind: 'observe',
    key: 'tap',
    title: 'Tap the case',
    say: 'Tap the case lightly. Does the needle move to another place?',
    why: 'A needle that jumps when tapped sticks: it may be anywhere within that jump.',
    hands: { tap: 1 },
    choices: [
      { code: 'still', title: 'It stays', advised: () => true },
      { code: 'moves', title: 'It jumps' },
    ],
  } satisfies ObserveStep,
];

const readCylinder: ReadStep = {
  kind: 'read',
  key: 'cylinder',
  title: 'Cylinder surface',
  say: 'Hold the thermometer to the cylinder low down, where the liquid is, under a pad.',
  why: (job) =>
    (restOf(job)?.n ?? 0) === 0
      ? 'The liquid’s temperature decides the pressure; the air’s does not.'
      : 'Two readings in a row must agree: only then is it at rest.',
  setting: 'cylinder',
  slot: 'thermometer',
  catch: 'firm',
  phase: 'found',
  hands: { probe: 1 },
  tools: ['surface thermometer'],
};

const readSpan = (key: string, phase: 'found' | 'left'): ReadStep => ({
  kind: 'read',
  key,
  title: phase === 'found' ? 'Gauge at the cylinder' : 'Gauge after setting it',
  say: (job) => `Tap ${label(job)} and read it.`,
  why: (job) => {
    const e = expectedSpan(job);
    return e
      ? `At the cylinder’s temperature ${job.say(e.value, 'span')} is expected; one degree is worth ${job.sayWidth((e.slope * 5) / 9, 'span')}/°F.`
      : '';
  },
  setting: 'span',
  slot: 'test',
  catch: 'firm',
  phase,
  needs: { cylinder: 'open' },
  hands: { bleed: 0, tap: 1 },
});

const confirm = (
  key: string,
  title: string,
  say: ConfirmStep['say'],
  over: Partial<ConfirmStep> = {},
): ConfirmStep => ({
  kind: 'confirm',
  key,
  title,
  say,
  ...over,
});

const atCylinder: Node[] = [
  confirm(
    'stand',
    'Cylinder in a steady place',
    'Stand the cylinder out of the sun and of draughts, with some liquid in it and never heated.',
    { cautions: ['heat'] },
  ),
  {
    kind: 'read',
    key: 'air',
    title: 'Air beside it',
    say: 'Hold the thermometer in the air beside the cylinder, in the shade.',
    setting: 'air',
    slot: 'thermometer',
    catch: 'firm',
    phase: 'found',
    hands: { probe: 0 },
  },
  until(now.rested, [
    readCylinder,
    branch(
      (j) => !now.rested(j) && !now.restless(j),
      [
        {
          kind: 'wait',
          key: 'rest-a-while',
          title: 'Let it rest',
          say: 'Leave it and wait five minutes before reading it again.',
          seconds: 300,
        },
      ],
    ),
    branch(
      (j) => !now.rested(j) && now.restless(j),
      [
        confirm(
          'to-shade',
          'Into the shade',
          (j) =>
            airDiffers(restOf(j) ?? { T: 0, settled: false, gap: 0, n: 0 })
              ? 'The cylinder is not as warm as the air: it is not at rest. Move it into the shade, away from anything warm.'
              : 'Its surface is still changing: it is not at rest. Move it into the shade, away from anything warm.',
          { cautions: ['heat'], hands: { place: 0 } },
        ),
        {
          kind: 'wait',
          key: 'rest-long',
          title: 'Let it come to rest',
          say: 'Leave it for twenty minutes, then read the surface again.',
          seconds: 1200,
        },
      ],
    ),
  ]),
  confirm(
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
    readSpan('span', 'found'),
    branch(
      (j) => !now.spanAgrees(j),
      [
        confirm(
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
      confirm(
        'to-span',
        'Needle to the span pressure',
        (j) => {
          const e = expectedSpan(j);
          const off = spanError(j, 'found');
          return `Take the access plug out and set the needle from ${j.say((e?.value ?? 0) + (off?.value ?? 0), 'span')} to ${j.say(e?.value ?? 0, 'span')}. Put the plug back. Its zero will then be wrong by as much.`;
        },
        { hands: { screw: 1 }, tools: ['small screwdriver'] },
      ),
      readSpan('span-set', 'left'),
    ],
  ),
];

const atPoints: Node[] = [
  confirm(
    'fit-both',
    'Both gauges vented',
    (j) =>
      isColumn(j.plan)
        ? 'Fill the column to its zero mark, level it, and leave the hose off. Note the water’s temperature with the column.'
        : 'Lay both gauges at one height, open to the air.',
    { hands: { port: 0 } },
  ),
  {
    kind: 'zero',
    key: 'reference-zero',
    title: 'Zero of the better gauge',
    say: (j) => `Read ${j.gauge('reference')?.label ?? 'the better gauge'} vented.`,
    slot: 'reference',
    phase: 'found',
    hands: { port: 0 },
  },
  confirm(
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
  ...POINTS.map(({ id, way, part }): ReadStep => ({
    kind: 'read',
    key: `point-${id}`,
    title: `${way === 'up' ? 'Rising' : 'Falling'}, ${part * 100} %`,
    say: (j) =>
      `${way === 'up' ? 'Raise' : 'Lower'} the pressure until ${j.gauge('reference')?.label ?? 'the better gauge'} stands at ${j.say(j.plan.values[id] ?? 0, id)}${way === 'up' ? ', never past it' : ', from above'}. Tap both, then read ${label(j)}.`,
    ...(part === 1 ? { why: 'The end of the scale: stop there.' } : {}),
    setting: id,
    slot: 'test',
    catch: 'firm',
    phase: 'found',
    needs: { pump: 'connected' },
    hands: { pump: part, tap: 1 },
    ...(part === 1 ? { cautions: ['overrange'] } : {}),
  })),
];

const restore: Node[] = [
  branch(
    (j) => j.fact('cylinder') === 'open' || now.everConnected(j),
    [
      confirm(
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
    confirm('release', 'Pump released', 'Release the pump to nothing and take both gauges off.', {
      sets: { pump: 'released', gauge: 'vented' },
      hands: { pump: 0, port: 0 },
    }),
  ]),
  branch(now.everZeroed, [
    zero('zero-again', {
      title: 'Zero again',
      say: (job) => `Read the zero of ${label(job)} once more, vented.`,
      why: (job) =>
        setAtSpan(job)
          ? 'The needle was set at the span pressure: this is what that did to its zero.'
          : 'A zero that does not come back casts doubt on the readings between.',
      needs: { gauge: 'vented' },
      phase: 'left',
    }),
  ]),
  confirm(
    'mark',
    'Marked',
    'Write the date and the result on the gauge’s label. One that is unfit goes out of the bag at once.',
  ),
];

const body = (plan: Plan): Node[] => [
  ...opening,
  ...(fluidOf(plan) ? [branch(now.zeroFit, atCylinder)] : []),
  ...(isCompared(plan) ? [branch(now.zeroFit, atPoints)] : []),
];

const made = new Map<string, Procedure>();

/** The walk of a variant; made once, so that what is remembered of its steps holds. */
export function procedureOf(plan: Plan): Procedure {
  let p = made.get(plan.variant);
  if (!p) made.set(plan.variant, (p = { body: body(plan), restore }));
  return p;
}

import { defineParts, type SettingSpec } from '../define/index.js';
import { two } from '@firm-needle/core/rig';
import { hysteresis, spanError } from './judge.js';
import { fluidOf, isCompared, POINTS, type PointId } from './points.js';

/** Read on the gauge under test. What scatter there is shows in the readings themselves; with none, it hides inside the readable step. */
const reading = { slot: 'test', from: 0, to: 20_000, sd: 0, dof: 4 } as const;
const temperature = { slot: 'thermometer', unit: 'degF', from: -45, to: 225, sd: 0.18, dof: 20 } as const;
const permitted = {
  unit: '%',
  from: 0.05,
  to: 10,
  required: true,
  hint: 'percent of span, from its class',
} as const;

const points = Object.fromEntries(
  POINTS.map(({ id, part, way }) => [
    id,
    // The figure alone says which point it is.
    { ...reading, title: `${way === 'up' ? 'Rising' : 'Falling'}, ${part * 100} %`, short: '' },
  ]),
) as Readonly<Record<PointId, SettingSpec<'test'>>>;

export const parts = defineParts({
  plate: {
    lowest: { title: 'Scale begins', unit: 'psi', from: -15, to: 1000 },
    fullScale: { title: 'Full scale', unit: 'psi', from: 0.015, to: 20_000, required: true },
    division: { title: 'Division', unit: 'psi', from: 0.000_02, to: 500, required: true },
    permittedMiddle: { ...permitted, title: 'Permitted in the middle half' },
    permittedEnds: { ...permitted, title: 'Permitted outside it' },
  },
  slots: {
    test: { title: 'Gauge under test', medium: 'any', underTest: { against: 'reference' } },
    reference: { title: 'The better gauge', medium: 'any', when: isCompared },
    thermometer: {
      title: 'Thermometer',
      medium: 'any',
      dimension: 'temperature',
      when: (plan) => fluidOf(plan) !== undefined,
    },
  },
  settings: {
    air: { ...temperature, title: 'Air beside the cylinder', short: 'air' },
    cylinder: { ...temperature, title: 'Cylinder surface', short: 'cyl', cycles: 2 },
    span: { ...reading, title: 'Reading at the cylinder', short: 'span', cycles: 2 },
    error: { ...reading, title: 'Span error', short: 'error', had: 'derived', derive: spanError },
    ...points,
    hysteresis: { ...reading, title: 'Hysteresis', short: 'hyst', had: 'derived', derive: hysteresis },
  },
  screws: {},
  cautions: {
    eyes: {
      title: 'Goggles and gloves',
      text: 'Liquid refrigerant freezes skin and eyes; a hose that bursts whips.',
    },
    trapped: {
      title: 'Never trap liquid between closed valves',
      text: 'Liquid shut in a hose bursts it as it warms. Close the cylinder first, then empty the hose.',
    },
    heat: {
      title: 'Never heat a cylinder',
      text: 'No sun, no water bath, no torch: it is read where it has come to rest.',
    },
    recover: {
      title: 'Bleed little, recover the rest',
      text: 'Purge only the air of the hose. What is left goes into a recovery cylinder, not into the air.',
    },
    overrange: {
      title: 'Never past the end of a scale',
      text: 'Raise the pump slowly; stop where either gauge ends.',
    },
    manual: {
      title: 'The maker’s word comes first',
      text: 'Where the gauge’s manual or your own procedure says otherwise, follow it.',
    },
  },
  handles: {
    port: {
      title: 'Gauge',
      positions: [
        { title: 'Vented', value: 0 },
        { title: 'On the cylinder', value: 1 },
        { title: 'On the pump', value: 2 },
      ],
    },
    valve: { title: 'Cylinder', positions: two('Closed', 'Open') },
    place: { title: 'Cylinder stands', positions: two('In the shade', 'In the sun') },
    probe: { title: 'Thermometer', positions: two('In the air', 'On the cylinder') },
    pump: {
      title: 'Pump at',
      positions: [
        { title: 'Nothing', value: 0 },
        ...POINTS.filter((p) => p.way === 'up').map((p) => ({ title: `${p.part * 100} %`, value: p.part })),
      ],
    },
    // What the hand does for a moment, not a place to stand.
    bleed: { title: 'Hose cracked for a moment', positions: [] },
    tap: { title: 'Case tapped', positions: [] },
    screw: { title: 'Needle set at the span', positions: [] },
  },
  facts: {
    cautions: { read: { title: 'Cautions read', say: 'Read the cautions.' } },
    gauge: {
      vented: {
        title: 'Vented',
        say: 'Take the hoses off and open every valve, so that the gauge sees only air.',
        cautions: ['trapped'],
        hands: { port: 0 },
      },
      connected: { title: 'Connected', say: 'Connect the gauge.' },
    },
    cylinder: {
      open: {
        title: 'Cylinder open to the gauge',
        say: 'Connect the hose, open the cylinder slowly, bleed the hose for a moment.',
        cautions: ['eyes', 'heat'],
        hands: { port: 1, valve: 1, bleed: 1 },
      },
      closed: { title: 'Cylinder closed', say: 'Close the cylinder.', hands: { valve: 0 } },
    },
    pump: {
      connected: {
        title: 'Both gauges on the pump',
        say: 'Fit both gauges on the hand pump, at one height.',
        hands: { port: 2, pump: 0 },
      },
      released: { title: 'Pump released', say: 'Release the pump to nothing.', hands: { pump: 0, port: 0 } },
    },
  },
});
export const { steps: s, read } = parts;

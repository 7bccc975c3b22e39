import type { PlateParameter, School, Variant } from '@firm-needle/core/family';
import { errorLimit, type Gauge } from '@firm-needle/core/gauge';
import type { AsTyped, GaugeSlot, Plan, SettingDef } from '@firm-needle/core/procedure';
import { toCanonical } from '@firm-needle/core/quantity';
import { saturationPressure } from '@firm-needle/core/reckon';
import { hysteresis, spanError } from './judge.js';
import { fluidOf, isCompared, POINTS } from './points.js';

const psi = (n: number): number => toCanonical(n, 'psi');

export const variants: readonly Variant[] = [
  { id: 'zero', title: 'Zero only', values: {} },
  { id: 'span-r410a', title: 'Zero, and R-410A at rest', values: { error: 0 } },
  { id: 'span-r134a', title: 'Zero, and R-134a at rest', values: { error: 0 } },
  { id: 'span-r22', title: 'Zero, and R-22 at rest', values: { error: 0 } },
  { id: 'comparison', title: 'Against a better gauge', values: {} },
  { id: 'column', title: 'Against a water column', values: {} },
];

export const schools: readonly School[] = [
  {
    id: 'zero-only',
    title: 'The screw is for zero only',
    because: 'A zero screw shifts the whole scale: a wrong span is a matter for repair.',
    pins: [],
  },
  {
    id: 'set-at-span',
    title: 'Set the needle at the span pressure',
    because:
      'Right near that pressure only; the zero is spoiled by as much, and the gauge is then restricted.',
    pins: [],
  },
];

const pressure = { dimension: 'pressure', unit: 'psi' } as const;

export const plate: readonly PlateParameter[] = [
  { ...pressure, id: 'lowest', title: 'Scale begins', lower: psi(-15), upper: psi(1000), required: false },
  { ...pressure, id: 'fullScale', title: 'Full scale', lower: 100, upper: psi(20000), required: true },
  { ...pressure, id: 'division', title: 'Division', lower: 0.1, upper: psi(500), required: true },
  {
    id: 'permittedMiddle',
    title: 'Permitted in the middle half',
    dimension: 'ratio',
    unit: '%',
    lower: 0.0005,
    upper: 0.1,
    required: true,
    hint: 'percent of span, from its class',
  },
  {
    id: 'permittedEnds',
    title: 'Permitted outside it',
    dimension: 'ratio',
    unit: '%',
    lower: 0.0005,
    upper: 0.1,
    required: true,
    hint: 'percent of span, from its class',
  },
];

/** The plate of a gauge's own control: its scale, and what its class permits. */
export function plateOf(gauge: Gauge): Readonly<Record<string, AsTyped>> {
  const { lower, upper, unit } = gauge;
  const typed = (n: number, u: string): AsTyped => {
    const text = String(Number(n.toPrecision(6)));
    return { text, unit: u, value: toCanonical(Number(text), u) };
  };
  const percent = (at: number): AsTyped =>
    typed((100 * errorLimit(gauge.accuracy, at, lower, upper)) / (upper - lower), '%');
  return {
    lowest: typed(lower, unit),
    fullScale: typed(upper, unit),
    division: typed(gauge.division, unit),
    permittedMiddle: percent((lower + upper) / 2),
    permittedEnds: percent(upper),
  };
}

type PlateValues = Plan['plate'];

export const scaleOf = (plate: PlateValues): { lower: number; span: number } | undefined => {
  const top = plate['fullScale']?.value;
  const lower = plate['lowest']?.value ?? 0;
  return top === undefined || !(top > lower) ? undefined : { lower, span: top - lower };
};

/** What the class permits at a pressure, Pa. */
export function permitted(plate: PlateValues, at: number): number {
  const scale = scaleOf(plate);
  if (!scale) return NaN;
  const place = (at - scale.lower) / scale.span;
  const part = place >= 0.25 && place <= 0.75 ? 'permittedMiddle' : 'permittedEnds';
  return (plate[part]?.value ?? NaN) * scale.span;
}

/** A cylinder in a room is about this warm; only for choosing limits before it was measured, K. */
const ROOM_K = 294;

/** The points' nominal pressures: they follow from the scale. */
export function follows(variant: string, plate: PlateValues): Readonly<Record<string, number>> {
  const scale = scaleOf(plate);
  if (!scale || !isCompared({ variant })) return {};
  return Object.fromEntries(POINTS.map((p) => [p.id, scale.lower + p.part * scale.span]));
}

/** Pressure expected of a cylinder at room temperature, gauge Pa at sea level; undefined without one. */
export function roomPressure(plan: Pick<Plan, 'variant'>): number | undefined {
  const fluid = fluidOf(plan);
  const p = fluid === undefined ? undefined : saturationPressure(fluid, ROOM_K);
  return p?.ok ? p.value.bubble - 101325 : undefined;
}

export const slots: readonly GaugeSlot[] = [
  { id: 'test', title: 'Gauge under test', medium: 'any', underTest: { against: 'reference' } },
  {
    id: 'reference',
    title: 'The better gauge',
    medium: 'any',
    when: isCompared,
  },
  {
    id: 'thermometer',
    title: 'Thermometer',
    medium: 'any',
    dimension: 'temperature',
    when: (plan) => fluidOf(plan) !== undefined,
  },
];

const reading = {
  catch: 'firm',
  dimension: 'pressure',
  unit: 'psi',
  slot: 'test',
  had: 'reading',
  cycles: 1,
  // What scatter there is shows in the readings themselves; with none, it hides inside the readable step.
  repeatability: { sd: 0, dof: 4 },
  caught: 0,
  givable: false,
  lower: 0,
  upper: psi(20000),
} as const;

const temperature = {
  ...reading,
  dimension: 'temperature',
  unit: 'degF',
  slot: 'thermometer',
  repeatability: { sd: 0.1, dof: 20 },
  lower: 230,
  upper: 380,
} as const;

export const settings: readonly SettingDef[] = [
  { ...temperature, id: 'air', title: 'Air beside the cylinder', short: 'air' },
  { ...temperature, id: 'cylinder', title: 'Cylinder surface', short: 'cyl', cycles: 2 },
  { ...reading, id: 'span', title: 'Reading at the cylinder', short: 'span', cycles: 2 },
  { ...reading, id: 'error', title: 'Span error', short: 'error', had: 'derived', derive: spanError },
  ...POINTS.map(({ id, part, way }): SettingDef => ({
    ...reading,
    id,
    title: `${way === 'up' ? 'Rising' : 'Falling'}, ${part * 100} %`,
    // The figure alone says which point it is.
    short: '',
  })),
  { ...reading, id: 'hysteresis', title: 'Hysteresis', short: 'hyst', had: 'derived', derive: hysteresis },
];

/** Everything is said in the unit of the gauge under test; temperatures as that trade reads them. */
export function unitOf(plan: Plan, setting: string): string {
  const unit = plan.plate['fullScale']?.unit ?? 'psi';
  if (settings.find((s) => s.id === setting)?.dimension !== 'temperature') return unit;
  return ['psi', 'psig', 'inHg', 'inH2O', 'ozf/in2'].includes(unit) ? 'degF' : 'degC';
}

import { errorLimit, type Gauge } from '@firm-needle/core/gauge';
import type { AsTyped, Plan } from '@firm-needle/core/procedure';
import { toCanonical } from '@firm-needle/core/quantity';
import { saturationPressure } from '@firm-needle/core/reckon';
import { fluidOf, isCompared, POINTS } from './points.js';

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

/** Everything is said in the unit of the gauge under test; temperatures as that trade reads them. */
export function unitOf(plan: Plan, setting: string): string {
  const unit = plan.plate['fullScale']?.unit ?? 'psi';
  if (setting !== 'air' && setting !== 'cylinder') return unit;
  return ['psi', 'psig', 'inHg', 'inH2O', 'ozf/in2'].includes(unit) ? 'degF' : 'degC';
}

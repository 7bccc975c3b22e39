import type { Gathering } from '../define/index.js';
import type { LadderPart } from '@firm-needle/core/family';
import type { JobView, Plan } from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';
import type { Limits } from '@firm-needle/core/verdict';
import { expectedSpan } from './judge.js';
import { isColumn, isCompared, POINTS } from './points.js';
import { parts } from './parts.js';
import { permitted, roomPressure, scaleOf } from './scale.js';

type PlateValues = Plan['plate'];

/** Bounds from the gauge's class: around each point, around no error, and of the hysteresis. */
export function limits(
  values: Readonly<Record<string, number>>,
  plate: PlateValues,
): Readonly<Record<string, Limits>> {
  const out: Record<string, Limits> = {};
  const scale = scaleOf(plate);
  if (!scale) return out;
  for (const { id } of POINTS) {
    const at = values[id];
    const e = at === undefined ? NaN : permitted(plate, at);
    if (at !== undefined && Number.isFinite(e)) {
      out[id] = { lower: at - e, upper: at + e };
      out['hysteresis'] = { upper: permitted(plate, scale.lower + scale.span / 2) };
    }
  }
  const middle = permitted(plate, scale.lower + scale.span / 2);
  if ('error' in values && Number.isFinite(middle)) out['error'] = { lower: -middle, upper: middle };
  return out;
}

/** A pump or a cylinder can bring the gauge to the end of its scale, never beyond by plan. */
export const worst = (plan: Plan, slot: string): number => {
  const scale = scaleOf(plan.plate);
  const top = scale ? scale.lower + scale.span : 0;
  return slot === 'test' ? (roomPressure(plan) ?? top) : top;
};

const LARGEST_COLUMN_PA = 25_000;

export function check(plan: Plan, _ambient: number, { judge: add }: Gathering): void {
  for (const p of parts.plate)
    if (p.required && plan.plate[p.id] === undefined)
      add(
        'refuse',
        'plate-missing',
        p.id,
        `${p.title} is not known yet.`,
        'Read it from the dial and type it.',
      );
  const scale = scaleOf(plan.plate);
  if (!scale) {
    if (plan.plate['fullScale'])
      add(
        'refuse',
        'scale-upside-down',
        'fullScale',
        'The scale ends at or below its beginning.',
        'Type the upper end of the scale above the lower one.',
      );
    return;
  }
  const unit = plan.plate['fullScale']?.unit ?? 'psi';
  const say = (pa: number): string => showWithUnit(pa, { unit, step: 0.1 });
  const top = scale.lower + scale.span;
  const room = roomPressure(plan);
  if (room !== undefined && room * 1.25 > top)
    add(
      'refuse',
      'cylinder-above-scale',
      'fullScale',
      `A cylinder of that refrigerant in a warm room stands near ${say(room)}; the scale ends at ${say(top)}.`,
      'Choose another refrigerant, or compare it with a better gauge.',
    );
  else if (room !== undefined && room - scale.lower < scale.span / 4)
    add(
      'warn',
      'cylinder-low-on-scale',
      'fullScale',
      `A cylinder at ${say(room)} tells only of the first quarter of this scale.`,
      'Compare it with a better gauge instead.',
    );
  if (isColumn(plan) && top > LARGEST_COLUMN_PA)
    add(
      'refuse',
      'column-too-short',
      'fullScale',
      `A water column for ${say(top)} would be ${(top / 9806.65).toFixed(1)} m high.`,
      'Compare it with a better gauge instead.',
    );
}

/** Points with their permitted bands; once the cylinder was measured, where the needle should stand. */
export function ladder(plan: Plan, job?: JobView): readonly LadderPart[] {
  const out: LadderPart[] = [];
  const scale = scaleOf(plan.plate);
  if (!scale) return out;
  const top = scale.lower + scale.span;
  out.push({ part: 'zone', lower: top, upper: Infinity, title: 'End of scale' });
  const zero = permitted(plan.plate, scale.lower);
  if (Number.isFinite(zero) && scale.lower <= 0) {
    out.push({ part: 'band', setting: 'zero', lower: -zero, upper: zero });
    out.push({ part: 'mark', setting: 'zero', value: 0, title: 'Zero', movable: false });
  }
  if (isCompared(plan))
    for (const { id, way } of POINTS) {
      const value = plan.values[id];
      const { lower, upper } = plan.limits[id] ?? {};
      if (way === 'down' || value === undefined || lower === undefined || upper === undefined) continue;
      out.push({ part: 'band', setting: id, lower, upper });
      out.push({ part: 'mark', setting: id, value, title: 'Point', movable: false });
    }
  const expected = job ? expectedSpan(job)?.value : roomPressure(plan);
  if (expected !== undefined && expected < top) {
    const e = permitted(plan.plate, expected);
    if (Number.isFinite(e))
      out.push({ part: 'band', setting: 'span', lower: expected - e, upper: expected + e });
    out.push({
      part: 'mark',
      setting: 'span',
      value: expected,
      title: job ? 'Expected' : 'In a room',
      movable: false,
    });
  }
  return out;
}

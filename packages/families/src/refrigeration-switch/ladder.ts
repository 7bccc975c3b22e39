import type { LadderPart } from '@firm-needle/core/family';
import type { Plan } from '@firm-needle/core/procedure';
import { read, hasLow, hasHigh } from './parts.js';
import { HP_DIFF } from './bounds.js';
import { said, SEA, floorOf } from './plan.js';

export const hpDiffOf = (plan: Pick<Plan, 'plate'>): number => plan.plate['hpDiff']?.value ?? HP_DIFF;
/** Two scales: the low side is a tenth of the high one. */
export function ladder(plan: Plan): readonly LadderPart[] {
  const { v, plate } = read(plan);
  const out: LadderPart[] = [];
  const round = (pa: number): string => said(pa).replace(/\.?0+(?=\s)/, '');
  const mark = (setting: 'lpStart' | 'lpStop' | 'hpStop', title: string, scale: string): void => {
    const value = v[setting];
    if (value === undefined) return;
    const { lower, upper } = plan.limits[setting] ?? {};
    if (lower !== undefined && upper !== undefined) out.push({ part: 'band', setting, lower, upper, scale });
    out.push({ part: 'mark', setting, value, title, movable: true, scale });
  };
  if (hasLow(plan)) {
    out.push({
      part: 'zone',
      // No pressure at all.
      lower: -SEA,
      upper: floorOf(plan),
      title: `Floor ${round(floorOf(plan))}`,
      below: true,
      scale: 'low',
    });
    mark('lpStop', 'Stops', 'low');
    mark('lpStart', 'Starts', 'low');
    if (v.lpStart !== undefined && v.lpStop !== undefined)
      out.push({
        part: 'bracket',
        setting: 'lpDiff',
        from: v.lpStop,
        to: v.lpStart,
        title: said(v.lpStart - v.lpStop),
        scale: 'low',
      });
  }
  if (hasHigh(plan)) {
    if (plate.psHigh !== undefined)
      out.push({
        part: 'zone',
        lower: plate.psHigh,
        upper: Infinity,
        title: `Allowed ${round(plate.psHigh)}`,
        scale: 'high',
      });
    if (plate.relief !== undefined)
      out.push({
        part: 'zone',
        lower: plate.relief,
        upper: Infinity,
        title: `Relief ${round(plate.relief)}`,
        scale: 'high',
      });
    mark('hpStop', 'High stop', 'high');
    if (v.hpStop !== undefined && v.hpReset !== undefined)
      out.push({
        part: 'bracket',
        setting: 'hpReset',
        from: v.hpReset,
        to: v.hpStop,
        title: said(v.hpStop - v.hpReset),
        scale: 'high',
      });
  }
  return out;
}

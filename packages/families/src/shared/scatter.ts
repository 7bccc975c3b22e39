import { scatterOf } from '@firm-needle/core/gauge';
import type { JobView } from '@firm-needle/core/procedure';

/** Fewer readings say nothing of how they scatter. */
const LEAST = 4;
/** Standard deviation over what readings that agree may lie apart. */
const PART = 0.8;

/**
 * Whether a setting was read often enough where it stands, and never comes twice. Nothing ends on one reading: what was taken early is
 * left out, and so is the one that lies farthest from the middle, for it may have been of another gauge.
 * @param from order of what it was last changed by
 */
export function scattersSince(job: JobView, setting: string, from: number): boolean {
  const since = job
    .readings(setting)
    .filter((r) => r.kept.order > from && r.kept.body.state !== 'early')
    .map((r) => r.value)
    .sort((a, b) => a - b);
  const middle = since[since.length >> 1] ?? NaN;
  const near = [...since].sort((a, b) => Math.abs(a - middle) - Math.abs(b - middle)).slice(0, -1);
  if (near.length < LEAST) return false;
  const { squares, dof } = scatterOf(near);
  return Math.sqrt(squares / dof) > PART * job.agreement(setting);
}

/** Readings of each of two settings, fewer of which tell nothing of a cycle that was not as the others. */
const CYCLES = 3;
/** So many times what readings that agree may lie apart is far off. */
const FAR = 2;

/**
 * Whether one cycle was not as the others: both its points lie far from where they lie at other times. One may have been of another
 * gauge, or a slip; two, one after the other, are the switch.
 * @param from order of what it was last changed by
 */
export function cycleOff(job: JobView, pair: readonly [string, string], from: number): boolean {
  const far = pair.map((setting) => {
    const since = job.readings(setting).filter((r) => r.kept.order > from && r.kept.body.state !== 'early');
    const values = since.map((r) => r.value).sort((a, b) => a - b);
    const middle = values[values.length >> 1] ?? NaN;
    const off = FAR * job.agreement(setting);
    return since.length < CYCLES ? [] : since.filter((r) => Math.abs(r.value - middle) > off);
  });
  const all = pair.flatMap((setting) => job.readings(setting).map((r) => r.kept.order)).sort((a, b) => a - b);
  const [a = [], b = []] = far.map((x) => x.map((r) => all.indexOf(r.kept.order)));
  return a.some((i) => b.some((k) => Math.abs(i - k) === 1));
}

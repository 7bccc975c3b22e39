import { describe, expect, it } from '@jest/globals';
import type { Family, LadderPart } from '@firm-needle/core/family';
import { loadFamily } from '@firm-needle/families';
import { openJob, psi, reading } from '../../testing.tsx';
import { axesOf, axisAt } from '@firm-needle/core/picture';

/** A kind that is set by two pressures far apart, on the settings of one that is not. */
async function twoAxes() {
  const job = await openJob();
  const parts: readonly LadderPart[] = [
    { part: 'mark', setting: 'cutIn', value: psi(43), title: 'In', movable: true },
    { part: 'band', setting: 'cutIn', lower: psi(42), upper: psi(44) },
    { part: 'mark', setting: 'precharge', value: psi(41), title: 'Air', movable: true, scale: 'air' },
    { part: 'zone', lower: psi(100), upper: Infinity, title: 'Limit', scale: 'air' },
  ];
  return { job, family: job.family, plan: job.view.plan, parts };
}

describe('the axes of a ladder', () => {
  it('are one where no part names any, with everything on it', async () => {
    const { family, plan } = await twoAxes();
    const parts = family.ladder(plan);
    const axes = axesOf(family, plan, parts);
    expect(axes).toHaveLength(1);
    expect(axes[0]?.parts).toEqual(parts);
    expect(axes[0]?.unit).toBe('psi');
    expect(axesOf(family, plan, [])).toHaveLength(1);
  });

  it('are several where parts name them, each with its own, in the order in which they come', async () => {
    const { family, plan, parts } = await twoAxes();
    const axes = axesOf(family, plan, parts);
    expect(axes.map((a) => [a.id, a.parts.length])).toEqual([
      ['pressure', 2],
      ['air', 2],
    ]);
    expect(axes[1]?.factor).toBeCloseTo(psi(1), 6);
  });

  it('have the unit of what stands on them', async () => {
    const spa: Family = await loadFamily('spa-flow-switch');
    const { job } = await twoAxes();
    const axes = axesOf(spa, job.view.plan, [
      { part: 'mark', setting: 'wheel', value: 0, title: 'Wheel', movable: false },
      { part: 'mark', setting: 'delay', value: 3, title: 'Delay', movable: false, scale: 'time' },
    ]);
    expect(axes.map((a) => a.unit)).toEqual(['click', 's']);
  });

  it('are looked at by what is watched, else by what was read last, else the first', async () => {
    const { family, plan, parts, job } = await twoAxes();
    const axes = axesOf(family, plan, parts);
    expect(axisAt(axes, family, job.view, 'air')?.id).toBe('air');
    expect(axisAt(axes, family, job.view, 'system')?.id).toBe('pressure');
    expect(axisAt(axes, family, job.view, undefined)?.id).toBe('pressure');
    const read = await openJob([reading('precharge', 41, 'found-precharge', 'found', '1')]);
    expect(axisAt(axes, family, read.view, undefined)?.id).toBe('air');
  });
});

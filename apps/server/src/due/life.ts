import type { LifePoint } from '@firm-needle/core/history';
import type { FittedDevice, JobResult } from '../database/models.js';

/** One setting over all signed visits, the oldest first. */
export interface SettingLife {
  readonly setting: string;
  readonly title: string;
  readonly unit: string;
  readonly dimension: string;
  /** The smallest step worth showing, in `unit`. */
  readonly step: number;
  readonly points: readonly (LifePoint & { readonly job: string })[];
}

/** Which device was fitted on a day; an undated past belongs to the oldest. */
function deviceOn(day: string, devices: readonly FittedDevice[]): string | undefined {
  const sorted = [...devices].sort((a, b) => a.fittedOn.localeCompare(b.fittedOn));
  return (sorted.filter((d) => d.fittedOn <= day).at(-1) ?? sorted[0])?.id;
}

/** Signed results as the life of each setting that was measured. Practice is never among results; unproved figures are no history. */
export function lifeOf(
  signed: readonly JobResult[],
  devices: readonly FittedDevice[],
): readonly SettingLife[] {
  const lives = new Map<
    string,
    { head: Omit<SettingLife, 'points'>; points: (LifePoint & { job: string })[] }
  >();
  const inOrder = [...signed]
    .filter((r) => r.signedAt && r.objections.length === 0)
    .sort((a, b) => Number(a.signedAt) - Number(b.signedAt));
  for (const r of inOrder) {
    const day = r.signedAt?.toISOString().slice(0, 10) ?? '';
    const device = deviceOn(day, devices);
    for (const row of r.result.rows) {
      if (!row.found && !row.left) continue;
      const { setting, title, unit, dimension, step = 0.1 } = row;
      const known = lives.get(setting);
      const points = known?.points ?? [];
      points.push({
        day,
        job: r.jobId,
        ...(device === undefined ? {} : { device }),
        ...(row.found ? { found: row.found.value } : {}),
        ...(row.left ? { left: row.left.value } : {}),
      });
      lives.set(setting, { head: { setting, title, unit, dimension, step }, points });
    }
  }
  return [...lives.values()].map(({ head, points }) => ({ ...head, points }));
}

import {
  foundOn,
  leaving,
  settingDrift,
  surely,
  type LifeDrift,
  type Leaving,
} from '@firm-needle/core/history';
import type { Plan } from '@firm-needle/core/procedure';
import type { Limits } from '@firm-needle/core/verdict';
import type { Life } from '@firm-needle/contract';
import { fromCanonical, intervalFromCanonical, symbolOf } from '@firm-needle/core/quantity';
import { format, parseISO } from 'date-fns';

/** One setting's life with what follows from it. */
export interface SettingStory {
  readonly life: Life['settings'][number];
  readonly target: number | undefined;
  readonly limits: Limits;
  readonly drift: LifeDrift | undefined;
  readonly leaving: Leaving | undefined;
}

/** The settings that a plan has targets or limits for, as they went. */
export function storiesOf(life: Life, plan: Plan | null): readonly SettingStory[] {
  return life.settings.flatMap((s) => {
    const limits = plan?.limits[s.setting] ?? {};
    const target = plan?.values[s.setting];
    if (target === undefined && limits.lower === undefined && limits.upper === undefined) return [];
    const drift = settingDrift(s.points);
    return [{ life: s, target, limits, drift, leaving: drift && leaving(drift, limits) }];
  });
}

const month = (day: string): string => format(parseISO(day), 'MMMM yyyy');

/** What the drift of a setting comes to, in a sentence or two. */
export function sayDrift({ life, drift, leaving: leaves, limits }: SettingStory): string {
  if (!drift) return 'Two visits to the same device are needed before a drift can be said.';
  const digits = Math.max(0, Math.ceil(-Math.log10(life.step / 20)));
  const figure = (v: number): string => intervalFromCanonical(v, life.unit).toFixed(digits).replace('-', '−');
  const half = surely(drift);
  const rate = `${figure(drift.perYear)}${half === undefined ? '' : ` ± ${figure(half)}`} ${symbolOf(life.unit)} a year`;
  const from = `from ${drift.n === 1 ? 'one time' : `${drift.n} times`} between visits`;
  if (half === undefined) return `${rate}, ${from}: too few to be sure of it.`;
  if (limits.lower === undefined && limits.upper === undefined) return `${rate}, ${from}.`;
  if (leaves?.sure)
    return leaves.day
      ? `${rate}, ${from}. It leaves its limits about ${month(leaves.day)}${leaves.notBefore && leaves.notBefore > drift.from.day ? `, not before ${month(leaves.notBefore)}` : ''}.`
      : `${rate}, ${from}: slow, and within its limits for ten years and more.`;
  return `${rate}, ${from}: no sure drift.${leaves?.notBefore && leaves.notBefore > drift.from.day ? ` It is not outside before ${month(leaves.notBefore)}.` : ''}`;
}

const DAY_MS = 86400e3;

/** One mark on the chart; times in ms, values in the setting's own unit. */
export interface ChartPoint {
  readonly t: number;
  readonly found?: number;
  readonly left?: number;
  /** What was left to what was found next, while the device stayed. */
  readonly went?: number;
  /** Where it will be found, 95 %. */
  readonly shade?: readonly [number, number];
}

const timeOf = (day: string): number => Date.parse(day);

/** The marks and the shade of one setting; as far ahead as the chart goes. */
export function chartOf({ life, drift }: SettingStory, until: string): readonly ChartPoint[] {
  const shown = (v: number): number => fromCanonical(v, life.unit);
  const marks: ChartPoint[] = [];
  life.points.forEach((p, i) => {
    const before = life.points[i - 1];
    if (before && before.device !== p.device) marks.push({ t: timeOf(p.day) - 2 });
    if (p.found !== undefined)
      marks.push({ t: timeOf(p.day) - 1, found: shown(p.found), went: shown(p.found) });
    const left = p.left ?? p.found;
    // Between its own found and left there is no wandering: the dotted line begins anew.
    marks.push({ t: timeOf(p.day) });
    if (left !== undefined) marks.push({ t: timeOf(p.day) + 1, left: shown(left), went: shown(left) });
  });
  if (!drift) return marks;
  const from = timeOf(drift.from.day);
  const steps = 8;
  for (let i = 0; i <= steps; i++) {
    const t = from + ((timeOf(until) - from) * i) / steps;
    if (i > 0 && t <= from) break;
    const { value, half } = foundOn(drift, new Date(t).toISOString().slice(0, 10));
    if (half !== undefined) marks.push({ t: t + 2, shade: [shown(value - half), shown(value + half)] });
  }
  return marks;
}

/** How far the charts go: half a year beyond what is due, or a year from the last visit. */
export function untilOf(life: Life, due: string | null): string {
  const last = life.settings
    .flatMap((s) => s.points.map((p) => p.day))
    .sort()
    .at(-1);
  const ends = [due, last && new Date(timeOf(last) + 400 * DAY_MS).toISOString().slice(0, 10)].filter(
    (d): d is string => Boolean(d),
  );
  return ends.sort().at(-1) ?? new Date().toISOString().slice(0, 10);
}

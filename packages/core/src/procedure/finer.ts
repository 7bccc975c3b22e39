import { advise, isOpen, type Aim } from '../advisor/index.js';
import { insidePlain } from '../verdict/index.js';
import type { JobView } from './job.js';

/** A setting's doubt is small beside its limits where it is less than this part of half their width. */
const SMALL = 0.5;
/** A further movement is worth its while where it will, this surely, bring everything to stand surely inside [an aim of our own]. */
const WORTH = 0.8;
/** The answer that what stands near its limit is left so, at the turn that would mend it or wherever else it is given. */
export const LEFT_NEAR = 'left-near';

/**
 * The aims of an adjuster drawn in by the doubt of each setting, where a further movement is worth its while: everything it is aimed at
 * was moved, is proved, stands inside its limits but not all of it surely, and one movement would very likely mend that. Once only:
 * what that movement does not bring is left near. Undefined where plain limits will do.
 */
export function finerAims(job: JobView, adjuster: string): readonly Aim[] | undefined {
  if (job.rule !== 'guarded') return undefined;
  const turns = job.state.turns.filter((t) => t.body.adjuster === adjuster);
  const last = turns.at(-1)?.order;
  if (
    last === undefined ||
    saidNear(job, last) ||
    turns.slice(1).some((t) => wasInside(job, adjuster, t.order))
  )
    return undefined;
  const aims = job.aims(adjuster);
  const aimed = aims.filter((a) => !isOpen(a));
  const standing: Record<string, number> = {};
  const finer: Aim[] = [];
  let near = false;
  for (const aim of aims) {
    if (isOpen(aim)) {
      finer.push(aim);
      continue;
    }
    const f = job.figure(aim.setting, 'left');
    if (!f || job.due(aim.setting) || !job.proved(aim.setting) || !job.landed(aim.setting)) return undefined;
    const { U } = f.budget;
    if (!(U < (SMALL * (aim.upper - aim.lower)) / 2)) return undefined;
    near ||= job.verdict(aim.setting, 'left')?.word === 'near';
    standing[aim.setting] = f.value;
    finer.push({ ...aim, lower: aim.lower + U, upper: aim.upper - U });
  }
  if (!near || aimed.length === 0) return undefined;
  const { quantum, largest, strict } = job.adjuster(adjuster);
  const advice = advise(job.belief(adjuster), finer, { quantum, largest, strict }, standing);
  return advice.stop === null && advice.lands >= WORTH ? finer : undefined;
}

/** It was said since then that what stands near its limit is left so. */
const saidNear = (job: JobView, since: number): boolean =>
  job.state.observations.some((o) => o.body.answer === LEFT_NEAR && o.order > since);

/** All that an adjuster is aimed at stood inside its plain limits when it was turned: that movement was for being sure. */
function wasInside(job: JobView, adjuster: string, order: number): boolean {
  return job
    .aims(adjuster)
    .filter((a) => !isOpen(a))
    .every(({ setting }) => {
      const before = job.readings(setting).findLast((r) => r.kept.order < order);
      return before !== undefined && insidePlain(before.value, job.limits(setting, 'left'));
    });
}

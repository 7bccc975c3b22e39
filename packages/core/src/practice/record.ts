import * as v from 'valibot';
import { canonicalJson } from '../formats/index.js';
import { accept, refuse, type Result } from '../result.js';
import { startedOn, type Deed, type Draw, type Exercise, type RunRecord } from './run.js';

const number = v.pipe(v.number(), v.finite());
const id = v.pipe(v.string(), v.minLength(1), v.maxLength(100));
const t = v.pipe(number, v.minValue(0));
const bench = v.optional(v.literal(true));
const deed = v.variant('do', [
  v.object({ do: v.literal('set'), t, id, value: number, bench }),
  v.object({ do: v.literal('turn'), t, id, value: number, bench }),
  v.object({ do: v.literal('zero'), t, id }),
  v.object({ do: v.literal('fit'), t, id, value: v.picklist([0, 1]) }),
]);
/** More has nobody done in one run. */
const MOST_DEEDS = 20_000;
const deeds = v.pipe(v.array(deed), v.maxLength(MOST_DEEDS));

/** Reads deeds that came from outside, in the order of their times. */
export function readDeeds(raw: unknown): Result<readonly Deed[]> {
  const read = v.safeParse(deeds, raw);
  if (!read.success)
    return refuse('deeds', 'What the hands did cannot be read.', {
      where: (read.issues[0].path ?? []).map((p) => String(p.key)).join('.') || 'deeds',
      bound: `at most ${MOST_DEEDS}, each with its time in seconds`,
    });
  return read.output.some((d, i) => d.t < (read.output[i - 1]?.t ?? 0))
    ? refuse('deeds', 'What the hands did is not in the order of its times.', { where: 'deeds' })
    : accept(read.output as readonly Deed[]);
}

/**
 * Whether a run was worked on what was drawn: begun as practice, on the draw's own plan and gauges, and by one person.
 * @param author who says so
 */
export function ownRun(ex: Exercise, draw: Draw, { events }: RunRecord, author: string): Result<true> {
  const first = events[0]?.body;
  if (first?.kind !== 'started' || first.mode !== 'practice')
    return refuse('not-practice', 'The log does not begin as practice.', { where: 'events.0' });
  const drawn = startedOn(ex, draw);
  const same = (a: unknown, b: unknown): boolean => canonicalJson(a) === canonicalJson(b);
  if (first.family !== drawn.family || !same(first.plan, drawn.plan) || !same(first.gauges, drawn.gauges))
    return refuse('not-the-draw', 'The run was worked on something else than what was drawn.', {
      where: 'events.0',
    });
  const foreign = events.findIndex((e) => e.author !== author);
  return foreign >= 0
    ? refuse('not-yours', 'Somebody else wrote in this run.', { where: `events.${foreign}` })
    : accept(true);
}

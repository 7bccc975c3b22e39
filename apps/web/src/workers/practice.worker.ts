import {
  debriefOf,
  drawFrom,
  exerciseOf,
  luckOf,
  sealed,
  startedOn,
  unsealed,
  type Debrief,
  type Draw,
  type Exercise,
  type LevelId,
  type Luck,
  type RunRecord,
} from '@firm-needle/core/practice';
import type { StartedBody } from '@firm-needle/core/procedure';
import { expectOk } from '@firm-needle/core/result';
import { loadFamily, loadKit } from '@firm-needle/families';
import { expose } from 'comlink';

/** What one practises on. */
export interface Bench {
  readonly family: string;
  readonly variant: string;
}

/** What is asked to be drawn. */
export interface Drawing extends Bench {
  readonly level: LevelId;
  readonly lesson?: string;
  /** Drawn already: a test that was set, the same seed again. */
  readonly sealed?: string;
}

/** What may be known of a draw: never what is hidden. */
export interface Brief {
  readonly sealed: string;
  readonly started: StartedBody;
  readonly story: readonly string[];
}

const exerciseFor = async ({ family, variant }: Bench): Promise<Exercise> =>
  exerciseOf(await loadFamily(family), await loadKit(family), variant);

const known = new Map<string, Promise<{ readonly ex: Exercise; readonly draw: Draw }>>();

/** What was drawn; the same text is drawn from once. */
export function drawnFrom(
  bench: Bench,
  text: string,
): Promise<{ readonly ex: Exercise; readonly draw: Draw }> {
  const key = `${bench.family} ${bench.variant} ${text}`;
  let found = known.get(key);
  if (!found) {
    found = exerciseFor(bench).then((ex) => ({ ex, draw: drawFrom(ex, expectOk(unsealed(text))) }));
    known.set(key, found);
    found.catch(() => known.delete(key));
  }
  return found;
}

/** Draws what is hidden, and tells a run afterwards: nothing of it is known outside before. */
class PracticeHost {
  async draw({ level, lesson, ...asked }: Drawing): Promise<Brief> {
    const text =
      asked.sealed ??
      sealed({
        seed: crypto.getRandomValues(new Uint32Array(1))[0] ?? 0,
        level,
        ...(lesson === undefined ? {} : { lesson }),
      });
    const { ex, draw } = await drawnFrom(asked, text);
    return { sealed: text, started: startedOn(ex, draw), story: draw.story };
  }

  async debrief(record: RunRecord): Promise<Debrief> {
    const { ex, draw } = await drawnFrom(record, record.sealed);
    return debriefOf(ex, draw, record);
  }

  async luck(record: RunRecord): Promise<Luck> {
    const { ex, draw } = await drawnFrom(record, record.sealed);
    return luckOf(ex, draw);
  }
}

export type { PracticeHost };
expose(new PracticeHost());

// A run is judged from its draw, its log and its deeds: the same core as on the device, in a thread of its own, so that nobody waits for it.
import { parentPort, Worker } from 'node:worker_threads';
import {
  debriefOf,
  drawFrom,
  exerciseOf,
  ownRun,
  readDeeds,
  unsealed,
  type RunRecord,
} from '@firm-needle/core/practice';
import { refuse, type Refusal, type Result } from '@firm-needle/core/result';
import { familyExists, loadFamily, loadKit } from '@firm-needle/families';
import type { Judged } from './models.js';

/** Longer does no run take to be judged, ms. */
const MOST_MS = 60_000;

interface Asked {
  readonly record: RunRecord;
  readonly author: string;
}

/** Judges a run in this very thread. */
export async function judge({ record: raw, author }: Asked): Promise<Result<Judged>> {
  if (!familyExists(raw.family))
    return refuse('family', `There is no kind "${raw.family}".`, { where: 'family' });
  const deeds = readDeeds(raw.deeds);
  if (!deeds.ok) return deeds;
  const seed = unsealed(raw.sealed);
  if (!seed.ok) return seed;
  if (seed.value.level !== raw.level || seed.value.lesson !== raw.lesson)
    return refuse('not-the-draw', 'It was drawn for another level, or another lesson.', { where: 'level' });
  const kit = await loadKit(raw.family);
  if (!kit.variants.some((v) => v.name === raw.variant))
    return refuse('variant', `There is no installation "${raw.variant}".`, { where: 'variant' });
  const ex = exerciseOf(await loadFamily(raw.family), kit, raw.variant);
  const draw = drawFrom(ex, seed.value);
  const record: RunRecord = { ...raw, deeds: deeds.value };
  const own = ownRun(ex, draw, record, author);
  if (!own.ok) return own;
  const told = debriefOf(ex, draw, record);
  return {
    ok: true,
    value: {
      word: told.word,
      unlucky: told.unlucky,
      k: told.k ?? null,
      sentence: told.sentence,
      missed: told.missed,
      grave: told.acts.filter((a) => a.severity === 3).length,
      sure: told.sure ? { c: told.sure.c, right: told.sure.right } : null,
    },
  };
}

const NOT_JUDGED: Refusal = {
  code: 'not-judged',
  message: 'This run cannot be judged: its log or its deeds are none that could have been made.',
  remedy: 'It stays on the device. Begin another.',
};

const HERE = import.meta.url;

/** Judges a run in a thread of its own; whatever goes wrong there is a refusal here. */
export function judged(asked: Asked): Promise<Result<Judged>> {
  // Unbuilt, in the tests, there is no program that a thread could run.
  if (!HERE.endsWith('.js')) return judge(asked).catch(() => ({ ok: false, refusal: NOT_JUDGED }));
  return new Promise((resolve) => {
    const worker = new Worker(new URL(HERE), { workerData: 'judge' });
    const end = (result: Result<Judged>): void => {
      clearTimeout(timer);
      resolve(result);
      void worker.terminate();
    };
    const timer = setTimeout(() => end({ ok: false, refusal: NOT_JUDGED }), MOST_MS);
    worker.once('message', end);
    worker.once('error', () => end({ ok: false, refusal: NOT_JUDGED }));
    worker.postMessage(asked);
  });
}

parentPort?.once('message', (asked: Asked) => {
  void judge(asked)
    .catch((): Result<Judged> => ({ ok: false, refusal: NOT_JUDGED }))
    .then((result) => parentPort?.postMessage(result));
});

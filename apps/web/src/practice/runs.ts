import type { Help, LevelId, RunKind, RunRecord } from '@firm-needle/core/practice';
import type { PracticeRun } from '@firm-needle/contract';
import { v7 as uuid } from 'uuid';
import { request } from '../store/http.ts';
import { withDb, type KeptRun } from '../sync/db.ts';
import { chained } from '../sync/logSession.ts';
import { JobLog } from '@firm-needle/core/procedure';
import { SOURCES } from '../live/source.ts';
import { practiceHost } from './host.ts';

/** What somebody chose to practise. */
export interface Chosen {
  readonly kind: RunKind;
  readonly family: string;
  readonly variant: string;
  readonly level: LevelId;
  readonly help: Help;
  readonly lesson?: string;
  readonly sealed?: string;
  readonly test?: string;
}

/** Draws a run and keeps it on this device; works with no signal. @returns its id */
export async function beginRun(user: string, name: string, chosen: Chosen): Promise<string> {
  const { kind, family, variant, level, help, lesson, test } = chosen;
  const { sealed, started, story } = await practiceHost().draw(chosen);
  const id = uuid();
  const record: RunRecord = {
    id,
    kind,
    family,
    variant,
    level,
    help,
    sealed,
    ...(lesson === undefined ? {} : { lesson }),
    ...(test === undefined ? {} : { test }),
    startedAt: new Date().toISOString(),
    events: chained(new JobLog(id), user, [{ ...started, technician: name, source: SOURCES.rig }]),
    deeds: [],
  };
  await withDb((db) => db.put('practice', { id, user, record, story, sent: 0 }));
  return id;
}

/** Forgets a run that was not to be begun. */
export const dropRun = (id: string): Promise<void> => withDb((db) => db.delete('practice', id));

/** Somebody's runs on this device, newest first. */
export const runsHere = async (user: string): Promise<readonly KeptRun[]> =>
  (await withDb((db) => db.getAll('practice')))
    .filter((r) => r.user === user)
    .sort((a, b) => b.record.startedAt.localeCompare(a.record.startedAt));

let sending: Promise<void> | undefined;

/** Sends what is over and was not sent; what cannot be sent now waits. @returns whether anything went */
export function sendRuns(user: string): Promise<void> {
  sending ??= send(user).finally(() => (sending = undefined));
  return sending;
}

async function send(user: string): Promise<void> {
  for (const run of await runsHere(user)) {
    if (!run.record.endedAt || run.sent === 1 || run.refused) continue;
    const answer = await request<PracticeRun>('PUT', `/practice/runs/${run.id}`, run.record);
    if (answer.ok) await withDb((db) => db.put('practice', { ...run, sent: 1 }));
    else if (answer.problem.status >= 400 && answer.problem.status < 500 && answer.problem.status !== 401)
      await withDb((db) => db.put('practice', { ...run, refused: answer.problem }));
    else return;
  }
}

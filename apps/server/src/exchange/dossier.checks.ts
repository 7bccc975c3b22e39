// What must hold of a dossier besides its schema, before anything of it is written.
import { verifyChain } from '@firm-needle/core/formats';
import { Problem } from '../common/problem.js';
import { PARTS } from './dossier.parts.js';

export type Value = string | number | boolean | null | object;
export type Row = Readonly<Record<string, Value>>;
/** The rows of each part. */
export type Dossier = Readonly<Record<string, readonly Row[]>>;

/** Why a dossier is not taken in. */
export const wrong = (field: string, message: string): Problem =>
  new Problem(422, 'not-valid', `The dossier is not as it should be: ${field} ${message}.`, {
    errors: [{ field, message }],
    remedy: 'Take it out of the other installation again.',
  });

/** Every chain holds, is as long as its job says, and ends where it was sealed; every entry is the one its text says. */
export function chainsHold(dossier: Dossier): void {
  const byJob = new Map<string, Row[]>();
  for (const e of dossier['events'] ?? []) {
    const job = String(e['job_id']);
    const list = byJob.get(job);
    if (list) list.push(e);
    else byJob.set(job, [e]);
  }
  for (const job of dossier['jobs'] ?? []) {
    const id = String(job['id']);
    const events = (byJob.get(id) ?? []).sort((a, b) => Number(a['seq']) - Number(b['seq']));
    byJob.delete(id);
    const check = verifyChain(
      events.map((e) => ({ seq: Number(e['seq']), text: String(e['text']), hash: String(e['hash']) })),
    );
    if (!check.whole) throw changed(id, check.at, check.because);
    if (check.length !== job['seq'])
      throw changed(
        id,
        check.length + 1,
        `The job counts ${String(job['seq'])} events; ${check.length} are here.`,
      );
    if (check.length > 0 && check.head !== job['head'])
      throw changed(id, check.length, 'The last event is not the one that was sealed.');
    for (const e of events) {
      const said = textOf(String(e['text']));
      if (said === undefined || said.id !== e['id'] || said.job !== id || said.body?.kind !== e['kind'])
        throw changed(id, Number(e['seq']), 'The event is not the one that its text says.');
    }
  }
  const [stray] = byJob.keys();
  if (stray !== undefined) throw wrong('events', `holds events of a job ${stray} that is not in it`);
}

function textOf(text: string): { id?: unknown; job?: unknown; body?: { kind?: unknown } } | undefined {
  try {
    return JSON.parse(text) as { id?: unknown; job?: unknown; body?: { kind?: unknown } };
  } catch {
    return undefined;
  }
}

const changed = (job: string, at: number, because: string): Problem =>
  new Problem(
    422,
    'record-changed',
    `The record of job ${job} was changed at entry ${at}: ${because} Nothing was taken in.`,
    {
      remedy: 'Take the dossier out of the other installation again.',
    },
  );

/** What rows name is in the dossier: nothing of it hangs on another site. */
export function namesHold(dossier: Dossier): void {
  const ids = (name: string): ReadonlySet<Value | undefined> =>
    new Set((dossier[name] ?? []).map((r) => r['id']));
  const there: Readonly<Record<string, ReadonlySet<Value | undefined>>> = {
    site_id: ids('sites'),
    equipment_id: ids('equipment'),
    control_id: ids('controls'),
    to_id: ids('controls'),
    job_id: ids('jobs'),
    gauge_id: ids('gauges'),
    visit_id: ids('visits'),
    trace_id: ids('traces'),
    author_id: ids('people'),
    opened_by: ids('people'),
    created_by: ids('people'),
    technician_id: ids('people'),
  };
  for (const p of PARTS)
    for (const row of dossier[p.part] ?? [])
      for (const { name } of p.columns) {
        const known = there[name];
        const value = row[name];
        if (known && value !== null && !known.has(value))
          throw wrong(p.part, `names a ${name} that is not in it`);
      }
}

/** What stands on a frozen sheet, as far as it is read: a record without them could not be shown. */
const SHEET_PARTS = ['rows', 'turns', 'net', 'gauges', 'findings'];

export function sheetsHold(results: readonly Row[]): void {
  for (const r of results) {
    const sheet = r['result'] as Readonly<Record<string, unknown>> | null;
    if (!sheet || SHEET_PARTS.some((p) => !Array.isArray(sheet[p])))
      throw wrong('results', `holds a sheet of job ${String(r['job_id'])} that is none`);
  }
}
